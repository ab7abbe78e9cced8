using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Mvc.Rendering;

namespace Auxilium.Web.Pages.Projects;

/// <summary>Makes a project of a name, a start date or one it must be finished by, and a coordinator.</summary>
[Authorize(Rights.MakeProjects)]
[RequestSizeLimit(64 * 1024)]
public sealed class NewModel(PlanStore store, Organisation organisation, Folders folders, Today today) : PageModel
{
    /// <summary>Public holidays are entered for this year and so many more.</summary>
    private const int HolidayYears = 3;

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

    [BindProperty]
    public Guid? InFolder { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    public IReadOnlyList<SelectListItem> FolderChoices { get; private set; } = [];

    public IReadOnlyList<SelectListItem> People { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken cancel)
    {
        Coordinator = User.PersonId();
        Start = today.Date.ToString("d MMM yyyy", CultureInfo.InvariantCulture);
        await ListPeopleAsync(cancel);
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        var directory = await ListPeopleAsync(cancel);
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
        if (!ModelState.IsValid)
            return Page();
        var empty = WithCalendar(Planning.Plans.Plan.Empty(name, default), await organisation.FindAsync(cancel));
        var project = empty.Project with
        {
            Start = start?.AsStart(empty.ProjectCalendar),
            Status = Status,
            Colour = colour,
            Priority = (int)priority!,
            Note = note,
        };
        var finish = finishBy?.AsFinish(empty.ProjectCalendar);
        var plan = empty with
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
        var stored = await store.CreateAsync(plan, coordinator!, false, cancel: cancel);
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
        return Redirect($"/projects/{stored.Project}");
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

    /// <summary>With the working days of the organisation.</summary>
    private Planning.Plans.Plan WithCalendar(Planning.Plans.Plan plan, OrganisationRow? settings)
    {
        if (settings is null || (settings.Calendar == WorkCalendar.Weekdays.Id && settings.Holidays is null))
            return plan;
        var week = ReadyMadeCalendars.All.FirstOrDefault(c => c.Id == settings.Calendar) ?? WorkCalendar.Weekdays;
        var holidays = PublicHolidays.Sets.FirstOrDefault(set => set.Id == settings.Holidays);
        var year = today.Date.Year;
        var calendar = week with
        {
            Id = "organisation",
            Name = holidays is null ? week.Name : $"{week.Name}, holidays of {holidays.Name}",
            Exceptions = holidays is null ? [] : [.. holidays.Between(year, Math.Min(year + HolidayYears, 2100))],
        };
        return plan with { Calendars = [calendar], Project = plan.Project with { Calendar = calendar.Id } };
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

    /// <summary>Whether a field has a problem, as <c>aria-invalid</c> says it.</summary>
    public string Has(string field) => ModelState.TryGetValue(field, out var entry) && entry.Errors.Count > 0 ? "true" : "false";

    private async Task<IReadOnlyList<Person>> ListPeopleAsync(CancellationToken cancel)
    {
        var directory = await store.DirectoryAsync(cancel);
        People = [.. directory.Select(p => new SelectListItem(p.Name, p.Id))];
        FolderChoices = [.. (await folders.AllAsync(cancel)).Select(f => new SelectListItem(f.Name, f.Id.ToString()))];
        return directory;
    }
}
