using System.Globalization;
using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Auxilium.Web.Pages.Now;

/// <summary>
/// The first page: what needs whoever looks. Of projects that they coordinate everything, of others their own tasks.
/// </summary>
[Authorize(Rights.SignedIn)]
public sealed class IndexModel(
    AcrossPlans across,
    ProjectRoles roles,
    Proposals proposals,
    Storage.People.Directory directory,
    Today today
) : PageModel
{
    private const string DaysCookie = "auxilium-drift";

    private const int UsualDays = 2;

    public NowList List { get; private set; } = null!;

    public IReadOnlyList<(Guid Project, string ProjectName, Proposal Proposal)> Proposals { get; private set; } = [];

    /// <summary>Drift of more than so many days is told.</summary>
    public int Days { get; private set; } = UsualDays;

    /// <summary>Whether they coordinate any project.</summary>
    public bool Leads { get; private set; }

    public bool HasProjects { get; private set; }

    /// <summary>Names to give tasks to.</summary>
    public IReadOnlyList<string> People { get; private set; } = [];

    public string Day => today.Date.ToString("dddd d MMMM", CultureInfo.InvariantCulture);

    public bool IsClear => Proposals.Count == 0 && List.Sections.Count == 0 && List.Projects.Count == 0;

    /// <param name="drift">Drift of more than so many days is told from now on.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task OnGetAsync(int? drift, CancellationToken cancel)
    {
        Days = ChosenDays(drift);
        var me = User.PersonId();
        var mine = await roles.AllOfAsync(me, User.IsOrganiser(), cancel);
        HasProjects = mine.Count > 0;
        List<Guid> led = [.. mine.Where(r => r.Value == ProjectRole.Coordinator).Select(r => r.Key)];
        List<Guid> others = [.. mine.Keys.Except(led)];
        Leads = led.Count > 0;
        var tasks = new List<KnownTask>();
        var eating = new List<(KnownTask, int)>();
        foreach (var (where, person) in new[] { (led, (string?)null), (others, me) })
        {
            if (where.Count == 0)
                continue;
            tasks.AddRange(await across.AttentionAsync(where, person, today.Date, cancel));
            eating.AddRange(await across.EatingAsync(where, person, cancel));
        }
        Proposals = led.Count == 0 ? [] : await proposals.OpenAsync(led, cancel);
        var all = await directory.AllAsync(cancel);
        var names = all.ToDictionary(p => p.Id, p => p.Name);
        if (Leads)
            People = [.. all.Where(p => p.LeftOn is null).Select(p => p.Name)];
        List = NowList.Of(
            led.Count == 0 ? [] : await across.ProjectsAsync(led, today.Date, cancel),
            tasks,
            eating,
            names,
            today.Date,
            Days,
            me,
            led.ToHashSet().Contains
        );
    }

    /// <summary>What was chosen last on this device.</summary>
    private int ChosenDays(int? chosen)
    {
        if (chosen is { } days)
        {
            days = Math.Clamp(days, 0, 60);
            Response.Cookies.Append(
                DaysCookie,
                days.ToString(CultureInfo.InvariantCulture),
                new CookieOptions
                {
                    MaxAge = TimeSpan.FromDays(365),
                    HttpOnly = true,
                    SameSite = SameSiteMode.Lax,
                    Secure = Request.IsHttps,
                    IsEssential = true,
                }
            );
            return days;
        }
        return int.TryParse(Request.Cookies[DaysCookie], out var kept) ? Math.Clamp(kept, 0, 60) : UsualDays;
    }
}
