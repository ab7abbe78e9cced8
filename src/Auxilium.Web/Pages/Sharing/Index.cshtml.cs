using Auxilium.Exchange.Calendars;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;
using Auxilium.Storage.Access;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Auxilium.Web.Mail;
using Auxilium.Web.Pages.Shared;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;

namespace Auxilium.Web.Pages.Sharing;

/// <summary>Who may do what in a project, and the links for those without an account.</summary>
[Authorize(Rights.EditPlans)]
[RequestSizeLimit(64 * 1024)]
public sealed class SharingModel(
    PlanStore store,
    ProjectRoles roles,
    ShareLinks links,
    ProjectFeeds feeds,
    Storage.People.Directory directory,
    IPasswordHasher<Account> hasher,
    OwnAddress address,
    Today today,
    OrganisationClock clock
) : FormPage
{
    private const int ShortestPassword = 6;

    [BindProperty]
    public string? For { get; set; }

    [BindProperty]
    public string? Password { get; set; }

    [BindProperty]
    public string? Until { get; set; }

    /// <summary>What the link that is being made shows besides names and dates.</summary>
    [BindProperty]
    public string[] Columns { get; set; } = ["state", "owner"];

    [BindProperty]
    public bool AllowsExport { get; set; }

    [BindProperty]
    public string? CalendarFor { get; set; }

    /// <summary>Whose tasks the calendar that is being made has; empty for everybody's.</summary>
    [BindProperty]
    public string? Whose { get; set; }

    [BindProperty]
    public bool Milestones { get; set; }

    [BindProperty]
    public bool AsToDos { get; set; }

    [BindProperty]
    public int? Alarm { get; set; }

    public Guid Id { get; private set; }

    public string Name { get; private set; } = "";

    public string? Coordinator { get; private set; }

    public string? Link => TempData["Link"] as string;

    public string? Feed => TempData["Feed"] as string;

    public IReadOnlyList<ProjectFeedRow> Calendars { get; private set; } = [];

    public IReadOnlyList<RoleInProject> People { get; private set; } = [];

    /// <summary>Ids of those whom a coordinator lets see the money.</summary>
    public IReadOnlySet<string> LetSeeMoney { get; private set; } = new HashSet<string>();

    public IReadOnlyList<PersonRow> Others { get; private set; } = [];

    public IReadOnlyList<ShareLinkRow> Links { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken cancel) => await LoadAsync(id, cancel) ? Page() : NotFound();

    /// <summary>What everybody may do, in one go: those whose role was chosen otherwise than the page showed it.</summary>
    /// <param name="asked">Those of whom the page asked whether they may see the money.</param>
    /// <param name="money">Those of them who may.</param>
    public async Task<IActionResult> OnPostRolesAsync(
        Guid id,
        string[] person,
        string[] was,
        string[] role,
        string[] asked,
        string[] money,
        CancellationToken cancel
    )
    {
        if (!await LoadAsync(id, cancel))
            return NotFound();
        if (person.Length != role.Length || person.Length != was.Length)
            return BadRequest();
        var chosen = new List<(PersonRow Person, ProjectRole? Role)>();
        for (var i = 0; i < person.Length; i++)
        {
            if (string.IsNullOrEmpty(person[i]) || role[i] == was[i])
                continue;
            ProjectRole? given = Enum.TryParse<ProjectRole>(role[i], out var one) && Enum.IsDefined(one) ? one : null;
            if (
                await directory.FindAsync(person[i], cancel) is not { } found
                || found.Id == Coordinator
                || (given is null && role[i] != AsOnPlan)
            )
            {
                Wrong("person", "Choose a person and a role from the lists.");
                return Page();
            }
            chosen.Add((found, given));
        }
        foreach (var (found, given) in chosen)
            await roles.GiveAsync(id, found.Id, given, User.PersonId(), cancel);
        var said = chosen.Select(c => Told(c.Person, c.Role)).ToList();
        foreach (
            var one in People.Where(p => asked.Contains(p.Person.Id) && LetSeeMoney.Contains(p.Person.Id) != money.Contains(p.Person.Id))
        )
        {
            var may = money.Contains(one.Person.Id);
            await roles.LetSeeMoneyAsync(id, one.Person.Id, may, User.PersonId(), cancel);
            said.Add($"{one.Person.Name} may {(may ? "now" : "no longer")} see the money.");
        }
        return Done(said.Count == 0 ? Saved([]) : string.Join(" ", said));
    }

    /// <summary>Stands for the role that follows from the plan.</summary>
    internal const string AsOnPlan = "Plan";

    private string Told(PersonRow person, ProjectRole? role) =>
        role switch
        {
            null when People.Any(p => p.Person.Id == person.Id && p.IsOnPlan) => $"{person.Name} is a member again.",
            null => $"{person.Name} was removed from this project.",
            ProjectRole.Coordinator => $"{person.Name} is now a coordinator.",
            ProjectRole.Member => $"{person.Name} is now a member.",
            ProjectRole.Viewer => $"{person.Name} is now a viewer.",
            _ => $"{person.Name} now has no access.",
        };

    public async Task<IActionResult> OnPostLinkAsync(Guid id, CancellationToken cancel)
    {
        if (!await LoadAsync(id, cancel))
            return NotFound();
        if (!Request.Form.ContainsKey(nameof(Columns)))
            Columns = [];
        var name = Line(nameof(For), For, "Whom the link is for", 80, true);
        if (Password is { Length: > 0 and (< ShortestPassword or > 200) })
            Wrong(nameof(Password), $"A password for a link has {ShortestPassword} to 200 characters.");
        DateTime? end = null;
        if (!string.IsNullOrWhiteSpace(Until))
        {
            if (!DateText.TryParse(Until, today.Date, out var day, out var problem, today.Date.AddDays(120)))
                Wrong(nameof(Until), problem);
            else if (day.Date < today.Date)
                Wrong(nameof(Until), "That day has passed: give a later one.");
            // To the end of that day. Counted from the product's today, so that a fixed one does not close links at once.
            else
                end = clock.EndOf(DateOnly.FromDateTime(clock.GetLocalNow().DateTime).AddDays(day.Date.DayNumber - today.Date.DayNumber));
        }
        if (!ModelState.IsValid)
            return Page();
        var chosen = SharedColumns.All.Select(c => c.Column).Where(Columns.Contains).ToArray();
        if (
            await links.MakeAsync(
                id,
                User.PersonId(),
                name!,
                string.IsNullOrEmpty(Password) ? null : hasher.HashPassword(new Account(), Password),
                end,
                chosen,
                AllowsExport,
                cancel
            )
            is not { } secret
        )
        {
            Wrong(nameof(For), $"There are {ShareLinks.Most} links already: withdraw one first.");
            return Page();
        }
        TempData["Link"] = address.Of($"/shared/{secret}");
        return Redirect($"/projects/{id}/sharing");
    }

    public async Task<IActionResult> OnPostWithdrawAsync(Guid id, Guid link, CancellationToken cancel)
    {
        if (!await LoadAsync(id, cancel))
            return NotFound();
        await links.WithdrawAsync(id, link, User.PersonId(), cancel);
        return Done("The link no longer opens.");
    }

    public async Task<IActionResult> OnPostCalendarAsync(Guid id, CancellationToken cancel)
    {
        if (!await LoadAsync(id, cancel))
            return NotFound();
        var name = Line(nameof(CalendarFor), CalendarFor, "The name of the calendar", 80, true);
        if (!string.IsNullOrEmpty(Whose) && People.All(one => one.Person.Id != Whose))
            Wrong(nameof(Whose), "Choose somebody from the list.");
        if (Alarm is < 0 or > CalendarWishes.MostAlarmDays)
            Wrong(nameof(Alarm), "Choose an alarm from the list.");
        if (!ModelState.IsValid)
            return Page();
        var feed = new ProjectFeedRow
        {
            Id = Guid.NewGuid(),
            Hash = [],
            ProjectId = id,
            MadeBy = User.PersonId(),
            Name = name!,
            PersonId = string.IsNullOrEmpty(Whose) ? null : Whose,
            MilestonesOnly = Milestones,
            AsToDos = AsToDos,
            AlarmDays = Alarm,
        };
        if (await feeds.MakeAsync(feed, cancel) is not { } secret)
        {
            Wrong(nameof(CalendarFor), $"There are {ProjectFeeds.Most} calendars already: withdraw one first.");
            return Page();
        }
        TempData["Feed"] = address.Of($"/feeds/projects/{secret}.ics");
        return Redirect($"/projects/{id}/sharing");
    }

    public async Task<IActionResult> OnPostWithdrawCalendarAsync(Guid id, Guid feed, CancellationToken cancel)
    {
        if (!await LoadAsync(id, cancel))
            return NotFound();
        await feeds.WithdrawAsync(id, feed, User.PersonId(), cancel);
        return Done("The calendar is no longer kept up to date.");
    }

    /// <summary>What a calendar shows, and when it was fetched last.</summary>
    public string About(ProjectFeedRow feed)
    {
        var whose = feed.PersonId is { } person ? People.FirstOrDefault(one => one.Person.Id == person)?.Person.Name : null;
        List<string> parts = [(feed.MilestonesOnly ? "milestones" : "tasks and milestones") + (whose is null ? "" : $" of {whose}")];
        if (feed.AsToDos)
            parts.Add("as to-dos");
        if (feed.AlarmDays is { } days)
            parts.Add(
                days switch
                {
                    0 => "alarm on the day",
                    1 => "alarm a day before",
                    _ => $"alarm {days} days before",
                }
            );
        parts.Add(feed.UsedAt is { } used ? $"fetched last on {Day(used)}" : "not fetched yet");
        return string.Join(", ", parts);
    }

    /// <summary>What a link shows, and until when.</summary>
    public string About(ShareLinkRow link)
    {
        List<string> parts = [link.Columns.Length == 0 ? "names and dates" : "with " + string.Join(", ", link.Columns.Select(WordOf))];
        if (link.PasswordHash is not null)
            parts.Add("asks for a password");
        if (link.AllowsExport)
            parts.Add("may be exported");
        if (link.EndsAt is { } end)
            parts.Add($"until {Day(end)}");
        parts.Add(link.UsedAt is { } used ? $"opened last on {Day(used)}" : "not opened yet");
        return string.Join(", ", parts);
    }

    public string Day(DateTime utc) => clock.DayOf(utc);

    internal static string WordOf(string column) => SharedColumns.All.FirstOrDefault(c => c.Column == column).Word ?? column;

    private async Task<bool> LoadAsync(Guid id, CancellationToken cancel)
    {
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return false;
        (Id, Name, Coordinator) = (id, plan.Schedule.Plan.Project.Name, plan.Schedule.Plan.Project.Coordinator);
        People = await roles.InAsync(id, cancel);
        Others = [.. (await directory.AllAsync(cancel)).Where(p => p.LeftOn is null && People.All(m => m.Person.Id != p.Id))];
        LetSeeMoney = await roles.LetSeeMoneyAsync(id, cancel);
        Links = await links.OfAsync(id, cancel);
        Calendars = await feeds.OfAsync(id, cancel);
        return true;
    }

    private RedirectResult Done(string said)
    {
        Say(said);
        return Redirect($"/projects/{Id}/sharing");
    }
}
