using System.Text;

namespace Auxilium.Exchange.Lists;

/// <summary>
/// Text as lines of cells: from a spreadsheet with tabs between them, from a file with commas or semicolons, or one a line.
/// </summary>
internal static class ListCells
{
    /// <param name="Number">Which line of the text it begins on, from 1.</param>
    /// <param name="Indent">Width of the blanks before its first cell.</param>
    public sealed record Line(int Number, int Indent, string[] Cells);

    private const int TabWidth = 4;

    public static List<Line> Split(string text)
    {
        text = text.TrimStart('\uFEFF').ReplaceLineEndings("\n");
        if (text.Split('\n').Any(line => line.Trim().Contains('\t')))
            return Table(text, '\t');
        if (Piped(text) is { Count: > 0 } piped)
            return piped;
        // Sentences have commas too: a table has headings, and the same number of cells in each line.
        foreach (var separator in ";,")
            if (
                text.Contains(separator)
                && Table(text, separator) is { Count: > 1 } table
                && ListHeadings.Known(table[0].Cells) >= 2
                && table.All(line => line.Cells.Length == table[0].Cells.Length)
            )
                return table;
        return Plain(text);
    }

    /// <summary>A table drawn with vertical bars, as in plain-text notes; empty if there is none.</summary>
    private static List<Line> Piped(string text)
    {
        var lines = text.Split('\n').Select((line, i) => (Text: line.Trim(), Number: i + 1)).Where(line => line.Text.Length > 0).ToList();
        if (lines.Count < 2 || lines.Any(line => !line.Text.Contains('|')))
            return [];
        if (!lines.All(line => line.Text.StartsWith('|')) && lines.Select(line => line.Text.Count(c => c == '|')).Distinct().Count() > 1)
            return [];
        return
        [
            .. lines
                .Where(line => !line.Text.All(c => c is '|' or '-' or ':' or '=' or '+' or ' '))
                .Select(line => new Line(
                    line.Number,
                    0,
                    [
                        .. line
                            .Text.TrimStart('|')
                            .TrimEnd('|')
                            .Split('|')
                            .Select(cell => cell.TrimEnd() is var kept && kept.StartsWith(' ') ? kept[1..] : kept),
                    ]
                )),
        ];
    }

    private static List<Line> Plain(string text) =>
        [.. text.Split('\n').Select((line, i) => new Line(i + 1, IndentOf(line), [line.Trim()])).Where(line => line.Cells[0].Length > 0)];

    private static int IndentOf(string line)
    {
        var width = 0;
        foreach (var c in line)
        {
            if (c == '\t')
                width += TabWidth;
            else if (c is ' ' or '\u00A0')
                width++;
            else
                break;
        }
        return width;
    }

    /// <summary>Cells in quotes may hold separators, doubled quotes and line breaks.</summary>
    private static List<Line> Table(string text, char separator)
    {
        var lines = new List<Line>();
        var (cells, cell) = (new List<string>(), new StringBuilder());
        var (number, began) = (1, 1);
        for (var i = 0; i <= text.Length; i++)
        {
            var c = i < text.Length ? text[i] : '\n';
            if (c == '"' && cell.Length == 0 && QuoteEnd(text, i, separator) is var end and > 0)
            {
                cell.Append(text[(i + 1)..end].Replace("\"\"", "\""));
                number += text.AsSpan(i, end - i).Count('\n');
                i = end;
            }
            else if (c == separator)
            {
                cells.Add(cell.ToString());
                cell.Clear();
            }
            else if (c == '\n')
            {
                cells.Add(cell.ToString());
                cell.Clear();
                if (cells.Any(x => x.Trim().Length > 0))
                    lines.Add(new Line(began, 0, [.. cells]));
                cells.Clear();
                began = ++number;
            }
            else
            {
                cell.Append(c);
            }
        }
        return lines;
    }

    /// <summary>Where a quoted cell ends; 0 if the quote is just a character of the text.</summary>
    private static int QuoteEnd(string text, int start, char separator)
    {
        for (var i = start + 1; i < text.Length; i++)
        {
            if (text[i] != '"')
                continue;
            if (i + 1 < text.Length && text[i + 1] == '"')
                i++;
            else
                return i + 1 == text.Length || text[i + 1] == separator || text[i + 1] == '\n' ? i : 0;
        }
        return 0;
    }
}
