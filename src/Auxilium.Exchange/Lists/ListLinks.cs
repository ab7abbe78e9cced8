using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;

namespace Auxilium.Exchange.Lists;

/// <summary>What the rows of a list come after: by the list's own numbers, else by the order of its lines; also by name.</summary>
internal sealed class ListLinks
{
    private readonly List<MadeRow> _rows;
    private readonly Dictionary<string, MadeRow> _numbers = [];
    private readonly Dictionary<string, MadeRow> _names = new(StringComparer.OrdinalIgnoreCase);

    private ListLinks(List<MadeRow> rows)
    {
        _rows = rows;
        var hasOwn = rows.Any(row => row.Entry.Number.Length > 0);
        for (var i = 0; i < rows.Count; i++)
            _numbers.TryAdd(hasOwn ? rows[i].Entry.Number : $"{i + 1}", rows[i]);
        foreach (var row in rows)
            _names.TryAdd(row.Entry.Name, row);
    }

    public static void Read(List<MadeRow> rows) => new ListLinks(rows).Read();

    private void Read()
    {
        var back = new List<(MadeRow Row, MadeRow Before, TypedLink Link)>();
        foreach (var row in _rows)
        {
            if (!row.Entry.Cells.TryGetValue(ListColumnKind.After, out var text) || text is "-" or "–")
                continue;
            foreach (var (before, link, problem) in Named(text))
            {
                if (problem is not null)
                    LeaveOut(row, problem);
                else if (before!.End <= row.At)
                    // Links that all go down the list never come round.
                    Take(row, before, link, WhyNot(row, before));
                else
                    back.Add((row, before, link));
            }
        }
        foreach (var (row, before, link) in back)
            Take(row, before, link, WhyNot(row, before) ?? WhyRound(row, before));
        foreach (var row in _rows.Where(row => row.Before.Count > 0))
            row.Cells[ListColumnKind.After] = row.Entry.Cells[ListColumnKind.After];
    }

    private static void Take(MadeRow row, MadeRow before, TypedLink link, string? why)
    {
        if (why is not null)
        {
            LeaveOut(row, why);
            return;
        }
        row.Before.Add(new Predecessor(before.Id, link.Lag, null, link.Kind, link.Elapsed));
        row.Waits.Add(before);
    }

    private static void LeaveOut(MadeRow row, string why) => row.Problems.Add(new(ListColumnKind.After, $"{why} It is left out."));

    private IEnumerable<(MadeRow? Row, TypedLink Link, string? Problem)> Named(string text)
    {
        if (_names.TryGetValue(text.Trim(), out var whole))
            return [(whole, new TypedLink("", Length.Zero), null)];
        if (LinkText.TryParse(text, out var links, out var problem))
            return links.Select(link =>
                _numbers.TryGetValue(link.Number, out var row)
                    ? (row, link, null)
                    : ((MadeRow?)null, link, $"The list has no row {link.Number}.")
            );
        return text.Split([',', ';'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
            .Select(part =>
                _names.TryGetValue(part, out var row)
                    ? (row, new TypedLink("", Length.Zero), null)
                    : ((MadeRow?)null, default(TypedLink), (string?)problem)
            );
    }

    private static string? WhyNot(MadeRow row, MadeRow before)
    {
        if (row.At == before.At)
            return "A row cannot come after itself.";
        if (row.Before.Any(p => p.From == before.Id))
            return $"“{MadeRow.Short(before.Entry.Name)}” is named twice.";
        return row.Holds(before) || before.Holds(row)
            ? $"“{MadeRow.Short(before.Entry.Name)}” and this row are one inside the other, and cannot follow each other."
            : null;
    }

    private string? WhyRound(MadeRow row, MadeRow before) =>
        Follows(before, row)
            ? $"“{MadeRow.Short(before.Entry.Name)}” comes after this row already: two rows cannot follow each other."
            : null;

    /// <summary>
    /// Whether a row comes after another, step by step: by its own links, those of the phases it is in and of the rows in it.
    /// </summary>
    private bool Follows(MadeRow row, MadeRow other)
    {
        var seen = new HashSet<int>();
        var waiting = new Stack<MadeRow>([row]);
        while (waiting.TryPop(out var at))
        {
            if (!seen.Add(at.At))
                continue;
            if (at.At == other.At || at.Holds(other) || other.Holds(at))
                return true;
            for (var near = at.At; near < at.End; near++)
                _rows[near].Waits.ForEach(waiting.Push);
            for (var up = at.Phase; up is not null; up = up.Phase)
                up.Waits.ForEach(waiting.Push);
        }
        return false;
    }
}
