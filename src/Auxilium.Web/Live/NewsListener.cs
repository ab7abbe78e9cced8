using System.Collections.Concurrent;
using System.Globalization;
using Auxilium.Storage.Notices;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Microsoft.AspNetCore.SignalR;
using Npgsql;

namespace Auxilium.Web.Live;

/// <summary>
/// Listens to what every process says through the database, and passes it on to the pages that are open here. When the connection is
/// lost it is made anew, and whatever may have been missed is looked at.
/// </summary>
internal sealed class NewsListener(
    IConfiguration configuration,
    LivePlans plans,
    Presence presence,
    PlanMemory memory,
    TaskTalk talk,
    Proposals proposals,
    NoticeBook notices,
    OrganisationClock organisation,
    IHubContext<PlanHub> hub,
    ILogger<NewsListener> logger
) : BackgroundService
{
    private static readonly TimeSpan Again = TimeSpan.FromSeconds(1);
    private static readonly TimeSpan Beat = TimeSpan.FromSeconds(15);

    /// <summary>Arrivals, departures and moves are sent together, at most this often.</summary>
    private static readonly TimeSpan Gather = TimeSpan.FromMilliseconds(250);

    private readonly ConcurrentDictionary<Guid, bool> _gathering = new();

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var beating = BeatAsync(stoppingToken);
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await ListenAsync(stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                break;
            }
            catch (Exception e)
                when (e is NpgsqlException or IOException or System.Net.Sockets.SocketException or InvalidOperationException)
            {
                logger.LogWarning("The database does not say what is new; trying again: {Message}", e.Message);
                await Task.Delay(Again, stoppingToken).ContinueWith(_ => { }, TaskScheduler.Default);
            }
        }
        await beating;
    }

    private async Task ListenAsync(CancellationToken cancel)
    {
        var settings = new NpgsqlConnectionStringBuilder(configuration["DB"])
        {
            Pooling = false,
            KeepAlive = 10,
            ApplicationName = "auxilium news",
        };
        await using var connection = new NpgsqlConnection(settings.ConnectionString);
        await connection.OpenAsync(cancel);
        connection.Notification += (_, news) => _ = TakeAsync(news.Payload, cancel);
        await using (var command = new NpgsqlCommand($"listen {PlanNews.Channel}", connection))
            await command.ExecuteNonQueryAsync(cancel);
        plans.LookAtAll();
        while (true)
            await connection.WaitAsync(cancel);
    }

    private async Task TakeAsync(string news, CancellationToken cancel)
    {
        try
        {
            var words = news.Split(' ');
            switch (words)
            {
                case [PlanNews.Plan, var id, ..] when Guid.TryParse(id, out var plan):
                    plans.Look(plan);
                    break;
                case [PlanNews.Who, var id] when Guid.TryParse(id, out var project) && presence.OpenHere.Contains(project):
                    await TellWhoAsync(project, cancel);
                    break;
                case [PlanNews.Talk, var id, var task] when Guid.TryParse(id, out var project) && presence.OpenHere.Contains(project):
                    var counts = (await talk.CountsAsync(project, cancel)).FirstOrDefault(c => c.Task == task);
                    await hub
                        .Clients.Group(LivePlans.GroupOf(project))
                        .SendAsync("talk", task, counts?.Comments ?? 0, counts?.Files ?? 0, cancel);
                    break;
                // That there is something new, and not what: whoever may know asks for it.
                case [PlanNews.Money, var id, var version] when Guid.TryParse(id, out var project) && presence.OpenHere.Contains(project):
                    await hub
                        .Clients.Group(LivePlans.GroupOf(project))
                        .SendAsync("money", int.Parse(version, CultureInfo.InvariantCulture), cancel);
                    break;
                case [PlanNews.Proposals, var id] when Guid.TryParse(id, out var project) && presence.OpenHere.Contains(project):
                    await hub
                        .Clients.Group(LivePlans.GroupOf(project))
                        .SendAsync("proposals", await proposals.CountAsync(project, cancel), cancel);
                    break;
                case [PlanNews.Notice, var person]:
                    await hub
                        .Clients.Group(LivePlans.PersonGroupOf(person))
                        .SendAsync("notice", await notices.UnreadAsync(person, cancel), cancel);
                    break;
                case [PlanNews.Rights, var person]:
                    await presence.SendAwayAsync(connected => connected.Person == person, cancel);
                    break;
                case [PlanNews.Closed, var id] when Guid.TryParse(id, out var project):
                    await presence.SendAwayAsync(connected => connected.Project == project, cancel);
                    break;
                case [PlanNews.Organisation]:
                    await organisation.RefreshAsync(cancel);
                    break;
                case [PlanNews.People]:
                    memory.Forget();
                    break;
            }
        }
        catch (Exception e) when (e is NpgsqlException or OperationCanceledException or InvalidOperationException)
        {
            logger.LogWarning("News could not be passed on: {Message}", e.Message);
        }
    }

    private async Task TellWhoAsync(Guid project, CancellationToken cancel)
    {
        if (!_gathering.TryAdd(project, true))
            return;
        await Task.Delay(Gather, cancel);
        _gathering.TryRemove(project, out _);
        await hub.Clients.Group(LivePlans.GroupOf(project)).SendAsync("who", await presence.AtAsync(project, cancel), cancel);
    }

    private async Task BeatAsync(CancellationToken cancel)
    {
        using var timer = new PeriodicTimer(Beat);
        try
        {
            while (await timer.WaitForNextTickAsync(cancel))
            {
                try
                {
                    await presence.BeatAsync(cancel);
                    plans.KeepOnly(presence.OpenHere);
                }
                catch (Exception e) when (e is NpgsqlException or InvalidOperationException)
                {
                    logger.LogWarning("Who is there could not be said: {Message}", e.Message);
                }
            }
        }
        catch (OperationCanceledException)
        {
            // The process stops.
        }
    }
}
