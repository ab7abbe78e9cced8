namespace Auxilium.Exchange.Lists;

/// <summary>What people write above the columns of a list.</summary>
internal static class ListHeadings
{
    private static readonly (ListColumnKind Kind, string Words)[] Groups =
    [
        (ListColumnKind.Name, "task, tasks, name, task name, title, what, activity, item, to do, job"),
        (ListColumnKind.Number, "no, nr, number, #, id, outline, outline number, row"),
        (ListColumnKind.Length, "length, duration, days, takes, how long, time, estimate"),
        (ListColumnKind.Start, "start, starts, start date, begin, begins, from"),
        (ListColumnKind.Finish, "finish, finishes, finish date, end, ends, end date, until, to, due, due date, by"),
        (ListColumnKind.Deadline, "deadline, latest, must be done by, finish by, due by"),
        (ListColumnKind.Owner, "owner, owners, who, responsible, person, people, assigned to, assignee, lead"),
        (ListColumnKind.After, "after, predecessor, predecessors, depends on, waits for, comes after, needs"),
        (ListColumnKind.Progress, "progress, done, %, % done, complete, state, status"),
        (ListColumnKind.Note, "note, notes, comment, comments, remark, remarks, details, description"),
    ];

    private static readonly Dictionary<string, ListColumnKind> Kinds = Groups
        .SelectMany(group => group.Words.Split(", ").Select(word => (word, group.Kind)))
        .ToDictionary(pair => pair.word, pair => pair.Kind, StringComparer.OrdinalIgnoreCase);

    public static ListColumnKind? Of(string cell) =>
        Kinds.TryGetValue(cell.Trim().Trim('"', '.', ':', '?', '(', ')').Trim(), out var kind) ? kind : null;

    public static int Known(IEnumerable<string> cells) => cells.Count(cell => Of(cell) is not null);
}
