using System.Text;
using Auxilium.Exchange.Files;
using Auxilium.Exchange.Lists;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tests;
using Auxilium.Planning.Tracking;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using DocumentFormat.OpenXml.Validation;
using ExcelDataReader;
using Microsoft.VisualBasic.FileIO;

namespace Auxilium.Exchange.Tests.Tables;

/// <summary>What is handed out as tables, judged by readers that are not ours, and read back by ours.</summary>
public class TableTests
{
    private static readonly DateOnly Today = new(2027, 5, 3);

    // The reader of spreadsheets asks for an alphabet of old files before it looks at any.
    static TableTests() => Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);

    private static Plan Fair()
    {
        var plan = PlanText.Plan("Site\n  Fence 2d\n  Power 4h after Fence + 1d\nOpen milestone after Power");
        plan = plan with { People = [new("ann", "Ann “A” Lee", "AL", "ann@fair.example"), new("bo", "Bo, junior", "BO")] };
        return plan.With("Fence", t => t with { Assignments = [new("ann"), new("bo")], Note = "=1+1\n“two” lines", Progress = 0.4m })
            .With("Power", t => t with { Name = "Power, \"strong\" 🎪 חשמל", Facts = t.Facts.With(PlainFacts.Label, "@tech") });
    }

    private static PlanTable Table(Plan plan, params string[] keys) =>
        new(Scheduler.Calculate(plan), Today, keys.Length == 0 ? null : [.. keys.Select(key => PlanTable.All.Single(c => c.Key == key))]);

    private static List<List<object?>> Sheet(byte[] workbook, string name)
    {
        using var reader = ExcelReaderFactory.CreateOpenXmlReader(new MemoryStream(workbook));
        do
        {
            if (reader.Name != name)
                continue;
            var rows = new List<List<object?>>();
            while (reader.Read())
                rows.Add([.. Enumerable.Range(0, reader.FieldCount).Select(reader.GetValue)]);
            return rows;
        } while (reader.NextResult());
        throw new InvalidOperationException($"There is no sheet {name}.");
    }

    [Fact]
    public void A_spreadsheet_has_real_dates_and_numbers_and_never_a_formula()
    {
        var workbook = PlanWorkbook.Write(
            Table(Fair(), "no", "name", "owner", "length", "after", "start", "finish", "progress", "note", "label"),
            "Fair"
        );

        var tasks = Sheet(workbook, "Tasks");
        Assert.Equal(["No", "Task", "Owner", "Days", "After", "Start", "Finish", "Done", "Note", "Label"], tasks[0]);
        Assert.Equal(
            [
                "1.1",
                "Fence",
                "Ann “A” Lee, Bo, junior",
                2.0,
                null,
                new DateTime(2027, 5, 3, 9, 0, 0),
                new DateTime(2027, 5, 4, 18, 0, 0),
                0.4,
            ],
            tasks[2].Take(8)
        );
        Assert.Equal("=1+1\n“two” lines", tasks[2][8]);
        Assert.Equal(["1.2", "Power, \"strong\" 🎪 חשמל", null, 0.5, "1.1 + 1d"], tasks[3].Take(5));
        Assert.Equal("@tech", tasks[3][9]);
        Assert.Equal(5, tasks.Count);
        Assert.Equal("1.1 + 1d", Sheet(workbook, "Links")[1][4]);
        Assert.Equal(["Ann “A” Lee", "ann@fair.example", 1.0], Sheet(workbook, "People")[1]);
        using var document = SpreadsheetDocument.Open(new MemoryStream(workbook), false);
        Assert.DoesNotContain(document.WorkbookPart!.WorksheetParts, part =>
            part.Worksheet.Descendants<DocumentFormat.OpenXml.Spreadsheet.CellFormula>().Any()
        );
    }

    [Fact]
    public void The_timeline_stands_beside_the_tasks_by_week()
    {
        var plan = Plan.Empty("Fair", PlanTime.At(2027, 5, 5, 9)) with
        {
            Tasks =
            [
                new PlanTask { Id = "p", Name = "Site" },
                new PlanTask
                {
                    Id = "a",
                    Name = "Fence",
                    Parent = "p",
                    Length = Length.Days(6),
                },
                new PlanTask
                {
                    Id = "b",
                    Name = "Power",
                    Parent = "p",
                    Length = Length.Days(3),
                },
            ],
            Links = [new PlanLink("a", "b")],
        };
        var table = new PlanTable(Scheduler.Calculate(plan), Today, [.. PlanTable.All.Where(column => column.Key == "name")]);
        using var document = SpreadsheetDocument.Open(new MemoryStream(PlanWorkbook.Write(table, "Fair", hasTimeline: true)), false);
        var rows = document
            .WorkbookPart!.WorksheetParts.First()
            .Worksheet.Descendants<Row>()
            .Select(row => row.Elements<Cell>().ToDictionary(c => c.CellReference!.Value![..1]))
            .ToList();
        // Weeks from Monday 3, 10 and 17 May.
        Assert.Equal(["46510", "46517", "46524"], rows[0].Where(c => c.Key != "A").Select(c => c.Value.CellValue!.Text));
        Assert.Equal(["ABCD", "ABC", "ACD"], rows.Skip(1).Select(row => string.Concat(row.Keys.Order())));
        var (phase, task) = (rows[1]["B"].StyleIndex!.Value, rows[2]["B"].StyleIndex!.Value);
        var formats = document.WorkbookPart.WorkbookStylesPart!.Stylesheet!.CellFormats!;
        Assert.NotEqual(phase, task);
        Assert.All(new[] { phase, task }, style => Assert.True(((CellFormat)formats.ElementAt((int)style)).FillId! >= 2));
    }

    [Fact]
    public void Load_is_told_by_person_and_week_beside_what_they_can_work()
    {
        var plan = PlanText.Plan("Fence 8d\nPower 1d") with { People = [new Person("ann", "Ann Lee", "AL")] };
        plan = plan with { Tasks = [.. plan.Tasks.Select(task => task with { Assignments = [new("ann")] })] };
        var workbook = PlanWorkbook.Write(new PlanTable(Scheduler.Calculate(plan), new DateOnly(2027, 5, 3)), "Fair");
        var load = Sheet(workbook, "Load");
        Assert.Equal(["Ann Lee", "to do", 48.0, 24.0], load[1]);
        Assert.Equal(["Ann Lee", "available", 40.0, 40.0], load[2]);
        using var document = SpreadsheetDocument.Open(new MemoryStream(workbook), false);
        Assert.Empty(new OpenXmlValidator(FileFormatVersions.Microsoft365).Validate(document).Select(e => e.Description));
    }

    [Fact]
    public void A_spreadsheet_of_any_plan_is_valid()
    {
        for (var seed = 0; seed < 40; seed++)
        {
            var plan = RandomPlan.Of(new Random(seed));
            var taken = Baselines.Take(Scheduler.Calculate(plan), "b", "As agreed", Today);
            var workbook = PlanWorkbook.Write(
                new PlanTable(Scheduler.Calculate(plan with { Baselines = [taken] }), Today, PlanTable.All),
                "Any",
                hours: [new WorkedHours(plan.Tasks[0].Id, "ann", Today, 90), new WorkedHours("gone", "nobody", Today, 15)],
                hasTimeline: true
            );
            using var document = SpreadsheetDocument.Open(new MemoryStream(workbook), false);
            Assert.Empty(
                new OpenXmlValidator(FileFormatVersions.Microsoft365).Validate(document).Select(e => $"{e.Path?.XPath}: {e.Description}")
            );
            Assert.Equal(1 + plan.Tasks.Length, Sheet(workbook, "Tasks").Count);
            Assert.True(Sheet(workbook, "Drift").Count > 1);
            Assert.Equal([1.5, 0.25], Sheet(workbook, "Hours").Skip(1).Select(row => row[4]));
        }
    }

    [Theory]
    [InlineData(',', false)]
    [InlineData(';', true)]
    [InlineData('\t', false)]
    public void A_strict_reader_gets_each_cell_of_csv_as_it_is(char separator, bool marked)
    {
        var bytes = TableCsv.Write(Table(Fair(), "name", "owner", "length", "start", "progress", "note", "label"), separator, marked);

        Assert.Equal(marked, bytes.AsSpan().StartsWith(Encoding.UTF8.Preamble));
        using var parser = new TextFieldParser(new MemoryStream(bytes), Encoding.UTF8)
        {
            HasFieldsEnclosedInQuotes = true,
            TrimWhiteSpace = false,
        };
        parser.SetDelimiters(separator.ToString());
        var rows = new List<string[]>();
        while (!parser.EndOfData)
            rows.Add(parser.ReadFields()!);
        Assert.Equal(["Task", "Owner", "Days", "Start", "Done", "Note", "Label"], rows[0]);
        // What a spreadsheet would take for a formula begins with an apostrophe.
        Assert.Equal(
            ["Fence", "Ann “A” Lee, Bo, junior", "2", "2027-05-03 09:00", "40%", "'=1+1\n“two” lines", ""],
            rows[2].Select(Lines)
        );
        Assert.Equal(["Power, \"strong\" 🎪 חשמל", "'@tech"], [rows[3][0], rows[3][6]]);

        static string Lines(string cell) => cell.ReplaceLineEndings("\n");
    }

    [Fact]
    public void Only_the_rows_that_are_meant_are_written()
    {
        var schedule = Scheduler.Calculate(Fair());
        var table = new PlanTable(schedule, Today, rows: new HashSet<string> { "Power", "Open" });

        Assert.Equal(["1.2", "2"], Sheet(PlanWorkbook.Write(table, "Fair"), "Tasks").Skip(1).Select(row => row[0]));
    }

    /// <summary>A plan that is handed out as a table and imported again has the same rows, work, people and links.</summary>
    [Theory]
    [InlineData("xlsx")]
    [InlineData("csv")]
    public void Dates_that_are_handed_out_are_read_back_with_their_hours(string format)
    {
        var plan = PlanText.Plan("Site\n  Fence 2d\n  Power 3h after Fence\n  Water 5h after Power\nOpen milestone after Water");
        var table = Table(plan, "name", "start", "finish");
        var file = ListFile.Read($"plan.{format}", format == "xlsx" ? PlanWorkbook.Write(table, "Plan") : TableCsv.Write(table));
        var empty = Scheduler.Calculate(Plan.Empty("Again", plan.Project.Start!.Value));
        var reading = ListReader.Read(file.Text, new ListOptions(), empty, [], Today);
        var again = Scheduler.Calculate(EditPipeline.Run(reading.Edit!, new EditContext(empty, Today, [])).After.Plan);

        foreach (var name in new[] { "Fence", "Power", "Water" })
        {
            var row = again.Plan.Index.RowOf(again.Plan.Tasks.Single(task => task.Name == name).Id);
            Assert.Equal((table.Schedule.StartOf(name), table.Schedule.FinishOf(name)), (again.StartOf(row), again.FinishOf(row)));
        }
    }

    [Theory]
    [InlineData("xlsx")]
    [InlineData("csv")]
    public void What_is_handed_out_can_be_imported_again(string format)
    {
        for (var seed = 0; seed < 60; seed++)
        {
            var plan = RandomPlan.Of(new Random(seed), mixed: false, most: 40);
            var table = Table(plan, "no", "name", "length", "after", "note", "label", "priority");
            var bytes = format == "xlsx" ? PlanWorkbook.Write(table, "Plan") : TableCsv.Write(table);

            var file = ListFile.Read($"plan.{format}", bytes);
            var empty = Scheduler.Calculate(Plan.Empty("Again", plan.Project.Start!.Value));
            var reading = ListReader.Read(file.Text, new ListOptions(), empty, plan.People, Today);
            Assert.Empty(reading.Rows.SelectMany(row => row.Problems));
            var again = EditPipeline.Run(reading.Edit!, new EditContext(empty, Today, [])).After.Plan;

            Assert.Equal(Shape(plan), Shape(again));
            Assert.Equal(Links(plan), Links(again));
        }

        static IEnumerable<(string, int, int, string?)> Shape(Plan plan) =>
            plan.Tasks.Select((task, row) => (task.Name, plan.Index.LevelOf(row), plan.LengthOf(task).Count, PlainFacts.Label.Of(task)));
        static IEnumerable<string> Links(Plan plan) =>
            plan
                .Links.Select(l =>
                    $"{plan.Index.RowOf(l.From)} {plan.Index.RowOf(l.To)} {l.Kind} {l.LagMinutes(plan.Project.Units)} {l.Elapsed}"
                )
                .Order();
    }
}
