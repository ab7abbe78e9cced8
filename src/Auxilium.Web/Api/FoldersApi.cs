using System.Collections.Immutable;
using System.Text.Json;
using Auxilium.Exchange;
using Auxilium.Storage.Access;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;

namespace Auxilium.Web.Api;

/// <summary>A folder of projects.</summary>
/// <param name="Parent">Id of the folder that it lies in.</param>
internal sealed record FolderDocument(Guid Id, string Name, Guid? Parent)
{
    public static FolderDocument Of(Folder folder) => new(folder.Id, folder.Name, folder.Parent);
}

/// <param name="Folder">Name of the folder that the project lies in now; empty for none.</param>
internal sealed record FolderPut(string Folder);

/// <summary>Folders of projects, and what somebody has of the projects they see: favourites, folders that are closed.</summary>
internal static class FoldersApi
{
    private const int MostBytes = 4 * 1024;

    public static void Map(RouteGroupBuilder api)
    {
        var folders = api.MapGroup("/folders").WithTags("Folders");
        folders
            .MapGet("", ListAsync)
            .RequireAuthorization(Rights.SignedIn)
            .WithSummary("The folders that the person who asks sees: those with projects of theirs, and all for whoever fills them.")
            .Produces<IReadOnlyList<FolderDocument>>();
        folders
            .MapPost("", MakeAsync)
            .RequireAuthorization(Rights.MakeProjects)
            .WithSummary("Makes a folder: { \"name\": \"Events\", \"parent\": null }. Folders are nested once.")
            .Accepts<object>("application/json")
            .Produces<FolderDocument>(201)
            .ProducesProblem(400);
        folders
            .MapPut("/{folder:guid}", ChangeAsync)
            .RequireAuthorization(Rights.MakeProjects)
            .WithSummary("Gives a folder a name and the folder that it lies in.")
            .Accepts<object>("application/json")
            .Produces<FolderDocument>()
            .ProducesProblem(400);
        folders
            .MapDelete("/{folder:guid}", DeleteAsync)
            .RequireAuthorization(Rights.MakeProjects)
            .WithSummary("Deletes a folder. The projects and folders in it lie where it lay.")
            .Produces(204)
            .ProducesProblem(404);
        folders
            .MapPut("/{folder:guid}/folded", FoldAsync)
            .RequireAuthorization(Rights.SignedIn)
            .WithSummary("Closes or opens a folder for the person who asks: { \"on\": true }.")
            .Accepts<object>("application/json")
            .Produces(204)
            .ProducesProblem(400);
        api.MapPut("/projects/{id:guid}/folder", PutAsync)
            .WithTags("Folders")
            .RequireAuthorization(Rights.EditPlans)
            .WithSummary("Puts a project into a folder: { \"folder\": its id, or null for none }.")
            .Accepts<object>("application/json")
            .Produces<FolderPut>()
            .ProducesProblem(400)
            .ProducesProblem(404);
        api.MapPut("/projects/{id:guid}/favourite", FavouriteAsync)
            .WithTags("Folders")
            .RequireAuthorization(Rights.LookAtPlans)
            .WithSummary("Makes a project a favourite of the person who asks, or none any more: { \"on\": true }.")
            .Accepts<object>("application/json")
            .Produces(204)
            .ProducesProblem(400)
            .ProducesProblem(404);
    }

    /// <summary>The folders that somebody sees: those with projects of theirs; all, for whoever fills them.</summary>
    /// <param name="all">Every folder.</param>
    /// <param name="used">Ids of the folders that their projects lie in.</param>
    /// <param name="fills">Whether they may put something into a folder.</param>
    internal static IReadOnlyList<Folder> Seen(IReadOnlyList<Folder> all, IReadOnlySet<Guid> used, bool fills) =>
        fills ? all : [.. all.Where(f => used.Contains(f.Id) || all.Any(inside => inside.Parent == f.Id && used.Contains(inside.Id)))];

    private static async Task<IResult> ListAsync(
        HttpContext context,
        Folders folders,
        AcrossPlans across,
        ProjectRoles roles,
        Today today,
        CancellationToken cancel
    )
    {
        var mine = await roles.AllOfAsync(context.User.PersonId(), context.User.IsOrganiser(), cancel);
        var projects = await across.ProjectsAsync([.. mine.Keys], today.Date, cancel);
        var seen = Seen(
            await folders.AllAsync(cancel),
            projects.Select(p => p.Folder).OfType<Guid>().ToHashSet(),
            context.User.MayMakeProjects() || mine.Values.Contains(ProjectRole.Coordinator)
        );
        return Results.Ok(seen.Select(FolderDocument.Of));
    }

    private static async Task<IResult> MakeAsync(HttpContext context, Folders folders, CancellationToken cancel)
    {
        using var body = await ReadAsync(context);
        if (!TryId(body, "parent", out var parent))
            return Problems.Bad("“parent” must be the id of a folder, or null for none.", "parent");
        var made = await folders.MakeAsync(Text(body, "name"), parent, cancel);
        return Results.Created($"/api/v1/folders/{made.Id}", FolderDocument.Of(made));
    }

    private static async Task<IResult> ChangeAsync(Guid folder, HttpContext context, Folders folders, CancellationToken cancel)
    {
        using var body = await ReadAsync(context);
        return TryId(body, "parent", out var parent)
            ? Results.Ok(FolderDocument.Of(await folders.ChangeAsync(folder, Text(body, "name"), parent, cancel)))
            : Problems.Bad("“parent” must be the id of a folder, or null for none.", "parent");
    }

    private static async Task<IResult> DeleteAsync(Guid folder, Folders folders, CancellationToken cancel) =>
        await folders.DeleteAsync(folder, cancel) is not null
            ? Results.NoContent()
            : Results.Problem("This folder has gone: somebody has deleted it.", statusCode: StatusCodes.Status404NotFound);

    private static async Task<IResult> PutAsync(Guid id, HttpContext context, Folders folders, CancellationToken cancel)
    {
        using var body = await ReadAsync(context);
        return body.RootElement.TryGetProperty("folder", out _) && TryId(body, "folder", out var folder)
            ? Results.Ok(new FolderPut(await folders.PutAsync(id, folder, cancel)))
            : Problems.Bad("“folder” must be the id of a folder, or null for none.", "folder");
    }

    private static async Task<IResult> FoldAsync(Guid folder, HttpContext context, ProjectsViews views, CancellationToken cancel)
    {
        using var body = await ReadAsync(context);
        if (On(body) is not { } on)
            return Problems.Bad("“on” must be true or false.", "on");
        await views.ChangeAsync(context.User.PersonId(), view => view with { Folded = With(view.Folded, folder, on) }, cancel);
        return Results.NoContent();
    }

    private static async Task<IResult> FavouriteAsync(Guid id, HttpContext context, ProjectsViews views, CancellationToken cancel)
    {
        using var body = await ReadAsync(context);
        if (On(body) is not { } on)
            return Problems.Bad("“on” must be true or false.", "on");
        await views.ChangeAsync(context.User.PersonId(), view => view with { Favourites = With(view.Favourites, id, on) }, cancel);
        return Results.NoContent();
    }

    private static ImmutableHashSet<Guid> With(ImmutableHashSet<Guid> ids, Guid id, bool on) => on ? ids.Add(id) : ids.Remove(id);

    private static async Task<JsonDocument> ReadAsync(HttpContext context)
    {
        var body = StrictJson.Parse(await RequestDocument.ReadAsync(context.Request, MostBytes));
        if (body.RootElement.ValueKind == JsonValueKind.Object)
            return body;
        body.Dispose();
        throw new BadHttpRequestException("Send a JSON object.");
    }

    private static string? Text(JsonDocument body, string field) =>
        body.RootElement.TryGetProperty(field, out var text) && text.ValueKind == JsonValueKind.String ? text.GetString() : null;

    private static bool? On(JsonDocument body) =>
        body.RootElement.TryGetProperty("on", out var on) && on.ValueKind is JsonValueKind.True or JsonValueKind.False
            ? on.GetBoolean()
            : null;

    private static bool TryId(JsonDocument body, string field, out Guid? id)
    {
        id = null;
        if (!body.RootElement.TryGetProperty(field, out var text) || text.ValueKind == JsonValueKind.Null)
            return true;
        if (text.ValueKind != JsonValueKind.String || !Guid.TryParse(text.GetString(), out var read))
            return false;
        id = read;
        return true;
    }
}
