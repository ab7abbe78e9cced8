using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;

namespace Auxilium.Web.Api;

/// <summary>Everything about one task: what its card shows. Lengths are as typed, dates <c>YYYY-MM-DDTHH:mm</c>.</summary>
public sealed record CardDocument : IHasFacts
{
    public required int Version { get; init; }
    public required string Id { get; init; }
    public required string Outline { get; init; }
    public required string Name { get; init; }

    /// <summary><c>task</c>, <c>milestone</c> or <c>phase</c>.</summary>
    public required string Kind { get; init; }

    public required bool Active { get; init; }
    public required string Length { get; init; }
    public string? Start { get; init; }
    public string? Finish { get; init; }

    /// <summary>What comes before it.</summary>
    public required IReadOnlyList<CardLink> Before { get; init; }

    /// <summary>What comes after it.</summary>
    public required IReadOnlyList<CardLink> After { get; init; }

    /// <summary><c>pinned</c>, or a kind of constraint; <c>null</c> when nothing is fixed.</summary>
    public string? FixedKind { get; init; }

    public string? FixedDate { get; init; }
    public string? PinnedFinish { get; init; }
    public string? Deadline { get; init; }
    public string? Calendar { get; init; }
    public required bool AroundTheClock { get; init; }
    public required IReadOnlyList<CardSplit> Splits { get; init; }
    public CardEstimate? Estimate { get; init; }

    /// <summary>Percent.</summary>
    public required double Progress { get; init; }

    public string? ActualStart { get; init; }
    public string? ActualFinish { get; init; }
    public string? Remaining { get; init; }

    /// <summary>Total and free float in words.</summary>
    public string? TotalFloat { get; init; }
    public string? FreeFloat { get; init; }

    /// <summary>Why it is there, step by step back to a start or a fixed date.</summary>
    public required IReadOnlyList<ReasonDocument> Why { get; init; }

    /// <summary>How it comes to finish when it does.</summary>
    public required string WhyFinish { get; init; }

    public required IReadOnlyList<string> Warnings { get; init; }

    /// <summary>Who works on it, the owner first.</summary>
    public required IReadOnlyList<CardPerson> People { get; init; }

    /// <summary>What more hands do: <c>shorter</c> or <c>moreEffort</c>; <c>null</c> while nobody has said.</summary>
    public string? Hands { get; init; }

    /// <summary>Work of all its people, in hours; of a phase that of its rows.</summary>
    public decimal? EffortHours { get; init; }

    /// <summary>The same as it was typed; <c>null</c> where it follows from length and shares.</summary>
    public string? Effort { get; init; }

    /// <summary>Days off of the owner that the work goes around, in sentences.</summary>
    public required IReadOnlyList<string> Away { get; init; }

    public required string Note { get; init; }

    /// <summary>What no date depends on: priority, label and such, each by its name.</summary>
    public required FactValues Facts { get; init; }

    public required IReadOnlyList<ChecklistStep> Checklist { get; init; }

    /// <summary>When people are reminded of it.</summary>
    public required IReadOnlyList<CardReminder> Reminders { get; init; }
    public required IReadOnlyList<Reference> References { get; init; }

    /// <summary>When it comes again, of a phase of occurrences.</summary>
    public CardRepeat? Repeats { get; init; }

    /// <summary>Whether it is an occurrence of a repeating task.</summary>
    public required bool InSeries { get; init; }

    /// <summary>The calendars there are to choose from.</summary>
    public required IReadOnlyList<CalendarChoice> Calendars { get; init; }

    internal static CardDocument Of(int version, Schedule schedule, int row)
    {
        var plan = schedule.Plan;
        var task = plan.Tasks[row];
        var off = schedule.IsOff(row);
        var units = plan.Project.Units;
        return new CardDocument
        {
            Version = version,
            Id = task.Id,
            Outline = plan.Index.NumberOf(row),
            Name = task.Name,
            Kind =
                plan.Index.IsPhase(row) ? "phase"
                : task.Milestone ? "milestone"
                : "task",
            Active = task.Active,
            Length = task.Milestone ? "" : new TypedLength(task.Length, task.Tentative).ToString(),
            Start = off ? null : schedule.StartOf(row).ToString(),
            Finish = off ? null : schedule.FinishOf(row).ToString(),
            Before = [.. plan.Links.Where(l => l.To == task.Id).Select(l => CardLink.Of(plan, l, l.From))],
            After = [.. plan.Links.Where(l => l.From == task.Id).Select(l => CardLink.Of(plan, l, l.To))],
            FixedKind =
                task.Pinned is not null ? "pinned"
                : task.Constraint is { } constraint ? JsonNames.Camel(constraint.Kind)
                : null,
            FixedDate = (task.Pinned?.Start ?? task.Constraint?.Date)?.ToString(),
            PinnedFinish = task.Pinned?.Finish?.ToString(),
            Deadline = task.Deadline?.ToString(),
            Calendar = task.Calendar,
            AroundTheClock = task.AroundTheClock,
            Splits = [.. task.Splits.Select(s => new CardSplit(s.After.ToString(), s.For.ToString()))],
            Estimate = task.Estimate is { } range
                ? new CardEstimate(range.Low.ToString(), range.Likely.ToString(), range.High.ToString())
                : null,
            Progress = off ? 0 : Math.Round(schedule.ProgressOf(row) * 100, 1),
            ActualStart = task.ActualStart?.ToString(),
            ActualFinish = task.ActualFinish?.ToString(),
            Remaining = task.Remaining?.ToString(),
            TotalFloat = schedule.TotalFloatOf(row) is { } total ? DurationText.Of(total, units, task.AroundTheClock) : null,
            FreeFloat = schedule.FreeFloatOf(row) is { } free ? DurationText.Of(free, units, task.AroundTheClock) : null,
            Why = [.. Reasons.WhyStart(schedule, row).Select(ReasonDocument.From)],
            WhyFinish = off ? "" : Reasons.FromStartToFinish(schedule, row),
            People =
            [
                .. task.Assignments.Select(a => new CardPerson(a.Person, plan.FindPerson(a.Person)!.Name, a.Share, a.Effort?.ToString())),
            ],
            Hands = task.Hands is { } hands ? JsonNames.Camel(hands) : null,
            EffortHours = off ? null : Math.Round(new Effort(schedule).Of(row) / 60, 2),
            Effort = task.Effort?.ToString(),
            Away = DaysAway.Of(schedule, row),
            Warnings = [.. schedule.Warnings.Where(w => w.Tasks.Contains(task.Id)).Select(w => w.Message)],
            Note = task.Note,
            Facts = task.Facts,
            Checklist = task.Checklist,
            Reminders = [.. task.Reminders.Select(r => new CardReminder(r.Days, JsonNames.Camel(r.Before), [.. r.People]))],
            References = task.References,
            Repeats = task.Repeats is { } rule ? CardRepeat.Of(rule) : null,
            InSeries = task.Parent is { } phase && plan.Find(phase)?.Repeats is not null,
            Calendars = [.. plan.Calendars.Select(c => new CalendarChoice(c.Id, c.Name))],
        };
    }
}

/// <param name="Task">The task at the other end.</param>
/// <param name="Kind"><c>finishToStart</c>, <c>startToStart</c>, <c>finishToFinish</c> or <c>startToFinish</c>.</param>
/// <param name="Text">As it is typed into the cell of the task after.</param>
/// <param name="Share">Part of their time: above 0, at most 1.</param>
/// <param name="Effort">Work they do, where somebody has said; <c>null</c> where it follows from length and share.</param>
public sealed record CardPerson(string Id, string Name, decimal Share, string? Effort);

public sealed record CardLink(string Task, string Outline, string Name, string Kind, string Lag, bool Elapsed, string Text)
{
    internal static CardLink Of(Plan plan, PlanLink link, string other)
    {
        var number = plan.Index.NumberOf(plan.Index.RowOf(other));
        return new CardLink(
            other,
            number,
            plan.Find(other)!.Name,
            JsonNames.Camel(link.Kind),
            link.Lag.ToString(),
            link.Elapsed,
            LinkText.Format(plan.Index.NumberOf(plan.Index.RowOf(link.From)), link)
        );
    }
}

/// <summary>A rule as "repeatTask" takes it, with what it says in words.</summary>
/// <param name="Made">The last day that has its occurrence, in words.</param>
public sealed record CardRepeat(
    string Text,
    string Every,
    int Interval,
    IReadOnlyList<string> On,
    int? Week,
    string From,
    string? Until,
    int? Times,
    string Length,
    string Closed,
    string Made,
    int Count
)
{
    internal static CardRepeat Of(RepeatRule rule) =>
        new(
            RepeatText.Of(rule),
            JsonNames.Camel(rule.Every),
            rule.Interval,
            [.. rule.On.Select(day => JsonNames.Camel(day)[..3])],
            rule.Week,
            rule.From.ToString(),
            rule.Until?.ToString(),
            rule.Times,
            rule.Length.ToString(),
            JsonNames.Camel(rule.Closed),
            rule.Made is { } made ? Dates.Day(made) : "",
            rule.Count
        );
}

public sealed record CardSplit(string After, string For);

public sealed record CardEstimate(string Low, string Likely, string High);

public sealed record CalendarChoice(string Id, string Name);

/// <summary>One step of why a date is what it is.</summary>
/// <param name="Of"><c>start</c> or <c>finish</c>.</param>
/// <param name="Kind">What holds it: a link, the project's start or finish, a fixed date and so on.</param>
/// <param name="By">For a link, the task that the next step is about.</param>
public sealed record ReasonDocument(string Task, string At, string Of, string Kind, string? By, string Sentence)
{
    internal static ReasonDocument From(Reason reason) =>
        new(
            reason.Task,
            reason.At.ToString(),
            reason.OfFinish ? "finish" : "start",
            JsonNames.Camel(reason.Kind),
            reason.By,
            reason.Sentence
        );
}

/// <param name="Before"><c>start</c> or <c>finish</c>.</param>
/// <param name="People">Ids of whom; none for those who work on the task.</param>
public sealed record CardReminder(int Days, string Before, IReadOnlyList<string> People);
