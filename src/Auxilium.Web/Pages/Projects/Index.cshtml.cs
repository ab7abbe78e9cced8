using System.Collections.Immutable;
using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;
using Auxilium.Storage.Access;
using Auxilium.Storage.Money;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;
using Auxilium.Web.Api;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Auxilium.Web.Pages.Projects;

/// <summary>Projects that stand together: the favourites, a folder with those inside it, or those in none.</summary>
/// <param name="Folder"><c>null</c> for the favourites and for those in no folder.</param>
public sealed record ProjectGroup(
    string Title,
    Folder? Folder,
    bool IsFolded,
    IReadOnlyList<ProjectSummary> Projects,
    IReadOnlyList<ProjectGroup> Inside
)
{
    public int Count => Projects.Count + Inside.Sum(inside => inside.Count);
}

/// <summary>Every project: in folders, the favourites first; as cards, as a table, or on one timeline.</summary>
[Authorize(Rights.SignedIn)]
[RequestSizeLimit(64 * 1024)]
public sealed class IndexModel(
    AcrossPlans across,
    ProjectRoles roles,
    ClosedProjects closed,
    Folders folders,
    ProjectsViews views,
    LoadAcross load,
    ProjectMoney money,
    Today today
) : PageModel
{
    /// <summary>How the projects can be shown.</summary>
    public static IReadOnlyList<(string Key, string Name)> Looks { get; } =
    [("cards", "Cards"), ("table", "Table"), ("timeline", "Timeline")];

    /// <summary>How much time the timeline shows, in months; 0 for all.</summary>
    public static IReadOnlyList<(int Months, string Name)> Spans { get; } =
    [(0, "All dates"), (3, "3 months"), (6, "6 months"), (12, "12 months")];

    public static IReadOnlyList<(string Key, string Name)> Statuses { get; } =
    [.. Enum.GetValues<ProjectStatus>().Select(s => (JsonNames.Camel(s), s.InWords()))];

    public IReadOnlyList<ProjectGroup> Groups { get; private set; } = [];

    public ProjectsView View { get; private set; } = new();

    /// <summary>Folders that a project may be put into here.</summary>
    public IReadOnlyList<Folder> Folders { get; private set; } = [];

    /// <summary>How many projects there are in all.</summary>
    public int All { get; private set; }

    /// <summary>How many are left out by their status.</summary>
    public int LeftOut { get; private set; }

    /// <summary>Whether there is something in the archive for them.</summary>
    public bool HasClosed { get; private set; }

    /// <summary>The days of the timeline.</summary>
    public DayLine Line { get; private set; } = new(default, default);

    public ILookup<Guid, ProjectedTask> Milestones { get; private set; } = Array.Empty<ProjectedTask>().ToLookup(_ => Guid.Empty);

    public PlanTime Now => PlanTime.On(today.Date, PlanTime.MinutesPerDay / 2);

    /// <summary>The roles of whoever looks.</summary>
    private IReadOnlyDictionary<Guid, ProjectRole> _mine = new Dictionary<Guid, ProjectRole>();

    /// <summary>What projects are sorted by, and the table has columns for.</summary>
    public IReadOnlyList<ProjectColumn> Columns { get; private set; } = [];

    public bool Leads(ProjectSummary project) => _mine[project.Id] == ProjectRole.Coordinator;

    public bool IsFavourite(ProjectSummary project) => View.Favourites.Contains(project.Id);

    /// <summary>Where a folder is, from the outermost: “Events › 2027”.</summary>
    public string PathOf(Folder folder) =>
        folder.Parent is { } parent && Folders.FirstOrDefault(f => f.Id == parent) is { } outer
            ? $"{outer.Name} › {folder.Name}"
            : folder.Name;

    public async Task OnGetAsync(CancellationToken cancel)
    {
        var me = User.PersonId();
        _mine = await roles.AllOfAsync(me, User.IsOrganiser(), cancel);
        View = await views.OfAsync(me, cancel);
        var overbooked = await load.OverbookedAsync(_ => true, today.Date, cancel);
        var mayKnow = await roles.WithMoneyAsync([.. _mine.Keys], me, User.IsOrganiser(), cancel);
        var (costs, text) = (await money.SummariesAsync([.. mayKnow], today.Date, cancel), await money.TextAsync(cancel));
        var all = (await across.ProjectsAsync([.. _mine.Keys], today.Date, cancel))
            .Select(known => new ProjectSummary(known)
            {
                Overbooked = overbooked.Count(over => over.Person is not null && over.Projects.Contains(known.Id)),
                Money = costs.TryGetValue(known.Id, out var cost) ? cost : null,
                Amounts = text,
            })
            .ToList();
        All = all.Count;
        Columns = ProjectColumn.Of(all);
        var shown = ProjectColumn.Find(Columns, View.Sort).Sorted(all.Where(p => !View.Hidden.Contains(p.StatusKey)), View.Down).ToList();
        LeftOut = all.Count - shown.Count;
        var everyFolder = await folders.AllAsync(cancel);
        Folders = FoldersApi.Seen(
            everyFolder,
            all.Select(p => p.Known.Folder).OfType<Guid>().ToHashSet(),
            User.MayMakeProjects() || _mine.Values.Contains(ProjectRole.Coordinator)
        );
        Groups = Grouped(shown);
        if (View.Look == "timeline")
        {
            Line = DayLine.Around(shown.Select(p => p.Plan).OfType<ProjectedPlan>(), today.Date, View.Months);
            Milestones = await across.MilestonesAsync([.. shown.Select(p => p.Id)], cancel);
        }
        HasClosed = (await closed.OfAsync(me, User.IsOrganiser(), cancel)).Count > 0;
    }

    /// <summary>Remembers how somebody looks at the projects.</summary>
    public async Task<IActionResult> OnPostViewAsync(
        string? look,
        string? sort,
        string? down,
        string? months,
        string? by,
        string[] statuses,
        CancellationToken cancel
    )
    {
        await views.ChangeAsync(
            User.PersonId(),
            view =>
            {
                // A press on the head of a column sorts by it, and once more the other way.
                var column = ProjectColumn.IsKey(by ?? sort) ? (by ?? sort)! : view.Sort;
                return view with
                {
                    Look = Looks.Any(l => l.Key == look) ? look! : view.Look,
                    Sort = column,
                    Down = by is null ? down == "true" : column == view.Sort && !view.Down,
                    Months =
                        int.TryParse(months, CultureInfo.InvariantCulture, out var span) && Spans.Any(s => s.Months == span)
                            ? span
                            : view.Months,
                    Hidden = Statuses.Select(s => s.Key).Except(statuses).ToImmutableHashSet(),
                };
            },
            cancel
        );
        return Redirect("/projects");
    }

    private List<ProjectGroup> Grouped(List<ProjectSummary> shown)
    {
        var favourites = shown.Where(IsFavourite).ToList();
        var others = shown.Except(favourites).ToLookup(p => Folders.Any(f => f.Id == p.Known.Folder) ? p.Known.Folder : null);
        var groups = new List<ProjectGroup>();
        if (favourites.Count > 0)
            groups.Add(new("Favourites", null, false, favourites, []));
        groups.AddRange(Folders.Where(f => f.Parent is null || Folders.All(outer => outer.Id != f.Parent)).Select(GroupOf));
        if (others[null].Any())
            groups.Add(new(groups.Count == 0 ? "" : "In no folder", null, false, [.. others[null]], []));
        return groups;

        ProjectGroup GroupOf(Folder folder) =>
            new(
                folder.Name,
                folder,
                View.Folded.Contains(folder.Id),
                [.. others[folder.Id]],
                [.. Folders.Where(f => f.Parent == folder.Id).Select(GroupOf)]
            );
    }
}
