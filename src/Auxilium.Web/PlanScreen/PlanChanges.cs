using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Words;
using Auxilium.Storage.Plans;

namespace Auxilium.Web.PlanScreen;

/// <summary>A version of a plan as a page knows it.</summary>
/// <param name="Edit">Id of the edit that made it; <c>null</c> for the first.</param>
public sealed record VersionMark(int Version, Guid? Edit);

/// <summary>What the Plan screen draws anew after an edit; parts that did not change are <c>null</c>.</summary>
/// <param name="Rows">New rows, with everything that is not at its default, and of changed rows the changed fields, with their
/// ids.</param>
/// <param name="From">The version that this leads on from, and no other; <c>null</c> when every row is told, as to somebody who knows
/// none: what a row does not say is then as usual, and not as it was.</param>
/// <param name="Order">Ids of all rows in order, when rows came, went or moved.</param>
/// <param name="Sentence">For the ripple strip.</param>
/// <param name="Moved">How many tasks the newest edit moved.</param>
public sealed record PlanChanges(
    ProjectView Project,
    IReadOnlyList<object> Rows,
    VersionMark? From,
    IReadOnlyList<string>? Order,
    IReadOnlyList<LinkView>? Links,
    IReadOnlyList<int>? FinishLinks,
    IReadOnlyList<PersonView>? People,
    IReadOnlyList<ClosedDays>? Closed,
    bool CanUndo,
    bool CanRedo,
    ImmutableArray<TextRun> Sentence,
    int Moved
)
{
    /// <summary>By what they lead to: whoever made an edit and those who see it are told the same.</summary>
    private static readonly ConditionalWeakTable<PlanView, Lazy<(WeakReference<PlanView> Before, PlanChanges Changes)>> Known = [];

    /// <param name="before">What the screen shows, or <c>null</c> to draw everything.</param>
    internal static PlanChanges Between(
        PlanView? before,
        PlanView after,
        bool canUndo,
        bool canRedo,
        ImmutableArray<TextRun> sentence,
        int moved
    )
    {
        var known = before is null
            ? null
            : Known.GetValue(after, _ => new Lazy<(WeakReference<PlanView>, PlanChanges)>(() => (new(before), Make(before, after))));
        var changes =
            known is { Value: var (from, made) } && from.TryGetTarget(out var same) && ReferenceEquals(same, before)
                ? made
                : Make(before, after);
        return changes with { CanUndo = canUndo, CanRedo = canRedo, Sentence = sentence, Moved = moved };
    }

    private static PlanChanges Make(PlanView? before, PlanView after)
    {
        var known = before?.Rows.ToDictionary(r => r.Id);
        var sameOrder =
            before is not null
            && before.Rows.Count == after.Rows.Count
            && before.Rows.Zip(after.Rows).All(pair => pair.First.Id == pair.Second.Id);
        return new PlanChanges(
            after.Project,
            known is null ? after.Rows : RowChanges.Between(known, after.Rows),
            before is null ? null : new VersionMark(before.Project.Version, before.Project.Edit),
            sameOrder ? null : [.. after.Rows.Select(r => r.Id)],
            Unless(before?.Links, after.Links),
            Unless(before?.FinishLinks, after.FinishLinks),
            Unless(before?.People, after.People),
            Unless(before?.Closed, after.Closed),
            false,
            false,
            [],
            0
        );
    }

    /// <summary>The whole plan, with what its newest edit did.</summary>
    internal static PlanChanges Everything(PlanView view, LastEdit last) =>
        Between(null, view, last.CanUndo, last.CanRedo, last.Did?.Sentence ?? [], last.Did?.Moves.Count ?? 0);

    private static IReadOnlyList<T>? Unless<T>(IReadOnlyList<T>? before, IReadOnlyList<T> after) =>
        before is not null && (ReferenceEquals(before, after) || before.SequenceEqual(after)) ? null : after;
}
