using System.Diagnostics;
using System.Globalization;
using System.IO.Compression;
using System.Text;
using Auxilium.Exchange.Files;
using Auxilium.Exchange.Lists;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tests;

namespace Auxilium.Exchange.Tests.Files;

/// <summary>
/// Files with something wrong anywhere: each is read or refused in a sentence, in a moment and without much memory. A run tries some
/// hundreds; <c>AUXILIUM_DAMAGED=100000</c> says how many of each kind.
/// </summary>
public class DamagedFilesTests
{
    private const long MostBytes = 200_000_000;
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(20);
    private static readonly DateOnly Today = new(2027, 5, 13);

    private static readonly int Count = int.Parse(
        Environment.GetEnvironmentVariable("AUXILIUM_DAMAGED") ?? "700",
        CultureInfo.InvariantCulture
    );

    private static readonly Schedule Empty = Scheduler.Calculate(Plan.Empty("Regatta", PlanTime.At(2027, 5, 3, 9)));

    private static readonly string[] Pieces =
    [
        "\0",
        "\uFFFD",
        "<!DOCTYPE x [<!ENTITY a \"aaaa\">]>&a;",
        "999999999999",
        "<row r=\"1048577\">",
        "<c r=\"ZZZZ1\">",
        "-1",
        "\"",
        "\r\n\r\n",
        "RRULE:FREQ=SECONDLY;COUNT=999999999\r\n",
        "DTSTART:99991231T235959Z\r\n",
        "BEGIN:VEVENT\r\n",
        "=1+1",
        "\t\t\t\t",
        "1e308",
        "]]>",
        "&#x0;",
    ];

    [Fact]
    public void Spreadsheets() => Try("plan.xlsx", Workbook(), Rewritten);

    [Fact]
    public void Tables() => Try("plan.csv", TableCsv.Write(Table()), Changed);

    [Fact]
    public void Calendars() => Try("plan.ics", Encoding.UTF8.GetBytes(Calendar), Changed);

    private static void Try(string name, byte[] sound, Func<Random, byte[], byte[]> damage)
    {
        ListFile.Read(name, sound);
        for (var seed = 0; seed < Count; seed++)
        {
            var file = damage(new Random(seed), sound);
            using var patience = new CancellationTokenSource(Patience);
            var (allocated, watch) = (GC.GetAllocatedBytesForCurrentThread(), Stopwatch.StartNew());
            try
            {
                var read = ListFile.Read(name, file, cancel: patience.Token);
                ListReader.Read(read.Text, new ListOptions { Repeats = read.Repeats }, Empty, [], Today);
            }
            catch (FileRefusedException refused)
            {
                Assert.InRange(refused.Message.Length, 20, 400);
            }
            Assert.True(GC.GetAllocatedBytesForCurrentThread() - allocated < MostBytes, $"Seed {seed} takes much memory.");
            Assert.True(watch.Elapsed < Patience, $"Seed {seed} takes long.");
        }
    }

    /// <summary>Bytes changed, cut, repeated, or pieces put in that have broken programs before.</summary>
    private static byte[] Changed(Random random, byte[] sound)
    {
        var bytes = sound.ToList();
        for (var times = random.Next(1, 6); times > 0 && bytes.Count > 0; times--)
        {
            var at = random.Next(bytes.Count);
            var length = Math.Min(random.Next(1, 200), bytes.Count - at);
            switch (random.Next(5))
            {
                case 0:
                    bytes[at] = (byte)random.Next(256);
                    break;
                case 1:
                    bytes.RemoveRange(at, length);
                    break;
                case 2:
                    bytes.InsertRange(at, bytes.GetRange(at, length));
                    break;
                case 3:
                    bytes.RemoveRange(at, bytes.Count - at);
                    break;
                default:
                    bytes.InsertRange(at, Encoding.UTF8.GetBytes(Pieces[random.Next(Pieces.Length)]));
                    break;
            }
        }
        return [.. bytes];
    }

    /// <summary>Of a spreadsheet, the archive itself, or one of the files in it.</summary>
    private static byte[] Rewritten(Random random, byte[] sound)
    {
        if (random.Next(4) == 0)
            return Changed(random, sound);
        var to = new MemoryStream();
        using (var from = new ZipArchive(new MemoryStream(sound)))
        using (var archive = new ZipArchive(to, ZipArchiveMode.Create, leaveOpen: true))
        {
            var broken = random.Next(from.Entries.Count);
            for (var i = 0; i < from.Entries.Count; i++)
            {
                using var reading = from.Entries[i].Open();
                var content = new MemoryStream();
                reading.CopyTo(content);
                using var writing = archive.CreateEntry(from.Entries[i].FullName, CompressionLevel.Fastest).Open();
                writing.Write(i == broken ? Changed(random, content.ToArray()) : content.ToArray());
            }
        }
        return to.ToArray();
    }

    private static PlanTable Table() => new(Scheduler.Calculate(RandomPlan.Of(new Random(4), most: 12)), Today);

    private static byte[] Workbook() => PlanWorkbook.Write(Table(), "Plan", hasTimeline: true);

    private const string Calendar =
        "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Boathouse//EN\r\nBEGIN:VTIMEZONE\r\nTZID:Europe/Berlin\r\nBEGIN:STANDARD\r\n"
        + "DTSTART:20261025T030000\r\nTZOFFSETFROM:+0200\r\nTZOFFSETTO:+0100\r\nEND:STANDARD\r\nEND:VTIMEZONE\r\nBEGIN:VEVENT\r\n"
        + "UID:a@boathouse.example\r\nDTSTAMP:20270501T080000Z\r\nDTSTART;TZID=Europe/Berlin:20270517T183000\r\nDURATION:PT2H\r\n"
        + "RRULE:FREQ=WEEKLY;BYDAY=MO;COUNT=5\r\nEXDATE;TZID=Europe/Berlin:20270531T183000\r\nSUMMARY:Rowing lesson\r\n"
        + "ATTENDEE;CN=\"Lee, Ann\":mailto:ann@boathouse.example\r\nBEGIN:VALARM\r\nACTION:DISPLAY\r\nTRIGGER:-PT15M\r\nEND:VALARM\r\n"
        + "END:VEVENT\r\nBEGIN:VTODO\r\nUID:b@boathouse.example\r\nDTSTAMP:20270501T080000Z\r\nDUE;VALUE=DATE:20270520\r\n"
        + "SUMMARY:Paint\r\nPERCENT-COMPLETE:40\r\nEND:VTODO\r\nEND:VCALENDAR\r\n";
}
