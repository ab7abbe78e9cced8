using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;

namespace Auxilium.Storage.People;

/// <summary>A task that somebody owns or helps with.</summary>
/// <param name="IsOwner">Whether they are its owner, and no helper.</param>
/// <param name="IsOfHours">Whether it takes some hours of one day, and not the whole day's work.</param>
public sealed record OwnTask(
    Guid Project,
    string ProjectName,
    string Task,
    string Name,
    bool IsOwner,
    TaskState State,
    PlanTime? Start,
    PlanTime? Finish,
    bool IsOfHours,
    int Version
);

/// <summary>What somebody has to do, and giving it to somebody else.</summary>
public sealed class HandOvers(PlanStore store, PlanEdits edits, AcrossPlans across)
{
    /// <summary>Somebody's tasks that are not done, by project and date.</summary>
    /// <param name="person">Whose.</param>
    /// <param name="projects">Only of these projects.</param>
    /// <param name="today">Today.</param>
    /// <param name="withDone">Also those that are done.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<IReadOnlyList<OwnTask>> TasksOfAsync(
        string person,
        IReadOnlyCollection<Guid> projects,
        DateOnly today,
        bool withDone = false,
        CancellationToken cancel = default
    )
    {
        var found = await across.TasksAsync(projects, [person], today, withDone, cancel);
        return
        [
            .. found
                .Select(known => new OwnTask(
                    known.Project,
                    known.ProjectName,
                    known.Task.Id,
                    known.Task.Name,
                    known.Task.People.Split(' ')[0] == person,
                    known.Task.StateOn(today),
                    known.Task.Start,
                    known.Task.Finish,
                    known.Task.IsOfHours,
                    known.Version
                ))
                .OrderBy(t => t.ProjectName)
                .ThenBy(t => t.Start ?? PlanTime.Latest),
        ];
    }

    /// <summary>Puts one person in the place of another, in one edit.</summary>
    /// <param name="project">Id of the project.</param>
    /// <param name="from">Who hands over.</param>
    /// <param name="to">Who takes over; joins the plan where they are not on it.</param>
    /// <param name="tasks">Which tasks; <c>null</c> for all, and the project itself where they coordinate it.</param>
    /// <param name="by">Who does it.</param>
    /// <param name="today">Today.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <returns>What it did; <c>null</c> when there was nothing to hand over.</returns>
    public async Task<string?> HandOverAsync(
        Guid project,
        string from,
        Person to,
        IReadOnlySet<string>? tasks,
        string by,
        DateOnly today,
        CancellationToken cancel = default
    )
    {
        if (await store.LoadAsync(project, cancel) is not { } stored)
            return null;
        var plan = stored.Schedule.Plan;
        var parts = ImmutableArray.CreateBuilder<PlanEdit>();
        foreach (var task in plan.Tasks)
        {
            if (task.Assignments.All(a => a.Person != from) || (tasks is not null && !tasks.Contains(task.Id)))
                continue;
            var people = task.Assignments.Select(a => a.Person == from ? a with { Person = to.Id } : a).DistinctBy(a => a.Person);
            // As long as before: one person takes another's place.
            parts.Add(new SetAssignments(task.Id, [.. people], task.Hands, task.Length));
        }
        if (tasks is null && plan.Project.Coordinator == from)
            parts.Add(new SetCoordinator(to.Id));
        if (parts.Count == 0)
            return null;
        if (plan.FindPerson(to.Id) is null)
            parts.Insert(0, new JoinPlan(to));
        var outcome = await edits.CommitAsync(
            project,
            new EditRequest(Guid.NewGuid(), stored.Version, new Together(parts.ToImmutable()), null, by, Overrule: true),
            today,
            cancel
        );
        return outcome is EditCommitted committed ? $"{plan.Project.Name}: {string.Concat(committed.Sentence.Select(r => r.Text))}" : null;
    }
}
