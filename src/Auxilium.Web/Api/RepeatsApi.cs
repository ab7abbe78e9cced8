using System.Text.Json;
using Auxilium.Exchange;
using Auxilium.Exchange.Edits;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Words;
using Auxilium.Storage.Plans;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>When a task would come again, before its rule is kept.</summary>
internal static class RepeatsApi
{
    private const int MostBytes = 16 * 1024;

    public static void Map(RouteGroupBuilder api) =>
        api.MapPost("/projects/{id:guid}/tasks/{task}/repeats", ReadAsync)
            .WithTags("Projects")
            .RequireAuthorization(Rights.Report)
            .WithSummary("A rule in plain words, with every date it gives. Nothing is kept: “repeatTask” does that.")
            .WithDescription(
                "The body is a rule as “repeatTask” takes it: { \"every\": \"week\", \"interval\": 2, \"on\": [\"tue\"], \"from\": "
                    + "\"2027-05-04T18:30\", \"length\": \"2h\" }, with “until” or “times”, and “closed” being next, skip or keep."
            )
            .Accepts<object>("application/json")
            .Produces<RepeatDocument>()
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(422);

    private static async Task<IResult> ReadAsync(
        Guid id,
        string task,
        HttpContext context,
        PlanStore store,
        TaskTalk talk,
        Today today,
        CancellationToken cancel
    )
    {
        using var body = StrictJson.Parse(await RequestDocument.ReadAsync(context.Request, MostBytes));
        if (await store.LoadAsync(id, cancel) is not { } stored)
            return Problems.NoSuchProject();
        var plan = stored.Schedule.Plan;
        if (plan.Find(task) is not { } row)
            return Results.Problem("This row is no longer in the plan.", statusCode: StatusCodes.Status404NotFound);
        var edit = JsonSerializer.SerializeToElement(
            new
            {
                type = "repeatTask",
                task,
                rule = body.RootElement,
            }
        );
        var near = stored.Schedule.IsOff(plan.Index.RowOf(task)) ? today.Date : stored.Schedule.StartOf(task).Date;
        var read = (RepeatTask)new EditJson(today.Date, near, plan.Project.Units).Read(edit);
        var spoken = (await talk.CountsAsync(id, cancel)).Select(c => c.Task).ToHashSet();
        var (rule, occurrences) = SeriesEdits.Rehearse(plan, row, read.Rule, stored.Schedule);
        return Results.Ok(RepeatDocument.Of(rule, occurrences, SeriesText.Of(stored.Schedule, read, spoken)));
    }
}

/// <param name="Sentence">Such as "Every week on Tue at 18:30, 2 hours each: 9 times, from Tue 4 May to Tue 29 Jun."</param>
/// <param name="Dates">Each of them.</param>
/// <param name="Change">What becomes of the occurrences there are, such as "Of the 9 so far, 8 stay as they are and 1 is removed; 2 are
/// added."; nothing for a task that does not repeat yet.</param>
public sealed record RepeatDocument(string Sentence, IReadOnlyList<RepeatDate> Dates, string Change)
{
    internal static RepeatDocument Of(RepeatRule rule, IReadOnlyList<Occurrence> occurrences, string change)
    {
        var words = RepeatText.Of(rule);
        var (first, last) = (DayOf(occurrences[0]), DayOf(occurrences[^1]));
        var span = occurrences.Count == 1 ? $"once, on {first}" : $"{occurrences.Count} times, from {first} to {last}";
        return new RepeatDocument(
            $"{char.ToUpperInvariant(words[0])}{words[1..]}: {span}.",
            [.. occurrences.Select(RepeatDate.Of)],
            change
        );

        static string DayOf(Occurrence occurrence) => Planning.Words.Dates.Day(occurrence.Start);
    }
}

/// <param name="Start">When it begins.</param>
/// <param name="Text">The same in words, such as "Tue 1 Jun, as Mon 31 May has no work".</param>
/// <param name="Moved">Whether a day without work moved it.</param>
public sealed record RepeatDate(string Start, string Text, bool Moved)
{
    internal static RepeatDate Of(Occurrence occurrence)
    {
        var day = Dates.Day(occurrence.Start);
        var text = occurrence.IsMoved ? $"{day}, as {Dates.Day(occurrence.Day)} has no work" : day;
        return new RepeatDate(occurrence.Start.ToString(), text, occurrence.IsMoved);
    }
}
