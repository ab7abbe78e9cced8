using System.ComponentModel;
using Auxilium.Exchange.Files;
using Auxilium.Exchange.Money;
using Auxilium.Storage.Money;
using Auxilium.Storage.Plans;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>Items of costs as lists: read with a preview, and handed out so that they can be read again.</summary>
internal static class CostListsApi
{
    public static void Map(RouteGroupBuilder api)
    {
        var costs = api.MapGroup("/projects/{id:guid}").WithTags("Money");
        costs
            .MapGet("/costs", WriteAsync)
            .RequireAuthorization(Rights.SeeMoney)
            .WithSummary("Every item of a project with its payments, as a list that can be imported again.")
            .Produces(200, contentType: "text/csv")
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404);
        Multipart
            .TakeFile(costs.MapPost("/costs/imports", ReadAsync), ListFile.MostBytes)
            .RequireAuthorization(Rights.EditPlans, Rights.SeeMoney)
            .WithSummary(
                "How a CSV or spreadsheet with items of costs is understood, line by line. With commit=true the lines without a problem "
                    + "are taken over."
            )
            .WithDescription(
                "A form (multipart/form-data): “file”; “task”, the id of the row that lines belong to which name none; “sheet” of a "
                    + "spreadsheet, from 0."
            )
            .Produces<CostListDocument>()
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(413)
            .ProducesProblem(422);
    }

    private static async Task<IResult> WriteAsync(
        Guid id,
        HttpContext context,
        PlanStore store,
        Ledgers ledgers,
        CancellationToken cancel,
        [Description("csv or xlsx; csv when left out.")] string format = "csv"
    )
    {
        if (ExportFormat.Find(format) is not { Name: "csv" or "xlsx" } file)
            return Problems.Bad("“format” is csv or xlsx.", "format");
        if (await store.LoadAsync(id, cancel) is not { } stored)
            return Problems.NoSuchProject();
        var (plan, ledger) = (stored.Schedule.Plan, (await ledgers.LoadAsync(id, cancel)).Ledger);
        MoneyApi.NoStore(context);
        return Results.File(
            file.Name == "csv" ? CostList.Csv(plan, ledger) : CostList.Xlsx(plan, ledger),
            file.Type,
            file.FileName($"{plan.Project.Name} costs")
        );
    }

    private static async Task<IResult> ReadAsync(
        Guid id,
        HttpContext context,
        PlanStore store,
        Ledgers ledgers,
        MoneyEdits edits,
        Budgets budgets,
        Today today,
        CancellationToken cancel,
        [Description("Whether what could be read is taken over.")] bool commit = false
    )
    {
        if (await Multipart.ReadAsync(context.Request, cancel) is not { } form)
            return Problems.Bad($"A file is sent as the field “file” of a form, of up to {ListFile.MostBytes >> 20} MB.", "file");
        using var turn = await budgets.EnterAsync(context, cancel);
        if (await store.LoadAsync(id, cancel) is not { } stored)
            return Problems.NoSuchProject();
        var plan = stored.Schedule.Plan;
        var task = form.Fields.GetValueOrDefault("task");
        if (task is not null && plan.Find(task) is null)
            return Problems.Bad("“task” is the id of a row of this project.", "task");
        try
        {
            var text = ListFile.Read(form.FileName, form.File, form.Number("sheet"), cancel: cancel).Text;
            var kept = await ledgers.LoadAsync(id, cancel);
            var reading = CostList.Read(text, plan, kept.Ledger, task, today.Date);
            if (reading.Problem is { } problem)
                return Problems.Bad(problem, "file");
            var answer = CostListDocument.Of(reading);
            MoneyApi.NoStore(context);
            if (!commit || reading.Edit is not { } edit)
                return Results.Ok(answer);
            var done = await edits.CommitAsync(
                stored,
                new(Guid.NewGuid(), kept.Version, edit, context.User.PersonId()),
                today.Date,
                cancel
            );
            return done.Outcome.IsDone
                ? Results.Ok(answer with { Version = done.Outcome.After.Version, Told = done.Told })
                : Problems.Gone(done.Outcome.Sentence, "changedMeanwhile");
        }
        catch (FileRefusedException refused)
        {
            return Problems.Bad(refused.Message, "file");
        }
    }
}

/// <summary>A line of a list of costs as it was read.</summary>
/// <param name="Line">Where it stands, from 1.</param>
/// <param name="Task">Id of the row that it belongs to; empty where that is not known.</param>
/// <param name="State"><c>new</c>, <c>changed</c>, <c>same</c>, or <c>leftOut</c> for work, which costs what the plan says.</param>
/// <param name="Paid">All that is paid for the item then.</param>
/// <param name="Problem">Why it cannot be taken; <c>null</c> when it can.</param>
public sealed record CostListLineDocument(
    int Line,
    string Task,
    string Item,
    decimal Quantity,
    decimal? Price,
    decimal Paid,
    string State,
    string? Problem
);

/// <summary>A list of costs as it was read.</summary>
/// <param name="Version">The version of the money with it, once it is taken over.</param>
/// <param name="Told">What taking it over did.</param>
public sealed record CostListDocument(IReadOnlyList<CostListLineDocument> Lines, int? Version = null, string? Told = null)
{
    internal static CostListDocument Of(CostListReading reading) =>
        new([
            .. reading.Lines.Select(line => new CostListLineDocument(
                line.Number,
                line.Task,
                line.Item.Name,
                line.Item.Quantity,
                line.Item.Price,
                line.Item.Payments.Sum(payment => payment.Amount),
                JsonNames.Camel(line.State),
                line.Problem
            )),
        ]);
}
