using System.Text.Json;
using System.Text.Json.Nodes;
using System.Threading.Channels;
using Auxilium.Exchange.Edits;
using Auxilium.Planning.CheckUp;
using Auxilium.Planning.Forecasting;
using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;
using Auxilium.Storage.Access;
using Auxilium.Storage.Money;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>What can be asked about a plan: a task's card, whether the plan is sound, when it may really be finished.</summary>
internal static class ChecksApi
{
    private static readonly byte[] NewLine = "\n"u8.ToArray();

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    public static void Map(RouteGroupBuilder api)
    {
        var project = api.MapGroup("/projects/{id:guid}").WithTags("Checks").RequireAuthorization(Rights.LookAtPlans);
        project
            .MapGet("/tasks/{task}", CardAsync)
            .WithSummary("Everything about one task: its links both ways, dates, work and why it is where it is.")
            .Produces<CardDocument>()
            .ProducesProblem(404);
        project
            .MapGet("/check-up", CheckUpAsync)
            .WithSummary("What may be wrong with the plan, why it matters, and edits that mend it.")
            .Produces<IReadOnlyList<FindingDocument>>()
            .ProducesProblem(404);
        project
            .MapGet("/forecast", ForecastAsync)
            .WithSummary("When the plan may really be finished, from thousands of runs with lengths drawn from their ranges.")
            .WithDescription(
                "Answers lines of JSON: { \"progress\": 0.35 } while it runs, { \"forecast\": … } at the end. Ending the request ends "
                    + "the runs. runs is 1 to 100,000 (10,000), seed any whole number (1), spread pertBeta or triangular."
            )
            .Produces<ForecastDocument>(contentType: "application/x-ndjson")
            .ProducesProblem(400)
            .ProducesProblem(404);
    }

    private static async Task<IResult> CardAsync(Guid id, string task, PlanStore store, CancellationToken cancel)
    {
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        return plan.Schedule.Plan.Index.TryFind(task, out var row)
            ? Results.Ok(CardDocument.Of(plan.Version, plan.Schedule, row))
            : Results.Problem("This row is no longer in the plan.", statusCode: StatusCodes.Status404NotFound);
    }

    private static async Task<IResult> CheckUpAsync(
        Guid id,
        HttpContext context,
        PlanStore store,
        Hours hours,
        LoadAcross load,
        ProjectMoney money,
        ProjectRoles roles,
        Budgets budgets,
        Today today,
        CancellationToken cancel
    )
    {
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        var costs = await context.HasMoneyAsync(roles)
            ? MoneyCheck.Of((await money.OfAsync(plan, today.Date, null, cancel)).Money, await money.TextAsync(cancel))
            : [];
        var worked = await hours.ByTaskAsync(id, cancel);
        // What is done elsewhere matters only where something was delayed for it.
        OtherWork? others = null;
        if (plan.Schedule.Plan.Tasks.Any(task => task.DelayedUntil is not null))
        {
            var found = await load.OfAsync(
                new LoadQuestion(today.Date, today.Date.AddDays(LoadQuestion.MostDays - 1)) { Asked = [id] },
                today.Date,
                cancel
            );
            others = new OtherWork(Capacities.Of(plan.Schedule.Plan).MeasuredBy(found.Capacities), found.Besides(id, today.Date));
        }
        using var turn = await budgets.EnterAsync(context, cancel);
        return Results.Ok(
            PlanCheck
                .Of(plan.Schedule, today.Date, worked, others)
                .Concat(costs)
                .Select(finding => FindingDocument.Of(finding, plan.Schedule.Plan))
        );
    }

    private static async Task<IResult> ForecastAsync(
        Guid id,
        HttpContext context,
        PlanStore store,
        Budgets budgets,
        CancellationToken cancel,
        int runs = 10_000,
        int seed = 1,
        string spread = "pertBeta"
    )
    {
        if (runs is < 1 or > ForecastOptions.MostRuns)
            return Problems.Bad($"Give a number of runs from 1 to {ForecastOptions.MostRuns:N0}.", "runs");
        if (!Enum.TryParse<SpreadKind>(spread, ignoreCase: true, out var kind) || !Enum.IsDefined(kind) || int.TryParse(spread, out _))
            return Problems.Bad("“spread” must be pertBeta or triangular.", "spread");
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        if (ForecastOptions.MostRunsOf(plan.Schedule.Plan.Tasks.Length) is var most && runs > most)
            return Problems.Bad(
                $"This plan has {plan.Schedule.Plan.Tasks.Length:N0} rows, of which at most {most:N0} runs are made: ask for fewer.",
                "runs"
            );
        // Until the answer is there as a whole, or nobody waits for it any more.
        context.Response.RegisterForDispose(await budgets.EnterAsync(context, cancel));
        return Results.Stream(stream => WriteAsync(stream, plan, new ForecastOptions(runs, seed, kind), cancel), "application/x-ndjson");
    }

    private static async Task WriteAsync(Stream stream, StoredPlan plan, ForecastOptions options, CancellationToken cancel)
    {
        var progress = Channel.CreateBounded<double>(new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropOldest });
        var running = Task.Run(
            () =>
            {
                try
                {
                    return Forecast.Run(plan.Schedule, options, new Told(progress.Writer), cancel);
                }
                finally
                {
                    progress.Writer.Complete();
                }
            },
            cancel
        );
        await foreach (var share in progress.Reader.ReadAllAsync(cancel))
            await WriteLineAsync(stream, new { progress = Math.Round(share, 3) }, cancel);
        try
        {
            await WriteLineAsync(stream, new { forecast = ForecastDocument.Of(await running, options) }, cancel);
        }
        catch (UnsoundPlanException unsound)
        {
            await WriteLineAsync(stream, new { problem = unsound.Problems[0].Message }, cancel);
        }
    }

    private static async Task WriteLineAsync(Stream stream, object line, CancellationToken cancel)
    {
        await JsonSerializer.SerializeAsync(stream, line, Json, cancel);
        await stream.WriteAsync(NewLine, cancel);
        await stream.FlushAsync(cancel);
    }

    private sealed class Told(ChannelWriter<double> writer) : IProgress<double>
    {
        public void Report(double value) => writer.TryWrite(value);
    }
}

/// <param name="Kind">Such as <c>notLinked</c>.</param>
/// <param name="Fix">What would mend it: an edit to send as it is.</param>
public sealed record FindingDocument(string Kind, IReadOnlyList<FoundTask> Tasks, string Sentence, string Why, FixDocument? Fix)
{
    internal static FindingDocument Of(Finding finding, Plan plan) =>
        new(
            JsonNames.Camel(finding.Kind),
            [.. finding.Tasks.Select(id => new FoundTask(id, plan.Index.NumberOf(plan.Index.RowOf(id)), plan.Find(id)!.Name))],
            finding.Sentence,
            finding.Why,
            finding.Fix is { } fix ? new FixDocument(fix.Label, JsonNode.Parse(EditJson.Write(fix.Edit))!) : null
        );
}

public sealed record FoundTask(string Id, string Outline, string Name);

public sealed record FixDocument(string Label, JsonNode Edit);

/// <summary>What a forecast found. Chances are shares of the runs, 0 to 1.</summary>
/// <param name="Planned">The finish as planned, and the chance to make it.</param>
/// <param name="FinishBy">The date to finish by, and the chance to make it.</param>
/// <param name="Confidences">The finish by which so many of the runs were finished, for every five in a hundred and 99.</param>
/// <param name="Days">How many runs were finished on each day.</param>
/// <param name="Deadlines">The chance of each task's deadline.</param>
/// <param name="Tasks">How often each task set the finish, the most often first; those that never do are left out.</param>
/// <param name="Ranges">How many tasks have a range of lengths.</param>
public sealed record ForecastDocument(
    int Runs,
    int Seed,
    ChanceDocument Planned,
    ChanceDocument? FinishBy,
    IReadOnlyList<ConfidenceDocument> Confidences,
    IReadOnlyList<DayDocument> Days,
    IReadOnlyList<TaskChance> Deadlines,
    IReadOnlyList<TaskChance> Tasks,
    int Ranges
)
{
    internal static ForecastDocument Of(Forecast forecast, ForecastOptions options)
    {
        var (schedule, plan) = (forecast.Schedule, forecast.Schedule.Plan);
        var leaves = Enumerable.Range(0, plan.Index.Count).Where(schedule.IsLeaf).ToList();
        return new ForecastDocument(
            forecast.Runs,
            options.Seed,
            new ChanceDocument(schedule.Finish.ToString(), forecast.ChanceBy(schedule.Finish)),
            plan.Project.FinishBy is { } by ? new ChanceDocument(by.ToString(), forecast.ChanceBy(by)) : null,
            [
                .. Enumerable
                    .Range(1, 20)
                    .Select(i => i == 20 ? 99 : i * 5)
                    .Select(percent => new ConfidenceDocument(percent, forecast.FinishAt(percent / 100.0).ToString())),
            ],
            [
                .. forecast
                    .ByDay()
                    .Select(d => new DayDocument(d.Day.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture), d.Runs)),
            ],
            [.. forecast.Dated.Select((row, place) => TaskChance.Of(plan, row, forecast.ChanceOfDeadline(place)))],
            [
                .. leaves
                    .Select(row => TaskChance.Of(plan, row, forecast.SetsFinish(row)))
                    .Where(t => t.Chance > 0)
                    .OrderByDescending(t => t.Chance),
            ],
            leaves.Count(row => plan.Tasks[row] is { Estimate: not null, Milestone: false, IsFinished: false })
        );
    }
}

public sealed record ChanceDocument(string Date, double Chance);

public sealed record ConfidenceDocument(int Percent, string Finish);

public sealed record DayDocument(string Day, int Runs);

public sealed record TaskChance(string Id, string Outline, string Name, double Chance)
{
    internal static TaskChance Of(Plan plan, int row, double chance) =>
        new(plan.Tasks[row].Id, plan.Index.NumberOf(row), plan.Tasks[row].Name, Math.Round(chance, 4));
}
