using System.ComponentModel;
using Auxilium.Exchange;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Storage.Money;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>Payments and their receipts as files: for those who may have the money of a project (rule M7).</summary>
internal static class ReceiptsApi
{
    public static void Map(WebApplication app, RouteGroupBuilder api)
    {
        var receipts = api.MapGroup("/projects/{id:guid}/money/receipts").WithTags("Money");
        receipts
            .MapGet("", ListAsync)
            .RequireAuthorization(Rights.SeeMoney)
            .WithSummary("What was paid, the newest first, and the receipts that were added as files.")
            .Produces<ReceiptsDocument>()
            .ProducesProblem(403)
            .ProducesProblem(404);
        receipts
            .MapPost("", AddAsync)
            .RequireAuthorization(Rights.EditPlans, Rights.SeeMoney)
            .WithSummary("Adds a receipt as a file, sent as it is. It belongs to the payments that name it, with or without its ending.")
            .Produces<ReceiptDocument>()
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(413);
        receipts
            .MapDelete("/{file:guid}", (Guid id, Guid file, Receipts kept, CancellationToken cancel) =>
                SetAsync(id, file, true, kept, cancel)
            )
            .RequireAuthorization(Rights.EditPlans, Rights.SeeMoney)
            .WithSummary($"Removes a receipt. For {Receipts.DaysKept} days it can be brought back.")
            .Produces<ReceiptChanged>()
            .ProducesProblem(403)
            .ProducesProblem(404);
        receipts
            .MapPost("/{file:guid}/back", (Guid id, Guid file, Receipts kept, CancellationToken cancel) =>
                SetAsync(id, file, false, kept, cancel)
            )
            .RequireAuthorization(Rights.EditPlans, Rights.SeeMoney)
            .WithSummary("Brings back a receipt that was removed.")
            .Produces<ReceiptChanged>()
            .ProducesProblem(403)
            .ProducesProblem(404);
        app.MapGet("/receipts/{id:guid}/{file:guid}/{name}", FileAsync).RequireAuthorization(Rights.SeeMoney).ExcludeFromDescription();
    }

    private static async Task<IResult> ListAsync(
        Guid id,
        HttpContext context,
        PlanStore store,
        Ledgers ledgers,
        Receipts receipts,
        CancellationToken cancel
    )
    {
        if (await store.LoadAsync(id, cancel) is not { } stored)
            return Problems.NoSuchProject();
        var (ledger, version) = await ledgers.LoadAsync(id, cancel);
        MoneyApi.NoStore(context);
        return Results.Ok(ReceiptsDocument.Of(id, version, stored.Schedule.Plan, ledger, await receipts.OfAsync(id, cancel)));
    }

    private static async Task<IResult> AddAsync(
        Guid id,
        HttpContext context,
        PlanStore store,
        Receipts receipts,
        [Description("What the file is called; what it is, its content says.")] string name,
        CancellationToken cancel,
        [Description("What the payment calls its receipt: the file is called so.")] string? receipt = null
    )
    {
        var clean = receipt is null ? FileKinds.CleanName(name) : ReceiptNames.File(receipt, Path.GetExtension(name));
        if (clean.Length == 0)
            return Problems.Bad("A file needs a name.", "name");
        if (await store.LoadAsync(id, cancel) is null)
            return Problems.NoSuchProject();
        var content = await RequestDocument.ReadBytesAsync(context.Request, RequestDocument.MostBytes);
        if (!FileKinds.TryFind(clean, content, out var type, out var problem))
            return Problems.Bad(problem, "file");
        var added = await receipts.AddAsync(id, context.User.PersonId(), clean, type, content, cancel);
        if (added.Full is { } full)
            return Problems.Bad(full, "tooMany");
        MoneyApi.NoStore(context);
        var file = (await receipts.OfAsync(id, cancel)).Where(file => file.Id == added.Id);
        return ReceiptDocument.Of(id, [.. file], [new Payment(default, 0, receipt)]) is [var document] ? Results.Ok(document) : NotThere();
    }

    private static async Task<IResult> SetAsync(Guid id, Guid file, bool isRemoved, Receipts receipts, CancellationToken cancel) =>
        await receipts.SetRemovedAsync(id, file, isRemoved, cancel) is { } name
            ? Results.Ok(new ReceiptChanged($"“{name}” {(isRemoved ? "removed" : "restored")}."))
            : NotThere();

    private static async Task<IResult> FileAsync(Guid id, Guid file, HttpContext context, Receipts receipts, CancellationToken cancel)
    {
        if (await receipts.FindAsync(id, file, cancel) is not { } kept)
            return Results.NotFound();
        MoneyApi.NoStore(context);
        return SafeFile.Of(context, kept.Name, kept.MediaType, kept.Content);
    }

    private static IResult NotThere() => Problems.NotFound("There is no such receipt any more.");
}

/// <summary>What was paid, and the receipts of it.</summary>
/// <param name="Version">Of the money.</param>
public sealed record ReceiptsDocument(int Version, IReadOnlyList<PaymentDocument> Payments, IReadOnlyList<ReceiptDocument> Files)
{
    internal static ReceiptsDocument Of(Guid project, int version, Plan plan, Ledger ledger, IReadOnlyList<KeptFile> files)
    {
        var payments = (
            from row in ledger.Items
            from item in row.Value
            from payment in item.Payments
            orderby payment.Day descending, item.Name, payment.Amount descending
            select (Task: row.Key, Item: item, Payment: payment)
        ).ToList();
        return new(
            version,
            [
                .. payments.Select(paid => new PaymentDocument(
                    MoneyDocument.Day(paid.Payment.Day),
                    paid.Payment.Amount,
                    paid.Item.Name,
                    paid.Task,
                    plan.Find(paid.Task)?.Name,
                    paid.Payment.Receipt
                )),
            ],
            ReceiptDocument.Of(project, files, [.. payments.Select(paid => paid.Payment)])
        );
    }
}

/// <param name="Item">What it paid for.</param>
/// <param name="Task">Id of the row that costs it.</param>
/// <param name="Name">Of that row; <c>null</c> where it has left the plan.</param>
/// <param name="Receipt">What proves it; <c>null</c> where nobody says.</param>
public sealed record PaymentDocument(string Day, decimal Amount, string Item, string Task, string? Name, string? Receipt);

/// <summary>A receipt that was added as a file.</summary>
/// <param name="Proves">What payments call it; none where it belongs to no payment that was asked about.</param>
/// <param name="Type">Its media type.</param>
/// <param name="Size">In bytes.</param>
/// <param name="At">In UTC.</param>
public sealed record ReceiptDocument(
    Guid Id,
    string Name,
    IReadOnlyList<string> Proves,
    string Type,
    int Size,
    string Person,
    DateTime At,
    string Address
)
{
    /// <summary>Each with those of some payments that it is for.</summary>
    internal static IReadOnlyList<ReceiptDocument> Of(Guid project, IReadOnlyList<KeptFile> files, IReadOnlyList<Payment> payments)
    {
        var named = payments
            .Select(payment => payment.Receipt)
            .OfType<string>()
            .ToLookup(ReceiptNames.Plain, StringComparer.OrdinalIgnoreCase);
        return
        [
            .. files.Select(file => new ReceiptDocument(
                file.Id,
                file.Name,
                [.. ReceiptNames.In(file.Name).SelectMany(name => named[name]).Distinct(StringComparer.Ordinal)],
                file.MediaType,
                file.Size,
                file.Person,
                DateTime.SpecifyKind(file.At, DateTimeKind.Utc),
                $"/receipts/{project}/{file.Id}/{Uri.EscapeDataString(file.Name)}"
            )),
        ];
    }
}

/// <param name="Sentence">What was done.</param>
public sealed record ReceiptChanged(string Sentence);
