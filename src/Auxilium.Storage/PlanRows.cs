using System.Collections.Immutable;
using System.Text.Json;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Storage.Rows;

namespace Auxilium.Storage;

/// <summary>Turns plans into rows and back.</summary>
internal static class PlanRows
{
    public static Plan ToPlan(ProjectRow project, IEnumerable<TaskRow> tasks, IEnumerable<LinkRow> links, IEnumerable<Person> people) => new()
    {
        Project = new ProjectSettings
        {
            Name = project.Name,
            Note = project.Note,
            Coordinator = project.Coordinator,
            Start = PlanTime.FromDateTime(project.Start),
            FinishBy = Time(project.FinishBy),
            FloatTo = project.FloatTo,
            StatusDate = Time(project.StatusDate),
            MoveUnfinishedWork = project.MoveUnfinishedWork,
            Calendar = project.Calendar,
            Units = new WorkUnits(project.HoursPerDay, project.DaysPerWeek),
            CriticalFloat = ReadLength(project.CriticalFloat),
        },
        Calendars = JsonSerializer.Deserialize<ImmutableArray<WorkCalendar>>(project.Calendars),
        People = [.. people],
        Tasks = [.. tasks.Select(ToTask)],
        Links = [.. links.Select(l => new PlanLink(l.From, l.To, ReadLength(l.Lag)))],
    };

    public static void Fill(ProjectRow row, Plan plan)
    {
        var project = plan.Project;
        row.Name = project.Name;
        row.Note = project.Note;
        row.Coordinator = project.Coordinator;
        row.Start = project.Start.ToDateTime();
        row.FinishBy = project.FinishBy?.ToDateTime();
        row.FloatTo = project.FloatTo;
        row.StatusDate = project.StatusDate?.ToDateTime();
        row.MoveUnfinishedWork = project.MoveUnfinishedWork;
        row.Calendar = project.Calendar;
        row.HoursPerDay = project.Units.HoursPerDay;
        row.DaysPerWeek = project.Units.DaysPerWeek;
        row.CriticalFloat = project.CriticalFloat.ToString();
        row.Calendars = JsonSerializer.Serialize(plan.Calendars);
    }

    public static ProjectRow ToRow(Guid id, int version, DateTime createdAt, Plan plan)
    {
        var row = new ProjectRow { Id = id, Version = version, CreatedAt = createdAt, Name = "", CriticalFloat = "", Calendars = "" };
        Fill(row, plan);
        return row;
    }

    public static TaskRow ToRow(Guid project, PlanTask task, long rank) => new()
    {
        ProjectId = project,
        Id = task.Id,
        Rank = rank,
        Parent = task.Parent,
        Name = task.Name,
        Length = task.Length.ToString(),
        Tentative = task.Tentative,
        Milestone = task.Milestone,
        AroundTheClock = task.AroundTheClock,
        Calendar = task.Calendar,
        PinnedStart = task.Pinned?.Start.ToDateTime(),
        PinnedFinish = task.Pinned?.Finish?.ToDateTime(),
        ConstraintKind = task.Constraint?.Kind,
        ConstraintDate = task.Constraint?.Date.ToDateTime(),
        Progress = task.Progress,
        ActualStart = task.ActualStart?.ToDateTime(),
        ActualFinish = task.ActualFinish?.ToDateTime(),
        Note = task.Note,
        Assignments = JsonSerializer.Serialize(task.Assignments),
    };

    public static LinkRow ToRow(Guid project, PlanLink link, long rank) =>
        new() { ProjectId = project, From = link.From, To = link.To, Rank = rank, Lag = link.Lag.ToString() };

    private static PlanTask ToTask(TaskRow row) => new()
    {
        Id = row.Id,
        Name = row.Name,
        Parent = row.Parent,
        Length = ReadLength(row.Length),
        Tentative = row.Tentative,
        Milestone = row.Milestone,
        AroundTheClock = row.AroundTheClock,
        Calendar = row.Calendar,
        Pinned = Time(row.PinnedStart) is { } start ? new PinnedDates(start, Time(row.PinnedFinish)) : null,
        Constraint = row.ConstraintKind is { } kind ? new DateConstraint(kind, PlanTime.FromDateTime(row.ConstraintDate!.Value)) : null,
        Progress = row.Progress,
        ActualStart = Time(row.ActualStart),
        ActualFinish = Time(row.ActualFinish),
        Assignments = JsonSerializer.Deserialize<ImmutableArray<Assignment>>(row.Assignments),
        Note = row.Note,
    };

    private static PlanTime? Time(DateTime? value) => value is { } v ? PlanTime.FromDateTime(v) : null;

    private static Length ReadLength(string text)
    {
        var negative = text.StartsWith('-');
        if (!LengthText.TryParse(negative ? text[1..] : text, out var length, out _, out var problem)) throw new InvalidDataException(problem);
        return negative ? length with { Amount = -length.Amount } : length;
    }
}
