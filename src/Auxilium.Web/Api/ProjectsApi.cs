using System.ComponentModel;
using Auxilium.Exchange;
using Auxilium.Exchange.Edits;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using Auxilium.Storage.Access;
using Auxilium.Storage.Money;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Access;
using Auxilium.Web.PlanScreen;
using Microsoft.Net.Http.Headers;

namespace Auxilium.Web.Api;

/// <summary><c>/api/v1/projects</c>: what the screens can do, for programs.</summary>
internal static class ProjectsApi
{
    private const int MostEditBytes = 4 * 1024 * 1024;

    private const int JournalPage = 50;

    private const int ManyParts = 200;

    private const int ManyRows = 3_000;

    public static void Map(RouteGroupBuilder api)
    {
        var projects = api.MapGroup("/projects").WithTags("Projects");
        projects
            .MapGet("", ListAsync)
            .RequireAuthorization(Rights.SignedIn)
            .WithSummary("Every project with its dates, progress and counts of tasks by state.")
            .Produces<IReadOnlyList<ProjectDocument>>();
        projects
            .MapGet("/{id:guid}/plan", PlanAsync)
            .RequireAuthorization(Rights.LookAtPlans)
            .WithSummary(
                "A whole plan as a plan document, as it is or as it was at a version. The header ETag has its version; If-None-Match asks "
                    + "only for another."
            )
            .Produces<object>(contentType: RequestDocument.PlanType)
            .Produces(304)
            .ProducesProblem(400)
            .ProducesProblem(404);
        projects
            .MapGet("/{id:guid}/edits/last", LastEditAsync)
            .RequireAuthorization(Rights.LookAtPlans)
            .WithSummary("What the newest edit did: its sentence, the finish before and after, and every task that moved with the reason.")
            .Produces<EditAnswer>()
            .ProducesProblem(404);
        projects
            .MapGet("/{id:guid}/journal", JournalAsync)
            .RequireAuthorization(Rights.LookAtPlans)
            .WithSummary(
                "Who changed what, when, and what it did to the finish, the last first; “before” an entry for the next page, of one "
                    + "task or one person."
            )
            .Produces<JournalDocument>()
            .ProducesProblem(400)
            .ProducesProblem(404);
        projects
            .MapPost("", CreateAsync)
            .RequireAuthorization(Rights.MakeProjects)
            .WithSummary("Makes a project of a plan document.")
            .Accepts<object>("application/json", RequestDocument.PlanType)
            .Produces<CreatedProject>(201)
            .ProducesProblem(400);
        projects
            .MapPost("/{id:guid}/edits", EditAsync)
            .RequireAuthorization(Rights.Report)
            .WithSummary(
                "Applies an edit and tells what it moved. With preview=true nothing is kept. With changes=true the answer has, "
                    + "instead of the ripple, what the Plan screen has to draw anew."
            )
            .WithDescription(
                "The body is { \"id\": a UUID made for this edit, \"baseVersion\": the version it was made on, \"edit\": { \"type\": "
                    + "… } }; instead of “edit”, “takeBack” is lastEdit, lastTakeBack or the id of an entry of the journal. Types of "
                    + "edits: "
                    + string.Join(", ", EditJson.TypeNames)
                    + "."
            )
            .Accepts<object>("application/json")
            .Produces<EditAnswer>()
            .Produces<ProposedAnswer>(202)
            .ProducesProblem(400)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(422);
        projects
            .MapGet("/{id:guid}/changes", ChangesAsync)
            .RequireAuthorization(Rights.LookAtPlans)
            .WithSummary("The plan as the Plan screen draws it, whole.")
            .Produces<PlanChanges>()
            .ProducesProblem(404);
    }

    private static async Task<IResult> ListAsync(
        HttpContext context,
        AcrossPlans across,
        ProjectRoles roles,
        Today today,
        CancellationToken cancel
    )
    {
        var theirs = await roles.AllOfAsync(context.User.PersonId(), context.User.IsOrganiser(), cancel);
        var projects = await across.ProjectsAsync(theirs.Keys.ToList(), today.Date, cancel);
        return Results.Ok(projects.Where(p => p.Plan is not null).Select(ProjectDocument.Of));
    }

    private static async Task<IResult> ChangesAsync(
        Guid id,
        HttpContext context,
        PlanStore store,
        PlanEdits edits,
        PlanViews views,
        CancellationToken cancel
    ) =>
        await store.LoadAsync(id, cancel) is { } plan
            ? Results.Ok(PlanChanges.Everything(views.Of(plan), await edits.LastAsync(plan, context.User.PersonId(), cancel)))
            : Problems.NoSuchProject();

    private static async Task<IResult> PlanAsync(
        Guid id,
        PlanStore store,
        PastPlans past,
        Ledgers ledgers,
        ProjectRoles roles,
        Organisation organisation,
        HttpContext context,
        CancellationToken cancel,
        [Description("As the plan was at this version.")] int? version = null,
        [Description("Whether its money is told too, as it is now: for those who may have it.")] bool money = false
    )
    {
        if (money && !await context.HasMoneyAsync(roles))
            return Problems.MayNot("What this project costs is for its coordinators and whom they let see it: ask one of them.");
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        if (version is { } wanted)
        {
            if (await past.FindAsync(id, wanted, cancel) is not { } was)
                return Problems.Bad($"This plan never had a version {wanted}: choose one from its journal.", "version");
            plan = was.Plan;
        }
        if (money)
        {
            var ledger = (await ledgers.LoadAsync(id, cancel)).Ledger;
            context.Response.Headers.CacheControl = "private, no-store";
            return Results.Bytes(
                PlanDocumentWriter.Write(
                    plan.Schedule.Plan,
                    default,
                    // What single people cost is for organisers.
                    context.User.IsOrganiser()
                        ? ledger
                        : ledger with
                        {
                            Rates = Ledger.None.Rates,
                        },
                    (await organisation.FindAsync(cancel))?.Currency
                ),
                RequestDocument.PlanType
            );
        }
        var tag = new EntityTagHeaderValue($"\"{plan.Version}\"");
        context.Response.GetTypedHeaders().ETag = tag;
        // A client that has this version gets 304 and no body.
        if (context.Request.GetTypedHeaders().IfNoneMatch.Any(known => known.Compare(tag, useStrongComparison: false)))
            return Results.StatusCode(StatusCodes.Status304NotModified);
        return Results.Bytes(PlanDocumentWriter.Write(plan.Schedule.Plan), RequestDocument.PlanType);
    }

    private static async Task<IResult> LastEditAsync(Guid id, PlanStore store, PlanEdits edits, CancellationToken cancel)
    {
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        return await edits.RecordAsync(plan, cancel) is { } did
            ? Results.Ok(new EditAnswer(plan.Version, RippleDocument.Of(did, plan.Schedule), null))
            : Results.Problem("This plan has not been edited yet.", statusCode: StatusCodes.Status404NotFound);
    }

    private static async Task<IResult> CreateAsync(HttpContext context, PlanStore store, Budgets budgets, CancellationToken cancel)
    {
        var document = await RequestDocument.ReadAsync(context.Request, RequestDocument.MostBytes);
        using var turn = await budgets.EnterAsync(context, cancel);
        return await MakeAsync(document, context, store, cancel);
    }

    /// <summary>Makes a project of a plan document.</summary>
    internal static async Task<IResult> MakeAsync(
        ReadOnlyMemory<byte> document,
        HttpContext context,
        PlanStore store,
        CancellationToken cancel
    )
    {
        try
        {
            var read = PlanDocumentReader.ReadWhole(document, cancel);
            DocumentMoney.Check(read, context);
            var stored = await store.CreateAsync(
                read.Plan,
                context.User.Person(),
                context.User.IsOrganiser(),
                read.Hours,
                read.Ledger,
                cancel
            );
            return Results.Created($"/api/v1/projects/{stored.Project}/plan", new CreatedProject(stored.Project, stored.Version));
        }
        catch (HoursProblemException full)
        {
            return Problems.Unreadable(
                new UnreadableDocumentException([new DocumentError($"$.hours[{full.Position}].minutes", "range", full.Message)])
            );
        }
        catch (PersonProblemException person)
        {
            return Problems.Unreadable(
                new UnreadableDocumentException([
                    new DocumentError(
                        $"$.people[{person.Position}].{person.Field}",
                        person.Field == "id" ? "personClash" : "person",
                        person.Message
                    ),
                ])
            );
        }
    }

    private static async Task<IResult> EditAsync(
        Guid id,
        HttpContext context,
        PlanStore store,
        PlanEdits edits,
        Budgets budgets,
        PlanViews views,
        Proposals proposals,
        MoneyRipples money,
        Today today,
        CancellationToken cancel,
        bool preview = false,
        bool changes = false,
        [Description("Whether a preview tells whose load would be other, and on which days.")] bool load = false
    )
    {
        using var body = StrictJson.Parse(await RequestDocument.ReadAsync(context.Request, MostEditBytes));
        var document = EditDocument.Read(body.RootElement, today.Date, (await store.LoadAsync(id, cancel))?.Schedule.Plan.Project.Units);
        // Large edits take a turn, previews only a turn of their person; everyday edits take none.
        var isLarge = await IsLargeAsync(id, document, preview, store, cancel);
        using var turn = isLarge || preview ? await budgets.EnterAsync(context, cancel, isLarge) : null;
        if (preview)
            return await PreviewAsync(id, document, context, store, edits, money, today, load, cancel);
        var me = context.User.PersonId();
        var mayAll = context.RoleHere() == ProjectRole.Coordinator && context.User.Scope() == TokenScope.Edit;
        if (!mayAll && document.Entry is not null)
            return Problems.MayNot("Only a coordinator takes back what others did.");
        return await edits.CommitAsync(
            id,
            document.ToRequest(me, mayAll ? null : (edit, plan) => OwnWork.Allows(edit, plan, me)),
            today.Date,
            cancel
        ) switch
        {
            EditNotAllowed when document.Edit is { } wanted => await ProposeAsync(
                id,
                document,
                wanted,
                context,
                edits,
                proposals,
                today,
                cancel
            ),
            EditNotAllowed => Problems.MayNot("You may no longer take this back yourself: ask who coordinates the project."),
            EditCommitted committed => Results.Ok(await AnswerAsync(committed, document, context, edits, views, money, changes, cancel)),
            EditConflict conflict => Problems.Conflict(conflict),
            NothingToTakeBack => Problems.Gone(WhyNothing(document.TakeBack), "nothingToTakeBack"),
            _ => Problems.NoSuchProject(),
        };
    }

    /// <summary>Edits that a member may not make become proposals.</summary>
    private static async Task<IResult> ProposeAsync(
        Guid id,
        EditDocument document,
        PlanEdit edit,
        HttpContext context,
        PlanEdits edits,
        Proposals proposals,
        Today today,
        CancellationToken cancel
    )
    {
        if (await edits.PreviewAsync(id, edit, today.Date, cancel) is not { } edited)
            return Problems.NoSuchProject();
        if (!OwnWork.MayBeProposed(edited.Applied.Edit))
            return Problems.MayNot(
                "Who is on a plan, when they work and who coordinates it is decided by its coordinators, and cannot be proposed: ask "
                    + "one of them."
            );
        var sentence = string.Concat(RippleText.Of(edited, done: false).Select(r => r.Text));
        return await proposals.MakeAsync(
            id,
            document.Id,
            context.User.PersonId(),
            document.BaseVersion,
            edited,
            sentence,
            document.Note,
            cancel
        )
            ? Results.Accepted(value: new ProposedAnswer(document.Id, sentence))
            : Problems.Bad($"There are {Proposals.Most} proposals waiting: one has to be decided first.", "tooMany");
    }

    /// <summary>
    /// Whether an edit takes noticeable time: many parts, or a preview of a large plan, which somebody who drags asks
    /// for again and again.
    /// </summary>
    private static async Task<bool> IsLargeAsync(Guid id, EditDocument document, bool preview, PlanStore store, CancellationToken cancel)
    {
        var parts = document.Edit is { } edit ? EditPipeline.PartsOf(edit).Take(ManyParts).Count() : 1;
        if (parts == ManyParts)
            return true;
        return preview && await store.LoadAsync(id, cancel) is { } plan && plan.Schedule.Plan.Tasks.Length > ManyRows;
    }

    private static string WhyNothing(TakeBack? which) =>
        which switch
        {
            TakeBack.LastEdit => "There is no edit of yours left to undo.",
            TakeBack.LastTakeBack => "There is nothing to do again.",
            _ => "This has been taken back already, or is not an edit of this plan.",
        };

    private static async Task<IResult> JournalAsync(
        Guid id,
        PlanStore store,
        PlanEdits edits,
        CancellationToken cancel,
        long? before = null,
        string? task = null,
        string? person = null
    )
    {
        if (task is not null && !PlanIds.IsId(task))
            return Problems.Bad("“task” is the id of a row.", "task");
        if (await store.LoadAsync(id, cancel) is null)
            return Problems.NoSuchProject();
        var entries = await edits.JournalAsync(id, before, task, person, JournalPage, cancel);
        return Results.Ok(
            new JournalDocument([.. entries.Select(JournalEntryDocument.Of)], entries.Count == JournalPage ? entries[^1].Id : null)
        );
    }

    private static async Task<IResult> PreviewAsync(
        Guid id,
        EditDocument document,
        HttpContext context,
        PlanStore store,
        PlanEdits edits,
        MoneyRipples money,
        Today today,
        bool withLoad,
        CancellationToken cancel
    )
    {
        if (document.Edit is null)
            return Problems.Bad("Only an edit can be previewed.", "value");
        return
            await edits.PreviewAsync(id, document.Edit, today.Date, cancel) is { } edited && await store.LoadAsync(id, cancel) is { } plan
            ? Results.Ok(
                new EditAnswer(document.BaseVersion, RippleDocument.Of(edited, RippleText.Of(edited, done: false)), null)
                {
                    Load = withLoad ? LoadChange.Of(edited) : null,
                    Money = await money.OfAsync(context, plan, edited.Before, edited.After, cancel),
                }
            )
            : Problems.NoSuchProject();
    }

    private static async Task<EditAnswer> AnswerAsync(
        EditCommitted committed,
        EditDocument document,
        HttpContext context,
        PlanEdits edits,
        PlanViews views,
        MoneyRipples money,
        bool changes,
        CancellationToken cancel
    )
    {
        var (plan, person) = (committed.After, context.User.PersonId());
        var cost = committed.Edited is { } made ? await money.OfAsync(context, plan, made.Before, made.After, cancel) : null;
        if (!changes)
            return new EditAnswer(plan.Version, committed.Edited is { } done ? RippleDocument.Of(done, committed.Sentence) : null, null)
            {
                Money = cost,
            };
        if (committed.Edited is not { } edited)
            return new EditAnswer(plan.Version, null, PlanChanges.Everything(views.Of(plan), await edits.LastAsync(plan, person, cancel)));
        // The author of the newest edit can undo it, and has nothing to redo.
        var (undo, redo) = document.TakeBack is null ? (true, false) : await edits.CanTakeBackAsync(plan.Id, person, cancel);
        // A client with an older version gets every row.
        var before = document.BaseVersion == committed.Before.Version ? views.Of(committed.Before) : null;
        return new EditAnswer(
            plan.Version,
            null,
            PlanChanges.Between(before, views.Of(plan, committed.Before), undo, redo, committed.Sentence, edited.Ripple.Moves.Count)
        )
        {
            Money = cost,
        };
    }
}

/// <summary>What was asked for waits for the coordinator.</summary>
/// <param name="Sentence">What it would do.</param>
public sealed record ProposedAnswer(Guid Proposal, string Sentence);

public sealed record CreatedProject(Guid Id, int Version);

/// <param name="Version">The plan's version now.</param>
/// <param name="Ripple">What the edit did; <c>null</c> when the same edit had been applied before, or changes are asked for.</param>
/// <param name="Changes">What the Plan screen has to draw anew, where asked for.</param>
public sealed record EditAnswer(int Version, RippleDocument? Ripple, PlanChanges? Changes)
{
    /// <summary>Whose load would be other; only of a preview that is asked for it.</summary>
    [System.Text.Json.Serialization.JsonIgnore(Condition = System.Text.Json.Serialization.JsonIgnoreCondition.WhenWritingNull)]
    public IReadOnlyList<LoadChange>? Load { get; init; }

    /// <summary>What it did to cost and budget; only for those who may know, and where it did anything.</summary>
    [System.Text.Json.Serialization.JsonIgnore(Condition = System.Text.Json.Serialization.JsonIgnoreCondition.WhenWritingNull)]
    public MoneyRippleDocument? Money { get; init; }
}

/// <param name="Next">What “before” is for the next page; <c>null</c> on the last.</param>
public sealed record JournalDocument(IReadOnlyList<JournalEntryDocument> Entries, long? Next);

/// <summary>One edit: who made it, when (UTC), and what it did.</summary>
/// <param name="Stands">Whether it has not been taken back.</param>
/// <param name="TakesBack">The entry that it takes back, if it does.</param>
public sealed record JournalEntryDocument(
    long Id,
    DateTime At,
    int Version,
    string PersonId,
    string Person,
    IReadOnlyList<TextRun> Sentence,
    int Moved,
    string FinishBefore,
    string FinishAfter,
    long? TakesBack,
    bool Stands
)
{
    internal static JournalEntryDocument Of(JournalEntry entry) =>
        new(
            entry.Id,
            DateTime.SpecifyKind(entry.At, DateTimeKind.Utc),
            entry.Version,
            entry.PersonId,
            entry.Person,
            entry.Sentence,
            entry.Moved,
            entry.FinishBefore.ToString(),
            entry.FinishAfter.ToString(),
            entry.TakesBack,
            entry.Stands
        );
}

/// <summary>A project as the list of projects tells it. Counts are of tasks and milestones by state.</summary>
public sealed record ProjectDocument(
    Guid Id,
    int Version,
    string Name,
    string? Coordinator,
    string Start,
    string Finish,
    string? FinishBy,
    int? SpareMinutes,
    double Progress,
    int Tasks,
    IReadOnlyDictionary<string, int> States
)
{
    internal static ProjectDocument Of(KnownProject project)
    {
        var plan = project.Plan!;
        return new ProjectDocument(
            project.Id,
            project.Version,
            project.Name,
            project.Coordinator,
            plan.Start.ToString(),
            plan.Finish.ToString(),
            plan.FinishBy?.ToString(),
            plan.Spare,
            Math.Round((double)plan.Progress, 4),
            project.Counts.Values.Sum(),
            project.Counts.ToDictionary(c => JsonNames.Camel(c.Key), c => c.Value)
        );
    }
}
