using System.Text.RegularExpressions;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;

namespace Auxilium.Exchange.Lists;

/// <summary>Guesses what each column of a list holds: by its heading, else by what most of its cells look like.</summary>
internal static partial class ListColumns
{
    /// <param name="lines">The lines of the list.</param>
    /// <param name="isPerson">Whether a text names somebody who is known.</param>
    /// <param name="own">The kinds of the plan's own fields.</param>
    /// <returns>The kinds from left to right, and whether the first line is one of headings.</returns>
    public static (ListColumnKind[] Kinds, bool HasHeadings) Guess(
        IReadOnlyList<ListCells.Line> lines,
        Func<string, bool> isPerson,
        IReadOnlyList<ListColumnKind> own
    )
    {
        var count = lines.Max(line => line.Cells.Length);
        var kinds = new ListColumnKind[count];
        Array.Fill(kinds, ListColumnKind.Ignored);
        var known = ListHeadings.Known(lines[0].Cells);
        var headings =
            known >= 2
            || (known == 1 && lines[0].Cells.Count(c => c.Trim().Length > 0) == 1 && lines.Count > 1)
            || (lines.Count > 1 && AreNames(lines[0].Cells));
        for (var column = 0; column < count; column++)
            if (headings && column < lines[0].Cells.Length && KindOf(lines[0].Cells[column]) is { } kind && !kinds.Contains(kind))
                kinds[column] = kind;
        var body = headings ? lines.Skip(1).ToList() : lines;
        for (var column = 0; column < count; column++)
        {
            if (kinds[column] != ListColumnKind.Ignored)
                continue;
            var heading = headings && column < lines[0].Cells.Length ? lines[0].Cells[column].Trim() : "";
            var cells = body.Select(line => column < line.Cells.Length ? line.Cells[column].Trim() : "")
                .Where(cell => cell.Length > 0)
                .Take(200)
                .ToList();
            // An unknown heading means that the column holds something else.
            if (cells.Count > 0 && heading.Length == 0)
                kinds[column] = ByCells(cells, kinds, column, isPerson);
        }
        if (!kinds.Contains(ListColumnKind.Task))
            kinds[Longest(body, kinds)] = ListColumnKind.Task;
        return (kinds, headings);

        // What people here call a field goes before what others write above a column.
        ListColumnKind? KindOf(string heading) =>
            own.FirstOrDefault(kind => kind.Headings[0].Equals(heading.Trim(), StringComparison.OrdinalIgnoreCase))
            ?? ListHeadings.Of(heading);
    }

    /// <summary>
    /// Lines from a document that puts names one column further right for each level: each name in the first column, and the
    /// empty cells before it as its indentation. Lists of any other kind stay as they are.
    /// </summary>
    public static List<ListCells.Line> WithoutStairs(List<ListCells.Line> lines)
    {
        if (ListHeadings.Known(lines[0].Cells) >= 2)
            return lines;
        var steps = lines.Select(line => line.Cells.TakeWhile(cell => cell.Trim().Length == 0).Count()).ToList();
        if (steps.Max() == 0 || steps[0] != 0 || steps.Distinct().Count() < 2)
            return lines;
        if (!lines.Zip(steps).All(pair => pair.Second < pair.First.Cells.Length && IsName(pair.First.Cells[pair.Second].Trim())))
            return lines;
        return [.. lines.Zip(steps, (line, step) => line with { Indent = line.Indent + 4 * step, Cells = line.Cells[step..] })];
    }

    /// <summary>Whether one cell says “Task”, and the others beside it are names too, of columns that nobody knows here.</summary>
    private static bool AreNames(IReadOnlyList<string> cells)
    {
        var filled = cells.Where(cell => cell.Trim().Length > 0).ToList();
        return filled.Count >= 3
            && filled.Any(cell => ListHeadings.Of(cell) == ListColumnKind.Task)
            && filled.All(cell => IsName(cell.Trim()));
    }

    private static bool IsName(string cell) =>
        !IsDate(cell)
        && !Outline().IsMatch(cell)
        && !IsProgress(cell)
        && !LengthText.TryParse(cell, out _, out _, out _)
        && !ListFacts.IsRange(cell);

    private static ListColumnKind ByCells(List<string> cells, ListColumnKind[] taken, int column, Func<string, bool> isPerson)
    {
        bool Most(Func<string, bool> test) => cells.Count(test) * 10 >= cells.Count * 7;
        ListColumnKind Free(params ListColumnKind[] kinds) =>
            kinds.FirstOrDefault(kind => !taken.Contains(kind)) ?? ListColumnKind.Ignored;
        if (Most(IsDate))
            return Free(ListColumnKind.Start, ListColumnKind.Finish, ListColumnKind.Deadline);
        if (Most(cell => Outline().IsMatch(cell)))
        {
            if (!taken.Contains(ListColumnKind.Task) && column == 0)
                return ListColumnKind.Number;
            return cells.Any(cell => cell.Contains('.')) ? Free(ListColumnKind.After) : Free(ListColumnKind.Length, ListColumnKind.After);
        }
        if (Most(IsProgress))
            return Free(ListColumnKind.Progress);
        if (Most(cell => LengthText.TryParse(cell, out _, out _, out _) || ListFacts.IsRange(cell)))
            return Free(ListColumnKind.Length);
        if (Most(cell => LinkText.TryParse(cell, out _, out _)))
            return Free(ListColumnKind.After);
        if (Most(isPerson))
            return Free(ListColumnKind.Owner);
        if (!taken.Contains(ListColumnKind.Task))
            return ListColumnKind.Task;
        // Short words that are repeated are people; longer texts are notes.
        var again = cells.Distinct(StringComparer.OrdinalIgnoreCase).Count() < cells.Count || cells.Average(cell => cell.Length) < 14;
        return again && cells.All(cell => cell.Length < 40) ? Free(ListColumnKind.Owner, ListColumnKind.Note) : Free(ListColumnKind.Note);
    }

    private static bool IsDate(string cell) =>
        ListDates.OrdersOf(cell, new DateOnly(2027, 1, 1)) is not null
        || ListDates.IsInNumbers(cell)
        || DateText.TryParse(cell, new DateOnly(2027, 1, 1), out _, out _);

    private static bool IsProgress(string cell) => Percent().IsMatch(cell) || ListProgress.TryWord(cell, out _);

    private static int Longest(IReadOnlyList<ListCells.Line> lines, ListColumnKind[] kinds)
    {
        var free = Enumerable
            .Range(0, kinds.Length)
            .Where(c => kinds[c].IsOneOf(ListColumnKind.Ignored, ListColumnKind.Note, ListColumnKind.Owner))
            .DefaultIfEmpty(0);
        return free.MaxBy(c => lines.Sum(line => c < line.Cells.Length ? line.Cells[c].Trim().Length : 0));
    }

    [GeneratedRegex(@"^\d+(\.\d+)*\.?$")]
    private static partial Regex Outline();

    [GeneratedRegex(@"^\d+([.,]\d+)?\s*%$")]
    private static partial Regex Percent();
}
