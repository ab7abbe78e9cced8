using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Typing;
using Auxilium.Storage.Rows;

namespace Auxilium.Storage.Plans;

/// <summary>Turns plans into rows and back.</summary>
internal static class PlanRows
{
    private static readonly JsonSerializerOptions ByName = new() { Converters = { new JsonStringEnumConverter() } };

    public static Plan ToPlan(
        ProjectRow project,
        PlanRow plan,
        IEnumerable<TaskRow> tasks,
        IEnumerable<LinkRow> links,
        IEnumerable<Person> people,
        IEnumerable<KeptBaselineRow> baselines
    ) =>
        new()
        {
            Project = new ProjectSettings
            {
                Name = project.Name,
                Note = plan.Note,
                Status = project.Status,
                Colour = project.Colour,
                Priority = project.Priority,
                Coordinator = project.Coordinator,
                ScheduleFrom = plan.ScheduleFrom,
                Start = Time(plan.Start),
                Finish = Time(plan.Finish),
                FinishBy = Time(plan.FinishBy),
                FloatTo = plan.FloatTo,
                StatusDate = Time(plan.StatusDate),
                MoveUnfinishedWork = plan.MoveUnfinishedWork,
                Calendar = plan.Calendar,
                Units = new WorkUnits(plan.HoursPerDay, plan.DaysPerWeek),
                CriticalFloat = ReadLength(plan.CriticalFloat),
                Periods = ReadList<NamedPeriod>(plan.Periods),
                Fields = ReadFields(plan.Fields),
                Measure = plan.Measure,
            },
            Calendars = JsonSerializer.Deserialize<ImmutableArray<WorkCalendar>>(plan.Calendars),
            People = [.. people],
            Tasks = [.. tasks.Select(ToTask)],
            Links = [.. links.Select(l => new PlanLink(l.From, l.To, ReadLength(l.Lag), l.Kind, l.Elapsed))],
            Baselines = [.. baselines.Select(BaselineRows.ToBaseline)],
        };

    /// <param name="owner">The project, which gets the name and the coordinator.</param>
    /// <param name="row">Gets the rest of what the plan has.</param>
    /// <param name="plan">The plan as it is.</param>
    /// <param name="before">As the row has it: what is the same is not written again.</param>
    public static void Fill(ProjectRow owner, PlanRow row, Plan plan, Plan? before = null)
    {
        var project = plan.Project;
        owner.Name = project.Name;
        row.Note = project.Note;
        owner.Status = project.Status;
        owner.Colour = project.Colour;
        owner.Priority = project.Priority;
        owner.Coordinator = project.Coordinator;
        row.ScheduleFrom = project.ScheduleFrom;
        row.Start = project.Start?.ToDateTime();
        row.Finish = project.Finish?.ToDateTime();
        row.FinishBy = project.FinishBy?.ToDateTime();
        row.FloatTo = project.FloatTo;
        row.StatusDate = project.StatusDate?.ToDateTime();
        row.MoveUnfinishedWork = project.MoveUnfinishedWork;
        row.Calendar = project.Calendar;
        row.HoursPerDay = project.Units.HoursPerDay;
        row.DaysPerWeek = project.Units.DaysPerWeek;
        row.CriticalFloat = project.CriticalFloat.ToString();
        row.Measure = project.Measure;
        if (before is null || before.Calendars != plan.Calendars)
            row.Calendars = JsonSerializer.Serialize(plan.Calendars);
        if (before is null || before.Project.Periods != project.Periods)
            row.Periods = JsonSerializer.Serialize(project.Periods);
        if (before is null || before.Project.Fields != project.Fields)
            row.Fields = WriteFields(project.Fields);
    }

    /// <summary>The rows of a new project and its live plan.</summary>
    public static (ProjectRow Project, PlanRow Plan) ToRows(Guid project, Guid id, DateTime createdAt, Plan plan)
    {
        var owner = new ProjectRow
        {
            Id = project,
            CreatedAt = createdAt,
            Name = "",
        };
        var row = new PlanRow
        {
            Id = id,
            ProjectId = project,
            Version = 1,
            CriticalFloat = "",
            Calendars = "",
        };
        Fill(owner, row, plan);
        return (owner, row);
    }

    public static TaskRow ToRow(Guid plan, PlanTask task, long rank) =>
        new()
        {
            PlanId = plan,
            Id = task.Id,
            Rank = rank,
            Parent = task.Parent,
            Name = task.Name,
            Length = task.Length.ToString(),
            Tentative = task.Tentative,
            Milestone = task.Milestone,
            AroundTheClock = task.AroundTheClock,
            Calendar = task.Calendar,
            Active = task.Active,
            Estimate = task.Estimate is { } range ? $"{range.Low} {range.Likely} {range.High}" : null,
            Deadline = task.Deadline?.ToDateTime(),
            Splits = string.Join(' ', task.Splits.Select(s => $"{s.After}:{s.For}")),
            Remaining = task.Remaining?.ToString(),
            PinnedStart = task.Pinned?.Start.ToDateTime(),
            PinnedFinish = task.Pinned?.Finish?.ToDateTime(),
            ConstraintKind = task.Constraint?.Kind,
            ConstraintDate = task.Constraint?.Date?.ToDateTime(),
            Progress = task.Progress,
            ActualStart = task.ActualStart?.ToDateTime(),
            ActualFinish = task.ActualFinish?.ToDateTime(),
            Note = task.Note,
            Hands = task.Hands,
            Checklist = JsonSerializer.Serialize(task.Checklist),
            WebReferences = JsonSerializer.Serialize(task.References),
            Repeats = task.Repeats is { } rule ? JsonSerializer.Serialize(rule) : null,
            Facts = TaskFactsRow.Write(task),
            Assignments = JsonSerializer.Serialize(task.Assignments),
        };

    public static LinkRow ToRow(Guid plan, PlanLink link, long rank) =>
        new()
        {
            PlanId = plan,
            From = link.From,
            To = link.To,
            Rank = rank,
            Kind = link.Kind,
            Lag = link.Lag.ToString(),
            Elapsed = link.Elapsed,
        };

    private static PlanTask ToTask(TaskRow row) =>
        WithFacts(
            row,
            new()
            {
                Id = row.Id,
                Name = row.Name,
                Parent = row.Parent,
                Length = ReadLength(row.Length),
                Tentative = row.Tentative,
                Milestone = row.Milestone,
                AroundTheClock = row.AroundTheClock,
                Calendar = row.Calendar,
                Active = row.Active,
                Estimate = row.Estimate?.Split(' ') is [var low, var likely, var high]
                    ? new LengthEstimate(ReadLength(low), ReadLength(likely), ReadLength(high))
                    : null,
                Deadline = Time(row.Deadline),
                Splits =
                [
                    .. row
                        .Splits.Split(' ', StringSplitOptions.RemoveEmptyEntries)
                        .Select(s => s.Split(':'))
                        .Select(s => new Split(ReadLength(s[0]), ReadLength(s[1]))),
                ],
                Remaining = row.Remaining is { } left ? ReadLength(left) : null,
                Pinned = Time(row.PinnedStart) is { } start ? new PinnedDates(start, Time(row.PinnedFinish)) : null,
                Constraint = row.ConstraintKind is { } kind ? new DateConstraint(kind, Time(row.ConstraintDate)) : null,
                Progress = row.Progress,
                ActualStart = Time(row.ActualStart),
                ActualFinish = Time(row.ActualFinish),
                Assignments = JsonSerializer.Deserialize<ImmutableArray<Assignment>>(row.Assignments),
                Note = row.Note,
                Hands = row.Hands,
                Checklist = ReadList<ChecklistStep>(row.Checklist),
                References = ReadList<Reference>(row.WebReferences),
                Repeats = row.Repeats is { } rule ? JsonSerializer.Deserialize<RepeatRule>(rule) : null,
            }
        );

    private static PlanTask WithFacts(TaskRow row, PlanTask task)
    {
        if (row.Facts is null)
            return task;
        var facts = TaskFactsRow.Read(row.Facts);
        return task with
        {
            Occurrence = facts.Occurrence,
            Before = facts.Before,
            LengthBefore = facts.LengthBefore,
            Effort = facts.Effort,
            DelayedUntil = facts.DelayedUntil,
            Reminders = facts.Reminders ?? [],
            Facts = facts.Facts,
        };
    }

    /// <summary>Fields that people added, as they are kept.</summary>
    public static ImmutableArray<OwnField> ReadFields(string json) =>
        json == "[]" ? [] : JsonSerializer.Deserialize<ImmutableArray<OwnField>>(json, ByName);

    public static string WriteFields(ImmutableArray<OwnField> fields) => JsonSerializer.Serialize(fields, ByName);

    /// <summary>Most tasks have none, and that need not be parsed.</summary>
    private static ImmutableArray<T> ReadList<T>(string json) => json == "[]" ? [] : JsonSerializer.Deserialize<ImmutableArray<T>>(json);

    private static PlanTime? Time(DateTime? value) => value is { } v ? PlanTime.FromDateTime(v) : null;

    private static Length ReadLength(string text)
    {
        var negative = text.StartsWith('-');
        if (!LengthText.TryParse(negative ? text[1..] : text, out var length, out _, out var problem))
            throw new InvalidDataException(problem);
        return negative ? length with { Amount = -length.Amount } : length;
    }
}
