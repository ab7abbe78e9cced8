using System.Text.Json;
using System.Text.Json.Serialization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Tests.Editing;

public class EditorTests
{
    /// <summary>A Thursday in the second week of the plans below.</summary>
    private static readonly DateOnly Today = new(2027, 5, 13);

    private const string Outline = """
        P
          A 1d
          B 2d after A
          C 1d
        D 1d after P
        """;

    [Fact]
    public void Indenting_puts_a_row_into_the_row_above_with_all_that_is_inside_it()
    {
        var plan = Edit(PlanText.Plan("A 1d\nB 1d\n  C 1d\nD 1d"), new IndentTask("B"));
        Assert.Equal("1 A, 1.1 B, 1.1.1 C, 2 D", Numbers(plan));
    }

    [Fact]
    public void Outdenting_keeps_the_row_in_its_place_and_takes_the_rows_after_it_along()
    {
        var plan = Edit(PlanText.Plan(Outline), new OutdentTask("B"));
        Assert.Equal("1 P, 1.1 A, 2 B, 2.1 C, 3 D", Numbers(plan));
    }

    [Fact]
    public void Moving_a_phase_moves_its_rows_and_a_phase_cannot_go_into_itself()
    {
        Assert.Equal(
            "1 D, 2 P, 2.1 A, 2.2 B, 2.3 C",
            Numbers(Edit(PlanText.Plan(Outline).With("D", t => t), new MoveTask("P", null, "D")))
        );
        Assert.Equal("place", Refused(PlanText.Plan(Outline), new MoveTask("P", "A", null)).Code);
    }

    [Fact]
    public void A_row_that_would_land_in_a_phase_it_waits_for_is_refused()
    {
        var refused = Refused(PlanText.Plan(Outline), new MoveTask("D", "P", "C"));
        Assert.Equal(("linkToOwnPhase", EditField.Place), (refused.Code, refused.Field));
    }

    [Fact]
    public void Removing_a_phase_removes_its_rows_and_links_and_can_be_taken_back()
    {
        var plan = PlanText.Plan(Outline);
        var applied = Apply(plan, new RemoveTasks(["P"]));
        Assert.Equal("1 D", Numbers(applied.Plan));
        Assert.Empty(applied.Plan.Links);
        Assert.Contains(new Touch("D", EditField.After), applied.Touched);
        Assert.Equal(Text(plan), Text(Apply(applied.Plan, applied.Inverse).Plan));
    }

    [Fact]
    public void A_copy_of_a_phase_has_its_rows_and_the_links_among_them_but_no_progress()
    {
        var plan = PlanText
            .Plan(Outline)
            .With("A", t => t with { Progress = 0.5m, ActualStart = PlanTime.At(2027, 5, 3, 9), Assignments = [new("ann")] });
        var copied = Apply(plan, new CopyTasks(["P"], null, "P", ["P2", "A2", "B2", "C2"]));
        Assert.Equal("1 P, 1.1 A, 1.2 B, 1.3 C, 2 P2, 2.1 A2, 2.2 B2, 2.3 C2, 3 D", Numbers(copied.Plan));
        Assert.Equal([("A2", "B2")], copied.Plan.Links.Except(plan.Links).Select(l => (l.From, l.To)));
        Assert.Equal(
            (0m, null, "ann"),
            (copied.Plan.Find("A2")!.Progress, copied.Plan.Find("A2")!.ActualStart, copied.Plan.Find("A2")!.Owner)
        );
        Assert.Equal(Text(plan), Text(Apply(copied.Plan, copied.Inverse).Plan));
    }

    [Theory]
    [InlineData(new[] { "A" }, new[] { "A" })]
    [InlineData(new[] { "A", "C" }, new[] { "X", "X" })]
    [InlineData(new[] { "A", "C" }, new[] { "X" })]
    [InlineData(new[] { "A" }, new[] { "not an id" })]
    public void Copies_need_ids_of_their_own(string[] tasks, string[] ids) =>
        Assert.Equal("id", Refused(PlanText.Plan(Outline), new CopyTasks([.. tasks], "P", "C", [.. ids])).Code);

    [Fact]
    public void Rows_shift_by_days_of_work_and_what_follows_them_is_not_held_twice()
    {
        var plan = Edit(PlanText.Plan("A 1d\nB 2d after A\nC 1d"), new ShiftTasks(["A", "B"], 5));
        var schedule = Scheduler.Calculate(plan);
        Assert.Equal(
            (PlanTime.At(2027, 5, 10, 9), PlanTime.At(2027, 5, 11, 9), PlanTime.At(2027, 5, 3, 9)),
            (schedule.StartOf("A"), schedule.StartOf("B"), schedule.StartOf("C"))
        );
        Assert.NotNull(plan.Find("A")!.Constraint);
        Assert.Null(plan.Find("B")!.Constraint);
    }

    [Fact]
    public void A_pinned_row_stays_pinned_when_it_shifts_and_a_started_one_stays_where_it_is()
    {
        var plan = PlanText
            .Plan("A 1d\nB 1d")
            .With("A", t => t with { Pinned = new(PlanTime.At(2027, 5, 12, 9), PlanTime.At(2027, 5, 14, 17)) })
            .With("B", t => t with { Progress = 0.5m, ActualStart = PlanTime.At(2027, 5, 3, 9) });
        var shifted = Edit(plan, new ShiftTasks(["A", "B"], -2));
        Assert.Equal(new PinnedDates(PlanTime.At(2027, 5, 10, 9), PlanTime.At(2027, 5, 12, 17)), shifted.Find("A")!.Pinned);
        Assert.Equal(plan.Find("B"), shifted.Find("B"));
        Assert.Equal("started", Refused(plan, new ShiftTasks(["B"], 1)).Code);
        Assert.Equal("days", Refused(plan, new ShiftTasks(["A"], 0)).Code);
    }

    [Fact]
    public void Stretching_a_start_keeps_the_finish()
    {
        var plan = Edit(PlanText.Plan("A 5d"), new StretchTask("A", PlanTime.At(2027, 5, 5, 9)));
        Assert.Equal(
            (Length.Days(3), new DateConstraint(ConstraintKind.StartNoEarlierThan, PlanTime.At(2027, 5, 5, 9))),
            (plan.Find("A")!.Length, plan.Find("A")!.Constraint)
        );
        Assert.Equal("start", Refused(PlanText.Plan("A 5d"), new StretchTask("A", PlanTime.At(2027, 5, 10, 9))).Code);
        Assert.Equal(
            "milestoneLength",
            Refused(Edit(PlanText.Plan("A 5d"), new SetMilestone("A", true)), new StretchTask("A", PlanTime.At(2027, 5, 10, 9))).Code
        );
    }

    [Fact]
    public void A_note_is_text_of_some_length()
    {
        Assert.Equal("Ask twice\nthen wait", Edit(PlanText.Plan("A 1d"), new SetNote("A", "Ask twice\r\nthen wait \n")).Find("A")!.Note);
        Assert.Equal("note", Refused(PlanText.Plan("A 1d"), new SetNote("A", new string('x', PlanTask.LongestNote + 1))).Code);
        Assert.Equal("note", Refused(PlanText.Plan("A 1d"), new SetNote("A", "\u0001")).Code);
    }

    [Fact]
    public void What_is_added_can_be_dated_and_done_in_the_same_edit()
    {
        var plan = Edit(
            PlanText.Plan("A 1d"),
            new Together([
                new AddTask("X", "New"),
                new PlaceTask("X", PlanTime.At(2027, 5, 5, 9)),
                new SetFinish("X", PlanTime.At(2027, 5, 7, 18)),
                new FinishTask("X"),
            ])
        );
        Assert.Equal((Length.Days(3), true), (plan.Find("X")!.Length, plan.Find("X")!.IsFinished));
    }

    [Fact]
    public void Links_are_typed_by_the_numbers_the_list_shows()
    {
        var plan = Edit(PlanText.Plan(Outline), new TypePredecessors("D", "after 1.2, 1.3 - 0.5d"));
        Assert.Equal("1.2, 1.3 - 0.5d", FieldText.Predecessors(plan, "D"));
    }

    [Fact]
    public void A_number_means_the_row_its_author_saw()
    {
        var plan = PlanText.Plan("New 1d\nA 1d\nB 1d");
        var rows = System.Collections.Immutable.ImmutableDictionary<string, string>.Empty.Add("1", "A");
        Assert.Equal("A", Edit(plan, new TypePredecessors("B", "1", rows)).Links[0].From);
        Assert.Equal("unknownRow", Refused(plan, new TypePredecessors("B", "2", rows)).Code);
    }

    [Theory]
    [InlineData("Imke Varga", "imke")]
    [InlineData("IV", "imke")]
    [InlineData("jonas", "jonas")]
    public void An_owner_is_known_by_name_first_name_or_initials(string typed, string id)
    {
        var plan = PlanText.Plan("A 1d") with { People = [new("imke", "Imke Varga", "IV")] };
        var context = new EditContext(plan.Calculate(), Today, [new("jonas", "Jonas Achterberg", "JA")]);
        Assert.Equal(id, PlanEditor.Apply(plan, new SetOwner("A", typed), context).Plan.Find("A")!.Owner);
    }

    [Fact]
    public void A_new_name_makes_a_new_person_on_the_plan_and_undo_takes_both_back()
    {
        var plan = PlanText.Plan("A 1d");
        var applied = Apply(plan, new SetOwner("A", " Zoë van der Berg "));
        Assert.Equal(new Person("zo-van-der-berg", "Zoë van der Berg", "ZB"), Assert.Single(applied.Plan.People));
        Assert.Empty(Apply(applied.Plan, applied.Inverse).Plan.People);
    }

    [Fact]
    public void Done_without_a_day_means_as_planned_if_that_has_passed_and_else_today()
    {
        var plan = Edit(PlanText.Plan("A 3d\nB 30d"), new FinishTask("A"));
        Assert.Equal("2027-05-05T18:00", plan.Find("A")!.ActualFinish.ToString());
        plan = Edit(plan, new FinishTask("B"));
        Assert.Equal(
            ("2027-05-03T09:00", "2027-05-13T18:00"),
            (plan.Find("B")!.ActualStart.ToString(), plan.Find("B")!.ActualFinish.ToString())
        );
    }

    [Fact]
    public void Done_before_it_was_to_start_has_started_by_then()
    {
        var plan = Edit(PlanText.Plan("Long 20d\nB 1d after Long"), new FinishTask("B"));
        Assert.Equal(
            ("2027-05-13T09:00", "2027-05-13T18:00"),
            (plan.Find("B")!.ActualStart.ToString(), plan.Find("B")!.ActualFinish.ToString())
        );
    }

    [Fact]
    public void Progress_above_nothing_starts_a_task_and_none_makes_it_unstarted_again()
    {
        var plan = Edit(PlanText.Plan("A 3d"), new ReportProgress("A", 0.4m));
        Assert.Equal("2027-05-03T09:00", plan.Find("A")!.ActualStart.ToString());
        Assert.Null(Edit(plan, new ReportProgress("A", 0)).Find("A")!.ActualStart);
        Assert.True(Edit(plan, new ReportProgress("A", 1)).Find("A")!.IsFinished);
        Assert.Equal("progress", Refused(plan, new ReportProgress("A", 1.1m)).Code);
    }

    [Fact]
    public void A_task_put_on_a_later_day_goes_not_before_it_and_still_follows_its_links()
    {
        var plan = Edit(PlanText.Plan("A 2d\nB 1d after A"), new PlaceTask("B", new DateOrTime(new(2027, 5, 10))));
        Assert.Equal(ConstraintKind.StartNoEarlierThan, plan.Find("B")!.Constraint!.Kind);
        Assert.Equal("2027-05-10T09:00", plan.Calculate().StartOf("B").ToString());
        Assert.Equal("2027-05-14T09:00", Edit(plan, new SetLength("A", new(Length.Days(9)))).Calculate().StartOf("B").ToString());
    }

    [Fact]
    public void A_task_put_before_its_links_allow_goes_as_early_as_they_do_unless_it_is_pinned()
    {
        var early = new PlaceTask("B", new DateOrTime(new(2027, 5, 3)));
        var plan = Edit(
            PlanText
                .Plan("A 2d\nB 1d after A")
                .With("B", t => t with { Constraint = new(ConstraintKind.StartNoEarlierThan, PlanTime.At(2027, 5, 20)) }),
            early
        );
        Assert.Null(plan.Find("B")!.Constraint);
        var pinned = Edit(plan, early with { Pin = true }).Calculate();
        Assert.Equal("2027-05-03T09:00", pinned.StartOf("B").ToString());
        Assert.Single(pinned.Warnings);
        Assert.Equal("2027-05-05T09:00", Edit(pinned.Plan, new PlaceTask("B", null)).Calculate().StartOf("B").ToString());
    }

    [Fact]
    public void The_length_follows_from_a_finish_that_is_set()
    {
        var plan = Edit(PlanText.Plan("A 1d"), new SetFinish("A", new DateOrTime(new(2027, 5, 10))));
        Assert.Equal(Length.Days(6), plan.Find("A")!.Length);
        Assert.Equal("finish", Refused(plan, new SetFinish("A", new DateOrTime(new(2027, 5, 1)))).Code);
    }

    [Fact]
    public void A_milestone_takes_no_time_and_gives_its_length_back_on_undo()
    {
        var plan = PlanText.Plan("A 3d");
        var applied = Apply(plan, new SetMilestone("A", true));
        Assert.Equal("milestoneLength", Refused(applied.Plan, new SetLength("A", new(Length.Days(1)))).Code);
        Assert.Equal(Length.Days(3), Apply(applied.Plan, applied.Inverse).Plan.Find("A")!.Length);
        Assert.Equal("milestonePhase", Refused(Edit(PlanText.Plan("A 1d\nB 1d"), new SetMilestone("A", true)), new IndentTask("B")).Code);
    }

    [Theory]
    [InlineData(typeof(SetLength), "Length")]
    [InlineData(typeof(FinishTask), "Progress")]
    [InlineData(typeof(SetMilestone), "Length")]
    public void What_a_phase_rolls_up_cannot_be_set_on_it(Type kind, string field)
    {
        PlanEdit edit = kind.Name switch
        {
            nameof(SetLength) => new SetLength("P", new(Length.OneDay)),
            nameof(FinishTask) => new FinishTask("P"),
            _ => new SetMilestone("P", true),
        };
        var refused = Refused(PlanText.Plan(Outline), edit);
        Assert.Equal(("phase", "P", field), (refused.Code, refused.Task, refused.Field.Name));
    }

    [Fact]
    public void Edits_made_together_are_all_applied_or_none()
    {
        var plan = PlanText.Plan("A 1d");
        Assert.Equal("taskGone", Refused(plan, new Together([new RenameTask("A", "B"), new RenameTask("Z", "B")])).Code);
        var applied = Apply(
            plan,
            new Together([new RenameTask("A", "B"), new AddTask("N", "N", null, "A"), new SetLength("N", new(Length.Days(2)))])
        );
        Assert.Equal(Text(plan), Text(Apply(applied.Plan, applied.Inverse).Plan));
    }

    [Fact]
    public void What_is_done_by_a_slip_goes_back_to_how_far_it_was()
    {
        var plan = Edit(PlanText.Plan("A 5d\nB 1d"), new StartTask("A", new DateOrTime(new DateOnly(2027, 5, 4))));
        plan = Edit(Edit(plan, new ReportProgress("A", 0.4m)), new SetRemaining("A", Length.Days(2)));
        foreach (var done in new PlanEdit[] { new FinishTask("A"), new ReportProgress("A", 1) })
        {
            var back = Edit(Edit(plan, done), new ReopenTask("A"));
            Assert.Equal(Text(plan), Text(back));
            // Clearing the finish keeps the start; the rest is as it was.
            Assert.Equal(Text(plan), Text(Edit(Edit(plan, done), new StartTask("A"))));
        }
        // After two more, the first is still known.
        Assert.Equal(
            Text(plan),
            Text(
                Edit(
                    Edit(Edit(plan, new FinishTask("A")), new FinishTask("A", new DateOrTime(new DateOnly(2027, 5, 12)))),
                    new ReopenTask("A")
                )
            )
        );
        // What had not started has not.
        Assert.Equal(
            Text(plan),
            Text(Edit(Edit(plan, new FinishTask("B", new DateOrTime(new DateOnly(2027, 5, 5)))), new ReopenTask("B")))
        );
        Assert.Equal("notDone", Refused(plan, new ReopenTask("B")).Code);
    }

    [Fact]
    public void A_milestone_made_by_a_slip_takes_as_long_as_before()
    {
        var plan = PlanText.Plan("A 5d\nM milestone").With("A", t => t with { Tentative = true });
        Assert.Equal(Text(plan), Text(Edit(Edit(plan, new SetMilestone("A", true)), new SetMilestone("A", false))));
        Assert.Equal(
            Length.Days(2),
            Edit(Edit(plan, new SetMilestone("A", true)), new SetMilestone("A", false, new(Length.Days(2)))).Find("A")!.Length
        );
        Assert.Equal(
            (Length.OneDay, true),
            (Edit(plan, new SetMilestone("M", false)).Find("M")!.Length, Edit(plan, new SetMilestone("M", false)).Find("M")!.Tentative)
        );
    }

    [Fact]
    public void The_rest_of_a_begun_task_goes_on_later_and_its_start_stays()
    {
        var plan = PlanText.Plan("A 5d").With("A", t => t with { Progress = 0.4m, ActualStart = PlanText.DefaultStart });
        var later = Edit(plan, new ResumeTask("A", new DateOrTime(new DateOnly(2027, 5, 13)))).Calculate();
        Assert.Equal("2027-05-03T09:00 – 2027-05-17T18:00", later.Dates("A"));
        Assert.Equal(
            "2027-05-03T09:00 – 2027-05-04T18:00, 2027-05-13T09:00 – 2027-05-17T18:00",
            string.Join(", ", later.SegmentsOf(0).Select(s => $"{s.Start} – {s.Finish}"))
        );
        // Later still: the pause becomes longer, and not one of two.
        Assert.Equal(
            "2027-05-03T09:00 – 2027-05-19T18:00",
            Edit(later.Plan, new ResumeTask("A", new DateOrTime(new DateOnly(2027, 5, 17)))).Calculate().Dates("A")
        );
        Assert.Equal("resume", Refused(plan, new ResumeTask("A", new DateOrTime(new DateOnly(2027, 5, 5)))).Code);
        Assert.Equal("notBegun", Refused(PlanText.Plan("A 5d"), new ResumeTask("A", new DateOrTime(new DateOnly(2027, 5, 17)))).Code);
    }

    public static TheoryData<PlanEdit, EditField> StillToCome =>
        new()
        {
            { new StartTask("A", new DateOrTime(Today.AddDays(1))), EditField.Start },
            { new FinishTask("A", new DateOrTime(Today.AddDays(1))), EditField.Finish },
            { new SetFinish("D", new DateOrTime(Today.AddDays(4))), EditField.Finish },
            { new PlaceTask("D", new DateOrTime(Today.AddDays(4))), EditField.Start },
        };

    [Theory]
    [MemberData(nameof(StillToCome))]
    public void Nothing_has_happened_on_a_day_that_is_still_to_come(PlanEdit edit, EditField field)
    {
        var plan = PlanText
            .Plan("A 1d\nD 1d")
            .With("D", t => t with { Progress = 1, ActualStart = PlanTime.At(2027, 5, 3, 9), ActualFinish = PlanTime.At(2027, 5, 3, 18) });
        var refused = Refused(plan, edit);
        Assert.Equal(("future", field), (refused.Code, refused.Field));
        Assert.Contains("is still to come", refused.Message, StringComparison.Ordinal);
        Assert.Equal(0.5m, Edit(plan, new ReportProgress("A", 0.5m)).Find("A")!.Progress);
    }

    [Fact]
    public void A_phase_that_is_placed_takes_what_is_in_it_along()
    {
        var plan = PlanText.Plan(Outline).With("C", t => t with { Pinned = new(PlanTime.At(2027, 5, 5, 9)) });
        var moved = Edit(plan, new PlaceTask("P", new DateOrTime(new DateOnly(2027, 5, 10)))).Calculate();
        Assert.Equal(
            ["2027-05-10", "2027-05-11", "2027-05-12", "2027-05-13"],
            new[] { "A", "B", "C", "D" }.Select(id => moved.StartOf(id).ToString()[..10])
        );
        // Only what comes first is held; what follows it still does.
        Assert.Equal([true, false], new[] { "A", "B" }.Select(id => moved.Plan.Find(id)!.Constraint is not null));
        Assert.Equal("phase", Refused(plan, new PlaceTask("P", null)).Code);
        Assert.Equal("nothing", Refused(plan, new PlaceTask("P", PlanText.DefaultStart)).Code);
    }

    [Fact]
    public void A_circle_is_refused_at_the_cell_it_was_typed_in()
    {
        var plan = PlanText.Plan("A 1d\nB 1d after A");
        var refused = Assert.Throws<EditRefusedException>(() =>
            EditPipeline.Run(plan.Calculate(), new TypePredecessors("A", "2"), Today, [])
        );
        Assert.Equal(("circle", "A", EditField.After), (refused.Code, refused.Task, refused.Field));
    }

    private static AppliedEdit Apply(Plan plan, PlanEdit edit) =>
        PlanEditor.Apply(plan, edit, new EditContext(plan.Calculate(), Today, []));

    private static Plan Edit(Plan plan, PlanEdit edit) => Apply(plan, edit).Plan;

    private static EditRefusedException Refused(Plan plan, PlanEdit edit) => Assert.Throws<EditRefusedException>(() => Apply(plan, edit));

    private static string Numbers(Plan plan) => string.Join(", ", plan.Tasks.Select((t, row) => $"{plan.Index.NumberOf(row)} {t.Id}"));

    /// <summary>Everything that a plan is made of.</summary>
    internal static string Text(Plan plan) =>
        string.Join(
            "\n",
            new object[] { plan.Project, plan.Calendars, plan.People, plan.Links, plan.Tasks, plan.Baselines }.Select(part =>
                JsonSerializer.Serialize(part, Texts)
            )
        );

    private static readonly JsonSerializerOptions Texts = new() { Converters = { new FactsAsText() } };

    private sealed class FactsAsText : JsonConverter<FactValues>
    {
        public override FactValues Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            throw new NotSupportedException();

        public override void Write(Utf8JsonWriter writer, FactValues value, JsonSerializerOptions options) =>
            writer.WriteStringValue(value.ToString());
    }
}
