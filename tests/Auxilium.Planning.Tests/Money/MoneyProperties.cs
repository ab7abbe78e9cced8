using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Load;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;

namespace Auxilium.Planning.Tests.Money;

public class MoneyProperties
{
    private static readonly DateOnly Today = new(2027, 5, 13);

    /// <summary>Money of a random plan, as wild as it may be.</summary>
    internal static (Plan Plan, Ledger Ledger, List<WorkedHours> Hours) Random(int seed)
    {
        var random = new Random(seed);
        var plan = RandomPlan.Of(random, most: 40);
        var items = ImmutableDictionary.CreateBuilder<string, ImmutableArray<CostItem>>();
        foreach (var task in plan.Tasks.Where(_ => random.Next(2) == 0))
            items[task.Id] = [.. Enumerable.Range(0, random.Next(1, 4)).Select(at => Item(random, $"{task.Id}-{at}"))];
        var rates = plan
            .People.Where(_ => random.Next(4) > 0)
            .ToImmutableDictionary(
                person => person.Id,
                _ =>
                    Enumerable
                        .Range(0, random.Next(1, 4))
                        .Select(at => new Rate(
                            at == 0 ? null : Today.AddDays(random.Next(-20, 20)),
                            random.Next(9000) / 100m,
                            random.Next(2) == 0 ? null : random.Next(9000) / 100m,
                            random.Next(2000) / 100m
                        ))
                        .ToImmutableArray()
            );
        var hours = new List<WorkedHours>();
        foreach (var task in plan.Tasks)
        foreach (var assignment in task.Assignments.Where(_ => random.Next(3) == 0))
            hours.Add(new WorkedHours(task.Id, assignment.Person, Today.AddDays(random.Next(-9, 3)), random.Next(1, 400)));
        var ledger = new Ledger
        {
            Budget = random.Next(2) == 0 ? null : random.Next(100_000),
            Actuals = random.Next(3) switch
            {
                0 => null,
                1 => Actuals.Entered,
                _ => Actuals.Progress,
            },
            Items = items.ToImmutable(),
            Rates = rates,
        };
        return (plan, ledger, hours);
    }

    private static CostItem Item(Random random, string id)
    {
        var kind = (ItemKind)random.Next(3);
        return new CostItem(id, $"Item {id}")
        {
            Kind = kind,
            Quantity = random.Next(1, 5000) / 100m,
            Price = random.Next(5) == 0 ? null : random.Next(100_000) / 10_000m,
            Per = kind == ItemKind.Equipment ? (PricePer)random.Next(3) : PricePer.Unit,
            PerUse = random.Next(3) == 0 ? random.Next(5000) / 100m : 0,
            Accrues = (Accrual)random.Next(3),
            Category = random.Next(3) switch
            {
                0 => "",
                1 => "Food",
                _ => "Stage",
            },
            Supplier = random.Next(2) == 0 ? "" : "Quay supplies",
            Payments = random.Next(3) > 0 ? [] : [new Payment(Today.AddDays(random.Next(-20, 20)), random.Next(1, 9000) / 100m)],
        };
    }

    private static PlanMoney Of(int seed, DateOnly? asOf = null, Func<Plan, Plan>? change = null)
    {
        var (plan, ledger, hours) = Random(seed);
        plan = change?.Invoke(plan) ?? plan;
        return new PlanMoney(Scheduler.Calculate(plan), ledger, [.. PaidHours.Of(hours, Capacities.Of(plan))], asOf ?? Today);
    }

    [Fact]
    public void What_a_project_costs_is_the_sum_of_its_rows_by_line_by_category_by_person_and_by_month()
    {
        for (var seed = 0; seed < 300; seed++)
        {
            var money = Of(seed);
            var whole = money.Whole;
            Same(whole.Planned.Whole, money.Lines.Sum(line => line.Planned.Whole));
            Same(whole.Spent, money.Lines.Sum(line => line.Spent) + money.Gone);
            Same(whole.Left, money.Lines.Sum(line => line.Left));
            Same(whole.Planned.Whole, whole.Labour + whole.Items);
            foreach (var by in Enum.GetValues<CostBy>())
            {
                var groups = CostGroups.Of(money, by);
                Same(whole.Planned.Whole, groups.Sum(group => group.Sum.Planned.Whole));
                Same(whole.Left, groups.Sum(group => group.Sum.Left));
            }
            var months = new MoneyInTime(money).Planned(day => new DateOnly(day.Year, day.Month, 1));
            Same(whole.Planned.Whole, months.Sum(month => month.Amount));
            var weeks = new MoneyInTime(money).ToBePaid(day => day.AddDays(-(int)day.DayOfWeek));
            Same(money.Lines.Where(line => line.Item is not null).Sum(line => line.Left), weeks.Sum(week => week.Amount));
            Assert.All(weeks, week => Assert.True(week.Key >= Today.AddDays(-6)));
        }
    }

    [Fact]
    public void A_phase_costs_what_its_rows_and_its_own_items_do()
    {
        for (var seed = 0; seed < 100; seed++)
        {
            var money = Of(seed);
            var index = money.Schedule.Plan.Index;
            for (var row = 0; row < index.Count; row++)
            {
                var inside = Enumerable.Range(0, index.Count).Where(at => index.ParentOf(at) == row).Sum(at => money.Of(at).Planned.Whole);
                Same(money.Of(row).Planned.Whole, inside + money.OwnOf(row).Planned.Whole);
                Assert.Equal(money.ProgressOf(row), (decimal)money.Schedule.ProgressOf(row), 5);
            }
        }
    }

    [Fact]
    public void What_was_spent_by_hours_and_payments_does_not_change_when_the_future_does()
    {
        for (var seed = 0; seed < 200; seed++)
        {
            static Plan Later(Plan plan) =>
                plan with
                {
                    Tasks =
                    [
                        .. plan.Tasks.Select(task =>
                            task.IsStarted ? task : task with { Length = new Length(9, LengthUnit.Days), Milestone = false }
                        ),
                    ],
                };
            var (now, later) = (Of(seed), Of(seed, null, plan => Fits(Later(plan)) ? Later(plan) : plan));
            if (now.Actuals == Actuals.Entered)
                Assert.Equal(now.Whole.Spent, later.Whole.Spent);
        }
    }

    [Fact]
    public void Earned_and_planned_value_are_never_above_what_all_was_to_cost()
    {
        for (var seed = 0; seed < 200; seed++)
        {
            var (plan, ledger, hours) = Random(seed);
            var schedule = Scheduler.Calculate(plan);
            var money = new PlanMoney(schedule, ledger, [.. PaidHours.Of(hours, Capacities.Of(plan))], Today);
            var baseline = Baselines.Take(schedule, "b", "B", Today, costs: money);
            var earned = new EarnedValue(money, baseline);
            Assert.InRange(earned.Bac - money.Whole.Planned.Whole, -0.01m, 0.01m);
            Assert.InRange(earned.Ev, 0, earned.Bac + 0.0001m);
            Assert.InRange(earned.Pv, 0, earned.Bac + 0.0001m);
            Assert.True(earned.PlannedAt(earned.EarnedAt) >= earned.Ev - 0.0001m);
            Same(earned.Bac, earned.PlannedAt(schedule.Finish.Minutes > 0 ? baseline.Rows.Max(row => row.Finish) : default));
        }
    }

    /// <summary>What is taken from before an edit is what would be worked out anew, to the last decimal.</summary>
    [Fact]
    public void After_an_edit_money_is_the_same_whether_all_or_only_what_changed_is_worked_out()
    {
        var kept = 0;
        for (var seed = 0; seed < 300; seed++)
        {
            var random = new Random(seed);
            var (plan, ledger, hours) = Random(seed);
            var before = new PlanMoney(Scheduler.Calculate(plan), ledger, [.. PaidHours.Of(hours, Capacities.Of(plan))], Today);
            var (edited, money, worked, day) = Edit(random, plan, ledger, hours);
            if (!Fits(edited))
                continue;
            var schedule = Scheduler.Calculate(edited);
            ImmutableArray<PaidHours> paid = [.. PaidHours.Of(worked, Capacities.Of(edited))];
            var anew = new PlanMoney(schedule, money, paid, day);
            var after = new PlanMoney(schedule, money, paid, day, before);
            Assert.Equal(anew.Lines, after.Lines);
            Assert.Equal(anew.Whole, after.Whole);
            for (var row = 0; row < edited.Tasks.Length; row++)
                Assert.Equal(anew.Of(row), after.Of(row));
            kept += after.Taken;
        }
        Assert.True(kept > 1000, $"{kept} rows were taken over in all.");
    }

    private static (Plan, Ledger, List<WorkedHours>, DateOnly) Edit(Random random, Plan plan, Ledger ledger, List<WorkedHours> hours)
    {
        var day = Today;
        var at = random.Next(plan.Tasks.Length);
        var task = plan.Tasks[at];
        switch (random.Next(8))
        {
            case 0:
                plan = plan with
                {
                    Tasks = plan.Tasks.SetItem(at, task with { Length = new Length(9, LengthUnit.Days), Milestone = false }),
                };
                break;
            case 1:
                plan = plan with { Project = plan.Project with { Start = PlanTime.On(Today) } };
                break;
            case 2:
                plan = plan with { Tasks = plan.Tasks.SetItem(at, task with { Assignments = [] }) };
                break;
            case 3:
                plan = plan with { Tasks = plan.Tasks.SetItem(at, task with { Active = !task.Active }) };
                break;
            case 4:
                ledger = ledger with { Items = ledger.Items.SetItem(task.Id, [Item(random, "new")]) };
                break;
            case 5 when !ledger.Rates.IsEmpty:
                var person = ledger.Rates.Keys.First();
                ledger = ledger with { Rates = ledger.Rates.SetItem(person, [new Rate(null, 77)]) };
                break;
            case 6 when hours.Count > 0:
                hours = [.. hours.Skip(1), hours[0] with { Minutes = hours[0].Minutes + 60 }];
                break;
            case 7:
                day = day.AddDays(2);
                break;
        }
        return (plan, ledger, hours, day);
    }

    [Fact]
    public void No_amount_is_ever_a_binary_fraction()
    {
        var types = typeof(PlanMoney).Assembly.GetTypes().Where(type => type.Namespace == typeof(PlanMoney).Namespace && !type.IsEnum);
        const System.Reflection.BindingFlags All =
            System.Reflection.BindingFlags.Public
            | System.Reflection.BindingFlags.NonPublic
            | System.Reflection.BindingFlags.Instance
            | System.Reflection.BindingFlags.Static;
        var wrong =
            from type in types
            from member in type.GetMembers(All)
            let of = member switch
            {
                System.Reflection.FieldInfo field => [field.FieldType],
                System.Reflection.MethodInfo method => [method.ReturnType, .. method.GetParameters().Select(p => p.ParameterType)],
                _ => Array.Empty<Type>(),
            }
            where of.Any(IsBinary)
            select $"{type.Name}.{member.Name}";
        Assert.Empty(wrong);

        static bool IsBinary(Type type) =>
            type == typeof(double)
            || type == typeof(float)
            || (type.HasElementType && IsBinary(type.GetElementType()!))
            || type.GetGenericArguments().Any(IsBinary);
    }

    /// <summary>But for what thirds and sevenths lose.</summary>
    private static void Same(decimal expected, decimal actual) => Assert.InRange(actual - expected, -0.0000001m, 0.0000001m);

    private static bool Fits(Plan plan)
    {
        try
        {
            Scheduler.Calculate(plan);
            return true;
        }
        catch (UnsoundPlanException)
        {
            return false;
        }
    }
}
