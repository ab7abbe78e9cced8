using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Plans;

/// <summary>Fixed dates by kind (rules F1–F3, F5, R1). Kept by name: new ones go at the end.</summary>
public enum ConstraintKind
{
    StartNoEarlierThan,
    FinishNoEarlierThan,
    MustStartOn,
    MustFinishOn,
    StartNoLaterThan,
    FinishNoLaterThan,
    AsLateAsPossible,
    AsSoonAsPossible,
}

/// <param name="Kind">What the date means.</param>
/// <param name="Date"><c>null</c> for the kinds without one: as late and as soon as possible.</param>
public sealed record DateConstraint(ConstraintKind Kind, PlanTime? Date = null)
{
    public bool NeedsDate => Kind is not (ConstraintKind.AsLateAsPossible or ConstraintKind.AsSoonAsPossible);

    public bool IsMust => Kind is ConstraintKind.MustStartOn or ConstraintKind.MustFinishOn;

    public bool IsNotBefore => Kind is ConstraintKind.StartNoEarlierThan or ConstraintKind.FinishNoEarlierThan;

    public bool IsNotAfter => Kind is ConstraintKind.StartNoLaterThan or ConstraintKind.FinishNoLaterThan;

    /// <summary>Whether its date is about the finish.</summary>
    public bool IsOfFinish =>
        Kind is ConstraintKind.FinishNoEarlierThan or ConstraintKind.FinishNoLaterThan or ConstraintKind.MustFinishOn;
}

/// <summary>A pause in the work (rule L3).</summary>
/// <param name="After">Work done before it, above none and below the length of the task.</param>
/// <param name="For">How long it is, in working time of the task's effective calendar.</param>
public readonly record struct Split(Length After, Length For);

/// <summary>How far a task was before it was done.</summary>
/// <param name="Progress">Below 1.</param>
public sealed record TrackedBefore(decimal Progress, PlanTime? ActualStart = null, Length? Remaining = null);

/// <summary>A length for which only a range is known: at best, most likely, at worst.</summary>
public sealed record LengthEstimate(Length Low, Length Likely, Length High);

/// <summary>Dates a person fixed by hand (rule F2); without a finish it follows from the length.</summary>
public sealed record PinnedDates(PlanTime Start, PlanTime? Finish = null);

/// <summary>What becomes of a task when more people work on it. Kept by name.</summary>
public enum MoreHands
{
    /// <summary>Its effort stays, so it takes less time.</summary>
    Shorter,

    /// <summary>It takes as long, with more effort.</summary>
    MoreEffort,
}

/// <summary>A person's part in a task; the first of a task's assignments is its owner, the rest are helpers.</summary>
/// <param name="Share">Part of the person's time: above 0, at most 1.</param>
/// <param name="Effort">Work they do, where it is other than the task's length and their share say (rule E1).</param>
public readonly record struct Assignment(string Person, decimal Share = 1, Length? Effort = null);

/// <summary>One row of the task list: a task, a milestone, or (when others name it as parent) a phase.</summary>
public sealed record PlanTask : IHasFacts
{
    /// <summary>A name is at most this many characters.</summary>
    public const int LongestName = 200;

    /// <summary>A note is at most this many characters.</summary>
    public const int LongestNote = 20_000;

    /// <summary>A task pauses at most this often.</summary>
    public const int MostSplits = 100;

    public required string Id { get; init; }

    public required string Name { get; init; }

    /// <summary>Id of the phase it is in; <c>null</c> at the top level.</summary>
    public string? Parent { get; init; }

    /// <summary>Working time it takes; zero for milestones. A phase keeps its own, for when it becomes a task again.</summary>
    public Length Length { get; init; } = Length.OneDay;

    /// <summary>The length is a guess.</summary>
    public bool Tentative { get; init; }

    public bool Milestone { get; init; }

    /// <summary>Its length counts every minute of the clock (rules T5, L1).</summary>
    public bool AroundTheClock { get; init; }

    /// <summary>Id of a calendar of its own.</summary>
    public string? Calendar { get; init; }

    /// <summary>Whether it is active (rule K4). An inactive task, with all that is inside it, has no dates.</summary>
    public bool Active { get; init; } = true;

    public LengthEstimate? Estimate { get; init; }

    /// <summary>When it should be finished; missing it is told, and moves nothing (rule W3).</summary>
    public PlanTime? Deadline { get; init; }

    /// <summary>Pauses in the work, in order.</summary>
    public ImmutableArray<Split> Splits { get; init; } = [];

    public PinnedDates? Pinned { get; init; }

    public DateConstraint? Constraint { get; init; }

    /// <summary>Where levelling set it: it starts no earlier, so that somebody has time for it (rules F1, N5).</summary>
    public PlanTime? DelayedUntil { get; init; }

    /// <summary>Part of the work that is done, 0 to 1; exactly 1 when it has an actual finish.</summary>
    public decimal Progress { get; init; }

    public PlanTime? ActualStart { get; init; }

    public PlanTime? ActualFinish { get; init; }

    /// <summary>Work left of a started task, where it is other than the length and the progress say (rule F4).</summary>
    public Length? Remaining { get; init; }

    public ImmutableArray<Assignment> Assignments { get; init; } = [];

    /// <summary>Work of all its people together, where it is other than its length and their shares say (rule E1).</summary>
    public Length? Effort { get; init; }

    /// <summary>What more hands do; <c>null</c> while nobody has said.</summary>
    public MoreHands? Hands { get; init; }

    public string Note { get; init; } = "";

    /// <summary>What no date depends on: priority, label and such.</summary>
    public FactValues Facts { get; init; } = FactValues.None;

    public ImmutableArray<ChecklistStep> Checklist { get; init; } = [];

    public ImmutableArray<Reference> References { get; init; } = [];

    /// <summary>When people are reminded of it.</summary>
    public ImmutableArray<Reminder> Reminders { get; init; } = [];

    /// <summary>When it comes again, of a phase whose rows are its occurrences.</summary>
    public RepeatRule? Repeats { get; init; }

    /// <summary>The day of the rule that this is the occurrence of, in a phase that repeats.</summary>
    public DateOnly? Occurrence { get; init; }

    /// <summary>How far it was before it was done: the way back leads there.</summary>
    public TrackedBefore? Before { get; init; }

    /// <summary>What a milestone took before it became one.</summary>
    public TypedLength? LengthBefore { get; init; }

    /// <summary>The shares of all who work on it: 1.5 is one person and half of another's time.</summary>
    public decimal People => Assignments.Sum(a => a.Share);

    public string? Owner => Assignments.IsEmpty ? null : Assignments[0].Person;

    /// <summary>The splits that interrupt the work: those of a task with a length.</summary>
    internal bool IsSplit => !Splits.IsEmpty && !Milestone;

    public bool IsStarted => ActualStart is not null;

    public bool IsFinished => ActualFinish is not null;

    /// <summary>A new task of one day that nobody has confirmed yet.</summary>
    public static PlanTask Named(string id, string name, string? parent = null) =>
        new()
        {
            Id = id,
            Name = name,
            Parent = parent,
            Tentative = true,
        };
}
