using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Editing;

/// <summary>
/// What becomes of the occurrences of a series where another rule takes the place of its own: only what differs changes.
/// </summary>
/// <param name="Changed">Occurrences that stay but change: on another day, or of another length.</param>
/// <param name="Gone">Those that nobody has touched and that the new rule has no day for.</param>
/// <param name="New">Those that are to be made, numbered after all there were.</param>
/// <param name="Stays">How many are as they were.</param>
/// <param name="Kept">Those of which something a person did is kept, though the rule would have it otherwise.</param>
public sealed record SeriesChange(
    ImmutableArray<PlanTask> Changed,
    ImmutableArray<string> Gone,
    IReadOnlyList<Occurrence> New,
    int Stays,
    ImmutableArray<string> Kept
)
{
    /// <summary>Occurrences take the place of each other only where they are nearer than the next of the rule.</summary>
    private const int Alone = 7;

    internal static SeriesChange Of(
        Plan plan,
        PlanTask series,
        RepeatRule rule,
        IReadOnlyList<Occurrence> now,
        Func<PlanTask, RepeatRule, Occurrence, string, PlanTask> row
    )
    {
        if (series.Repeats is not { } old)
            return new SeriesChange([], [], now, 0, []);
        var calendar = plan.EffectiveCalendar(series);
        var were = Series.ToMake(
            old with
            {
                Made = null,
                Count = 0,
                Until = old.Made is { } made ? new DateOrTime(made) : old.Until,
            },
            calendar,
            plan.Project.Units
        );
        List<(PlanTask Task, Occurrence? Was)> rows =
        [
            .. plan.Index.ChildrenOf(plan.Index.RowOf(series.Id)).Select(r => (plan.Tasks[r], WasOf(plan.Tasks[r], were))),
        ];
        var pairs = Pairs(rows, now, rule.From.Date);
        var linked = plan.Links.SelectMany(l => new[] { l.From, l.To }).ToHashSet();
        var (changed, gone, kept, stays) = (new List<PlanTask>(), new List<string>(), new List<string>(), 0);
        foreach (var (task, was) in rows)
        {
            var expected = was is null ? null : row(series, old, was, task.Id);
            var isPlaced = expected is null || task.Pinned != expected.Pinned || task.Constraint is not null;
            if (!pairs.TryGetValue(task.Id, out var to))
            {
                if (
                    expected is not null
                    && !linked.Contains(task.Id)
                    && plan.Index.IsLeaf(plan.Index.RowOf(task.Id))
                    && IsUntouched(task, expected)
                )
                    gone.Add(task.Id);
                else
                    kept.Add(task.Id);
                continue;
            }
            var like = row(series, rule, to, task.Id);
            var other = task with { Occurrence = to.Day };
            if (task is { IsStarted: false, Active: true })
            {
                if (!isPlaced)
                    other = other with { Pinned = like.Pinned, AroundTheClock = like.AroundTheClock };
                if (task.Length == expected?.Length && task.Milestone == expected.Milestone)
                    other = other with { Length = like.Length, Milestone = like.Milestone };
                if (isPlaced && task.Pinned != like.Pinned)
                    kept.Add(task.Id);
            }
            else
            {
                kept.Add(task.Id);
            }
            if (other != task)
                changed.Add(other);
            else
                stays++;
        }
        var taken = pairs.Values.ToHashSet();
        var number = old.Count;
        return new SeriesChange(
            [.. changed],
            [.. gone],
            [.. now.Where(o => !taken.Contains(o)).Select(o => o with { Number = ++number })],
            stays,
            [.. kept]
        );
    }

    /// <summary>
    /// The occurrence of the rule so far that a row stands for; of one from before that was noted, the one it stands on.
    /// </summary>
    private static Occurrence? WasOf(PlanTask task, IReadOnlyList<Occurrence> were) =>
        task.Occurrence is { } day ? were.FirstOrDefault(o => o.Day == day) : were.FirstOrDefault(o => o.Start == task.Pinned?.Start);

    /// <summary>Which of the new occurrences each row is: that of the same day, or the one that takes its place.</summary>
    private static Dictionary<string, Occurrence> Pairs(
        List<(PlanTask Task, Occurrence? Was)> rows,
        IReadOnlyList<Occurrence> now,
        DateOnly from
    )
    {
        var pairs = new Dictionary<string, Occurrence>();
        var days = now.GroupBy(o => o.Day).ToDictionary(g => g.Key, g => g.First());
        foreach (var (task, was) in rows)
            if (DayOf(task, was) is { } day && days.Remove(day, out var same))
                pairs[task.Id] = same;
        var near = now.Count < 2 ? Alone : now.Zip(now.Skip(1), (a, b) => b.Day.DayNumber - a.Day.DayNumber).Min();
        foreach (var (task, was) in rows.Where(r => !pairs.ContainsKey(r.Task.Id)).OrderBy(r => DayOf(r.Task, r.Was)))
        {
            if (DayOf(task, was) is not { } day || days.Count == 0)
                continue;
            // What was done or skipped before the new rule begins has nothing to do with it.
            if (task is not { IsStarted: false, Active: true } && day < from)
                continue;
            var nearest = days.Values.MinBy(o => (Math.Abs(o.Day.DayNumber - day.DayNumber), o.Day))!;
            if (Math.Abs(nearest.Day.DayNumber - day.DayNumber) >= near)
                continue;
            pairs[task.Id] = nearest;
            days.Remove(nearest.Day);
        }
        return pairs;
    }

    private static DateOnly? DayOf(PlanTask task, Occurrence? was) => task.Occurrence ?? was?.Day;

    private static bool IsUntouched(PlanTask task, PlanTask made) =>
        task.Assignments.SequenceEqual(made.Assignments)
        && task.Checklist.SequenceEqual(made.Checklist)
        && task.References.IsEmpty
        && task.Splits.IsEmpty
        && made with
        {
            Assignments = task.Assignments,
            Checklist = task.Checklist,
            References = task.References,
            Splits = task.Splits,
            Occurrence = task.Occurrence,
            Name = NameLike(task, made),
        } == task;

    /// <summary>
    /// A number of its own is no name that somebody gave it: occurrences that came later are numbered otherwise than by their place.
    /// </summary>
    private static string NameLike(PlanTask task, PlanTask made)
    {
        var (own, space) = (task.Name, made.Name.LastIndexOf(' '));
        return
            own.StartsWith(made.Name[..(space + 1)], StringComparison.Ordinal)
            && own[(space + 1)..] is { Length: > 0 } number
            && number.All(char.IsAsciiDigit)
            ? own
            : made.Name;
    }
}
