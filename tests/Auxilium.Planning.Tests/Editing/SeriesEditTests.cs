using Auxilium.Planning.Calendars;
using Auxilium.Planning.CheckUp;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Tests.Editing;

public class SeriesEditTests
{
    private static readonly DateOnly Today = new(2027, 5, 5);

    private static readonly RepeatRule Weekly = new()
    {
        Every = RepeatUnit.Week,
        From = new(new DateOnly(2027, 5, 4)),
        Length = new(2, LengthUnit.Hours),
    };

    [Fact]
    public void A_task_that_repeats_becomes_a_phase_of_pinned_occurrences_up_to_the_finish()
    {
        var edited = Run(Plan().Calculate(), new RepeatTask("M", Weekly));
        Assert.Equal(["M 1", "M 2", "M 3"], Names(edited.After));
        Assert.Equal("2027-05-11T09:00 – 2027-05-11T11:00", edited.After.Dates(Occurrence(edited.After, 1)));
        var first = edited.After.Plan.Find(Occurrence(edited.After, 0))!;
        Assert.Equal(("ann", true, "crew"), (first.Owner, first.Pinned is not null, PlainFacts.Label.Of(first)));
        Assert.Equal(new DateOnly(2027, 5, 18), edited.After.Plan.Find("M")!.Repeats!.Made);
        Assert.Equal(edited.Before.Finish, edited.After.Finish);
        Assert.Equal("M comes every week on Tue, 2 hours each: 3 times.", Said(edited));
        Undone(edited);
    }

    [Fact]
    public void Each_occurrence_is_done_moved_or_skipped_alone()
    {
        var plan = Run(Plan().Calculate(), new RepeatTask("M", Weekly)).After;
        var (one, two, three) = (Occurrence(plan, 0), Occurrence(plan, 1), Occurrence(plan, 2));
        plan = Run(plan, new FinishTask(one, new DateOrTime(new DateOnly(2027, 5, 4)))).After;
        plan = Run(plan, new PlaceTask(two, new DateOrTime(new DateOnly(2027, 5, 12)), true)).After;
        plan = Run(plan, new SetActive(three, false)).After;
        Assert.True(plan.Plan.Find(one)!.IsFinished);
        Assert.Equal(PlanTime.At(2027, 5, 12, 9), plan.StartOf(two));
        Assert.True(plan.IsOff(plan.Plan.Index.RowOf(three)));
    }

    [Fact]
    public void Another_rule_changes_only_what_differs_and_leaves_what_people_did()
    {
        var plan = Run(Plan().Calculate(), new RepeatTask("M", Weekly with { Times = 6 })).After;
        var ids = plan.Plan.Tasks.Where(t => t.Parent == "M").Select(t => t.Id).ToList();
        plan = Run(plan, new FinishTask(ids[0], new DateOrTime(new DateOnly(2027, 5, 4)))).After;
        plan = Run(plan, new PlaceTask(ids[1], new DateOrTime(new DateOnly(2027, 5, 14)), true)).After;
        plan = Run(plan, new SetActive(ids[2], false)).After;
        plan = Run(plan, new Together([new RenameTask(ids[3], "Last rehearsal"), new SetOwner(ids[3], "Bo")])).After;

        // From Tuesdays to Wednesdays: the same rows, those nobody moved on the next day.
        var wednesdays = Run(
            plan,
            new RepeatTask("M", Weekly with { On = [DayOfWeek.Wednesday], Times = 6, Length = new(3, LengthUnit.Hours) })
        );
        Assert.Equal(["M 1", "M 2", "M 3", "Last rehearsal", "M 5", "M 6"], Names(wednesdays.After));
        Assert.Equal(ids, wednesdays.After.Plan.Tasks.Where(t => t.Parent == "M").Select(t => t.Id));
        Assert.Equal(
            ["Tue 4 May", "Fri 14 May", "-", "Wed 26 May", "Wed 2 Jun", "Wed 9 Jun"],
            ids.Select(id => wednesdays.After.IsOff(wednesdays.After.Plan.Index.RowOf(id)) ? "-" : Dates.Day(wednesdays.After.StartOf(id)))
        );
        Assert.Equal("Bo", wednesdays.After.Plan.FindPerson(wednesdays.After.Plan.Find(ids[3])!.Owner)!.Name);
        Assert.Equal(new Length(3, LengthUnit.Hours), wednesdays.After.Plan.Find(ids[4])!.Length);
        Undone(wednesdays);

        // Every other week: what has no day any more goes, unless somebody did something to it.
        var fewer = Run(plan, new RepeatTask("M", Weekly with { Interval = 2, Times = 3 }));
        Assert.Equal(["M 1", "M 2", "M 3", "Last rehearsal", "M 5"], Names(fewer.After));
        Assert.Equal(ids[5], Assert.Single(((RepeatTask)fewer.Applied.Edit).Drop!.Value));
        Assert.StartsWith(
            "Of the 6 so far, 6 stay as they are.",
            SeriesText.Of(plan, new RepeatTask("M", Weekly with { Interval = 2, Times = 3 }), new HashSet<string> { ids[5] }),
            StringComparison.Ordinal
        );
        Assert.EndsWith(
            "Of the 6 so far, 5 stay as they are and 1 is removed. What somebody did to “M 1”, “M 2”, “M 3” and “Last rehearsal” is kept.",
            Said(fewer),
            StringComparison.Ordinal
        );
        Undone(fewer);

        // Twice a week: the others come between, in their order, under numbers of their own.
        var more = Run(plan, new RepeatTask("M", Weekly with { On = [DayOfWeek.Tuesday, DayOfWeek.Thursday], Times = 12 }));
        Assert.Equal(
            ["M 1", "M 7", "M 8", "M 2", "M 3", "M 9", "Last rehearsal", "M 10", "M 5", "M 11", "M 6", "M 12"],
            Names(more.After)
        );
        Assert.Contains("Of the 6 so far, 6 stay as they are; 6 are added.", Said(more), StringComparison.Ordinal);
        Undone(more);

        // The same rule once more: nothing changes, and what was skipped does not come back.
        var same = Run(plan, new RepeatTask("M", Weekly with { Times = 6 }));
        Assert.Empty(same.Ripple.Moves);
        Assert.Equal(Names(plan), Names(same.After));
        Undone(same);
    }

    [Fact]
    public void An_occurrence_that_people_wrote_about_stays()
    {
        var plan = Run(Plan().Calculate(), new RepeatTask("M", Weekly)).After;
        var last = Occurrence(plan, 2);
        var applied = PlanEditor.Apply(
            plan.Plan,
            new RepeatTask("M", Weekly with { Times = 2 }),
            new EditContext(plan, Today, []) { Spoken = new HashSet<string> { last } }
        );
        Assert.NotNull(applied.Plan.Find(last));
        // What was decided does the same to whom it is done again, whoever knows of the comments.
        Assert.NotNull(PlanEditor.Apply(plan.Plan, applied.Edit, new EditContext(plan, Today, [])).Plan.Find(last));
    }

    [Fact]
    public void A_milestone_repeats_as_milestones()
    {
        var edited = Run(
            Plan().With("M", t => t with { Milestone = true, Length = Length.Zero }).Calculate(),
            new RepeatTask("M", Weekly with { Times = 2 })
        );
        Assert.All(edited.After.Plan.Tasks.Where(t => t.Parent == "M"), t => Assert.True(t.Milestone));
        Undone(edited);
    }

    [Fact]
    public void A_series_is_offered_to_go_on_once_the_project_runs_past_it()
    {
        var made = Run(Plan().Calculate(), new RepeatTask("M", Weekly)).After;
        Assert.Empty(SeriesEdits.StopShort(made));
        // An occurrence comes on its day: the check-up does not miss links to it.
        Assert.DoesNotContain(PlanCheck.Of(made, Today).Where(f => f.Kind == FindingKind.NotLinked).SelectMany(f => f.Tasks), t =>
            made.Plan.Find(t)!.Parent == "M"
        );
        var longer = Run(made, new SetLength("A", new(Length.Days(25)))).After;
        Assert.Equal([new ShortSeries("M", new DateOnly(2027, 5, 18), 2)], SeriesEdits.StopShort(longer));
        var finding = Assert.Single(PlanCheck.Of(longer, Today), f => f.Kind == FindingKind.SeriesStops);
        var extended = Run(longer, finding.Fix!.Edit);
        Assert.Equal(["M 1", "M 2", "M 3", "M 4", "M 5"], Names(extended.After));
        Assert.Equal("M goes on to Tue 1 Jun: 2 times more.", Said(extended));
        Assert.Empty(SeriesEdits.StopShort(extended.After));
        Undone(extended);
        var kept = Run(longer, new KeepSeries("M"));
        Assert.Empty(SeriesEdits.StopShort(kept.After));
        Undone(kept);
    }

    [Fact]
    public void Applying_it_again_makes_the_same_rows()
    {
        var edited = Run(Plan().Calculate(), new RepeatTask("M", Weekly));
        Assert.Equal(
            edited.After.Plan.Tasks.AsEnumerable(),
            Run(edited.Before, edited.Applied.Edit)
                .After.Plan.Tasks.Select(
                    (t, i) =>
                        t with
                        {
                            Assignments = edited.After.Plan.Tasks[i].Assignments,
                            Checklist = edited.After.Plan.Tasks[i].Checklist,
                            Repeats = edited.After.Plan.Tasks[i].Repeats,
                        }
                )
        );
        var extended = Run(Run(edited.After, new SetLength("A", new(Length.Days(25)))).After, new ExtendSeries("M"));
        Assert.Equal(Names(extended.After), Names(Run(extended.Before, extended.Applied.Edit).After));
    }

    public static TheoryData<PlanEdit> Refused =>
        [
            new RepeatTask("P", Weekly),
            new RepeatTask("S", Weekly),
            new RepeatTask("M", Weekly with { Until = new(new DateOnly(2027, 5, 3)) }),
            new RepeatTask("M", Weekly with { On = [DayOfWeek.Sunday], Closed = OnClosedDay.Skip }),
            new RepeatTask("M", Weekly, ["A", "x", "y"]),
            new RepeatTask("M", Weekly, ["x"]),
            new ExtendSeries("M"),
            new KeepSeries("M"),
            new SetRepeat("M", Weekly with { Count = 501 }),
        ];

    [Theory]
    [MemberData(nameof(Refused))]
    public void What_cannot_repeat_says_why(PlanEdit edit)
    {
        var plan = Plan().With("S", t => t with { ActualStart = PlanTime.At(2027, 5, 3, 9) });
        var refused = Assert.Throws<EditRefusedException>(() => Run(plan.Calculate(), edit));
        Assert.EndsWith(".", refused.Message, StringComparison.Ordinal);
        Assert.Equal(EditField.Repeat, refused.Field);
    }

    private static Plan Plan() =>
        PlanText
            .Plan("P\n  A 15d\n  S 1d\nM 1d")
            .With("M", t =>
                t with
                {
                    Assignments = [new("ann")],
                    Facts = PlainFacts.Label.On(t.Facts, "crew"),
                    Constraint = new(ConstraintKind.AsLateAsPossible),
                }
            ) with
        {
            People = [new("ann", "Ann", "A")],
        };

    private static string Occurrence(Schedule schedule, int number) =>
        schedule.Plan.Tasks.Where(t => t.Parent == "M").ElementAt(number).Id;

    private static IEnumerable<string> Names(Schedule schedule) => schedule.Plan.Tasks.Where(t => t.Parent == "M").Select(t => t.Name);

    private static EditedPlan Run(Schedule schedule, PlanEdit edit) => EditPipeline.Run(schedule, edit, Today, []);

    private static string Said(EditedPlan edited) => string.Concat(RippleText.Lead(edited).Select(r => r.Text));

    private static void Undone(EditedPlan edited)
    {
        var back = Run(edited.After, edited.Applied.Inverse).After.Plan;
        Assert.Equal(edited.Before.Plan.Tasks.Select(t => t with { Splits = [] }), back.Tasks.Select(t => t with { Splits = [] }));
        Assert.Equal(edited.Before.Plan.Project, back.Project);
    }
}
