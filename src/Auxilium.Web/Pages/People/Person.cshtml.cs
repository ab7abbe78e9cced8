using Auxilium.Planning.Plans;
using Auxilium.Planning.Words;
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
public sealed partial class PersonModel(
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
    private IReadOnlyList<PersonRow> _all = [];
    private IReadOnlyDictionary<Guid, ProjectRole> _roles = new Dictionary<Guid, ProjectRole>();

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
        return Page();
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

    internal static string DatesOf(OwnTask task) =>
        (task.Start, task.Finish) is not ({ } start, { } finish) ? "–"
        : start.Date >= finish.LastDate ? Dates.Day(start)
        : $"{Dates.Day(start)} to {Dates.FinishDay(finish)}";

    /// <param name="person">Id of whom the page is about.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <param name="fill">Whether the form says what is known, and not what was typed.</param>
    private async Task<bool> LoadAsync(string person, CancellationToken cancel, bool fill = true)
    {
        _all = await directory.AllAsync(cancel);
        if (_all.FirstOrDefault(p => p.Id == person) is not { } row)
            return false;
        Row = row;
        Account = (await directory.AccountsAsync(cancel)).GetValueOrDefault(person);
        Away = await daysOff.OfAsync(person, cancel);
        _roles = await roles.AllOfAsync(User.PersonId(), User.IsOrganiser(), cancel);
        Tasks = await tasks.TasksOfAsync(person, [.. _roles.Keys], today.Date, cancel: cancel);
        var theirs = await directory.ProjectsOfAsync(person, cancel);
        MayEnterAll = User.IsOrganiser() || person == User.PersonId();
        _coordinated = [.. theirs.Where(p => _roles.GetValueOrDefault(p) == ProjectRole.Coordinator)];
        (_saved, _savedWeek) = (Told(row), row.Calendar);
        if (fill)
            FillProfile(_ => false);
        Handable = [.. Tasks.Where(t => _roles[t.Project] == ProjectRole.Coordinator).Select(t => (t.Project, t.ProjectName)).Distinct()];
        return true;
    }

    private RedirectResult Done(string said)
    {
        Say(said);
        return Redirect($"/people/{Row.Id}");
    }
}
