using System.Collections.Immutable;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Editing;

/// <summary>Rows that come and go.</summary>
internal static class RowEdits
{
    public static AppliedEdit Add(Plan plan, AddTask edit)
    {
        if (!PlanIds.IsId(edit.Id)) throw new EditRefusedException("id", "A row's id is 1 to 64 letters, digits, “-” or “_”.", edit.Id);
        if (plan.Find(edit.Id) is not null) throw new EditRefusedException("id", $"The plan already has a row with the id “{edit.Id}”.", edit.Id);
        RefuseMore(plan, 1, edit.Id);
        var task = PlanTask.Named(edit.Id, TaskEdits.CheckName(edit.Name, edit.Id), edit.Parent);
        var at = OutlineEdits.InsertionPoint(plan, edit.Parent, edit.After, edit.Id);
        if (edit.Parent is { } parent && plan.Find(parent) is { Milestone: true } milestone) throw OutlineEdits.RefuseMilestone(milestone, edit.Id);
        return new AppliedEdit(plan with { Tasks = plan.Tasks.Insert(at, task) }, edit with { Name = task.Name }, new RemoveTasks([edit.Id]), [Touch.Row(edit.Id)]);
    }

    public static AppliedEdit Remove(Plan plan, RemoveTasks edit)
    {
        if (edit.Tasks.IsDefaultOrEmpty) throw new EditRefusedException("nothing", "No row was named to remove.");
        var index = plan.Index;
        var going = PlanEditor.WithInside(plan, edit.Tasks);
        var ids = going.Select(row => plan.Tasks[row].Id).ToHashSet();
        var restored = going.Select(row => new RestoredTask(plan.Tasks[row], index.PreviousSibling(row) is var before and >= 0 ? plan.Tasks[before].Id : null));
        var links = plan.Links.Select((link, position) => new RestoredLink(link, position)).Where(l => ids.Contains(l.Link.From) || ids.Contains(l.Link.To));
        var inverse = new RestoreTasks([.. restored], [.. links]);
        var after = plan with
        {
            Tasks = [.. plan.Tasks.Where(t => !ids.Contains(t.Id))],
            Links = [.. plan.Links.Where(l => !ids.Contains(l.From) && !ids.Contains(l.To))],
        };
        var cut = inverse.Links.Select(l => l.Link.To).Where(to => !ids.Contains(to)).Distinct();
        return new AppliedEdit(after, edit, inverse, [.. ids.Select(Touch.Row), .. cut.Select(to => new Touch(to, EditField.After))]);
    }

    public static AppliedEdit Copy(Plan plan, CopyTasks edit)
    {
        if (edit.Tasks.IsDefaultOrEmpty) throw new EditRefusedException("nothing", "No row was named to copy.");
        var rows = PlanEditor.WithInside(plan, edit.Tasks);
        RefuseMore(plan, rows.Count, null);
        var ids = edit.Ids ?? [.. rows.Select(_ => PlanIds.New())];
        if (ids.Length != rows.Count) throw new EditRefusedException("id", $"{rows.Count} rows are copied, so {rows.Count} ids are needed, or none.");
        if (ids.FirstOrDefault(id => !PlanIds.IsId(id) || plan.Find(id) is not null) is { } bad || ids.Distinct().Count() < ids.Length)
            throw new EditRefusedException("id", "The id of each copy is 1 to 64 letters, digits, “-” or “_”, and no other row has it.");
        if (edit.Parent is { } parent && plan.Find(parent) is { Milestone: true } milestone) throw OutlineEdits.RefuseMilestone(milestone, parent);
        var copies = rows.Zip(ids).ToDictionary(pair => plan.Tasks[pair.First].Id, pair => pair.Second);
        var at = OutlineEdits.InsertionPoint(plan, edit.Parent, edit.After, edit.Tasks[0]);
        var copied = rows.Select(row => AsNew(plan.Tasks[row], copies, edit.Parent)).ToList();
        var after = plan with
        {
            Tasks = plan.Tasks.InsertRange(at, copied),
            Links = plan.Links.AddRange(plan.Links.Where(l => copies.ContainsKey(l.From) && copies.ContainsKey(l.To)).Select(l => l with { From = copies[l.From], To = copies[l.To] })),
        };
        OutlineEdits.CheckOutline(after, edit.Tasks[0]);
        return new AppliedEdit(after, edit with { Ids = ids }, new RemoveTasks([.. copied.Where(t => t.Parent == edit.Parent).Select(t => t.Id)]), [.. ids.Select(Touch.Row)]);
    }

    /// <summary>The row under another id, with nothing done of it.</summary>
    private static PlanTask AsNew(PlanTask task, Dictionary<string, string> ids, string? parent) => task with
    {
        Id = ids[task.Id],
        Parent = task.Parent is { } own && ids.TryGetValue(own, out var copy) ? copy : parent,
        Progress = 0,
        ActualStart = null,
        ActualFinish = null,
        Remaining = null,
        Before = null,
        Checklist = [.. task.Checklist.Select(step => step with { Done = false })],
    };

    internal static void RefuseMore(Plan plan, int rows, string? task)
    {
        if (plan.Tasks.Length + rows > Plan.MostTasks)
            throw new EditRefusedException("tooMany", $"A plan holds at most {Plan.MostTasks:N0} rows: start another project for the rest.", task, EditField.Name);
    }

    public static AppliedEdit Restore(Plan plan, RestoreTasks edit)
    {
        foreach (var (task, after) in edit.Tasks)
        {
            if (plan.Find(task.Id) is not null) throw new EditRefusedException("id", $"“{LengthText.Shorten(task.Name)}” is in the plan already.", task.Id);
            // A sibling or phase that has gone since must not keep the row from coming back.
            var parent = task.Parent is { } p && plan.Find(p) is not null ? p : null;
            var sibling = after is { } a && plan.Find(a) is { } s && s.Parent == parent ? a : null;
            var at = OutlineEdits.InsertionPoint(plan, parent, sibling, task.Id);
            plan = plan with { Tasks = plan.Tasks.Insert(at, task with { Parent = parent }) };
        }
        var links = plan.Links.ToBuilder();
        foreach (var (link, position) in edit.Links)
            if (plan.Find(link.From) is not null && plan.Find(link.To) is not null)
                links.Insert(Math.Min(position, links.Count), link);
        plan = plan with { Links = links.ToImmutable() };
        var ids = edit.Tasks.Select(t => t.Task.Id).ToImmutableArray();
        var touched = edit.Links.Select(l => l.Link.To).Where(to => !ids.Contains(to)).Distinct().Select(to => new Touch(to, EditField.After));
        return new AppliedEdit(plan, edit, new RemoveTasks(ids), [.. ids.Select(Touch.Row), .. touched]);
    }
}
