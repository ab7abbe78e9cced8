using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Forecasting;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Tests.Plans;

/// <summary>The cost of a plan or an edit is known before it is calculated.</summary>
public class PlanCostTests
{
    private static readonly DateOnly Today = new(2027, 5, 3);

    [Fact]
    public void A_plan_of_many_people_with_days_off_is_let_through_and_one_of_many_combinations_is_not()
    {
        Assert.Null(PlanCost.WhyTooMuch(Paired(calendars: 1_000, days: 30, tasks: 1_000, pairs: false)));
        Assert.Contains(
            "combinations",
            PlanCost.WhyTooMuch(Paired(calendars: 200, days: 50, tasks: 4_000, pairs: true)),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Whatever_is_let_through_takes_a_bounded_amount_of_memory()
    {
        var plan = Paired(calendars: 100, days: 30, tasks: 900, pairs: true);
        Assert.Null(PlanCost.WhyTooMuch(plan));
        var before = GC.GetAllocatedBytesForCurrentThread();
        Scheduler.Calculate(plan);
        Assert.InRange(GC.GetAllocatedBytesForCurrentThread() - before, 0, 3 * PlanCost.BytesOf(plan));
    }

    [Fact]
    public void Calendars_that_build_on_each_other_too_deep_are_refused_and_a_circle_of_them_is_none_of_this()
    {
        WorkCalendar At(int i, int? on) =>
            new()
            {
                Id = $"c{i}",
                Name = $"C{i}",
                Base = on is { } b ? $"c{b}" : null,
                Week = WorkCalendar.Weekdays.Week,
            };
        var deep = One() with { Calendars = [.. Enumerable.Range(0, 30).Select(i => At(i, i == 0 ? null : i - 1))] };
        Assert.Contains("20 deep", PlanCost.WhyTooMuch(deep), StringComparison.Ordinal);
        Assert.Null(PlanCost.WhyTooMuch(deep with { Calendars = deep.Calendars[..PlanCost.DeepestCalendar] }));
        Assert.Null(PlanCost.WhyTooMuch(deep with { Calendars = [At(0, 1), At(1, 0)] }));
        var saved = Assert.Throws<EditRefusedException>(() =>
            EditPipeline.Run(
                (deep with { Calendars = deep.Calendars[..PlanCost.DeepestCalendar] }).Calculate(),
                new SaveCalendar(At(99, PlanCost.DeepestCalendar - 1)),
                Today,
                []
            )
        );
        Assert.Equal("tooMuch", saved.Code);
    }

    [Fact]
    public void One_edit_of_very_much_is_refused_before_it_is_made()
    {
        var plan = One() with { Tasks = [.. Enumerable.Range(0, 12_000).Select(i => One().Tasks[0] with { Id = $"t{i}" })] };
        var all = new Together([.. Enumerable.Range(0, 14_900).Select(i => new SetLength($"t{i % 12_000}", new(Length.Days(2))))]);
        var schedule = plan.Calculate();
        var before = GC.GetAllocatedBytesForCurrentThread();
        Assert.Equal("tooMuch", Assert.Throws<EditRefusedException>(() => EditPipeline.Run(schedule, all, Today, [])).Code);
        Assert.InRange(GC.GetAllocatedBytesForCurrentThread() - before, 0, 5_000_000);
        Assert.Equal(16_666, ForecastOptions.MostRunsOf(12_000));
    }

    [Fact]
    public void Work_that_nobody_waits_for_any_more_ends()
    {
        using var end = new CancellationTokenSource();
        end.Cancel();
        var plan = One();
        var schedule = plan.Calculate();
        Assert.Throws<OperationCanceledException>(() => Scheduler.Calculate(plan, end.Token));
        Assert.Throws<OperationCanceledException>(() =>
            EditPipeline.Run(
                new Together([new SetLength("t", new(Length.Days(2)))]),
                new EditContext(schedule, Today, []) { Cancel = end.Token }
            )
        );
    }

    private static Plan One() =>
        new()
        {
            Project = new ProjectSettings { Name = "P", Start = PlanTime.At(2027, 5, 3, 9) },
            Tasks =
            [
                new PlanTask
                {
                    Id = "t",
                    Name = "T",
                    Length = Length.OneDay,
                },
            ],
        };

    private static Plan Paired(int calendars, int days, int tasks, bool pairs)
    {
        CalendarOverride Day(int calendar, int day) =>
            new(
                Today.AddDays(3 * day + calendar % 3),
                Today.AddDays(3 * day + calendar % 3),
                "x",
                pairs ? [new WorkInterval(600 + calendar % 60, 720)] : []
            );
        return One() with
        {
            Calendars =
            [
                .. Enumerable
                    .Range(0, calendars)
                    .Select(c => new WorkCalendar
                    {
                        Id = $"c{c}",
                        Name = $"C{c}",
                        Week = WorkCalendar.Weekdays.Week,
                        Exceptions = [.. Enumerable.Range(0, days).Select(d => Day(c, d))],
                    }),
            ],
            People = [.. Enumerable.Range(0, calendars).Select(p => new Person($"p{p}", $"P{p}", "P", null, $"c{p}"))],
            Tasks =
            [
                .. Enumerable
                    .Range(0, tasks)
                    .Select(t =>
                        One().Tasks[0] with
                        {
                            Id = $"t{t}",
                            Calendar = pairs ? $"c{t % calendars}" : null,
                            Assignments = [new Assignment($"p{(t / calendars + t) % calendars}", 1)],
                        }
                    ),
            ],
        };
    }
}
