using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Tests.Facts;

/// <summary>What holds of every plain fact, whatever it is.</summary>
public class PlainFactsTests
{
    public static TheoryData<string> Names => [.. PlainFacts.All.Select(fact => fact.Name)];

    [Fact]
    public void Every_class_of_fact_stands_in_the_list_once()
    {
        // Facts that people add are not known here.
        var classes = typeof(Fact).Assembly.GetTypes().Where(t => t.IsSubclassOf(typeof(Fact)) && !t.IsAbstract && t != typeof(OwnFact));
        Assert.Equal(classes.OrderBy(t => t.Name), PlainFacts.All.Select(fact => fact.GetType()).OrderBy(t => t.Name));
        Assert.Distinct(PlainFacts.All.Select(fact => fact.Field.Name));
    }

    [Theory]
    [MemberData(nameof(Names))]
    public void A_task_that_says_nothing_has_the_usual_value_and_one_that_is_given_it_says_nothing(string name)
    {
        var fact = PlainFacts.All.Single(f => f.Name == name);
        Assert.Equal(fact.UsualValue, FactValues.None[fact]);
        var other = OtherThanUsual(fact);
        var given = FactValues.None.With(fact, other);
        Assert.Equal(other, given[fact]);
        Assert.NotEqual(FactValues.None, given);
        Assert.Equal(FactValues.None, given.With(fact, fact.UsualValue));
        Assert.Equal(given, FactValues.None.With(fact, other));
        Assert.Equal(given.GetHashCode(), FactValues.None.With(fact, other).GetHashCode());
    }

    [Theory]
    [MemberData(nameof(Names))]
    public void Copies_and_what_repeats_take_it_along_when_it_says_so(string name)
    {
        var fact = PlainFacts.All.Single(f => f.Name == name);
        var plan = PlanText.Plan("A 1d").With("A", t => t with { Facts = t.Facts.With(fact, OtherThanUsual(fact)) });
        var expected = fact.IsCopied ? OtherThanUsual(fact) : fact.UsualValue;
        var copied = EditPipeline.Run(plan.Calculate(), new CopyTasks(["A"], null, "A", ["B"]), new(2027, 5, 3), []);
        Assert.Equal(expected, copied.After.Plan.Find("B")!.Facts[fact]);
        var rule = new RepeatRule
        {
            Every = RepeatUnit.Week,
            From = new(new DateOnly(2027, 5, 3)),
            Times = 2,
            Length = Length.OneDay,
        };
        var repeated = EditPipeline.Run(plan.Calculate(), new RepeatTask("A", rule), new(2027, 5, 3), []);
        Assert.All(repeated.After.Plan.Tasks.Where(t => t.Parent == "A"), t => Assert.Equal(expected, t.Facts[fact]));
    }

    [Theory]
    [InlineData("priority", "", 500, null)]
    [InlineData("priority", " 700 ", 700, null)]
    [InlineData("priority", "much", null, "Priority is a whole number from 0 to 1000; 500 is usual.")]
    [InlineData("priority", "1001", null, "Priority is a whole number from 0 to 1000; 500 is usual.")]
    [InlineData("key", "Yes", true, null)]
    [InlineData("key", "-", false, null)]
    [InlineData("key", "perhaps", null, "“perhaps” is neither yes nor no: write one of them.")]
    [InlineData("colour", "Moss", "moss", null)]
    [InlineData("colour", "red", null, "“red” is not a colour that rows can have: use sand, moss, sky, rose, lilac, or none.")]
    [InlineData("label", "  print ", "print", null)]
    [InlineData("label", " ", null, null)]
    [InlineData("label", "a\nb", null, "A label is one line of text: leave out line breaks and control characters.")]
    public void What_people_type_is_read_or_told_what_would_be_right(string name, string typed, object? value, string? problem)
    {
        var fact = PlainFacts.Find(name)!;
        Assert.Equal(problem is null, fact.TryType(typed, out var read, out var said));
        Assert.Equal(problem, said);
        if (problem is null)
            Assert.Equal(value, read);
    }

    private static object OtherThanUsual(Fact fact) =>
        fact switch
        {
            INumberFact number => number.Most,
            IYesNoFact => true,
            ITextFact { Choices: [var first, ..] } => first,
            _ => "print",
        };
}
