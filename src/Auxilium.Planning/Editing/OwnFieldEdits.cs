using System.Collections.Immutable;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Editing;

/// <summary>Makes, renames, reorders and retires the fields that people added to the tasks of a project: the list as it is then.</summary>
public sealed record SetFields(ImmutableArray<OwnField> Fields) : PlanEdit, IEditKind
{
    public static string Wire => "setFields";

    public override EditTraits Traits => new(null, EditField.Fields, EditRight.Edit);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        // What the project has in a field is not changed with the field.
        ImmutableArray<OwnField> fields = Fields.IsDefaultOrEmpty
            ? []
            :
            [
                .. Fields
                    .Select(field => plan.Project.FindField(field.Id) is { } now ? field with { Value = now.Value } : field)
                    .Select(field => field.Tidy()),
            ];
        if ((WhyRefused(plan, fields) ?? WhyValueRefused(plan, fields, context.Today)) is { } why)
            throw ProjectEdits.Refuse("fields", why, EditField.Fields);
        return ProjectEdits.Changed(
            plan,
            plan.Project with
            {
                Fields = fields,
            },
            new SetFields(fields),
            new SetFields(plan.Project.Fields),
            EditField.Fields
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after)
    {
        var (was, now) = (before.Plan.Project.Fields.ToDictionary(f => f.Id), after.Plan.Project.Fields);
        var fresh = now.Where(f => !was.ContainsKey(f.Id)).ToList();
        if (fresh.Count > 0)
        {
            var who = fresh.All(f => f.OfProject) ? "The project" : "Tasks";
            return [new($"{who} can have {ListText.Listed([.. fresh.Select(f => f.Name)])} now.")];
        }
        if (now.FirstOrDefault(f => f.Retired && was.TryGetValue(f.Id, out var old) && !old.Retired) is { } retired)
            return [new("The field "), new(retired.Name, true), new(" is retired; what it holds is kept.")];
        if (now.FirstOrDefault(f => was.TryGetValue(f.Id, out var old) && old.Name != f.Name) is { } renamed)
            return [new("The field "), new(was[renamed.Id].Name, true), new(" is called "), new(renamed.Name, true), new(" now.")];
        if (before.Plan.Project.Fields.FirstOrDefault(f => now.All(left => left.Id != f.Id)) is { } gone)
            return [new("The field "), new(gone.Name, true), new(" is deleted.")];
        return [new("The fields of the project changed.")];
    }

    public static PlanEdit Sample(EditSampler from) =>
        from.Flip ? new SetFields([]) : new SetFields([EditSampler.Shoes, EditSampler.Shoes with { Id = "hall", Name = "Hall" }]);

    private static string? WhyRefused(Plan plan, ImmutableArray<OwnField> fields)
    {
        if (fields.Length > OwnField.Most)
            return $"A project has at most {OwnField.Most} fields of its own: delete one that is not used.";
        if (fields.Select(field => field.WhyRefused()).FirstOrDefault(why => why is not null) is { } why)
            return why;
        if (fields.DistinctBy(field => field.Id).Count() < fields.Length)
            return "Two fields have the same id.";
        if (fields.GroupBy(field => field.Name, StringComparer.OrdinalIgnoreCase).FirstOrDefault(group => group.Count() > 1) is { } twice)
            return $"There are two fields called {twice.Key}: give one of them another name.";
        foreach (var field in plan.Project.Fields)
        {
            var (fact, now) = (OwnFact.Of(field.Id), fields.FirstOrDefault(f => f.Id == field.Id));
            if (
                now?.Kind == field.Kind
                && now.OfProject == field.OfProject
                && field.Choices.All(choice => now.Choices.Any(c => c.Id == choice.Id))
            )
                continue;
            var used = plan.Tasks.Count(task =>
                task.Facts[fact] is string value
                && (now?.Kind != field.Kind || now.OfProject || (now.Kind == OwnKind.Choice && now.Choices.All(c => c.Id != value)))
            );
            if (used > 0)
                return now?.OfProject == true ? $"{Rows(used)} something in {field.Name}: add another field for the project itself."
                    : now is null ? $"{Rows(used)} something in {field.Name}: retire it, which keeps that, instead of deleting it."
                    : now.Kind != field.Kind
                        ? $"{Rows(used)} something in {field.Name}: add another field instead of changing what it holds."
                    : $"{Rows(used)} a choice of {field.Name} that is left out: keep it, or change those rows first.";
        }
        return null;
    }

    /// <summary>What the project itself has in its fields has to be what they hold.</summary>
    private static string? WhyValueRefused(Plan plan, ImmutableArray<OwnField> fields, DateOnly today)
    {
        foreach (var field in plan.Project.Fields.Where(field => field.Value is not null))
            if (fields.FirstOrDefault(f => f.Id == field.Id) is var now && (now is null || now.Kind != field.Kind || !now.OfProject))
                return now is null
                    ? $"The project has something in {field.Name}: retire it, which keeps that, instead of deleting it."
                    : $"The project has something in {field.Name}: add another field instead of changing what it holds.";
        foreach (var field in fields.Where(field => field.Value is not null))
            if (!OwnText.TryRead(field, field.Value, today, null, out _, out var problem))
                return problem;
        return null;
    }

    private static string Rows(int count) => count == 1 ? "A row has" : $"{count} rows have";
}

/// <summary>Gives the project itself a value of a field that people made.</summary>
/// <param name="Field">Its id.</param>
/// <param name="Value">As people type it, or as it is kept; <c>null</c> for none.</param>
public sealed record SetProjectOwn(string Field, string? Value) : PlanEdit, IEditKind
{
    public static string Wire => "setProjectOwn";

    public override EditTraits Traits => new(null, EditField.Fields, EditRight.Edit);

    public override string Many => "settings of the project changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        if (plan.Project.FindField(Field) is not { OfProject: true } field)
            throw ProjectEdits.Refuse("field", "The project has no such field any more: add it in its settings.", EditField.Fields);
        if (!OwnText.TryRead(field, Value, context.Today, plan.Project.Start?.Date, out var value, out var problem))
            throw ProjectEdits.Refuse("value", problem!, EditField.Fields);
        return ProjectEdits.Changed(
            plan,
            plan.Project with
            {
                Fields = plan.Project.Fields.Replace(field, field with { Value = value }),
            },
            this with
            {
                Value = value,
            },
            this with
            {
                Value = field.Value,
            },
            EditField.Fields
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        (after.Plan.Project.FindField(Field), Value) switch
        {
            ({ } field, { } value) =>
            [
                new("The project has the "),
                new($"{field.Name} "),
                new(OwnText.InWords(field, value), true),
                new("."),
            ],
            var (field, _) => [new($"The project has no {field?.Name ?? Field} now.")],
        };

    public static PlanEdit Sample(EditSampler from)
    {
        var venue = EditSampler.Shoes with { Id = "seats", Name = "Seats", OfProject = true };
        return from.On(
            from.Plan with
            {
                Project = from.Plan.Project with { Fields = [venue] },
            },
            new SetProjectOwn(
                venue.Id,
                from.Flip ? "120"
                    : from.Flip ? null
                    : "many"
            )
        );
    }
}

/// <summary>Gives a task a value of a field that people made.</summary>
/// <param name="Field">Its id.</param>
/// <param name="Value">As people type it, or as it is kept; <c>null</c> for none.</param>
public sealed record SetOwn(string Task, string Field, string? Value) : PlanEdit, IEditKind
{
    public static string Wire => "setOwn";

    public override EditTraits Traits => new(Task, OwnFact.Of(Field).Field, EditRight.Edit);

    public override string Many => "marks changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        if (plan.Project.FindField(Field) is not { } field)
            throw new EditRefusedException("field", "This field is not there any more: add it in the settings of the project.", Task);
        if (field.OfProject)
            throw new EditRefusedException("field", $"{field.Name} is a fact of the project itself: it is set in its settings.", Task);
        var fact = OwnFact.Of(Field);
        if (!OwnText.TryRead(field, Value, context.Today, plan.Project.Start?.Date, out var value, out var problem))
            throw new EditRefusedException(fact.Name, problem!, task.Id, fact.Field);
        return PlanEditor.Changed(
            plan,
            task with
            {
                Facts = task.Facts.With(fact, value),
            },
            this with
            {
                Value = value,
            },
            this with
            {
                Value = task.Facts[fact] as string,
            },
            fact.Field
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [EditText.Called(after, Task), .. Says(after, many: false)];

    internal override IEnumerable<TextRun>? SayOfAll(ImmutableArray<PlanEdit> alike, Schedule after) =>
        alike.All(e => e is SetOwn set && (set.Field, set.Value) == (Field, Value)) ? Says(after, many: true) : null;

    public static PlanEdit Sample(EditSampler from)
    {
        var shoes = EditSampler.Shoes;
        return from.On(
            from.Plan with
            {
                Project = from.Plan.Project with { Fields = [shoes] },
            },
            new SetOwn(
                from.Any,
                shoes.Id,
                from.Flip ? "12"
                    : from.Flip ? null
                    : "many"
            )
        );
    }

    private IEnumerable<TextRun> Says(Schedule after, bool many)
    {
        var field = after.Plan.Project.FindField(Field);
        var name = field?.Name ?? Field;
        return field is null || Value is null
            ? [new($" {(many ? "have" : "has")} no {name} now.")]
            : [new($" {(many ? "have" : "has")} the {name} "), new(OwnText.InWords(field, Value), true), new(".")];
    }
}
