using Auxilium.Exchange.Lists;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Exchange.Tests.Lists;

public class ListReaderTests
{
    private static readonly DateOnly Today = new(2027, 5, 13);

    private static readonly Person Ines = new("ines", "Ines Vale", "IV");

    private static readonly Schedule Empty = Scheduler.Calculate(
        Plan.Empty("Regatta", PlanTime.At(2027, 5, 3, 9)) with
        {
            People = [Ines],
        }
    );

    [Fact]
    public void Lines_with_indentation_and_bullets_become_phases_and_tasks()
    {
        var plan = Made(
            """
            Permissions
              - Agree towpath closing
              - Harbour permit
                 * Fill in the form
            Boats
            	• Order paper
            """
        );
        Assert.Equal(
            "1 Permissions, 1.1 Agree towpath closing, 1.2 Harbour permit, 1.2.1 Fill in the form, 2 Boats, 2.1 Order paper",
            Outline(plan)
        );
    }

    [Fact]
    public void Outline_numbers_say_the_level_whatever_the_indentation()
    {
        var plan = Made("1 Permissions\n1.1 Towpath\n  1.2. Harbour permit\n2) Boats\n2.1 Paper");
        Assert.Equal("1 Permissions, 1.1 Towpath, 1.2 Harbour permit, 2 Boats, 2.1 Paper", Outline(plan));
    }

    [Fact]
    public void Cells_of_a_sheet_are_known_by_their_headings_in_any_order()
    {
        var plan = Made(
            "Who\tWhat\tDays\tStart date\tAfter\t%\tRemarks\nInes Vale\tPermit\t5\t10 May\t\t\tAsk twice\nIV\tTell the paper\t2 "
                + "hours\t\t1\t50%\t"
        );
        var (permit, paper) = (plan.Tasks[0], plan.Tasks[1]);
        Assert.Equal(("Permit", Length.Days(5), "ines", "Ask twice"), (permit.Name, permit.Length, permit.Owner, permit.Note));
        Assert.Equal(PlanTime.At(2027, 5, 10, 9), Scheduler.Calculate(plan).StartOf(permit.Id));
        Assert.Equal((new Length(2, LengthUnit.Hours), "ines", 0.5m), (paper.Length, paper.Owner, paper.Progress));
        Assert.Equal((permit.Id, paper.Id), (plan.Links[0].From, plan.Links[0].To));
    }

    [Fact]
    public void Columns_without_headings_are_known_by_what_is_in_them()
    {
        var reading = Read("1\tBook the band\t3d\t2027-05-10\tInes Vale\n2\tPrint posters\t2d\t2027-05-12\tInes Vale");
        Assert.Equal(
            [ListColumnKind.Number, ListColumnKind.Task, ListColumnKind.Length, ListColumnKind.Start, ListColumnKind.Owner],
            reading.Columns.Select(c => c.Kind)
        );
    }

    [Fact]
    public void A_column_can_be_said_to_hold_something_else()
    {
        const string Text = "Print posters\tTom\nBook the band\tTom";
        Assert.Equal(ListColumnKind.Owner, Read(Text).Columns[1].Kind);
        var noted = Read(Text, new ListOptions([ListColumnKind.Task, ListColumnKind.Note]));
        Assert.Equal("Tom", noted.Rows[0].Cells[ListColumnKind.Note]);
        Assert.Empty(noted.NewPeople);
        Assert.Contains("No column has the names", Read(Text, new ListOptions([ListColumnKind.Ignored, ListColumnKind.Note])).Problem);
    }

    [Theory]
    [InlineData("Task,Length\nPermit,5d\n\"Band, choir\",2d", "Band, choir")]
    [InlineData("Task;Length\nPermit;5d\n\"The \"\"big\"\" tent\nand poles\";2d", "The \"big\" tent and poles")]
    public void Comma_and_semicolon_files_are_read_with_their_quotes(string text, string second) =>
        Assert.Equal(second, Made(text).Tasks[1].Name);

    [Fact]
    public void A_sentence_with_commas_is_one_task() =>
        Assert.Equal(
            ["Ask the harbour, the town, and the police", "Then wait, and wait"],
            Made("Ask the harbour, the town, and the police\nThen wait, and wait").Tasks.Select(t => t.Name)
        );

    [Fact]
    public void An_empty_cell_of_a_column_is_no_indentation()
    {
        var plan = Made("Days\tTask\n3\tPaint\n\tVarnish\n2\tDry");
        Assert.Equal("1 Paint, 2 Varnish, 3 Dry", Outline(plan));
        Assert.Equal([Length.Days(3), Length.OneDay, Length.Days(2)], plan.Tasks.Select(t => t.Length));
        Assert.Equal("1 Paint, 2 Varnish", Outline(Made("3d\tPaint\n\tVarnish")));
        // Without a heading, names that stand one column further in each time are levels.
        var stairs = Made("Boats\n\tPaint the hull\n\t\tBuy paint\t2h\nSails");
        Assert.Equal("1 Boats, 1.1 Paint the hull, 1.1.1 Buy paint, 2 Sails", Outline(stairs));
        Assert.Equal(new Length(2, LengthUnit.Hours), stairs.Tasks[2].Length);
    }

    [Fact]
    public void A_level_that_a_person_chooses_counts()
    {
        const string Text = "Boats\nPaint\nVarnish";
        var reading = ListReader.Read(Text, new ListOptions(Levels: new Dictionary<int, int> { [2] = 1, [3] = 7 }), Empty, [], Today);
        Assert.Equal([0, 1, 2], reading.Rows.Select(r => r.Level));
    }

    [Fact]
    public void Boxes_strokes_and_brackets_are_read()
    {
        var ticked = Made("- [x] Book the band\n- [ ] Print posters (Ines Vale, 2d)\n* ☑ 3. Pay the band\n- Order paper (the blue one)");
        Assert.Equal(["Book the band", "Print posters", "Pay the band", "Order paper (the blue one)"], ticked.Tasks.Select(t => t.Name));
        Assert.Equal([true, false, true, false], ticked.Tasks.Select(t => t.IsFinished));
        Assert.Equal(("ines", Length.Days(2)), (ticked.Tasks[1].Owner, ticked.Tasks[1].Length));
        var table = Made("| Task | Days | Who |\n|------|:----:|-----|\n| Paint |  | IV |\n|   Sand | | |");
        Assert.Equal("1 Paint, 1.1 Sand", Outline(table));
        Assert.Equal("ines", table.Tasks[0].Owner);
        Assert.Equal(["Boat | Shed"], Made("Boat | Shed").Tasks.Select(t => t.Name));
    }

    [Fact]
    public void Second_names_are_helpers_and_a_deadline_is_a_deadline()
    {
        var plan = Made("Task\tOwner\tDeadline\tDays\nPaint\tIV, Bo Sand & Ann\t21 May\t2-3 days");
        var task = plan.Tasks[0];
        Assert.Equal(["Ines Vale", "Bo Sand", "Ann"], task.Assignments.Select(a => plan.FindPerson(a.Person)!.Name));
        Assert.Equal(new DateOnly(2027, 5, 21), task.Deadline!.Value.LastDate);
        Assert.Equal((Length.Days(2.5m), true), (task.Length, task.Tentative));
        Assert.Equal(new LengthEstimate(Length.Days(2), Length.Days(2.5m), Length.Days(3)), task.Estimate);
    }

    [Fact]
    public void A_finish_of_what_has_begun_counts_or_is_refused_aloud()
    {
        var plan = Made("Task\tFinish\tProgress\nPaint\t21 May\t40%");
        Assert.Equal(new DateOnly(2027, 5, 21), Scheduler.Calculate(plan).FinishOf(plan.Tasks[0].Id).LastDate);
        Assert.Equal(Today, plan.Tasks[0].ActualStart!.Value.Date);
        var passed = Read("Task\tFinish\tProgress\nPaint\t11 May\t40%").Rows[0];
        Assert.Contains(passed.Problems, p => p.Message.Contains("has passed and it is not done", StringComparison.Ordinal));
        var future = Read("Task\tStart\tFinish\tProgress\nPaint\t17 May\t19 May\tdone").Rows[0];
        Assert.Equal([ListColumnKind.Start, ListColumnKind.Finish], future.Problems.Select(p => p.Column!));
    }

    [Fact]
    public void A_day_of_the_week_settles_which_number_is_the_month()
    {
        var reading = Read("Task\tStart\nPaint\tMon 03/05\nDry\tWed 05/05/2027");
        Assert.False(reading.AskOrder);
        Assert.Equal("Mon 3 May 2027", reading.Rows[0].Cells[ListColumnKind.Start]);
        Assert.Equal("Fri 5 Mar 2027", Read("Task\tStart\nPaint\tFri 03/05").Rows[0].Cells[ListColumnKind.Start]);
    }

    [Fact]
    public void Start_and_finish_make_the_length()
    {
        var plan = Made("Task\tStart\tFinish\nPermit\t10 May\t14 May");
        Assert.Equal(Length.Days(5), plan.Tasks[0].Length);
        Assert.Contains(
            "does not go with the dates",
            Read("Task\tLength\tStart\tFinish\nPermit\t2d\t10 May\t14 May").Rows[0].Problems[0].Message
        );
    }

    [Fact]
    public void Dates_that_could_be_read_both_ways_are_asked_about_once()
    {
        const string Text = "Task\tStart\nPermit\t5/6/2027\nBand\t7/6/2027";
        var asked = Read(Text);
        Assert.True(asked.AskOrder);
        Assert.Equal("Sat 5 Jun 2027", Read(Text, new ListOptions(Order: DateOrder.DayFirst)).Rows[0].Cells[ListColumnKind.Start]);
        Assert.Equal("Thu 6 May 2027", Read(Text, new ListOptions(Order: DateOrder.MonthFirst)).Rows[0].Cells[ListColumnKind.Start]);
        Assert.Equal(
            (DateOrder.MonthFirst, false),
            (Read("Task\tStart\nPermit\t5/6/2027\nBand\t5/27/2027") is var told ? (told.Order, told.AskOrder) : default)
        );
    }

    [Fact]
    public void Mixed_orders_are_asked_about_and_the_odd_ones_named_row_by_row()
    {
        const string Text = "Task\tStart\nPermit\t25/5/2027\nBand\t5/27/2027";
        Assert.True(Read(Text).AskOrder);
        var told = Read(Text, new ListOptions(Order: DateOrder.DayFirst));
        Assert.Empty(told.Rows[0].Problems);
        Assert.Contains("the other way round", told.Rows[1].Problems[0].Message);
    }

    [Fact]
    public void What_cannot_be_read_is_said_at_its_row_and_the_row_still_comes()
    {
        var reading = Read("Task\tLength\tStart\tAfter\tDone\nPermit\tlong\tsoon\t9\tmaybe");
        Assert.Equal(
            [ListColumnKind.Start, ListColumnKind.Length, ListColumnKind.Progress, ListColumnKind.After],
            reading.Rows[0].Problems.Select(p => p.Column!)
        );
        Assert.NotNull(reading.Edit);
        Assert.Equal(Length.OneDay, Apply(reading).Tasks[0].Length);
    }

    [Fact]
    public void Rows_that_follow_each_other_are_named_and_their_link_left_out()
    {
        var reading = Read("No\tTask\tAfter\n1\tPermit\t2\n2\tBand\t1\n3\tPosters\t3");
        // The one that goes up the list.
        Assert.Contains("cannot follow each other", reading.Rows[0].Problems[0].Message);
        Assert.Empty(reading.Rows[1].Problems);
        Assert.Contains("after itself", reading.Rows[2].Problems[0].Message);
        Assert.Single(Apply(reading).Links);
    }

    [Fact]
    public void A_link_into_the_rows_own_phase_or_around_it_is_left_out()
    {
        var reading = Read("Task\tAfter\nP\t\n  A\t1\n  B\t4\nQ\t1");
        Assert.Contains("one inside the other", reading.Rows[1].Problems[0].Message);
        Assert.Contains("cannot follow each other", reading.Rows[2].Problems[0].Message);
        Assert.Empty(reading.Rows[3].Problems);
        Assert.Null(reading.Problem);
    }

    [Fact]
    public void What_comes_before_may_be_named()
    {
        var plan = Made("Task\tDepends on\nPermit\t\nBand\tPermit");
        Assert.Equal((plan.Tasks[0].Id, plan.Tasks[1].Id), (plan.Links[0].From, plan.Links[0].To));
    }

    [Fact]
    public void Unknown_owners_join_where_that_is_wanted()
    {
        const string Text = "Task\tOwner\nPermit\tTom Lowe\nBand\tTom Lowe, Ines Vale";
        var made = Read(Text);
        Assert.Equal(["Tom Lowe"], made.NewPeople);
        Assert.Equal("tom-lowe", Apply(made).Tasks[1].Owner);
        Assert.Equal(["tom-lowe", "ines"], Apply(made).Tasks[1].Assignments.Select(a => a.Person));
        var left = Read(Text, new ListOptions(MakePeople: false));
        Assert.Equal([null, "ines"], Apply(left).Tasks.Select(t => t.Owner));
        Assert.Contains("Nobody here is called Tom Lowe", left.Rows[0].Problems[0].Message);
    }

    [Theory]
    [InlineData("PK\u0003\u0004\u0000\u0000binary", "not text")]
    [InlineData(" \n\t\n", "nothing to read")]
    [InlineData("Task\tLength\n\t3d", "No line has a name")]
    public void What_is_no_list_is_refused_with_the_reason(string text, string why)
    {
        var reading = Read(text);
        Assert.Contains(why, reading.Problem);
        Assert.Null(reading.Edit);
    }

    [Fact]
    public void Lists_that_are_too_long_are_refused()
    {
        Assert.Contains("at most 20,000", Read(string.Join('\n', Enumerable.Repeat("Row", 20_001))).Problem);
        Assert.Contains("thousand", Read(new string('a', 5_000_001)).Problem);
    }

    [Fact]
    public void A_formula_is_a_name_like_any_other() =>
        Assert.Equal(["=SUM(A1:A9)", "@home"], Made("Task\tLength\n=SUM(A1:A9)\t1d\n'@home\t1d").Tasks.Select(t => t.Name));

    [Fact]
    public void A_list_goes_where_it_is_pasted()
    {
        var plan = Apply(Read("A\nB"));
        var on = Scheduler.Calculate(plan);
        var reading = ListReader.Read("X\n  Y", new ListOptions(After: plan.Tasks[0].Id), on, [], Today);
        Assert.Equal("1 A, 2 X, 2.1 Y, 3 B", Outline(EditPipeline.Run(on, reading.Edit!, Today, []).Applied.Plan));
    }

    [Fact]
    public void Done_and_begun_rows_have_actual_dates()
    {
        var plan = Made("Task\tStart\tLength\tDone\nPermit\t3 May\t2d\tx\nBand\t10 May\t9d\t40%");
        Assert.Equal(
            (PlanTime.At(2027, 5, 3, 9), 1m, true),
            (plan.Tasks[0].ActualStart, plan.Tasks[0].Progress, plan.Tasks[0].IsFinished)
        );
        Assert.Equal(
            (PlanTime.At(2027, 5, 10, 9), 0.4m, false),
            (plan.Tasks[1].ActualStart, plan.Tasks[1].Progress, plan.Tasks[1].IsFinished)
        );
    }

    [Fact]
    public void The_longest_list_may_be_one_chain_and_its_last_row_cannot_come_before_the_first()
    {
        var lines = Enumerable
            .Range(1, ListReader.MostLines - 1)
            .Select(i => $"{i}\tRow {i}\t1h\t{(i == 1 ? ListReader.MostLines - 1 : i - 1)}");
        var reading = Read("No\tTask\tLength\tAfter\n" + string.Join('\n', lines));
        Assert.Null(reading.Problem);
        var left = Assert.Single(reading.Rows, row => row.Problems.Count > 0);
        Assert.Contains("cannot follow each other", left.Problems[0].Message);
        Assert.Equal(ListReader.MostLines - 2, Apply(reading).Links.Length);
    }

    /// <summary>Whatever is pasted, there is a sentence or an edit that can be applied.</summary>
    [Fact]
    public void Nothing_that_is_pasted_brings_the_reader_down()
    {
        string[] pieces =
        [
            "Task",
            "\t",
            "\n",
            "  ",
            "1.2 ",
            "3d",
            "5/6",
            "\"",
            ",",
            ";",
            "after 2",
            "- ",
            "50 %",
            "Ines Vale",
            "=A1",
            "\u00A0",
            "99999999999",
            "31/2",
            "2",
            "x",
            "'",
            "\r\n",
            "–",
            "1)",
        ];
        var random = new Random(11);
        for (var i = 0; i < 3_000; i++)
        {
            var text = string.Concat(Enumerable.Range(0, random.Next(1, 40)).Select(_ => pieces[random.Next(pieces.Length)]));
            var reading = Read(text, new ListOptions(Order: (DateOrder)random.Next(3)));
            Assert.True(reading.Problem is not null || Apply(reading).Tasks.Length == reading.Rows.Count, text);
        }
    }

    private static ListReading Read(string text, ListOptions? options = null) =>
        ListReader.Read(text, options ?? new ListOptions(), Empty, [], Today);

    private static Plan Apply(ListReading reading) => EditPipeline.Run(Empty, reading.Edit!, Today, []).Applied.Plan;

    private static Plan Made(string text)
    {
        var reading = Read(text);
        Assert.Null(reading.Problem);
        Assert.All(reading.Rows, row => Assert.Empty(row.Problems));
        return Apply(reading);
    }

    private static string Outline(Plan plan) =>
        string.Join(", ", Enumerable.Range(0, plan.Tasks.Length).Select(row => $"{plan.Index.NumberOf(row)} {plan.Tasks[row].Name}"));
}
