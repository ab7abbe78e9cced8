using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Words.EditText;

namespace Auxilium.Planning.Editing;

/// <param name="Until">It starts no earlier; <c>null</c> where levelling no longer delays it.</param>
public readonly record struct TaskDelay(string Task, DateOrTime? Until = null);

/// <summary>What levelling delays, so that people have time for it (rule N5); or no longer does.</summary>
public sealed record DelayTasks(ImmutableArray<TaskDelay> Delays) : PlanEdit, IEditKind
{
    /// <summary>So many tasks are told each for itself.</summary>
    private const int MostNamed = 3;

    public static string Wire => "delayTasks";

    public override EditTraits Traits =>
        new(Delays is { IsDefault: false, Length: 1 } ? Delays[0].Task : null, EditField.Start, EditRight.Edit);

    public override string Many => "groups of tasks levelled";

    public static DelayTasks Release(string task) => new([new TaskDelay(task)]);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        if (Delays.IsDefaultOrEmpty)
            throw new EditRefusedException("nothing", "No task was named to delay.");
        context.Spend(plan.Tasks.Length);
        var tasks = plan.Tasks.ToBuilder();
        var (decided, was) = (new List<TaskDelay>(), new List<TaskDelay>());
        var seen = new HashSet<string>();
        foreach (var (id, until) in Delays)
        {
            var row = plan.Index.RowOf(PlanEditor.TaskOf(plan, id).Id);
            var task = tasks[row];
            if (!seen.Add(id))
                throw new EditRefusedException("twice", "A task can be delayed once in an edit: name each one time.", id, EditField.Start);
            PlanTime? at = until?.AsStart(plan.EffectiveCalendar(task));
            if (at is { IsInRange: false })
                throw new EditRefusedException(
                    "outOfRange",
                    "That is outside the years that can be planned: give a date from 1990 to 2100.",
                    id,
                    EditField.Start
                );
            decided.Add(new TaskDelay(id, at is { } exact ? exact : null));
            was.Add(new TaskDelay(id, task.DelayedUntil is { } before ? before : null));
            tasks[row] = task with { DelayedUntil = at };
        }
        return new AppliedEdit(
            plan with
            {
                Tasks = tasks.ToImmutable(),
            },
            new DelayTasks([.. decided]),
            new DelayTasks([.. was]),
            [.. seen.Select(id => new Touch(id, EditField.Start))]
        );
    }

    /// <summary>A plan with delays whose instants are exact.</summary>
    internal static Plan On(Plan plan, ImmutableArray<TaskDelay> delays)
    {
        var tasks = plan.Tasks.ToBuilder();
        foreach (var (id, until) in delays)
        {
            var row = plan.Index.RowOf(id);
            tasks[row] = tasks[row] with { DelayedUntil = until?.AsStart(plan.EffectiveCalendar(tasks[row])) };
        }
        return plan with { Tasks = tasks.ToImmutable() };
    }

    internal override bool IsLeft(Schedule before, Schedule after) => Delays.Any(delay => after.Plan.Find(delay.Task) is not null);

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after)
    {
        if (Delays.Length > MostNamed)
        {
            var later = Delays.Count(delay => delay.Until is not null);
            return later == Delays.Length ? [new("Levelling", true), new($" delays {later} tasks.")]
                : later == 0 ? [new("Levelling", true), new($" no longer delays {Delays.Length} tasks.")]
                : [new("Levelling", true), new($" delays {later} tasks, and {Delays.Length - later} no longer.")];
        }
        return Delays.SelectMany(
            (delay, at) =>
                new TextRun[]
                {
                    new(at == 0 ? "Levelling " : " Levelling "),
                    new(delay.Until is null ? "no longer delays " : "delays "),
                    Called(after, delay.Task),
                    new(delay.Until is { } until ? $" until {Dates.Day(until.AsStart(after.Plan.ProjectCalendar))}." : "."),
                }
        );
    }

    public static PlanEdit Sample(EditSampler from) =>
        new DelayTasks(from.Flip ? [new TaskDelay(from.Leaf, from.Day(0, 9))] : [new TaskDelay(from.Leaf)]);
}

/// <summary>Takes back what levelling delayed (rule N5).</summary>
/// <param name="Tasks">Of these; of all tasks where none is named.</param>
public sealed record ReleaseLevelling(ImmutableArray<string>? Tasks = null) : UndecidedEdit, IEditKind
{
    public static string Wire => "releaseLevelling";

    public override EditTraits Traits => new(null, EditField.None, EditRight.Edit);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var delayed = Tasks is not { IsDefaultOrEmpty: false } named
            ? plan.Tasks.Where(task => task.DelayedUntil is not null).Select(task => task.Id)
            : named.Distinct().Where(id => PlanEditor.TaskOf(plan, id).DelayedUntil is not null);
        return delayed.Select(id => new TaskDelay(id)).ToImmutableArray() is { IsEmpty: false } all
            ? new DelayTasks(all).Apply(plan, context)
            : throw new EditRefusedException("nothing", "Levelling delays none of these tasks, so there is nothing to release.");
    }

    public static PlanEdit Sample(EditSampler from) => from.Flip ? new ReleaseLevelling() : new ReleaseLevelling([from.Delayed()]);
}
