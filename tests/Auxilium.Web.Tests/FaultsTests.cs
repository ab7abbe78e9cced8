using System.Net;
using System.Text.Json.Nodes;
using Auxilium.Storage;
using Auxilium.Storage.Access;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;

namespace Auxilium.Web.Tests;

/// <summary>Faults: databases that switch over, stop or are locked, and starts that are interrupted.</summary>
public sealed class FaultsTests : IDisposable
{
    /// <summary>Not there yet, unless a test begins with the demo.</summary>
    private TestDatabase _database = new();

    public void Dispose() => _database.Dispose();

    [Theory]
    [InlineData("25006", true)]
    [InlineData("25P03", true)]
    [InlineData("53300", true)]
    [InlineData("57014", true)]
    [InlineData("57P01", true)]
    [InlineData("57P03", true)]
    [InlineData("58030", true)]
    [InlineData("55P03", true)]
    [InlineData("08006", true)]
    [InlineData("42P01", false)]
    [InlineData("23505", false)]
    public void What_goes_over_by_itself_is_told_from_what_does_not(string state, bool passes)
    {
        var error = new InvalidOperationException("Saving failed.", new PostgresException("It failed.", "ERROR", "ERROR", state));
        Assert.Equal(passes ? 503 : 500, Faults.StatusOf(error));
    }

    [Fact]
    public async Task While_a_database_changes_over_an_edit_is_told_to_come_again_and_is_then_made_once()
    {
        _database = TestDatabase.WithDemo();
        await using var app = new TestApp(_database.Connection);
        var api = new ApiClient(app.SignedIn());
        var project = await api.NewChainAsync();
        var name = new NpgsqlConnectionStringBuilder(_database.Connection).Database;
        await InSqlAsync($"alter database {name} set default_transaction_read_only = on");
        await InSqlAsync($"select pg_terminate_backend(pid) from pg_stat_activity where datname = '{name}' and pid <> pg_backend_pid()");
        var id = Guid.NewGuid();
        // The first may still find a connection that was cut.
        for (var tries = 0; tries < 3; tries++)
        {
            using var answer = await api.Http.PostAsync(
                $"/api/v1/projects/{project}/edits",
                Json($$$"""{"id":"{{{id}}}","baseVersion":1,"edit":{"type":"renameTask","task":"a","name":"Once"}}""")
            );
            Assert.Equal(HttpStatusCode.ServiceUnavailable, answer.StatusCode);
            Assert.Equal("2", answer.Headers.GetValues("Retry-After").Single());
            Assert.Contains("Try again in a moment", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        }
        await InSqlAsync($"alter database {name} reset default_transaction_read_only", "postgres");
        await InSqlAsync($"select pg_terminate_backend(pid) from pg_stat_activity where datname = '{name}'", "postgres");
        var made = await RetryAsync(() => api.EditAsync(project, """{"type":"renameTask","task":"a","name":"Once"}""", 1, id));
        Assert.Equal(2, made.Body["version"]!.GetValue<int>());
    }

    [Fact]
    public async Task While_the_database_is_away_every_answer_says_so_and_needs_nothing()
    {
        _database = TestDatabase.WithDemo();
        using var way = new Forwarder(_database.Connection);
        await using var app = new TestApp(way.Connection);
        using var client = app.SignedIn();
        way.TakeAway();
        foreach (var path in new[] { "/", "/people", "/nowhere", "/sign-in" })
        {
            using var page = await client.GetAsync(path);
            Assert.Equal(HttpStatusCode.ServiceUnavailable, page.StatusCode);
            Assert.NotNull(page.Headers.RetryAfter);
            Assert.Contains("<h1>The database does not answer</h1>", await page.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        }
        using var api = await client.GetAsync("/api/v1/projects");
        Assert.Equal(
            (HttpStatusCode.ServiceUnavailable, "application/problem+json"),
            (api.StatusCode, api.Content.Headers.ContentType!.MediaType)
        );
        Assert.Contains("\"detail\":\"The database does not answer", await api.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        using var health = await client.GetAsync("/healthz");
        Assert.Equal((HttpStatusCode.ServiceUnavailable, "Unhealthy"), (health.StatusCode, await health.Content.ReadAsStringAsync()));
        using var style = await client.GetAsync("/app.css");
        Assert.Equal(HttpStatusCode.OK, style.StatusCode);
        way.GiveBack();
        for (var tries = 0; ; tries++)
        {
            using var back = await client.GetAsync("/");
            if (back.StatusCode == HttpStatusCode.OK)
                break;
            Assert.True(tries < 50, "The application did not come back with its database.");
            await Task.Delay(100);
        }
    }

    [Fact]
    public async Task Processes_that_start_at_once_on_nothing_all_start()
    {
        TestApp[] apps = [.. Enumerable.Range(0, 3).Select(_ => new TestApp(_database.Connection))];
        try
        {
            var names = await Task.WhenAll(
                apps.Select(app => Task.Run(async () => await new ApiClient(app.SignedIn()).Http.GetStringAsync("/api/v1/projects")))
            );
            Assert.All(names, projects => Assert.Equal(names[0], projects));
            Assert.Equal(3, names[0].Split("\"name\":").Length - 1);
        }
        finally
        {
            foreach (var app in apps)
                await app.DisposeAsync();
        }
    }

    [Fact]
    public async Task A_first_start_that_is_cut_off_leaves_nothing_and_the_next_begins_anew()
    {
        await using (var empty = new TestApp(_database.Connection, empty: true))
            _ = empty.CreateClient();
        await FailAsync("project_roles");
        await using (var cut = new TestApp(_database.Connection))
            Assert.ThrowsAny<Exception>(() => cut.CreateClient());
        Assert.Equal("0 0 0", await CountAsync("people") + " " + await CountAsync("projects") + " " + await CountAsync("accounts"));
        await MendAsync("project_roles");
        await using var app = new TestApp(_database.Connection);
        Assert.Contains("Lantern Regatta", await app.SignedIn().GetStringAsync("/api/v1/projects"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Whoever_begins_needs_the_code_that_was_printed_and_a_try_that_is_cut_off_shuts_nobody_out()
    {
        await using var app = new TestApp(_database.Connection, empty: true);
        var client = app.CreateClient();
        var code = (await app.Services.GetRequiredService<Organisation>().FirstStartAsync())!;
        var fields = new Dictionary<string, string>
        {
            ["OrganisationName"] = "Quay Choir",
            ["Name"] = "Ada Moor",
            ["MailAddress"] = "ada@quay.example",
            ["Password"] = "tide table seven",
            ["Again"] = "tide table seven",
        };
        foreach (var wrong in new[] { "", "abcd-efgh-jkmn-pqrs" })
        {
            fields["Code"] = wrong;
            using var refused = await TestApp.PostFormAsync(client, "/welcome", "/welcome", fields);
            Assert.Contains("printed where Auxilium was started", await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
            Assert.Equal("0", await CountAsync("organisation"));
        }
        fields["Code"] = code.ToUpperInvariant().Replace('-', ' ');
        await FailAsync("accounts");
        using (var cut = await TestApp.PostFormAsync(client, "/welcome", "/welcome", fields))
            Assert.Equal(HttpStatusCode.InternalServerError, cut.StatusCode);
        await MendAsync("accounts");
        using var made = await TestApp.PostFormAsync(client, "/welcome", "/welcome", fields);
        Assert.Contains("No project yet", await made.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Null(await app.Services.GetRequiredService<Organisation>().FirstStartAsync());
        using var second = await TestApp.PostFormAsync(app.CreateClient(), "/sign-in", "/welcome", fields);
        Assert.Equal("1", await CountAsync("organisation"));
    }

    [Fact]
    public async Task A_database_of_a_newer_version_is_left_alone()
    {
        await using (var app = new TestApp(_database.Connection, empty: true))
            _ = app.CreateClient();
        await InSqlAsync("""insert into "__EFMigrationsHistory" values ('29990101000000_Later', '99.0')""");
        var services = new ServiceCollection()
            .AddDbContextFactory<AuxiliumDb>(options => AuxiliumDb.Configure(options, _database.Connection))
            .BuildServiceProvider();
        var newer = await Assert.ThrowsAsync<NewerSchemaException>(() =>
            DatabaseStart.EnterAsync(_database.Connection, services.GetRequiredService<IDbContextFactory<AuxiliumDb>>())
        );
        Assert.Contains("newer version of Auxilium", newer.Message, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_plan_that_another_process_holds_keeps_nobody_from_other_plans()
    {
        _database = TestDatabase.WithDemo();
        await using var app = new TestApp(_database.Connection);
        var api = new ApiClient(app.SignedIn());
        var (held, free) = (await api.NewChainAsync(), await api.NewChainAsync());
        await using var other = new NpgsqlConnection(_database.Connection);
        await other.OpenAsync();
        await using var transaction = await other.BeginTransactionAsync();
        await using (var hold = new NpgsqlCommand($"select * from projects where id = '{held}' for update", other, transaction))
            await hold.ExecuteNonQueryAsync();
        var waiting = Enumerable
            .Range(0, 90)
            .Select(i =>
                RetryAsync(() =>
                    api.EditAsync(held, $$"""{"type":"addTask","id":"n{{i}}","name":"N","parent":null,"after":"a"}""", 1, Guid.NewGuid())
                )
            )
            .ToList();
        // All of them are running, and this one goes on.
        for (var i = 0; i < 5; i++)
            Assert.Equal(
                HttpStatusCode.OK,
                (await api.EditAsync(free, $$"""{"type":"renameTask","task":"a","name":"A{{i}}"}""", i + 1)).Status
            );
        using var health = await api.Http.GetAsync("/healthz");
        Assert.Equal(HttpStatusCode.OK, health.StatusCode);
        Assert.DoesNotContain(waiting, edit => edit.IsCompleted);
        await transaction.RollbackAsync();
        await Task.WhenAll(waiting);
        Assert.Equal(3 + 90, JsonNode.Parse(await api.PlanAsync(held))!["tasks"]!.AsArray().Count);
    }

    [Fact]
    public async Task Too_many_who_wait_for_one_plan_are_told_so_and_whoever_gives_up_leaves_the_gate_free()
    {
        var gates = new PlanGates();
        var plan = Guid.NewGuid();
        using var end = new CancellationTokenSource();
        var first = await gates.EnterAsync(plan, default);
        var waiting = Enumerable.Range(0, PlanGates.MostWaiting).Select(_ => gates.EnterAsync(plan, end.Token)).ToList();
        await Assert.ThrowsAsync<PlanBusyException>(() => gates.EnterAsync(plan, default));
        using (await gates.EnterAsync(Guid.NewGuid(), default))
            await end.CancelAsync();
        foreach (var gaveUp in waiting)
            await Assert.ThrowsAnyAsync<OperationCanceledException>(() => gaveUp);
        first.Dispose();
        (await gates.EnterAsync(plan, default)).Dispose();
    }

    [Fact]
    public async Task A_process_that_stands_still_loses_what_it_holds()
    {
        _database = TestDatabase.WithDemo();
        await using var app = new TestApp(_database.Connection);
        var api = new ApiClient(app.SignedIn());
        var project = await api.NewChainAsync();
        await using var db = await app.Services.GetRequiredService<IDbContextFactory<AuxiliumDb>>().CreateDbContextAsync();
        var settings = await db
            .Database.SqlQueryRaw<string>(
                "select setting as \"Value\" from pg_settings where name in ('idle_in_transaction_session_timeout', 'lock_timeout') "
                    + "order by name"
            )
            .ToListAsync();
        Assert.Equal(["30000", "8000"], settings);
        // The same with a shorter timeout, as it would end.
        await using var transaction = await db.Database.BeginTransactionAsync();
        await db.Database.ExecuteSqlAsync($"set idle_in_transaction_session_timeout = 200");
        await db.Database.ExecuteSqlAsync($"select * from projects where id = {project} for update");
        var edited = await api.EditAsync(project, """{"type":"renameTask","task":"a","name":"Goes on"}""", 1);
        Assert.Equal(HttpStatusCode.OK, edited.Status);
        var lost = await Assert.ThrowsAnyAsync<Exception>(() => db.Database.ExecuteSqlAsync($"select 1"));
        Assert.Equal(503, Faults.StatusOf(lost));
    }

    private static StringContent Json(string text) => new(text, System.Text.Encoding.UTF8, "application/json");

    /// <summary>As a page sends an edit: until there is an answer to it.</summary>
    private static async Task<Answer> RetryAsync(Func<Task<Answer>> send)
    {
        for (var tries = 0; ; tries++)
        {
            var answer = await send();
            if (answer.Status == HttpStatusCode.OK)
                return answer;
            Assert.Equal(HttpStatusCode.ServiceUnavailable, answer.Status);
            Assert.True(tries < 50, "It was never done.");
            await Task.Delay(200);
        }
    }

    private Task<object?> FailAsync(string table) =>
        InSqlAsync(
            $"create function fail_{table}() returns trigger language plpgsql as $$ begin raise exception 'cut off'; end $$; create "
                + $"trigger fail_{table} before insert on {table} for each row execute function fail_{table}()"
        );

    private Task<object?> MendAsync(string table) => InSqlAsync($"drop trigger fail_{table} on {table}");

    private async Task<string> CountAsync(string table) => $"{await InSqlAsync($"select count(*) from {table}")}";

    private async Task<object?> InSqlAsync(string sql, string? database = null)
    {
        var settings = new NpgsqlConnectionStringBuilder(_database.Connection) { Pooling = false };
        await using var connection = new NpgsqlConnection(
            new NpgsqlConnectionStringBuilder(settings.ConnectionString) { Database = database ?? settings.Database }.ConnectionString
        );
        await connection.OpenAsync();
        await using var command = new NpgsqlCommand(sql, connection);
        return await command.ExecuteScalarAsync();
    }
}
