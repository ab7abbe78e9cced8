using System.Text.Json;
using Auxilium.Storage.Access;
using Auxilium.Storage.Exports;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>Files of long plans, which are made in the background: asked for, looked after, cancelled and fetched.</summary>
internal static class ExportsApi
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapPost("/projects/{id:guid}/exports", AskAsync)
            .WithTags("Exports")
            .RequireAuthorization(Rights.LookAtPlans)
            .WithSummary("Has a file made in the background, asked for as for “export”. Who asked is told when it is there.")
            .Produces<ExportDocument>(202)
            .ProducesProblem(400)
            .ProducesProblem(404);
        api.MapGet("/exports/{export:guid}", FindAsync)
            .WithTags("Exports")
            .RequireAuthorization(Rights.SignedIn)
            .WithSummary($"How far a file is. It is kept for {ExportShelf.DaysKept} days, for who asked for it.")
            .Produces<ExportDocument>()
            .ProducesProblem(404);
        api.MapGet("/exports/{export:guid}/file", FileAsync)
            .WithTags("Exports")
            .RequireAuthorization(Rights.SignedIn)
            .WithSummary("The file, once it is there.")
            .Produces<byte[]>(contentType: "application/octet-stream")
            .ProducesProblem(404);
        api.MapDelete("/exports/{export:guid}", DeleteAsync)
            .WithTags("Exports")
            .RequireAuthorization(Rights.SignedIn)
            .WithSummary("Cancels it, or deletes what was made.")
            .Produces(204)
            .ProducesProblem(404);
    }

    private static async Task<IResult> AskAsync(
        Guid id,
        [AsParameters] ExportQuery query,
        HttpContext context,
        PlanStore store,
        ExportShelf shelf,
        CancellationToken cancel
    )
    {
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        try
        {
            var (who, name) = (context.User.PersonId(), query.Wanted.FileName(plan.Name));
            var export = await shelf.AskAsync(who, id, JsonSerializer.Serialize(query), name, cancel);
            var row = await shelf.FindAsync(who, export, cancel: cancel);
            return row is null ? NoSuchExport() : Results.Accepted($"/api/v1/exports/{export}", ExportDocument.Of(row));
        }
        catch (ExportProblem problem)
        {
            return Problems.Bad(problem.Message, problem.Field);
        }
    }

    private static async Task<IResult> FindAsync(Guid export, HttpContext context, ExportShelf shelf, CancellationToken cancel) =>
        await shelf.FindAsync(context.User.PersonId(), export, cancel: cancel) is { } row
            ? Results.Ok(ExportDocument.Of(row))
            : NoSuchExport();

    private static async Task<IResult> FileAsync(
        Guid export,
        HttpContext context,
        ExportShelf shelf,
        ProjectRoles roles,
        CancellationToken cancel
    )
    {
        if (
            await shelf.FindAsync(context.User.PersonId(), export, withContent: true, cancel) is not { Content: { } content } row
            // Who lost the project since has lost its files as well.
            || await roles.NowAsync(row.ProjectId, row.PersonId, cancel) == ProjectRole.None
        )
            return NoSuchExport();
        context.Response.Headers.CacheControl = "private, no-store";
        return Results.File(content, ExportFormat.OfFile(row.Name).Type, row.Name);
    }

    private static async Task<IResult> DeleteAsync(Guid export, HttpContext context, ExportShelf shelf, CancellationToken cancel) =>
        await shelf.DeleteAsync(context.User.PersonId(), export, cancel) ? Results.NoContent() : NoSuchExport();

    private static IResult NoSuchExport() =>
        Problems.NotFound($"There is no such file: it was cancelled, or made more than {ExportShelf.DaysKept} days ago.");
}

/// <summary>A file that is made in the background.</summary>
/// <param name="State"><c>waiting</c>, <c>running</c>, <c>done</c> or <c>failed</c>.</param>
/// <param name="Drawn">How many of its pages are drawn.</param>
/// <param name="Pages">How many it has; 0 while that is not known.</param>
/// <param name="Problem">Why it could not be made.</param>
/// <param name="File">Where it can be fetched, once it is done.</param>
public sealed record ExportDocument(Guid Id, string Name, string State, int Drawn, int Pages, string? Problem, string? File)
{
    internal static ExportDocument Of(ExportRow row) =>
        new(
            row.Id,
            row.Name,
            JsonNames.Camel(row.State),
            row.Drawn,
            row.Pages,
            row.Problem,
            row.State == ExportState.Done ? $"/api/v1/exports/{row.Id}/file" : null
        );
}
