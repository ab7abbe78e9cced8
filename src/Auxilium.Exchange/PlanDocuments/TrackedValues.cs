using Auxilium.Planning.Load;
using Auxilium.Planning.Money;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>What was tracked of a plan, for a <see cref="ScheduleDocument"/>.</summary>
public sealed class TrackedValues
{
    /// <summary>Parts of a minute are told to so many decimals.</summary>
    private const int Decimals = 4;

    private readonly Schedule _schedule;
    private readonly Effort? _effort;
    private readonly int[] _worked;
    private readonly PlanMoney? _money;
    private readonly EarnedValue? _earned;

    /// <param name="document">The plan, and what lies beside it.</param>
    /// <param name="schedule">The plan with its dates.</param>
    /// <param name="with">What to tell: names of <see cref="Names"/>.</param>
    /// <param name="asOf">Hours and payments count up to and with this day.</param>
    public TrackedValues(PlanDocument document, Schedule schedule, IReadOnlyCollection<string> with, DateOnly asOf)
    {
        _schedule = schedule;
        var hours = document.Hours;
        _worked = new int[schedule.Plan.Index.Count];
        if (with.Contains("drift"))
        {
            Drift = Drift.Of(schedule);
            Dropped = Drift is null ? [] : [.. Drift.Dropped.Select(row => row.Task)];
        }
        if (with.Contains("load"))
            Load = new PlanLoad(schedule, asOf, hours);
        if (with.Contains("money"))
        {
            _money = new PlanMoney(schedule, document.Ledger, [.. PaidHours.Of(hours, Capacities.Of(schedule.Plan))], asOf);
            _earned = schedule.Plan.Measure is { } measure ? new EarnedValue(_money, measure) : null;
            Money = ScheduledMoney.Of(_money, _earned, document.Currency);
        }
        if (!with.Contains("effort"))
            return;
        _effort = new Effort(schedule);
        foreach (var entry in hours)
            if (entry.Day <= asOf && schedule.Plan.Index.TryFind(entry.Task, out var at))
                for (; at >= 0; at = schedule.Plan.Index.ParentOf(at))
                    _worked[at] += entry.Minutes;
    }

    /// <summary>What can be asked for.</summary>
    public static IReadOnlyList<string> Names { get; } = ["drift", "effort", "load", "money"];

    /// <summary>Against the measure, where that is asked for and there is one.</summary>
    public Drift? Drift { get; }

    /// <summary>Who has how much to do, where that is asked for.</summary>
    public PlanLoad? Load { get; }

    /// <summary>What it costs, where that is asked for.</summary>
    public ScheduledMoney? Money { get; }

    /// <summary>Ids of rows that the measure knows and the plan has no longer.</summary>
    public IReadOnlyList<string>? Dropped { get; }

    internal ScheduledTask AddTo(ScheduledTask task, int row)
    {
        if (_effort is { } effort)
            task = task with
            {
                EffortMinutes = _schedule.IsOff(row) ? null : Plain(effort.Of(row)),
                EffortLeftMinutes = _schedule.IsOff(row) ? null : Plain(effort.LeftOf(row)),
                WorkedMinutes = _worked[row],
            };
        if (_money is { } money)
            task = task with { Money = ScheduledRowMoney.Of(money, _earned, row) };
        return Drift is { } drift ? task with { Drift = DriftOf(drift, row) } : task;
    }

    private static ScheduledDrift? DriftOf(Drift drift, int row) =>
        drift.Of(row) is var (start, finish) ? new ScheduledDrift(drift.Baseline.Id, start.Count, finish.Count)
        : drift.IsNew(row) ? new ScheduledDrift(null, null, null, true)
        : null;

    internal static decimal Plain(decimal minutes) => Math.Round(minutes, Decimals) / 1.0000000000000000000000000000m;
}
