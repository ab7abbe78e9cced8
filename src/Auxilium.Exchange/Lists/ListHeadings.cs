namespace Auxilium.Exchange.Lists;

/// <summary>What people write above the columns of a list.</summary>
internal static class ListHeadings
{
    private static readonly Dictionary<string, ListColumnKind> Words = new(StringComparer.OrdinalIgnoreCase)
    {
        ["task"] = ListColumnKind.Name, ["tasks"] = ListColumnKind.Name, ["name"] = ListColumnKind.Name, ["task name"] = ListColumnKind.Name, ["title"] = ListColumnKind.Name, ["what"] = ListColumnKind.Name, ["activity"] = ListColumnKind.Name, ["item"] = ListColumnKind.Name, ["to do"] = ListColumnKind.Name, ["job"] = ListColumnKind.Name,
        ["no"] = ListColumnKind.Number, ["nr"] = ListColumnKind.Number, ["number"] = ListColumnKind.Number, ["#"] = ListColumnKind.Number, ["id"] = ListColumnKind.Number, ["outline"] = ListColumnKind.Number, ["outline number"] = ListColumnKind.Number, ["row"] = ListColumnKind.Number,
        ["length"] = ListColumnKind.Length, ["duration"] = ListColumnKind.Length, ["days"] = ListColumnKind.Length, ["takes"] = ListColumnKind.Length, ["how long"] = ListColumnKind.Length, ["time"] = ListColumnKind.Length, ["estimate"] = ListColumnKind.Length,
        ["start"] = ListColumnKind.Start, ["starts"] = ListColumnKind.Start, ["start date"] = ListColumnKind.Start, ["begin"] = ListColumnKind.Start, ["begins"] = ListColumnKind.Start, ["from"] = ListColumnKind.Start,
        ["finish"] = ListColumnKind.Finish, ["finishes"] = ListColumnKind.Finish, ["finish date"] = ListColumnKind.Finish, ["end"] = ListColumnKind.Finish, ["ends"] = ListColumnKind.Finish, ["end date"] = ListColumnKind.Finish, ["until"] = ListColumnKind.Finish, ["to"] = ListColumnKind.Finish, ["due"] = ListColumnKind.Finish, ["due date"] = ListColumnKind.Finish, ["by"] = ListColumnKind.Finish,
        ["owner"] = ListColumnKind.Owner, ["who"] = ListColumnKind.Owner, ["responsible"] = ListColumnKind.Owner, ["person"] = ListColumnKind.Owner, ["assigned to"] = ListColumnKind.Owner, ["assignee"] = ListColumnKind.Owner, ["lead"] = ListColumnKind.Owner,
        ["after"] = ListColumnKind.After, ["predecessor"] = ListColumnKind.After, ["predecessors"] = ListColumnKind.After, ["depends on"] = ListColumnKind.After, ["waits for"] = ListColumnKind.After, ["comes after"] = ListColumnKind.After, ["needs"] = ListColumnKind.After,
        ["progress"] = ListColumnKind.Progress, ["done"] = ListColumnKind.Progress, ["%"] = ListColumnKind.Progress, ["% done"] = ListColumnKind.Progress, ["complete"] = ListColumnKind.Progress, ["state"] = ListColumnKind.Progress, ["status"] = ListColumnKind.Progress,
        ["note"] = ListColumnKind.Note, ["notes"] = ListColumnKind.Note, ["comment"] = ListColumnKind.Note, ["comments"] = ListColumnKind.Note, ["remark"] = ListColumnKind.Note, ["remarks"] = ListColumnKind.Note, ["details"] = ListColumnKind.Note, ["description"] = ListColumnKind.Note,
    };

    public static ListColumnKind? Of(string cell) =>
        Words.TryGetValue(cell.Trim().Trim('"', '.', ':', '?', '(', ')').Trim(), out var kind) ? kind : null;

    public static int Known(IEnumerable<string> cells) => cells.Count(cell => Of(cell) is not null);
}
