using System.Globalization;
using Auxilium.Storage.Notices;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Auxilium.Web.Pages.Now;

/// <summary>
/// The first page: what needs whoever looks. Of projects that they coordinate everything, of others their own tasks.
/// </summary>
[Authorize(Rights.SignedIn)]
public sealed class IndexModel(NowQuery query, ProjectsViews views, Proposals proposals, Today today) : PageModel
{
    public NowList List { get; private set; } = null!;

    public IReadOnlyList<(Guid Project, string ProjectName, Proposal Proposal)> Proposals { get; private set; } = [];

    /// <summary>Drift of more than so many days is told.</summary>
    public int Days { get; private set; }

    /// <summary>Whether they coordinate any project.</summary>
    public bool Leads { get; private set; }

    public bool HasProjects { get; private set; }

    /// <summary>Names to give tasks to.</summary>
    public IReadOnlyList<string> People { get; private set; } = [];

    /// <summary>Who has more to do than time, this week and next.</summary>
    public IReadOnlyList<Overbooked> Overbooked { get; private set; } = [];

    public string Day => today.Date.ToString("dddd d MMMM", CultureInfo.InvariantCulture);

    public bool IsClear => Proposals.Count == 0 && List.Sections.Count == 0 && List.Projects.Count == 0 && Overbooked.Count == 0;

    /// <param name="drift">Drift of more than so many days is told from now on.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task OnGetAsync(int? drift, CancellationToken cancel)
    {
        var me = User.PersonId();
        var view = drift is { } chosen
            ? await views.ChangeAsync(me, v => v with { DriftDays = Math.Clamp(chosen, 0, NoticeWishes.MostDays) }, cancel)
            : await views.OfAsync(me, cancel);
        Days = view.DriftDays;
        var now = await query.OfAsync(me, User.IsOrganiser(), Days, cancel);
        (List, HasProjects, Leads) = (now.List, now.HasProjects, now.Led.Count > 0);
        Overbooked = now.Overbooked;
        if (!Leads)
            return;
        Proposals = await proposals.OpenAsync(now.Led, cancel);
        People = now.People;
    }
}
