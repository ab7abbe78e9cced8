using System.Buffers;
using System.Collections.Immutable;
using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>Writes <c>auxilium-plan/1</c>. The same plan always gives the same bytes; reading them gives the same plan.</summary>
public static class PlanDocumentWriter
{
    // The document stands on its own, never inside a page, so only what JSON itself needs is escaped.
    private static readonly JsonWriterOptions Options = new()
    {
        Indented = true,
        NewLine = "\n",
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <param name="plan">The plan.</param>
    /// <param name="hours">Hours that people worked on its tasks.</param>
    /// <param name="ledger">Its money; <c>null</c> for whoever may not have it: nothing of it is written.</param>
    /// <param name="currency">That of the organisation, such as <c>EUR</c>.</param>
    public static byte[] Write(Plan plan, ImmutableArray<WorkedHours> hours = default, Ledger? ledger = null, string? currency = null)
    {
        var money = ledger is null ? null : new MoneyWriter(ledger, currency);
        var buffer = new ArrayBufferWriter<byte>();
        using (var json = new Utf8JsonWriter(buffer, Options))
        {
            json.WriteStartObject();
            json.WriteString("format", PlanDocumentReader.Format);
            WriteProject(json, plan.Project, money);
            WriteList(json, "calendars", plan.Calendars, WriteCalendar);
            WriteList(json, "people", plan.People, (to, person) => WritePerson(to, person, money));
            WriteList(json, "tasks", plan.Tasks, (to, task) => WriteTask(to, task, plan, money));
            WriteList(json, "links", plan.Links, WriteLink);
            WriteList(json, "hours", hours.IsDefault ? [] : hours, WriteHours);
            WriteList(json, "baselines", plan.Baselines, (to, baseline) => WriteBaseline(to, baseline, money is not null));
            json.WriteEndObject();
        }
        return [.. buffer.WrittenSpan, (byte)'\n'];
    }

    private static void WriteProject(Utf8JsonWriter json, ProjectSettings project, MoneyWriter? money)
    {
        json.WriteStartObject("project");
        json.WriteString("name", project.Name);
        json.WriteString("note", project.Note);
        json.WriteString("status", PlanDocumentNames.Camel(project.Status.ToString()));
        json.WriteString("colour", project.Colour);
        json.WriteNumber("priority", project.Priority);
        json.WriteString("coordinator", project.Coordinator);
        json.WriteString("scheduleFrom", PlanDocumentNames.Camel(project.ScheduleFrom.ToString()));
        json.WriteString("start", project.Start?.ToString());
        json.WriteString("finish", project.Finish?.ToString());
        json.WriteString("finishBy", project.FinishBy?.ToString());
        json.WriteString("floatTo", PlanDocumentNames.Camel(project.FloatTo.ToString()));
        json.WriteString("statusDate", project.StatusDate?.ToString());
        json.WriteBoolean("moveUnfinishedWork", project.MoveUnfinishedWork);
        json.WriteString("calendar", project.Calendar);
        json.WriteNumber("hoursPerDay", Plain(project.Units.HoursPerDay));
        json.WriteNumber("daysPerWeek", Plain(project.Units.DaysPerWeek));
        json.WriteString("criticalFloat", project.CriticalFloat.ToString());
        WriteList(json, "periods", project.Periods, WritePeriod);
        WriteList(json, "fields", project.Fields, OwnFieldJson.Write);
        json.WriteString("measure", project.Measure);
        money?.OfProject(json);
        json.WriteEndObject();
    }

    private static void WritePeriod(Utf8JsonWriter json, NamedPeriod period)
    {
        json.WriteString("name", period.Name);
        json.WriteString("from", Day(period.From));
        json.WriteString("to", Day(period.To));
    }

    internal static void WriteCalendar(Utf8JsonWriter json, WorkCalendar calendar)
    {
        json.WriteString("id", calendar.Id);
        json.WriteString("name", calendar.Name);
        json.WriteString("base", calendar.Base);
        json.WriteStartObject("week");
        for (var day = 0; day < 7; day++)
            if (calendar.Week[day] is { } work)
                WriteIntervals(json, CalendarReader.Weekdays[day], work);
        json.WriteEndObject();
        WriteList(json, "exceptions", calendar.Exceptions, WriteOverride);
    }

    private static void WriteOverride(Utf8JsonWriter json, CalendarOverride dated)
    {
        json.WriteString("from", Day(dated.From));
        json.WriteString("to", Day(dated.To));
        json.WriteString("name", dated.Name);
        WriteIntervals(json, "work", dated.Work);
    }

    private static void WriteIntervals(Utf8JsonWriter json, string name, ImmutableArray<WorkInterval> work)
    {
        json.WriteStartArray(name);
        foreach (var (start, end) in work)
            json.WriteStringValue($"{start / 60:00}:{start % 60:00}-{end / 60:00}:{end % 60:00}");
        json.WriteEndArray();
    }

    private static void WritePerson(Utf8JsonWriter json, Person person, MoneyWriter? money)
    {
        json.WriteString("id", person.Id);
        json.WriteString("name", person.Name);
        json.WriteString("initials", person.Initials);
        json.WriteString("email", person.Email);
        json.WriteString("calendar", person.Calendar);
        if (!person.Available.IsEmpty)
            AvailabilityJson.Write(json, person.Available);
        money?.OfPerson(json, person.Id);
    }

    private static void WriteTask(Utf8JsonWriter json, PlanTask task, Plan plan, MoneyWriter? money)
    {
        json.WriteString("id", task.Id);
        json.WriteString("name", task.Name);
        json.WriteString("parent", task.Parent);
        json.WriteString("length", task.Length.ToString());
        json.WriteBoolean("aroundTheClock", task.AroundTheClock);
        json.WriteBoolean("tentative", task.Tentative);
        json.WriteBoolean("milestone", task.Milestone);
        json.WriteBoolean("active", task.Active);
        WriteEstimate(json, task.Estimate);
        WritePinned(json, task.Pinned);
        WriteConstraint(json, task.Constraint);
        json.WriteString("deadline", task.Deadline?.ToString());
        json.WriteString("delayedUntil", task.DelayedUntil?.ToString());
        json.WriteString("calendar", task.Calendar);
        WriteList(json, "splits", task.Splits, WriteSplit);
        json.WriteNumber("progress", Plain(task.Progress));
        json.WriteString("actualStart", task.ActualStart?.ToString());
        json.WriteString("actualFinish", task.ActualFinish?.ToString());
        json.WriteString("remaining", task.Remaining?.ToString());
        WriteList(json, "assignments", task.Assignments, WriteAssignment);
        json.WriteString("effort", task.Effort?.ToString());
        json.WriteString("note", task.Note);
        json.WriteString("moreHands", task.Hands is { } hands ? PlanDocumentNames.Camel(hands.ToString()) : null);
        FactFields.Write(json, task, plan);
        WriteList(json, "checklist", task.Checklist, WriteStep);
        WriteList(json, "references", task.References, WriteReference);
        WriteList(json, "reminders", RemindersOf(task, plan), WriteReminder);
        WriteRepeats(json, task.Repeats);
        json.WriteString("occurrence", Day(task.Occurrence));
        money?.OfTask(json, task.Id);
    }

    private static void WriteStep(Utf8JsonWriter json, ChecklistStep step)
    {
        json.WriteString("text", step.Text);
        json.WriteBoolean("done", step.Done);
    }

    private static void WriteReference(Utf8JsonWriter json, Reference reference)
    {
        json.WriteString("address", reference.Address);
        json.WriteString("title", reference.Title);
    }

    /// <summary>Without people who have left the plan: a reminder that was for them alone is none.</summary>
    private static ImmutableArray<Reminder> RemindersOf(PlanTask task, Plan plan) =>
        [
            .. task
                .Reminders.Select(r => (Is: r, Still: r.People.RemoveAll(id => plan.FindPerson(id) is null)))
                .Where(r => r.Is.People.IsEmpty || !r.Still.IsEmpty)
                .Select(r => r.Is with { People = r.Still }),
        ];

    private static void WriteReminder(Utf8JsonWriter json, Reminder reminder)
    {
        json.WriteNumber("days", reminder.Days);
        json.WriteString("before", PlanDocumentNames.Camel(reminder.Before.ToString()));
        json.WriteStartArray("people");
        foreach (var person in reminder.People)
            json.WriteStringValue(person);
        json.WriteEndArray();
    }

    private static void WriteRepeats(Utf8JsonWriter json, RepeatRule? rule)
    {
        if (rule is null)
        {
            json.WriteNull("repeats");
            return;
        }
        json.WriteStartObject("repeats");
        json.WriteString("every", PlanDocumentNames.Camel(rule.Every.ToString()));
        json.WriteNumber("interval", rule.Interval);
        json.WriteStartArray("on");
        foreach (var day in rule.On)
            json.WriteStringValue(WeekdayNames.Of(day));
        json.WriteEndArray();
        WriteNumber(json, "week", rule.Week);
        json.WriteString("from", rule.From.ToString());
        json.WriteString("until", rule.Until?.ToString());
        WriteNumber(json, "times", rule.Times);
        json.WriteString("length", rule.Length.ToString());
        json.WriteString("closed", PlanDocumentNames.Camel(rule.Closed.ToString()));
        json.WriteString("made", Day(rule.Made));
        json.WriteNumber("count", rule.Count);
        json.WriteString("through", Day(rule.Through));
        json.WriteEndObject();
    }

    private static void WriteNumber(Utf8JsonWriter json, string name, int? number)
    {
        if (number is { } n)
            json.WriteNumber(name, n);
        else
            json.WriteNull(name);
    }

    private static string? Day(DateOnly? date) => date?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private static void WritePinned(Utf8JsonWriter json, PinnedDates? pinned)
    {
        if (pinned is null)
        {
            json.WriteNull("pinned");
            return;
        }
        json.WriteStartObject("pinned");
        json.WriteString("start", pinned.Start.ToString());
        if (pinned.Finish is { } finish)
            json.WriteString("finish", finish.ToString());
        json.WriteEndObject();
    }

    private static void WriteConstraint(Utf8JsonWriter json, DateConstraint? constraint)
    {
        if (constraint is null)
        {
            json.WriteNull("constraint");
            return;
        }
        json.WriteStartObject("constraint");
        json.WriteString("kind", PlanDocumentNames.Of(constraint.Kind));
        if (constraint.Date is { } date)
            json.WriteString("date", date.ToString());
        json.WriteEndObject();
    }

    private static void WriteEstimate(Utf8JsonWriter json, LengthEstimate? estimate)
    {
        if (estimate is null)
        {
            json.WriteNull("estimate");
            return;
        }
        json.WriteStartObject("estimate");
        json.WriteString("low", estimate.Low.ToString());
        json.WriteString("likely", estimate.Likely.ToString());
        json.WriteString("high", estimate.High.ToString());
        json.WriteEndObject();
    }

    private static void WriteSplit(Utf8JsonWriter json, Split split)
    {
        json.WriteString("after", split.After.ToString());
        json.WriteString("for", split.For.ToString());
    }

    private static void WriteAssignment(Utf8JsonWriter json, Assignment assignment)
    {
        json.WriteString("person", assignment.Person);
        json.WriteNumber("share", Plain(assignment.Share));
        if (assignment.Effort is { } effort)
            json.WriteString("effort", effort.ToString());
    }

    private static void WriteLink(Utf8JsonWriter json, PlanLink link)
    {
        json.WriteString("from", link.From);
        json.WriteString("to", link.To);
        json.WriteString("kind", PlanDocumentNames.Of(link.Kind));
        json.WriteString("lag", link.Lag.ToString());
        json.WriteBoolean("elapsed", link.Elapsed);
    }

    private static void WriteHours(Utf8JsonWriter json, WorkedHours hours)
    {
        json.WriteString("task", hours.Task);
        json.WriteString("person", hours.Person);
        json.WriteString("day", Day(hours.Day));
        json.WriteNumber("minutes", hours.Minutes);
    }

    private static void WriteBaseline(Utf8JsonWriter json, Baseline baseline, bool hasMoney)
    {
        json.WriteString("id", baseline.Id);
        json.WriteString("name", baseline.Name);
        json.WriteString("taken", Day(baseline.Taken));
        json.WriteBoolean("whole", baseline.Whole);
        json.WriteString("start", baseline.Start.ToString());
        json.WriteString("finish", baseline.Finish.ToString());
        WriteList(json, "rows", baseline.Rows, (to, row) => WriteBaselineRow(to, row, hasMoney));
    }

    private static void WriteBaselineRow(Utf8JsonWriter json, BaselineRow row, bool hasMoney)
    {
        json.WriteString("task", row.Task);
        json.WriteString("name", row.Name);
        json.WriteString("start", row.Start.ToString());
        json.WriteString("finish", row.Finish.ToString());
        json.WriteNumber("lengthMinutes", row.Length);
        json.WriteNumber("effortMinutes", Plain(row.Effort));
        if (hasMoney)
            MoneyWriter.OfBaseline(json, row.Cost);
        json.WriteNumber("progress", Plain(row.Progress));
        json.WriteBoolean("milestone", row.Milestone);
        json.WriteBoolean("phase", row.Phase);
    }

    private static void WriteList<T>(Utf8JsonWriter json, string name, ImmutableArray<T> items, Action<Utf8JsonWriter, T> write)
    {
        json.WriteStartArray(name);
        foreach (var item in items)
        {
            json.WriteStartObject();
            write(json, item);
            json.WriteEndObject();
        }
        json.WriteEndArray();
    }

    /// <summary>Without a decimal's trailing zeros, so that equal numbers give equal bytes.</summary>
    internal static decimal Plain(decimal number) =>
        decimal.Parse(number.ToString("0.############", CultureInfo.InvariantCulture), CultureInfo.InvariantCulture);
}
