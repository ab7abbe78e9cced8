using System.ComponentModel;
using Auxilium.Exchange.Prices;
using Auxilium.Storage.People;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>The organisation's price list, for those who plan with it.</summary>
internal static class PricesApi
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/price-list", AllAsync)
            .WithTags("Organisation")
            .RequireAuthorization(Rights.Organise)
            .WithSummary("The price list: as JSON, or with “format” csv or xlsx as a file.")
            .Produces<IReadOnlyList<PriceDocument>>()
            .ProducesProblem(400);
        api.MapGet("/projects/{id:guid}/price-list", ReadAsync)
            .WithTags("Projects")
            .RequireAuthorization(Rights.EditPlans)
            .WithSummary("The price list, for who coordinates a project.")
            .Produces<IReadOnlyList<PriceDocument>>()
            .ProducesProblem(403)
            .ProducesProblem(404);
    }

    private static async Task<IReadOnlyList<PriceDocument>> ReadAsync(PriceBook prices, CancellationToken cancel) =>
        [.. (await prices.AllAsync(cancel)).Select(PriceDocument.Of)];

    private static async Task<IResult> AllAsync(
        PriceBook prices,
        CancellationToken cancel,
        [Description("json, csv or xlsx; json when left out.")] string format = "json"
    )
    {
        if (format == "json")
            return Results.Ok(await ReadAsync(prices, cancel));
        if (ExportFormat.Find(format) is not { Name: "csv" or "xlsx" } file)
            return Problems.Bad("“format” is json, csv or xlsx.", "format");
        var items = (await prices.AllAsync(cancel)).Select(price => price.Item);
        return Results.File(file.Name == "csv" ? PriceList.Csv(items) : PriceList.Xlsx(items), file.Type, file.FileName("Price list"));
    }
}

/// <summary>An item of the price list.</summary>
/// <param name="Unit">What it is counted in; empty for nothing.</param>
/// <param name="Price">Of one unit, in the organisation's currency; <c>null</c> where it is not known.</param>
/// <param name="Length">What it usually takes, such as 2d; empty where that is not known.</param>
public sealed record PriceDocument(Guid Id, string Category, string Name, string Unit, decimal? Price, string Supplier, string Length)
{
    internal static PriceDocument Of((Guid Id, PriceItem Item) price) =>
        new(price.Id, price.Item.Category, price.Item.Name, price.Item.Unit, price.Item.Price, price.Item.Supplier, price.Item.Length);
}
