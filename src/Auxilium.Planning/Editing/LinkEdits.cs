using System.Collections.Immutable;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Editing;

/// <summary>What comes before a task.</summary>
internal static class LinkEdits
{
    public static AppliedEdit Type(Plan plan, TypePredecessors edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        if (!LinkText.TryParse(edit.After, out var typed, out var problem)) throw Refuse("linkText", problem, task.Id);
        var links = typed.Select(link => new Predecessor(RowNamed(plan, link.Number, edit), link.Lag, null, link.Kind, link.Elapsed));
        return Set(plan, new SetPredecessors(task.Id, [.. links]));
    }

    public static AppliedEdit Set(Plan plan, SetPredecessors edit)
    {
        var task = PlanEditor.TaskOf(plan, edit.Task);
        if (edit.Links.Length > LinkRules.MostPredecessors)
            throw Refuse("tooMany", $"A task can come after at most {LinkRules.MostPredecessors} others.", task.Id);
        var before = plan.Links.Select((link, position) => (Link: link, Position: position)).Where(l => l.Link.To == task.Id).ToList();
        var links = plan.Links.RemoveAll(l => l.To == task.Id).ToBuilder();
        var kept = before.ToDictionary(l => l.Link.From, l => l.Position);
        var seen = new HashSet<string>();
        foreach (var (from, lag, position, kind, elapsed) in edit.Links.OrderBy(l => l.Position ?? kept.GetValueOrDefault(l.From, int.MaxValue)))
        {
            var link = new PlanLink(from, task.Id, lag, kind, elapsed);
            Check(plan, link, task.Id);
            if (!seen.Add(link.From)) throw Refuse(LinkRules.Duplicate(plan, link), link.To);
            links.Insert(Math.Clamp(position ?? kept.GetValueOrDefault(from, int.MaxValue), 0, links.Count), link);
        }
        if (links.Count > LinkRules.MostLinks) throw Refuse("tooMany", $"A plan holds at most {LinkRules.MostLinks:N0} links.", task.Id);
        var inverse = new SetPredecessors(task.Id, [.. before.Select(l => new Predecessor(l.Link.From, l.Link.Lag, l.Position, l.Link.Kind, l.Link.Elapsed))]);
        return new AppliedEdit(plan with { Links = links.ToImmutable() }, edit, inverse, [new Touch(task.Id, EditField.After)]);
    }

    public static AppliedEdit Link(Plan plan, LinkTasks edit)
    {
        var to = PlanEditor.TaskOf(plan, edit.To);
        var at = IndexOf(plan, edit.From, to.Id);
        var was = at < 0 ? new PlanLink(edit.From, to.Id, Length.Zero) : plan.Links[at];
        var link = was with { Lag = edit.Lag ?? was.Lag, Kind = edit.Kind ?? was.Kind, Elapsed = edit.Elapsed ?? was.Elapsed };
        Check(plan, link, to.Id);
        if (at < 0 && plan.Links.Length >= LinkRules.MostLinks) throw Refuse("tooMany", $"A plan holds at most {LinkRules.MostLinks:N0} links.", to.Id);
        if (at < 0 && plan.Links.Count(l => l.To == to.Id) >= LinkRules.MostPredecessors) throw Refuse("tooMany", $"A task can come after at most {LinkRules.MostPredecessors} others.", to.Id);
        var links = at < 0 ? plan.Links.Insert(Math.Clamp(edit.Position ?? int.MaxValue, 0, plan.Links.Length), link) : plan.Links.SetItem(at, link);
        PlanEdit inverse = at < 0 ? new UnlinkTasks(link.From, link.To) : Exactly(plan.Links[at], at);
        var decided = edit with { Kind = link.Kind, Lag = link.Lag, Elapsed = link.Elapsed };
        return new AppliedEdit(plan with { Links = links }, decided, inverse, [new Touch(to.Id, EditField.After)]);
    }

    public static AppliedEdit Unlink(Plan plan, UnlinkTasks edit)
    {
        var at = IndexOf(plan, edit.From, edit.To);
        if (at < 0) throw Refuse("linkGone", "These two are not linked any more: somebody has taken the link away.", edit.To);
        return new AppliedEdit(plan with { Links = plan.Links.RemoveAt(at) }, edit, Exactly(plan.Links[at], at), [new Touch(edit.To, EditField.After)]);
    }

    private static int IndexOf(Plan plan, string from, string to)
    {
        for (var i = 0; i < plan.Links.Length; i++)
            if (plan.Links[i].To == to && plan.Links[i].From == from)
                return i;
        return -1;
    }

    private static LinkTasks Exactly(PlanLink link, int position) => new(link.From, link.To, link.Kind, link.Lag, link.Elapsed, position);

    private static void Check(Plan plan, PlanLink link, string task)
    {
        if (plan.Find(link.From) is null) throw Refuse("taskGone", "A row that this one was to come after is no longer in the plan.", task);
        if (LengthText.WhyUnusable(link.Lag, plan.Project.Units) is { } why) throw Refuse("length", why, task);
        if (LinkRules.Refusal(plan, link) is { } refusal) throw Refuse(refusal, task);
    }

    private static string RowNamed(Plan plan, string number, TypePredecessors edit)
    {
        if (edit.Rows is { } rows)
        {
            if (rows.TryGetValue(number, out var id)) return plan.Find(id) is not null ? id : throw Refuse("taskGone", $"Row {number} is no longer in the plan.", edit.Task);
        }
        else if (plan.Index.RowNumbered(number) is var row and >= 0)
        {
            return plan.Tasks[row].Id;
        }
        var last = plan.Index.TopLevel().LastOrDefault(-1);
        throw Refuse("unknownRow", $"There is no row {number}: use a number from the left of the list, 1 to {(last < 0 ? "1" : plan.Index.NumberOf(last))}, or with a dot inside a phase.", edit.Task);
    }

    private static EditRefusedException Refuse(string code, string message, string task) => new(code, message, task, EditField.After);

    private static EditRefusedException Refuse(PlanProblem problem, string task) => Refuse(problem.Code, problem.Message, task);
}
