using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Mvc.Rendering;

namespace Auxilium.Web.Pages.Projects;

/// <summary>Makes a project of a name, a start date or one it must be finished by, and a coordinator.</summary>
[Authorize(Rights.MakeProjects)]
[RequestSizeLimit(64 * 1024)]
public sealed class NewModel(PlanStore store, Organisation organisation, Today today) : PageModel
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

    public IReadOnlyList<SelectListItem> People { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken cancel)
    {
        Coordinator = User.PersonId();
        Start = today.Date.ToString("d MMM yyyy", System.Globalization.CultureInfo.InvariantCulture);
        await ListPeopleAsync(cancel);
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken cancel)
    {
        var directory = await ListPeopleAsync(cancel);
        var name = "";
        try
        {
            name = ProjectEdits.CheckName(Name);
        }
        catch (EditRefusedException refused)
        {
            ModelState.AddModelError(nameof(Name), refused.Message);
        }
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
        var project = empty.Project with { Start = start?.AsStart(empty.ProjectCalendar) };
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
        return Redirect($"/projects/{stored.Project}");
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
        return directory;
    }
}
