using Auxilium.Planning.Editing;
using Auxilium.Storage;
using Auxilium.Storage.People;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Auxilium.Web.Pages.Plan;
using Auxilium.Web.Pages.Shared;

namespace Auxilium.Web.Api;

/// <summary>Changes that members propose: the coordinator accepts or declines each at a click.</summary>
internal static class ProposalsApi
{
    public static void Map(RouteGroupBuilder api)
    {
        var proposals = api.MapGroup("/projects/{id:guid}/proposals").WithTags("Proposals");
        proposals.MapGet("", ListAsync).RequireAuthorization(Rights.LookAtPlans)
            .WithSummary("The proposals that wait for a decision, the oldest first.").Produces<IReadOnlyList<ProposalDocument>>();
        proposals.MapPost("/{proposal:guid}/accept", AcceptAsync).RequireAuthorization(Rights.EditPlans).AddEndpointFilter<ForgeryFilter>()
            .WithSummary("Makes the change as it was proposed, on the plan as it is now.").Produces<EditAnswer>().ProducesProblem(404).ProducesProblem(422);
        proposals.MapPost("/{proposal:guid}/decline", DeclineAsync).RequireAuthorization(Rights.EditPlans).AddEndpointFilter<ForgeryFilter>()
            .WithSummary("Closes a proposal; its author is told.").Produces(204).ProducesProblem(404);
        proposals.MapDelete("/{proposal:guid}", WithdrawAsync).RequireAuthorization(Rights.Report).AddEndpointFilter<ForgeryFilter>()
            .WithSummary("Takes back a proposal of one's own.").Produces(204).ProducesProblem(404);
    }

    private static async Task<IResult> ListAsync(Guid id, HttpContext context, Proposals proposals, CancellationToken cancel) =>
        Results.Ok((await proposals.OpenAsync(id, cancel)).Select(p => new ProposalDocument(p.Id, p.By, PersonHue.Of(p.PersonId), DateTime.SpecifyKind(p.At, DateTimeKind.Utc), p.Task, p.Sentence, p.Note, p.PersonId == context.User.PersonId())));

    private static async Task<IResult> AcceptAsync(Guid id, Guid proposal, HttpContext context, PlanStore store, PlanEdits edits, PlanViews views, Proposals proposals, Today today, CancellationToken cancel)
    {
        if (await proposals.EditOfAsync(id, proposal, today.Date, cancel) is not { } edit || await store.LoadAsync(id, cancel) is not { } plan) return NotOpen();
        try
        {
            // The proposal's id is the edit's, so that two who accept at once make it once.
            var outcome = await edits.CommitAsync(id, new EditRequest(proposal, plan.Version, edit, null, context.User.PersonId(), Overrule: true), today.Date, cancel);
            if (outcome is not EditCommitted committed) return Problems.NoSuchProject();
            await proposals.DecideAsync(id, proposal, ProposalState.Accepted, context.User.PersonId(), cancel);
            return Results.Ok(new EditAnswer(committed.After.Version, null, PlanChanges.Everything(views.Of(committed.After), await edits.LastAsync(committed.After, context.User.PersonId(), cancel))));
        }
        catch (EditRefusedException refused)
        {
            return Problems.Refused(refused);
        }
    }

    private static async Task<IResult> DeclineAsync(Guid id, Guid proposal, HttpContext context, Proposals proposals, CancellationToken cancel) =>
        await proposals.DecideAsync(id, proposal, ProposalState.Declined, context.User.PersonId(), cancel) ? Results.NoContent() : NotOpen();

    private static async Task<IResult> WithdrawAsync(Guid id, Guid proposal, HttpContext context, Proposals proposals, CancellationToken cancel) =>
        await proposals.DecideAsync(id, proposal, ProposalState.Withdrawn, context.User.PersonId(), cancel) ? Results.NoContent() : NotOpen();

    private static IResult NotOpen() => Results.Problem("This proposal has been decided or taken back already.", statusCode: StatusCodes.Status404NotFound);
}

/// <param name="Sentence">What it would have done when it was proposed.</param>
/// <param name="Own">Whether the person who asks proposed it.</param>
public sealed record ProposalDocument(Guid Id, string By, int Hue, DateTime At, string? Task, string Sentence, string Note, bool Own);
