using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Scheduling;
using Auxilium.Storage.Access;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>Calculating without keeping anything: a plan document in, its dates out. Never touches the database.</summary>
internal static class ScheduleApi
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapPost("/schedule", (Delegate)CalculateAsync)
            .RequireAuthorization(Rights.SignedIn)
            .WithMetadata(new ChangesNothing())
            .WithTags("Schedule")
            .WithSummary("Works out every date, float, driver and warning of a plan document.")
            .Accepts<object>("application/json", RequestDocument.PlanType)
            .Produces<ScheduleDocument>()
            .ProducesProblem(400);
        api.MapGet("/schema/auxilium-plan-1.json", () => Results.Bytes(PlanDocumentSchema.Utf8, "application/schema+json"))
            .RequireAuthorization(Rights.SignedIn)
            .WithTags("Schedule")
            .WithSummary("The JSON Schema of plan documents.")
            .Produces<object>(contentType: "application/schema+json");
    }

    private static async Task<IResult> CalculateAsync(HttpContext context, Budgets budgets, CancellationToken cancel)
    {
        var document = await RequestDocument.ReadAsync(context.Request, RequestDocument.MostBytes);
        using var turn = await budgets.EnterAsync(context, cancel);
        return Results.Ok(ScheduleDocument.Of(Scheduler.Calculate(PlanDocumentReader.Read(document, cancel), cancel)));
    }
}
