using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;
using Auxilium.Storage.People;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Mvc;

namespace Auxilium.Web.Pages.People;

/// <summary>The days off of somebody, and what they do to the plans of their projects.</summary>
public sealed partial class PersonModel
{
    [BindProperty]
    public string? From { get; set; }

    [BindProperty]
    public string? To { get; set; }

    [BindProperty]
    public string? Note { get; set; }

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

    /// <summary>Why somebody is off, for those whom it concerns.</summary>
    internal string NoteOf(TimeOffRow days) =>
        !MayEnterTime ? ""
        : days.Projects is null ? days.Note
        : Counts(days) ? $"{days.Note} · not in all projects"
        : " · entered for another project";

    /// <summary>What counts everywhere is taken away by those alone who may enter that.</summary>
    internal bool MayTakeAway(TimeOffRow days) => MayEnterAll || (days.Projects is { } counted && counted.Intersect(_coordinated).Any());

    /// <summary>Whether days off could count where they do not yet.</summary>
    internal bool MayCountToo(TimeOffRow days) => days.Projects is { } counted && (MayEnterAll || _coordinated.Except(counted).Any());

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
}
