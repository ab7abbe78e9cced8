using System.Text.Json;
using Auxilium.Exchange;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Plans;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;
using Auxilium.Web.Pages.Shared;

namespace Auxilium.Web.Api;

/// <summary>Comments on tasks and their files.</summary>
internal static class TalkApi
{
    private const int MostCommentBytes = 32 * 1024;

    public static void Map(WebApplication app, RouteGroupBuilder api)
    {
        var talk = api.MapGroup("/projects/{id:guid}").WithTags("Talk");
        talk.MapGet("/tasks/{task}/talk", ListAsync)
            .RequireAuthorization(Rights.LookAtPlans)
            .WithSummary("What is said about a task, the oldest first, and its files.")
            .Produces<TalkDocument>()
            .ProducesProblem(404);
        talk.MapPost("/tasks/{task}/comments", SayAsync)
            .RequireAuthorization(Rights.Report)
            .RequireRateLimiting(Limits.Writing)
            .WithSummary("Adds a comment. The body is { \"text\": … }; the answer is all that is said.")
            .Accepts<object>("application/json")
            .Produces<TalkDocument>()
            .ProducesProblem(400)
            .ProducesProblem(404);
        talk.MapDelete("/tasks/{task}/comments/{comment:long}", TakeBackAsync)
            .RequireAuthorization(Rights.Report)
            .WithSummary("Takes back a comment of one's own.")
            .Produces<TalkDocument>()
            .ProducesProblem(404);
        talk.MapPost("/tasks/{task}/files", AddAsync)
            .RequireAuthorization(Rights.Report)
            .RequireRateLimiting(Limits.Writing)
            .WithSummary("Adds a file, sent as it is. “name” is what it is called; what it is, its content says.")
            .Produces<TalkDocument>()
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(413);
        talk.MapDelete("/tasks/{task}/files/{file:guid}", RemoveAsync)
            .RequireAuthorization(Rights.Report)
            .WithSummary("Removes a file.")
            .Produces<TalkDocument>()
            .ProducesProblem(404);
        app.MapGet("/files/{id:guid}/{file:guid}/{name}", FileAsync).RequireAuthorization(Rights.LookAtPlans).ExcludeFromDescription();
    }

    private static async Task<IResult> ListAsync(
        Guid id,
        string task,
        HttpContext context,
        PlanStore store,
        TaskTalk talk,
        Hours hours,
        CancellationToken cancel
    ) => await WhyNotAsync(id, task, store, cancel) ?? await AnswerAsync(id, task, context, talk, hours, cancel);

    private static async Task<IResult> SayAsync(
        Guid id,
        string task,
        HttpContext context,
        PlanStore store,
        TaskTalk talk,
        Hours hours,
        CancellationToken cancel
    )
    {
        using var body = StrictJson.Parse(await RequestDocument.ReadAsync(context.Request, MostCommentBytes));
        var text =
            body.RootElement.ValueKind == JsonValueKind.Object
            && body.RootElement.TryGetProperty("text", out var value)
            && value.ValueKind == JsonValueKind.String
                ? value.GetString()!.ReplaceLineEndings("\n").Trim()
                : "";
        if (text.Length == 0)
            return Problems.Bad("A comment needs a text: type what there is to say.", "text");
        if (text.Length > TaskTalk.LongestComment)
            return Problems.Bad(
                $"This comment has {text.Length:N0} characters: shorten it to {TaskTalk.LongestComment:N0} or fewer.",
                "text"
            );
        if (text.Any(c => char.IsControl(c) && c is not ('\n' or '\t')))
            return Problems.Bad("A comment is text: leave out control characters.", "text");
        if (await WhyNotAsync(id, task, store, cancel) is { } no)
            return no;
        var name = (await store.LoadAsync(id, cancel))!.Schedule.Plan.Find(task)?.Name ?? "a task";
        return await talk.SayAsync(id, task, name, context.User.PersonId(), text, cancel)
            ? await AnswerAsync(id, task, context, talk, hours, cancel)
            : Problems.Bad($"A task has at most {TaskTalk.MostComments:N0} comments.", "tooMany");
    }

    private static async Task<IResult> TakeBackAsync(
        Guid id,
        string task,
        long comment,
        HttpContext context,
        TaskTalk talk,
        Hours hours,
        CancellationToken cancel
    ) =>
        await talk.TakeBackAsync(id, comment, context.User.PersonId(), cancel)
            ? await AnswerAsync(id, task, context, talk, hours, cancel)
            : Results.Problem("There is no such comment of yours.", statusCode: StatusCodes.Status404NotFound);

    private static async Task<IResult> AddAsync(
        Guid id,
        string task,
        string name,
        HttpContext context,
        PlanStore store,
        TaskTalk talk,
        Hours hours,
        CancellationToken cancel
    )
    {
        var clean = FileKinds.CleanName(name);
        if (clean.Length == 0)
            return Problems.Bad("A file needs a name.", "name");
        if (await WhyNotAsync(id, task, store, cancel) is { } no)
            return no;
        var content = await RequestDocument.ReadBytesAsync(context.Request, RequestDocument.MostBytes);
        if (!FileKinds.TryFind(clean, content, out var type, out var problem))
            return Problems.Bad(problem, "file");
        return await talk.AddFileAsync(id, task, context.User.PersonId(), clean, type, content, cancel) is { } full
            ? Problems.Bad(full, "tooMany")
            : await AnswerAsync(id, task, context, talk, hours, cancel);
    }

    private static async Task<IResult> RemoveAsync(
        Guid id,
        string task,
        Guid file,
        HttpContext context,
        TaskTalk talk,
        Hours hours,
        CancellationToken cancel
    ) =>
        await talk.RemoveFileAsync(id, file, MayRemoveAll(context) ? null : context.User.PersonId(), cancel)
            ? await AnswerAsync(id, task, context, talk, hours, cancel)
            : Results.Problem("There is no such file of yours.", statusCode: StatusCodes.Status404NotFound);

    private static async Task<IResult> FileAsync(Guid id, Guid file, HttpContext context, TaskTalk talk, CancellationToken cancel) =>
        await talk.FileAsync(id, file, cancel) is { } kept
            ? SafeFile.Of(context, kept.Name, kept.MediaType, kept.Content)
            : Results.NotFound();

    private static async Task<IResult?> WhyNotAsync(Guid id, string task, PlanStore store, CancellationToken cancel)
    {
        if (!PlanIds.IsId(task) || await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        return plan.Schedule.Plan.Find(task) is null
            ? Results.Problem("This row is no longer in the plan.", statusCode: StatusCodes.Status404NotFound)
            : null;
    }

    private static async Task<IResult> AnswerAsync(
        Guid id,
        string task,
        HttpContext context,
        TaskTalk talk,
        Hours hours,
        CancellationToken cancel
    )
    {
        var (comments, files) = await talk.OfAsync(id, task, cancel);
        var me = context.User.PersonId();
        var worked = await hours.OnAsync(id, task, cancel);
        return Results.Ok(
            new TalkDocument(
                [
                    .. comments.Select(c => new CommentDocument(
                        c.Id,
                        c.Person,
                        PersonHue.Of(c.PersonId),
                        DateTime.SpecifyKind(c.At, DateTimeKind.Utc),
                        c.Text,
                        c.PersonId == me
                    )),
                ],
                [
                    .. files.Select(f => new FileDocument(
                        f.Id,
                        f.Name,
                        f.MediaType,
                        f.Size,
                        f.Person,
                        DateTime.SpecifyKind(f.At, DateTimeKind.Utc),
                        $"/files/{id}/{f.Id}/{Uri.EscapeDataString(f.Name)}",
                        f.PersonId == me || MayRemoveAll(context)
                    )),
                ],
                [.. worked.Select(h => new WorkedDocument(h.Name, Math.Round(h.Minutes / 60m, 2)))]
            )
        );
    }

    /// <summary>Members remove files of their own, coordinators everybody's.</summary>
    private static bool MayRemoveAll(HttpContext context) => context.RoleHere() == ProjectRole.Coordinator;
}

public sealed record TalkDocument(
    IReadOnlyList<CommentDocument> Comments,
    IReadOnlyList<FileDocument> Files,
    IReadOnlyList<WorkedDocument> Worked
);

/// <summary>Hours that somebody says they worked.</summary>
public sealed record WorkedDocument(string Person, decimal Hours);

/// <param name="At">In UTC.</param>
/// <param name="Own">Whether the person who asks wrote it.</param>
public sealed record CommentDocument(long Id, string Person, int Hue, DateTime At, string Text, bool Own);

/// <param name="Type">Its media type.</param>
/// <param name="Size">In bytes.</param>
/// <param name="At">In UTC.</param>
/// <param name="MayRemove">Whether the person who asks may remove it.</param>
public sealed record FileDocument(Guid Id, string Name, string Type, int Size, string Person, DateTime At, string Address, bool MayRemove);
