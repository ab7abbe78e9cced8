using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>A project as read, before its bare days are understood by its calendar.</summary>
internal sealed record ReadProject(
    ProjectSettings Settings,
    DateOrTime? Start,
    DateOrTime? Finish,
    DateOrTime? FinishBy,
    DateOrTime? StatusDate
)
{
    public ProjectSettings WithDates(WorkTime calendar) =>
        Settings with
        {
            Start = Start?.AsStart(calendar),
            Finish = Finish?.AsFinish(calendar),
            FinishBy = FinishBy?.AsFinish(calendar),
            StatusDate = StatusDate?.AsStart(calendar),
        };
}

/// <summary>Reads <c>$.project</c>.</summary>
internal static class ProjectReader
{
    private static readonly DateOrTime AnyDay = new(new DateOnly(2000, 1, 3));

    public static ReadProject Read(
        JsonObjectReader root,
        HashSet<string> calendars,
        ImmutableArray<Person> people,
        HashSet<string> baselines,
        MoneyReader money,
        ErrorList errors
    )
    {
        if (root.Object("project") is not { } at)
        {
            if (!root.Has("project"))
                errors.Add("$.project", "missing", "“project” is missing: a plan needs at least a name and a start.");
            return new ReadProject(new ProjectSettings { Name = "" }, AnyDay, null, null, null);
        }
        var fromFinish =
            at.Text("scheduleFrom", JsonObjectReader.LongestWord) is { } from
            && Known(at, "scheduleFrom", from, "start", "finish")
            && from == "finish";
        var (start, finish) = (at.Date("start"), at.Date("finish"));
        if (!fromFinish && !at.Has("start"))
            at.Error("start", "missing", "“start” is missing: give the day the project starts.");
        if (fromFinish && !at.Has("finish"))
            at.Error("finish", "missing", "“finish” is missing: a project scheduled from its finish has the day it must be finished.");
        money.OfProject(at);
        var units = Units(at);
        var settings = new ProjectSettings
        {
            Name = Name(at),
            Note = at.Text("note", PlanTask.LongestNote) ?? "",
            Status = Status(at),
            Colour = Fact(
                at,
                "colour",
                PlainFacts.Colour.Tidy(at.Text("colour", JsonObjectReader.LongestWord)),
                PlainFacts.Colour.WhyRefused
            ),
            Priority = Fact(at, "priority", PriorityIn(at), PlainFacts.Priority.WhyRefused),
            Coordinator = Reference(at, "coordinator", [.. people.Select(p => p.Id)], "person"),
            ScheduleFrom = fromFinish ? ScheduleFrom.Finish : ScheduleFrom.Start,
            FloatTo =
                at.Text("floatTo", JsonObjectReader.LongestWord) is { } to
                && Known(at, "floatTo", to, "projectFinish", "finishBy")
                && to == "finishBy"
                    ? FloatTarget.FinishBy
                    : FloatTarget.ProjectFinish,
            MoveUnfinishedWork = at.Flag("moveUnfinishedWork"),
            Calendar = Reference(at, "calendar", calendars, "calendar"),
            Units = units,
            CriticalFloat = at.Length("criticalFloat", units) ?? Length.Zero,
            Periods = Periods(at),
            Fields = OwnFieldJson.Read(at),
            Measure = Reference(at, "measure", baselines, "baseline"),
        };
        var read = new ReadProject(
            settings,
            start ?? (fromFinish ? null : AnyDay),
            finish ?? (fromFinish ? AnyDay : null),
            at.Date("finishBy"),
            at.Date("statusDate")
        );
        at.Done();
        return read;
    }

    private static ProjectStatus Status(JsonObjectReader at)
    {
        var statuses = Enum.GetValues<ProjectStatus>();
        string[] names = [.. statuses.Select(s => PlanDocumentNames.Camel(s.ToString()))];
        return at.Text("status", JsonObjectReader.LongestWord) is { } text && Known(at, "status", text, names)
            ? statuses[Array.IndexOf(names, text)]
            : ProjectStatus.Active;
    }

    private static int PriorityIn(JsonObjectReader at) =>
        at.Number("priority") is not { } number ? PlainFacts.Priority.Usual
        : number == decimal.Truncate(number) && Math.Abs(number) <= PlainFacts.Priority.Most ? (int)number
        : -1;

    private static T Fact<T>(JsonObjectReader at, string field, T value, Func<T, string?> whyRefused)
    {
        if (whyRefused(value) is { } why)
            at.Error(field, "value", why);
        return value;
    }

    private static ImmutableArray<NamedPeriod> Periods(JsonObjectReader project)
    {
        var periods = ImmutableArray.CreateBuilder<NamedPeriod>();
        foreach (var at in project.Objects("periods", NamedPeriod.Most))
        {
            var (name, from) = (at.RequiredText("name", NamedPeriod.LongestName).Trim(), at.Date("from"));
            var to = at.Has("to") ? at.Date("to") : from;
            if (!at.Has("from"))
                at.Error("from", "missing", "“from” is missing: give the first day.");
            at.Done();
            if (from is not { } first || to is not { } last || name.Length == 0)
                continue;
            var period = new NamedPeriod(name, first.Date, last.Date);
            if (period.WhyRefused() is { } why)
                at.Error("to", "period", why);
            periods.Add(period);
        }
        return periods.ToImmutable();
    }

    private static string Name(JsonObjectReader at)
    {
        var name = at.RequiredText("name", PlanTask.LongestName).Trim();
        if (name.Any(char.IsControl))
            at.Error("name", "name", "A name is one line of text: leave out line breaks.");
        return name;
    }

    private static WorkUnits Units(JsonObjectReader at)
    {
        var hours = at.Number("hoursPerDay") ?? 8;
        var days = at.Number("daysPerWeek") ?? 5;
        if (hours is <= 0 or > 24 || hours * 60 != decimal.Truncate(hours * 60))
            at.Error("hoursPerDay", "range", "A day has above 0 and at most 24 hours of work, in whole minutes.");
        else if (days is <= 0 or > 7)
            at.Error("daysPerWeek", "range", "A week has above 0 and at most 7 days of work.");
        else
            return new WorkUnits(hours, days);
        return WorkUnits.Standard;
    }

    private static string? Reference(JsonObjectReader at, string field, HashSet<string> ids, string what)
    {
        var id = at.Text(field, 64);
        if (id is not null && !ids.Contains(id))
            at.Error(field, "unknownId", $"There is no {what} with the id “{id}”.");
        return id;
    }

    private static bool Known(JsonObjectReader at, string field, string value, params string[] known)
    {
        if (known.Contains(value))
            return true;
        at.Error(field, "value", $"“{value}” is not possible here: give {string.Join(" or ", known.Select(k => $"“{k}”"))}.");
        return false;
    }
}
