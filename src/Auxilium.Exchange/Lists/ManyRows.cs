using System.Collections.Immutable;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Exchange.Lists;

/// <summary>
/// Makes whole rows of a long list: each by itself on an empty plan, and their dates all at once. What comes of it is what adding them
/// step by step would give.
/// </summary>
internal sealed class ManyRows(EditContext context)
{
    private readonly List<PlanEdit> _beside = [];
    private Plan _alone = context.Schedule.Plan with { Tasks = [], Links = [], Baselines = [] };

    public PlanEdit Adding(List<MadeRow> rows, ListOptions options, PlanEdit? fields, IReadOnlyList<PlanEdit> repeats)
    {
        if (fields is not null)
            Do(fields);
        var made = ImmutableArray.CreateBuilder<PlanTask>(rows.Count);
        foreach (var row in rows)
        {
            _alone = _alone with { Tasks = [PlanTask.Named(row.Id, ListEdits.NameOf(row))] };
            foreach (var (_, fact) in row.Facts)
                Do(fact);
            made.Add(_alone.Tasks[0] with { Parent = row.Phase?.Id ?? options.Parent });
        }
        var links = rows.SelectMany(row =>
            row.Before.Select(before => new PlanLink(before.From, row.Id, before.Lag, before.Kind, before.Elapsed))
        );
        var add = new AddRows(made.ToImmutable(), [.. links], options.Parent, options.After);
        return new Together([.. _beside, Placed(add, rows), .. repeats]);
    }

    /// <summary>Applies an edit to the row alone, and keeps what it does beside it: who joins the plan, and when they work.</summary>
    private void Do(PlanEdit edit)
    {
        var applied = PlanEditor.Apply(_alone, edit, context);
        _alone = applied.Plan;
        _beside.AddRange(EditPipeline.PartsOf(applied.Edit).Where(part => part.Traits.Task is null));
    }

    /// <summary>With the dates that the list gives: those are fixed which do not follow anyway.</summary>
    private AddRows Placed(AddRows add, List<MadeRow> rows)
    {
        var fixedTo =
            context.Schedule.Plan.Project.ScheduleFrom == ScheduleFrom.Start
                ? ConstraintKind.StartNoEarlierThan
                : ConstraintKind.StartNoLaterThan;
        var placed = rows.ToDictionary(row => row.Id, row => row.Place);
        var all = add with
        {
            Rows = [.. add.Rows.Select(row => placed[row.Id] is { } at ? row with { Constraint = new DateConstraint(fixedTo, at) } : row)],
        };
        var with = With(all);
        var free = with
            .Plan.Tasks.Where((task, row) => placed.GetValueOrDefault(task.Id) is not null && Follows(with, row))
            .Select(task => task.Id)
            .ToHashSet();
        var lean = all with { Rows = [.. all.Rows.Select(row => free.Contains(row.Id) ? row with { Constraint = null } : row)] };
        // Two that hold each other up may both seem free: what moved is fixed after all.
        var now = With(lean);
        return lean with { Rows = [.. lean.Rows.Zip(all.Rows, (row, held) => now.StartOf(row.Id) == with.StartOf(row.Id) ? row : held)] };
    }

    private static bool Follows(Schedule schedule, int row)
    {
        var drivers = schedule.Drivers.Of(row);
        return drivers.All(driver => driver.Kind != DriverKind.Constraint)
            || drivers.Any(driver => driver.Kind is not (DriverKind.Constraint or DriverKind.Calendar));
    }

    private Schedule With(AddRows add)
    {
        var plan = _beside.Aggregate(context.Schedule.Plan, (plan, edit) => PlanEditor.Apply(plan, edit, context).Plan);
        return Scheduler.Calculate(PlanEditor.Apply(plan, add, context).Plan);
    }
}
