using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Editing.SeriesEdits;
using static Auxilium.Planning.Words.EditText;

namespace Auxilium.Planning.Editing;

/// <summary>
/// A task comes again by a rule: its row becomes a phase that holds an occurrence for each time, pinned to its day. Of a task that
/// repeats already only what differs changes: occurrences of the same day stay, others move to the day that takes its place, and what
/// a person did to one of them stays as it is.
/// </summary>
/// <param name="Rule">Without an end it goes to the finish of the project.</param>
/// <param name="Ids">Of the new occurrences; made up when left out.</param>
/// <param name="Drop">The occurrences that go; worked out when left out.</param>
public sealed record RepeatTask(string Task, RepeatRule Rule, ImmutableArray<string>? Ids = null, ImmutableArray<string>? Drop = null)
    : PlanEdit,
        IEditKind
{
    public static string Wire => "repeatTask";

    public override EditTraits Traits => new(Task, EditField.Repeat, EditRight.Edit, EditNeeds.Talk);

    public override string Many => "repeat rules changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        var row = plan.Index.RowOf(task.Id);
        if (plan.Index.IsPhase(row) && task.Repeats is null)
            throw Refused(task, $"“{LengthText.Shorten(task.Name)}” is a phase: let a task inside it repeat.");
        if (task.IsStarted)
            throw Refused(task, $"“{LengthText.Shorten(task.Name)}” has started: add a new task, and let that repeat.");
        var rule = Rule.Length.IsZero || !task.Milestone ? Rule : Rule with { Length = Length.Zero };
        var (kept, occurrences) = Rehearse(plan, task, rule, context.ScheduleWith(task.Id, plan));
        var steps = new List<PlanEdit>();
        if (task.Milestone)
            steps.Add(new SetMilestone(task.Id, false));
        if (task is not { Pinned: null, Constraint: null })
            steps.Add(new SetFixedDates(task.Id, null, null));
        if (!task.Splits.IsEmpty)
            steps.Add(new SetSplits(task.Id, []));
        if (task.Estimate is not null)
            steps.Add(new SetEstimate(task.Id, null));
        var cleared = PlanEditor.ApplyAll(plan, [.. steps], context);
        task = cleared.Plan.Find(task.Id)!;
        var change = Change(cleared.Plan, task, kept, occurrences);
        if (Drop is { } drop)
            change = change with { Gone = [.. change.Gone.Where(drop.Contains)] };
        else
            change = change with { Gone = [.. change.Gone.Where(id => !context.Spoken.Contains(id))] };
        var arranged = Arranged(cleared.Plan, task, change, context);
        var made = Made(
            arranged.Plan,
            arranged.Plan.Find(task.Id)!,
            kept with
            {
                Count = task.Repeats is null ? kept.Count : task.Repeats.Count + change.New.Count,
            },
            change.New,
            Ids
        );
        return new AppliedEdit(
            made.Plan,
            new RepeatTask(task.Id, kept with { Made = null, Count = 0, Through = null }, made.Ids, change.Gone),
            new Together([made.Inverse, .. arranged.Inverse, cleared.Inverse]),
            [new Touch(task.Id, EditField.Repeat), .. cleared.Touched, .. arranged.Touched, .. made.Ids.Select(Touch.Row)]
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [
            Called(after, Task),
            new(
                $" comes {RepeatText.Of(Rule)}: {Times(Occurrences(after.Plan, Task))}."
                    + $"{(SeriesText.Of(before, this) is { Length: > 0 } change ? $" {change}" : "")}"
            ),
        ];

    public static PlanEdit Sample(EditSampler from) =>
        new RepeatTask(from.Random.Next(2) == 0 ? from.Repeating() : from.Leaf, from.Rule());
}

/// <summary>A repeating task goes on by its rule, up to a day, or to the finish of the project.</summary>
/// <param name="Ids">Of the new occurrences; made up when left out.</param>
public sealed record ExtendSeries(string Task, DateOrTime? Until = null, ImmutableArray<string>? Ids = null) : PlanEdit, IEditKind
{
    public static string Wire => "extendSeries";

    public override EditTraits Traits => new(Task, EditField.Repeat, EditRight.Edit);

    public override string Many => "repeat rules changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        var rule = RuleOf(task);
        var finish = context.ScheduleWith(task.Id, plan).Finish.LastDate;
        var until = Until?.Date ?? finish;
        var longer = Series.Until(rule, until);
        var occurrences = Series.ToMake(longer, CalendarOf(plan, task), plan.Project.Units);
        if (occurrences.Count == 0)
            throw Refused(
                task,
                $"“{LengthText.Shorten(task.Name)}” has no further day up to {Dates.Day(until)}"
                    + (rule.Count >= RepeatRule.MostTimes ? $", and a series has at most {RepeatRule.MostTimes}" : "")
                    + ": give a later one."
            );
        var made = Made(plan, task, Kept(longer, occurrences, finish), occurrences, Ids);
        return new AppliedEdit(
            made.Plan,
            this with
            {
                Until = new DateOrTime(until),
                Ids = made.Ids,
            },
            made.Inverse,
            [new Touch(task.Id, EditField.Repeat), .. made.Ids.Select(Touch.Row)]
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [
            Called(after, Task),
            new(
                $" goes on{(after.Plan.Find(Task)!.Repeats?.Made is { } made ? $" to {Dates.Day(made)}" : "")}: "
                    + $"{Times(Ids!.Value.Length)} more."
            ),
        ];

    public static PlanEdit Sample(EditSampler from) => new ExtendSeries(from.Repeating(), from.Day(60, 30));
}

/// <summary>A repeating task ends where it does, though the project goes on.</summary>
public sealed record KeepSeries(string Task) : PlanEdit, IEditKind
{
    public static string Wire => "keepSeries";

    public override EditTraits Traits => new(Task, EditField.Repeat, EditRight.Edit);

    public override string Many => "repeat rules changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        var rule = RuleOf(task) with { Through = context.ScheduleWith(task.Id, plan).Finish.LastDate };
        return new SetRepeat(task.Id, rule).Apply(plan, context) with { Edit = this };
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) => [Called(after, Task), new(" ends where it does.")];

    public static PlanEdit Sample(EditSampler from) => new KeepSeries(from.Repeating());
}

/// <summary>Sets the rule that a phase keeps exactly; without one its rows are rows like any others.</summary>
public sealed record SetRepeat(string Task, RepeatRule? Rule) : PlanEdit, IEditKind
{
    public static string Wire => "setRepeat";

    public override EditTraits Traits => new(Task, EditField.Repeat, EditRight.Edit);

    public override string Many => "repeat rules changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        if (
            Rule is { } rule
            && (
                rule.WhyUnusable(plan.Project.Units)
                ?? (rule.Count is < 0 or > RepeatRule.MostTimes ? $"A series has at most {RepeatRule.MostTimes} occurrences." : null)
            )
                is { } why
        )
            throw Refused(task, why);
        return PlanEditor.Changed(plan, task with { Repeats = Rule }, this, this with { Rule = task.Repeats }, EditField.Repeat);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [Called(after, Task), new(Rule is null ? " no longer repeats; its rows stay." : $" comes {RepeatText.Of(Rule)}.")];

    public static PlanEdit Sample(EditSampler from) => new SetRepeat(from.Any, from.Flip ? null : from.Rule());
}

/// <summary>A series that ends before its project does.</summary>
/// <param name="Last">The day of its last occurrence by its rule.</param>
/// <param name="More">How many there would be up to the project's finish.</param>
public readonly record struct ShortSeries(string Task, DateOnly Last, int More);

/// <summary>Tasks that come again.</summary>
public static class SeriesEdits
{
    /// <summary>Series that should be offered to be extended: their project runs on past the finish they were made for.</summary>
    public static IReadOnlyList<ShortSeries> StopShort(Schedule schedule)
    {
        var plan = schedule.Plan;
        var finish = schedule.Finish.LastDate;
        var offers = new List<ShortSeries>();
        for (var row = 0; row < plan.Tasks.Length; row++)
        {
            if (
                plan.Tasks[row] is not { Repeats: { Made: { } last, Through: { } through } rule } task
                || through >= finish
                || schedule.IsOff(row)
            )
                continue;
            if (Series.ToMake(Series.Until(rule, finish), CalendarOf(plan, task), plan.Project.Units).Count is var more and > 0)
                offers.Add(new ShortSeries(task.Id, last, more));
        }
        return offers;
    }

    /// <summary>The rule as it would be kept, and the occurrences it gives.</summary>
    /// <exception cref="EditRefusedException">The rule makes no sense, or gives no occurrence.</exception>
    public static (RepeatRule Rule, IReadOnlyList<Occurrence> Occurrences) Rehearse(
        Plan plan,
        PlanTask task,
        RepeatRule rule,
        Schedule schedule
    )
    {
        if (rule.WhyUnusable(plan.Project.Units) is { } why)
            throw Refused(task, why);
        var finish = schedule.Finish.LastDate;
        rule = rule with { On = rule.On.IsDefault ? [] : rule.On, Made = null, Count = 0, Through = null };
        if (rule is { Until: null, Times: null })
            rule = Series.Until(rule, finish);
        var occurrences = Series.ToMake(rule, CalendarOf(plan, task), plan.Project.Units);
        if (occurrences.Count == 0)
            throw Refused(
                task,
                $"There is no such day from {Dates.Day(rule.From.Date)} to {Dates.Day(rule.Until?.Date ?? finish)}: give a later end, "
                    + "or another day."
            );
        return (Kept(rule, occurrences, finish), occurrences);
    }

    /// <summary>What becomes of the occurrences there are where another rule takes the place of theirs.</summary>
    public static SeriesChange Change(Plan plan, PlanTask task, RepeatRule rule, IReadOnlyList<Occurrence> occurrences) =>
        SeriesChange.Of(plan, task, rule, occurrences, Row);

    /// <summary>The plan with the occurrences that were there as another rule has them.</summary>
    internal static (Plan Plan, IEnumerable<PlanEdit> Inverse, IEnumerable<Touch> Touched) Arranged(
        Plan plan,
        PlanTask series,
        SeriesChange change,
        EditContext context
    )
    {
        ImmutableArray<string> other = [.. change.Changed.Select(t => t.Id)];
        if (other.IsEmpty && change.Gone.IsEmpty)
            return (plan, [], []);
        // What takes it back puts the rows there again as they were, in their places and with their links.
        var without = new RemoveTasks([.. other, .. change.Gone]).Apply(plan, context);
        var rows = change.Changed.ToDictionary(t => t.Id);
        var after = plan with { Tasks = [.. plan.Tasks.Select(t => rows.GetValueOrDefault(t.Id, t))] };
        var removed = change.Gone.IsEmpty ? null : new RemoveTasks(change.Gone).Apply(after, context);
        IEnumerable<PlanEdit> inverse = other.IsEmpty ? [without.Inverse] : [new RemoveTasks(other), without.Inverse];
        return (removed?.Plan ?? after, inverse, [.. other.Select(Touch.Row), .. removed?.Touched ?? []]);
    }

    internal static RepeatRule RuleOf(PlanTask task) =>
        task.Repeats ?? throw Refused(task, $"“{LengthText.Shorten(task.Name)}” does not repeat: let it repeat first.");

    internal static RepeatRule Kept(RepeatRule rule, IReadOnlyList<Occurrence> occurrences, DateOnly finish)
    {
        var last = occurrences[^1];
        return rule with
        {
            Made = last.Day > last.Start.Date ? last.Day : last.Start.Date,
            Count = last.Number,
            Through = finish > last.Start.Date ? finish : last.Start.Date,
        };
    }

    internal static WorkTime CalendarOf(Plan plan, PlanTask task) => plan.EffectiveCalendar(task);

    /// <summary>The plan with occurrences behind those that are there.</summary>
    internal static (Plan Plan, ImmutableArray<string> Ids, PlanEdit Inverse) Made(
        Plan plan,
        PlanTask task,
        RepeatRule rule,
        IReadOnlyList<Occurrence> occurrences,
        ImmutableArray<string>? given
    )
    {
        RowEdits.RefuseMore(plan, occurrences.Count, task.Id);
        ImmutableArray<string> ids = given ?? [.. occurrences.Select(_ => PlanIds.New())];
        if (
            ids.Length != occurrences.Count
            || ids.Any(id => !PlanIds.IsId(id) || plan.Find(id) is not null)
            || ids.Distinct().Count() < ids.Length
        )
            throw Refused(task, $"{occurrences.Count} occurrences are made: give as many ids that no other row has, or none.");
        var after = PlanEditor.Replace(plan, task with { Repeats = rule });
        var rows = after.Tasks.ToBuilder();
        var (first, end) = (plan.Index.RowOf(task.Id) + 1, plan.Index.SubtreeEnd(plan.Index.RowOf(task.Id)));
        // Each stands before those that come later.
        foreach (var row in occurrences.Zip(ids, (occurrence, id) => Row(task, rule, occurrence, id)))
        {
            while (first < end && !(rows[first].Parent == task.Id && rows[first].Pinned?.Start > row.Pinned!.Start))
                first++;
            rows.Insert(first++, row);
            end++;
        }
        after = after with { Tasks = rows.ToImmutable() };
        OutlineEdits.CheckOutline(after, task.Id);
        var before = new SetRepeat(task.Id, task.Repeats);
        return (after, ids, ids.IsEmpty ? before : new Together([new RemoveTasks(ids), before]));
    }

    internal static PlanTask Row(PlanTask series, RepeatRule rule, Occurrence occurrence, string id)
    {
        var number = $" {occurrence.Number}";
        var kept = Math.Min(series.Name.Length, PlanTask.LongestName - number.Length);
        if (char.IsHighSurrogate(series.Name[kept - 1]))
            kept--;
        return new PlanTask
        {
            Id = id,
            Name = series.Name[..kept] + number,
            Parent = series.Id,
            Milestone = rule.Length.IsZero,
            Length = rule.Length,
            AroundTheClock = series.AroundTheClock || occurrence.OnTheClock,
            Calendar = series.Calendar,
            Pinned = new PinnedDates(occurrence.Start),
            Occurrence = occurrence.Day,
            Assignments = series.Assignments,
            Effort = series.Effort,
            Facts = series.Facts.Only(fact => fact.IsCopied),
            Reminders = series.Reminders,
            Checklist = [.. series.Checklist.Select(step => step with { Done = false })],
        };
    }

    internal static EditRefusedException Refused(PlanTask task, string why) => new("repeat", why, task.Id, EditField.Repeat);

    internal static string Times(int count) => count == 1 ? "once" : $"{count} times";

    internal static int Occurrences(Plan plan, string task) =>
        plan.Index.TryFind(task, out var row) ? plan.Index.ChildrenOf(row).Count(child => plan.Tasks[child].Active) : 0;
}
