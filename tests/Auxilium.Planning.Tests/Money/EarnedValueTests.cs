using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;

namespace Auxilium.Planning.Tests.Money;

/// <summary>
/// A fence of four sides, one after another, each planned for two days at 1,000. After four days two sides and a half are what was paid
/// for 2,700: the kind of example that textbooks begin with.
/// </summary>
public class EarnedValueTests
{
    private static readonly DateOnly Thursday = new(2027, 5, 6);

    private static CostItem Side(string id, params Payment[] payments) =>
        new($"i{id}", "A side")
        {
            Price = 1000,
            Accrues = Accrual.Evenly,
            Payments = [.. payments],
        };

    private static readonly Ledger Sides = Ledger.None with
    {
        Items = ImmutableDictionary<string, ImmutableArray<CostItem>>
            .Empty.Add("A", [Side("a", new Payment(Thursday, 2700))])
            .Add("B", [Side("b")])
            .Add("C", [Side("c")])
            .Add("D", [Side("d")]),
    };

    private static Plan Fence =>
        PlanText
            .Plan("A 2d\nB 2d after A\nC 2d after B\nD 2d after C")
            .With("A", Done)
            .With("B", task => task with { ActualStart = PlanTime.At(2027, 5, 5, 9), Progress = 0.5m });

    private static PlanTask Done(PlanTask task) =>
        task with
        {
            ActualStart = PlanText.DefaultStart,
            ActualFinish = PlanTime.At(2027, 5, 4, 18),
            Progress = 1,
        };

    private static EarnedValue Of(Plan plan, Baseline baseline, Ledger? ledger = null, DateOnly? asOf = null) =>
        new(new PlanMoney(Scheduler.Calculate(plan), ledger ?? Sides, [], asOf ?? Thursday), baseline);

    /// <summary>The plan as a baseline, with what it costs.</summary>
    private static Baseline Agreed(Plan plan, Ledger ledger)
    {
        var schedule = Scheduler.Calculate(plan);
        return Baselines.Take(schedule, "b1", "As agreed", new DateOnly(2027, 5, 1), costs: new PlanMoney(schedule, ledger, [], Thursday));
    }

    private static Baseline Sound => Agreed(PlanText.Plan("A 2d\nB 2d after A\nC 2d after B\nD 2d after C"), Sides);

    [Fact]
    public void V1_to_V5_by_a_worked_example()
    {
        var earned = Of(Fence, Sound);

        Assert.Equal((4000, 2000, 1500, 2700), (earned.Bac, earned.Pv, earned.Ev, earned.Ac));
        Assert.Equal((-500, -1200), (earned.Sv, earned.Cv));
        Assert.Equal((0.75m, 0.5556m), (earned.Spi, Round(earned.Cpi)));
        // 2700 + 2500 ÷ 0.5556
        Assert.Equal((7200m, 4500m, -3200m), (Round(earned.Eac), Round(earned.Etc), Round(earned.Vac)));
        Assert.Equal(1.9231m, Round(earned.Tcpi));
        Assert.Equal((5200, 8700), (earned.EacAsPlanned, Round(earned.EacWithDelay)));
    }

    [Fact]
    public void V2_what_is_due_at_the_start_or_finish_is_due_by_its_day()
    {
        var ledger = Ledger.None with
        {
            Items = ImmutableDictionary<string, ImmutableArray<CostItem>>.Empty.Add(
                "B",
                [Side("s") with { Accrues = Accrual.Start }, Side("f") with { Accrues = Accrual.Finish }]
            ),
        };
        var agreed = Agreed(PlanText.Plan("A 2d\nB 2d after A"), ledger);
        var before = Enumerable.Range(3, 5).Select(day => Of(Fence, agreed, ledger, new DateOnly(2027, 5, day)).Pv);
        // B is on Wednesday and Thursday; what is due when a day begins is due on that day.
        Assert.Equal([0, 0, 1000, 2000, 2000], before);
    }

    [Fact]
    public void V1_what_is_new_has_no_planned_value_and_what_was_dropped_keeps_it()
    {
        var plan = Fence with
        {
            Tasks = [.. Fence.Tasks.Where(task => task.Id != "D"), new PlanTask { Id = "E", Name = "E" }],
            Links = [],
        };
        var earned = Of(plan, Sound);
        Assert.Equal((4000, 1500), (earned.Bac, earned.Ev));
        Assert.Equal((0, 0, 0), earned.Of(plan.Index.RowOf("E")));
    }

    [Fact]
    public void V5_has_no_figure_where_it_would_divide_by_nothing()
    {
        var untouched = Of(PlanText.Plan("A 2d"), Agreed(PlanText.Plan("A 2d"), Sides), Ledger.None, new DateOnly(2027, 5, 1));
        Assert.Equal((null, null, 1000m), (untouched.Spi, untouched.Cpi, untouched.Eac));
        Assert.Equal((0m, (decimal?)null), (Of(PlanText.Plan("A 2d"), Sound).Cpi, Of(PlanText.Plan("A 2d"), Sound).Eac));
    }

    [Fact]
    public void V6_earned_schedule_is_when_as_much_was_to_be_done_as_is_done()
    {
        var earned = Of(Fence, Sound);
        // One side and a half were to be done by Wednesday evening.
        Assert.Equal(PlanTime.At(2027, 5, 5, 18), earned.EarnedAt);
        Assert.Equal(0.75m, earned.SpiT);
    }

    [Fact]
    public void S3_a_phases_own_items_count_once()
    {
        var ledger = Ledger.None with
        {
            Items = ImmutableDictionary<string, ImmutableArray<CostItem>>.Empty.Add("Site", [Side("own")]).Add("A", [Side("a")]),
        };
        var agreed = Agreed(PlanText.Plan("Site\n  A 2d\n  B 2d"), ledger);
        Assert.Equal(2000, agreed.Rows[0].Cost.Whole);
        var earned = Of(PlanText.Plan("Site\n  A 2d\n  B 2d").With("A", Done), agreed, ledger);
        // Half of the phase is done, and all of A.
        Assert.Equal((2000, 1500), (earned.Bac, earned.Ev));
        Assert.Equal((2000, 2000, 1500), earned.Of(0));
    }

    private static decimal? Round(decimal? number) => number is { } known ? Math.Round(known, 4) : null;
}
