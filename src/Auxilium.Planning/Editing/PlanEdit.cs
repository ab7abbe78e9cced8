using System.Collections.Immutable;
using System.Diagnostics;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Editing;

/// <summary>
/// A change to a plan as somebody means it. Every change there is, from a keystroke to an import, is one of these. A kind of edit knows
/// everything about itself: what it is called in JSON, what it does to a plan, what takes it back, what is said of it, and who may make
/// it. A new kind is a new record and a line in <see cref="EditKinds"/>.
/// </summary>
public abstract record PlanEdit
{
    public abstract EditTraits Traits { get; }

    /// <summary>What many edits of this kind are called, after how many they are: <c>links set</c>.</summary>
    public abstract string Many { get; }

    /// <param name="plan">The plan as it is; <see cref="EditContext.Schedule"/> has its dates.</param>
    /// <param name="context">What else it is understood by.</param>
    /// <exception cref="EditRefusedException">It makes no sense on this plan. Circles are found when dates are worked out.</exception>
    internal abstract AppliedEdit Apply(Plan plan, EditContext context);

    /// <summary>Says what it changed by itself, in one sentence, before anything that followed from it.</summary>
    internal abstract IEnumerable<TextRun> Say(Schedule before, Schedule after);

    /// <summary>
    /// What is said once where edits of several tasks all do the same, after how many tasks; <c>null</c> where nothing is.
    /// </summary>
    /// <param name="alike">All of them; this is the first.</param>
    internal virtual IEnumerable<TextRun>? SayOfAll(ImmutableArray<PlanEdit> alike, Schedule after) => null;

    /// <summary>
    /// Whether there is anything left to say of it among others: what came and went again, or was changed and then removed, is told by
    /// what it ended as.
    /// </summary>
    internal virtual bool IsLeft(Schedule before, Schedule after) => Traits.Task is not { } task || after.Plan.Find(task) is not null;
}

/// <summary>
/// An edit as somebody types it. To apply it is to decide what it comes to, which is other edits: those are kept, told and taken back,
/// and this one never is.
/// </summary>
public abstract record UndecidedEdit : PlanEdit
{
    public sealed override string Many => throw new UnreachableException($"{GetType().Name} was told before it was decided.");

    internal sealed override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        throw new UnreachableException($"{GetType().Name} was told before it was decided.");
}

/// <summary>
/// An edit that is trusted to know what a plan was: it comes from taking another back, or out of one that was decided, and never from
/// outside.
/// </summary>
public interface ITrustedEdit;

/// <summary>What is to be known about an edit before it is applied.</summary>
/// <param name="Task">The row it is made in; <c>null</c> for the project, or several rows.</param>
/// <param name="Field">The part of the row, or of the project, it is made in: where its refusal is shown.</param>
/// <param name="Right">What it takes to make it.</param>
/// <param name="Needs">What has to be read for it, besides the plan.</param>
public readonly record struct EditTraits(string? Task, EditField Field, EditRight Right, EditNeeds Needs = EditNeeds.Nothing);

/// <summary>What it takes to make an edit.</summary>
public enum EditRight
{
    /// <summary>It says how far a task is: whoever works on the task may.</summary>
    Report,

    /// <summary>Whoever coordinates the plan may; others may propose it.</summary>
    Edit,

    /// <summary>
    /// Who is on the plan, when they work and who coordinates it: whoever coordinates the plan may, and nobody may propose it.
    /// </summary>
    People,
}

[Flags]
public enum EditNeeds
{
    Nothing = 0,

    /// <summary>Those who have left: nothing new is given to them.</summary>
    Left = 1,

    /// <summary>Everybody in the organisation, since it may name somebody who is not on the plan yet; and those who have left.</summary>
    Names = 2 | Left,

    /// <summary>Which rows people have written about.</summary>
    Talk = 4,

    /// <summary>The plan as it was at other versions.</summary>
    Past = 8,

    /// <summary>What the plan costs.</summary>
    Costs = 16,
}
