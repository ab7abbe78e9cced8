using System.Collections.Immutable;
using Auxilium.Planning.CheckUp;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;

namespace Auxilium.Planning.Tests.Money;

public class MoneyEditTests
{
    private static readonly MoneyText Euro = new("EUR");

    [Fact]
    public void Whatever_is_changed_can_be_taken_back()
    {
        var made = new HashSet<Type>();
        for (var seed = 0; seed < 400; seed++)
        {
            var random = new Random(seed);
            var (plan, ledger, _) = MoneyProperties.Random(seed);
            var edit = Sample(random, plan, ledger);
            try
            {
                var (after, inverse) = edit.Apply(ledger, plan);
                made.Add(edit.GetType());
                Assert.NotEmpty(edit.Say(ledger, plan, Euro));
                Assert.True(Same(ledger, inverse.Apply(after, plan).After), $"seed {seed}: {edit}");
            }
            catch (EditRefusedException refused)
            {
                Assert.EndsWith(".", refused.Message, StringComparison.Ordinal);
            }
        }
        Assert.Equal(MoneyEdit.Kinds.Select(kind => kind.Type).ToHashSet(), made);
    }

    [Fact]
    public void What_an_edit_did_to_the_budget_is_said_in_two_sentences()
    {
        Assert.Equal(
            "Expected cost 1,250.00 €, 50.00 € more. 750.00 € of the budget free.",
            new MoneyRipple(1200, 1250, 800, 750).Say(Euro)
        );
        Assert.Equal("Expected cost 90.00 €, 10.00 € less. Over budget by 5.50 €.", new MoneyRipple(100, 90, -15.5m, -5.5m).Say(Euro));
        Assert.Equal("Expected cost stays 90.00 €. 10.00 € of the budget free.", new MoneyRipple(90, 90, null, 10).Say(Euro));
        Assert.Equal("", new MoneyRipple(90, 90, 10, 10).Say(Euro));
        Assert.Equal("1,235 JPY", new MoneyText("JPY").Of(1234.5m));
    }

    [Fact]
    public void The_check_up_tells_what_is_weak_about_money()
    {
        var plan = PlanText.Plan("Fence 2d\nPaint 1d") with { People = [new("ann", "Ann Lee", "AL"), new("bo", "Bo Ek", "BE")] };
        plan = plan.With("Fence", task => task with { Assignments = [new("bo")] });
        var ledger = Ledger.None with
        {
            Budget = 50,
            Budgets = ImmutableDictionary<string, decimal>.Empty.Add("Fence", 20),
            Rates = ImmutableDictionary<string, ImmutableArray<Rate>>.Empty.Add("ann", [new Rate(null, 20)]),
            Items = ImmutableDictionary<string, ImmutableArray<CostItem>>.Empty.Add(
                "Fence",
                [
                    new CostItem("a", "Planks")
                    {
                        Price = 90,
                        Accrues = Accrual.Finish,
                        Payments = [new(new(2027, 5, 3), 30)],
                    },
                    new CostItem("b", "Nails"),
                ]
            ),
        };
        var found = MoneyCheck.Of(new PlanMoney(Scheduler.Calculate(plan), ledger, [], new DateOnly(2027, 5, 3)), Euro).ToList();
        Assert.Equal(
            [
                FindingKind.BudgetPassed,
                FindingKind.BudgetPassed,
                FindingKind.ItemWithoutPrice,
                FindingKind.WorkWithoutRate,
                FindingKind.CostWithoutOwner,
                FindingKind.PaidEarly,
            ],
            found.Select(finding => finding.Kind)
        );
        Assert.Equal("The project is expected to cost 40.00 € more than its budget.", found[0].Sentence);
        Assert.Empty(MoneyCheck.Of(new PlanMoney(Scheduler.Calculate(plan), Ledger.None, [], new DateOnly(2027, 5, 3)), Euro));
    }

    [Theory]
    [InlineData("30 from 1 Jun 2027", "30 from 1 Jun 2027")]
    [InlineData(
        "32.50 overtime 40 per task 15 from 1 Jan 2028; 35 from 2029-01-01",
        "32.5 overtime 40 per task 15 from 1 Jan 2028, 35 from 1 Jan 2029"
    )]
    [InlineData("", "")]
    public void Later_rates_are_read_as_people_type_them(string typed, string again)
    {
        Assert.True(RatesText.TryParse(typed, new DateOnly(2027, 5, 13), out var rates, out var problem), problem);
        Assert.Equal(again, RatesText.Of(rates));
    }

    [Theory]
    [InlineData("30")]
    [InlineData("much from 1 Jun")]
    [InlineData("30 from someday")]
    [InlineData("30 overtime lots from 1 Jun")]
    [InlineData("30.12345 from 1 Jun")]
    public void What_is_no_rate_is_said(string typed)
    {
        Assert.False(RatesText.TryParse(typed, new DateOnly(2027, 5, 13), out _, out var problem));
        Assert.NotEmpty(problem);
    }

    private static MoneyEdit Sample(Random random, Plan plan, Ledger ledger)
    {
        var task = plan.Tasks[random.Next(plan.Tasks.Length)].Id;
        var item = ledger.ItemsOf(task) is { IsEmpty: false } items && random.Next(2) == 0 ? items[random.Next(items.Length)] : null;
        return random.Next(7) switch
        {
            0 when item is not null => new RemoveItem(task, item.Id),
            1 => new SetBudget(random.Next(2) == 0 ? null : task, random.Next(3) == 0 ? null : random.Next(1000)),
            2 => new SetActuals(random.Next(2) == 0 ? null : Actuals.Progress),
            6 => new SetCouldTake(
                task,
                random.Next(3) == 0 ? null : new CouldTake(new Length(random.Next(1, 9), LengthUnit.Hours), random.Next(1000))
            ),
            3 => new MoneyTogether([
                .. Enumerable.Range(0, random.Next(1, 4)).Select(_ => Sample(new Random(random.Next()), plan, ledger)),
            ]),
            _ => new SetItem(
                task,
                (item ?? new CostItem("new", "New")) with
                {
                    Price = random.Next(100),
                    Quantity = random.Next(9),
                },
                random.Next(3)
            ),
        };
    }

    private static bool Same(Ledger one, Ledger other) =>
        (one.Budget, one.Actuals) == (other.Budget, other.Actuals)
        && one.Budgets.OrderBy(b => b.Key).SequenceEqual(other.Budgets.OrderBy(b => b.Key))
        && one.CouldTake.OrderBy(c => c.Key).SequenceEqual(other.CouldTake.OrderBy(c => c.Key))
        && one.Items.Keys.Order().SequenceEqual(other.Items.Keys.Order())
        && one.Items.All(row => row.Value.SequenceEqual(other.ItemsOf(row.Key)));
}
