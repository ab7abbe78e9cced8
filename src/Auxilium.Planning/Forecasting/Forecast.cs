using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Forecasting;

/// <summary>How to run a forecast.</summary>
/// <param name="Runs">How many runs: 1 to 100,000.</param>
/// <param name="Seed">The same seed gives the same runs, on however many processors.</param>
/// <param name="Spread">How lengths are spread.</param>
public sealed record ForecastOptions(int Runs = 10_000, int Seed = 1, SpreadKind Spread = SpreadKind.PertBeta)
{
    public const int MostRuns = 100_000;

    private const long MostTaskRuns = 200_000_000;

    /// <summary>Runs times tasks of a forecast that takes about a minute: more is refused.</summary>
    public static int MostRunsOf(int tasks) => (int)Math.Clamp(MostTaskRuns / Math.Max(1, tasks), 1_000, MostRuns);
}

/// <summary>
/// When a plan will be finished, given that lengths are known only as ranges: the scheduler is run with lengths drawn at random.
/// </summary>
public sealed class Forecast
{
    private const int ChunkRuns = 50;

    private readonly PlanTime[] _finishes;
    private readonly int[] _critical;
    private readonly int[] _inTime;

    private Forecast(Schedule schedule, PlanTime[] finishes, int[] critical, IReadOnlyList<int> dated, int[] inTime)
    {
        Schedule = schedule;
        _finishes = finishes;
        _critical = critical;
        Dated = dated;
        _inTime = inTime;
        Array.Sort(_finishes);
    }

    /// <summary>The plan as it stands, its likely lengths as given.</summary>
    public Schedule Schedule { get; }

    public int Runs => _finishes.Length;

    /// <summary>Rows with a deadline.</summary>
    public IReadOnlyList<int> Dated { get; }

    /// <param name="schedule">A plan with its dates. One worked out from its finish is run from the start that results.</param>
    /// <param name="options">How many runs, of which seed.</param>
    /// <param name="progress">Told the share of runs that are done, 0 to 1, from any thread.</param>
    /// <param name="cancel">Cancels it.</param>
    /// <exception cref="OperationCanceledException">It was cancelled.</exception>
    /// <exception cref="UnsoundPlanException">Some lengths lead out of the years that can be planned.</exception>
    public static Forecast Run(
        Schedule schedule,
        ForecastOptions options,
        IProgress<double>? progress = null,
        CancellationToken cancel = default
    )
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(options.Runs, 1);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(options.Runs, ForecastOptions.MostRuns);
        var plan = schedule.Plan with
        {
            Project = schedule.Plan.Project with { ScheduleFrom = ScheduleFrom.Start, Start = schedule.Start },
        };
        var rows = Enumerable.Range(0, plan.Index.Count).ToList();
        var ranges = rows.Where(row =>
                schedule.IsLeaf(row) && plan.Tasks[row] is { Estimate: not null, Milestone: false, IsFinished: false }
            )
            .Select(row => (Row: row, Spread: new LengthSpread(plan.Tasks[row].Estimate!, plan.Project.Units, options.Spread)))
            .ToArray();
        var dated = rows.Where(row => !schedule.IsOff(row) && plan.Tasks[row].Deadline is not null).ToArray();
        var deadlines = dated.Select(row => plan.Tasks[row].Deadline!.Value).ToArray();
        var leaves = rows.Where(schedule.IsLeaf).ToArray();

        var finishes = new PlanTime[options.Runs];
        var (critical, inTime) = (new int[plan.Index.Count], new int[dated.Length]);
        var done = 0;
        _ = plan.Groundwork;
        var chunks = (options.Runs + ChunkRuns - 1) / ChunkRuns;
        try
        {
            Parallel.For(
                0,
                chunks,
                // Leaves one processor for everything else.
                new ParallelOptions { CancellationToken = cancel, MaxDegreeOfParallelism = Math.Max(1, Environment.ProcessorCount - 1) },
                () => (Rehearsal: new Rehearsal(plan), Critical: new int[critical.Length], InTime: new int[dated.Length]),
                (chunk, _, mine) =>
                {
                    var last = Math.Min(options.Runs, (chunk + 1) * ChunkRuns);
                    for (var run = chunk * ChunkRuns; run < last; run++)
                    {
                        var random = new Draws(options.Seed, run);
                        foreach (var (row, spread) in ranges)
                            mine.Rehearsal.SetLength(row, spread.At(random.Next()));
                        mine.Rehearsal.Run();
                        finishes[run] = mine.Rehearsal.Finish;
                        foreach (var leaf in leaves)
                            mine.Critical[leaf] += mine.Rehearsal.IsCritical(leaf) ? 1 : 0;
                        for (var i = 0; i < dated.Length; i++)
                            mine.InTime[i] += mine.Rehearsal.FinishOf(dated[i]) <= deadlines[i] ? 1 : 0;
                    }
                    progress?.Report((double)Interlocked.Add(ref done, last - chunk * ChunkRuns) / options.Runs);
                    return mine;
                },
                mine =>
                {
                    lock (finishes)
                    {
                        for (var row = 0; row < critical.Length; row++)
                            critical[row] += mine.Critical[row];
                        for (var i = 0; i < inTime.Length; i++)
                            inTime[i] += mine.InTime[i];
                    }
                }
            );
        }
        catch (AggregateException e) when (e.InnerExceptions.OfType<UnsoundPlanException>().FirstOrDefault() is { } unsound)
        {
            throw unsound;
        }
        return new Forecast(schedule, finishes, critical, dated, inTime);
    }

    /// <summary>The earliest finish by which at least that share of runs were finished.</summary>
    /// <param name="confidence">Above 0, at most 1.</param>
    public PlanTime FinishAt(double confidence) => _finishes[Math.Clamp((int)Math.Ceiling(confidence * Runs) - 1, 0, Runs - 1)];

    /// <summary>The share of runs that were finished by then, 0 to 1.</summary>
    public double ChanceBy(PlanTime time)
    {
        var (low, high) = (0, Runs);
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (_finishes[middle] <= time)
                low = middle + 1;
            else
                high = middle;
        }
        return (double)low / Runs;
    }

    /// <summary>The share of runs in which a row was finished by its deadline.</summary>
    /// <param name="place">Which of <see cref="Dated"/>.</param>
    public double ChanceOfDeadline(int place) => (double)_inTime[place] / Runs;

    /// <summary>The share of runs in which a leaf set the finish.</summary>
    public double SetsFinish(int leaf) => (double)_critical[leaf] / Runs;

    /// <summary>How many runs were finished on each day, in order; days without any are left out.</summary>
    public IEnumerable<(DateOnly Day, int Runs)> ByDay() => _finishes.GroupBy(f => f.LastDate).Select(g => (g.Key, g.Count()));

    /// <summary>Numbers for one run, the same for the same seed and run (SplitMix64).</summary>
    private struct Draws(int seed, int run)
    {
        private const ulong Golden = 0x9E3779B97F4A7C15;

        private ulong _state = Mixed(((ulong)(uint)seed << 32) | (uint)run);

        public double Next() => (Mixed(_state += Golden) >> 11) * (1.0 / (1UL << 53));

        private static ulong Mixed(ulong z)
        {
            z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9;
            z = (z ^ (z >> 27)) * 0x94D049BB133111EB;
            return z ^ (z >> 31);
        }
    }
}
