using System.Globalization;
using System.Text.Json.Nodes;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;
using Auxilium.Storage.Access;
using Auxilium.Storage.People;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Auxilium.Web.Mail;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.AspNetCore.RateLimiting;

namespace Auxilium.Web.Pages.People;

/// <summary>
/// One person. Everybody sees who they are; they themselves enter days off and their week, and whoever coordinates a project of theirs
/// days off for that project; organisers change everything.
/// </summary>
[Authorize(Rights.SignedIn)]
[RequestSizeLimit(64 * 1024)]
[EnableRateLimiting(Api.Limits.Writing)]
public sealed class PersonModel(
    Storage.People.Directory directory,
    Invitations invitations,
    ProjectRoles roles,
    DaysOff daysOff,
    OwnTimes times,
    HandOvers tasks,
    Letters letters,
    OwnAddress address,
    Today today
) : FormPage
{
    private const decimal MostMoney = 1_000_000;

    internal static readonly string[] DayNames = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

    private IReadOnlyList<PersonRow> _all = [];
    private IReadOnlyDictionary<Guid, ProjectRole> _roles = new Dictionary<Guid, ProjectRole>();

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public string? Initials { get; set; }

    [BindProperty]
    public string? MailAddress { get; set; }

    [BindProperty]
    public string? Role { get; set; }

    [BindProperty]
    public string? Team { get; set; }

    [BindProperty]
    public string? ReportsTo { get; set; }

    [BindProperty]
    public PersonKind Kind { get; set; }

    [BindProperty]
    public string? HourlyRate { get; set; }

    [BindProperty]
    public string? OvertimeRate { get; set; }

    [BindProperty]
    public string? CostPerUse { get; set; }

    [BindProperty]
    public string? From { get; set; }

    [BindProperty]
    public string? To { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    public string[] Week { get; private set; } = new string[7];

    public PersonRow Row { get; private set; } = null!;

    public Account? Account { get; private set; }

    public string? Link => TempData["Link"] as string;

    public IReadOnlyList<TimeOffRow> Away { get; private set; } = [];

    public IReadOnlyList<OwnTask> Tasks { get; private set; } = [];

    /// <summary>Projects of theirs in which whoever looks may give tasks to others.</summary>
    public IReadOnlyList<(Guid Id, string Name)> Handable { get; private set; } = [];

    /// <summary>Whether what whoever looks says of this person's time counts everywhere.</summary>
    public bool MayEnterAll { get; private set; }

    public bool MayEnterTime => MayEnterAll || _coordinated.Length > 0;

    /// <summary>Projects of theirs that whoever looks coordinates.</summary>
    private Guid[] _coordinated = [];

    public IEnumerable<SelectListItem> Others =>
        _all.Where(p => p.Id != Row.Id && p.LeftOn is null).Select(p => new SelectListItem(p.Name, p.Id));

    public IEnumerable<string> Teams => _all.Select(p => p.Team).Where(t => t.Length > 0).Distinct();

    public string? NameOf(string? id) => _all.FirstOrDefault(p => p.Id == id)?.Name;

    public async Task<IActionResult> OnGetAsync(string person, CancellationToken cancel)
    {
        if (!await LoadAsync(person, cancel))
            return NotFound();
        (Name, Initials, MailAddress, Role, Team, ReportsTo, Kind) = (
            Row.Name,
            Row.Initials,
            Row.Email,
            Row.Role,
            Row.Team,
            Row.ReportsTo,
            Row.Kind
        );
        (HourlyRate, OvertimeRate, CostPerUse) = (Money(Row.HourlyRate), Money(Row.OvertimeRate), Money(Row.CostPerUse));
        return Page();
    }

    public async Task<IActionResult> OnPostAboutAsync(string person, CancellationToken cancel)
    {
        if (!await LoadAsync(person, cancel))
            return NotFound();
        if (!User.IsOrganiser())
            return Forbid();
        var name = Line(nameof(Name), Name, "The name", 80, true);
        if (name is not null && !name.Any(char.IsLetter))
            Wrong(nameof(Name), "A name has letters: type the person's.");
        var initials = Line(nameof(Initials), Initials, "The initials", 16);
        Mail(nameof(MailAddress), MailAddress, isNeeded: Account is not null, out var mail);
        if (mail is not null && await directory.WithMailAsync(mail, Row.Id, cancel) is { } other)
            Wrong(nameof(MailAddress), $"{other.Name} has this address already.");
        var role = Line(nameof(Role), Role, "What they do", 80);
        var team = Line(nameof(Team), Team, "The team", 80);
        if (ReportsTo is { Length: > 0 } boss && (_all.All(p => p.Id != boss) || IsUnder(boss, Row.Id)))
            Wrong(nameof(ReportsTo), "They cannot report to themselves, or to somebody who reports to them: choose somebody else.");
        var (hourly, overtime, use) = (
            ReadMoney(nameof(HourlyRate), HourlyRate),
            ReadMoney(nameof(OvertimeRate), OvertimeRate),
            ReadMoney(nameof(CostPerUse), CostPerUse)
        );
        if (!ModelState.IsValid)
            return Page();
        (Row.Name, Row.Initials, Row.Email, Row.Role, Row.Team, Row.ReportsTo, Row.Kind) = (
            name!,
            initials ?? PlanIds.InitialsOf(name!),
            mail,
            role ?? "",
            team ?? "",
            string.IsNullOrEmpty(ReportsTo) ? null : ReportsTo,
            Kind
        );
        (Row.HourlyRate, Row.OvertimeRate, Row.CostPerUse) = (hourly, overtime, use);
        await directory.SaveAsync([Row], cancel: cancel);
        return Done("Saved.");
    }

    public async Task<IActionResult> OnPostAwayAsync(string person, CancellationToken cancel)
    {
        if (!await LoadAsync(person, cancel))
            return NotFound();
        if (!MayEnterTime)
            return Forbid();
        var from = ReadDay(nameof(From), From, "The first day");
        var to = string.IsNullOrWhiteSpace(To) ? from : ReadDay(nameof(To), To, "The last day");
        var note = Line(nameof(Note), Note, "The note", 80) ?? "";
        if (from is { } first && to is { } last && last < first)
            Wrong(nameof(To), "The last day is before the first: type a later one.");
        else if (from is { } f && to is { } t && t.DayNumber - f.DayNumber > 3660)
            Wrong(nameof(To), "Days off are at most ten years at once.");
        if (Away.Count >= DaysOff.Most)
            Wrong(nameof(From), $"There are {DaysOff.Most} entries already: take old ones away first.");
        if (!ModelState.IsValid)
            return Page();
        await daysOff.EnterAsync(
            new TimeOffRow
            {
                PersonId = Row.Id,
                From = from!.Value,
                To = to!.Value,
                Note = note,
                Projects = MayEnterAll ? null : _coordinated,
            },
            User.PersonId(),
            cancel
        );
        return await BringInAsync(MayEnterAll ? "Entered." : "Entered for your projects; whoever decides elsewhere is asked.", cancel);
    }

    /// <summary>Days off that others entered count for whoever looks as well: everywhere, or in their projects.</summary>
    public async Task<IActionResult> OnPostAwayTooAsync(string person, long days, CancellationToken cancel)
    {
        if (!await LoadAsync(person, cancel))
            return NotFound();
        if (!MayEnterTime)
            return Forbid();
        if (Away.FirstOrDefault(d => d.Id == days) is not { Projects: { } counted })
            return Done("They count everywhere already.");
        await daysOff.CountAsync(days, MayEnterAll ? null : [.. counted.Union(_coordinated)], User.PersonId(), cancel);
        return await BringInAsync(MayEnterAll ? "They count everywhere now." : "They count in your projects now.", cancel);
    }

    public async Task<IActionResult> OnPostNotAwayAsync(string person, long days, CancellationToken cancel)
    {
        if (!await LoadAsync(person, cancel))
            return NotFound();
        if (!MayEnterTime)
            return Forbid();
        if (Away.FirstOrDefault(d => d.Id == days) is not { } entry)
            return Done("They are gone already.");
        if (!MayTakeAway(entry))
            return Forbid();
        await daysOff.CountAsync(days, MayEnterAll ? [] : [.. entry.Projects!.Except(_coordinated)], User.PersonId(), cancel);
        return await BringInAsync("Deleted.", cancel);
    }

    /// <summary>Whether days off count for whoever looks, so that they may know why.</summary>
    internal bool Counts(TimeOffRow days) => MayEnterAll || days.Projects is null || days.Projects.Intersect(_coordinated).Any();

    /// <summary>What counts everywhere is taken away by those alone who may enter that.</summary>
    internal bool MayTakeAway(TimeOffRow days) => MayEnterAll || (days.Projects is { } counted && counted.Intersect(_coordinated).Any());

    /// <summary>Whether days off could count where they do not yet.</summary>
    internal bool MayCountToo(TimeOffRow days) => days.Projects is { } counted && (MayEnterAll || _coordinated.Except(counted).Any());

    public async Task<IActionResult> OnPostWeekAsync(string person, string[] week, CancellationToken cancel)
    {
        if (!await LoadAsync(person, cancel))
            return NotFound();
        if (!MayEnterAll)
            return Forbid();
        if (week.Length == 7)
            Week = [.. week.Select(d => d ?? "")];
        Row.Calendar = Week.All(string.IsNullOrWhiteSpace) ? null : WriteWeek(Week);
        if (!ModelState.IsValid)
            return Page();
        await directory.SaveAsync([Row], User.PersonId(), cancel);
        return await BringInAsync("Saved.", cancel);
    }

    public async Task<IActionResult> OnPostHandOverAsync(string person, Guid? project, string? to, CancellationToken cancel)
    {
        if (!await LoadAsync(person, cancel))
            return NotFound();
        var chosen = Handable.Where(h => project is null || h.Id == project).ToList();
        if (chosen.Count == 0)
            return Forbid();
        if (_all.FirstOrDefault(p => p.Id == to && p.Id != Row.Id && p.LeftOn is null) is not { } other)
        {
            Wrong("to", "Choose who takes it over.");
            return Page();
        }
        var said = new List<string>();
        foreach (var (id, _) in chosen)
            if (
                await tasks.HandOverAsync(
                    id,
                    Row.Id,
                    new Person(other.Id, other.Name, other.Initials, other.Email),
                    Tasks.Where(t => t.Project == id).Select(t => t.Task).ToHashSet(),
                    User.PersonId(),
                    today.Date,
                    cancel
                ) is
                { } did
            )
                said.Add(did);
        return Done(string.Join(" ", said));
    }

    public async Task<IActionResult> OnPostInviteAsync(string person, bool organiser, bool maker, CancellationToken cancel)
    {
        if (!await LoadAsync(person, cancel))
            return NotFound();
        if (!User.IsOrganiser() || Row.LeftOn is not null || Account is not null)
            return Forbid();
        if (Row.Email is not { } mail)
        {
            Wrong("Invite", "An invitation goes by mail: give a mail address above first.");
            return Page();
        }
        var secret = await invitations.MakeAsync(Row.Id, User.PersonId(), organiser, maker || organiser, cancel);
        await letters.InviteAsync(Row.Name, mail, User.Identity!.Name!, secret, cancel);
        TempData["Link"] = address.Of($"/invitation/{secret}");
        return Redirect($"/people/{Row.Id}");
    }

    public async Task<IActionResult> OnPostStandingAsync(string person, bool organiser, bool maker, CancellationToken cancel)
    {
        if (!await LoadAsync(person, cancel))
            return NotFound();
        if (!User.IsOrganiser() || Account is null)
            return Forbid();
        return await directory.SetStandingAsync(Row.Id, organiser, maker || organiser, User.PersonId(), cancel)
            ? Done("Saved.")
            : Done(OnlyOrganiser);
    }

    public async Task<IActionResult> OnPostLeaveAsync(string person, CancellationToken cancel)
    {
        if (!await LoadAsync(person, cancel))
            return NotFound();
        if (!User.IsOrganiser() || Row.Id == User.PersonId())
            return Forbid();
        if (!await directory.LeaveAsync(Row.Id, today.Date, User.PersonId(), cancel))
            return Done(OnlyOrganiser);
        return Done(
            Tasks.Count == 0
                ? $"{Row.Name} has left."
                : $"{Row.Name} has left. {(Tasks.Count == 1 ? "One task waits" : $"{Tasks.Count} tasks wait")} below to be handed over."
        );
    }

    public async Task<IActionResult> OnPostReturnAsync(string person, CancellationToken cancel)
    {
        if (!await LoadAsync(person, cancel))
            return NotFound();
        if (!User.IsOrganiser())
            return Forbid();
        await directory.ReturnAsync(Row.Id, User.PersonId(), cancel);
        return Done($"{Row.Name} is back. To sign in they need an invitation.");
    }

    public async Task<IActionResult> OnPostMergeAsync(string person, string? into, CancellationToken cancel)
    {
        if (!await LoadAsync(person, cancel))
            return NotFound();
        if (!User.IsOrganiser() || Row.Id == User.PersonId())
            return Forbid();
        if (_all.FirstOrDefault(p => p.Id == into && p.Id != Row.Id) is not { } other)
        {
            Wrong("into", "Choose which entry is the same person.");
            return Page();
        }
        bool? isDone = null;
        // Somebody may give them a task just now: that is handed over too.
        for (var tries = 0; isDone is null && tries < MostTries; tries++)
        {
            foreach (var project in await directory.ProjectsOfAsync(Row.Id, cancel))
                await tasks.HandOverAsync(
                    project,
                    Row.Id,
                    new Person(other.Id, other.Name, other.Initials, other.Email),
                    null,
                    User.PersonId(),
                    today.Date,
                    cancel
                );
            isDone = await directory.MergeAsync(Row.Id, other.Id, User.PersonId(), cancel);
        }
        if (isDone is null)
            return Done($"{Row.Name} is given new tasks all the time: try again when nobody works on their plans.");
        if (isDone is false)
            return Done(OnlyOrganiser);
        await times.BringInAsync(other.Id, null, User.PersonId(), today.Date, cancel);
        Say($"They are one now: {other.Name}.");
        return Redirect($"/people/{other.Id}");
    }

    private const int MostTries = 5;

    private string OnlyOrganiser => $"{Row.Name} is the only organiser: make somebody else one first.";

    internal static string Day(DateOnly day) => day.ToString("ddd d MMM yyyy", CultureInfo.InvariantCulture);

    private async Task<bool> LoadAsync(string person, CancellationToken cancel)
    {
        _all = await directory.AllAsync(cancel);
        if (_all.FirstOrDefault(p => p.Id == person) is not { } row)
            return false;
        Row = row;
        Account = (await directory.AccountsAsync(cancel)).GetValueOrDefault(person);
        Away = await daysOff.OfAsync(person, cancel);
        Week = ReadWeek(row.Calendar);
        _roles = await roles.AllOfAsync(User.PersonId(), User.IsOrganiser(), cancel);
        Tasks = await tasks.TasksOfAsync(person, [.. _roles.Keys], today.Date, cancel: cancel);
        var theirs = await directory.ProjectsOfAsync(person, cancel);
        MayEnterAll = User.IsOrganiser() || person == User.PersonId();
        _coordinated = [.. theirs.Where(p => _roles.GetValueOrDefault(p) == ProjectRole.Coordinator)];
        Handable = [.. Tasks.Where(t => _roles[t.Project] == ProjectRole.Coordinator).Select(t => (t.Project, t.ProjectName)).Distinct()];
        return true;
    }

    /// <summary>Whether somebody reports to another, however far up.</summary>
    private bool IsUnder(string person, string boss)
    {
        for (var (at, steps) = (person, 0); steps <= _all.Count; steps++)
        {
            if (at == boss)
                return true;
            if (_all.FirstOrDefault(p => p.Id == at)?.ReportsTo is not { } up)
                return false;
            at = up;
        }
        return true;
    }

    private async Task<IActionResult> BringInAsync(string did, CancellationToken cancel)
    {
        // What it does is told of the projects that whoever looks may see.
        var effects = (await times.BringInAsync(Row.Id, MayEnterAll ? null : _coordinated, User.PersonId(), today.Date, cancel)).Where(e =>
            _roles.ContainsKey(e.Project)
        );
        return Done($"{did} {string.Join(" ", effects.Select(e => $"{e.Name}: {e.Sentence}"))}");
    }

    private DateOnly? ReadDay(string field, string? text, string what)
    {
        if (string.IsNullOrWhiteSpace(text))
            Wrong(field, $"{what} is missing: type it, such as 19 May.");
        else if (DateText.TryParse(text, today.Date, out var date, out var problem, today.Date.AddDays(120)))
            return date.Date;
        else
            Wrong(field, problem);
        return null;
    }

    private decimal? ReadMoney(string field, string? text)
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        if (
            decimal.TryParse(text.Trim().Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var money)
            && money <= MostMoney
            && money == Math.Round(money, 2)
        )
            return money;
        Wrong(field, "This is no amount: type a number from 0 up with at most two decimals, such as 28.50.");
        return null;
    }

    private static string Money(decimal? money) => money?.ToString("0.00", CultureInfo.InvariantCulture) ?? "";

    /// <summary>The week as a calendar in JSON; <c>null</c> where one of the days has no hours that can be read, which is said.</summary>
    private string? WriteWeek(string[] week)
    {
        var days = new JsonObject();
        for (var day = 0; day < 7; day++)
        {
            if (string.IsNullOrWhiteSpace(week[day]))
                continue;
            if (!HoursText.TryParse(week[day], out var hours, out var problem))
            {
                Wrong("Week", $"{DayNames[day]}: {problem}");
                return null;
            }
            days[DayNames[day].ToLowerInvariant()] = new JsonArray([
                .. hours.Select(h => JsonValue.Create($"{Clock(h.Start)}-{Clock(h.End)}")),
            ]);
        }
        return new JsonObject
        {
            ["id"] = "own",
            ["name"] = "Own",
            ["week"] = days,
        }.ToJsonString();
    }

    private static string[] ReadWeek(string? json)
    {
        if (json is null)
            return ["", "", "", "", "", "", ""];
        using var document = System.Text.Json.JsonDocument.Parse(json);
        return
        [
            .. CalendarReader
                .ReadAlone(document.RootElement, "$")
                .Week.Select(day =>
                    day is not { } hours ? ""
                    : hours.IsEmpty ? "no"
                    : string.Join(", ", hours.Select(h => $"{Clock(h.Start)}-{Clock(h.End)}"))
                ),
        ];
    }

    private static string Clock(int minutes) => $"{minutes / 60:00}:{minutes % 60:00}";

    private RedirectResult Done(string said)
    {
        Say(said);
        return Redirect($"/people/{Row.Id}");
    }
}
