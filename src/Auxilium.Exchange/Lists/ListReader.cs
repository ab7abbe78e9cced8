using System.Text.RegularExpressions;
using Auxilium.Exchange.Files;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;

namespace Auxilium.Exchange.Lists;

/// <summary>How a list is to be read where a person says so.</summary>
/// <param name="Columns">What each column holds, from left to right; guessed when left out.</param>
/// <param name="Order">How dates in numbers are read.</param>
/// <param name="MakePeople">Whether unknown owners join the plan; otherwise their tasks have no owner.</param>
/// <param name="Parent">The phase that the rows go into; <c>null</c> for the top level.</param>
/// <param name="After">The row of that phase that they stand after; first when <c>null</c>.</param>
/// <param name="Levels">By line: how deep its row stands, where a person has said so.</param>
/// <param name="Repeats">By row: when it comes again.</param>
/// <param name="Again">Whether the list is compared with the rows that are there, to update them.</param>
/// <param name="Leave">Lines whose rows stay as they are, or out.</param>
/// <param name="Remove">Ids of rows which the list no longer has, and which are to go.</param>
public sealed record ListOptions(
    IReadOnlyList<ListColumnKind>? Columns = null,
    DateOrder Order = DateOrder.Unknown,
    bool MakePeople = true,
    string? Parent = null,
    string? After = null,
    IReadOnlyDictionary<int, int>? Levels = null,
    IReadOnlyList<ListRepeat?>? Repeats = null,
    bool Again = false,
    IReadOnlySet<int>? Leave = null,
    IReadOnlySet<string>? Remove = null
)
{
    /// <summary>Whether whole rows are added at once, as those of long lists are.</summary>
    internal bool AsWholeRows { get; init; }
}

/// <summary>
/// Reads an existing list (lines of a document, cells of a spreadsheet) as rows of a plan. Nothing is created yet: the
/// reading says how each line was understood, and has the edit that would add it.
/// </summary>
public static partial class ListReader
{
    /// <summary>A list has at most this many lines.</summary>
    public const int MostLines = Plan.MostTasks;

    /// <summary>A line has at most this many cells.</summary>
    public const int MostColumns = 60;

    private const int MostLeads = 4;

    /// <summary>A list has at most this many characters.</summary>
    public const int MostCharacters = 5_000_000;

    /// <param name="text">The list.</param>
    /// <param name="schedule">The plan it is to join.</param>
    /// <param name="directory">Everybody in the organisation.</param>
    /// <param name="today">Today.</param>
    public static ListReading Read(string text, ListOptions options, Schedule schedule, IReadOnlyList<Person> directory, DateOnly today)
    {
        if (WhyNoList(text) is { } why)
            return Nothing(why);
        var lines = ListCells.Split(text);
        if (lines.Count == 0)
            return Nothing("There is nothing to read: paste lines of text or cells of a spreadsheet.");
        if (lines.Count > MostLines)
            return Nothing($"This list has {lines.Count:N0} lines: paste at most {MostLines:N0} at a time.");
        if (lines.Max(line => line.Cells.Length) > MostColumns)
            return Nothing($"A line of this list has more than {MostColumns} cells: paste only the columns that matter.");
        var people = schedule.Plan.People.Concat(directory).DistinctBy(p => p.Id).ToList();
        lines = ListColumns.WithoutStairs(lines);
        var (guessed, hasHeadings) = ListColumns.Guess(
            lines,
            cell => PersonText.Find(people, cell) is not null,
            ListColumnKind.Of(schedule.Plan.Project.FieldsOfTasks)
        );
        var kinds = options.Columns is { } given ? [.. guessed.Select((kind, i) => i < given.Count ? given[i] : kind)] : guessed;
        var body = hasHeadings ? lines.Skip(1).ToList() : lines;
        var columns = kinds
            .Select(
                (kind, i) =>
                    new ListColumn(
                        kind,
                        hasHeadings ? CellOf(lines[0], i) : "",
                        body.Select(line => CellOf(line, i)).FirstOrDefault(cell => cell.Length > 0) ?? ""
                    )
            )
            .ToList();
        if (!kinds.Contains(ListColumnKind.Task))
            return Nothing("No column has the names: say which one does.") with { Columns = columns };
        var (order, ask) = OrderOf(body, kinds, options.Order, schedule.Start.Date);
        var rows = RowsOf(body, kinds, options.Levels ?? new Dictionary<int, int>(), people);
        if (rows.Count == 0)
            return Nothing("No line has a name in it: say which column has the names.") with { Columns = columns };
        return new ListMaker(schedule, people, today, order, options).Make(rows, columns, ask);
    }

    /// <summary>The cells that were filled in one line, with where it stands.</summary>
    internal sealed record Entry(int Line, int Level, string Number, string Name, Dictionary<ListColumnKind, string> Cells);

    private static ListReading Nothing(string problem) => new([], [], DateOrder.Unknown, false, [], problem, null);

    private static string? WhyNoList(string text)
    {
        if (text.Length > MostCharacters)
            return $"This is {text.Length / 1000:N0} thousand characters long: a list has at most {MostCharacters / 1000:N0} "
                + "thousand. Paste only the part with the tasks.";
        return text.Any(c => char.IsControl(c) && c is not ('\t' or '\n' or '\r' or '\v' or '\f')) || text.Contains('\uFFFD')
            ? "This is not text but something like a picture or a program's file: copy the list itself and paste that."
            : null;
    }

    private static string CellOf(ListCells.Line line, int column) => column < line.Cells.Length ? line.Cells[column].Trim() : "";

    private static (DateOrder Order, bool Ask) OrderOf(
        IReadOnlyList<ListCells.Line> body,
        ListColumnKind[] kinds,
        DateOrder chosen,
        DateOnly near
    )
    {
        var dates = kinds
            .SelectMany(
                (kind, i) =>
                    kind.IsOneOf(ListColumnKind.Start, ListColumnKind.Finish, ListColumnKind.Deadline)
                        ? body.Select(line => ListDates.OrdersOf(CellOf(line, i), near))
                        : []
            )
            .OfType<(bool DayFirst, bool MonthFirst)>()
            .ToList();
        var (day, month) = (dates.Count(d => d is (true, false)), dates.Count(d => d is (false, true)));
        if (chosen != DateOrder.Unknown)
            return (chosen, false);
        if (day > 0 && month == 0)
            return (DateOrder.DayFirst, false);
        if (month > 0 && day == 0)
            return (DateOrder.MonthFirst, false);
        return (DateOrder.Unknown, dates.Count > 0);
    }

    private static List<Entry> RowsOf(
        IReadOnlyList<ListCells.Line> body,
        ListColumnKind[] kinds,
        IReadOnlyDictionary<int, int> levels,
        IReadOnlyList<Person> people
    )
    {
        var rows = new List<Entry>();
        var (nameAt, numberAt) = (Array.IndexOf(kinds, ListColumnKind.Task), Array.IndexOf(kinds, ListColumnKind.Number));
        var parsed = body.Select(line => Named(line, nameAt, numberAt, kinds)).Where(line => line.Name.Length > 0).ToList();
        // Outline numbers with a dot somewhere say the levels; where there are none, indentation does.
        var numbered = parsed.Count > 1 && parsed.Any(line => line.Number.Contains('.')) && parsed.All(line => line.Number.Length > 0);
        var indents = new Stack<int>();
        foreach (var line in parsed)
        {
            int level;
            if (numbered)
            {
                level = line.Number.Count(c => c == '.');
            }
            else
            {
                while (indents.Count > 0 && indents.Peek() >= line.Indent)
                    indents.Pop();
                level = indents.Count;
                indents.Push(line.Indent);
            }
            level = Math.Clamp(levels.GetValueOrDefault(line.From.Number, level), 0, rows.Count == 0 ? 0 : rows[^1].Level + 1);
            var cells = new Dictionary<ListColumnKind, string>();
            for (var i = 0; i < kinds.Length; i++)
                if (
                    !kinds[i].IsOneOf(ListColumnKind.Ignored, ListColumnKind.Task, ListColumnKind.Number)
                    && CellOf(line.From, i) is { Length: > 0 } cell
                )
                    cells.TryAdd(kinds[i], Unescaped(cell));
            var name = line.Name;
            if (line.Tick is { } tick)
                cells.TryAdd(ListColumnKind.Progress, tick);
            InBrackets(ref name, cells, people);
            rows.Add(new Entry(line.From.Number, level, line.Number, name, cells));
        }
        return rows;
    }

    /// <summary>The name without its bullet, box and outline number, and how far it is indented.</summary>
    private static (ListCells.Line From, int Indent, string Number, string Name, string? Tick) Named(
        ListCells.Line line,
        int nameAt,
        int numberAt,
        ListColumnKind[] kinds
    )
    {
        var raw = nameAt < line.Cells.Length ? line.Cells[nameAt] : "";
        var indent = line.Indent;
        // A list that a document hands over may be indented by empty cells; one of a column that holds something is only empty.
        for (var i = 0; i < line.Cells.Length && i < nameAt && line.Cells[i].Trim().Length == 0; i++)
            if (kinds[i] == ListColumnKind.Ignored)
                indent += 4;
        foreach (var c in raw)
        {
            if (c is not (' ' or '\u00A0' or '\t'))
                break;
            indent++;
        }
        var name = Blanks().Replace(Unescaped(raw.Trim()), " ");
        var number = numberAt >= 0 ? CellOf(line, numberAt).TrimEnd('.') : "";
        string? tick = null;
        // Such as “- [x] 2. Book the band”.
        for (var leads = 0; leads < MostLeads && Lead().Match(name) is { Success: true } lead && name.Length > lead.Length; leads++)
        {
            if (lead.Groups["number"].Success && numberAt < 0 && number.Length == 0)
                number = lead.Groups["number"].Value;
            if (lead.Groups["tick"].Success)
                tick = "done";
            else if (lead.Groups["open"].Success)
                tick ??= "open";
            name = name[lead.Length..].Trim();
        }
        return (line, indent, number, name, tick);
    }

    /// <summary>Who, or how long, where it stands in brackets behind the name: “Book the band (Ines Vale, 2d)”.</summary>
    private static void InBrackets(ref string name, Dictionary<ListColumnKind, string> cells, IReadOnlyList<Person> people)
    {
        if (Brackets().Match(name) is not { Success: true } match)
            return;
        var (who, length) = (new List<string>(), (string?)null);
        foreach (
            var part in match
                .Groups["in"]
                .Value.Split([',', ';', '/', '&'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
        )
        {
            if (PersonText.Find(people, part) is not null)
                who.Add(part);
            else if (
                length is null
                && Digit().IsMatch(part)
                && (LengthText.TryParse(part, out _, out _, out _) || ListFacts.IsRange(part))
            )
                length = part;
            else
                return;
        }
        if (who.Count > 0 && cells.ContainsKey(ListColumnKind.Owner) || length is not null && cells.ContainsKey(ListColumnKind.Length))
            return;
        if (who.Count > 0)
            cells[ListColumnKind.Owner] = string.Join(", ", who);
        if (length is not null)
            cells[ListColumnKind.Length] = length;
        name = name[..match.Index].TrimEnd();
    }

    /// <summary>A cell that begins with an apostrophe is text, whatever follows.</summary>
    private static string Unescaped(string cell) => cell.Length > 1 && cell[0] == '\'' && "=+-@".Contains(cell[1]) ? cell[1..] : cell;

    [GeneratedRegex(
        @"^((?<number>\d+(\.\d+)*)[.)]?\s+|(?<tick>\[[xX✓✔]\]|☑|☒|✓|✔)\s+|(?<open>\[ ?\]|☐|□)\s+|[-–—*•◦▪·‣o+]\s+|\(?[a-z\d]{1,2}\)\s+)",
        RegexOptions.ExplicitCapture
    )]
    private static partial Regex Lead();

    [GeneratedRegex(@"\s*[(\[](?<in>[^()\[\]]{1,80})[)\]]$", RegexOptions.ExplicitCapture)]
    private static partial Regex Brackets();

    [GeneratedRegex(@"\d|½|half", RegexOptions.IgnoreCase)]
    private static partial Regex Digit();

    [GeneratedRegex(@"\s+")]
    private static partial Regex Blanks();
}
