using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Typing;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;

namespace Auxilium.Exchange.Tables;

/// <summary>
/// A plan as an office spreadsheet: tasks, links, people and how far it is from its baseline, each on a sheet. Dates are dates and
/// numbers are numbers; what people typed is text, never a formula. Rows are written one by one, so that memory stays small.
/// </summary>
public static class PlanWorkbook
{
    /// <summary>Positions in the list of styles below.</summary>
    private enum Style : uint
    {
        Plain,
        Head,
        Moment,
        Percent,
        Number,
        Phase,
        Day,
    }

    private const double DayOfMinute = 1.0 / PlanTime.MinutesPerDay;

    /// <summary>Day 0 of spreadsheets.</summary>
    private static readonly int Epoch = new DateOnly(1899, 12, 30).DayNumber;

    /// <summary>A cell holds at most this many characters.</summary>
    private const int LongestText = 32_767;

    /// <param name="title">What the file is about: the name of the project.</param>
    /// <param name="isWhole">Whether there are sheets besides that of the tasks.</param>
    public static byte[] Write(PlanTable table, string title, bool isWhole = true)
    {
        var stream = new MemoryStream();
        using (var document = SpreadsheetDocument.Create(stream, SpreadsheetDocumentType.Workbook))
        {
            document.PackageProperties.Title = title;
            var workbook = document.AddWorkbookPart();
            workbook.AddNewPart<WorkbookStylesPart>().Stylesheet = Styles();
            var sheets = new Sheets();
            Add("Tasks", table.Columns.Select(c => (c.Title, c.Width)), TasksOf(table));
            if (isWhole)
                AddOthers();
            workbook.Workbook = new DocumentFormat.OpenXml.Spreadsheet.Workbook(sheets);

            void AddOthers()
            {
                Add("Links", [("From", 8), ("Task", 40), ("To", 8), ("Task", 40), ("Link", 20)], LinksOf(table.Plan));
                Add("People", [("Person", 30), ("Mail", 34), ("Tasks", 8)], PeopleOf(table.Plan));
                if (Drift.Of(table.Schedule) is { } drift)
                    Add(
                        "Drift",
                        [
                            ("No", 8),
                            ("Task", 40),
                            ("Planned start", 16),
                            ("Start", 16),
                            ("Planned finish", 16),
                            ("Finish", 16),
                            ("Hours later", 12),
                        ],
                        DriftOf(table, drift)
                    );
            }

            void Add(string name, IEnumerable<(string Title, int Width)> columns, IEnumerable<SheetRow> rows)
            {
                var part = workbook.AddNewPart<WorksheetPart>();
                WriteSheet(part, [.. columns], rows);
                sheets.Append(
                    new Sheet
                    {
                        Name = name,
                        SheetId = (uint)sheets.Count() + 1,
                        Id = workbook.GetIdOfPart(part),
                    }
                );
            }
        }
        return stream.ToArray();
    }

    /// <param name="Level">How deep it stands, from 0.</param>
    private sealed record SheetRow(int Level, IEnumerable<(Style Style, object? Value)> Cells);

    private static IEnumerable<SheetRow> TasksOf(PlanTable table)
    {
        foreach (var row in table.Rows)
        {
            var isPhase = !table.Schedule.IsLeaf(row);
            yield return new SheetRow(
                table.Plan.Index.LevelOf(row),
                table.Columns.Select(column => (StyleOf(column.Kind, isPhase), Shown(column.Kind, column.Of(table, row))))
            );
        }
    }

    private static IEnumerable<SheetRow> LinksOf(Plan plan) =>
        plan.Links.Select(link =>
        {
            var (from, to) = (plan.Index.RowOf(link.From), plan.Index.RowOf(link.To));
            return Row(
                plan.Index.NumberOf(from),
                plan.Tasks[from].Name,
                plan.Index.NumberOf(to),
                plan.Tasks[to].Name,
                LinkText.Format(plan.Index.NumberOf(from), link)
            );
        });

    private static IEnumerable<SheetRow> PeopleOf(Plan plan)
    {
        var tasks = plan.Tasks.SelectMany(task => task.Assignments).GroupBy(a => a.Person).ToDictionary(g => g.Key, g => g.Count());
        return plan.People.Select(person => Row(person.Name, person.Email, (decimal)tasks.GetValueOrDefault(person.Id)));
    }

    private static IEnumerable<SheetRow> DriftOf(PlanTable table, Drift drift) =>
        table
            .Rows.Where(row => drift.Of(row) is not null)
            .Select(row =>
            {
                var (schedule, planned) = (table.Schedule, drift.PlannedOf(row)!);
                return new SheetRow(
                    0,
                    [
                        (Style.Plain, table.Plan.Index.NumberOf(row)),
                        (Style.Plain, table.Plan.Tasks[row].Name),
                        (Style.Moment, Shown(CellKind.Start, planned.Start)),
                        (Style.Moment, Shown(CellKind.Start, schedule.StartOf(row))),
                        (Style.Moment, Shown(CellKind.Finish, planned.Finish)),
                        (Style.Moment, Shown(CellKind.Finish, schedule.FinishOf(row))),
                        (Style.Number, Math.Round(drift.Of(row)!.Value.Finish.Count / 60m, 2)),
                    ]
                );
            });

    private static SheetRow Row(params object?[] values) =>
        new(0, values.Select(value => (value is decimal ? Style.Number : Style.Plain, value)));

    private static Style StyleOf(CellKind kind, bool isPhase) =>
        kind switch
        {
            CellKind.Start or CellKind.Finish => Style.Moment,
            CellKind.Day => Style.Day,
            CellKind.Percent => Style.Percent,
            CellKind.Number => Style.Number,
            _ => isPhase ? Style.Phase : Style.Plain,
        };

    /// <summary>A moment as the number of days that spreadsheets count; the end of a day stays on it, a minute before.</summary>
    private static object? Shown(CellKind kind, object? value)
    {
        if (value is DateOnly date)
            return (decimal)(date.DayNumber - Epoch);
        if (value is not PlanTime time)
            return value;
        var day = kind == CellKind.Finish ? time.LastDate : time.Date;
        var minutes = Math.Min(time.Minutes - PlanTime.On(day).Minutes, PlanTime.MinutesPerDay - 1);
        return (decimal)(day.DayNumber - Epoch + minutes * DayOfMinute);
    }

    private static void WriteSheet(WorksheetPart part, (string Title, int Width)[] columns, IEnumerable<SheetRow> rows)
    {
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
                columns.Select(
                    (column, i) =>
                        new Column
                        {
                            Min = (uint)i + 1,
                            Max = (uint)i + 1,
                            Width = column.Width,
                            CustomWidth = true,
                        }
                )
            )
        );
        to.WriteStartElement(new SheetData());
        var count = 1;
        WriteRow(to, count, new SheetRow(0, columns.Select(column => (Style.Head, (object?)column.Title))));
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
            else
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
        const uint Built = 9;
        return new Stylesheet(
            new NumberingFormats(
                new NumberingFormat { NumberFormatId = Moments, FormatCode = "yyyy\\-mm\\-dd hh:mm" },
                new NumberingFormat { NumberFormatId = Days, FormatCode = "yyyy\\-mm\\-dd" }
            )
            {
                Count = 2,
            },
            new Fonts(new Font(), new Font(new Bold())) { Count = 2 },
            new Fills(
                new Fill(new PatternFill { PatternType = PatternValues.None }),
                new Fill(new PatternFill { PatternType = PatternValues.Gray125 })
            )
            {
                Count = 2,
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
                new CellFormat { NumberFormatId = Days, ApplyNumberFormat = true }
            )
            {
                Count = 7,
            }
        );
    }
}
