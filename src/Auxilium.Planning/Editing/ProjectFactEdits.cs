using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Editing.ProjectEdits;

namespace Auxilium.Planning.Editing;

public sealed record SetProjectStatus(ProjectStatus Status) : PlanEdit, IEditKind
{
    public static string Wire => "setProjectStatus";

    public override EditTraits Traits => new(null, EditField.ProjectStatus, EditRight.Edit);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context) =>
        Changed(plan, plan.Project with { Status = Status }, this, new SetProjectStatus(plan.Project.Status), EditField.ProjectStatus);

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [new("The project is "), new(Status.InWords(), true), new(".")];

    public static PlanEdit Sample(EditSampler from) => new SetProjectStatus((ProjectStatus)from.Random.Next(4));
}

/// <param name="Colour">One of those that rows can have; <c>null</c> for none.</param>
public sealed record SetProjectColour(string? Colour) : PlanEdit, IEditKind
{
    public static string Wire => "setProjectColour";

    public override EditTraits Traits => new(null, EditField.ProjectColour, EditRight.Edit);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var colour = PlainFacts.Colour.Tidy(Colour);
        if (PlainFacts.Colour.WhyRefused(colour) is { } why)
            throw Refuse("colour", why, EditField.ProjectColour);
        return Changed(
            plan,
            plan.Project with
            {
                Colour = colour,
            },
            new SetProjectColour(colour),
            new SetProjectColour(plan.Project.Colour),
            EditField.ProjectColour
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [new(after.Plan.Project.Colour is { } colour ? $"The project is marked in {colour}." : "The project has no colour now.")];

    public static PlanEdit Sample(EditSampler from) =>
        new SetProjectColour(
            from.Flip ? null
            : from.Flip ? "moss"
            : "blue"
        );
}

/// <param name="Priority">How much the project matters among others: 0 to 1000.</param>
public sealed record SetProjectPriority(int Priority) : PlanEdit, IEditKind
{
    public static string Wire => "setProjectPriority";

    public override EditTraits Traits => new(null, EditField.ProjectPriority, EditRight.Edit);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        if (PlainFacts.Priority.WhyRefused(Priority) is { } why)
            throw Refuse("priority", why, EditField.ProjectPriority);
        return Changed(
            plan,
            plan.Project with
            {
                Priority = Priority,
            },
            this,
            new SetProjectPriority(plan.Project.Priority),
            EditField.ProjectPriority
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) => [new($"The project has priority {Priority}.")];

    public static PlanEdit Sample(EditSampler from) => new SetProjectPriority(from.Random.Next(-100, 1200));
}

public sealed record SetProjectNote(string Note) : PlanEdit, IEditKind
{
    public static string Wire => "setProjectNote";

    public override EditTraits Traits => new(null, EditField.ProjectNote, EditRight.Edit);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var note = CheckNote(Note);
        return Changed(
            plan,
            plan.Project with
            {
                Note = note,
            },
            new SetProjectNote(note),
            new SetProjectNote(plan.Project.Note),
            EditField.ProjectNote
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [new(after.Plan.Project.Note.Length > 0 ? "The project has another note now." : "The project has no note now.")];

    /// <summary>A project's note without spaces around it.</summary>
    /// <exception cref="EditRefusedException">It is too long.</exception>
    public static string CheckNote(string? note)
    {
        var text = (note ?? "").Trim();
        return text.Length <= PlanTask.LongestNote
            ? text
            : throw Refuse("note", $"A note has at most {PlanTask.LongestNote:N0} characters: shorten it.", EditField.ProjectNote);
    }

    public static PlanEdit Sample(EditSampler from) => new SetProjectNote(from.Flip ? "" : "Agreed with the harbour office.");
}
