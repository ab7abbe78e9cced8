using System.ComponentModel;
using System.Globalization;
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

    private static async Task<IResult> CalculateAsync(
        HttpContext context,
        [Description("What else to tell, with commas between: drift, effort, load, money.")] string? with,
        [Description("Up to and with which day hours and payments count; the status date, or today, when left out.")] string? asOf,
        Today today,
        Budgets budgets,
        CancellationToken cancel
    )
    {
        string[] wanted = [.. (with ?? "").Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)];
        if (wanted.FirstOrDefault(name => !TrackedValues.Names.Contains(name)) is { } unknown)
            return Problems.Bad($"“{unknown}” is nothing that can be told: use {string.Join(", ", TrackedValues.Names)}.", "with");
        if (asOf is not null && !DateOnly.TryParseExact(asOf, "yyyy-MM-dd", CultureInfo.InvariantCulture, default, out _))
            return Problems.Bad($"“{asOf}” is not a day like 2027-05-13.", "asOf");
        var document = await RequestDocument.ReadAsync(context.Request, RequestDocument.MostBytes);
        using var turn = await budgets.EnterAsync(context, cancel);
        var read = PlanDocumentReader.ReadWhole(document, cancel);
        var schedule = Scheduler.Calculate(read.Plan, cancel);
        if (wanted.Length == 0)
            return Results.Ok(ScheduleDocument.Of(schedule));
        var day = asOf is null
            ? read.Plan.Project.StatusDate?.Date ?? today.Date
            : DateOnly.ParseExact(asOf, "yyyy-MM-dd", CultureInfo.InvariantCulture);
        return Results.Ok(ScheduleDocument.Of(schedule, new TrackedValues(read, schedule, wanted, day)));
    }
}
