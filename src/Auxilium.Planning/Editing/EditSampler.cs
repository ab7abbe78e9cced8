using Auxilium.Planning.Calendars;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Editing;

/// <summary>
/// Draws what random edits are made of, from a plan that has the people <c>ann</c> and <c>bo</c> and the calendars <c>a</c> and
/// <c>b</c>. Where an edit needs something that the plan does not have, the plan is given it.
/// </summary>
public sealed class EditSampler(Random random, Plan plan)
{
    /// <summary>Today, for every sample.</summary>
    public static readonly DateOnly Today = new(2027, 5, 13);

    /// <summary>A field that people made.</summary>
    public static readonly OwnField Shoes = new("shoes", "Shoes", OwnKind.Amount, "pairs");

    public Random Random { get; } = random;

    /// <summary>The plan that the edit is made on.</summary>
    public Plan Plan { get; private set; } = plan;

    /// <summary>A row without rows, drawn once.</summary>
    public string Leaf { get; } = LeafOf(random, plan);

    /// <summary>Any row, another each time.</summary>
    public string Any => Plan.Tasks[Random.Next(Plan.Tasks.Length)].Id;

    public bool Flip => Random.Next(2) == 0;

    /// <summary>A day so many days from <see cref="Today"/>.</summary>
    public DateOrTime Day(int from = -12, int to = 18) => PlanTime.On(Today.AddDays(Random.Next(from, from + Math.Abs(to - from) + 1)));

    /// <summary>An edit that is made on another plan than was given.</summary>
    public PlanEdit On(Plan plan, PlanEdit edit)
    {
        Plan = plan;
        return edit;
    }

    /// <summary>The leaf, which has started and is not done.</summary>
    public string Begun()
    {
        Change(task => task with { Progress = 0.5m, ActualStart = PlanTime.At(2027, 5, 4, 9), ActualFinish = null, Remaining = null });
        return Leaf;
    }

    /// <summary>The leaf, which is done.</summary>
    public string Done()
    {
        Do(new FinishTask(Begun(), Day(-5, 0)));
        return Leaf;
    }

    /// <summary>The leaf, which repeats.</summary>
    public string Repeating()
    {
        Change(task =>
            task with
            {
                Progress = 0,
                ActualStart = null,
                ActualFinish = null,
                Remaining = null,
                Milestone = false,
                Length = Length.OneDay,
                Splits = [],
            }
        );
        Plan = Plan with { Links = Plan.Links.RemoveAll(l => l.From == Leaf || l.To == Leaf) };
        var rule = new RepeatRule
        {
            Every = RepeatUnit.Week,
            From = PlanTime.On(Today.AddDays(1)),
            Times = 3,
            Length = Length.OneDay,
        };
        Do(new RepeatTask(Leaf, rule));
        return Leaf;
    }

    /// <summary>A link of the plan.</summary>
    public PlanLink Linked()
    {
        if (Plan.Links.IsEmpty)
            Plan = Plan with { Tasks = Plan.Tasks.Add(new PlanTask { Id = "more", Name = "More" }), Links = [new PlanLink(Leaf, "more")] };
        return Plan.Links[^1];
    }

    /// <summary>A row inside another.</summary>
    public string Indented()
    {
        if (Plan.Tasks.All(t => t.Parent is null))
            Plan = Plan with { Tasks = [.. Plan.Tasks, new() { Id = "p", Name = "P" }, PlanTask.Named("in", "In", "p")] };
        return Plan.Tasks.First(t => t.Parent is not null).Id;
    }

    /// <summary>A row with a row above it that may hold it.</summary>
    public string Below() =>
        Plan.Tasks.Where((_, row) => Plan.Index.PreviousSibling(row) is var above and >= 0 && !Plan.Tasks[above].Milestone)
            .Select(t => t.Id)
            .FirstOrDefault()
        ?? Any;

    /// <summary>A baseline of the plan, which it has from now on.</summary>
    public Baseline Remembered()
    {
        Change(task => task);
        Do(new TakeBaseline($"As agreed {Plan.Baselines.Length}", Flip ? null : [Leaf]));
        var taken = Plan.Baselines[^1];
        if (Flip)
            Do(new SetMeasure(taken.Id));
        return taken;
    }

    /// <summary>The leaf, on which somebody works who helps somebody else.</summary>
    public string Assigned()
    {
        Change(task => task with { Assignments = [new("ann"), new("bo", 0.5m, Flip ? null : Length.OneDay)] });
        return Leaf;
    }

    /// <summary>The leaf, which nobody does.</summary>
    public string Untaken()
    {
        Change(task => task with { Assignments = [] });
        return Leaf;
    }

    /// <summary>The leaf, which levelling delays.</summary>
    public string Delayed()
    {
        Change(task => task with { DelayedUntil = PlanTime.On(Today.AddDays(3)) });
        return Leaf;
    }

    /// <summary>What takes back that a row was removed.</summary>
    public PlanEdit Removed() => Do(new RemoveTasks([Any])).Inverse;

    public MoreHands? Hands() =>
        Random.Next(3) switch
        {
            0 => MoreHands.Shorter,
            1 => MoreHands.MoreEffort,
            _ => null,
        };

    public RepeatRule Rule() =>
        new()
        {
            Every = (RepeatUnit)Random.Next(4),
            Interval = 1 + Random.Next(3),
            From = Day(),
            Times = Flip ? 6 : 3,
            Length = Random.Next(4) == 0 ? Length.Zero : Length.OneDay,
            Closed = (OnClosedDay)Random.Next(3),
        };

    private AppliedEdit Do(PlanEdit edit)
    {
        var done = edit.Apply(Plan, new EditContext(Scheduler.Calculate(Plan), Today, []));
        Plan = done.Plan;
        return done;
    }

    /// <summary>Makes the leaf active or inactive. Links that went in a circle while it was inactive are not what is tested.</summary>
    private void Change(Func<PlanTask, PlanTask> change)
    {
        if (TaskEdits.InactiveAt(Plan, Plan.Index.RowOf(Leaf)) >= 0)
            Plan = Plan with { Tasks = [.. Plan.Tasks.Select(task => task with { Active = true })], Links = [] };
        Plan = PlanEditor.Replace(Plan, change(Plan.Find(Leaf)!));
    }

    private static string LeafOf(Random random, Plan plan)
    {
        var leaves = plan.Tasks.Where((_, row) => !plan.Index.IsPhase(row)).ToArray();
        return leaves[random.Next(leaves.Length)].Id;
    }
}
