using Auxilium.Planning.Editing;
using Auxilium.Planning.Words;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Auxilium.Web.Pages.Shared;
using Auxilium.Web.PlanScreen;

namespace Auxilium.Web.Api;

/// <summary>Changes that members propose: the coordinator accepts or declines each at a click.</summary>
internal static class ProposalsApi
{
    public static void Map(RouteGroupBuilder api)
    {
        var proposals = api.MapGroup("/projects/{id:guid}/proposals").WithTags("Proposals");
        proposals
            .MapGet("", ListAsync)
            .RequireAuthorization(Rights.LookAtPlans)
            .WithSummary("The proposals that wait for a decision, the oldest first, with what each would do to the plan as it is now.")
            .Produces<IReadOnlyList<ProposalDocument>>();
        proposals
            .MapPost("/{proposal:guid}/accept", AcceptAsync)
            .RequireAuthorization(Rights.EditPlans)
            .WithSummary(
                "Makes the change as it was proposed, on the plan as it is now. What somebody changed since it was proposed is shown "
                    + "with 409, and changed with overrule=true."
            )
            .Produces<EditAnswer>()
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(422);
        proposals
            .MapPost("/{proposal:guid}/decline", DeclineAsync)
            .RequireAuthorization(Rights.EditPlans)
            .WithSummary("Closes a proposal; its author is told.")
            .Produces(204)
            .ProducesProblem(404);
        proposals
            .MapDelete("/{proposal:guid}", WithdrawAsync)
            .RequireAuthorization(Rights.Report)
            .WithSummary("Takes back a proposal of one's own.")
            .Produces(204)
            .ProducesProblem(404);
    }

    private static async Task<IResult> ListAsync(
        Guid id,
        HttpContext context,
        PlanStore store,
        PlanEdits edits,
        Proposals proposals,
        ProposalSentences sentences,
        Budgets budgets,
        Today today,
        CancellationToken cancel
    )
    {
        if (await store.LoadAsync(id, cancel) is not { } plan)
            return Problems.NoSuchProject();
        var list = new List<ProposalDocument>();
        IDisposable? turn = null;
        try
        {
            foreach (var proposal in await proposals.OpenAsync(id, cancel))
            {
                // The plan has gone on since: what counts is what it would do now, worked out once for each version.
                if (sentences.Find(proposal.Id, plan) is not var (sentence, problem))
                {
                    turn ??= await budgets.EnterAsync(context, cancel);
                    sentences.Keep(proposal.Id, plan, (sentence, problem) = await NowAsync(proposal));
                }
                list.Add(
                    new ProposalDocument(
                        proposal.Id,
                        proposal.By,
                        PersonHue.Of(proposal.PersonId),
                        DateTime.SpecifyKind(proposal.At, DateTimeKind.Utc),
                        proposal.Task,
                        sentence,
                        problem,
                        proposal.Note,
                        proposal.PersonId == context.User.PersonId()
                    )
                );
            }
            return Results.Ok(list);
        }
        finally
        {
            turn?.Dispose();
        }

        async Task<(string Sentence, string? Problem)> NowAsync(Proposal proposal)
        {
            try
            {
                var edited = await edits.PreviewAsync(id, proposal.ReadEdit(today.Date), today.Date, cancel);
                return (edited is null ? proposal.Sentence : string.Concat(RippleText.Of(edited, done: false).Select(r => r.Text)), null);
            }
            catch (EditRefusedException refused)
            {
                return (proposal.Sentence, refused.Message);
            }
        }
    }

    private static async Task<IResult> AcceptAsync(
        Guid id,
        Guid proposal,
        HttpContext context,
        PlanEdits edits,
        PlanViews views,
        Proposals proposals,
        Today today,
        CancellationToken cancel,
        bool overrule = false
    )
    {
        if (await proposals.FindAsync(id, proposal, cancel) is not { } open)
            return await NotOpenAsync(proposals, id, proposal, cancel);
        var edit = open.ReadEdit(today.Date);
        // One that was made before this could not be proposed.
        if (!OwnWork.MayBeProposed(edit))
            return Problems.MayNot(
                "This proposal changes who is on the plan, when they work or who coordinates it: make that change yourself if you "
                    + "want it, and decline this."
            );
        // The proposal's id is the edit's, so that two who accept at once make it once.
        var request = new EditRequest(proposal, open.BaseVersion, edit, null, context.User.PersonId(), overrule)
        {
            // Accepted and made are one: whoever declines at the same moment, one of the two happens.
            Within = (db, stop) => proposals.DecideAsync(db, id, proposal, ProposalState.Accepted, context.User.PersonId(), stop),
        };
        var outcome = await edits.CommitAsync(id, request, today.Date, cancel);
        if (outcome is EditConflict conflict)
            return Problems.Conflict(conflict);
        if (outcome is NotDecided)
            return await NotOpenAsync(proposals, id, proposal, cancel);
        if (outcome is not EditCommitted committed)
            return Problems.NoSuchProject();
        return Results.Ok(
            new EditAnswer(
                committed.After.Version,
                null,
                PlanChanges.Everything(views.Of(committed.After), await edits.LastAsync(committed.After, context.User.PersonId(), cancel))
            )
        );
    }

    private static async Task<IResult> DeclineAsync(
        Guid id,
        Guid proposal,
        HttpContext context,
        Proposals proposals,
        CancellationToken cancel
    ) =>
        await proposals.DecideAsync(id, proposal, ProposalState.Declined, context.User.PersonId(), cancel)
            ? Results.NoContent()
            : await NotOpenAsync(proposals, id, proposal, cancel);

    private static async Task<IResult> WithdrawAsync(
        Guid id,
        Guid proposal,
        HttpContext context,
        Proposals proposals,
        CancellationToken cancel
    ) =>
        await proposals.DecideAsync(id, proposal, ProposalState.Withdrawn, context.User.PersonId(), cancel)
            ? Results.NoContent()
            : await NotOpenAsync(proposals, id, proposal, cancel);

    /// <summary>It was decided, or there never was one.</summary>
    private static async Task<IResult> NotOpenAsync(Proposals proposals, Guid project, Guid proposal, CancellationToken cancel) =>
        await proposals.WasDecidedAsync(project, proposal, cancel)
            ? Problems.Gone("This proposal has been decided or taken back already.", "decided")
            : Results.Problem("There is no such proposal for you to decide.", statusCode: StatusCodes.Status404NotFound);
}

/// <param name="Sentence">What it would do now; where it cannot be done any more, what it would have done when it was proposed.</param>
/// <param name="Problem">Why it cannot be done any more.</param>
/// <param name="Own">Whether the person who asks proposed it.</param>
public sealed record ProposalDocument(
    Guid Id,
    string By,
    int Hue,
    DateTime At,
    string? Task,
    string Sentence,
    string? Problem,
    string Note,
    bool Own
);

/// <summary>What proposals would do to the newest version of their plan, remembered so that looking at them again costs nothing.</summary>
internal sealed class ProposalSentences : IDisposable
{
    private const int MostKept = 5_000;

    private readonly Microsoft.Extensions.Caching.Memory.MemoryCache _known = new(
        new Microsoft.Extensions.Caching.Memory.MemoryCacheOptions { SizeLimit = MostKept }
    );

    /// <returns>The sentence, and why it cannot be done any more if that is so; <c>null</c> when it has to be worked out.</returns>
    public (string Sentence, string? Problem)? Find(Guid proposal, StoredPlan plan) =>
        _known.TryGetValue((proposal, plan.Version, plan.Edit), out var known) ? ((string, string?))known! : null;

    public void Keep(Guid proposal, StoredPlan plan, (string Sentence, string? Problem) told)
    {
        using var entry = _known.CreateEntry((proposal, plan.Version, plan.Edit));
        (entry.Value, entry.Size) = (told, 1);
    }

    public void Dispose() => _known.Dispose();
}
