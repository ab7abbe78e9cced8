using System.Collections.Immutable;
using Auxilium.Planning.Editing;
using Auxilium.Storage;
using Auxilium.Web.Api;

namespace Auxilium.Web.Pages.Plan;

/// <summary>What the Plan screen draws anew after an edit; parts that did not change are <c>null</c>.</summary>
/// <param name="Rows">Rows that are new or other than before.</param>
/// <param name="Order">Ids of all rows in order, when rows came, went or moved.</param>
/// <param name="Sentence">For the ripple strip.</param>
/// <param name="Moves">What the newest edit moved; <c>null</c> where the ripple that comes with it says so.</param>
public sealed record PlanChanges(
    ProjectView Project,
    IReadOnlyList<RowView> Rows,
    IReadOnlyList<string>? Order,
    IReadOnlyList<LinkView>? Links,
    IReadOnlyList<PersonView>? People,
    IReadOnlyList<ClosedDays>? Closed,
    bool CanUndo,
    bool CanRedo,
    ImmutableArray<TextRun> Sentence,
    IReadOnlyList<MoveDocument>? Moves)
{
    /// <param name="before">What the screen shows, or <c>null</c> to draw everything.</param>
    internal static PlanChanges Between(PlanView? before, PlanView after, bool canUndo, bool canRedo, ImmutableArray<TextRun> sentence, IReadOnlyList<MoveDocument>? moves = null)
    {
        var known = before?.Rows.ToDictionary(r => r.Id);
        var sameOrder = before is not null && before.Rows.Count == after.Rows.Count && before.Rows.Zip(after.Rows).All(pair => pair.First.Id == pair.Second.Id);
        return new PlanChanges(
            after.Project,
            known is null ? after.Rows : [.. after.Rows.Where(row => !known.TryGetValue(row.Id, out var was) || was != row)],
            sameOrder ? null : [.. after.Rows.Select(r => r.Id)],
            Unless(before?.Links, after.Links),
            Unless(before?.People, after.People),
            Unless(before?.Closed, after.Closed),
            canUndo,
            canRedo,
            sentence,
            moves);
    }

    /// <summary>The whole plan, with what its newest edit did.</summary>
    internal static PlanChanges Everything(PlanView view, StoredPlan plan, LastEdit last) =>
        Between(null, view, last.CanUndo, last.CanRedo, last.Sentence, [.. last.Moves.Select(m => MoveDocument.Of(m, plan.Schedule))]);

    private static IReadOnlyList<T>? Unless<T>(IReadOnlyList<T>? before, IReadOnlyList<T> after) =>
        before is not null && before.SequenceEqual(after) ? null : after;
}
