using Auxilium.Planning.Plans;
using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;

namespace Auxilium.Web.Pages.Now;

/// <summary>What needs somebody, with what they may do.</summary>
/// <param name="Led">Ids of the projects that they coordinate and that go on.</param>
/// <param name="HasProjects">Whether they see any project.</param>
/// <param name="Projects">The projects that they coordinate and that go on.</param>
/// <param name="People">Everybody in the organisation who has not left.</param>
public sealed record NowAnswer(
    NowList List,
    IReadOnlyList<Guid> Led,
    bool HasProjects,
    IReadOnlyList<KnownProject> Projects,
    IReadOnlyList<string> People
)
{
    /// <summary>Who has more to do than time, this week and next.</summary>
    public IReadOnlyList<Overbooked> Overbooked { get; init; } = [];
}

/// <summary>Asks all projects of somebody what needs them, in a number of statements that does not grow with the projects.</summary>
public sealed class NowQuery(
    AcrossPlans across,
    ProjectRoles roles,
    Storage.People.Directory directory,
    LoadAcross load,
    PlanStore store,
    Today today
)
{
    /// <param name="person">Who asks.</param>
    /// <param name="isOrganiser">Whether they may do everything.</param>
    /// <param name="days">Drift of more than so many days is told.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<NowAnswer> OfAsync(string person, bool isOrganiser, int days, CancellationToken cancel)
    {
        var mine = await roles.AllOfAsync(person, isOrganiser, cancel);
        List<Guid> led = [.. mine.Where(r => r.Value == ProjectRole.Coordinator).Select(r => r.Key)];
        List<Guid> others = [.. mine.Keys.Except(led)];
        var tasks = new List<KnownTask>();
        var eating = new List<(KnownTask, int)>();
        foreach (var (where, whose) in new[] { (led, (string?)null), (others, person) })
        {
            if (where.Count == 0)
                continue;
            tasks.AddRange(await across.AttentionAsync(where, whose, today.Date, cancel));
            eating.AddRange(await across.EatingAsync(where, whose, cancel));
        }
        var all = await directory.AllAsync(cancel);
        var known = led.Count == 0 ? [] : await across.ProjectsAsync(led, today.Date, cancel);
        List<KnownProject> going = [.. known.Where(p => p.Status is not (ProjectStatus.OnHold or ProjectStatus.Finished))];
        var me = all.FirstOrDefault(p => p.Id == person);
        List<Guid> member = [.. mine.Where(r => r.Value >= ProjectRole.Member).Select(r => r.Key)];
        var open = me is null ? [] : await across.OpenAsync(member, [me.Team, me.Role], cancel);
        var list = NowList.Of(
            going,
            tasks,
            open,
            eating,
            all.ToDictionary(p => p.Id, p => p.Name),
            today.Date,
            days,
            person,
            led.ToHashSet().Contains
        );
        return new NowAnswer(
            list,
            [.. going.Select(p => p.Id)],
            mine.Count > 0,
            going,
            [.. all.Where(p => p.LeftOn is null).Select(p => p.Name)]
        )
        {
            Overbooked = await OverbookedAsync(person, led, cancel),
        };
    }

    /// <summary>Those on the projects that somebody coordinates, and they themselves.</summary>
    private async Task<IReadOnlyList<Overbooked>> OverbookedAsync(string person, List<Guid> led, CancellationToken cancel)
    {
        var theirs = await store.MembersAsync(led, cancel);
        theirs.Add(person);
        return await load.OverbookedAsync(p => theirs.Contains(p.Id), today.Date, cancel);
    }
}
