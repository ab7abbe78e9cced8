using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;

namespace Auxilium.Planning.Money;

/// <summary>What a plan costs, what of it is spent, and what is left to be spent (rules M1–M6). All amounts are exact.</summary>
public sealed class PlanMoney
{
    /// <summary>From so many rows on, it is worth while to share them out among processors.</summary>
    private const int ManyRows = 1000;

    private readonly Dictionary<string, Rates> _rates;
    private readonly Capacities _capacities;
    private readonly CostSum[] _rows;

    /// <summary>Of rows with others inside them, what they cost without those.</summary>
    private readonly Dictionary<int, CostSum> _own = [];
    private readonly Dictionary<string, List<Done>> _worked;
    private List<CostLine>? _lines;
    private decimal[]? _progress;
    private int _taken;
    private static readonly List<Done> s_nothing = [];

    /// <param name="schedule">The plan with its dates.</param>
    /// <param name="ledger">Its money.</param>
    /// <param name="hours">Hours that people worked on it; those of tasks that have left it count too.</param>
    /// <param name="asOf">What lies behind is what happened up to and with this day.</param>
    /// <param name="before">Worked out earlier: what of it still holds is taken from there.</param>
    public PlanMoney(Schedule schedule, Ledger ledger, IReadOnlyCollection<PaidHours> hours, DateOnly asOf, PlanMoney? before = null)
    {
        (Schedule, Ledger, AsOf) = (schedule, ledger, asOf);
        _capacities = Capacities.Of(schedule.Plan);
        _rates = ledger.Rates.ToDictionary(person => person.Key, person => new Rates(person.Value));
        Actuals = ledger.Actuals ?? (hours.Count > 0 || ledger.HasPayments ? Actuals.Entered : Actuals.Progress);
        var count = schedule.Plan.Index.Count;
        _rows = new CostSum[count];
        _worked = WorkedOn(Actuals == Actuals.Entered ? hours : []);
        var same = before is null ? null : new UnchangedCost(before, this);
        // No row depends on another until they are added up.
        if (count < ManyRows)
            for (var row = 0; row < count; row++)
                _rows[row] = OwnAfter(before, same, row);
        else
            Parallel.For(0, count, row => _rows[row] = OwnAfter(before, same, row));
        RollUp();
        Gone = SpentOnGone();
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

    /// <summary>
    /// Row by row, of each its people and then its items. They are worked out when they are asked for: most who ask want sums.
    /// </summary>
    public IReadOnlyList<CostLine> Lines
    {
        get
        {
            if (_lines is not null)
                return _lines;
            var lines = new List<CostLine>();
            for (var row = 0; row < _rows.Length; row++)
                Reckon(row, lines);
            return _lines = lines;
        }
    }

    /// <summary>Those of one row.</summary>
    public IReadOnlyList<CostLine> LinesOf(int row)
    {
        var lines = new List<CostLine>();
        Reckon(row, lines);
        return lines;
    }

    /// <summary>Of a row; of a phase the sum of its rows and of its own items (rule M4).</summary>
    public CostSum Of(int row) => _rows[row];

    /// <summary>Of a row without those inside it.</summary>
    public CostSum OwnOf(int row) => _own.TryGetValue(row, out var own) ? own : _rows[row];

    /// <summary>What there is for the project; <c>null</c> while nobody has said.</summary>
    public decimal? Budget => Ledger.Budget;

    /// <summary>What of the budget is not expected to be spent: below 0 when it will not do.</summary>
    public decimal? Free => Budget - Whole.Expected;

    public decimal? BudgetOf(int row) => Ledger.Budgets.TryGetValue(Schedule.Plan.Tasks[row].Id, out var budget) ? budget : null;

    public decimal? FreeOf(int row) => BudgetOf(row) - _rows[row].Expected;

    /// <summary>How far a row is, 0 to 1, in decimals: of a phase weighed by length (rule P2).</summary>
    public decimal ProgressOf(int row) =>
        Schedule.IsLeaf(row) ? ProgressOf(Schedule.Plan.Tasks[row]) : (_progress ??= ProgressOf(Schedule))[row];

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

    internal bool HasHours => _worked.Count > 0;

    /// <summary>How many rows were taken over from an earlier reckoning.</summary>
    internal int Taken => _taken;

    internal Rates RatesOf(string person) => _rates.TryGetValue(person, out var rates) ? rates : Rates.None;

    /// <summary>An assignment's whole effort on its days, whatever has been done of it.</summary>
    internal AssignedWork WorkOf(int row, Assignment assignment) =>
        AssignedWork.Whole(Schedule, _capacities, row, assignment, EffortOf(row, assignment));

    private decimal EffortOf(int row, Assignment assignment) =>
        Effort.Of(Schedule.Plan, Schedule.Plan.Tasks[row], assignment, Schedule.LengthOf(row).Count);

    /// <summary>What hours on a task cost, by person.</summary>
    internal IReadOnlyList<Done> WorkedOn(string task) => _worked.GetValueOrDefault(task) ?? s_nothing;

    /// <summary>What a row costs without those inside it, taken from before where that still holds.</summary>
    private CostSum OwnAfter(PlanMoney? before, UnchangedCost? same, int row)
    {
        if (same is null || !same.Holds(row, out var earlier))
            return Reckon(row, null);
        Interlocked.Increment(ref _taken);
        return before!.OwnOf(earlier);
    }

    /// <summary>
    /// Adds rows to what they are in. A row stands after that: from the last to the first, all that is in a phase is known.
    /// </summary>
    private void RollUp()
    {
        var index = Schedule.Plan.Index;
        for (var row = 0; row < _rows.Length; row++)
            if (index.SubtreeEnd(row) > row + 1)
                _own[row] = _rows[row];
        for (var row = _rows.Length - 1; row >= 0; row--)
            if (index.ParentOf(row) is var phase and >= 0)
                _rows[phase] = _rows[phase].Plus(_rows[row]);
            else
                Whole = Whole.Plus(_rows[row]);
    }

    /// <param name="lines">Where each part is put, instead of being added up.</param>
    private CostSum Reckon(int row, List<CostLine>? lines)
    {
        var sum = default(RunningSum);
        var task = Schedule.Plan.Tasks[row];
        var (done, isLeaf) = (WorkedOn(task.Id), Schedule.IsLeaf(row));
        if (isLeaf)
            foreach (var assignment in task.Assignments)
                if (RatesOf(assignment.Person) is { IsEmpty: false } rates)
                {
                    AddLabour(ref sum, row, assignment, rates, done);
                    sum.EndLine(lines, row, assignment.Person, null);
                }
        // Whoever is not on the task, or no longer, worked all the same.
        if (done.Count > 0)
            foreach (var (person, _, cost) in done)
                if (cost != 0 && !(isLeaf && IsOn(task, person)))
                {
                    sum.Spend(cost, 0);
                    sum.EndLine(lines, row, person, null);
                }
        foreach (var item in Ledger.ItemsOf(task.Id))
        {
            AddItem(ref sum, row, item);
            sum.EndLine(lines, row, null, item);
        }
        return sum.Sum;
    }

    private static bool IsOn(PlanTask task, string person) => task.Assignments.Any(assignment => assignment.Person == person);

    private static Done? DoneBy(string person, IReadOnlyList<Done> done) => done.FirstOrDefault(of => of.Person == person);

    private void AddLabour(ref RunningSum sum, int row, Assignment assignment, Rates rates, IReadOnlyList<Done> done)
    {
        var effort = EffortOf(row, assignment);
        var (perUse, work) = PlannedOf(row, assignment, rates, effort);
        sum.Plan(Accrual.Start, perUse);
        sum.Plan(Accrual.Evenly, work);
        sum.Labour(perUse.Plus(work));
        if (Actuals == Actuals.Progress)
        {
            sum.Reach(Reached(row, Accrual.Start, perUse), perUse);
            sum.Reach(Reached(row, Accrual.Evenly, work), work);
            return;
        }
        var task = Schedule.Plan.Tasks[row];
        var worked = done.Count == 0 ? null : DoneBy(assignment.Person, done);
        var spent = worked is null ? 0 : worked.Cost + rates.On(worked.First).PerUse;
        sum.Spend(spent, task.IsFinished ? 0 : LeftOf(row, assignment, rates, effort * (1 - task.Progress)));
    }

    /// <summary>What using somebody costs once, and effort at the rates of its days (rule M2).</summary>
    private (decimal PerUse, decimal Work) PlannedOf(int row, Assignment assignment, Rates rates, decimal effort)
    {
        var start = rates.IsSteady ? default : Schedule.StartOf(row).Date;
        if (rates.IsSteady || rates.IsSteadyIn(start, Schedule.FinishOf(row).Date))
        {
            var rate = rates.On(start);
            return (rate.PerUse, effort.Minutes(rate.Hour));
        }
        return PlannedByDay(row, assignment, rates);
    }

    private (decimal PerUse, decimal Work) PlannedByDay(int row, Assignment assignment, Rates rates)
    {
        var (first, cost) = ((DateOnly?)null, 0m);
        WorkOf(row, assignment)
            .Lay(DateOnly.MinValue, _capacities.CalendarOf(assignment.Person), (day, minutes) =>
            {
                first ??= day;
                cost += minutes * rates.On(day).Hour;
            });
        return (rates.On(first ?? Schedule.StartOf(row).Date).PerUse, cost / 60);
    }

    private decimal LeftOf(int row, Assignment assignment, Rates rates, decimal left)
    {
        var (from, finish) = (AsOf.AddDays(1), Schedule.FinishOf(row).Date);
        // What should be over is done as soon as they can, whenever that is.
        if (left == 0 || rates.IsSteadyIn(from, finish > from ? finish : DateOnly.MaxValue))
            return left.Minutes(rates.On(from).Hour);
        return LeftByDay(row, assignment, rates, left, from);
    }

    private decimal LeftByDay(int row, Assignment assignment, Rates rates, decimal left, DateOnly from)
    {
        var cost = 0m;
        (WorkOf(row, assignment) with { Left = left }).Lay(from, _capacities.CalendarOf(assignment.Person), (day, minutes) =>
            cost += minutes * rates.On(day).Hour
        );
        return cost / 60;
    }

    private void AddItem(ref RunningSum sum, int row, CostItem item)
    {
        var isOff = Schedule.IsOff(row);
        // To work out the length of a phase takes long.
        var whole =
            isOff ? 0
            : item.Per == PricePer.Unit ? item.Planned(0, 1)
            : item.Planned(Schedule.LengthOf(row).Count, Schedule.Plan.Project.Units.MinutesPerDay);
        sum.Plan(item.Accrues, whole);
        if (Actuals == Actuals.Progress)
        {
            sum.Reach(isOff ? 0 : Reached(row, item.Accrues, whole), whole);
            return;
        }
        var paid = item.Paid(AsOf);
        sum.Spend(paid, isOff || IsFinished(row) ? 0 : Math.Max(0, whole - paid));
    }

    /// <summary>What of an amount is spent by how far a row is (rule M5).</summary>
    private decimal Reached(int row, Accrual accrues, decimal amount) =>
        amount == 0
            ? 0
            : accrues switch
            {
                Accrual.Start => IsStarted(row) ? amount : 0,
                Accrual.Evenly => ProgressOf(row) is not 0 and var progress ? amount * progress : 0,
                _ => IsFinished(row) ? amount : 0,
            };

    private bool IsStarted(int row) => Schedule.IsPhase(row) ? Any(row, task => task.IsStarted) : Schedule.Plan.Tasks[row].IsStarted;

    private bool IsFinished(int row) => Schedule.IsPhase(row) ? !Any(row, task => !task.IsFinished) : Schedule.Plan.Tasks[row].IsFinished;

    /// <summary>Whether any task of a phase is so; inactive ones are none of it.</summary>
    private bool Any(int row, Func<PlanTask, bool> isSo)
    {
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
            var at = of.FindIndex(d => d.Person == entry.Person);
            var done = at < 0 ? new Done(entry.Person, entry.Day, 0) : of[at];
            done = done with
            {
                Cost = done.Cost + paid.Cost(RatesOf(entry.Person).On(entry.Day)),
                First = entry.Day < done.First ? entry.Day : done.First,
            };
            if (at < 0)
                of.Add(done);
            else
                of[at] = done;
        }
        return worked;
    }

    private decimal SpentOnGone()
    {
        if (Actuals == Actuals.Progress)
            return 0;
        var index = Schedule.Plan.Index;
        return _worked.Where(of => !index.TryFind(of.Key, out _)).Sum(of => of.Value.Sum(done => done.Cost))
            + Ledger.Items.Where(items => !index.TryFind(items.Key, out _)).Sum(items => items.Value.Sum(item => item.Paid(AsOf)));
    }

    /// <summary>Added up in place: there are tens of thousands of parts.</summary>
    private struct RunningSum
    {
        private decimal _start;
        private decimal _evenly;
        private decimal _finish;
        private decimal _labour;
        private decimal _spent;
        private decimal _left;

        public readonly CostSum Sum => new(new PlannedCost(_start, _evenly, _finish), _labour, _spent, _left);

        public void Plan(Accrual accrues, decimal amount)
        {
            if (accrues == Accrual.Start)
                _start = _start.Plus(amount);
            else if (accrues == Accrual.Evenly)
                _evenly = _evenly.Plus(amount);
            else
                _finish = _finish.Plus(amount);
        }

        public void Labour(decimal amount) => _labour = _labour.Plus(amount);

        public void Spend(decimal spent, decimal left) => (_spent, _left) = (_spent.Plus(spent), _left.Plus(left));

        /// <summary>Spends something of an amount; the rest of it is left.</summary>
        public void Reach(decimal spent, decimal whole) => Spend(spent, spent == 0 ? whole : whole - spent);

        /// <summary>Puts what came together for a part into a line of its own, where there are lines, and begins anew.</summary>
        public void EndLine(List<CostLine>? lines, int row, string? person, CostItem? item)
        {
            if (lines is null)
                return;
            lines.Add(new CostLine(row, person, item, new PlannedCost(_start, _evenly, _finish), _spent, _left));
            this = default;
        }
    }

    /// <summary>What somebody's hours on a task cost, and the first day of them.</summary>
    internal sealed record Done(string Person, DateOnly First, decimal Cost);

    private static decimal ProgressOf(PlanTask task) => task.IsFinished ? 1 : task.Progress;

    /// <summary>As the schedule has it, without binary fractions.</summary>
    private static decimal[] ProgressOf(Schedule schedule)
    {
        var (plan, index) = (schedule.Plan, schedule.Plan.Index);
        var progress = new decimal[index.Count];
        var sums = new (decimal Done, long Length, int Finished, int Count)[index.Count];
        for (var row = index.Count - 1; row >= 0; row--)
        {
            ref var sum = ref sums[row];
            if (schedule.IsLeaf(row))
            {
                progress[row] = ProgressOf(plan.Tasks[row]);
                var length = schedule.LengthOf(row).Count;
                sum = (progress[row] == 0 ? 0 : length * progress[row], length, progress[row] >= 1 ? 1 : 0, 1);
            }
            else if (schedule.IsPhase(row))
                progress[row] =
                    sum.Length > 0 ? sum.Done / sum.Length
                    : sum.Count > 0 ? (decimal)sum.Finished / sum.Count
                    : 0;
            if (index.ParentOf(row) is not (var phase and >= 0))
                continue;
            ref var above = ref sums[phase];
            above = (above.Done.Plus(sum.Done), above.Length + sum.Length, above.Finished + sum.Finished, above.Count + sum.Count);
        }
        return progress;
    }
}
