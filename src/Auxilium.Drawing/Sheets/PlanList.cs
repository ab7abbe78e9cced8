using System.Globalization;
using Auxilium.Drawing.Ink;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Words;
using SkiaSharp;

namespace Auxilium.Drawing.Sheets;

/// <summary>The columns of a plan on paper: as wide as what is in them, with long names on several lines.</summary>
internal sealed class PlanList
{
    public const float LeastRow = 25;

    private const float Size = 11;
    private const float LineHeight = 14;
    private const float Padding = 7;
    private const float WidestName = 330;
    private const float WidestCell = 150;
    private const float Indent = 12;
    private const float Sign = 14;
    private const int Measured = 40;

    private readonly PlanTable _table;
    private readonly Bars? _states;
    private readonly Lettering _letters;
    private readonly int[] _columns;
    private readonly float[] _widths;
    private readonly float[] _tops;

    /// <param name="table">What it shows.</param>
    /// <param name="states">Knows the states that are shown before names; <c>null</c> to show none.</param>
    public PlanList(PlanTable table, Bars? states, Lettering letters)
    {
        (_table, _states, _letters) = (table, states, letters);
        _columns = [.. Enumerable.Range(0, table.Columns.Length).Where(at => IsFilled(table.Columns[at]))];
        _widths = [.. table.Columns.Select(WidthOf)];
        _tops = new float[table.Rows.Length + 1];
        for (var line = 0; line < table.Rows.Length; line++)
            _tops[line + 1] = _tops[line] + Math.Max(LeastRow, NameLines(table.Rows[line]).Count * LineHeight + 11);
    }

    /// <summary>Where each row begins, and the last one ends.</summary>
    public IReadOnlyList<float> Tops => _tops;

    /// <summary>The first row that reaches below a height.</summary>
    public int LineAt(float y)
    {
        var at = Array.BinarySearch(_tops, y);
        return Math.Clamp(at >= 0 ? at : ~at - 1, 0, Math.Max(0, _table.Rows.Length - 1));
    }

    /// <summary>How wide it is: whole, or just what says which rows they are.</summary>
    public float Width(bool isWhole) => Columns(isWhole).Sum(at => _widths[at]);

    public void PaintHead(Pen pen, bool isWhole, float height)
    {
        var x = 0f;
        foreach (var at in Columns(isWhole))
        {
            var column = _table.Columns[at];
            var (end, isRight) = (x + _widths[at], IsNumber(column));
            var words = _letters.Fit(column.Title, Face.Strong, Size, _widths[at] - 2 * Padding + 4);
            pen.Text(
                words,
                isRight ? end - Padding : x + Padding,
                height - 8,
                Face.Strong,
                Size,
                pen.Inks.Mute,
                isRight ? Align.Right : Align.Left
            );
            x = end;
        }
    }

    public void PaintRow(Pen pen, bool isWhole, int line)
    {
        var (row, top, bottom) = (_table.Rows[line], _tops[line], _tops[line + 1]);
        var baseline = (top + bottom) / 2 + 4;
        var isPhase = _table.Schedule.IsPhase(row);
        var (face, colour) = (isPhase ? Face.Strong : Face.Text, _table.Schedule.IsOff(row) ? pen.Inks.Mute : pen.Inks.Text);
        var x = 0f;
        foreach (var at in Columns(isWhole))
        {
            var (column, width) = (_table.Columns[at], _widths[at]);
            if (column.Key == "name")
                Name(x, width);
            else if (TextOf(column, row) is { Length: > 0 } text)
            {
                var isRight = IsNumber(column);
                var fitting = _letters.Fit(text, face, Size, width - 2 * Padding + 6);
                pen.Text(
                    fitting,
                    isRight ? x + width - Padding : x + Padding,
                    baseline,
                    face,
                    Size,
                    colour,
                    isRight ? Align.Right : Align.Left
                );
            }
            x += width;
        }

        void Name(float left, float width)
        {
            var indent = left + Padding + Indent * _table.Plan.Index.LevelOf(row);
            if (_states is not null && _table.Schedule.IsLeaf(row) && !_table.Schedule.IsOff(row))
                StateSign.Draw(pen, _states.StateOf(row), new SKPoint(indent + 4, baseline - 4));
            var lines = NameLines(row);
            var first = baseline - (lines.Count - 1) * LineHeight / 2;
            for (var i = 0; i < lines.Count; i++)
                pen.Text(lines[i], indent + SignOf(row), first + i * LineHeight, face, Size, colour);
        }
    }

    private List<string> NameLines(int row)
    {
        var indent = Indent * _table.Plan.Index.LevelOf(row) + SignOf(row);
        var face = _table.Schedule.IsPhase(row) ? Face.Strong : Face.Text;
        var room = Math.Max(90, WidthOfName() - indent - 2 * Padding);
        return _letters.Wrap(_table.Plan.Tasks[row].Name, face, Size, room);
    }

    private float WidthOfName() =>
        _table.Columns.IndexOf(_table.Columns.FirstOrDefault(c => c.Key == "name")!) is >= 0 and var at ? _widths[at] : WidestName;

    private float SignOf(int row) => _states is not null && _table.Schedule.IsLeaf(row) ? Sign : 0;

    private IEnumerable<int> Columns(bool isWhole)
    {
        foreach (var at in _columns)
            if (isWhole || IsHeading(_table.Columns[at]))
                yield return at;
    }

    /// <summary>Whether a column says which row it is, which every page repeats.</summary>
    private static bool IsHeading(PlanColumn column) => column.Key is "no" or "name";

    /// <summary>A column with nothing in it would only take room.</summary>
    private bool IsFilled(PlanColumn column) => IsHeading(column) || _table.Rows.Any(row => TextOf(column, row) is { Length: > 0 });

    /// <summary>As wide as the widest of what is longest in it.</summary>
    private float WidthOf(PlanColumn column)
    {
        var isName = column.Key == "name";
        var widest = _letters.WidthOf(column.Title, Face.Strong, Size);
        var longest = _table
            .Rows.Select(row => (row, Text: isName ? _table.Plan.Tasks[row].Name : TextOf(column, row) ?? ""))
            .OrderByDescending(cell => cell.Text.Length + (isName ? 3 * _table.Plan.Index.LevelOf(cell.row) : 0))
            .Take(Measured);
        foreach (var (row, text) in longest)
        {
            var more = isName ? Indent * _table.Plan.Index.LevelOf(row) + SignOf(row) : 0;
            widest = Math.Max(widest, _letters.WidthOf(text, _table.Schedule.IsPhase(row) ? Face.Strong : Face.Text, Size) + more);
        }
        return Math.Min(isName ? WidestName : WidestCell, MathF.Ceiling(widest) + 2 * Padding + 1);
    }

    private static bool IsNumber(PlanColumn column) => column.Kind is CellKind.Number or CellKind.Percent;

    private string? TextOf(PlanColumn column, int row) =>
        column.Of(_table, row) switch
        {
            null or 0m when column.Key == "length" => null,
            null => null,
            decimal share when column.Kind == CellKind.Percent => share.ToString("0%", CultureInfo.InvariantCulture),
            decimal number => number.ToString("0.##", CultureInfo.InvariantCulture),
            PlanTime time when column.Kind == CellKind.Finish => Dates.ShortDay(time.LastDate),
            PlanTime time => Dates.ShortDay(time.Date),
            DateOnly day => Dates.ShortDay(day),
            var other => other.ToString(),
        };
}
