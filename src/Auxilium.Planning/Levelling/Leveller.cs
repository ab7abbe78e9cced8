using System.Collections.Immutable;
using System.Diagnostics;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Levelling;

/// <summary>
/// Proposes which tasks to delay, so that people have time for them (rules N1–N3, N5): placed one after another, improved on the way back
/// and on again, from many beginnings.
/// </summary>
public sealed class Leveller
{
    /// <summary>After so many beginnings without anything better, it ends.</summary>
    private const int Patience = 400;

    private const int MostTurns = 6;

    private readonly Schedule _schedule;
    private readonly LevellingWish _wish;
    private readonly Capacities _capacities;
    private readonly DateOnly _from;
    private readonly LevellingModel _model;
    private readonly Workbench _bench;
    private readonly int[] _movable;
    private readonly double[] _weights;

    private (double Over, long Finish, double Delay) _best;
    private double[] _bestRank = [];
    private double[] _bestStarts = [];

    private Leveller(Schedule schedule, LevellingWish wish, Capacities capacities, DateOnly today)
    {
        (_schedule, _wish, _capacities) = (schedule, wish, capacities);
        _from = PlanLoad.FirstDay(schedule.Plan, today);
        _model = new LevellingModel(schedule, wish, capacities, _from);
        _bench = new Workbench(_model);
        _movable = [.. Enumerable.Range(0, schedule.Plan.Tasks.Length).Where(row => _model.Parts[row] is not null)];
        _weights = [.. _movable.Select(row => (double)PlainFacts.Priority.Of(schedule.Plan.Tasks[row]) / PlainFacts.Priority.Most)];
    }

    /// <param name="schedule">The plan with its dates.</param>
    /// <param name="wish">Who is to be levelled, and how.</param>
    /// <param name="capacities">How much time people have.</param>
    /// <param name="today">Today.</param>
    /// <param name="progress">Is told, from time to time, which part of the time has passed, 0 to 1.</param>
    /// <param name="cancel">Cancels it.</param>
    /// <exception cref="EditRefusedException">The plan is worked out from its finish, or nobody was named.</exception>
    /// <exception cref="OperationCanceledException">It was cancelled.</exception>
    public static LevellingProposal Propose(
        Schedule schedule,
        LevellingWish wish,
        Capacities capacities,
        DateOnly today,
        Action<double>? progress = null,
        CancellationToken cancel = default
    )
    {
        if (schedule.Plan.Project.ScheduleFrom == ScheduleFrom.Finish)
            throw new EditRefusedException(
                "fromFinish",
                "Levelling delays tasks, and this plan is worked out from its finish, where each stands as late as it can: work it out "
                    + "from its start first."
            );
        if (wish.People.IsDefaultOrEmpty)
            throw new EditRefusedException("people", "Nobody is chosen to be levelled: choose somebody.");
        return new Leveller(schedule, wish, capacities, today).Run(progress, cancel);
    }

    private LevellingProposal Run(Action<double>? progress, CancellationToken cancel)
    {
        var (random, clock) = (new Random(_wish.Seed), Stopwatch.StartNew());
        var usual = UsualRanks();
        _bench.PlaceForward(usual, load: false);
        var asItIs = Measured();
        Keep(asItIs, usual);
        var (restarts, idle) = (0, 0);
        var most = _wish.Restarts ?? LevellingWish.MostRestarts;
        for (
            var isFirst = true;
            asItIs.Over > 0 && _movable.Length > 0 && (isFirst || (restarts < most && clock.Elapsed < _wish.TimeLimit));
            isFirst = false
        )
        {
            cancel.ThrowIfCancellationRequested();
            var better = Descend(isFirst ? usual : Shaken(usual, random));
            if (!isFirst)
                restarts++;
            idle = better ? 0 : idle + 1;
            if (idle > Patience)
                break;
            progress?.Invoke(
                Math.Max(clock.Elapsed / _wish.TimeLimit, _wish.Restarts is null ? (double)idle / Patience : (double)restarts / most)
            );
        }
        if (_best.Over >= asItIs.Over)
            return Told([], [], restarts);
        _bench.PlaceForward(_bestRank);
        return Told(Delays(), new(_bench.Reasons), restarts);
    }

    /// <summary>The order of rule N3: least late start, higher priority, less float, outline.</summary>
    private double[] UsualRanks()
    {
        var ranks = new double[_schedule.Plan.Tasks.Length];
        for (var row = 0; row < ranks.Length; row++)
            ranks[row] = _schedule.IsLeaf(row)
                ? _model.LatestStarts[row].Minutes
                    - (double)PlainFacts.Priority.Of(_schedule.Plan.Tasks[row]) / 2_000
                    + Math.Clamp((double)(_schedule.TotalFloatOf(row)?.Count ?? 0) / 100_000_000, -0.0002, 0.0002)
                : 0;
        return ranks;
    }

    /// <summary>Goes on, back and on again for as long as that helps.</summary>
    private bool Descend(double[] rank)
    {
        var better = false;
        var last = (Over: double.MaxValue, Finish: long.MaxValue, Delay: double.MaxValue);
        for (var turn = 0; turn < MostTurns; turn++)
        {
            _bench.PlaceForward(rank);
            var now = Measured();
            if (now.CompareTo(_best) < 0)
            {
                Keep(now, rank);
                better = true;
            }
            if (now.CompareTo(last) >= 0)
                break;
            last = now;
            var back = new double[rank.Length];
            for (var row = 0; row < back.Length; row++)
                back[row] = _schedule.IsLeaf(row) ? -_bench.FinishOf(row).Minutes : 0;
            try
            {
                _bench.PlaceBack(back, _bench.Finish);
            }
            catch (UnsoundPlanException)
            {
                // Back from its finish, the plan would lie before the years that there are.
                break;
            }
            rank = new double[rank.Length];
            for (var row = 0; row < rank.Length; row++)
                rank[row] = _schedule.IsLeaf(row) ? _bench.BackStartOf(row).Minutes : 0;
        }
        return better;
    }

    /// <summary>The usual order, or the best there was, with some of it changed.</summary>
    private double[] Shaken(double[] usual, Random random)
    {
        if (random.Next(3) == 0)
            return Swapped(random);
        var from = random.Next(2) == 0 ? _bestStarts : usual;
        var (least, most) = (double.MaxValue, double.MinValue);
        foreach (var row in _movable)
            (least, most) = (Math.Min(least, from[row]), Math.Max(most, from[row]));
        // Mostly a little, now and then nearly everything.
        var far = (most - least) * Math.Pow(random.NextDouble(), 2);
        var rank = (double[])from.Clone();
        foreach (var row in _movable)
            rank[row] += (random.NextDouble() - 0.5) * far;
        return rank;
    }

    /// <summary>The best there was, with the places of a few tasks swapped.</summary>
    private double[] Swapped(Random random)
    {
        var rank = (double[])_bestStarts.Clone();
        for (var swap = 0; swap <= random.Next(3); swap++)
        {
            var (a, b) = (_movable[random.Next(_movable.Length)], _movable[random.Next(_movable.Length)]);
            (rank[a], rank[b]) = (rank[b], rank[a]);
        }
        return rank;
    }

    private (double Over, long Finish, double Delay) Measured()
    {
        var delay = 0.0;
        for (var at = 0; at < _movable.Length; at++)
            delay += (_bench.StartOf(_movable[at]).Minutes - _schedule.StartOf(_movable[at]).Minutes) * _weights[at];
        return (
            Math.Round(_bench.Overbooked(), 2),
            _wish.Mode == LevellingMode.WithinFloat ? 0 : _bench.Finish.Minutes,
            Math.Round(delay, 2)
        );
    }

    private void Keep((double, long, double) measured, double[] rank)
    {
        (_best, _bestRank) = (measured, rank);
        _bestStarts = new double[rank.Length];
        for (var row = 0; row < rank.Length; row++)
            _bestStarts[row] = _schedule.IsLeaf(row) ? _bench.StartOf(row).Minutes : 0;
    }

    private ImmutableArray<TaskDelay> Delays() =>
        [
            .. _movable
                .Where(row => _bench.Delayed[row])
                .Select(row => new TaskDelay(_schedule.Plan.Tasks[row].Id, (DateOrTime)_bench.StartOf(row))),
        ];

    private LevellingProposal Told(ImmutableArray<TaskDelay> delays, Dictionary<int, (int Person, DateOnly Day)> reasons, int restarts)
    {
        var after = delays.IsEmpty ? _schedule : Scheduler.Calculate(DelayTasks.On(_schedule.Plan, delays));
        var (before, now) = (OverOf(_schedule), OverOf(after));
        if (!delays.IsEmpty && !(IsKept(after) && now.Sum(day => day.Over) < before.Sum(day => day.Over)))
            return Told([], [], restarts);
        var moved = ImmutableArray.CreateBuilder<LevelledTask>();
        var delayed = delays.Select(delay => delay.Task).ToHashSet();
        var load = new PlanLoad(after, _from, [], _capacities);
        for (var row = 0; row < _schedule.Plan.Tasks.Length; row++)
            if (_schedule.IsLeaf(row) && !_schedule.StandsAt(after, row))
                moved.Add(
                    new LevelledTask(
                        _schedule.Plan.Tasks[row].Id,
                        new Segment(_schedule.StartOf(row), _schedule.FinishOf(row)),
                        new Segment(after.StartOf(row), after.FinishOf(row)),
                        delayed.Contains(_schedule.Plan.Tasks[row].Id),
                        reasons.TryGetValue(row, out var reason) ? Because(after, load, row, reason) : Why(after, row)
                    )
                );
        return new LevellingProposal(
            delays,
            after,
            moved.ToImmutable(),
            [
                .. _model
                    .People.Select(person => new OverbookedPerson(
                        person,
                        before.Where(day => day.Person == person).Sum(day => day.Over),
                        now.Where(day => day.Person == person).Sum(day => day.Over),
                        before.Count(day => day.Person == person),
                        now.Count(day => day.Person == person)
                    ))
                    .Where(person => person.DaysBefore > 0 || person.DaysAfter > 0),
            ],
            Ripple.Between(_schedule, after),
            [.. now],
            restarts
        );
    }

    /// <summary>The overbooked days of who is levelled, with what they have to do elsewhere.</summary>
    private List<OverbookedDay> OverOf(Schedule schedule)
    {
        var load = new PlanLoad(schedule, _from, [], _capacities);
        var days = new SortedSet<(int Person, DateOnly Day)>();
        var places = _model.People.Select((id, at) => (id, at)).ToDictionary(p => p.id, p => p.at);
        foreach (var part in load.Parts)
            if (places.TryGetValue(part.Person, out var who))
                days.Add((who, part.Day));
        foreach (var (person, day) in _wish.Elsewhere.Keys)
            if (places.TryGetValue(person, out var who) && day >= _from)
                days.Add((who, day));
        var over = new List<OverbookedDay>();
        foreach (var (who, day) in days)
        {
            if (day < _wish.From || day > _wish.To)
                continue;
            var person = _model.People[who];
            var (minutes, capacity) = (
                load.Of(person, day) + _wish.Elsewhere.GetValueOrDefault((person, day)),
                _capacities.Of(person, day)
            );
            if (Capacities.Over(minutes, capacity, _wish.Tolerance) > 0)
                over.Add(new OverbookedDay(person, day, minutes, capacity));
        }
        return over;
    }

    /// <summary>Whether what levelling must keep is kept, as the scheduler has it.</summary>
    private bool IsKept(Schedule after)
    {
        var plan = _schedule.Plan;
        var within = _wish.Mode == LevellingMode.WithinFloat;
        if (within && after.Finish > _schedule.Finish)
            return false;
        for (var row = 0; row < plan.Tasks.Length; row++)
        {
            if (_schedule.IsOff(row))
                continue;
            if (
                within
                && plan.Tasks[row].Deadline is { } deadline
                && after.FinishOf(row) > PlanTime.Max(deadline, _schedule.FinishOf(row))
            )
                return false;
            if (!_schedule.IsLeaf(row))
                continue;
            if (after.StartOf(row) < _schedule.StartOf(row))
                return false;
            if (PlainFacts.Priority.Of(plan.Tasks[row]) >= PlainFacts.Priority.Most && !_schedule.StandsAt(after, row))
                return false;
        }
        return IsNoWorse(after, WarningCode.W1) && IsNoWorse(after, WarningCode.W2);
    }

    private bool IsNoWorse(Schedule after, WarningCode code)
    {
        var known = _schedule
            .Warnings.Where(warning => warning.Code == code)
            .ToLookup(warning => string.Join(' ', warning.Tasks), warning => warning.Minutes.Count);
        return after
            .Warnings.Where(warning => warning.Code == code)
            .All(warning => known[string.Join(' ', warning.Tasks)].Any(minutes => warning.Minutes.Count <= minutes));
    }

    private static string Why(Schedule after, int row) =>
        Reasons.WhyStart(after, row) is [{ Sentence: var sentence }, ..] ? sentence : "What comes before it moves it.";

    /// <summary>“Wanda Keller has no time for it on Tue 11 May, besides Lantern workshop.”</summary>
    private string Because(Schedule after, PlanLoad load, int row, (int Person, DateOnly Day) reason)
    {
        const int MostNamed = 2;
        var (plan, id) = (after.Plan, _model.People[reason.Person]);
        var others = load
            .Parts.Where(part => part.Person == id && part.Day == reason.Day && part.Task != plan.Tasks[row].Id)
            .OrderByDescending(part => part.Minutes)
            .Select(part => plan.Find(part.Task) is { } task ? LengthText.Shorten(task.Name) : null)
            .OfType<string>()
            .Distinct()
            .Take(MostNamed)
            .ToList();
        var elsewhere = _wish.Elsewhere.GetValueOrDefault((id, reason.Day)) > 0;
        var besides =
            others.Count > 0 ? $", besides {ListText.Listed(others)}"
            : elsewhere ? ", besides work in other projects"
            : "";
        return $"{plan.FindPerson(id)?.Name ?? id} has no time for it on {Dates.Day(reason.Day)}{besides}.";
    }
}
