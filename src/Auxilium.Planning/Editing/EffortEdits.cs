using System.Collections.Immutable;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Words.EditText;

namespace Auxilium.Planning.Editing;

/// <summary>The work that a task takes of all its people together, or of one of them (rule E1). It moves no date.</summary>
/// <param name="Effort"><c>null</c> for what follows from length and shares.</param>
/// <param name="Person">Somebody who works on it; <c>null</c> for all together.</param>
public sealed record SetEffort(string Task, Length? Effort, string? Person = null) : PlanEdit, IEditKind
{
    public static string Wire => "setEffort";

    public override EditTraits Traits => new(Task, EditField.Effort, EditRight.Edit);

    public override string Many => "efforts changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        if (Effort is { } effort)
        {
            TaskEdits.RefusePhase(plan, task, EditField.Effort, "effort is that of the rows inside it: set theirs");
            if (effort.Amount < 0)
                throw Refuse(task, "Effort cannot be negative: type how long the work takes, such as 6h or 2d.");
            if (LengthText.WhyUnusable(effort, plan.Project.Units) is { } why)
                throw Refuse(task, why);
        }
        if (Person is null)
            return PlanEditor.Changed(plan, task with { Effort = Effort }, this, this with { Effort = task.Effort }, EditField.Effort);
        var at = task.Assignments.Select(a => a.Person).ToList().IndexOf(Person);
        if (at < 0)
            throw Refuse(
                task,
                $"{plan.FindPerson(Person)?.Name ?? Person} does not work on “{LengthText.Shorten(task.Name)}”: add them to it first."
            );
        var was = task.Assignments[at];
        return PlanEditor.Changed(
            plan,
            task with
            {
                Assignments = task.Assignments.SetItem(at, was with { Effort = Effort }),
            },
            this,
            this with
            {
                Effort = was.Effort,
            },
            EditField.Effort
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after)
    {
        var much = Effort is { } effort ? effort.InWords() : null;
        return Person is { } person
            ?
            [
                PersonCalled(before, after, person),
                new(much is null ? " does on " : $" works {much} on "),
                Called(after, Task),
                new(much is null ? " what length and share say." : "."),
            ]
            : [Called(after, Task), new(much is null ? " takes the work that its length says." : $" takes {much} of work.")];
    }

    internal override IEnumerable<TextRun>? SayOfAll(ImmutableArray<PlanEdit> alike, Schedule after) =>
        Person is null && alike.All(e => e is SetEffort s && s.Effort == Effort && s.Person is null)
            ? [new(Effort is { } effort ? $" take {effort.InWords()} of work each." : " take the work that their lengths say.")]
            : null;

    private static EditRefusedException Refuse(PlanTask task, string why) => new("effort", why, task.Id, EditField.Effort);

    public static PlanEdit Sample(EditSampler from)
    {
        Length? effort = from.Flip ? null : new Length(from.Random.Next(0, 40), LengthUnit.Hours);
        return from.Flip ? new SetEffort(from.Leaf, effort) : new SetEffort(from.Assigned(), effort, "bo");
    }
}
