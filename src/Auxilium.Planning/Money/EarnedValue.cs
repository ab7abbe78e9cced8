using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Money;

/// <summary>
/// How the work that is done compares with the work that was planned and with what was spent, by the published standard practice (rules
/// V1–V6): the baseline is the one that the project is measured by.
/// </summary>
public sealed class EarnedValue
{
    private readonly PlanMoney _money;
    private readonly List<Planned> _planned = [];
    private readonly WorkTime _calendar;
    private readonly Dictionary<int, Planned> _byRow = [];

    private readonly record struct Planned(PlannedCost Cost, PlanTime Start, PlanTime Finish, int Worked, decimal Progress)
    {
        public decimal Earned => Cost.Whole * Progress;
    }

    public EarnedValue(PlanMoney money, Baseline baseline)
    {
        (_money, Baseline, _calendar) = (money, baseline, money.Schedule.Plan.ProjectCalendar);
        var (schedule, index) = (money.Schedule, money.Schedule.Plan.Index);
        var inside = new Dictionary<int, PlannedCost>();
        foreach (var row in baseline.Rows)
            if (index.TryFind(row.Task, out var at) && index.ParentOf(at) is var phase and >= 0)
                inside[phase] = inside.GetValueOrDefault(phase).Plus(row.Cost);
        foreach (var row in baseline.Rows)
        {
            var isHere = index.TryFind(row.Task, out var at);
            // What was inside a phase that is gone cannot be told from what was its own.
            if (!isHere && row.Phase)
                continue;
            var own = isHere && inside.TryGetValue(at, out var rows) ? row.Cost.Less(rows) : row.Cost;
            var progress = isHere && !schedule.IsOff(at) ? money.ProgressOf(at) : 0;
            var planned = new Planned(own, row.Start, row.Finish, _calendar.Between(row.Start, row.Finish), progress);
            _planned.Add(planned);
            if (isHere)
                _byRow[at] = planned;
        }
        Bac = _planned.Sum(planned => planned.Cost.Whole);
        Ev = _planned.Sum(planned => planned.Earned);
        Pv = PlannedAt(EndOf(money.AsOf));
        Ac = money.Whole.Spent;
    }

    public Baseline Baseline { get; }

    /// <summary>Budget at completion: what all was to cost.</summary>
    public decimal Bac { get; }

    /// <summary>Planned value: what was to be done by the day looked at.</summary>
    public decimal Pv { get; }

    /// <summary>Earned value: what of that is done, at its planned cost.</summary>
    public decimal Ev { get; }

    /// <summary>Actual cost.</summary>
    public decimal Ac { get; }

    /// <summary>Schedule variance.</summary>
    public decimal Sv => Ev - Pv;

    /// <summary>Cost variance.</summary>
    public decimal Cv => Ev - Ac;

    /// <summary>Schedule performance index; <c>null</c> where nothing was to be done yet.</summary>
    public decimal? Spi => Over(Ev, Pv);

    /// <summary>Cost performance index; <c>null</c> while nothing was spent.</summary>
    public decimal? Cpi => Over(Ev, Ac);

    /// <summary>Estimate at completion, if the rest costs as what is done did; <c>null</c> where nothing is done.</summary>
    public decimal? Eac => Cpi is { } cpi ? Ac + Over(Bac - Ev, cpi) : EacAsPlanned;

    /// <summary>Estimate at completion, if the rest costs what was planned.</summary>
    public decimal EacAsPlanned => Ac + Bac - Ev;

    /// <summary>Estimate at completion, if being late costs as well.</summary>
    public decimal? EacWithDelay => Cpi is { } cpi && Spi is { } spi ? Ac + Over(Bac - Ev, cpi * spi) : EacAsPlanned;

    /// <summary>Estimate to complete.</summary>
    public decimal? Etc => Eac - Ac;

    /// <summary>Variance at completion.</summary>
    public decimal? Vac => Bac - Eac;

    /// <summary>To-complete performance index: how well the rest must go to end at what was planned.</summary>
    public decimal? Tcpi => Over(Bac - Ev, Bac - Ac);

    /// <summary>The earliest instant at which as much was to be done as is done (rule V6).</summary>
    public PlanTime EarnedAt
    {
        get
        {
            if (Ev == 0)
                return _money.Schedule.Start;
            var (low, high) = (_money.Schedule.Start.Minutes, EndOf(_money.AsOf).Minutes);
            foreach (var planned in _planned)
                (low, high) = (Math.Min(low, planned.Start.Minutes), Math.Max(high, planned.Finish.Minutes));
            while (low < high)
            {
                var middle = low + (high - low) / 2;
                if (PlannedAt(new PlanTime(middle)) >= Ev - Tiny)
                    high = middle;
                else
                    low = middle + 1;
            }
            return new PlanTime(low);
        }
    }

    /// <summary>Schedule performance index by time; <c>null</c> on the first day.</summary>
    public decimal? SpiT =>
        Over(_calendar.Between(_money.Schedule.Start, EarnedAt), _calendar.Between(_money.Schedule.Start, EndOf(_money.AsOf)));

    /// <summary>What decimals of thirds and sevenths lose.</summary>
    private const decimal Tiny = 0.000000001m;

    /// <summary>Planned value at an instant (rule V2).</summary>
    public decimal PlannedAt(PlanTime at) => _planned.Sum(planned => PlannedAt(planned, at));

    /// <summary>Of a row: what it was to cost, what of it was to be done, and what is done. A phase has its rows' and its own.</summary>
    public (decimal Bac, decimal Pv, decimal Ev) Of(int row)
    {
        var index = _money.Schedule.Plan.Index;
        var (bac, pv, ev, end) = (0m, 0m, 0m, EndOf(_money.AsOf));
        for (var at = row; at == row || (at < index.Count && index.LevelOf(at) > index.LevelOf(row)); at++)
            if (_byRow.TryGetValue(at, out var planned))
                (bac, pv, ev) = (bac + planned.Cost.Whole, pv + PlannedAt(planned, end), ev + planned.Earned);
        return (bac, pv, ev);
    }

    private decimal PlannedAt(in Planned planned, PlanTime at)
    {
        var (cost, start, finish) = (planned.Cost, planned.Start, planned.Finish);
        var evenly =
            at >= finish ? cost.Evenly
            : at <= start || planned.Worked == 0 ? 0
            : cost.Evenly.Times((_calendar.Between(start, at), planned.Worked));
        return (start <= at ? cost.AtStart : 0) + evenly + (finish <= at ? cost.AtFinish : 0);
    }

    private static PlanTime EndOf(DateOnly day) => PlanTime.On(day.AddDays(1));

    private static decimal? Over(decimal some, decimal of) => of == 0 ? null : some / of;
}
