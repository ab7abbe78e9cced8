using System.ComponentModel;
using System.Globalization;
using System.Text.Json;
using Auxilium.Exchange;
using Auxilium.Exchange.Money;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Money;
using Auxilium.Storage.Access;
using Auxilium.Storage.Money;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>What a project costs, what is spent, and where that ends: for those who may have it (rule M7).</summary>
internal static class MoneyApi
{
    private const int MostBytes = 4 * 1024 * 1024;
    private const int MostEntries = 100;

    public static void Map(RouteGroupBuilder api)
    {
        var money = api.MapGroup("/projects/{id:guid}").WithTags("Money");
        money
            .MapGet("/money", OfAsync)
            .RequireAuthorization(Rights.SeeMoney)
            .WithSummary(
                "What a project costs: planned, spent, left, expected, budget and earned value, by row, category, person, supplier, month "
                    + "and week."
            )
            .Produces<MoneyDocument>()
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
        money
            .MapGet("/money/curve", CurveAsync)
            .RequireAuthorization(Rights.SeeMoney)
            .WithSummary(
                "Planned value, earned value and actual cost at the end of each week: what lies behind as the plan was then. Needs a "
                    + "baseline to measure by; without one there are no points."
            )
            .Produces<MoneyCurveDocument>()
            .ProducesProblem(403)
            .ProducesProblem(404);
        money
            .MapGet("/tasks/{task}/costs", CostsAsync)
            .RequireAuthorization(Rights.SeeMoney)
            .WithSummary("What a row costs: its items with their payments, and the labour of each person.")
            .Produces<RowCostsDocument>()
            .ProducesProblem(403)
            .ProducesProblem(404);
        money
            .MapPost("/money/edits", EditAsync)
            .RequireAuthorization(Rights.EditPlans)
            .WithSummary("Changes the money of a project, and tells what that did to the expected cost and the budget.")
            .WithDescription(
                "The body is { \"id\": a UUID made for this change, \"baseVersion\": the version of the money it was made on, \"edit\": { "
                    + "\"type\": … } }; instead of “edit”, “takeBack” is lastEdit or lastTakeBack. Types: "
                    + string.Join(", ", MoneyJson.TypeNames)
                    + "."
            )
            .Accepts<object>("application/json")
            .Produces<MoneyAnswer>()
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(422);
    }

    private static async Task<IResult> OfAsync(
        Guid id,
        HttpContext context,
        PlanStore store,
        ProjectMoney money,
        Ledgers ledgers,
        Storage.People.Directory directory,
        Organisation organisation,
        Today today,
        CancellationToken cancel,
        [Description("Up to and with which day hours and payments count; the status date, or today, when left out.")] string? asOf = null
    )
    {
        if (!TryDay(asOf, out var day))
            return Problems.Bad($"“{asOf}” is not a day like 2027-05-13.", "asOf");
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        var counted = await money.OfAsync(plan, today.Date, day, cancel);
        var (undo, redo) = await ledgers.CanTakeBackAsync(id, context.User.PersonId(), cancel);
        var names = (await directory.AllAsync(cancel)).ToDictionary(person => person.Id, person => person.Name);
        NoStore(context);
        return Results.Ok(
            MoneyDocument.Of(counted, await money.TextAsync(cancel), names, (await organisation.FindAsync(cancel))?.FirstWeekday) with
            {
                CanUndo = undo,
                CanRedo = redo,
                Changes =
                [
                    .. (await ledgers.JournalAsync(id, MostEntries, cancel)).Select(entry => new MoneyEntryDocument(
                        DateTime.SpecifyKind(entry.At, DateTimeKind.Utc),
                        entry.Person,
                        entry.Sentence
                    )),
                ],
            }
        );
    }

    private static async Task<IResult> CurveAsync(
        Guid id,
        HttpContext context,
        PlanStore store,
        ProjectMoney money,
        MoneyCurves curves,
        Today today,
        CancellationToken cancel
    )
    {
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        var counted = await money.OfAsync(plan, today.Date, null, cancel);
        NoStore(context);
        return Results.Ok(MoneyCurveDocument.Of(await curves.OfAsync(plan, counted, cancel)));
    }

    private static async Task<IResult> CostsAsync(
        Guid id,
        string task,
        HttpContext context,
        PlanStore store,
        ProjectMoney money,
        Receipts receipts,
        Storage.People.Directory directory,
        Today today,
        CancellationToken cancel
    )
    {
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        if (!plan.Schedule.Plan.Index.TryFind(task, out var row))
            return Problems.NotFound("There is no such row in this plan.");
        var names = (await directory.AllAsync(cancel)).ToDictionary(person => person.Id, person => person.Name);
        NoStore(context);
        var counted = await money.OfAsync(plan, today.Date, null, cancel);
        var payments = counted.Money.Ledger.ItemsOf(task).SelectMany(item => item.Payments).ToList();
        var files = payments.Any(payment => payment.Receipt is not null) ? await receipts.OfAsync(id, cancel) : [];
        return Results.Ok(
            RowCostsDocument.Of(counted, row, await money.TextAsync(cancel), names) with
            {
                Receipts = [.. ReceiptDocument.Of(id, files, payments).Where(file => file.Proves.Count > 0)],
            }
        );
    }

    private static async Task<IResult> EditAsync(
        Guid id,
        HttpContext context,
        PlanStore store,
        MoneyEdits edits,
        ProjectRoles roles,
        Today today,
        CancellationToken cancel
    )
    {
        // Who coordinates a project may have its money; nobody changes what they may not see.
        if (!await context.HasMoneyAsync(roles))
            return Problems.MayNot("What this project costs is for its coordinators and whom they let see it: ask one of them.");
        using var json = StrictJson.Parse(await RequestDocument.ReadAsync(context.Request, MostBytes));
        var body = json.RootElement;
        if (body.ValueKind != JsonValueKind.Object || !body.TryGetProperty("id", out var given) || !given.TryGetGuid(out var edit))
            return Problems.Bad("“id” must be a UUID that is made for this change.", "id");
        if (!body.TryGetProperty("baseVersion", out var version) || !version.TryGetInt32(out var seen))
            return Problems.Bad("“baseVersion” must be the version of the money that the change was made on.", "baseVersion");
        MoneyEdit? wanted = null;
        var redo = false;
        if (body.TryGetProperty("edit", out var change))
            wanted = MoneyJson.Read(change, today.Date);
        else if (body.TryGetProperty("takeBack", out var which) && which.ValueKind == JsonValueKind.String)
        {
            redo = which.GetString() == "lastTakeBack";
            if (!redo && which.GetString() != "lastEdit")
                return Problems.Bad("“takeBack” is lastEdit or lastTakeBack.", "takeBack");
        }
        else
            return Problems.Bad("Give an “edit”, or say with “takeBack” that the last one is taken back.", "edit");
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        var done = await edits.CommitAsync(plan, new(edit, seen, wanted, context.User.PersonId(), redo), today.Date, cancel);
        return done.Outcome.IsDone
            ? Results.Ok(new MoneyAnswer(done.Outcome.After.Version, done.Told, MoneyRippleDocument.Of(done.Ripple, done.Text)))
            : Problems.Gone(done.Outcome.Sentence, "changedMeanwhile");
    }

    /// <summary>Amounts are kept by no browser and nothing on the way.</summary>
    internal static void NoStore(HttpContext context) => context.Response.Headers.CacheControl = "private, no-store";

    private static bool TryDay(string? text, out DateOnly? day)
    {
        day = null;
        if (text is null)
            return true;
        var isDay = DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var read);
        day = read;
        return isDay && read.Year is >= 1990 and <= 2100;
    }
}
