using System.Collections.Immutable;
using Auxilium.Planning.Editing;

namespace Auxilium.Planning.CheckUp;

/// <summary>What may be wrong with a plan.</summary>
public enum FindingKind
{
    FinishTooLate,
    NegativeFloat,
    DateMissed,
    FixedDateBreaksLink,
    LeadTooLong,
    PhaseLinkHidesTask,
    NotLinked,
    LonelyMilestone,
    NoOwner,
    OwnerAway,
    TentativeLengths,
    VeryLongTask,
    TooManyMilestones,
    NoMilestones,
    ProgressInFuture,
    NoProgressInPast,
    SeriesStops,
    Drifted,
    OverHours,
    HelperAway,
    LevelledForNothing,
    BudgetPassed,
    ItemWithoutPrice,
    WorkWithoutRate,
    CostWithoutOwner,
    PaidEarly,
}

/// <summary>A weak spot of a plan.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="Tasks">Ids of the tasks it is about, in the order of the list.</param>
/// <param name="Sentence">What was found.</param>
/// <param name="Why">Why it matters.</param>
/// <param name="Fix">An edit that fixes it, if one click can.</param>
public sealed record Finding(FindingKind Kind, ImmutableArray<string> Tasks, string Sentence, string Why, Fix? Fix = null);

/// <summary>An edit like any other, offered.</summary>
/// <param name="Label">What it does, for its button.</param>
/// <param name="Edit">The edit.</param>
public sealed record Fix(string Label, PlanEdit Edit);
