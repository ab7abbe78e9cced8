using System.Text.Json;
using System.Text.Json.Nodes;
using Auxilium.Exchange.Tables;
using Auxilium.Storage.Plans;
using Auxilium.Web.Api;
using Auxilium.Web.PlanScreen;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Auxilium.Web.Pages.Plan;

/// <summary>
/// What the Plan screen is made of: for those who work on a plan, and for those who see it by a link. Its script draws what <see
/// cref="Data"/> says.
/// </summary>
public abstract class PlanScreenModel : PageModel
{
    public Guid Id { get; private set; }

    /// <summary>Which screen is open: the name of one of <see cref="ProjectPages"/>.</summary>
    public string Screen { get; private set; } = "Plan";

    public PlanView View { get; private set; } = null!;

    /// <summary>The plan is shown as it was, where that is asked for.</summary>
    public PastView? Past { get; protected set; }

    /// <summary>
    /// What whoever looks may do: <c>edit</c>, <c>report</c>, <c>look</c>, <c>shared</c> by a link, or <c>past</c>, of a plan as it was.
    /// </summary>
    public string RightsHere { get; private set; } = "";

    /// <summary>Id of whoever looks; <c>null</c> by a link.</summary>
    public string? Me { get; private set; }

    /// <summary>Where files of the plan come from; <c>null</c> where whoever looks may not have any.</summary>
    public string? Exports { get; protected set; }

    /// <summary>The columns that files may have.</summary>
    public IEnumerable<string> ExportColumns { get; protected set; } = [];

    public ProjectPages Pages { get; private set; } = null!;

    /// <summary>The plan as JSON, the same as an edit answers with when everything is to be drawn anew.</summary>
    public string Data { get; private set; } = "";

    /// <param name="id">Id of the project.</param>
    /// <param name="screen">The screen as the address has it.</param>
    /// <param name="rights">What whoever looks may do.</param>
    /// <param name="me">Their id.</param>
    /// <param name="view">What they see.</param>
    /// <param name="last">What the last edit did.</param>
    /// <param name="more">What only those see who work on the plan.</param>
    /// <param name="secret">Of the link, where it is seen by one.</param>
    protected void Show(
        Guid id,
        string? screen,
        string rights,
        string? me,
        PlanView view,
        LastEdit last,
        PlanExtras more,
        string? secret = null
    )
    {
        (Id, RightsHere, Me, View) = (id, rights, me, view);
        Screen = ProjectPages.All.Single(page => page.Path == (screen ?? "")).Name;
        Pages = new ProjectPages(id, Screen, rights, secret);
        if (secret is null)
            Exports = $"/api/v1/projects/{id}/export";
        ExportColumns =
        [
            .. PlanTable.All.Select(column => column.Key),
            .. view.Project.Fields.Where(field => !field.Retired).Select(field => $"own:{field.Id}"),
        ];
        Data = JsonSerializer.Serialize(
            new
            {
                changes = PlanChanges.Everything(view, last),
                more.Talk,
                more.View,
                more.Directory,
                more.Teams,
                more.Calendars,
                more.Proposals,
                more.Used,
            },
            // Its encoder escapes <, > and &, so that no name can end the element the data stands in.
            RowJson.Options
        );
    }
}

/// <param name="Talk">How much is said about tasks.</param>
/// <param name="View">How whoever looks saw it last.</param>
/// <param name="Directory">Names of everybody.</param>
/// <param name="Teams">The team of each who is in one, by their id.</param>
/// <param name="Calendars">The plan's calendars by id and name.</param>
/// <param name="Proposals">How many changes wait for a decision.</param>
/// <param name="Used">Hours worked beside the work that was to be.</param>
public sealed record PlanExtras(
    object Talk,
    JsonNode? View,
    IEnumerable<string> Directory,
    IReadOnlyDictionary<string, string> Teams,
    IEnumerable<object> Calendars,
    int Proposals,
    IReadOnlyList<UsedDocument> Used
)
{
    public static PlanExtras None { get; } = new(Array.Empty<object>(), null, [], new Dictionary<string, string>(), [], 0, []);
}

/// <summary>Which past version of a plan is shown.</summary>
/// <param name="Moment">When it became so: Wed 12 May 18:04.</param>
/// <param name="By">Whose edit made it so; <c>null</c> of the first version.</param>
/// <param name="MayTake">Whether it may be taken as a baseline.</param>
/// <param name="Days">The days to choose from.</param>
public sealed record PastView(int Version, string Moment, string? By, bool MayTake, IReadOnlyList<PastDay> Days)
{
    public string ByWhom => By is null ? "" : $", after an edit by {By}";

    /// <summary>The days for the script of the page.</summary>
    public string DaysJson => JsonSerializer.Serialize(Days, JsonSerializerOptions.Web);
}

/// <param name="Name">Such as Wed 12 May.</param>
/// <param name="Version">The version that the plan had at the end of it.</param>
public sealed record PastDay(string Name, int Version);
