using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;

namespace Auxilium.Planning.Money;

/// <summary>What a plan costs, what of it is spent, and what is left to be spent (rules M1–M6). All amounts are exact.</summary>
public sealed class PlanMoney
{
    private readonly Dictionary<string, Rates> _rates;
    private readonly Capacities _capacities;
    private readonly CostSum[] _rows;
    private readonly CostSum[] _own;
    private readonly List<CostLine> _lines = [];
    private readonly decimal[] _progress;

    /// <param name="schedule">The plan with its dates.</param>
    /// <param name="ledger">Its money.</param>
    /// <param name="hours">Hours that people worked on it; those of tasks that have left it count too.</param>
    /// <param name="asOf">What lies behind is what happened up to and with this day.</param>
    /// <param name="capacities">What is known of people's time; else what the plan says.</param>
    public PlanMoney(Schedule schedule, Ledger ledger, IReadOnlyCollection<PaidHours> hours, DateOnly asOf, Capacities? capacities = null)
    {
        (Schedule, Ledger, AsOf) = (schedule, ledger, asOf);
        _capacities = capacities ?? Capacities.Of(schedule.Plan);
        _rates = ledger.Rates.ToDictionary(person => person.Key, person => new Rates(person.Value));
        Actuals = ledger.Actuals ?? (hours.Count > 0 || ledger.HasPayments ? Actuals.Entered : Actuals.Progress);
        var count = schedule.Plan.Index.Count;
        (_rows, _own, _progress) = (new CostSum[count], new CostSum[count], ProgressOf(schedule));
        var worked = WorkedOn(Actuals == Actuals.Entered ? hours : []);
        for (var row = 0; row < count; row++)
        {
            var from = _lines.Count;
            AddLabour(row, worked);
            AddItems(row);
            for (var line = from; line < _lines.Count; line++)
                _own[row] = _own[row].Plus(_lines[line]);
        }
        for (var row = count - 1; row >= 0; row--)
        {
            _rows[row] = _rows[row].Plus(_own[row]);
            if (schedule.Plan.Index.ParentOf(row) is var phase and >= 0)
                _rows[phase] = _rows[phase].Plus(_rows[row]);
            else
                Whole = Whole.Plus(_rows[row]);
        }
        Gone = SpentOnGone(worked);
        Whole = Whole with { Spent = Whole.Spent + Gone };
    }

    public Schedule Schedule { get; }

    public Ledger Ledger { get; }

    public DateOnly AsOf { get; }

    /// <summary>How it is known what was spent.</summary>
    public Actuals Actuals { get; }

    /// <summary>Of the project: the sum of all, and what was spent on rows that are gone.</summary>
    public CostSum Whole { get; private set; }

    /// <summary>What was spent on rows that have left the plan.</summary>
    public decimal Gone { get; }

    /// <summary>Row by row, of each its people and then its items.</summary>
    public IReadOnlyList<CostLine> Lines => _lines;

    /// <summary>Of a row; of a phase the sum of its rows and of its own items (rule M4).</summary>
    public CostSum Of(int row) => _rows[row];

    /// <summary>Of a row without those inside it.</summary>
    public CostSum OwnOf(int row) => _own[row];

    /// <summary>What there is for the project; <c>null</c> while nobody has said.</summary>
    public decimal? Budget => Ledger.Budget;

    /// <summary>What of the budget is not expected to be spent: below 0 when it will not do.</summary>
    public decimal? Free => Budget - Whole.Expected;

    public decimal? BudgetOf(int row) => Ledger.Budgets.TryGetValue(Schedule.Plan.Tasks[row].Id, out var budget) ? budget : null;

    public decimal? FreeOf(int row) => BudgetOf(row) - _rows[row].Expected;

    /// <summary>How far a row is, 0 to 1, in decimals: of a phase weighed by length (rule P2).</summary>
    public decimal ProgressOf(int row) => _progress[row];

    /// <summary>What volunteers' work is worth: planned, and done so far; no part of the cost (rule M2).</summary>
    public (decimal PlannedMinutes, decimal WorkedMinutes) Volunteered(IEnumerable<PaidHours> hours)
    {
        var planned = 0m;
        for (var row = 0; row < _rows.Length; row++)
            if (Schedule.IsLeaf(row))
                foreach (var assignment in Schedule.Plan.Tasks[row].Assignments)
                    if (Ledger.Volunteers.Contains(assignment.Person))
                        planned += EffortOf(row, assignment);
        return (planned, hours.Where(h => h.Worked.Day <= AsOf && Ledger.Volunteers.Contains(h.Worked.Person)).Sum(h => h.Worked.Minutes));
    }

    internal Rates RatesOf(string person) => _rates.TryGetValue(person, out var rates) ? rates : Rates.None;

    /// <summary>An assignment's whole effort on its days, whatever has been done of it.</summary>
    internal AssignedWork WorkOf(int row, Assignment assignment) =>
        AssignedWork.Whole(Schedule, _capacities, row, assignment, EffortOf(row, assignment));

    private decimal EffortOf(int row, Assignment assignment) =>
        Effort.Of(Schedule.Plan, Schedule.Plan.Tasks[row], assignment, Schedule.LengthOf(row).Count);

    private void AddLabour(int row, Dictionary<string, List<Done>> worked)
    {
        var task = Schedule.Plan.Tasks[row];
        var done = worked.GetValueOrDefault(task.Id) ?? [];
        if (Schedule.IsLeaf(row))
            foreach (var assignment in task.Assignments)
                AddLabour(row, assignment, done);
        // Whoever is not on the task, or no longer, worked all the same.
        foreach (var of in done)
            if (of.Cost != 0 && !(Schedule.IsLeaf(row) && task.Assignments.Any(a => a.Person == of.Person)))
                _lines.Add(new CostLine(row, of.Person, null, PlannedCost.None, of.Cost, 0));
    }

    private void AddLabour(int row, Assignment assignment, List<Done> done)
    {
        var (task, rates) = (Schedule.Plan.Tasks[row], RatesOf(assignment.Person));
        if (rates.IsEmpty)
            return;
        var effort = EffortOf(row, assignment);
        var planned = PlannedOf(row, assignment, rates, effort);
        if (Actuals == Actuals.Progress)
        {
            Add(row, assignment.Person, null, planned, Reached(row, planned));
            return;
        }
        var spent = done.Find(of => of.Person == assignment.Person) is { } worked ? worked.Cost + rates.On(worked.First).PerUse : 0;
        var left = task.IsFinished ? 0 : LeftOf(row, assignment, rates, effort * (1 - task.Progress));
        _lines.Add(new CostLine(row, assignment.Person, null, planned, spent, left));
    }

    /// <summary>Effort at the rates of its days, and once what using them costs (rule M2).</summary>
    private PlannedCost PlannedOf(int row, Assignment assignment, Rates rates, decimal effort)
    {
        if (rates.IsSteady)
        {
            var rate = rates.On(default);
            return new PlannedCost(rate.PerUse, effort * rate.Hour / 60, 0);
        }
        var (first, cost) = ((DateOnly?)null, 0m);
        WorkOf(row, assignment)
            .Lay(DateOnly.MinValue, _capacities.CalendarOf(assignment.Person), (day, minutes) =>
            {
                first ??= day;
                cost += minutes * rates.On(day).Hour;
            });
        return new PlannedCost(rates.On(first ?? Schedule.StartOf(row).Date).PerUse, cost / 60, 0);
    }

    private decimal LeftOf(int row, Assignment assignment, Rates rates, decimal left)
    {
        if (rates.IsSteady || left == 0)
            return left * rates.On(default).Hour / 60;
        var cost = 0m;
        (WorkOf(row, assignment) with { Left = left }).Lay(AsOf.AddDays(1), _capacities.CalendarOf(assignment.Person), (day, minutes) =>
            cost += minutes * rates.On(day).Hour
        );
        return cost / 60;
    }

    private void AddItems(int row)
    {
        var isOff = Schedule.IsOff(row);
        foreach (var item in Ledger.ItemsOf(Schedule.Plan.Tasks[row].Id))
        {
            var whole = isOff ? 0 : item.Planned(Schedule.LengthOf(row).Count, Schedule.Plan.Project.Units.MinutesPerDay);
            var planned = item.Accrues switch
            {
                Accrual.Start => new PlannedCost(whole, 0, 0),
                Accrual.Evenly => new PlannedCost(0, whole, 0),
                _ => new PlannedCost(0, 0, whole),
            };
            if (Actuals == Actuals.Progress)
            {
                Add(row, null, item, planned, isOff ? 0 : Reached(row, planned));
                continue;
            }
            var paid = item.Paid(AsOf);
            _lines.Add(new CostLine(row, null, item, planned, paid, isOff || IsFinished(row) ? 0 : Math.Max(0, whole - paid)));
        }
    }

    private void Add(int row, string? person, CostItem? item, PlannedCost planned, decimal spent) =>
        _lines.Add(new CostLine(row, person, item, planned, spent, planned.Whole - spent));

    /// <summary>What of a row's planned cost is spent by how far it is (rule M5).</summary>
    private decimal Reached(int row, PlannedCost planned) =>
        (IsStarted(row) ? planned.AtStart : 0) + planned.Evenly * _progress[row] + (IsFinished(row) ? planned.AtFinish : 0);

    private bool IsStarted(int row) => Any(row, task => task.IsStarted);

    private bool IsFinished(int row)
    {
        if (!Schedule.IsPhase(row))
            return Schedule.Plan.Tasks[row].IsFinished;
        return !Any(row, task => !task.IsFinished);
    }

    /// <summary>Whether any task of a phase, or the task itself, is so; inactive ones are none of it.</summary>
    private bool Any(int row, Func<PlanTask, bool> isSo)
    {
        if (!Schedule.IsPhase(row))
            return isSo(Schedule.Plan.Tasks[row]);
        var index = Schedule.Plan.Index;
        for (var inside = row + 1; inside < index.Count && index.LevelOf(inside) > index.LevelOf(row); inside++)
            if (Schedule.IsLeaf(inside) && isSo(Schedule.Plan.Tasks[inside]))
                return true;
        return false;
    }

    /// <summary>By task, what the hours of each person cost, and the first day of them.</summary>
    private Dictionary<string, List<Done>> WorkedOn(IEnumerable<PaidHours> hours)
    {
        var worked = new Dictionary<string, List<Done>>();
        foreach (var paid in hours)
        {
            var entry = paid.Worked;
            if (entry.Day > AsOf)
                continue;
            if (!worked.TryGetValue(entry.Task, out var of))
                worked[entry.Task] = of = [];
            if (of.Find(d => d.Person == entry.Person) is not { } done)
                of.Add(done = new Done(entry.Person, entry.Day));
            done.Cost += paid.Cost(RatesOf(entry.Person).On(entry.Day));
            done.First = entry.Day < done.First ? entry.Day : done.First;
        }
        return worked;
    }

    private decimal SpentOnGone(Dictionary<string, List<Done>> worked)
    {
        if (Actuals == Actuals.Progress)
            return 0;
        var index = Schedule.Plan.Index;
        return worked.Where(of => !index.TryFind(of.Key, out _)).Sum(of => of.Value.Sum(done => done.Cost))
            + Ledger.Items.Where(items => !index.TryFind(items.Key, out _)).Sum(items => items.Value.Sum(item => item.Paid(AsOf)));
    }

    private sealed class Done(string person, DateOnly first)
    {
        public string Person => person;
        public DateOnly First { get; set; } = first;
        public decimal Cost { get; set; }
    }

    /// <summary>As the schedule has it, without binary fractions.</summary>
    private static decimal[] ProgressOf(Schedule schedule)
    {
        var (plan, index) = (schedule.Plan, schedule.Plan.Index);
        var progress = new decimal[index.Count];
        var sums = new (decimal Done, decimal Length, int Finished, int Count)[index.Count];
        for (var row = index.Count - 1; row >= 0; row--)
        {
            ref var sum = ref sums[row];
            if (schedule.IsLeaf(row))
            {
                progress[row] = plan.Tasks[row].IsFinished ? 1 : plan.Tasks[row].Progress;
                var length = schedule.LengthOf(row).Count;
                sum = (length * progress[row], length, progress[row] >= 1 ? 1 : 0, 1);
            }
            else if (schedule.IsPhase(row))
                progress[row] =
                    sum.Length > 0 ? sum.Done / sum.Length
                    : sum.Count > 0 ? (decimal)sum.Finished / sum.Count
                    : 0;
            if (index.ParentOf(row) is not (var phase and >= 0))
                continue;
            ref var above = ref sums[phase];
            above = (above.Done + sum.Done, above.Length + sum.Length, above.Finished + sum.Finished, above.Count + sum.Count);
        }
        return progress;
    }
}
