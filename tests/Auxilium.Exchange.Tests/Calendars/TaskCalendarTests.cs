using System.Text;
using Auxilium.Exchange.Calendars;
using Ical.Net;

namespace Auxilium.Exchange.Tests.Calendars;

public class TaskCalendarTests
{
    private static readonly DateTime Now = new(2027, 5, 13, 8, 30, 0, DateTimeKind.Utc);

    private static CalendarTask Task(string name, DateOnly? to = null, bool done = false, bool owner = true) =>
        new(
            "p-t@auxilium",
            name,
            "Lantern Regatta",
            new DateOnly(2027, 5, 12),
            to ?? new DateOnly(2027, 5, 14),
            null,
            done,
            owner,
            "http://127.0.0.1:5180/projects/p#t"
        );

    [Fact]
    public void A_task_is_an_event_of_whole_days_that_keeps_nobody_from_being_free()
    {
        var read = Calendar.Load(TaskCalendar.Write("My tasks", [Task("Rig lantern lines")], Now))!;
        var told = Assert.Single(read.Events);
        Assert.Equal(("p-t@auxilium", "Rig lantern lines"), (told.Uid, told.Summary));
        Assert.Equal((new DateOnly(2027, 5, 12), false), (told.Start!.Date, told.Start.HasTime));
        // The end of whole days is the day after the last.
        Assert.Equal((new DateOnly(2027, 5, 15), false), (told.End!.Date, told.End.HasTime));
        Assert.Equal("TRANSPARENT", told.Transparency);
        Assert.Equal("http://127.0.0.1:5180/projects/p#t", told.Url!.ToString());
        Assert.Contains("Lantern Regatta", told.Description, StringComparison.Ordinal);
        Assert.Equal(Now, told.DtStamp!.AsUtc);
    }

    [Fact]
    public void What_is_done_says_so_and_who_helps_is_told_that_they_do()
    {
        var text = TaskCalendar.Write("x", [Task("Rig", done: true, owner: false)], Now);
        var told = Assert.Single(Calendar.Load(text)!.Events);
        Assert.Equal("Rig (done)", told.Summary);
        Assert.Contains("as a helper", told.Description, StringComparison.Ordinal);
        Assert.DoesNotContain(
            "as a helper",
            Assert.Single(Calendar.Load(TaskCalendar.Write("x", [Task("Rig")], Now))!.Events).Description,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Hours_are_told_in_the_zone_of_the_organisation_whose_rules_come_along_and_changes_are_counted()
    {
        var zone = TimeZoneInfo.FindSystemTimeZoneById("Europe/Berlin");
        var begins = new DateTime(2027, 5, 12, 8, 0, 0, DateTimeKind.Utc);
        var winter = new DateTime(2027, 12, 1, 8, 0, 0, DateTimeKind.Utc);
        var text = TaskCalendar.Write(
            "x",
            [
                Task("Rig") with
                {
                    Hours = (begins, begins.AddHours(2)),
                    Sequence = 7,
                },
                Task("Store") with
                {
                    Id = "s@auxilium",
                    Hours = (winter, winter.AddHours(2)),
                },
            ],
            Now,
            new CalendarWishes(zone)
        );
        Assert.Equal(2, StrictCalendar.Read(text).Count);
        Assert.Contains("BEGIN:VTIMEZONE\r\nTZID:Europe/Berlin", text, StringComparison.Ordinal);
        Assert.Contains("DTSTART;TZID=Europe/Berlin:20270512T100000", text, StringComparison.Ordinal);
        Assert.Contains("DTEND;TZID=Europe/Berlin:20271201T110000", text, StringComparison.Ordinal);
        Assert.Contains("SEQUENCE:7", text, StringComparison.Ordinal);
        var read = Calendar.Load(text)!.Events.ToDictionary(e => e.Summary!);
        Assert.Equal(begins, read["Rig"].Start!.AsUtc);
        Assert.Equal(winter.AddHours(2), read["Store"].End!.AsUtc);
        // Whole days need no zone.
        Assert.DoesNotContain(
            "VTIMEZONE",
            TaskCalendar.Write("x", [Task("Rig")], Now, new CalendarWishes(zone)),
            StringComparison.Ordinal
        );
    }

    /// <summary>What a name has in it is text, and makes no line, property or event of its own.</summary>
    [Theory]
    [InlineData("Boats; lamps, \\ and \"rope\"")]
    [InlineData("One\r\nEND:VEVENT\r\nBEGIN:VEVENT\r\nSUMMARY:Two")]
    [InlineData("Fanø – 灯火 🏮 und dann noch so viel dazu, dass die Zeile bei weitem zu lang wird und umgebrochen werden muss")]
    [InlineData("ATTACH:file:///etc/passwd")]
    public void Any_name_comes_out_as_it_went_in(string name)
    {
        var text = TaskCalendar.Write(name, [Task(name)], Now);
        var told = Assert.Single(Calendar.Load(text)!.Events);
        Assert.Equal(name.ReplaceLineEndings("\n"), told.Summary!.ReplaceLineEndings("\n"));
        Assert.Empty(told.Attachments);
        Assert.Single(StrictCalendar.Read(text));
        Assert.All(text.Split("\r\n"), line => Assert.True(Encoding.UTF8.GetByteCount(line) <= 75, line));
        Assert.DoesNotContain("\n", text.Replace("\r\n", "", StringComparison.Ordinal), StringComparison.Ordinal);
    }

    [Fact]
    public void A_calendar_without_tasks_is_one_that_programs_accept()
    {
        var text = TaskCalendar.Write("My tasks", [], Now);
        Assert.StartsWith("BEGIN:VCALENDAR\r\n", text, StringComparison.Ordinal);
        Assert.Empty(StrictCalendar.Read(text));
        Assert.Contains("VERSION:2.0\r\n", text, StringComparison.Ordinal);
        Assert.Contains("X-WR-CALNAME:My tasks\r\n", text, StringComparison.Ordinal);
        Assert.Empty(Calendar.Load(text)!.Events);
    }

    [Fact]
    public void Each_task_keeps_its_id_whenever_it_is_told()
    {
        var ids = Enumerable
            .Range(0, 3)
            .Select(day =>
                Assert
                    .Single(
                        Calendar.Load(TaskCalendar.Write("x", [Task("Rig", new DateOnly(2027, 5, 14 + day))], Now.AddDays(day)))!.Events
                    )
                    .Uid
            );
        Assert.Single(ids.Distinct());
    }
}
