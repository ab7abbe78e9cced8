using System.Collections.Immutable;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;
using static Auxilium.Planning.Editing.LinkEdits;
using static Auxilium.Planning.Words.EditText;

namespace Auxilium.Planning.Editing;

/// <summary>Sets what comes before a task from text such as <c>after 4, 2.1 + 2d</c>.</summary>
/// <param name="Rows">Which task each row number meant to the person who typed it; without it, the numbers of the plan as it is.</param>
public sealed record TypePredecessors(string Task, string After, ImmutableDictionary<string, string>? Rows = null)
    : UndecidedEdit,
        IEditKind
{
    public static string Wire => "typePredecessors";

    public override EditTraits Traits => new(Task, EditField.After, EditRight.Edit);

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        if (!LinkText.TryParse(After, out var typed, out var problem))
            throw Refuse("linkText", problem, task.Id);
        var links = typed.Select(link => new Predecessor(RowNamed(plan, link.Number, this), link.Lag, null, link.Kind, link.Elapsed));
        return new SetPredecessors(task.Id, [.. links]).Apply(plan, context);
    }

    public static PlanEdit Sample(EditSampler from) =>
        new TypePredecessors(from.Any, from.Plan.Index.NumberOf(from.Random.Next(from.Plan.Tasks.Length)) + " + 1d");
}

/// <summary>Sets exactly which tasks come before a task.</summary>
public sealed record SetPredecessors(string Task, ImmutableArray<Predecessor> Links) : PlanEdit, IEditKind
{
    public static string Wire => "setPredecessors";

    public override EditTraits Traits => new(Task, EditField.After, EditRight.Edit);

    public override string Many => "links set";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        if (Links.Length > LinkRules.MostPredecessors)
            throw Refuse("tooMany", $"A task can come after at most {LinkRules.MostPredecessors} others.", task.Id);
        var before = plan.Links.Select((link, position) => (Link: link, Position: position)).Where(l => l.Link.To == task.Id).ToList();
        var links = plan.Links.RemoveAll(l => l.To == task.Id).ToBuilder();
        var kept = before.ToDictionary(l => l.Link.From, l => l.Position);
        var seen = new HashSet<string>();
        foreach (
            var (from, lag, position, kind, elapsed) in Links.OrderBy(l => l.Position ?? kept.GetValueOrDefault(l.From, int.MaxValue))
        )
        {
            var link = new PlanLink(from, task.Id, lag, kind, elapsed);
            Check(plan, link, task.Id);
            if (!seen.Add(link.From))
                throw Refuse(LinkRules.Duplicate(plan, link), link.To);
            links.Insert(Math.Clamp(position ?? kept.GetValueOrDefault(from, int.MaxValue), 0, links.Count), link);
        }
        if (links.Count > LinkRules.MostLinks)
            throw Refuse("tooMany", $"A plan holds at most {LinkRules.MostLinks:N0} links.", task.Id);
        var inverse = new SetPredecessors(
            task.Id,
            [.. before.Select(l => new Predecessor(l.Link.From, l.Link.Lag, l.Position, l.Link.Kind, l.Link.Elapsed))]
        );
        return new AppliedEdit(plan with { Links = links.ToImmutable() }, this, inverse, [new Touch(task.Id, EditField.After)]);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after)
    {
        yield return Called(after, Task);
        if (Links.IsEmpty)
        {
            yield return new(" no longer waits for anything.");
            yield break;
        }
        var first = Links[0];
        yield return new($" {LinkKindText.NowWaits(first.Kind, first.Lag, first.Elapsed)} ");
        yield return Called(after, first.From);
        if (Links.Length > 1)
            yield return new(Links.Length == 2 ? " and one more" : $" and {Links.Length - 1} more");
        yield return new(".");
    }

    public static PlanEdit Sample(EditSampler from) =>
        new SetPredecessors(
            from.Any,
            from.Flip ? [] : [new Predecessor(from.Leaf, Length.OneDay, null, (LinkKind)from.Random.Next(4), from.Random.Next(2) == 0)]
        );
}

/// <param name="Position">Where the link stands among all links of the plan; at the end when left out.</param>
public sealed record Predecessor(
    string From,
    Length Lag,
    int? Position = null,
    LinkKind Kind = LinkKind.FinishToStart,
    bool Elapsed = false
);

/// <summary>Links two tasks, or changes the link between them: what is left out stays as it is.</summary>
/// <param name="Kind">Finish to start when left out of a new link.</param>
/// <param name="Lag">None when left out of a new link; negative is a lead.</param>
/// <param name="Elapsed">Whether the lag is counted by the clock; not when left out of a new link.</param>
/// <param name="Position">Where a new link stands among all links of the plan; at the end when left out.</param>
public sealed record LinkTasks(
    string From,
    string To,
    LinkKind? Kind = null,
    Length? Lag = null,
    bool? Elapsed = null,
    int? Position = null
) : PlanEdit, IEditKind
{
    public static string Wire => "linkTasks";

    public override EditTraits Traits => new(To, EditField.After, EditRight.Edit);

    public override string Many => "links set";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var to = PlanEditor.TaskOf(plan, To);
        var at = IndexOf(plan, From, to.Id);
        var was = at < 0 ? new PlanLink(From, to.Id, Length.Zero) : plan.Links[at];
        var link = was with { Lag = Lag ?? was.Lag, Kind = Kind ?? was.Kind, Elapsed = Elapsed ?? was.Elapsed };
        Check(plan, link, to.Id);
        if (at < 0 && plan.Links.Length >= LinkRules.MostLinks)
            throw Refuse("tooMany", $"A plan holds at most {LinkRules.MostLinks:N0} links.", to.Id);
        if (at < 0 && plan.Links.Count(l => l.To == to.Id) >= LinkRules.MostPredecessors)
            throw Refuse("tooMany", $"A task can come after at most {LinkRules.MostPredecessors} others.", to.Id);
        var links =
            at < 0 ? plan.Links.Insert(Math.Clamp(Position ?? int.MaxValue, 0, plan.Links.Length), link) : plan.Links.SetItem(at, link);
        PlanEdit inverse = at < 0 ? new UnlinkTasks(link.From, link.To) : Exactly(plan.Links[at], at);
        var decided = this with { Kind = link.Kind, Lag = link.Lag, Elapsed = link.Elapsed };
        return new AppliedEdit(plan with { Links = links }, decided, inverse, [new Touch(to.Id, EditField.After)]);
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [
            Called(after, To),
            new($" {LinkKindText.NowWaits(Kind ?? LinkKind.FinishToStart, Lag ?? Length.Zero, Elapsed is true)} "),
            Called(after, From),
            new("."),
        ];

    internal override IEnumerable<TextRun>? SayOfAll(ImmutableArray<PlanEdit> alike, Schedule after) =>
        alike.All(e => e is LinkTasks) ? [new(" now wait for one another.")] : null;

    public static PlanEdit Sample(EditSampler from)
    {
        var (one, other) = (from.Random.Next(from.Plan.Tasks.Length), from.Random.Next(from.Plan.Tasks.Length));
        return new LinkTasks(
            from.Plan.Tasks[Math.Min(one, other)].Id,
            from.Plan.Tasks[Math.Max(one, other)].Id,
            from.Random.Next(5) is var kind and < 4 ? (LinkKind)kind : null,
            from.Flip ? new Length(from.Random.Next(-9, 9), LengthUnit.Hours) : null,
            from.Flip ? from.Flip : null
        );
    }
}

/// <summary>Takes the link between two tasks away.</summary>
public sealed record UnlinkTasks(string From, string To) : PlanEdit, IEditKind
{
    public static string Wire => "unlinkTasks";

    public override EditTraits Traits => new(To, EditField.After, EditRight.Edit);

    public override string Many => "links taken away";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var at = IndexOf(plan, From, To);
        if (at < 0)
            throw Refuse("linkGone", "These two are not linked any more: somebody has taken the link away.", To);
        return new AppliedEdit(
            plan with
            {
                Links = plan.Links.RemoveAt(at),
            },
            this,
            Exactly(plan.Links[at], at),
            [new Touch(To, EditField.After)]
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [Called(after, To), new(" no longer waits for "), Called(after, From), new(".")];

    public static PlanEdit Sample(EditSampler from)
    {
        var link = from.Linked();
        return new UnlinkTasks(link.From, link.To);
    }
}

/// <summary>What comes before a task.</summary>
internal static class LinkEdits
{
    internal static int IndexOf(Plan plan, string from, string to)
    {
        for (var i = 0; i < plan.Links.Length; i++)
            if (plan.Links[i].To == to && plan.Links[i].From == from)
                return i;
        return -1;
    }

    internal static LinkTasks Exactly(PlanLink link, int position) => new(link.From, link.To, link.Kind, link.Lag, link.Elapsed, position);

    internal static void Check(Plan plan, PlanLink link, string task)
    {
        if (plan.Find(link.From) is null)
            throw Refuse("taskGone", "A row that this one was to come after is no longer in the plan.", task);
        if (LengthText.WhyUnusable(link.Lag, plan.Project.Units) is { } why)
            throw Refuse("length", why, task);
        if (LinkRules.Refusal(plan, link) is { } refusal)
            throw Refuse(refusal, task);
    }

    internal static string RowNamed(Plan plan, string number, TypePredecessors edit)
    {
        if (edit.Rows is { } rows)
        {
            if (rows.TryGetValue(number, out var id))
                return plan.Find(id) is not null ? id : throw Refuse("taskGone", $"Row {number} is no longer in the plan.", edit.Task);
        }
        else if (plan.Index.RowNumbered(number) is var row and >= 0)
        {
            return plan.Tasks[row].Id;
        }
        var last = plan.Index.TopLevel().LastOrDefault(-1);
        throw Refuse(
            "unknownRow",
            $"There is no row {number}: use a number from the left of the list, 1 to {(last < 0 ? "1" : plan.Index.NumberOf(last))}, "
                + "or with a dot inside a phase.",
            edit.Task
        );
    }

    internal static EditRefusedException Refuse(string code, string message, string task) => new(code, message, task, EditField.After);

    internal static EditRefusedException Refuse(PlanProblem problem, string task) => Refuse(problem.Code, problem.Message, task);
}
