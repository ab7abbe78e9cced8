using System.Collections.Immutable;
using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;

namespace Auxilium.Exchange.Lists;

/// <summary>
/// A list beside the rows of a plan that it was once brought in as: what is new, what has changed and what is gone. An empty cell says
/// nothing, and what the list does not say stays as it is.
/// </summary>
internal sealed class ListComparison
{
    private readonly Plan _plan;
    private readonly Schedule _schedule;
    private readonly ListOptions _options;
    private readonly List<MadeRow> _rows;
    private readonly HashSet<string> _listed;
    private readonly ILookup<string, PlanLink> _linksTo;

    /// <param name="context">What edits are understood by.</param>
    /// <param name="fields">The edit that adds fields; <c>null</c> for none.</param>
    public ListComparison(EditContext context, ListOptions options, List<MadeRow> rows, PlanEdit? fields)
    {
        (_schedule, _plan, _options, _rows) = (context.Schedule, context.Schedule.Plan, options, rows);
        _listed = [.. rows.Select(row => row.Id)];
        _linksTo = _plan.Links.ToLookup(link => link.To);
        var alone = _plan with { Tasks = [], Links = [], Baselines = [] };
        if (fields is not null)
            alone = PlanEditor.Apply(alone, fields, context).Plan;
        foreach (var row in rows.Where(row => row.Existing is not null))
            Compare(row, row.Existing!, alone, context);
        Gone = FindGone();
    }

    public IReadOnlyList<ListGone> Gone { get; }

    /// <summary>The rows that are to go.</summary>
    public ImmutableArray<string> Removed => [.. Gone.Select(gone => gone.Task).Where(id => _options.Remove?.Contains(id) == true)];

    public static ListRowState StateOf(MadeRow row) =>
        row.Existing is null ? ListRowState.New
        : row.Changes.Count > 0 ? ListRowState.Changed
        : ListRowState.Same;

    /// <summary>Whether anything is done for a row. What is new in a phase that is left out is left out with it.</summary>
    public bool IsTaken(MadeRow row) =>
        _options.Leave?.Contains(row.Entry.Line) != true && (row.Existing is null ? IsThere(row.Phase) : row.Changes.Count > 0);

    /// <summary>What to say where nothing is left to do.</summary>
    public string WhyNothing() =>
        _rows.Any(row => StateOf(row) != ListRowState.Same)
            ? "Nothing of this list is chosen, so the plan stays as it is."
            : "The plan has all of this list already.";

    /// <summary>New rows beside those that they stand beside in the list, and rows that stand in another phase now.</summary>
    public List<PlanEdit> Places()
    {
        var edits = new List<PlanEdit>();
        // By phase: the row last seen in it.
        var last = new Dictionary<string, string>();
        var first = _rows.Find(row => row.Entry.Level == 0 && row.Existing is not null);
        var top = first is null ? _options.Parent : first.Existing!.Parent;
        if (first is null && _options.After is { } after)
            last[top ?? ""] = after;
        foreach (var row in _rows)
        {
            if (row.Existing is null && !IsTaken(row))
                continue;
            var parent = row.Existing is { } task ? task.Parent : row.Phase?.Id ?? top;
            if (row.Existing is null)
                edits.Add(new AddTask(row.Id, ListEdits.NameOf(row), parent, last.GetValueOrDefault(parent ?? "")));
            else if (IsTaken(row))
            {
                if (row.Existing.Name != ListEdits.NameOf(row))
                    edits.Add(new RenameTask(row.Id, ListEdits.NameOf(row)));
                if (MovesTo(row) is { } phase)
                    edits.Add(new MoveTask(row.Id, parent = phase.Id, last.GetValueOrDefault(phase.Id)));
            }
            last[parent ?? ""] = row.Id;
            if (row.Entry.Level == 0)
                top = parent;
        }
        return edits;
    }

    private bool IsThere(MadeRow? phase) => phase is null || phase.Existing is not null || IsTaken(phase);

    /// <summary>The phase that a row stands in by the list, where it is another.</summary>
    private MadeRow? MovesTo(MadeRow row) => row.Phase is { } phase && IsThere(phase) && row.Existing?.Parent != phase.Id ? phase : null;

    /// <summary>Keeps of what a row is given only what it does not have.</summary>
    private void Compare(MadeRow row, PlanTask task, Plan alone, EditContext context)
    {
        if (task.Name != ListEdits.NameOf(row))
            row.Changes.Add(new(ListColumnKind.Task, task.Name, ListEdits.NameOf(row)));
        if (MovesTo(row) is { } phase)
            row.Changes.Add(new(null, NameOf(task.Parent), phase.Entry.Name));
        var given = row.Facts.ToList();
        row.Facts.Clear();
        alone = alone with { Tasks = [task with { Parent = null }] };
        foreach (var (column, edit) in given)
        {
            try
            {
                var applied = PlanEditor.Apply(alone, edit, context).Plan;
                if (AreSame(alone.Tasks[0], applied.Tasks[0]))
                    continue;
                alone = applied;
                row.Facts.Add((column, edit));
                if (row.Changes.All(change => change.Column != column))
                    row.Changes.Add(new(column, TextOf(column, task), row.Cells.GetValueOrDefault(column, "")));
            }
            catch (EditRefusedException refused)
            {
                row.Problems.Add(new(column, $"{refused.Message} It is left out."));
            }
        }
        ComparePlace(row, task);
        CompareLinks(row, task);
    }

    private void ComparePlace(MadeRow row, PlanTask task)
    {
        if (row.Place is not { } at || _schedule.IsOff(_plan.Index.RowOf(task.Id)))
            return;
        var now = _schedule.StartOf(task.Id);
        if (at.Date == now.Date && at <= now)
        {
            row.Place = null;
            return;
        }
        var isHeld = _plan.Project.ScheduleFrom == ScheduleFrom.Start && at < now;
        if (isHeld && task is { Constraint: null, Pinned: null, IsStarted: false })
        {
            row.Place = null;
            row.Problems.Add(new(ListColumnKind.Start, $"It cannot start before {Dates.Day(now)}: what comes before it ends later."));
            return;
        }
        row.Changes.Add(new(ListColumnKind.Start, TextOf(ListColumnKind.Start, task), Day(at)));
    }

    private void CompareLinks(MadeRow row, PlanTask task)
    {
        if (row.Before.Count == 0)
            return;
        var (inList, others) = (
            _linksTo[task.Id].Where(link => _listed.Contains(link.From)).Select(Of).ToHashSet(),
            _linksTo[task.Id].Where(link => !_listed.Contains(link.From)).ToList()
        );
        if (inList.SetEquals(row.Before))
        {
            row.Before.Clear();
            return;
        }
        row.Changes.Add(
            new(ListColumnKind.After, TextOf(ListColumnKind.After, task), row.Cells.GetValueOrDefault(ListColumnKind.After, ""))
        );
        row.Before.AddRange(others.Select(Of));

        static Predecessor Of(PlanLink link) => new(link.From, link.Lag, null, link.Kind, link.Elapsed);
    }

    /// <summary>Rows of the same phases that no line is; a phase with some of them inside is still there.</summary>
    private List<ListGone> FindGone()
    {
        var matched = _rows.Where(row => row.Existing is not null).Select(row => row.Id).ToHashSet();
        var phases = _rows.Where(row => row.Existing is not null).Select(row => row.Existing!.Parent ?? "").ToHashSet();
        var index = _plan.Index;
        return
        [
            .. Enumerable
                .Range(0, _plan.Tasks.Length)
                .Where(row => _plan.Tasks[row].Occurrence is null && phases.Contains(_plan.Tasks[row].Parent ?? ""))
                .Where(row => Enumerable.Range(row, index.SubtreeEnd(row) - row).All(inside => !matched.Contains(_plan.Tasks[inside].Id)))
                .Where(row => _plan.Tasks[row].Id != _options.Parent)
                .Select(row => new ListGone(
                    _plan.Tasks[row].Id,
                    _plan.Tasks[row].Name,
                    _plan.Tasks[row].Parent is { } parent ? NameOf(parent) : "",
                    index.SubtreeEnd(row) - row - 1
                )),
        ];
    }

    private string NameOf(string? phase) => phase is null ? "the top level" : _plan.Find(phase)?.Name ?? "";

    private static bool AreSame(PlanTask one, PlanTask other) =>
        one.Assignments.SequenceEqual(other.Assignments)
        && one.Splits.SequenceEqual(other.Splits)
        && one == other with { Assignments = one.Assignments, Splits = one.Splits };

    /// <summary>What the plan has in a column, as the list would say it.</summary>
    private string TextOf(ListColumnKind column, PlanTask task)
    {
        if (column.Fact is { } fact)
            return Equals(task.Facts[fact], fact.UsualValue) ? "" : fact.InWordsIn(_plan, task.Facts[fact]);
        if (column.Field is { } field)
            return task.Facts[OwnFact.Of(field.Id)] is string value ? OwnText.InWords(field, value) : "";
        return column switch
        {
            _ when column == ListColumnKind.Length => task.Milestone
                ? "milestone"
                : new TypedLength(task.Length, task.Tentative).ToString(),
            _ when column == ListColumnKind.Start => Day(_schedule.StartOf(task.Id)),
            _ when column == ListColumnKind.Deadline => task.Deadline is { } deadline ? Dates.FinishDay(deadline) : "",
            _ when column == ListColumnKind.Owner => string.Join(", ", task.Assignments.Select(a => _plan.FindPerson(a.Person)?.Name)),
            _ when column == ListColumnKind.Progress => task.IsFinished ? "done"
            : task.IsStarted ? $"{task.Progress * 100:0.#}%"
            : "",
            _ when column == ListColumnKind.Note => task.Note,
            _ when column == ListColumnKind.After => string.Join(
                ", ",
                _linksTo[task.Id].Select(link => LinkText.Format(_plan.Index.NumberOf(_plan.Index.RowOf(link.From)), link))
            ),
            _ => "",
        };
    }

    private static string Day(PlanTime time) => time.Date.ToString("ddd d MMM yyyy", CultureInfo.InvariantCulture);
}
