using Auxilium.Exchange.Lists;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Exchange.Tests.Lists;

public class ListComparisonTests
{
    private const string Stage = """
        Task	UID	Owner	Length	Start	After
        Stage
          Order stage	A-1	Ines Vale	2d	10 May
          Build stage	A-2	Tom Lowe	3d	17 May	2
          Rent lights	A-3		1d	20 May
        """;

    private static readonly DateOnly Today = new(2027, 5, 3);

    private static readonly Schedule Empty = Scheduler.Calculate(
        Plan.Empty("Regatta", PlanTime.At(2027, 5, 3, 9)) with
        {
            People = [new Person("ines", "Ines Vale", "IV")],
        }
    );

    [Fact]
    public void The_same_list_again_changes_nothing()
    {
        var plan = With(Stage);
        var reading = Again(plan, Stage);
        Assert.All(reading.Rows, row => Assert.Equal(ListRowState.Same, row.State));
        Assert.Equal((4, true, null), (reading.Matches, reading.IsLikelyAgain, reading.Edit));
        Assert.Equal("The plan has all of this list already.", reading.Problem);
        Assert.Empty(reading.Gone);
    }

    [Fact]
    public void New_changed_and_gone_rows_are_told_apart_by_source_id_and_name()
    {
        var plan = With(Stage);
        var reading = Again(
            plan,
            """
            Task	UID	Owner	Length	Start	After
            Stage
              Order the big stage	A-1	Tom Lowe	2d	11 May
              Build stage	A-2	Tom Lowe	5d	17 May	2
              Carpets	A-4		1d
            """
        );
        Assert.Equal(
            [ListRowState.Same, ListRowState.Changed, ListRowState.Changed, ListRowState.New],
            reading.Rows.Select(row => row.State!.Value)
        );
        Assert.Equal(
            ["name: Order stage → Order the big stage", "owner: Ines Vale → Tom Lowe", "start: Mon 10 May 2027 → Tue 11 May 2027"],
            reading.Rows[1].Changes.Select(Said)
        );
        Assert.Equal(["length: 3d → 5d"], reading.Rows[2].Changes.Select(Said));
        Assert.Equal(["Rent lights in Stage"], reading.Gone.Select(gone => $"{gone.Name} in {gone.Phase}"));
        var after = Apply(plan, reading);
        Assert.Equal(
            ["Stage", "Order the big stage", "Build stage", "Carpets", "Rent lights"],
            after.Plan.Tasks.Select(task => task.Name)
        );
        Assert.Equal("A-4", after.Plan.Tasks[3].Facts[PlainFacts.SourceId]);
        Assert.Equal(["tom-lowe"], after.Plan.Tasks[1].Assignments.Select(a => a.Person));
        Assert.Equal(new DateOnly(2027, 5, 11), after.StartOf(1).Date);
        Assert.Equal(plan.Plan.Tasks[1].Id, after.Plan.Tasks[1].Id);
    }

    [Fact]
    public void What_is_left_stays_and_what_is_to_go_goes()
    {
        var plan = With(Stage);
        const string List = "Task\tUID\tLength\nOrder stage\tA-1\t9d\nBuild stage\tA-2\t8d\nTent\tA-7\t1d\n  Poles\t\t1d";
        var gone = Again(plan, List).Gone.Single(row => row.Name == "Rent lights");
        var reading = ListReader.Read(
            List,
            new ListOptions(Again: true, Leave: new HashSet<int> { 2, 4 }, Remove: new HashSet<string> { gone.Task, "stranger" }),
            plan,
            [],
            Today
        );
        var after = Apply(plan, reading).Plan;
        Assert.Equal(["Stage", "Order stage", "Build stage"], after.Tasks.Select(task => task.Name));
        Assert.Equal([Length.Days(2), Length.Days(8)], after.Tasks.Skip(1).Select(task => task.Length));
    }

    [Fact]
    public void What_the_list_does_not_say_stays_as_people_made_it()
    {
        var plan = With(Stage);
        var build = plan.Plan.Tasks[2].Id;
        var rent = plan.Plan.Tasks[3].Id;
        foreach (
            var edit in new PlanEdit[]
            {
                new SetNote(build, "Bring gloves"),
                new SetOwner(rent, "Ines Vale"),
                new AddTask("own", "Thank the crew", plan.Plan.Tasks[0].Id, rent),
                new LinkTasks("own", rent, null),
                PlainFacts.Priority.Give(build, 700),
            }
        )
            plan = EditPipeline.Run(plan, edit, Today, []).After;
        Assert.Equal("The plan has all of this list already.", Again(plan, Stage).Problem);
        var reading = Again(plan, Stage.Replace("1d\t20 May", "2d\t20 May\t3"));
        Assert.Equal(["length: 1d → 2d", "after: 1.4 → 3"], reading.Rows[3].Changes.Select(Said));
        var after = Apply(plan, reading).Plan;
        Assert.Equal(
            ["own", build],
            after.Links.Where(link => link.To == rent).Select(link => link.From).OrderByDescending(id => id == "own")
        );
        Assert.Equal(("Bring gloves", 700), (after.Find(build)!.Note, after.Find(build)!.Facts[PlainFacts.Priority]));
    }

    [Fact]
    public void A_date_that_links_do_not_allow_is_said_and_left_out()
    {
        var plan = With("Task\tLength\tAfter\nOrder\t4d\t\nBuild\t2d\t1");
        var reading = Again(plan, "Task\tStart\nOrder\t\nBuild\t4 May");
        Assert.Equal(ListRowState.Same, reading.Rows[1].State);
        Assert.Equal(
            "It cannot start before Fri 7 May: what comes before it ends later.",
            Assert.Single(reading.Rows[1].Problems).Message
        );
    }

    [Fact]
    public void Rows_that_stand_in_another_phase_move_there()
    {
        var plan = With("Stage\n  Lights\nBoats\n  Paper");
        var reading = Again(plan, "Stage\nBoats\n  Lights\n  Paper\n  Rope");
        Assert.Equal([new ListChange(null, "Stage", "Boats")], reading.Rows[2].Changes);
        var after = Apply(plan, reading).Plan;
        Assert.Equal("1 Stage, 2 Boats, 2.1 Lights, 2.2 Paper, 2.3 Rope", Outline(after));
    }

    [Fact]
    public void Articles_with_one_name_and_other_numbers_are_two()
    {
        var plan = With("Task\tUID\nBench\tA-1\nTable\tB-1");
        var reading = Again(plan, "Task\tUID\nBench\tA-9\nTable\tB-1");
        Assert.Equal([ListRowState.New, ListRowState.Same], reading.Rows.Select(row => row.State!.Value));
        Assert.Equal(["Bench"], reading.Gone.Select(gone => gone.Name));
    }

    /// <summary>Of random plans: their own list changes nothing, and after random edits brings back what it says.</summary>
    [Fact]
    public void A_changed_plan_becomes_what_its_list_says()
    {
        var random = new Random(21);
        for (var i = 0; i < 200; i++)
        {
            var lines = Enumerable.Range(1, random.Next(2, 12)).Select(n => $"Row {n}\t{random.Next(1, 6)}d\tNote {n}").ToList();
            var text = $"Task\tLength\tNote\n{string.Join('\n', lines)}";
            var plan = With(text);
            Assert.Null(Again(plan, text).Edit);
            foreach (var task in plan.Plan.Tasks.Where(_ => random.Next(2) == 0))
            {
                PlanEdit edit = random.Next(3) switch
                {
                    0 => new SetLength(task.Id, new(Length.Days(random.Next(1, 9)))),
                    1 => new SetNote(task.Id, "Other"),
                    _ => new RemoveTasks([task.Id]),
                };
                plan = EditPipeline.Run(plan, edit, Today, []).After;
            }
            var reading = Again(plan, text);
            var after = reading.Edit is null ? plan : Apply(plan, reading);
            Assert.Equal(lines.Order(), after.Plan.Tasks.Select(task => $"{task.Name}\t{task.Length}\t{task.Note}").Order());
            Assert.Null(Again(after, text).Edit);
        }
    }

    private static string Said(ListChange change) => $"{change.Column}: {change.Before} → {change.After}";

    private static Schedule With(string text) =>
        EditPipeline.Run(Empty, ListReader.Read(text, new ListOptions(), Empty, [], Today).Edit!, Today, []).After;

    private static ListReading Again(Schedule plan, string text) => ListReader.Read(text, new ListOptions(Again: true), plan, [], Today);

    private static Schedule Apply(Schedule plan, ListReading reading)
    {
        Assert.Null(reading.Problem);
        return EditPipeline.Run(plan, reading.Edit!, Today, []).After;
    }

    private static string Outline(Plan plan) =>
        string.Join(", ", Enumerable.Range(0, plan.Tasks.Length).Select(row => $"{plan.Index.NumberOf(row)} {plan.Tasks[row].Name}"));
}
