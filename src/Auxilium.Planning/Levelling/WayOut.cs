using System.Collections.Immutable;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Levelling;

/// <summary>How somebody's overbooked day may be helped (rule N4).</summary>
public enum WayOutKind
{
    LaterWithinFloat,
    Later,
    SomebodyElse,
    WithHelper,
    SmallerShare,
    SplitAround,
}

/// <summary>Who may take over a task, or help with it.</summary>
/// <param name="Person">Somebody of the organisation, on the plan or not.</param>
/// <param name="Likeness">What they share with whoever is overbooked: “of the same team”.</param>
public sealed record StandIn(Plans.Person Person, string Likeness);

/// <summary>One way to help an overbooked day, worked out by the scheduler.</summary>
/// <param name="Kind">What is done.</param>
/// <param name="Edit">The edit that does it, to be made as it is.</param>
/// <param name="Label">What it is in a few words: “Start on Wed 12 May”.</param>
/// <param name="Sentence">What moves, and what that does to the finish.</param>
/// <param name="Ripple">The same, in figures.</param>
/// <param name="OverBefore">Minutes that people are overbooked by, all together.</param>
/// <param name="OverAfter">The same afterwards.</param>
/// <param name="People">Those whose overbooked time changes.</param>
/// <param name="MissedDeadlines">How many deadlines would be missed that are not now.</param>
public sealed record WayOut(
    WayOutKind Kind,
    PlanEdit Edit,
    string Label,
    ImmutableArray<TextRun> Sentence,
    Ripple Ripple,
    decimal OverBefore,
    decimal OverAfter,
    ImmutableArray<OverbookedPerson> People,
    int MissedDeadlines
);
