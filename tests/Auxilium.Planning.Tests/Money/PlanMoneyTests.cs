using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Load;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;

namespace Auxilium.Planning.Tests.Money;

public class PlanMoneyTests
{
    private static readonly DateOnly Monday = new(2027, 5, 3);

    private static readonly CostItem Paper = new("paper", "Lantern paper")
    {
        Kind = ItemKind.Material,
        Quantity = 40,
        Unit = "sheet",
        Price = 1.25m,
    };

    private static Plan With(string text, params Assignment[] on) =>
        PlanText.Plan(text) with
        {
            People = [new("ann", "Ann Lee", "AL"), new("bo", "Bo Ek", "BE")],
            Tasks = [.. PlanText.Plan(text).Tasks.Select((task, row) => row == 0 ? task with { Assignments = [.. on] } : task)],
        };

    private static Ledger Paying(params Rate[] rates) =>
        Ledger.None with
        {
            Rates = ImmutableDictionary<string, ImmutableArray<Rate>>.Empty.Add("ann", [.. rates]),
        };

    private static Ledger Holding(string task, params CostItem[] items) =>
        Ledger.None with
        {
            Items = ImmutableDictionary<string, ImmutableArray<CostItem>>.Empty.Add(task, [.. items]),
        };

    private static PlanMoney Of(Plan plan, Ledger ledger, DateOnly? asOf = null, params WorkedHours[] hours) =>
        new(Scheduler.Calculate(plan), ledger, [.. PaidHours.Of(hours, Capacities.Of(plan))], asOf ?? Monday);

    [Fact]
    public void M1_the_rate_of_the_day_of_the_work_applies()
    {
        // Two days of work, the second of them dearer.
        var plan = With("Fence 2d", new Assignment("ann"));
        var money = Of(plan, Paying(new Rate(null, 20), new Rate(Monday.AddDays(1), 30)));
        Assert.Equal(8 * 20 + 8 * 30, money.Whole.Planned.Whole);
        Assert.Equal(0, Of(plan, Paying(new Rate(Monday.AddDays(9), 30))).Whole.Planned.Whole);
        var rates = new Rates([new Rate(Monday.AddDays(1), 30), new Rate(null, 20)]);
        Assert.Equal((20, 30, 30), (rates.On(Monday).Hour, rates.On(Monday.AddDays(1)).Hour, rates.On(Monday.AddDays(99)).Hour));
    }

    [Fact]
    public void M2_labour_is_effort_by_rate_and_once_for_each_use()
    {
        var plan = With("Fence 12h", new Assignment("ann", 0.5m), new Assignment("bo"));
        var money = Of(plan, Paying(new Rate(null, 28, PerUse: 15)));
        Assert.Equal(new PlannedCost(15, 168, 0), money.Of(0).Planned);
        Assert.Equal((183, 0), (money.Of(0).Labour, money.Of(0).Items));
    }

    [Fact]
    public void M2_volunteers_cost_nothing_and_their_hours_are_told_apart()
    {
        var plan = With("Fence 12h", new Assignment("bo"));
        WorkedHours worked = new("Fence", "bo", Monday, 90);
        var ledger = Ledger.None with { Volunteers = ["bo"], VolunteerHour = 14 };
        var money = Of(plan, ledger, null, worked);
        Assert.Equal(default, money.Whole);
        Assert.Equal((720m, 90m), money.Volunteered([new PaidHours(worked, 0)]));
    }

    [Theory]
    [InlineData(ItemKind.Material, PricePer.Unit, 40, 1.25, 3, 53)]
    [InlineData(ItemKind.Fixed, PricePer.Unit, 1, 80, 0, 80)]
    // Of two days of work.
    [InlineData(ItemKind.Equipment, PricePer.Hour, 1, 5, 20, 100)]
    [InlineData(ItemKind.Equipment, PricePer.Day, 3, 12, 20, 92)]
    [InlineData(ItemKind.Equipment, PricePer.Unit, 3, 12, 20, 56)]
    public void M3_an_item_costs_quantity_by_price_and_once_for_use(
        ItemKind kind,
        PricePer per,
        double quantity,
        double price,
        double perUse,
        double cost
    )
    {
        var item = Paper with { Kind = kind, Per = per, Quantity = (decimal)quantity, Price = (decimal)price, PerUse = (decimal)perUse };
        Assert.Null(item.WhyRefused());
        Assert.Equal((decimal)cost, Of(With("Fence 2d"), Holding("Fence", item)).Whole.Planned.Whole);
    }

    [Fact]
    public void M4_a_phase_has_its_rows_and_its_own_items_in_three_parts()
    {
        var ledger = Holding("Site", Paper with { Accrues = Accrual.Finish }) with { Budget = 100 };
        ledger = ledger with
        {
            Items = ledger.Items.Add("Fence", [Paper]).Add("Power", [Paper with { Id = "cable", Accrues = Accrual.Evenly, Price = 2 }]),
        };
        var money = Of(PlanText.Plan("Site\n  Fence 2d\n  Power 3d\nOther 1d"), ledger);
        Assert.Equal(new PlannedCost(50, 80, 50), money.Of(0).Planned);
        Assert.Equal(new PlannedCost(0, 0, 50), money.OwnOf(0).Planned);
        Assert.Equal((180, -80), (money.Whole.Planned.Whole, money.Free));
    }

    [Fact]
    public void M5_by_progress_what_is_started_reached_and_finished_is_spent()
    {
        var plan = PlanText.Plan("Fence 2d");
        var ledger = Holding(
            "Fence",
            Paper,
            Paper with
            {
                Id = "b",
                Accrues = Accrual.Evenly,
            },
            Paper with
            {
                Id = "c",
                Accrues = Accrual.Finish,
            }
        );
        Assert.Equal(Actuals.Progress, Of(plan, ledger).Actuals);
        Assert.Equal((0, 150), Told(plan));
        var started = plan.With("Fence", task => task with { ActualStart = PlanText.DefaultStart, Progress = 0.4m });
        Assert.Equal((50 + 20, 80), Told(started));
        var done = started.With("Fence", task => task with { ActualFinish = PlanTime.At(2027, 5, 4, 18), Progress = 1 });
        Assert.Equal((150, 0), Told(done));

        (decimal, decimal) Told(Plan of) => (Of(of, ledger).Whole.Spent, Of(of, ledger).Whole.Left);
    }

    [Fact]
    public void M5_by_what_was_entered_hours_uses_and_payments_are_spent()
    {
        var plan = With("Fence 2d", new Assignment("ann"))
            .With("Fence", task => task with { ActualStart = PlanText.DefaultStart, Progress = 0.25m });
        var ledger = Paying(new Rate(null, 20, PerUse: 7)) with
        {
            Items = Holding("Fence", Paper with { Payments = [new(Monday, 20), new(Monday.AddDays(3), 10)] }).Items,
        };
        var money = Of(plan, ledger, Monday, new("Fence", "ann", Monday, 180), new("Fence", "ann", Monday.AddDays(1), 60));
        Assert.Equal(Actuals.Entered, money.Actuals);
        // Three hours and the use of Ann; of the paper, what was paid by then.
        Assert.Equal(3 * 20 + 7 + 20, money.Whole.Spent);
        // M6: three quarters of sixteen hours, and the rest of the paper.
        Assert.Equal(12 * 20 + 30, money.Whole.Left);
        Assert.Equal(money.Whole.Spent + money.Whole.Left, money.Whole.Expected);
        Assert.Equal(4 * 20 + 7 + 30, Of(plan, ledger, Monday.AddDays(9), [new("Fence", "ann", Monday, 240)]).Whole.Spent);
    }

    [Fact]
    public void M5_money_that_went_into_rows_that_are_gone_is_spent_all_the_same()
    {
        var ledger = Paying(new Rate(null, 20)) with { Items = Holding("gone", Paper with { Payments = [new(Monday, 20)] }).Items };
        var money = Of(With("Fence 2d"), ledger, null, new WorkedHours("gone", "ann", Monday, 60));
        Assert.Equal((40, 40, 0), (money.Gone, money.Whole.Spent, money.Whole.Left));
    }

    [Fact]
    public void M6_nothing_is_left_of_what_is_paid_in_full_or_finished()
    {
        var over = Holding("Fence", Paper with { Payments = [new(Monday, 70)] });
        Assert.Equal((70, 0), (Of(With("Fence 2d"), over).Whole.Spent, Of(With("Fence 2d"), over).Whole.Left));
        var done = With("Fence 2d")
            .With("Fence", task =>
                task with
                {
                    ActualStart = PlanText.DefaultStart,
                    ActualFinish = PlanTime.At(2027, 5, 4, 18),
                    Progress = 1,
                }
            );
        var part = Holding("Fence", Paper with { Payments = [new(Monday, 20)] });
        Assert.Equal((20, 0), (Of(done, part).Whole.Spent, Of(done, part).Whole.Left));
    }

    [Fact]
    public void H4_overtime_falls_on_the_entries_of_the_day_in_the_order_they_were_made()
    {
        var plan = With("Fence 2d\nPower 1d", new Assignment("ann"));
        WorkedHours[] hours =
        [
            new("Fence", "ann", Monday, 420),
            new("Power", "ann", Monday, 120),
            new("Fence", "ann", Monday.AddDays(5), 30),
        ];
        // Eight hours on Monday, none on Saturday.
        Assert.Equal([0, 60, 30], PaidHours.Of(hours, Capacities.Of(plan)).Select(paid => paid.Overtime));
        var money = Of(plan, Paying(new Rate(null, 20, Overtime: 30)), Monday.AddDays(7), hours);
        Assert.Equal((7 * 20 + 15, 20 + 30), (money.Of(0).Spent, money.Of(1).Spent));
        Assert.Equal(9.5m * 20, Of(plan, Paying(new Rate(null, 20)), Monday.AddDays(7), hours).Whole.Spent);
    }

    [Fact]
    public void Nothing_is_planned_of_what_is_inactive()
    {
        var plan = With("Fence 2d\nPower 1d", new Assignment("ann")).With("Fence", task => task with { Active = false });
        var ledger = Paying(new Rate(null, 20)) with { Items = Holding("Fence", Paper with { Payments = [new(Monday, 5)] }).Items };
        Assert.Equal((0, 5, 0), (Of(plan, ledger).Whole.Planned.Whole, Of(plan, ledger).Whole.Spent, Of(plan, ledger).Whole.Left));
    }

    [Theory]
    [InlineData("", 1, 1, "needs a name")]
    [InlineData("Paper", -1, 1, "quantity is from 0")]
    [InlineData("Paper", 1, -1, "from 0 to")]
    [InlineData("Paper", 1, 0.00001, "at most 4 decimals")]
    public void What_cannot_be_is_refused_in_a_sentence(string name, double quantity, double price, string why) =>
        Assert.Contains(
            why,
            (Paper with { Name = name, Quantity = (decimal)quantity, Price = (decimal)price }).WhyRefused(),
            StringComparison.Ordinal
        );
}
