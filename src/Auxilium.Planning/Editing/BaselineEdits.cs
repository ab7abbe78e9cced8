using System.Collections.Immutable;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Editing.BaselineEdits;

namespace Auxilium.Planning.Editing;

/// <summary>Remembers the plan as it is (rule S1).</summary>
/// <param name="Tasks">Only these rows, with all that is inside them; all rows when left out.</param>
/// <param name="Id">Its id; made up when left out.</param>
public sealed record TakeBaseline(string Name, ImmutableArray<string>? Tasks = null, string? Id = null) : PlanEdit, IEditKind
{
    public static string Wire => "takeBaseline";

    public override EditTraits Traits => new(null, EditField.Baselines, EditRight.Edit, EditNeeds.Costs);

    public override string Many => BaselineEdits.Many;

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var only = Tasks is { IsDefault: false } tasks ? PlanEditor.WithInside(plan, tasks) : null;
        var id = Id ?? FreeId(plan);
        if (!PlanIds.IsId(id))
            throw Refuse("id", "The id of a baseline is 1 to 64 letters, digits, “-” or “_”.");
        var schedule = context.ScheduleOf(plan);
        var taken = Baselines.Take(schedule, id, CheckName(plan, Name), context.Today, only, context.Costs?.Invoke(schedule));
        if (taken.Rows.IsEmpty)
            throw Refuse("empty", "There is nothing to remember yet: a baseline needs at least one active row.");
        var added = Add(plan, taken, plan.Baselines.Length);
        // Two people may take one at the same time.
        return new AppliedEdit(added, this with { Name = taken.Name, Id = id }, new DeleteBaseline(id), []);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        after.Plan.FindBaseline(Id!) is { } taken
            ?
            [
                new("Baseline "),
                new(LengthText.Shorten(taken.Name), true),
                new(
                    taken.Whole ? " taken of the whole plan."
                    : taken.Rows.Length == 1 ? " taken of 1 row."
                    : $" taken of {taken.Rows.Length} rows."
                ),
            ]
            : [new("A baseline was taken.")];

    internal override bool IsLeft(Schedule before, Schedule after) => after.Plan.FindBaseline(Id!) is not null;

    public static PlanEdit Sample(EditSampler from) => new TakeBaseline(" As agreed", from.Flip ? null : [from.Any, from.Leaf]);
}

/// <summary>Remembers the plan as it was at a version that has passed (rule S5).</summary>
/// <param name="Version">The version: the plan starts with 1, and every edit makes the next.</param>
public sealed record TakePastBaseline(string Name, int Version) : UndecidedEdit, IEditKind
{
    public static string Wire => "takePastBaseline";

    public override EditTraits Traits => new(null, EditField.Baselines, EditRight.Edit, EditNeeds.Past | EditNeeds.Costs);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        if (context.Past?.Invoke(Version) is not { } past)
            throw Refuse("version", $"This plan never had a version {Version}: choose one from its journal.");
        var taken = Baselines.Take(
            past.Schedule,
            FreeId(plan),
            CheckName(plan, Name),
            past.Day,
            costs: context.Costs?.Invoke(past.Schedule)
        );
        if (taken.Rows.IsEmpty)
            throw Refuse("empty", "The plan was empty then: choose a later day.");
        return new AddBaseline(taken, plan.Baselines.Length).Apply(plan, context);
    }

    public static PlanEdit Sample(EditSampler from) => new TakePastBaseline("As it was", 1);
}

/// <summary>Puts a baseline among those of a plan: one that was deleted, or that of a past version.</summary>
/// <param name="Position">Where it stands among them.</param>
/// <param name="Chosen">Whether it is what the project is measured by, whichever is newer.</param>
public sealed record AddBaseline(Baseline Baseline, int Position, bool Chosen = false) : PlanEdit, IEditKind, ITrustedEdit
{
    public static string Wire => "addBaseline";

    public override EditTraits Traits => new(null, EditField.Baselines, EditRight.Edit);

    public override string Many => BaselineEdits.Many;

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var after = Add(plan, Baseline, Math.Clamp(Position, 0, plan.Baselines.Length));
        if (Chosen)
            after = after with { Project = after.Project with { Measure = Baseline.Id } };
        PlanEdit inverse = new DeleteBaseline(Baseline.Id);
        if (Chosen && plan.Project.Measure is { } other)
            inverse = new Together([inverse, new SetMeasure(other)]);
        // Like one that is taken, it meets nobody else's.
        return new AppliedEdit(after, this, inverse, []);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [new("Baseline "), new(LengthText.Shorten(Baseline.Name), true), new(" added.")];

    internal override bool IsLeft(Schedule before, Schedule after) => after.Plan.FindBaseline(Baseline.Id) is not null;

    public static PlanEdit Sample(EditSampler from)
    {
        var taken = from.Remembered();
        var plan = from.Plan with { Baselines = [], Project = from.Plan.Project with { Measure = null } };
        return from.On(plan, new AddBaseline(taken, 0, from.Flip));
    }
}

/// <param name="Baseline">Id of the baseline.</param>
public sealed record RenameBaseline(string Baseline, string Name) : PlanEdit, IEditKind
{
    public static string Wire => "renameBaseline";

    public override EditTraits Traits => new(null, EditField.Baselines, EditRight.Edit);

    public override string Many => BaselineEdits.Many;

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var known = BaselineOf(plan, Baseline);
        var renamed = known with { Name = CheckName(plan, Name, known) };
        return new AppliedEdit(
            plan with
            {
                Baselines = plan.Baselines.Replace(known, renamed, ReferenceEqualityComparer.Instance),
            },
            this with
            {
                Name = renamed.Name,
            },
            this with
            {
                Name = known.Name,
            },
            Touched
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [
            new("Baseline "),
            new(LengthText.Shorten(before.Plan.FindBaseline(Baseline)?.Name ?? Name), true),
            new(" is now called "),
            new(LengthText.Shorten(Name), true),
            new("."),
        ];

    internal override bool IsLeft(Schedule before, Schedule after) => after.Plan.FindBaseline(Baseline) is not null;

    public static PlanEdit Sample(EditSampler from) => new RenameBaseline(from.Remembered().Id, from.Flip ? "As promised" : "as agreed");
}

/// <param name="Baseline">Id of the baseline.</param>
public sealed record DeleteBaseline(string Baseline) : PlanEdit, IEditKind
{
    public static string Wire => "deleteBaseline";

    public override EditTraits Traits => new(null, EditField.Baselines, EditRight.Edit);

    public override string Many => BaselineEdits.Many;

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var known = BaselineOf(plan, Baseline);
        var chosen = plan.Project.Measure == known.Id;
        var position = plan.Baselines.IndexOf(known, 0, ReferenceEqualityComparer.Instance);
        var after = plan with { Baselines = plan.Baselines.RemoveAt(position) };
        if (chosen)
            after = after with { Project = after.Project with { Measure = null } };
        return new AppliedEdit(after, this, new AddBaseline(known, position, chosen), Touched);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [new("Baseline "), new(LengthText.Shorten(before.Plan.FindBaseline(Baseline)?.Name ?? Baseline), true), new(" deleted.")];

    internal override bool IsLeft(Schedule before, Schedule after) => before.Plan.FindBaseline(Baseline) is not null;

    public static PlanEdit Sample(EditSampler from) => new DeleteBaseline(from.Remembered().Id);
}

/// <summary>Chooses the baseline that the project is measured by (rule S4).</summary>
/// <param name="Baseline">Its id; <c>null</c> for the newest of all rows, whichever that is.</param>
public sealed record SetMeasure(string? Baseline) : PlanEdit, IEditKind
{
    public static string Wire => "setMeasure";

    public override EditTraits Traits => new(null, EditField.Baselines, EditRight.Edit);

    public override string Many => BaselineEdits.Many;

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        if (Baseline is not null)
            BaselineOf(plan, Baseline);
        var after = plan with { Project = plan.Project with { Measure = Baseline } };
        return new AppliedEdit(after, this, new SetMeasure(plan.Project.Measure), Touched);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        after.Plan.Measure is { } measure
            ?
            [
                new("Drift is now measured against "),
                new(LengthText.Shorten(measure.Name), true),
                new(Baseline is null ? ", the newest baseline." : "."),
            ]
            : [new("Drift is now measured against the newest baseline of the whole plan.")];

    public static PlanEdit Sample(EditSampler from)
    {
        var taken = from.Remembered();
        return new SetMeasure(from.Flip ? null : taken.Id);
    }
}

/// <summary>What a plan remembers of itself: nothing of it moves a date.</summary>
internal static class BaselineEdits
{
    internal const string Many = "baselines changed";

    internal static readonly Touch[] Touched = [new(null, EditField.Baselines)];

    internal static Baseline BaselineOf(Plan plan, string id) =>
        plan.FindBaseline(id) ?? throw Refuse("baselineGone", "This baseline is no longer in the plan: somebody has deleted it.");

    /// <summary>An id that no baseline of the plan has.</summary>
    internal static string FreeId(Plan plan) =>
        Enumerable.Range(1, plan.Baselines.Length + 1).Select(n => $"b{n}").First(id => plan.FindBaseline(id) is null);

    internal static Plan Add(Plan plan, Baseline baseline, int position)
    {
        if (plan.Baselines.Length >= Baseline.Most)
            throw Refuse("tooMany", $"A plan has at most {Baseline.Most} baselines: delete one that is no longer needed.");
        if (plan.FindBaseline(baseline.Id) is not null)
            throw Refuse("id", $"There is a baseline with the id “{baseline.Id}” already.");
        return plan with { Baselines = plan.Baselines.Insert(position, baseline) };
    }

    /// <summary>A name without spaces around it, that no other baseline has.</summary>
    internal static string CheckName(Plan plan, string? name, Baseline? own = null)
    {
        var trimmed = (name ?? "").Trim();
        if (trimmed.Length == 0)
            throw Refuse("name", "A baseline needs a name: type what it stands for, such as As agreed.");
        if (trimmed.Length > Baseline.LongestName || trimmed.Any(char.IsControl))
            throw Refuse("name", $"The name of a baseline is one line of at most {Baseline.LongestName} characters.");
        if (plan.Baselines.Any(b => b.Id != own?.Id && b.Name.Equals(trimmed, StringComparison.OrdinalIgnoreCase)))
            throw Refuse("name", $"There is a baseline called “{LengthText.Shorten(trimmed)}” already: type another name.");
        return trimmed;
    }

    internal static EditRefusedException Refuse(string code, string message) => new(code, message, null, EditField.Baselines);
}
