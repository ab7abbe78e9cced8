using Microsoft.AspNetCore.SignalR;

namespace Auxilium.Web.Live;

/// <summary>
/// When a day of the organisation ends, tasks become overdue and late to start without anybody having changed a plan: open pages are
/// told to ask for it anew.
/// </summary>
internal sealed class Midnight(Today today, Presence presence, TimeProvider clock, IHubContext<PlanHub> hub, ILogger<Midnight> logger)
    : BackgroundService
{
    /// <summary>Asked this often, so that the day turns promptly even if clocks were set or the computer slept.</summary>
    private static readonly TimeSpan Often = TimeSpan.FromSeconds(5);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var day = today.Date;
        using var timer = new PeriodicTimer(Often, clock);
        try
        {
            while (await timer.WaitForNextTickAsync(stoppingToken))
            {
                if (today.Date == day)
                    continue;
                day = today.Date;
                try
                {
                    foreach (var project in presence.OpenHere)
                        await hub.Clients.Group(LivePlans.GroupOf(project)).SendAsync("day", stoppingToken);
                }
                catch (Exception e) when (e is not OperationCanceledException)
                {
                    logger.LogWarning("Open pages could not be told that it is another day: {Message}", e.Message);
                }
            }
        }
        catch (OperationCanceledException)
        {
            // The process stops.
        }
    }
}
