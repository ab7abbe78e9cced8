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
        var links = typed.Select(link => new Predecessor(RowNamed(plan, link.Number, edit), link.Lag));
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
        foreach (var (from, lag, position) in edit.Links.OrderBy(l => l.Position ?? kept.GetValueOrDefault(l.From, int.MaxValue)))
        {
            var link = new PlanLink(from, task.Id, lag);
            Check(plan, link, seen);
            links.Insert(Math.Clamp(position ?? kept.GetValueOrDefault(from, int.MaxValue), 0, links.Count), link);
        }
        if (links.Count > LinkRules.MostLinks) throw Refuse("tooMany", $"A plan holds at most {LinkRules.MostLinks:N0} links.", task.Id);
        var inverse = new SetPredecessors(task.Id, [.. before.Select(l => new Predecessor(l.Link.From, l.Link.Lag, l.Position))]);
        return new AppliedEdit(plan with { Links = links.ToImmutable() }, edit, inverse, [new Touch(task.Id, EditField.After)]);
    }

    private static void Check(Plan plan, PlanLink link, HashSet<string> seen)
    {
        if (plan.Find(link.From) is null) throw Refuse("taskGone", "A row that this one was to come after is no longer in the plan.", link.To);
        if (LengthText.WhyUnusable(link.Lag, plan.Project.Units) is { } why) throw Refuse("length", why, link.To);
        if (!seen.Add(link.From)) throw Refuse(LinkRules.Duplicate(plan, link), link.To);
        if (LinkRules.Refusal(plan, link) is { } refusal) throw Refuse(refusal, link.To);
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
