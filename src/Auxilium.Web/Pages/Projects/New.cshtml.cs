using System.Globalization;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Starting;
using Auxilium.Planning.Typing;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;
using Auxilium.Web.Api;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;

namespace Auxilium.Web.Pages.Projects;

/// <summary>Makes a project of a name, a start date or one it must be finished by, and a coordinator.</summary>
[Authorize(Rights.MakeProjects)]
[RequestSizeLimit(RequestDocument.MostBytes)]
public sealed class NewModel(PlanStore store, Organisation organisation, Folders folders, StartingPoints points, Today today) : FormPage
{
    /// <summary>What it starts from, as <see cref="StartingPoints"/> calls it.</summary>
    [BindProperty(SupportsGet = true)]
    public string? From { get; set; }

    /// <summary>A plan document.</summary>
    [BindProperty]
    public IFormFile? Upload { get; set; }

    /// <summary>The earlier project, where that is what it starts from.</summary>
    [BindProperty]
    public string? Earlier { get; set; }

    [BindProperty]
    public WhoComes People { get; set; }

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public string? Start { get; set; }

    [BindProperty]
    public string? FinishBy { get; set; }

    [BindProperty]
    public string? Coordinator { get; set; }

    [BindProperty]
    public ProjectStatus Status { get; set; } = ProjectStatus.Active;

    [BindProperty]
    public string? Colour { get; set; }

    [BindProperty]
    public string? Priority { get; set; } = PlainFacts.Priority.Usual.ToString(CultureInfo.InvariantCulture);

    /// <summary>Whether an earlier project brings its costs and budgets along.</summary>
    [BindProperty]
    public bool WithCosts { get; set; }

    [BindProperty]
    public Guid? InFolder { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    public IReadOnlyList<SelectListItem> FolderChoices { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Coordinators { get; private set; } = [];

    public IReadOnlyList<Template> Templates { get; private set; } = [];

    public IReadOnlyList<(Guid Id, string Name)> Projects { get; private set; } = [];

    /// <summary>Whether an earlier project is chosen, whichever.</summary>
    public bool IsEarlier => From is not null && From.StartsWith("project", StringComparison.Ordinal);

    public async Task OnGetAsync(CancellationToken cancel)
    {
        Coordinator = User.PersonId();
        Start = today.Date.ToString("d MMM yyyy", CultureInfo.InvariantCulture);
        if (IsEarlier)
            Earlier = From;
        await ListAsync(cancel);
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        var directory = await ListAsync(cancel);
        var name = Checked(nameof(Name), () => ProjectEdits.CheckName(Name)) ?? "";
        var note = Checked(nameof(Note), () => SetProjectNote.CheckNote(Note)) ?? "";
        if (!PlainFacts.Priority.TryType(Priority ?? "", out var priority, out var unfit))
            ModelState.AddModelError(nameof(Priority), unfit);
        var colour = PlainFacts.Colour.Tidy(Colour);
        if (PlainFacts.Colour.WhyRefused(colour) is { } noColour)
            ModelState.AddModelError(nameof(Colour), noColour);
        var (start, finishBy) = (Read(nameof(Start), Start), Read(nameof(FinishBy), FinishBy));
        if (string.IsNullOrWhiteSpace(Start) && string.IsNullOrWhiteSpace(FinishBy))
            ModelState.AddModelError(
                nameof(Start),
                "A date is missing: type the day it starts, such as 12 May, or below the day it must be finished by."
            );
        var coordinator = directory.FirstOrDefault(p => p.Id == Coordinator);
        if (coordinator is null)
            ModelState.AddModelError(nameof(Coordinator), "Choose who coordinates the project.");
        var settings = await organisation.FindAsync(cancel);
        var from = IsEarlier ? Earlier : From;
        var other = StartingPoints.HasTasks(from) ? await points.FindAsync(from!, User, cancel) : null;
        if (other is null && (StartingPoints.HasTasks(from) || IsEarlier))
            Wrong(nameof(From), "Choose a template or a project from the list: this one is gone, or none was chosen.");
        var costs = WithCosts && IsEarlier && other is not null ? await points.CostsAsync(from!, User, cancel) : Ledger.None;
        if (costs is null)
            Wrong(
                nameof(WithCosts),
                "What that project costs is for its coordinators and whom they let see it: ask one of them, or start without it."
            );
        if (!ModelState.IsValid)
            return Page();
        var plan = other is null ? Empty(name, start, finishBy, settings) : Started(other, start, finishBy, directory, settings, cancel);
        if (plan is null)
            return Page();
        plan = plan with
        {
            Project = plan.Project with
            {
                Name = name,
                Status = Status,
                Colour = colour ?? plan.Project.Colour,
                Priority = (int)priority!,
                Note = note.Length > 0 ? note : plan.Project.Note,
            },
        };
        var stored = await store.CreateAsync(plan, coordinator!, false, ledger: costs, cancel: cancel);
        if (InFolder is { } folder)
        {
            try
            {
                await folders.PutAsync(stored.Project, folder, cancel);
            }
            catch (FolderRefusedException)
            {
                // Somebody has deleted it meanwhile: the project is made, and lies in none.
            }
        }
        return Redirect(From == StartingPoints.List ? $"/projects/{stored.Project}#paste" : $"/projects/{stored.Project}");
    }

    /// <summary>“23 tasks, 5 milestones, about 11 weeks”</summary>
    public static string Told(Template template) =>
        $"{Counted(template.Tasks, "task")}, {Counted(template.Milestones, "milestone")}, about "
        + (template.Days > 10 ? Counted((template.Days + 2) / 5, "week") : Counted(template.Days, "day of work", "days of work"));

    private static string Counted(int count, string one, string? many = null) => $"{count} {(count == 1 ? one : many ?? $"{one}s")}";

    /// <summary>Makes a project of a plan document, as it was saved.</summary>
    public async Task<IActionResult> OnPostFileAsync(CancellationToken cancel)
    {
        ModelState.Clear();
        if (Upload is null or { Length: 0 })
            Wrong(nameof(Upload), "Choose a plan document: Export… of a project saves one.");
        else
        {
            var content = new byte[Upload.Length];
            await using (var from = Upload.OpenReadStream())
                await from.ReadExactlyAsync(content, cancel);
            try
            {
                var read = PlanDocumentReader.ReadWhole(content, cancel);
                DocumentMoney.Check(read, HttpContext);
                var stored = await store.CreateAsync(read.Plan, User.Person(), User.IsOrganiser(), read.Hours, read.Ledger, cancel);
                return Redirect($"/projects/{stored.Project}");
            }
            catch (UnreadableDocumentException unreadable)
            {
                Wrong(
                    nameof(Upload),
                    $"“{Upload.FileName}” is no plan document: {unreadable.Errors[0].Path}: {unreadable.Errors[0].Message}"
                );
            }
            catch (Exception refused) when (refused is PersonProblemException or HoursProblemException)
            {
                Wrong(nameof(Upload), refused.Message);
            }
        }
        await OnGetAsync(cancel);
        return Page();
    }

    private Planning.Plans.Plan Empty(string name, DateOrTime? start, DateOrTime? finishBy, OrganisationRow? settings)
    {
        var empty = OrganisationCalendar.Of(Planning.Plans.Plan.Empty(name, default), settings, today.Date);
        var project = empty.Project with { Start = start?.AsStart(empty.ProjectCalendar) };
        var finish = finishBy?.AsFinish(empty.ProjectCalendar);
        return empty with
        {
            Project = project.Start is null
                ? project with
                {
                    ScheduleFrom = ScheduleFrom.Finish,
                    Finish = finish,
                }
                : project with
                {
                    FinishBy = finish,
                },
        };
    }

    /// <summary>The plan of a template or project on its new days; <c>null</c> where it has been said why it cannot be there.</summary>
    private Planning.Plans.Plan? Started(
        Planning.Plans.Plan other,
        DateOrTime? start,
        DateOrTime? finishBy,
        IReadOnlyList<Person> directory,
        OrganisationRow? settings,
        CancellationToken cancel
    )
    {
        var here = directory.Select(person => person.Id).ToHashSet();
        try
        {
            // What ships with the product goes by the working days of the organisation.
            var known = other.Calendars.IsEmpty ? OrganisationCalendar.Of(other, settings, today.Date) : other;
            return new FreshStart(start, finishBy, People, today.Date) { IsHere = here.Contains }.Of(known, cancel);
        }
        catch (EditRefusedException refused)
        {
            Wrong(start is null ? nameof(FinishBy) : nameof(Start), refused.Message);
        }
        catch (UnsoundPlanException unsound)
        {
            Wrong(nameof(From), $"A project cannot start from this: {unsound.Message}");
        }
        return null;
    }

    /// <summary>What was typed, once it is checked; <c>null</c> where it has been said what is wrong with it.</summary>
    private string? Checked(string field, Func<string> check)
    {
        try
        {
            return check();
        }
        catch (EditRefusedException refused)
        {
            ModelState.AddModelError(field, refused.Message);
            return null;
        }
    }

    /// <summary>A date as typed. Without a year it is in the ten months to come, or the last two.</summary>
    private DateOrTime? Read(string field, string? text)
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        if (DateText.TryParse(text, today.Date, out var date, out var problem, today.Date.AddDays(120)))
            return date;
        ModelState.AddModelError(field, problem);
        return null;
    }

    private async Task<IReadOnlyList<Person>> ListAsync(CancellationToken cancel)
    {
        var directory = await store.DirectoryAsync(cancel);
        Coordinators = [.. directory.Select(p => new SelectListItem(p.Name, p.Id))];
        FolderChoices = [.. (await folders.AllAsync(cancel)).Select(f => new SelectListItem(f.Name, f.Id.ToString()))];
        (Templates, Projects) = (await points.TemplatesAsync(cancel), await points.ProjectsAsync(User, cancel));
        return directory;
    }
}
