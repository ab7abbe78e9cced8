using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Threading.Channels;
using Auxilium.Exchange;
using Auxilium.Exchange.Edits;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Levelling;
using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>What could be done about too much work. Nothing here changes a plan: what is proposed is made as an edit.</summary>
internal static class LevellingApi
{
    private const int MostBytes = 64 * 1024;

    /// <summary>Work in other projects counts for so many days.</summary>
    private const int DaysAhead = 730;

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    private static readonly byte[] NewLine = "\n"u8.ToArray();

    public static void Map(RouteGroupBuilder api)
    {
        var project = api.MapGroup("/projects/{id:guid}").WithTags("Load");
        project
            .MapPost("/levelling", LevelAsync)
            .RequireAuthorization(Rights.EditPlans)
            .WithSummary("Proposes which tasks to delay, so that people have time for them. Nothing is kept.")
            .WithDescription(
                "The body is { \"mode\": \"withinFloat\" or \"asLongAsItTakes\", \"people\": [ids] }, and may have “from” and "
                    + "“to” (days), “seed”, “restarts”, “timeLimit” (seconds, at most 30) and “wholeDays”. Answers lines of JSON: "
                    + "{ \"progress\": 0.35 } while it looks, { \"proposal\": … } at the end, whose edit can be sent as it is, "
                    + "whole or in parts. Ending the request ends the search."
            )
            .Accepts<object>("application/json")
            .Produces<LevellingDocument>(contentType: "application/x-ndjson")
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(422);
        project
            .MapPost("/tasks/{task}/ways-out", WaysOutAsync)
            .RequireAuthorization(Rights.Report)
            .WithSummary(
                "Ways out of somebody’s overbooked day by changing one task, the best first: each an edit with what it would do. The "
                    + "body is { \"person\": id, \"day\": \"2027-05-13\" }."
            )
            .Accepts<object>("application/json")
            .Produces<IReadOnlyList<WayOutDocument>>()
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(422);
    }

    private static async Task<IResult> LevelAsync(
        Guid id,
        HttpContext context,
        PlanStore store,
        LoadAcross load,
        Budgets budgets,
        Today today,
        CancellationToken cancel
    )
    {
        using var body = StrictJson.Parse(await RequestDocument.ReadAsync(context.Request, MostBytes));
        if (await store.LoadAsync(id, cancel) is not { } stored)
            return Problems.NoSuchProject();
        if (!LevellingBody.TryRead(body.RootElement, stored.Schedule.Plan, out var wish, out var problem, out var field))
            return Problems.Bad(problem, field);
        if (stored.Schedule.Plan.Project.ScheduleFrom == ScheduleFrom.Finish)
            return Problems.Bad(
                "Levelling delays tasks, and this plan is worked out from its finish, where each stands as late as it can: work it "
                    + "out from its start first.",
                "mode"
            );
        var found = await FoundAsync(load, id, wish.People, today.Date, cancel);
        wish = wish with { Elsewhere = found.Besides(id, today.Date) };
        var capacities = Capacities.Of(stored.Schedule.Plan).MeasuredBy(found.Capacities);
        // Until the answer is there as a whole, or nobody waits for it any more.
        context.Response.RegisterForDispose(await budgets.EnterAsync(context, cancel));
        return Results.Stream(stream => WriteAsync(stream, stored.Schedule, wish, capacities, today.Date, cancel), "application/x-ndjson");
    }

    private static Task<LoadFound> FoundAsync(
        LoadAcross load,
        Guid project,
        IReadOnlyCollection<string>? people,
        DateOnly today,
        CancellationToken cancel
    ) => load.OfAsync(new LoadQuestion(today, today.AddDays(DaysAhead)) { People = people, Asked = [project] }, today, cancel);

    private static async Task WriteAsync(
        Stream stream,
        Schedule schedule,
        LevellingWish wish,
        Capacities capacities,
        DateOnly today,
        CancellationToken cancel
    )
    {
        var progress = Channel.CreateBounded<double>(new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropOldest });
        var running = Task.Run(
            () =>
            {
                try
                {
                    return Leveller.Propose(schedule, wish, capacities, today, share => progress.Writer.TryWrite(share), cancel);
                }
                finally
                {
                    progress.Writer.Complete();
                }
            },
            cancel
        );
        var told = -1;
        await foreach (var share in progress.Reader.ReadAllAsync(cancel))
            if ((int)(share * 100) > told)
                await WriteLineAsync(stream, new { progress = (told = (int)(share * 100)) / 100.0 }, cancel);
        await WriteLineAsync(stream, new { proposal = LevellingDocument.Of(await running, schedule) }, cancel);
    }

    private static async Task WriteLineAsync(Stream stream, object line, CancellationToken cancel)
    {
        await JsonSerializer.SerializeAsync(stream, line, Json, cancel);
        await stream.WriteAsync(NewLine, cancel);
        await stream.FlushAsync(cancel);
    }

    private static async Task<IResult> WaysOutAsync(
        Guid id,
        string task,
        HttpContext context,
        PlanStore store,
        LoadAcross load,
        Storage.People.Directory directory,
        Budgets budgets,
        Today today,
        CancellationToken cancel
    )
    {
        using var body = StrictJson.Parse(await RequestDocument.ReadAsync(context.Request, MostBytes));
        var (person, text) = (TextOf(body.RootElement, "person"), TextOf(body.RootElement, "day"));
        if (person is null)
            return Problems.Bad("Say whose day it is: “person” is their id.", "person");
        if (text is null || !LoadApi.TryDay(text, default, out var day))
            return Problems.Bad($"“{text}” is not a day like 2027-05-13.", "day");
        if (await store.LoadAsync(id, cancel) is not { } stored)
            return Problems.NoSuchProject();
        if (stored.Schedule.Plan.Find(task) is null)
            return Results.Problem("This row is no longer in the plan.", statusCode: StatusCodes.Status404NotFound);
        var everybody = await directory.AllAsync(cancel);
        var found = await FoundAsync(load, id, null, today.Date, cancel);
        using var turn = await budgets.EnterAsync(context, cancel);
        var ways = WaysOut.Of(
            new EditContext(
                stored.Schedule,
                today.Date,
                [.. everybody.Where(p => p.LeftOn is null).Select(p => new Person(p.Id, p.Name, p.Initials, p.Email))]
            )
            {
                Cancel = cancel,
            },
            task,
            person,
            day,
            plan => Capacities.Of(plan).MeasuredBy(found.Capacities),
            StandInsOf(everybody, person),
            found.Besides(id, today.Date)
        );
        return Results.Ok(ways.Select(way => WayOutDocument.Of(way, everybody.ToDictionary(p => p.Id, p => p.Name))));
    }

    /// <summary>Those of the same team, then those of the same role.</summary>
    private static List<StandIn> StandInsOf(IReadOnlyList<Storage.Rows.PersonRow> everybody, string person)
    {
        var own = everybody.FirstOrDefault(p => p.Id == person);
        var others = everybody.Where(p => p.Id != person && p.LeftOn is null && own is not null).ToList();
        return
        [
            .. others.Where(p => p.Team.Length > 0 && p.Team == own!.Team).Select(p => Of(p, $"also in {p.Team}")),
            .. others
                .Where(p => p.Role.Length > 0 && p.Role == own!.Role && !(p.Team.Length > 0 && p.Team == own.Team))
                .Select(p => Of(p, $"also {p.Role}")),
        ];

        static StandIn Of(Storage.Rows.PersonRow row, string likeness) =>
            new(new Person(row.Id, row.Name, row.Initials, row.Email), likeness);
    }

    private static string? TextOf(JsonElement body, string field) =>
        body.ValueKind == JsonValueKind.Object && body.TryGetProperty(field, out var value) && value.ValueKind == JsonValueKind.String
            ? value.GetString()
            : null;
}

/// <summary>Reads what is to be levelled.</summary>
internal static class LevellingBody
{
    public static bool TryRead(JsonElement body, Plan plan, out LevellingWish wish, out string problem, out string field)
    {
        wish = new LevellingWish([], LevellingMode.WithinFloat);
        (problem, field) = ("", "");
        if (body.ValueKind != JsonValueKind.Object)
            return Wrong("", "The body says what to level: { \"mode\": \"withinFloat\", \"people\": [ids] }.", ref problem, ref field);
        foreach (var (name, value) in body.EnumerateObject().Select(property => (property.Name, property.Value)))
        {
            switch (name)
            {
                case "mode":
                    if (ModeOf(value) is not { } mode)
                        return Wrong(name, "“mode” must be withinFloat or asLongAsItTakes.", ref problem, ref field);
                    wish = wish with { Mode = mode };
                    break;
                case "people":
                    if (value.ValueKind != JsonValueKind.Array || value.EnumerateArray().Any(v => v.ValueKind != JsonValueKind.String))
                        return Wrong(name, "“people” is a list of ids.", ref problem, ref field);
                    wish = wish with { People = [.. value.EnumerateArray().Select(v => v.GetString()!)] };
                    if (wish.People.FirstOrDefault(id => plan.FindPerson(id) is null) is { } unknown)
                        return Wrong(name, $"Nobody on this plan has the id “{unknown}”.", ref problem, ref field);
                    break;
                case "from" or "to":
                    if (value.ValueKind != JsonValueKind.String || !LoadApi.TryDay(value.GetString(), default, out var day))
                        return Wrong(name, $"“{name}” is a day like 2027-05-13.", ref problem, ref field);
                    wish = name == "from" ? wish with { From = day } : wish with { To = day };
                    break;
                case "seed":
                    if (!TryWhole(value, int.MinValue, int.MaxValue, out var seed))
                        return Wrong(name, "“seed” is a whole number.", ref problem, ref field);
                    wish = wish with { Seed = seed };
                    break;
                case "restarts":
                    if (!TryWhole(value, 0, LevellingWish.MostRestarts, out var restarts))
                        return Wrong(
                            name,
                            string.Create(CultureInfo.InvariantCulture, $"“restarts” is 0 to {LevellingWish.MostRestarts:N0}."),
                            ref problem,
                            ref field
                        );
                    wish = wish with { Restarts = restarts };
                    break;
                case "timeLimit":
                    if (
                        value.ValueKind != JsonValueKind.Number
                        || !value.TryGetDecimal(out var seconds)
                        || seconds <= 0
                        || seconds > (decimal)LevellingWish.LongestTime.TotalSeconds
                    )
                        return Wrong(name, "“timeLimit” is a number of seconds, above 0 and at most 30.", ref problem, ref field);
                    wish = wish with { TimeLimit = TimeSpan.FromSeconds((double)seconds) };
                    break;
                case "wholeDays":
                    if (value.ValueKind is not (JsonValueKind.True or JsonValueKind.False))
                        return Wrong(name, "“wholeDays” is true or false.", ref problem, ref field);
                    wish = wish with { WholeDays = value.GetBoolean() };
                    break;
                default:
                    return Wrong(name, $"“{name}” is nothing that levelling knows.", ref problem, ref field);
            }
        }
        if (wish.People.IsEmpty)
            return Wrong("people", "Nobody is chosen to be levelled: choose somebody.", ref problem, ref field);
        return wish.To < wish.From ? Wrong("to", "The last day lies before the first: give a later one.", ref problem, ref field) : true;
    }

    private static LevellingMode? ModeOf(JsonElement value) =>
        (value.ValueKind == JsonValueKind.String ? value.GetString() : null) switch
        {
            "withinFloat" => LevellingMode.WithinFloat,
            "asLongAsItTakes" => LevellingMode.AsLongAsItTakes,
            _ => null,
        };

    private static bool TryWhole(JsonElement value, int least, int most, out int number)
    {
        number = 0;
        return value.ValueKind == JsonValueKind.Number && value.TryGetInt32(out number) && number >= least && number <= most;
    }

    private static bool Wrong(string at, string why, ref string problem, ref string field)
    {
        (problem, field) = (why, at);
        return false;
    }
}

/// <summary>What levelling proposes.</summary>
/// <param name="Edit">Makes all of it: an edit to send as it is; <c>null</c> where nothing better was found.</param>
/// <param name="Sentence">What it comes to.</param>
/// <param name="Unsolved">Days that moving tasks alone does not help.</param>
public sealed record LevellingDocument(
    JsonNode? Edit,
    string Sentence,
    string FinishBefore,
    string FinishAfter,
    IReadOnlyList<OverbookedDocument> People,
    IReadOnlyList<LevelledDocument> Moved,
    IReadOnlyList<DeadlineDocument> Deadlines,
    IReadOnlyList<UnsolvedDocument> Unsolved,
    int Restarts
)
{
    internal static LevellingDocument Of(LevellingProposal proposal, Schedule before)
    {
        var plan = before.Plan;
        return new LevellingDocument(
            proposal.Delays.IsEmpty ? null : JsonNode.Parse(EditJson.Write(new DelayTasks(proposal.Delays))),
            Said(proposal, before),
            proposal.Ripple.FinishBefore.ToString(),
            proposal.Ripple.FinishAfter.ToString(),
            [.. proposal.People.Select(person => OverbookedDocument.Of(person, plan.FindPerson(person.Person)?.Name))],
            [
                .. proposal.Moved.Select(task => new LevelledDocument(
                    task.Task,
                    plan.Index.NumberOf(plan.Index.RowOf(task.Task)),
                    plan.Find(task.Task)!.Name,
                    task.Before.Start.ToString(),
                    task.Before.Finish.ToString(),
                    task.After.Start.ToString(),
                    task.After.Finish.ToString(),
                    task.IsDelayed,
                    task.Reason
                )),
            ],
            [.. proposal.Ripple.Deadlines.Select(d => new DeadlineDocument(d.Task, d.Before.Count, d.After.Count))],
            [
                .. proposal.Unsolved.Select(day => new UnsolvedDocument(
                    day.Person,
                    plan.FindPerson(day.Person)?.Name ?? day.Person,
                    day.Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                    Math.Round(day.Load, 2),
                    Math.Round(day.Capacity, 2)
                )),
            ],
            proposal.Restarts
        );
    }

    private static string Said(LevellingProposal proposal, Schedule before)
    {
        var (was, now) = (proposal.People.Sum(p => p.Before), proposal.People.Sum(p => p.After));
        if (was == 0)
            return "Nobody of them is overbooked.";
        if (proposal.Delays.IsEmpty)
            return $"Moving tasks does not help: {Hours(was)} h stay overbooked.";
        var moved = proposal.Moved.Length;
        var finish =
            proposal.Ripple.FinishBefore == proposal.Ripple.FinishAfter
                ? $"the finish stays {Dates.FinishDay(proposal.Ripple.FinishBefore)}"
                : $"the finish moves from {Dates.FinishDay(proposal.Ripple.FinishBefore)} to "
                    + Dates.FinishDay(proposal.Ripple.FinishAfter);
        return $"{Hours(was)} h are overbooked, and {(now == 0 ? "none" : $"{Hours(now)} h")} would be. "
            + $"{moved} {(moved == 1 ? "task moves" : "tasks move")}; {finish}.";
    }

    internal static string Hours(decimal minutes) => Math.Round(minutes / 60, 1).ToString("0.#", CultureInfo.InvariantCulture);
}

/// <summary>By how many minutes, and on how many days, somebody is overbooked and would be.</summary>
public sealed record OverbookedDocument(string Person, string Name, decimal Before, decimal After, int DaysBefore, int DaysAfter)
{
    internal static OverbookedDocument Of(OverbookedPerson person, string? name) =>
        new(
            person.Person,
            name ?? person.Person,
            Math.Round(person.Before, 2),
            Math.Round(person.After, 2),
            person.DaysBefore,
            person.DaysAfter
        );
}

/// <param name="IsDelayed">It would be delayed itself; else what comes before it moves it.</param>
public sealed record LevelledDocument(
    string Task,
    string Outline,
    string Name,
    string StartBefore,
    string FinishBefore,
    string Start,
    string Finish,
    bool IsDelayed,
    string Reason
);

public sealed record UnsolvedDocument(string Person, string Name, string Day, decimal LoadMinutes, decimal CapacityMinutes);

/// <summary>A way out of an overbooked day.</summary>
/// <param name="Kind">Such as <c>laterWithinFloat</c>.</param>
/// <param name="Edit">Does it: an edit to send as it is.</param>
/// <param name="OverBefore">Minutes that people are overbooked by, all together.</param>
public sealed record WayOutDocument(
    string Kind,
    string Label,
    JsonNode Edit,
    IReadOnlyList<TextRun> Sentence,
    string FinishBefore,
    string FinishAfter,
    int Moved,
    int MissedDeadlines,
    decimal OverBefore,
    decimal OverAfter,
    IReadOnlyList<OverbookedDocument> People
)
{
    internal static WayOutDocument Of(WayOut way, IReadOnlyDictionary<string, string> names) =>
        new(
            JsonNames.Camel(way.Kind),
            way.Label,
            JsonNode.Parse(EditJson.Write(way.Edit))!,
            way.Sentence,
            way.Ripple.FinishBefore.ToString(),
            way.Ripple.FinishAfter.ToString(),
            way.Ripple.Moves.Count,
            way.MissedDeadlines,
            Math.Round(way.OverBefore, 2),
            Math.Round(way.OverAfter, 2),
            [.. way.People.Select(person => OverbookedDocument.Of(person, names.GetValueOrDefault(person.Person)))]
        );
}
