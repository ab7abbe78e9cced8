using System.Text;
using Auxilium.Exchange.Edits;
using Auxilium.Exchange.Lists;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;

namespace Auxilium.Exchange.Tests.Lists;

public class LongListTests
{
    private static readonly DateOnly Today = new(2027, 5, 13);

    private static readonly Schedule Empty = Scheduler.Calculate(
        Plan.Empty("Regatta", PlanTime.At(2027, 5, 3, 9)) with
        {
            People = [new Person("ines", "Ines Vale", "IV")],
        }
    );

    /// <summary>Of random lists: what is made of whole rows is what adding them step by step gives, dates and all.</summary>
    [Fact]
    public void Whole_rows_are_what_single_steps_make()
    {
        var random = new Random(5);
        for (var i = 0; i < 300; i++)
        {
            var text = RandomList(random, random.Next(1, 30));
            var (steps, whole) = (Read(text), Read(text, asWholeRows: true));
            Assert.Equal(steps.Problem, whole.Problem);
            Assert.Equal(steps.NewPeople, whole.NewPeople);
            if (steps.Problem is not null)
                continue;
            Assert.Equal(Told(Run(steps).After), Told(Run(whole).After));
        }
    }

    [Fact]
    public void Ten_thousand_rows_are_one_edit_that_can_be_taken_back_and_kept()
    {
        var reading = Read(RandomList(new Random(3), 10_000));
        Assert.Null(reading.Problem);
        var done = Run(reading);
        Assert.Equal(10_000, done.After.Plan.Tasks.Length);
        Assert.Contains("10,000 rows added.", string.Concat(RippleText.Lead(done).Select(run => run.Text)));
        var json = EditJson.Write(done.Applied.Edit);
        Assert.InRange(json.Length, 10_000, 10_000 * 400);
        var again = EditPipeline.Run(Empty, new EditJson(Today).Read(json), Today, []);
        Assert.Equal(Told(done.After), Told(again.After));
        var back = EditPipeline.Run(done.After, done.Applied.Inverse, Today, []);
        Assert.Equal(Told(Empty), Told(back.After));
        var forth = EditPipeline.Run(back.After, back.Applied.Inverse, Today, []);
        Assert.Equal(Told(done.After), Told(forth.After));
    }

    private static string RandomList(Random random, int rows)
    {
        var text = new StringBuilder("Task\tOwner\tLength\tStart\tFinish\tAfter\tDone\tNote\n");
        var level = 0;
        for (var row = 1; row <= rows; row++)
        {
            level = random.Next(0, Math.Min(level + 1, 3) + 1);
            text.Append(' ', 2 * level).Append($"Row {row}\t");
            text.Append(Some(random, "Ines Vale", "Tom Lowe", "Ines Vale, Ada Moor")).Append('\t');
            text.Append(Some(random, "3d", "4h", "milestone", "1-2 weeks", "2d?")).Append('\t');
            text.Append(Some(random, "2027-05-10", "2027-06-01", "2027-05-29", "4 May")).Append('\t');
            text.Append(Some(random, "2027-06-04", "2027-05-12")).Append('\t');
            text.Append(row > 1 && random.Next(3) == 0 ? $"{random.Next(1, row)}" : "").Append('\t');
            text.Append(Some(random, "done", "40%")).Append('\t');
            text.Append(Some(random, "Ask twice")).Append('\n');
        }
        return text.ToString();
    }

    /// <summary>Mostly nothing.</summary>
    private static string Some(Random random, params string[] words) => random.Next(2) == 0 ? "" : words[random.Next(words.Length)];

    private static ListReading Read(string text, bool asWholeRows = false) =>
        ListReader.Read(text, new ListOptions { AsWholeRows = asWholeRows }, Empty, [], Today);

    private static EditedPlan Run(ListReading reading) => EditPipeline.Run(Empty, reading.Edit!, Today, []);

    /// <summary>Every row with what it has, links by the rows they join, and people: without ids, which are made up.</summary>
    private static string Told(Schedule schedule)
    {
        var plan = schedule.Plan;
        var text = new StringBuilder();
        for (var row = 0; row < plan.Tasks.Length; row++)
        {
            var task = plan.Tasks[row];
            text.Append(
                $"{plan.Index.NumberOf(row)} {task.Name} {schedule.StartOf(row)} {schedule.FinishOf(row)} {task.Length} {task.Tentative} "
                    + $"{task.Milestone} {task.Progress} {task.ActualStart} {task.ActualFinish} {task.Estimate} {task.Note} "
                    + $"{string.Join(' ', task.Assignments)}\n"
            );
        }
        foreach (var link in plan.Links.Select(l => $"{plan.Index.NumberOf(plan.Index.RowOf(l.From))} > {plan.Find(l.To)!.Name}").Order())
            text.Append(link).Append('\n');
        return text.AppendJoin('\n', plan.People).ToString();
    }
}
