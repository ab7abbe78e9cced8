using System.IO.Compression;
using System.Text;
using Auxilium.Exchange.Files;
using Auxilium.Exchange.Lists;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tests;

namespace Auxilium.Exchange.Tests.Files;

public class ListFileTests
{
    private static string Text(string text) => $"""<c t="inlineStr"><is><t xml:space="preserve">{text}</t></is></c>""";

    private static string Row(int number, params string[] cells) => $"""<row r="{number}">{string.Concat(cells)}</row>""";

    private static ListFile Read(Workbook workbook, int? sheet = null, int? headRow = null) =>
        ListFile.Read("plan.xlsx", workbook.Bytes(), sheet, headRow);

    private static string Refused(byte[] content, string name = "plan.xlsx") =>
        Assert.Throws<FileRefusedException>(() => ListFile.Read(name, content)).Message;

    /// <summary>Of random plans: their documents, brought into an empty plan, give the same rows on the same days.</summary>
    [Fact]
    public void A_plan_document_is_a_list_of_its_rows()
    {
        for (var seed = 0; seed < 60; seed++)
        {
            var plan = RandomPlan.Of(new Random(seed), mixed: false);
            var file = ListFile.Read("plan.json", PlanDocumentWriter.Write(plan));
            Assert.Equal("plan", file.Kind);
            var empty = Scheduler.Calculate(
                Plan.Empty("Open", plan.Project.Start!.Value) with
                {
                    Calendars = plan.Calendars,
                    Project = Plan.Empty("Open", plan.Project.Start!.Value).Project with { Calendar = plan.Project.Calendar },
                }
            );
            var reading = ListReader.Read(file.Text, new ListOptions(), empty, [], new DateOnly(2027, 5, 13));
            Assert.Equal(plan.Tasks.Select(task => task.Name), reading.Rows.Select(row => row.Name));
            Assert.Equal(plan.Tasks.Select(task => task.Id), reading.Rows.Select(row => row.Cells[ListColumnKind.SourceId]));
        }
        var some = PlanText
            .Plan("P\n  A 2d\n  B 3h after A\nQ milestone after P")
            .With("A", task =>
                task with
                {
                    Progress = 1,
                    ActualStart = PlanTime.At(2027, 5, 3, 9),
                    ActualFinish = PlanTime.At(2027, 5, 5, 11),
                }
            );
        var into = Scheduler.Calculate(Plan.Empty("Open", PlanTime.At(2027, 5, 3, 9)));
        var read = ListReader.Read(
            ListFile.Read("plan.json", PlanDocumentWriter.Write(some)).Text,
            new ListOptions(),
            into,
            [],
            new DateOnly(2027, 5, 13)
        );
        Assert.All(read.Rows, row => Assert.Empty(row.Problems));
        Assert.Contains(
            "is a plan document that cannot be read.",
            Refused("""{"format":"auxilium-plan/1"}"""u8.ToArray()),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Cells_are_read_as_people_see_them()
    {
        var file = Read(
            new Workbook()
                .Shared("<t>Book the band</t>", "<r><t>two </t></r><r><t>parts</t></r><rPh><t>spoken</t></rPh>")
                .Sheet(
                    "Plan",
                    """
                    <row r="1"><c r="A1" t="s"><v>0</v></c><c r="B1" t="s"><v>1</v></c><c r="D1" s="1"><v>46510</v></c>
                      <c r="E1" s="2"><v>46510.5625</v></c><c r="F1" s="3"><v>0.4</v></c><c r="G1" s="4"><v>1.5</v></c>
                      <c r="H1" s="5"><v>46510</v></c><c r="I1" s="9"><v>3</v></c><c r="J1" s="8"><v>0.75</v></c>
                      <c r="K1"><f>1+1.5</f><v>2.5</v></c><c r="L1" t="b"><v>1</v></c><c r="M1" t="e"><v>#REF!</v></c>
                      <c r="N1" t="str"><f>A1</f><v>last value</v></c><c r="O1"><v>0.1</v></c></row>
                    """
                )
        );

        Assert.Equal(
            "Book the band\ttwo parts\t\t2027-05-03\t2027-05-03 13:30\t40%\t36h\t2027-05-03\t3\t18:00\t2.5\tyes\t#REF!\tlast value\t0.1\n",
            file.Text
        );
    }

    [Fact]
    public void Days_may_be_counted_from_1904()
    {
        var file = Read(new Workbook { From1904 = true }.Sheet("Plan", """<row r="1"><c r="A1" s="1"><v>45048</v></c></row>"""));

        Assert.Equal("2027-05-03\n", file.Text);
    }

    [Fact]
    public void Grouped_rows_and_indented_cells_are_inside_the_row_above()
    {
        var workbook = new Workbook().Sheet(
            "Plan",
            Row(1, Text("Task"), Text("Length"))
                + Row(2, Text("Hall"))
                + $"""<row r="3" outlineLevel="1">{Text("Paint")}{Text("2d")}</row>"""
                + $"""<row r="4" outlineLevel="1" hidden="1">{Text("Floor")}{Text("3d")}</row>"""
                + Row(5, Text("Party"))
                + """<row r="6"><c t="inlineStr" s="6"><is><t>Music</t></is></c></row>"""
                + """<row r="7"><c t="inlineStr" s="7"><is><t>Sound check</t></is></c></row>"""
        );

        var levels = Rows(Read(workbook)).Select(row => (row.Name, row.Level));

        Assert.Equal([("Hall", 0), ("Paint", 1), ("Floor", 1), ("Party", 0), ("Music", 1), ("Sound check", 2)], levels);
    }

    [Fact]
    public void The_row_with_headings_is_found_below_a_title_and_can_be_said()
    {
        var workbook = new Workbook().Sheet(
            "Plan",
            Row(1, Text("Summer fair 2027"))
                + Row(3, Text(""), Text("When"), Text(""))
                + Row(4, Text("Task"), Text("Start"), Text("Who"))
                + Row(5, Text("Tents"), """<c s="1"><v>46510</v></c>""", Text("Ann"))
        );

        var file = Read(workbook);
        Assert.Equal((4, "Task\tStart\tWho\nTents\t2027-05-03\tAnn\n"), (file.HeadRow, file.Text));
        Assert.Equal("Tents\t2027-05-03\tAnn\n", Read(workbook, headRow: 5).Text);
    }

    [Fact]
    public void The_first_sheet_with_something_in_it_is_read_and_another_can_be_chosen()
    {
        var workbook = new Workbook()
            .Sheet("Cover", "")
            .Sheet("Secret", Row(1, Text("hidden")), hidden: true)
            .Sheet("Tasks", Row(1, Text("Tents")))
            .Sheet("Old", Row(1, Text("Stalls")));

        var file = Read(workbook);
        Assert.Equal(["Cover", "Tasks", "Old"], file.Sheets.ToArray());
        Assert.Equal((1, "Tents\n"), (file.Sheet, file.Text));
        Assert.Equal("Stalls\n", Read(workbook, sheet: 2).Text);
        Assert.Contains("3 sheets", Assert.Throws<FileRefusedException>(() => Read(workbook, sheet: 3)).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void A_cell_with_line_breaks_and_quotes_stays_one_cell()
    {
        var file = Read(
            new Workbook().Sheet("Plan", Row(1, Text("Task"), Text("Note")) + Row(2, Text("Tents"), Text("“big”&#10;\"two\"")))
        );

        Assert.Equal("“big”\n\"two\"", Rows(file).Single().Cells[ListColumnKind.Note]);
    }

    [Theory]
    [InlineData("xl/vbaProject.bin", "macros")]
    [InlineData("xl/externalLinks/externalLink1.xml", "from other files")]
    public void What_may_do_harm_is_refused(string part, string why) =>
        Assert.Contains(
            why,
            Refused(new Workbook().Sheet("Plan", Row(1, Text("Tents"))).Part(part, "x").Bytes()),
            StringComparison.Ordinal
        );

    [Fact]
    public void Entities_are_never_taken_in()
    {
        var workbook = new Workbook().Sheet("Plan", Row(1, Text("Tents"))).Bytes();
        using var stream = new MemoryStream();
        stream.Write(workbook);
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Update, leaveOpen: true))
        {
            var sheet = zip.GetEntry("xl/worksheets/sheet0.xml")!;
            string xml;
            using (var reader = new StreamReader(sheet.Open()))
                xml = reader.ReadToEnd();
            sheet.Delete();
            using var to = new StreamWriter(zip.CreateEntry("xl/worksheets/sheet0.xml").Open());
            to.Write("""<!DOCTYPE x [<!ENTITY e SYSTEM "file:///etc/passwd">]>""" + xml.Replace("Tents", "&e;"));
        }

        Assert.Contains("damaged", Refused(stream.ToArray()), StringComparison.Ordinal);
    }

    [Fact]
    public void A_small_file_that_unpacks_to_a_huge_one_is_refused()
    {
        var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            zip.CreateEntry("xl/workbook.xml");
            using var to = zip.CreateEntry("xl/worksheets/sheet1.xml").Open();
            var zeros = new byte[1 << 20];
            for (var i = 0; i < 160; i++)
                to.Write(zeros);
        }
        Assert.True(stream.Length < 1 << 20);

        Assert.Contains("far larger unpacked", Refused(stream.ToArray()), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(new byte[] { 0xD0, 0xCF, 0x11, 0xE0, 1 }, "older kind")]
    [InlineData(new byte[] { (byte)'%', (byte)'P', (byte)'D', (byte)'F' }, "a PDF")]
    [InlineData(new byte[] { 0xFF, 0xD8, 0xFF, 0xE0 }, "a picture")]
    [InlineData(new byte[] { 1, 0, 2 }, "no list")]
    [InlineData(new byte[] { (byte)'P', (byte)'K', 3, 4, 9 }, "damaged")]
    [InlineData(new byte[0], "empty")]
    public void Other_kinds_of_files_are_told_apart_by_their_content(byte[] content, string why) =>
        Assert.Contains(why, Refused(content), StringComparison.Ordinal);

    [Theory]
    [InlineData("Task,Start,Who\n\"Tents, big\",2027-05-03,\"Ann \"\"A\"\" Lee\"\n", "Tents, big\t2027-05-03\tAnn \"A\" Lee")]
    [InlineData("Task;Length\r\nTents;2,5\r\n", "Tents\t2,5")]
    [InlineData("Task\tNote\nTents\t\"two\nlines\"\n", "Tents\t\"two\nlines\"")]
    public void A_table_in_text_is_read_whatever_stands_between_its_cells(string text, string line)
    {
        foreach (
            var encoding in new Encoding[] { new UTF8Encoding(false), new UTF8Encoding(true), Encoding.Unicode, Encoding.BigEndianUnicode }
        )
        {
            var file = ListFile.Read("plan.csv", (byte[])[.. encoding.GetPreamble(), .. encoding.GetBytes(text)]);
            Assert.Equal("table", file.Kind);
            Assert.Equal(line, file.Text.Split('\n', 2)[1].TrimEnd('\n'));
        }
    }

    [Fact]
    public void Text_of_older_programs_keeps_its_letters() =>
        Assert.Contains(
            "Café",
            ListFile.Read("plan.csv", Encoding.Latin1.GetBytes("Task,Who\nCafé,Zoë\n")).Text,
            StringComparison.Ordinal
        );

    [Fact]
    public void Lines_with_some_commas_stay_lines_with_their_indentation()
    {
        var file = ListFile.Read("plan.txt", "Hall, big\n  Paint\n  Floor\nParty\n"u8.ToArray());

        Assert.Equal("text", file.Kind);
        Assert.Equal([("Hall, big", 0), ("Paint", 1), ("Floor", 1), ("Party", 0)], Rows(file).Select(row => (row.Name, row.Level)));
    }

    /// <summary>Whatever is done to a file, it is read or refused in a sentence.</summary>
    [Fact]
    public void Damaged_files_are_read_or_refused_and_nothing_else()
    {
        var spreadsheet = new Workbook()
            .Shared("<t>Tents</t>")
            .Sheet("Plan", Row(1, Text("Task"), Text("Start")) + """<row r="2"><c t="s"><v>0</v></c><c s="1"><v>46510</v></c></row>""")
            .Bytes();
        var table = "Task,Length,\"Note\"\nTents,2d,\"a \"\"b\"\"\"\nStalls,3d,x\n"u8.ToArray();
        var random = new Random(11);
        for (var turn = 0; turn < 3_000; turn++)
        {
            var content = (turn % 2 == 0 ? spreadsheet : table).ToArray();
            // Inside of the packed parts, too: their checks would stop most damage before it is looked at.
            if (turn % 4 == 0)
                content = Repacked(spreadsheet, random);
            else
                Damage(content, random);
            try
            {
                var file = ListFile.Read("plan", content);
                ListReader.Read(file.Text, new ListOptions(), Empty, [], new(2027, 5, 1));
            }
            catch (FileRefusedException refused)
            {
                Assert.EndsWith(".", refused.Message, StringComparison.Ordinal);
            }
        }
    }

    private static void Damage(byte[] content, Random random)
    {
        for (var times = random.Next(1, 6); times > 0; times--)
            content[random.Next(content.Length)] = (byte)random.Next(256);
    }

    private static byte[] Repacked(byte[] packed, Random random)
    {
        var stream = new MemoryStream();
        using (var from = new ZipArchive(new MemoryStream(packed)))
        using (var to = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
            foreach (var entry in from.Entries)
            {
                var part = new MemoryStream();
                using (var inside = entry.Open())
                    inside.CopyTo(part);
                var bytes = part.ToArray();
                if (random.Next(3) == 0)
                    Damage(bytes, random);
                using var packer = to.CreateEntry(entry.FullName).Open();
                packer.Write(bytes);
            }
        return stream.ToArray();
    }

    private static readonly Schedule Empty = Scheduler.Calculate(Plan.Empty("Fair", PlanTime.At(2027, 5, 3, 9)));

    private static IReadOnlyList<ListRow> Rows(ListFile file) =>
        ListReader.Read(file.Text, new ListOptions(), Empty, [], new(2027, 5, 1)).Rows;
}
