using Auxilium.Exchange.Files;
using Auxilium.Exchange.Lists;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using BenchmarkDotNet.Attributes;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;

namespace Auxilium.Benchmarks;

/// <summary>A plan as a spreadsheet and as CSV, against the same number of cells written by the bare library (ratio 1).</summary>
[MemoryDiagnoser]
public class TableBenchmarks
{
    private static readonly DateOnly Today = new(2027, 5, 13);

    private Schedule _schedule = null!;
    private Schedule _empty = null!;
    private byte[] _workbook = [];

    [Params(1_000, 10_000)]
    public int Tasks { get; set; }

    [GlobalSetup]
    public void Setup()
    {
        _schedule = Scheduler.Calculate(BenchPlan.Of(Tasks));
        _workbook = PlanWorkbook.Write(new PlanTable(_schedule, Today), "Bench");
        _empty = Scheduler.Calculate(Plan.Empty("Bench", PlanTime.At(2027, 5, 3, 9)));
    }

    [Benchmark(Baseline = true)]
    public long BareCells()
    {
        using var stream = new MemoryStream();
        using (var document = SpreadsheetDocument.Create(stream, SpreadsheetDocumentType.Workbook))
        {
            var workbook = document.AddWorkbookPart();
            var part = workbook.AddNewPart<WorksheetPart>();
            using (var to = OpenXmlWriter.Create(part))
            {
                to.WriteStartElement(new Worksheet());
                to.WriteStartElement(new SheetData());
                // The tasks with nine columns each, and a link and a half a task with five.
                for (var row = 0; row < Tasks + Tasks * 3 / 2; row++)
                {
                    to.WriteStartElement(new Row());
                    for (var column = 0; column < (row < Tasks ? 9 : 5); column++)
                        to.WriteElement(
                            new Cell { DataType = CellValues.InlineString, InlineString = new InlineString(new Text("Task 123")) }
                        );
                    to.WriteEndElement();
                }
                to.WriteEndElement();
                to.WriteEndElement();
            }
            workbook.Workbook = new Workbook(
                new Sheets(
                    new Sheet
                    {
                        Name = "Tasks",
                        SheetId = 1,
                        Id = workbook.GetIdOfPart(part),
                    }
                )
            );
        }
        return stream.Length;
    }

    [Benchmark]
    public int Spreadsheet() => PlanWorkbook.Write(new PlanTable(_schedule, Today), "Bench").Length;

    /// <summary>The file that the plan was written to, understood as rows with the edit that adds them.</summary>
    [Benchmark]
    public int ReadSpreadsheet() =>
        ListReader.Read(ListFile.Read("bench.xlsx", _workbook).Text, new ListOptions(), _empty, [], Today).Rows.Count;

    [Benchmark]
    public int Csv() => TableCsv.Write(new PlanTable(_schedule, Today)).Length;
}
