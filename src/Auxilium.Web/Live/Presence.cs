using System.Collections.Concurrent;
using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Auxilium.Web.Pages.Shared;

namespace Auxilium.Web.Live;

/// <summary>
/// Who has which plan open, in every process: kept in the database with the time they were seen last, so that those of a process that
/// died go by themselves.
/// </summary>
public sealed class Presence(WhoIsThere who, PlanNews news, ProjectRoles roles, Sessions sessions)
{
    private readonly ConcurrentDictionary<string, Connected> _here = new();

    public IReadOnlySet<Guid> OpenHere => _here.Values.Select(c => c.Project).ToHashSet();

    public async Task ComeAsync(Connected connected)
    {
        _here[connected.Id] = connected;
        await who.SeeAsync(connected.Id, connected.Project, connected.Person, null);
        await TellAsync(connected);
    }

    public async Task GoAsync(string connection, string? task)
    {
        if (!_here.TryGetValue(connection, out var connected))
            return;
        await who.SeeAsync(connected.Id, connected.Project, connected.Person, task);
        await TellAsync(connected);
    }

    public async Task LeaveAsync(string connection)
    {
        if (!_here.TryRemove(connection, out var connected))
            return;
        await who.ForgetAsync(connection);
        await TellAsync(connected);
    }

    /// <summary>Reports that the pages of this process are still there, and disconnects those who lost access.</summary>
    public async Task BeatAsync(CancellationToken cancel)
    {
        await who.StillHereAsync([.. _here.Keys], cancel);
        await SendAwayAsync(_ => true, cancel);
        foreach (var project in await who.ForgetLostAsync(cancel))
            await news.TellAsync($"{PlanNews.Who} {project}", cancel);
    }

    /// <summary>Disconnects those who lost access to a plan, by the rights that they have now and not when they joined.</summary>
    public async Task SendAwayAsync(Func<Connected, bool> among, CancellationToken cancel = default)
    {
        foreach (var connected in _here.Values.Where(among))
        {
            var now = await sessions.StillAsync(connected.Session, connected.Token, cancel);
            if (
                now is null
                || await roles.OfAsync(connected.Project, now.PersonId, now.IsOrganiser, cancel) == Storage.Rows.ProjectRole.None
            )
                connected.Abort();
        }
    }

    /// <summary>
    /// Ends every connection: this process stops, and the pages reconnect to another one, or to this one once it is back.
    /// </summary>
    public void SendAllAway()
    {
        foreach (var connected in _here.Values)
            connected.Abort();
    }

    public async Task<IReadOnlyList<Here>> AtAsync(Guid project, CancellationToken cancel) =>
        [
            .. (await who.AtAsync(project, cancel)).Select(p => new Here(
                p.Connection,
                p.Person,
                p.Name,
                p.Initials,
                PersonHue.Of(p.Person),
                p.Task
            )),
        ];

    private Task TellAsync(Connected connected) => news.TellAsync($"{PlanNews.Who} {connected.Project}");
}
