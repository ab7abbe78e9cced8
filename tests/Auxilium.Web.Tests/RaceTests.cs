using System.Net;
using System.Text.Json.Nodes;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Storage;
using Auxilium.Storage.Access;
using Auxilium.Storage.Notices;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;

namespace Auxilium.Web.Tests;

/// <summary>Two people at the same moment, in the orders that went wrong.</summary>
public class RaceTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private static readonly DateOnly Today = new(2027, 5, 13);

    [Fact]
    public async Task A_name_that_was_read_before_somebody_was_renamed_does_not_come_back_from_memory()
    {
        var project = await demo.Api.CreateAsync(With("bert", "Bert Stolk"));
        var (store, memory) = (demo.App.Services.GetRequiredService<PlanStore>(), demo.App.Services.GetRequiredService<PlanMemory>());
        memory.Forget();
        // A plan that is read while somebody is renamed: read before, kept after.
        var era = memory.Era;
        var read = (await store.LoadAsync(project))!;
        var directory = demo.App.Services.GetRequiredService<Storage.People.Directory>();
        var bert = (await directory.FindAsync("bert"))!;
        bert.Name = "Bert Hollis";
        await directory.SaveAsync([bert]);
        memory.Keep(read, read.Schedule.Plan, era);
        Assert.Equal("Bert Hollis", (await store.LoadAsync(project))!.Schedule.Plan.FindPerson("bert")!.Name);
    }

    [Fact]
    public async Task Whoever_is_given_a_task_while_they_are_merged_is_handed_over_first()
    {
        var project = await demo.Api.CreateAsync(With("greta", "Greta Holm"));
        var directory = demo.App.Services.GetRequiredService<Storage.People.Directory>();
        // All was handed over, and then somebody gives the one who goes a task.
        Assert.Equal(
            HttpStatusCode.OK,
            (await demo.Api.EditAsync(project, """{"type":"setOwner","task":"a","owner":"greta"}""", 1)).Status
        );
        Assert.Null(await directory.MergeAsync("greta", "femi", "imke"));
        Assert.NotNull(await directory.FindAsync("greta"));
        // While their plans are held, an edit waits, and finds nobody to give anything to.
        await demo.Api.EditAsync(project, """{"type":"setOwner","task":"a","owner":null}""", 2);
        await using var held = new NpgsqlConnection(demo.Connection);
        await held.OpenAsync();
        await using var hold = await held.BeginTransactionAsync();
        await using (var command = new NpgsqlCommand($"select id from projects where id = '{project}' for update", held, hold))
            await command.ExecuteScalarAsync();
        var merging = directory.MergeAsync("greta", "femi", "imke");
        await WaitingAsync(1);
        var giving = demo.Api.EditAsync(project, """{"type":"setAssignments","task":"a","assignments":[{"person":"greta"}]}""", 3);
        await WaitingAsync(2);
        await hold.CommitAsync();
        Assert.True(await merging);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await giving).Status);
        Assert.DoesNotContain("greta", await demo.Api.PlanAsync(project), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Of_accepting_and_declining_at_once_one_happens_and_the_plan_shows_which()
    {
        var project = await demo.Api.CreateAsync(With("oona", "Oona Reilly"));
        var oona = new ApiClient(demo.App.SignedIn("oona"));
        var proposal = (await oona.EditAsync(project, """{"type":"renameTask","task":"a","name":"Varnish"}""", 1)).Body[
            "proposal"
        ]!.GetValue<Guid>();
        var (edits, proposals) = (demo.App.Services.GetRequiredService<PlanEdits>(), demo.App.Services.GetRequiredService<Proposals>());
        // It was open when the one who accepts looked; before the edit is written it is declined.
        var open = (await proposals.FindAsync(project, proposal))!;
        Assert.True(await proposals.DecideAsync(project, proposal, ProposalState.Declined, "imke"));
        var request = new EditRequest(proposal, open.BaseVersion, open.ReadEdit(Today), null, "imke")
        {
            Within = (db, stop) => proposals.DecideAsync(db, project, proposal, ProposalState.Accepted, "imke", stop),
        };
        Assert.IsType<NotDecided>(await edits.CommitAsync(project, request, Today));
        Assert.DoesNotContain("Varnish", await demo.Api.PlanAsync(project), StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.Conflict,
            (await demo.Api.PostAsync($"/api/v1/projects/{project}/proposals/{proposal}/accept", "")).Status
        );
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await demo.Api.PostAsync($"/api/v1/projects/{project}/proposals/{Guid.NewGuid()}/accept", "")).Status
        );
    }

    [Fact]
    public async Task Somebody_who_comes_back_by_an_undo_is_called_what_they_are_called_now()
    {
        var project = await demo.Api.NewChainAsync();
        await demo.Api.EditAsync(project, """{"type":"joinPlan","person":{"id":"priya","name":"Priya Raman","initials":"PR"}}""", 1);
        Assert.Equal(HttpStatusCode.OK, (await demo.Api.TakeBackAsync(project)).Status);
        var directory = demo.App.Services.GetRequiredService<Storage.People.Directory>();
        var priya = (await directory.FindAsync("priya"))!;
        (priya.Name, priya.LeftOn) = ("Priya Nair", Today);
        await directory.SaveAsync([priya]);
        Assert.Equal(HttpStatusCode.OK, (await demo.Api.TakeBackAsync(project, "lastTakeBack")).Status);
        var known = await demo.Api.PlanAsync(project);
        await using var fresh = new TestApp(demo.Connection);
        Assert.Equal(await new ApiClient(fresh.SignedIn()).PlanAsync(project), known);
        Assert.DoesNotContain("Raman", known, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_plan_whose_dates_cannot_be_worked_out_stops_neither_the_list_nor_what_people_are_told()
    {
        using var own = new DemoApp();
        var (broken, sound) = (await own.Api.NewChainAsync(), await own.Api.CreateAsync(With("wanda", "Wanda Coles")));
        await own.InDatabaseAsync(db =>
        {
            var plan = db.Plans.Single(p => p.ProjectId == broken);
            db.Links.Add(
                new LinkRow
                {
                    PlanId = plan.Id,
                    From = "c",
                    To = "a",
                    Rank = 9_000_000,
                    Lag = "0d",
                }
            );
            plan.Version++;
        });
        own.App.Services.GetRequiredService<PlanMemory>().Forget();
        var list = WebUtility.HtmlDecode(await own.Api.Http.GetStringAsync("/projects"));
        Assert.Contains("Its dates cannot be worked out.", list, StringComparison.Ordinal);
        Assert.Contains("Boats", list, StringComparison.Ordinal);
        Assert.Contains(sound.ToString(), await own.Api.Http.GetStringAsync("/api/v1/projects"), StringComparison.Ordinal);
        Assert.Contains("My week", await own.Api.Http.GetStringAsync("/my-week"), StringComparison.Ordinal);
        var watch = own.App.Services.GetRequiredService<NoticeWatch>();
        await watch.LookAsync(Today);
        await own.Api.EditAsync(sound, """{"type":"setOwner","task":"a","owner":"wanda"}""", 1);
        await watch.LookAsync(Today);
        await using var db = await own.App.Services.GetRequiredService<IDbContextFactory<AuxiliumDb>>().CreateDbContextAsync();
        Assert.Contains(await db.Notices.Where(n => n.ProjectId == sound).Select(n => n.Text).ToListAsync(), text =>
            text.Contains("is yours now", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task Days_off_that_a_process_left_half_brought_in_are_brought_in_later()
    {
        var (one, two) = (
            await demo.Api.CreateAsync(With("tomas", "Tomas Lindqvist")),
            await demo.Api.CreateAsync(With("tomas", "Tomas Lindqvist"))
        );
        // A process enters them and dies before any plan has them.
        await demo
            .App.Services.GetRequiredService<DaysOff>()
            .EnterAsync(
                new TimeOffRow
                {
                    PersonId = "tomas",
                    From = new(2027, 5, 17),
                    To = new(2027, 5, 18),
                },
                "imke"
            );
        var times = demo.App.Services.GetRequiredService<OwnTimes>();
        await times.CatchUpAsync(Today);
        Assert.DoesNotContain("2027-05-17", await demo.Api.PlanAsync(one), StringComparison.Ordinal);
        await demo.InDatabaseAsync(db =>
            db.TimeChanges.Single(c => c.PersonId == "tomas").At = DateTime.SpecifyKind(
                DateTime.UtcNow.AddMinutes(-1),
                DateTimeKind.Unspecified
            )
        );
        await times.CatchUpAsync(Today);
        foreach (var project in new[] { one, two })
            Assert.Contains("2027-05-17", await demo.Api.PlanAsync(project), StringComparison.Ordinal);
        await using var db = await demo.App.Services.GetRequiredService<IDbContextFactory<AuxiliumDb>>().CreateDbContextAsync();
        Assert.False(await db.TimeChanges.AnyAsync());
    }

    private static string With(string id, string name) =>
        $$"""
            {"format":"auxilium-plan/1", "project":{"name":"Boats", "start":"2027-05-10"}, "people":[{"id":"{{id}}", "name":"{{name}}",
              "initials":"X"}],
             "tasks":[{"id":"a","name":"Paint","length":"3d"}]}
            """;

    /// <summary>Waits until so many wait for a lock of this database.</summary>
    private async Task WaitingAsync(int count)
    {
        await using var connection = new NpgsqlConnection(demo.Connection);
        await connection.OpenAsync();
        using var end = new CancellationTokenSource(TimeSpan.FromSeconds(10));
        while (true)
        {
            await using var command = new NpgsqlCommand(
                "select count(*) from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'",
                connection
            );
            if ((long)(await command.ExecuteScalarAsync(end.Token))! >= count)
                return;
            await Task.Delay(20, end.Token);
        }
    }
}
