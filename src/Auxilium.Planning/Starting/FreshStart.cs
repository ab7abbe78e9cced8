using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;

namespace Auxilium.Planning.Starting;

/// <summary>Who comes along when a project starts from another plan.</summary>
public enum WhoComes
{
    /// <summary>Tasks have the owners and helpers that they had.</summary>
    AsTheyAre,

    /// <summary>Tasks have no owner, and say as what somebody is to do them.</summary>
    AsRoles,

    /// <summary>Tasks have neither owner nor role.</summary>
    Nobody,
}

/// <summary>
/// A plan made of another one, on other days: what was planned stays, what has happened stays behind. Every date moves by as many days
/// of work of the project calendar as the start does, or the finish.
/// </summary>
/// <param name="Start">When it starts; <c>null</c> to plan it back from its finish.</param>
/// <param name="Finish">With a start, its deadline; without one, the day it finishes.</param>
/// <param name="People">Who comes along.</param>
/// <param name="Today">Today.</param>
public sealed record FreshStart(DateOrTime? Start, DateOrTime? Finish, WhoComes People, DateOnly Today)
{
    /// <summary>Says who is here: others do not come along, and their tasks say whom they were of.</summary>
    public Func<string, bool> IsHere { get; init; } = _ => true;

    /// <summary>The new plan: it has no coordinator, and the name of the other.</summary>
    /// <param name="earlier">A sound plan.</param>
    /// <exception cref="EditRefusedException">It cannot lie on those days.</exception>
    /// <exception cref="UnsoundPlanException">The plan is not sound.</exception>
    public Plan Of(Plan earlier, CancellationToken cancel = default)
    {
        if (Start is null && Finish is null)
            throw new EditRefusedException(
                "start",
                "A date is missing: type the day it starts, such as 12 May, or the day it must be finished by."
            );
        var (fresh, series) = WithoutSeries(WithoutPast(earlier));
        fresh = Peopled(fresh);
        var schedule = Scheduler.Calculate(fresh, cancel);
        var days = Start is { } start
            ? new DayMap(fresh.ProjectCalendar, (fresh.Project.Start ?? schedule.Start).Date, start.Date)
            : new DayMap(fresh.ProjectCalendar, schedule.Finish.LastDate, Finish!.Value.Date);
        fresh = Moved(fresh, days);
        RefuseOutOfRange(fresh);
        return Repeated(fresh, series, days, cancel);
    }

    /// <summary>A plan as it would be planned again: without progress, hours, baselines and coordinator.</summary>
    public static Plan WithoutPast(Plan plan) =>
        plan with
        {
            Project = plan.Project with
            {
                Coordinator = null,
                StatusDate = null,
                MoveUnfinishedWork = false,
                Measure = null,
                Status = ProjectStatus.Active,
            },
            Baselines = [],
            Tasks =
            [
                .. plan.Tasks.Select(task =>
                    task with
                    {
                        Progress = 0,
                        ActualStart = null,
                        ActualFinish = null,
                        Remaining = null,
                        Before = null,
                        Checklist = [.. task.Checklist.Select(step => step with { Done = false })],
                    }
                ),
            ],
        };

    /// <summary>
    /// Tasks that repeat as one row each, with what their first occurrence has: on other days, their rule names other days.
    /// </summary>
    private static (Plan Plan, List<(string Task, RepeatRule Rule)> Series) WithoutSeries(Plan plan)
    {
        var series = plan.Tasks.Where(task => task.Repeats is not null).ToDictionary(task => task.Id);
        if (series.Count == 0)
            return (plan, []);
        var occurrences = plan
            .Tasks.Where(task => task.Occurrence is not null && task.Parent is { } phase && series.ContainsKey(phase))
            .ToLookup(task => task.Parent!);
        var gone = occurrences.SelectMany(made => made).Select(task => task.Id).ToHashSet();
        var tasks = plan
            .Tasks.Where(task => !gone.Contains(task.Id))
            .Select(task => series.ContainsKey(task.Id) ? Single(task, occurrences[task.Id].FirstOrDefault()) : task)
            // Other rows inside a series stand beside it.
            .Select(task => task.Parent is { } phase && series.TryGetValue(phase, out var of) ? task with { Parent = of.Parent } : task);
        return (
            plan with
            {
                Tasks = [.. tasks],
                Links = [.. plan.Links.Where(link => !gone.Contains(link.From) && !gone.Contains(link.To))],
            },
            [.. series.Values.Select(task => (task.Id, task.Repeats! with { Made = null, Count = 0, Through = null }))]
        );
    }

    private static PlanTask Single(PlanTask phase, PlanTask? first) =>
        phase with
        {
            Repeats = null,
            Length = phase.Repeats!.Length.IsZero ? Length.OneDay : phase.Repeats.Length,
            Pinned = null,
            Constraint = null,
            DelayedUntil = null,
            Assignments = first?.Assignments ?? phase.Assignments,
            Checklist = first?.Checklist ?? phase.Checklist,
            Note = phase.Note.Length > 0 ? phase.Note : first?.Note ?? "",
        };

    private Plan Peopled(Plan plan)
    {
        var names = plan.People.ToDictionary(person => person.Id, person => person.Name);
        var here = People == WhoComes.AsTheyAre ? plan.People.Where(person => IsHere(person.Id)).Select(p => p.Id).ToHashSet() : [];
        return plan with { People = [.. plan.People.Where(person => here.Contains(person.Id))], Tasks = [.. plan.Tasks.Select(Of)] };

        PlanTask Of(PlanTask task)
        {
            var stay = task.Assignments.Where(a => here.Contains(a.Person)).ToImmutableArray();
            var facts = task.Facts;
            if (People == WhoComes.Nobody)
                facts = facts.With(PlainFacts.Role, null);
            else if (stay.IsEmpty && !task.Assignments.IsEmpty && PlainFacts.Role.Of(task) is null)
                facts = facts.With(PlainFacts.Role, InPlaceOf(task.Assignments.Select(a => names.GetValueOrDefault(a.Person, a.Person))));
            return task with
            {
                Assignments = stay,
                Facts = facts,
                Reminders =
                [
                    .. task
                        .Reminders.Select(r => r.People.IsDefaultOrEmpty ? r : r with { People = [.. r.People.Where(here.Contains)] })
                        .Distinct(),
                ],
            };
        }
    }

    /// <summary>“in place of Imke Varga, Ole Berg”</summary>
    private static string InPlaceOf(IEnumerable<string> names)
    {
        var text = $"in place of {string.Join(", ", names)}";
        return text.Length <= PlainFacts.Role.Longest ? text : text[..(PlainFacts.Role.Longest - 1)].TrimEnd() + "…";
    }

    private Plan Moved(Plan plan, DayMap days)
    {
        var (project, calendar) = (plan.Project, plan.ProjectCalendar);
        return plan with
        {
            Project = project with
            {
                ScheduleFrom = Start is null ? ScheduleFrom.Finish : ScheduleFrom.Start,
                Start = Start?.AsStart(calendar),
                Finish = Start is null ? Finish?.AsFinish(calendar) : null,
                FinishBy =
                    Start is null ? null
                    : Finish is { } by ? by.AsFinish(calendar)
                    : project.FinishBy is { } was ? days.OfFinish(was)
                    : null,
                Periods = [.. project.Periods.Select(p => p with { From = days.Of(p.From), To = days.Of(p.To) })],
            },
            Tasks =
            [
                .. plan.Tasks.Select(task =>
                    task with
                    {
                        Pinned = task.Pinned is { } pinned
                            ? new PinnedDates(days.Of(pinned.Start), pinned.Finish is { } finish ? days.OfFinish(finish) : null)
                            : null,
                        Constraint = task.Constraint is { Date: { } date } fixedDate
                            ? fixedDate with
                            {
                                Date = fixedDate.IsOfFinish ? days.OfFinish(date) : days.Of(date),
                            }
                            : task.Constraint,
                        // Who has time when is another matter then.
                        DelayedUntil = null,
                        Deadline = task.Deadline is { } deadline ? days.OfFinish(deadline) : null,
                    }
                ),
            ],
        };
    }

    private static void RefuseOutOfRange(Plan plan)
    {
        var dates = plan
            .Tasks.SelectMany(task => new[] { task.Pinned?.Start, task.Pinned?.Finish, task.Constraint?.Date, task.Deadline })
            .Concat([plan.Project.Start, plan.Project.Finish, plan.Project.FinishBy])
            .Concat(plan.Project.Periods.SelectMany(p => new PlanTime?[] { PlanTime.On(p.From), PlanTime.On(p.To) }));
        if (dates.Any(date => date is { IsInRange: false }))
            throw new EditRefusedException(
                "start",
                "With this date, some of the plan would lie outside the years that can be planned: give one that keeps it between 1990 "
                    + "and 2100."
            );
    }

    private Plan Repeated(Plan plan, List<(string Task, RepeatRule Rule)> series, DayMap days, CancellationToken cancel)
    {
        foreach (var (task, rule) in series)
        {
            var moved = rule with
            {
                From = rule.From with { Date = days.Of(rule.From.Date) },
                Until = rule.Until is { } until ? until with { Date = days.Of(until.Date) } : null,
            };
            var context = new EditContext(Scheduler.Calculate(plan, cancel), Today, plan.People) { Cancel = cancel };
            plan = EditPipeline.Run(new RepeatTask(task, moved), context).After.Plan;
        }
        return plan;
    }
}
