using System.ComponentModel;
using Auxilium.Exchange;
using Auxilium.Exchange.Tables;
using Auxilium.Storage.Plans;
using Auxilium.Web.Access;
using Auxilium.Web.Mail;

namespace Auxilium.Web.Api;

/// <summary>A plan as a file for other programs.</summary>
internal static class ExportApi
{
    public static void Map(RouteGroupBuilder api) =>
        api.MapGet("/projects/{id:guid}/export", ExportAsync)
            .WithTags("Projects")
            .RequireAuthorization(Rights.LookAtPlans)
            .WithSummary(
                $"The plan as a file: “format” is {string.Join(", ", ExportFormat.All.Select(f => f.Name))}. A spreadsheet has sheets for "
                    + "tasks, links, people and drift; a calendar the tasks and milestones; a document everything."
            )
            .Produces<byte[]>(contentType: "application/octet-stream")
            .ProducesProblem(400)
            .ProducesProblem(404);

    private static async Task<IResult> ExportAsync(
        Guid id,
        HttpContext context,
        PlanStore store,
        Budgets budgets,
        OwnAddress address,
        OrganisationClock clock,
        Today today,
        CancellationToken cancel,
        [Description("xlsx, csv, ics or document.")] string? format = null,
        [Description("Ids of rows, with commas between; all when left out.")] string? rows = null,
        [Description("Columns of the table, with commas between; the usual ones when left out.")] string? columns = null,
        [Description("Of CSV: comma, semicolon or tab.")] string separator = "comma",
        [Description("Whether CSV begins with a mark that says it is UTF-8.")] bool marked = false
    )
    {
        if (ExportFormat.Find(format) is not { } wanted)
            return Problems.Bad($"“format” is {string.Join(", ", ExportFormat.All.Select(f => f.Name))}.", "format");
        if (separator is not ("comma" or "semicolon" or "tab"))
            return Problems.Bad("“separator” is comma, semicolon or tab.", "separator");
        var chosen = columns?.Split(',').Select(key => PlanTable.All.FirstOrDefault(column => column.Key == key)).ToList();
        if (chosen?.Contains(null) == true)
            return Problems.Bad($"“columns” are some of {string.Join(", ", PlanTable.All.Select(column => column.Key))}.", "columns");
        using var turn = await budgets.EnterAsync(context, cancel);
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        var table = new PlanTable(plan.Schedule, today.Date, chosen?.Select(column => column!).ToList(), rows?.Split(',').ToHashSet());
        if (table.Rows.IsEmpty && rows is not null)
            return Problems.Bad("None of these rows is in the plan any more: choose others, or all.", "rows");
        var handout = new Handout(
            plan,
            table,
            today.Date,
            clock.GetUtcNow().UtcDateTime,
            clock.ToUtc,
            task => address.Of($"/projects/{id}#{task}"),
            separator switch
            {
                "semicolon" => ';',
                "tab" => '\t',
                _ => ',',
            },
            marked
        );
        var name = FileKinds.CleanName(plan.Name);
        context.Response.Headers.CacheControl = "private, no-store";
        return Results.File(wanted.Write(handout), wanted.Type, $"{(name.Length > 0 ? name : "Plan")}{wanted.Ending}");
    }
}
