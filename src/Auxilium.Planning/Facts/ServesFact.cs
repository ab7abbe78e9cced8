using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Facts;

/// <summary>
/// The milestone that a row serves, by its id: what has to be done until it is reached. It is typed by name or number. What serves a row
/// that has gone, or is no milestone now, serves nothing until that is back.
/// </summary>
public sealed class ServesFact : TextFact<ServesFact>
{
    public override string Name => "serves";

    public override string Title => "milestone it serves";

    public override string? SharedWith => "label";

    public override bool NamesRow => true;

    public override int Longest => PlanTask.LongestName;

    public override string InWordsIn(Plan plan, object? value) =>
        value is string id && plan.Find(id) is { } milestone ? $"serves {LengthText.Shorten(milestone.Name)}" : "serves no milestone";

    internal override string? Resolve(Plan plan, PlanTask task, string? value, EditContext context)
    {
        var typed = Tidy(value);
        if (typed is null || context.IsTakenBack)
            return typed;
        // A name is looked for in all rows.
        context.Spend(plan.Tasks.Length);
        var found = plan.Find(typed) ?? ByNumber(plan, typed) ?? ByName(plan, typed);
        if (found is null)
            throw Refused($"There is no milestone called “{LengthText.Shorten(typed)}”: type the name or number of one.");
        if (found.Id == task.Id)
            throw Refused($"“{LengthText.Shorten(task.Name)}” cannot serve itself: choose another milestone.");
        if (!found.Milestone)
            throw Refused($"“{LengthText.Shorten(found.Name)}” is not a milestone: choose one, or make it one first.");
        return found.Id;

        EditRefusedException Refused(string why) => new(Name, why, task.Id, Field);
    }

    internal override IEnumerable<TextRun> SaysIn(Plan plan, string? value, bool many) =>
        value is not null && plan.Find(value) is { } milestone
            ? [new(many ? " serve the milestone " : " serves the milestone "), new(milestone.Name, true), new(".")]
            : [new(many ? " serve no milestone now." : " serves no milestone now.")];

    internal override string? Sample(Random random) => random.Next(3) == 0 ? null : $"{random.Next(1, 8)}";

    private static PlanTask? ByNumber(Plan plan, string typed) =>
        plan.Index.RowNumbered(typed) is var row and >= 0 ? plan.Tasks[row] : null;

    /// <summary>A milestone before other rows of that name.</summary>
    private static PlanTask? ByName(Plan plan, string typed) =>
        plan
            .Tasks.Where(t => t.Name.Equals(typed, StringComparison.OrdinalIgnoreCase))
            .OrderByDescending(t => t.Milestone)
            .FirstOrDefault();
}
