using System.Globalization;
using System.Text.RegularExpressions;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;

namespace Auxilium.Exchange.Files;

/// <summary>The texts of cells as people would type them: 2027-05-12, 14:30, 40%, 2.5.</summary>
internal sealed partial class CellTexts
{
    /// <summary>What a number means by its format.</summary>
    private enum Shown
    {
        Number,
        Date,
        Time,
        Percent,
        Hours,
    }

    private const uint FirstOwnFormat = 164;

    private readonly List<string> _shared = [];
    private readonly Shown[] _formats;
    private readonly int[] _indents;
    private readonly DateTime _epoch;

    /// <exception cref="InvalidDataException">It has more texts than that.</exception>
    public CellTexts(WorkbookPart workbook, int mostTexts)
    {
        _epoch = workbook.Workbook.WorkbookProperties?.Date1904?.Value == true ? new(1904, 1, 1) : new(1899, 12, 30);
        if (workbook.SharedStringTablePart is { } strings)
        {
            using var reader = OpenXmlReader.Create(strings);
            while (reader.Read())
            {
                if (reader.ElementType != typeof(SharedStringItem) || !reader.IsStartElement)
                    continue;
                if (_shared.Count >= mostTexts)
                    throw new InvalidDataException("There are more texts than a list has.");
                _shared.Add(TextOf(reader.LoadCurrentElement()!));
            }
        }
        var styles = workbook.WorkbookStylesPart?.Stylesheet;
        var own = new Dictionary<uint, string>();
        foreach (var format in styles?.NumberingFormats?.Elements<NumberingFormat>() ?? [])
            if (format.NumberFormatId?.Value is { } id && format.FormatCode?.Value is { } code)
                own[id] = code;
        List<CellFormat> cells = [.. styles?.CellFormats?.Elements<CellFormat>() ?? []];
        _formats = [.. cells.Select(format => ShownBy(format.NumberFormatId?.Value ?? 0, own))];
        _indents = [.. cells.Select(format => (int)Math.Min(format.Alignment?.Indent?.Value ?? 0, 30))];
    }

    /// <summary>How far the first text of a row is set in by its format.</summary>
    public int IndentOf(Row row)
    {
        foreach (var cell in row.Elements<Cell>())
            if (cell.StyleIndex?.Value is { } style && style < _indents.Length && _indents[style] > 0)
                return _indents[style];
        return 0;
    }

    public string Of(Cell cell)
    {
        var type = cell.DataType?.Value ?? CellValues.Number;
        var value = cell.CellValue?.Text ?? "";
        if (type == CellValues.InlineString)
            return cell.InlineString is { } inline ? TextOf(inline) : "";
        if (type == CellValues.SharedString)
            return int.TryParse(value, NumberStyles.None, CultureInfo.InvariantCulture, out var at) && at < _shared.Count
                ? _shared[at]
                : "";
        if (type == CellValues.Boolean)
            return value == "1" ? "yes" : "no";
        if (type == CellValues.Date)
            return DateTime.TryParse(value, CultureInfo.InvariantCulture, DateTimeStyles.RoundtripKind, out var date)
                ? DateText(date)
                : value;
        if (type != CellValues.Number)
            return Tidy(value);
        return double.TryParse(value, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) && double.IsFinite(number)
            ? NumberText(number, cell.StyleIndex?.Value is { } style && style < _formats.Length ? _formats[style] : Shown.Number)
            : Tidy(value);
    }

    private string NumberText(double number, Shown shown)
    {
        const double MostDays = 300_000;
        switch (shown)
        {
            case Shown.Date or Shown.Time when number is >= 0 and < MostDays:
                var at = _epoch.AddMinutes(Math.Round(number * 24 * 60));
                return shown == Shown.Time || number < 1 ? at.ToString("HH:mm", CultureInfo.InvariantCulture) : DateText(at);
            case Shown.Hours when Math.Abs(number) < MostDays:
                return $"{Plain(Math.Round(number * 24, 4))}h";
            case Shown.Percent:
                return $"{Plain(Math.Round(number * 100, 4))}%";
            default:
                return Plain(number);
        }
    }

    private static string Plain(double number) =>
        Math.Abs(number) < 1e15
            ? ((decimal)number).ToString("0.##########", CultureInfo.InvariantCulture)
            : number.ToString("R", CultureInfo.InvariantCulture);

    private static string DateText(DateTime date) =>
        date.ToString(date.TimeOfDay == TimeSpan.Zero ? "yyyy-MM-dd" : "yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture);

    private static Shown ShownBy(uint format, Dictionary<uint, string> own) =>
        format switch
        {
            9 or 10 => Shown.Percent,
            >= 14 and <= 17 or 22 => Shown.Date,
            >= 18 and <= 21 or 45 or 47 => Shown.Time,
            46 => Shown.Hours,
            >= 27 and <= 36 or >= 50 and <= 58 => Shown.Date,
            >= FirstOwnFormat when own.TryGetValue(format, out var code) => ShownBy(code),
            _ => Shown.Number,
        };

    private static Shown ShownBy(string code)
    {
        if (Elapsed().IsMatch(code))
            return Shown.Hours;
        var bare = Quoted().Replace(code.Split(';')[0], "");
        if (bare.Contains('%'))
            return Shown.Percent;
        if (bare.Any(c => c is 'd' or 'D' or 'y' or 'Y'))
            return Shown.Date;
        return bare.Any(c => c is 'h' or 'H' or 's' or 'S') ? Shown.Time
            : bare.Any(c => c is 'm' or 'M') ? Shown.Date
            : Shown.Number;
    }

    /// <summary>Without what only tells how it is pronounced.</summary>
    private static string TextOf(OpenXmlElement item) =>
        Tidy(
            string.Concat(
                item.Descendants<Text>().Where(text => text.Ancestors<PhoneticRun>().FirstOrDefault() is null).Select(t => t.Text)
            )
        );

    /// <summary>Without characters that no text has.</summary>
    private static string Tidy(string text) => string.Concat(text.Where(c => !char.IsControl(c) || c is '\n' or '\t')).TrimEnd();

    [GeneratedRegex(@"\[(h+|m+|s+)\]", RegexOptions.IgnoreCase)]
    private static partial Regex Elapsed();

    [GeneratedRegex("\"[^\"]*\"|\\[[^\\]]*\\]|\\\\.|_.|\\*.")]
    private static partial Regex Quoted();
}
