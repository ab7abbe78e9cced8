using System.Text;
using Auxilium.Exchange.Calendars;
using Auxilium.Exchange.Files;
using Auxilium.Exchange.Lists;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tests;

namespace Auxilium.Exchange.Tests.Files;

/// <summary>Calendar files become rows: events and to-dos, in the organisation's time.</summary>
public class CalendarFileTests
{
    private static readonly DateOnly Today = new(2027, 5, 3);
    private static readonly TimeZoneInfo Berlin = TimeZoneInfo.FindSystemTimeZoneById("Europe/Berlin");

    private static byte[] Calendar(params string[] parts) =>
        Encoding.UTF8.GetBytes(
            "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Harbour//EN\r\n"
                + string.Concat(parts.Select(part => part.ReplaceLineEndings("\r\n") + "\r\n"))
                + "END:VCALENDAR\r\n"
        );

    private static string Event(string lines) => $"BEGIN:VEVENT\nUID:{Guid.NewGuid()}\nDTSTAMP:20270401T080000Z\n{lines}\nEND:VEVENT";

    private static (Plan Plan, ListReading Reading) Add(byte[] calendar)
    {
        var file = ListFile.Read("harbour.ics", calendar, zone: Berlin);
        Assert.Equal("calendar", file.Kind);
        var schedule = Scheduler.Calculate(PlanText.Plan("Fence 2d"));
        var reading = ListReader.Read(file.Text, new ListOptions(Repeats: file.Repeats), schedule, [], Today);
        Assert.Null(reading.Problem);
        return (EditPipeline.Run(reading.Edit!, new EditContext(schedule, Today, [])).After.Plan, reading);
    }

    private static (PlanTime Start, PlanTime Finish) DatesOf(Plan plan, string name)
    {
        var schedule = Scheduler.Calculate(plan);
        var row = plan.Index.RowOf(plan.Tasks.First(task => task.Name == name).Id);
        return (schedule.StartOf(row), schedule.FinishOf(row));
    }

    [Fact]
    public void Events_of_whole_days_and_of_hours_come_in_the_time_of_the_organisation_whatever_zone_they_are_in()
    {
        var (plan, _) = Add(
            Calendar(
                Event("SUMMARY:Tents up\nDTSTART;VALUE=DATE:20270510\nDTEND;VALUE=DATE:20270513"),
                Event("SUMMARY:Sound check\nDTSTART:20270511T090000Z\nDTEND:20270511T110000Z"),
                Event("SUMMARY:Briefing\nDTSTART;TZID=America/New_York:20270512T100000\nDURATION:PT1H"),
                Event("SUMMARY:Local\nDTSTART:20270513T100000\nDTEND:20270513T120000")
            )
        );
        Assert.Equal((PlanTime.At(2027, 5, 10, 9), PlanTime.At(2027, 5, 12, 18)), DatesOf(plan, "Tents up"));
        Assert.Equal((PlanTime.At(2027, 5, 11, 11), PlanTime.At(2027, 5, 11, 13)), DatesOf(plan, "Sound check"));
        Assert.Equal(PlanTime.At(2027, 5, 12, 16), DatesOf(plan, "Briefing").Start);
        Assert.Equal(PlanTime.At(2027, 5, 13, 10), DatesOf(plan, "Local").Start);
    }

    [Fact]
    public void To_dos_attendees_and_descriptions_become_tasks_people_and_notes_and_what_was_cancelled_is_left_out()
    {
        var (plan, reading) = Add(
            Calendar(
                "BEGIN:VTODO\nUID:1\nDTSTAMP:20270401T080000Z\nSUMMARY:Order chairs\n"
                    + "DUE;VALUE=DATE:20270520\nPERCENT-COMPLETE:0\nEND:VTODO",
                Event(
                    "SUMMARY:Fence\\, north\nDESCRIPTION:Bring the keys.\\nGate 4.\nDTSTART;VALUE=DATE:20270510\n"
                        + "ATTENDEE;CN=\"Lee, Ann\":mailto:ann@fair.example\nATTENDEE:mailto:bo@fair.example\n"
                        + "BEGIN:VALARM\nACTION:DISPLAY\nTRIGGER:-PT15M\nDESCRIPTION:Now\nEND:VALARM"
                ),
                Event("SUMMARY:Off\nSTATUS:CANCELLED\nDTSTART;VALUE=DATE:20270510")
            )
        );
        Assert.Equal(["Fence, north", "Order chairs", "Fence"], plan.Tasks.Select(task => task.Name));
        Assert.Equal("Bring the keys.\nGate 4.", plan.Tasks[0].Note);
        Assert.Equal(["Ann Lee", "bo@fair.example"], reading.NewPeople);
        Assert.Equal(new DateOnly(2027, 5, 20), plan.Tasks[1].Deadline!.Value.LastDate);
    }

    [Theory]
    [InlineData("FREQ=WEEKLY;BYDAY=MO,WE;COUNT=6", RepeatUnit.Week, 6)]
    [InlineData("FREQ=WEEKLY;INTERVAL=2;UNTIL=20270621", RepeatUnit.Week, 4)]
    [InlineData("FREQ=DAILY;COUNT=3", RepeatUnit.Day, 3)]
    [InlineData("FREQ=MONTHLY;BYDAY=2MO;COUNT=3", RepeatUnit.Month, 3)]
    [InlineData("FREQ=MONTHLY;BYMONTHDAY=10;COUNT=2", RepeatUnit.Month, 2)]
    [InlineData("FREQ=YEARLY;COUNT=2", RepeatUnit.Year, 2)]
    public void A_regular_series_becomes_a_repeating_task(string rule, RepeatUnit every, int times)
    {
        var (plan, reading) = Add(Calendar(Event($"SUMMARY:Crew call\nDTSTART:20270510T100000\nDTEND:20270510T110000\nRRULE:{rule}")));
        var series = plan.Tasks.Single(task => task.Name == "Crew call" && task.Repeats is not null);
        Assert.Equal(every, series.Repeats!.Every);
        Assert.Equal(times, plan.Tasks.Count(task => task.Parent == series.Id));
        Assert.Empty(reading.Rows[0].Problems);
    }

    [Theory]
    [InlineData("FREQ=MONTHLY;BYDAY=MO,TU;BYSETPOS=-1", "by a rule that tasks here cannot have")]
    [InlineData("FREQ=HOURLY;COUNT=3", "by a rule that tasks here cannot have")]
    [InlineData("FREQ=WEEKLY", "It never ends: it is taken for a year.")]
    [InlineData("FREQ=WEEKLY;COUNT=4\nEXDATE:20270517T100000", "The days on which it does not take place are not taken over")]
    public void What_of_a_series_cannot_be_taken_is_said_at_its_row(string rule, string why)
    {
        var (_, reading) = Add(Calendar(Event($"SUMMARY:Crew call\nDTSTART:20270510T100000\nDTEND:20270510T110000\nRRULE:{rule}")));
        Assert.Contains(reading.Rows[0].Problems, problem => problem.Message.Contains(why, StringComparison.Ordinal));
    }

    [Fact]
    public void What_is_handed_out_as_a_calendar_is_read_back_with_the_same_days()
    {
        var tasks = new[]
        {
            new CalendarTask("a@x", "Tents; up, all", "Fair", new(2027, 5, 10), new(2027, 5, 12), null, false, true, "http://x/a"),
            new CalendarTask(
                "b@x",
                "Sound check",
                "Fair",
                new(2027, 5, 13),
                new(2027, 5, 13),
                (new DateTime(2027, 5, 13, 8, 0, 0, DateTimeKind.Utc), new DateTime(2027, 5, 13, 10, 0, 0, DateTimeKind.Utc)),
                false,
                true,
                "http://x/b"
            ),
        };
        var (plan, _) = Add(
            Encoding.UTF8.GetBytes(TaskCalendar.Write("Fair", tasks, new DateTime(2027, 5, 1, 0, 0, 0, DateTimeKind.Utc)))
        );
        Assert.Equal((PlanTime.At(2027, 5, 10, 9), PlanTime.At(2027, 5, 12, 18)), DatesOf(plan, "Tents; up, all"));
        Assert.Equal((PlanTime.At(2027, 5, 13, 10), PlanTime.At(2027, 5, 13, 12)), DatesOf(plan, "Sound check"));
    }
}
