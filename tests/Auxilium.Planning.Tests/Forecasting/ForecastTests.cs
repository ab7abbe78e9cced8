using Auxilium.Planning.Calendars;
using Auxilium.Planning.Forecasting;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Tests.Forecasting;

public class ForecastTests
{
    /// <summary>A leads to the end; so does B, which is usually shorter.</summary>
    private static readonly Schedule Uncertain = PlanText
        .Plan("A 5d\nB 4d\nEnd 1d after A, B")
        .With("A", t => t with { Estimate = Range(3, 5, 10) })
        .With("B", t => t with { Estimate = Range(2, 4, 9), Deadline = PlanTime.At(2027, 5, 7, 18) })
        .Calculate();

    [Fact]
    public void Without_ranges_every_run_finishes_as_planned()
    {
        var schedule = PlanText.Schedule("A 5d\nB 1d after A");
        var forecast = Forecast.Run(schedule, new ForecastOptions(50));
        Assert.Equal(
            (schedule.Finish, schedule.Finish, 1.0),
            (forecast.FinishAt(0.01), forecast.FinishAt(1), forecast.ChanceBy(schedule.Finish))
        );
        Assert.Equal((1.0, 1.0), (forecast.SetsFinish(0), forecast.SetsFinish(1)));
    }

    [Fact]
    public void The_mean_of_a_range_is_the_one_of_pert()
    {
        // (3 + 4 × 5 + 10) / 6 days on average: after many runs the half-way finishes lie about there.
        var schedule = PlanText.Plan("A 5d").With("A", t => t with { Estimate = Range(3, 5, 10), AroundTheClock = true }).Calculate();
        var forecast = Forecast.Run(schedule, new ForecastOptions(20_000));
        var mean = Enumerable.Range(1, 200).Average(i => (forecast.FinishAt(i / 200.0).Minutes - schedule.Start.Minutes) / 480.0);
        Assert.InRange(mean, 5.45, 5.55);
        Assert.InRange(forecast.FinishAt(0.0001).Minutes - schedule.Start.Minutes, 3 * 480, 3.3 * 480);
        Assert.InRange(forecast.FinishAt(1).Minutes - schedule.Start.Minutes, 8.5 * 480, 10 * 480);
    }

    [Fact]
    public void A_triangle_has_its_own_mean()
    {
        var schedule = PlanText.Plan("A 5d").With("A", t => t with { Estimate = Range(3, 5, 10), AroundTheClock = true }).Calculate();
        var forecast = Forecast.Run(schedule, new ForecastOptions(20_000, Spread: SpreadKind.Triangular));
        Assert.InRange(
            Enumerable.Range(1, 200).Average(i => (forecast.FinishAt(i / 200.0).Minutes - schedule.Start.Minutes) / 480.0),
            5.95,
            6.05
        );
    }

    [Fact]
    public void The_same_seed_gives_the_same_runs_and_another_others()
    {
        var first = Finishes(new ForecastOptions(2_000, 7));
        Assert.Equal(first, Finishes(new ForecastOptions(2_000, 7)));
        Assert.NotEqual(first, Finishes(new ForecastOptions(2_000, 8)));
    }

    [Fact]
    public void Each_task_sets_the_finish_as_often_as_it_is_the_longer_one()
    {
        var forecast = Forecast.Run(Uncertain, new ForecastOptions(5_000));
        Assert.Equal(1, forecast.SetsFinish(2));
        Assert.InRange(forecast.SetsFinish(0), 0.6, 0.9);
        Assert.InRange(forecast.SetsFinish(0) + forecast.SetsFinish(1), 1, 1.2);
        Assert.InRange(forecast.ChanceOfDeadline(0), 0.6, 0.9);
        Assert.Equal(5_000, forecast.ByDay().Sum(d => d.Runs));
    }

    [Fact]
    public void More_confidence_is_never_an_earlier_finish()
    {
        var forecast = Forecast.Run(Uncertain, new ForecastOptions(1_000));
        var finishes = Enumerable.Range(1, 100).Select(i => forecast.FinishAt(i / 100.0)).ToList();
        Assert.Equal(finishes.Order(), finishes);
        Assert.True(forecast.ChanceBy(forecast.FinishAt(0.8)) >= 0.8);
    }

    [Fact]
    public void A_plan_from_its_finish_is_run_from_the_start_that_results_and_pauses_hold()
    {
        var plan = PlanText
            .Plan("A 5d")
            .With("A", t => t with { Estimate = Range(5, 5, 9), Splits = [new(Length.OneDay, Length.OneDay)] });
        plan = plan with { Project = plan.Project with { ScheduleFrom = ScheduleFrom.Finish, Finish = PlanTime.At(2027, 5, 21, 18) } };
        var forecast = Forecast.Run(plan.Calculate(), new ForecastOptions(200));
        Assert.True(forecast.FinishAt(0.01) >= PlanTime.At(2027, 5, 21, 18));
        Assert.True(forecast.FinishAt(1) > forecast.FinishAt(0.01));
    }

    [Fact]
    public void It_tells_how_far_it_is_and_can_be_ended()
    {
        using var cancel = new CancellationTokenSource();
        var told = new List<double>();
        Assert.Throws<OperationCanceledException>(() =>
            Forecast.Run(
                Uncertain,
                new ForecastOptions(100_000),
                new Telling(share =>
                {
                    lock (told)
                        told.Add(share);
                    cancel.Cancel();
                }),
                cancel.Token
            )
        );
        Assert.NotEmpty(told);
        Assert.All(told, share => Assert.InRange(share, 0, 0.9));
    }

    private static List<PlanTime> Finishes(ForecastOptions options)
    {
        var forecast = Forecast.Run(Uncertain, options);
        return [.. Enumerable.Range(1, 1_000).Select(i => forecast.FinishAt(i / 1_000.0))];
    }

    private static LengthEstimate Range(int low, int likely, int high) => new(Length.Days(low), Length.Days(likely), Length.Days(high));

    private sealed class Telling(Action<double> tell) : IProgress<double>
    {
        public void Report(double value) => tell(value);
    }
}
