using System.Collections.Immutable;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Words.EditText;

namespace Auxilium.Planning.Editing;

/// <summary>Several edits as one: all are applied, or none.</summary>
public sealed record Together(ImmutableArray<PlanEdit> Edits) : PlanEdit, IEditKind
{
    /// <summary>So many edits of a kind are told each for itself.</summary>
    private const int MostAlone = 3;

    public static string Wire => "together";

    public override EditTraits Traits =>
        new(null, EditField.None, Edits.IsDefaultOrEmpty ? EditRight.Edit : Edits.Max(e => e.Traits.Right));

    public override string Many => "groups of edits";

    internal override AppliedEdit Apply(Plan plan, EditContext context) => PlanEditor.ApplyAll(plan, Edits, context);

    /// <summary>
    /// Every part is told: alone where there are few of its kind or much hangs on it, and otherwise how many of its kind there are.
    /// </summary>
    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after)
    {
        var parts = EditPipeline.PartsOf(this).ToImmutableArray();
        var joins = parts.OfType<JoinPlan>().Select(j => j.Person.Id).ToHashSet();
        // Whoever joins a plan brings their own time: that goes without saying.
        var telling = parts
            .Where(e =>
                e is not (JoinPlan or LeavePlan) && !(e is SetOwnTime own && joins.Contains(own.Person)) && e.IsLeft(before, after)
            )
            .ToImmutableArray();
        List<IEnumerable<TextRun>> sentences =
        [
            .. telling.Where(IsWeighty).Select(e => e.Say(before, after)),
            .. SaidTogether([.. telling.Where(e => !IsWeighty(e))], before, after),
            .. parts.Where(e => e is JoinPlan or LeavePlan).Select(e => e.Say(before, after)),
        ];
        return sentences.Count > 0 ? Joined(sentences) : [new("Nothing changed.")];
    }

    public static PlanEdit Sample(EditSampler from) =>
        new Together([new RenameTask(from.Any, "One"), PlainFacts.Priority.Give(from.Leaf, 7), new RemoveTasks([from.Any])]);

    /// <summary>What decides who may do what is told each for itself, and first.</summary>
    private static bool IsWeighty(PlanEdit edit) => edit.Traits.Right == EditRight.People;

    private static IEnumerable<IEnumerable<TextRun>> SaidTogether(ImmutableArray<PlanEdit> telling, Schedule before, Schedule after)
    {
        if (telling.IsEmpty)
            return [];
        if (telling.Length == 1)
            return [telling[0].Say(before, after)];
        var tasks = telling.Select(e => e.Traits.Task).Distinct().ToList();
        if (telling is [SetActive { On: true }, SetFixedDates or SetTracking] && tasks.Count == 1)
            return
            [
                [Called(after, tasks[0]!), new($" is active again and starts {Dates.Day(after.StartOf(tasks[0]!))}.")],
            ];
        if (telling is [SetLength resized, SetFixedDates or SetTracking] && tasks.Count == 1)
        {
            var start = Dates.Day(after.StartOf(tasks[0]!));
            return
            [
                [Called(after, tasks[0]!), new($" now starts {start} and takes {resized.Length.Length.InWords()}.")],
            ];
        }
        var added = telling.OfType<AddTask>().Select(e => e.Id).ToHashSet();
        if (added.Count > 0 && tasks.All(t => t is not null && added.Contains(t)))
            return
            [
                added.Count == 1 ? [Called(after, added.First()), new(" added.")] : [new($"{added.Count} rows", true), new(" added.")],
            ];
        if (tasks.Count > 1 && !tasks.Contains(null) && telling[0].SayOfAll(telling, after) is { } same)
            return
            [
                [new($"{tasks.Count} tasks", true), .. same],
            ];
        return telling
            .GroupBy(e => e.GetType())
            .SelectMany(kind =>
                kind.Count() <= MostAlone
                    ? kind.Select(e => e.Say(before, after))
                    :
                    [
                        [new($"{kind.Count()}", true), new($" {kind.First().Many}.")],
                    ]
            );
    }

    private static IEnumerable<TextRun> Joined(IEnumerable<IEnumerable<TextRun>> sentences)
    {
        var isFirst = true;
        foreach (var sentence in sentences)
        {
            if (!isFirst)
                yield return new(" ");
            foreach (var run in sentence)
                yield return run;
            isFirst = false;
        }
    }
}
