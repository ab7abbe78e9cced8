using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>Reads what a task is marked with, and the rule of one that repeats.</summary>
internal static class MarkReader
{
    private const int MostReminded = 50;

    /// <summary>What more hands do.</summary>
    public static MoreHands? Hands(JsonObjectReader at)
    {
        var text = at.Text("moreHands", JsonObjectReader.LongestWord);
        if (text is null)
            return null;
        foreach (var hands in Enum.GetValues<MoreHands>())
            if (PlanDocumentNames.Camel(hands.ToString()) == text)
                return hands;
        at.Error("moreHands", "value", $"“{text}” is not what more hands can do: use shorter or moreEffort.");
        return null;
    }

    public static ImmutableArray<ChecklistStep> Checklist(JsonObjectReader task)
    {
        var steps = ImmutableArray.CreateBuilder<ChecklistStep>();
        foreach (var at in task.Objects("checklist", TaskMarks.MostSteps))
        {
            var step = new ChecklistStep(at.RequiredText("text", TaskMarks.LongestStep).Trim(), at.Flag("done"));
            if (step.Text.Length > 0 && TaskMarks.WhyRefused(step) is { } why)
                at.Error("text", "checklist", why);
            steps.Add(step);
            at.Done();
        }
        return steps.ToImmutable();
    }

    public static ImmutableArray<Reference> References(JsonObjectReader task)
    {
        var references = ImmutableArray.CreateBuilder<Reference>();
        foreach (var at in task.Objects("references", TaskMarks.MostReferences))
        {
            var reference = new Reference(
                at.RequiredText("address", TaskMarks.LongestAddress).Trim(),
                (at.Text("title", TaskMarks.LongestStep) ?? "").Trim()
            );
            if (reference.Address.Length > 0 && TaskMarks.WhyRefused(reference) is { } why)
                at.Error("address", "references", why);
            references.Add(reference);
            at.Done();
        }
        return references.ToImmutable();
    }

    public static ImmutableArray<Reminder> Reminders(JsonObjectReader task, HashSet<string> people)
    {
        var reminders = ImmutableArray.CreateBuilder<Reminder>();
        foreach (var at in task.Objects("reminders", Reminder.Most))
        {
            var (days, before) = (Whole(at, "days") ?? 0, Named<TaskEnd>(at, "before") ?? TaskEnd.Start);
            if (days is < 0 or > Reminder.MostDays)
                at.Error("days", "range", $"A reminder comes 0 to {Reminder.MostDays} days before.");
            var whom = at.Texts("people", MostReminded).ToList();
            foreach (var (id, path) in whom.Where(who => !people.Contains(who.Item1)))
                at.Errors.Add(path, "unknownId", $"There is no person with the id “{id}”.");
            reminders.Add(new Reminder(days, before, [.. whom.Select(who => who.Item1).Distinct()]));
            at.Done();
        }
        return reminders.ToImmutable();
    }

    public static RepeatRule? Repeats(JsonObjectReader task, WorkUnits units)
    {
        if (task.Object("repeats") is not { } at)
            return null;
        var (from, length) = (at.Date("from"), at.Length("length", units));
        if (!at.Has("from"))
            at.Error("from", "missing", "“from” is missing: give the first day.");
        if (!at.Has("length"))
            at.Error("length", "missing", "“length” is missing: give what each takes.");
        var rule = new RepeatRule
        {
            Every = Named<RepeatUnit>(at, "every") ?? RepeatUnit.Week,
            Interval = Whole(at, "interval") ?? 1,
            On = DaysOn(at),
            Week = Whole(at, "week"),
            From = from ?? new DateOrTime(new DateOnly(2000, 1, 3)),
            Until = at.Date("until"),
            Times = Whole(at, "times"),
            Length = length ?? Length.OneDay,
            Closed = at.Has("closed") ? Named<OnClosedDay>(at, "closed") ?? OnClosedDay.Next : OnClosedDay.Next,
            Made = at.Date("made")?.Date,
            Count = Whole(at, "count") ?? 0,
            Through = at.Date("through")?.Date,
        };
        at.Done();
        if (from is null || length is null)
            return null;
        var why = rule.WhyUnusable(units)
            ?? (rule.Count is < 0 or > RepeatRule.MostTimes ? $"A series has at most {RepeatRule.MostTimes} occurrences." : null);
        if (why is not null)
            task.Error("repeats", "repeat", why);
        return rule;
    }

    private static ImmutableArray<DayOfWeek> DaysOn(JsonObjectReader at)
    {
        var days = ImmutableArray.CreateBuilder<DayOfWeek>();
        foreach (var (text, path) in at.Texts("on", 7))
        {
            if (WeekdayNames.TryParse(text, out var day))
                days.Add(day);
            else
                at.Errors.Add(path, "value", $"“{text}” is not a day of the week: use {string.Join(", ", CalendarReader.Weekdays)}.");
        }
        return days.ToImmutable();
    }

    private static T? Named<T>(JsonObjectReader at, string field)
        where T : struct, Enum
    {
        var name = at.RequiredText(field, JsonObjectReader.LongestWord);
        if (name.Length == 0)
            return null;
        foreach (var value in Enum.GetValues<T>())
            if (PlanDocumentNames.Camel(value.ToString()) == name)
                return value;
        at.Error(
            field,
            "value",
            $"“{name}” is not possible here: give one of {string.Join(", ", Enum.GetNames<T>().Select(PlanDocumentNames.Camel))}."
        );
        return null;
    }

    private static int? Whole(JsonObjectReader at, string field)
    {
        if (at.Number(field) is not { } number)
            return null;
        if (number == decimal.Truncate(number) && Math.Abs(number) <= 100_000)
            return (int)number;
        at.Error(field, "range", $"“{field}” is a whole number.");
        return null;
    }
}
