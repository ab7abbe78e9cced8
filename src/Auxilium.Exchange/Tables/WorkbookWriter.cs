using System.Globalization;
using Auxilium.Planning.Calendars;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;

namespace Auxilium.Exchange.Tables;

/// <summary>How a cell looks: positions in the list of styles below.</summary>
internal enum CellStyle : uint
{
    Plain,
    Head,
    Moment,
    Percent,
    Number,
    Phase,
    Day,
    Week,
    Bar,
    PhaseBar,
}

/// <summary>A row of a sheet.</summary>
/// <param name="Level">How deep it stands, from 0.</param>
/// <param name="Cells">Texts and numbers; an empty text for a cell that only looks, <c>null</c> for none.</param>
internal sealed record SheetRow(int Level, IEnumerable<(CellStyle Style, object? Value)> Cells)
{
    private const double DayOfMinute = 1.0 / PlanTime.MinutesPerDay;

    /// <summary>Day 0 of spreadsheets.</summary>
    private static readonly int Epoch = new DateOnly(1899, 12, 30).DayNumber;

    /// <summary>A moment as the number of days that spreadsheets count; the end of a day stays on it, a minute before.</summary>
    public static object? Shown(CellKind kind, object? value)
    {
        if (value is DateOnly date)
            return (decimal)(date.DayNumber - Epoch);
        if (value is not PlanTime time)
            return value;
        var day = kind == CellKind.Finish ? time.LastDate : time.Date;
        var minutes = Math.Min(time.Minutes - PlanTime.On(day).Minutes, PlanTime.MinutesPerDay - 1);
        return (decimal)(day.DayNumber - Epoch + minutes * DayOfMinute);
    }
}

/// <summary>
/// An office spreadsheet with sheets that can be filtered, whose heads stay in sight. What is text stays text, never a formula. Rows are
/// written one by one, so that memory stays small.
/// </summary>
internal sealed class WorkbookWriter : IDisposable
{
    /// <summary>A cell holds at most this many characters.</summary>
    private const int LongestText = 32_767;

    private readonly SpreadsheetDocument _document;
    private readonly WorkbookPart _workbook;
    private readonly Sheets _sheets = new();

    /// <param name="to">Where it is written.</param>
    /// <param name="title">What the file is about.</param>
    public WorkbookWriter(Stream to, string title)
    {
        _document = SpreadsheetDocument.Create(to, SpreadsheetDocumentType.Workbook);
        _document.PackageProperties.Title = title;
        _workbook = _document.AddWorkbookPart();
        _workbook.AddNewPart<WorkbookStylesPart>().Stylesheet = Styles();
    }

    /// <param name="columns">Their titles, and widths in characters.</param>
    /// <param name="timeline">First days of the weeks that stand as narrow columns behind the others.</param>
    public void Add(
        string name,
        IEnumerable<(string Title, int Width)> columns,
        IEnumerable<SheetRow> rows,
        IReadOnlyList<DateOnly>? timeline = null
    )
    {
        var part = _workbook.AddNewPart<WorksheetPart>();
        WriteSheet(part, [.. columns], rows, timeline ?? []);
        _sheets.Append(
            new Sheet
            {
                Name = name,
                SheetId = (uint)_sheets.Count() + 1,
                Id = _workbook.GetIdOfPart(part),
            }
        );
    }

    public void Dispose()
    {
        _workbook.Workbook = new Workbook(_sheets);
        _document.Dispose();
    }

    private static void WriteSheet(
        WorksheetPart part,
        (string Title, int Width)[] columns,
        IEnumerable<SheetRow> rows,
        IReadOnlyList<DateOnly> timeline
    )
    {
        const double WeekWidth = 5;
        using var to = OpenXmlWriter.Create(part);
        to.WriteStartElement(new Worksheet());
        to.WriteElement(new SheetProperties(new OutlineProperties { SummaryBelow = false }));
        to.WriteElement(
            new SheetViews(
                new SheetView(
                    new Pane
                    {
                        VerticalSplit = 1,
                        TopLeftCell = "A2",
                        ActivePane = PaneValues.BottomLeft,
                        State = PaneStateValues.Frozen,
                    }
                )
                {
                    WorkbookViewId = 0,
                }
            )
        );
        to.WriteElement(
            new Columns(
                columns
                    .Select(column => (double)column.Width)
                    .Concat(timeline.Select(_ => WeekWidth))
                    .Select(
                        (width, i) =>
                            new Column
                            {
                                Min = (uint)i + 1,
                                Max = (uint)i + 1,
                                Width = width,
                                CustomWidth = true,
                            }
                    )
            )
        );
        to.WriteStartElement(new SheetData());
        var count = 1;
        var titles = columns
            .Select(column => (CellStyle.Head, (object?)column.Title))
            .Concat(timeline.Select(week => (CellStyle.Week, SheetRow.Shown(CellKind.Day, week))));
        WriteRow(to, count, new SheetRow(0, titles));
        foreach (var row in rows)
            WriteRow(to, ++count, row);
        to.WriteEndElement();
        to.WriteElement(new AutoFilter { Reference = $"A1:{ColumnName(columns.Length)}{count}" });
        to.WriteEndElement();
    }

    private static void WriteRow(OpenXmlWriter to, int number, SheetRow row)
    {
        // Spreadsheets group seven levels deep.
        const int Deepest = 7;
        var about = new List<OpenXmlAttribute> { new("r", "", number.ToString(CultureInfo.InvariantCulture)) };
        if (row.Level > 0)
            about.Add(new OpenXmlAttribute("outlineLevel", "", Math.Min(row.Level, Deepest).ToString(CultureInfo.InvariantCulture)));
        to.WriteStartElement(new Row(), about);
        var column = 0;
        foreach (var (style, value) in row.Cells)
        {
            column++;
            if (value is null)
                continue;
            var cell = new Cell { CellReference = $"{ColumnName(column)}{number}", StyleIndex = (uint)style };
            if (value is decimal amount)
                cell.CellValue = new CellValue(amount);
            else if (value is not "")
            {
                cell.DataType = CellValues.InlineString;
                cell.InlineString = new InlineString(new Text(Printable((string)value)) { Space = SpaceProcessingModeValues.Preserve });
            }
            to.WriteElement(cell);
        }
        to.WriteEndElement();
    }

    private static string Printable(string text)
    {
        var clean = string.Concat(text.Where(c => !char.IsControl(c) || c is '\n' or '\t'));
        return clean.Length <= LongestText ? clean : clean[..(LongestText - 1)] + "…";
    }

    private static string ColumnName(int number)
    {
        var name = "";
        for (; number > 0; number = (number - 1) / 26)
            name = (char)('A' + (number - 1) % 26) + name;
        return name;
    }

    private static Stylesheet Styles()
    {
        const uint Moments = 164;
        const uint Days = 165;
        const uint Weeks = 166;
        const uint Built = 9;
        return new Stylesheet(
            new NumberingFormats(
                new NumberingFormat { NumberFormatId = Moments, FormatCode = "yyyy\\-mm\\-dd hh:mm" },
                new NumberingFormat { NumberFormatId = Days, FormatCode = "yyyy\\-mm\\-dd" },
                new NumberingFormat { NumberFormatId = Weeks, FormatCode = "d\\ mmm" }
            )
            {
                Count = 3,
            },
            new Fonts(Lettered(), Lettered(new Bold())) { Count = 2 },
            new Fills(
                new Fill(new PatternFill { PatternType = PatternValues.None }),
                new Fill(new PatternFill { PatternType = PatternValues.Gray125 }),
                Filled("FF2F7F86"),
                Filled("FFB9AE96")
            )
            {
                Count = 4,
            },
            new Borders(new Border()) { Count = 1 },
            new CellStyleFormats(new CellFormat()) { Count = 1 },
            new CellFormats(
                new CellFormat(),
                new CellFormat { FontId = 1, ApplyFont = true },
                new CellFormat { NumberFormatId = Moments, ApplyNumberFormat = true },
                new CellFormat { NumberFormatId = Built, ApplyNumberFormat = true },
                new CellFormat(),
                new CellFormat { FontId = 1, ApplyFont = true },
                new CellFormat { NumberFormatId = Days, ApplyNumberFormat = true },
                new CellFormat
                {
                    NumberFormatId = Weeks,
                    ApplyNumberFormat = true,
                    FontId = 1,
                    ApplyFont = true,
                    Alignment = new Alignment { TextRotation = 90 },
                    ApplyAlignment = true,
                },
                new CellFormat { FillId = 2, ApplyFill = true },
                new CellFormat { FillId = 3, ApplyFill = true }
            )
            {
                Count = 10,
            }
        );
    }

    private static Font Lettered(params OpenXmlElement[] how) => new([.. how, new FontSize { Val = 10 }, new FontName { Val = "Arial" }]);

    /// <param name="colour">Alpha, red, green and blue, two hexadecimal figures each.</param>
    private static Fill Filled(string colour) =>
        new(new PatternFill(new ForegroundColor { Rgb = colour }) { PatternType = PatternValues.Solid });
}
