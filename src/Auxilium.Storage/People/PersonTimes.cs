using System.Collections.Immutable;
using System.Text.Json;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Load;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.People;

/// <summary>How much time people have across projects: their own week, else the working days of the organisation (rule A1).</summary>
public static class PersonTimes
{
    /// <summary>Availability as it is kept.</summary>
    public static ImmutableArray<Availability> Read(string? json) =>
        json is null ? [] : JsonSerializer.Deserialize<ImmutableArray<Availability>>(json);

    /// <summary>Availability to keep; <c>null</c> for all of the time.</summary>
    public static string? Write(ImmutableArray<Availability> stretches) => stretches.IsEmpty ? null : JsonSerializer.Serialize(stretches);

    /// <summary>The time of everybody in the organisation.</summary>
    internal static async Task<Capacities> OfAllAsync(
        AuxiliumDb db,
        OrganisationRow? organisation,
        IReadOnlyCollection<PersonRow> people,
        DateOnly today,
        CancellationToken cancel
    )
    {
        var common = WorkingDays.Of(organisation, today);
        var ids = people.Select(p => p.Id).ToList();
        var away = (
            await db
                .TimeOff.AsNoTracking()
                .Where(t => ids.Contains(t.PersonId) && t.Projects == null)
                .OrderBy(t => t.From)
                .ToListAsync(cancel)
        ).ToLookup(t => t.PersonId);
        var own = people
            .Where(person => person.Calendar is not null || away.Contains(person.Id))
            .Select(person => OwnTimes.TimeOf(person.Calendar, away[person.Id]) with { Id = person.Id, Name = person.Id, Base = Common })
            .ToList();
        var book = new CalendarBook([common with { Id = Common }, .. own]);
        var known = own.Select(calendar => calendar.Id).ToHashSet();
        var all = new Capacities(book.WorkTimeOf(Common));
        foreach (var person in people)
            all.Add(person.Id, book.WorkTimeOf(known.Contains(person.Id) ? person.Id : Common), Read(person.Availability));
        return all;
    }

    /// <summary>No person has an id with a blank.</summary>
    private const string Common = "the organisation";
}

/// <summary>The working days of the organisation.</summary>
public static class WorkingDays
{
    /// <summary>Public holidays are known for this year and so many more.</summary>
    private const int HolidayYears = 3;

    /// <summary>What new plans go by, and people across projects.</summary>
    public static WorkCalendar Of(OrganisationRow? settings, DateOnly today)
    {
        if (settings is null)
            return WorkCalendar.Weekdays;
        var week = ReadyMadeCalendars.All.FirstOrDefault(c => c.Id == settings.Calendar) ?? WorkCalendar.Weekdays;
        var holidays = PublicHolidays.Sets.FirstOrDefault(set => set.Id == settings.Holidays);
        return week with
        {
            Name = holidays is null ? week.Name : $"{week.Name}, holidays of {holidays.Name}",
            Exceptions = holidays is null ? [] : [.. holidays.Between(today.Year, Math.Min(today.Year + HolidayYears, 2100))],
        };
    }
}
