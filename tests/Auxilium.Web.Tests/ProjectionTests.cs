using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tracking;
using Auxilium.Storage;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

/// <summary>What is asked across plans is always what the plans say.</summary>
public class ProjectionTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private const int Edits = 60;

    private static readonly DateOnly Today = EditSampler.Today;

    private readonly IServiceProvider _services = demo.App.Services;

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public async Task What_is_kept_beside_a_plan_equals_it_after_any_history(int seed)
    {
        var random = new Random(seed);
        var (store, edits) = (_services.GetRequiredService<PlanStore>(), _services.GetRequiredService<PlanEdits>());
        var stored = await store.CreateAsync(APlan(random), new Person("imke", "Imke Varga", "IV"), false);
        // It was created on the day that the clock shows, which is another.
        await _services.GetRequiredService<Projections>().RefreshAsync(Today);
        var made = 0;
        for (var i = 0; i < Edits; i++)
        {
            var plan = await store.LoadAsync(stored.Project);
            var (takeBack, edit) =
                random.Next(5) == 0 ? (TakeBack.LastEdit, null) : ((TakeBack?)null, EditOn(random, plan!.Schedule.Plan));
            try
            {
                var outcome = await edits.CommitAsync(
                    stored.Project,
                    new EditRequest(Guid.NewGuid(), plan!.Version, edit, takeBack, "imke", Overrule: true),
                    Today
                );
                made += outcome is EditCommitted ? 1 : 0;
            }
            catch (EditRefusedException)
            {
                continue;
            }
            if (i % 6 == 0)
                await ExpectEqualAsync(stored.Project);
        }
        Assert.True(made > Edits / 3, $"Only {made} edits were made.");
        await ExpectEqualAsync(stored.Project);

        await _services.GetRequiredService<Projections>().RebuildAsync(Today);
        await ExpectEqualAsync(stored.Project);
    }

    [Fact]
    public async Task It_is_made_anew_when_the_day_turns_or_something_is_missing()
    {
        var projections = _services.GetRequiredService<Projections>();
        await projections.RefreshAsync(Today);
        Assert.Equal(0, await projections.RefreshAsync(Today));
        // The application's own jobs may ask for those of today meanwhile, so that more than expected are made.
        Assert.InRange(await projections.RefreshAsync(Today.AddDays(1)), 3, int.MaxValue);
        await using var db = await DatabaseAsync();
        var all = await db.ProjectedPlans.CountAsync();
        var missing = await db.ProjectedPlans.Select(p => p.PlanId).FirstAsync();
        await db.ProjectedPlans.Where(p => p.PlanId == missing).ExecuteDeleteAsync();
        await projections.RefreshAsync(Today.AddDays(1));
        Assert.True(await db.ProjectedPlans.AnyAsync(p => p.PlanId == missing));
        await projections.RefreshAsync(Today);
        Assert.Equal(all, await db.ProjectedPlans.CountAsync(p => p.Day == Today));
    }

    /// <summary>An edit of any kind, on the plan as it is; one that cannot be made is refused.</summary>
    private static PlanEdit EditOn(Random random, Plan plan)
    {
        for (; ; )
        {
            var (on, edit) = EditKinds.All[random.Next(EditKinds.All.Length)].Sample(random, plan);
            if (ReferenceEquals(on, plan))
                return edit;
        }
    }

    private async Task ExpectEqualAsync(Guid project)
    {
        var across = _services.GetRequiredService<AcrossPlans>();
        var stored = (await _services.GetRequiredService<PlanStore>().LoadAsync(project))!;
        await using var db = await DatabaseAsync();
        var known = await db.ProjectedPlans.AsNoTracking().SingleAsync(p => p.PlanId == stored.Id);
        // It was written with the edit, and is not made only now that it is asked for.
        Assert.Equal((stored.Version, Today), (known.Version, known.Day));
        Assert.Equal(stored.Schedule.Plan.Tasks.Length, await db.ProjectedTasks.CountAsync(t => t.PlanId == stored.Id));

        var (expected, actual) = (KnownProject.Of(stored, Today), (await across.ProjectsAsync([project], Today)).Single());
        Assert.Equal(expected.Plan! with { Tasks = [] }, actual.Plan! with { Tasks = [] });
        Assert.Equal(expected.Counts.OrderBy(c => c.Key), actual.Counts.OrderBy(c => c.Key));
        Assert.Equal((expected.Name, expected.Coordinator, expected.Units), (actual.Name, actual.Coordinator, actual.Units));
        var states = new TaskStates(stored.Schedule, Today);
        foreach (var person in stored.Schedule.Plan.People.Select(p => p.Id).Append(""))
        {
            var tasks = await across.TasksAsync([project], person.Length == 0 ? [] : [person], Today, withDone: true);
            Assert.Equal(
                expected.Plan.Tasks.Where(t =>
                    person.Length == 0 ? t.People.Length == 0 && t.IsLeaf : t.People.Split(' ').Contains(person)
                ),
                tasks.Select(t => t.Task)
            );
            Assert.All(tasks.Where(t => t.Task is { IsLeaf: true, Start: not null }), t =>
                Assert.Equal(states.Of(stored.Schedule.Plan.Index.RowOf(t.Task.Id)), t.Task.StateOn(Today))
            );
        }
    }

    private Task<AuxiliumDb> DatabaseAsync() => _services.GetRequiredService<IDbContextFactory<AuxiliumDb>>().CreateDbContextAsync();

    private static Plan APlan(Random random)
    {
        PlanTask Task(int i, string? parent) =>
            PlanTask.Named($"t{i}", $"Task {i}", parent) with
            {
                Length = Length.Days(random.Next(5)),
                Assignments = random.Next(3) switch
                {
                    0 => [],
                    1 => [new("ann")],
                    _ => [new("bo", 0.5m), new("ann")],
                },
            };
        WorkCalendar Calendar(string id) => WorkCalendar.Weekdays with { Id = id, Name = $"Calendar {id}" };
        return new Plan
        {
            Project = new ProjectSettings { Name = $"Random {random.Next()}", Start = PlanTime.At(2027, 5, 3, 9) },
            Calendars = [Calendar("a"), Calendar("b")],
            People = [new("ann", "Ann Lee", "AL"), new("bo", "Bo Lind", "BL")],
            Tasks = [Task(0, null), PlanTask.Named("p", "Phase"), Task(1, "p"), Task(2, "p"), Task(3, null), Task(4, null), Task(5, null)],
            Links = [new("t0", "t1"), new("t1", "t2"), new("t2", "t3"), new("t0", "t5")],
        };
    }
}
