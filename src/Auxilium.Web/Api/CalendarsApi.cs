using System.Globalization;
using System.Text.Json;
using Auxilium.Exchange;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Typing;
using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>Calendars: ready-made ones, public holidays by rule, and how a year of one looks.</summary>
internal static class CalendarsApi
{
    private const int MostBytes = 1024 * 1024;

    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/calendars/ready-made", () => Results.Ok(ReadyMadeCalendars.All.Select(CalendarJson.Write)))
            .RequireAuthorization(Rights.SignedIn)
            .WithTags("Calendars")
            .WithSummary("Week patterns to begin a calendar from, as plan documents have them.")
            .Produces<IReadOnlyList<object>>();
        // Filters of a plan that is seen by a link are typed, too.
        api.MapGet("/days", Day)
            .AllowAnonymous()
            .WithTags("Calendars")
            .WithSummary(
                "Which day a text means, as people type it: 12 May, 2027-05-12, today. Without a year it is close to the day “near”."
            )
            .Produces<ReadDayDocument>()
            .ProducesProblem(400);
        api.MapGet("/holidays", () => Results.Ok(PublicHolidays.Sets.Select(s => new HolidaySetDocument(s.Id, s.Name))))
            .RequireAuthorization(Rights.SignedIn)
            .WithTags("Calendars")
            .WithSummary("The countries whose public holidays can be worked out.")
            .Produces<IReadOnlyList<HolidaySetDocument>>();
        api.MapGet("/holidays/{set}", Holidays)
            .RequireAuthorization(Rights.SignedIn)
            .WithTags("Calendars")
            .WithSummary("The public holidays of a country from one year to another, both included.")
            .Produces<IReadOnlyList<HolidayDocument>>()
            .ProducesProblem(400)
            .ProducesProblem(404);
        api.MapPost("/projects/{id:guid}/calendars/year", YearAsync)
            .RequireAuthorization(Rights.LookAtPlans)
            .WithTags("Calendars")
            .WithSummary(
                "How a year of a calendar looks, kept or not: the body is a calendar as plan documents have it; its base is one of "
                    + "the plan's."
            )
            .Accepts<object>("application/json")
            .Produces<YearDocument>()
            .ProducesProblem(400)
            .ProducesProblem(404);
    }

    private static IResult Day(string? text, DateOnly? near, Today today)
    {
        if (!DateText.TryParse(text, today.Date, out var day, out var problem, near))
            return Problems.Bad(problem, "date");
        return Results.Ok(new ReadDayDocument(day.Date, day.Date.ToString("d MMM yyyy", CultureInfo.InvariantCulture)));
    }

    private static IResult Holidays(string set, int from, int to)
    {
        if (PublicHolidays.Sets.FirstOrDefault(s => s.Id == set) is not { } found)
            return Results.Problem("There are no holidays by that name.", statusCode: StatusCodes.Status404NotFound);
        if (from < 1990 || to > 2100 || to < from)
            return Problems.Bad("Give years from 1990 to 2100, the last not before the first.", "years");
        return Results.Ok(found.Between(from, to).Select(h => new HolidayDocument($"{h.From:yyyy-MM-dd}", h.Name)));
    }

    private static async Task<IResult> YearAsync(
        Guid id,
        int year,
        HttpContext context,
        PlanStore store,
        Today today,
        CancellationToken cancel
    )
    {
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        if (year is < 1990 or > 2100)
            return Problems.Bad("Give a year from 1990 to 2100.", "year");
        using var body = StrictJson.Parse(await RequestDocument.ReadAsync(context.Request, MostBytes));
        var calendar = CalendarReader.ReadAlone(body.RootElement, "$", today.Date);
        var known = plan.Schedule.Plan.Calendars;
        var book = new CalendarBook([.. known.Where(c => c.Id != calendar.Id), calendar]);
        if (calendar.Base is { } on && book.Find(on) is null)
            throw new UnreadableDocumentException([new DocumentError("$.base", "unknownId", $"There is no calendar “{on}” to build on.")]);
        if (book.HasCircularBase(calendar))
            throw new UnreadableDocumentException([
                new DocumentError(
                    "$.base",
                    "circle",
                    $"“{calendar.Name}” would build on itself: choose another calendar for it to build on."
                ),
            ]);
        return Results.Ok(YearDocument.Of(book, calendar, year));
    }
}

public sealed record HolidaySetDocument(string Id, string Name);

public sealed record HolidayDocument(string Day, string Name);

/// <summary>A year of a calendar.</summary>
/// <param name="Days">From 1 January on, one for each day.</param>
/// <param name="Hours">Working hours of the whole year.</param>
public sealed record YearDocument(int Year, IReadOnlyList<YearDay> Days, double Hours)
{
    internal static YearDocument Of(CalendarBook book, WorkCalendar calendar, int year)
    {
        var work = book.WorkTimeOf(calendar.Id);
        var named = book.ExceptionsOf(calendar);
        var first = new DateOnly(year, 1, 1);
        var days = Enumerable
            .Range(0, first.AddYears(1).DayNumber - first.DayNumber)
            .Select(first.AddDays)
            .Select(day => new YearDay(work.WorkedOn(day), named.LastOrDefault(e => e.From <= day && day <= e.To)?.Name))
            .ToList();
        return new YearDocument(year, days, Math.Round(days.Sum(d => d.Minutes) / 60.0, 1));
    }
}

/// <param name="Minutes">Working minutes.</param>
/// <param name="Name">Of the exception that the day is in; <c>null</c> on a day of the week pattern.</param>
public sealed record YearDay(int Minutes, string? Name);

/// <param name="Text">As people read it: 12 May 2027.</param>
public sealed record ReadDayDocument(DateOnly Day, string Text);
