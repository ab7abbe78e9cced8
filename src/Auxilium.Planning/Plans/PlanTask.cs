using System.Collections.Immutable;
using Auxilium.Planning.Calendars;

namespace Auxilium.Planning.Plans;

/// <summary>Fixed dates by kind (rules F1, F2).</summary>
public enum ConstraintKind
{
    StartNoEarlierThan,
    FinishNoEarlierThan,
    MustStartOn,
    MustFinishOn,
}

public sealed record DateConstraint(ConstraintKind Kind, PlanTime Date);

/// <summary>Dates a person fixed by hand (rule F2); without a finish it follows from the length.</summary>
public sealed record PinnedDates(PlanTime Start, PlanTime? Finish = null);

/// <summary>A person's part in a task; the first of a task's assignments is its owner, the rest are helpers.</summary>
/// <param name="Share">Part of the person's time: above 0, at most 1.</param>
public readonly record struct Assignment(string Person, decimal Share = 1);

/// <summary>One row of the task list: a task, a milestone, or (when others name it as parent) a phase.</summary>
public sealed record PlanTask
{
    /// <summary>A name is at most this many characters.</summary>
    public const int LongestName = 200;

    /// <summary>A note is at most this many characters.</summary>
    public const int LongestNote = 20_000;

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

    public PinnedDates? Pinned { get; init; }

    public DateConstraint? Constraint { get; init; }

    /// <summary>Part of the work that is done, 0 to 1; exactly 1 when it has an actual finish.</summary>
    public decimal Progress { get; init; }

    public PlanTime? ActualStart { get; init; }

    public PlanTime? ActualFinish { get; init; }

    public ImmutableArray<Assignment> Assignments { get; init; } = [];

    public string Note { get; init; } = "";

    public string? Owner => Assignments.IsEmpty ? null : Assignments[0].Person;

    public bool IsStarted => ActualStart is not null;

    public bool IsFinished => ActualFinish is not null;

    /// <summary>A new task of one day that nobody has confirmed yet.</summary>
    public static PlanTask Named(string id, string name, string? parent = null) =>
        new() { Id = id, Name = name, Parent = parent, Tentative = true };
}
