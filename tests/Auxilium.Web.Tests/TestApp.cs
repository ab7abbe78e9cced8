using System.Net;
using System.Text.RegularExpressions;
using Auxilium.Storage;
using Auxilium.Storage.Access;
using Auxilium.Storage.Notices;
using Auxilium.Web.Notices;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.TestHost;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;

namespace Auxilium.Web.Tests;

/// <summary>The real application on a real PostgreSQL, on Thursday 13 May 2027.</summary>
public sealed partial class TestApp(
    string connection,
    bool empty = false,
    string today = "2027-05-13",
    int doorTries = 10_000,
    TimeProvider? world = null
) : WebApplicationFactory<Program>
{
    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        builder.UseSetting("DB", connection);
        builder.UseSetting("TODAY", today);
        builder.UseSetting("EMPTY", empty ? "1" : "0");
        builder.UseSetting("DOOR_TRIES", doorTries.ToString(System.Globalization.CultureInfo.InvariantCulture));
        builder.UseEnvironment("Production");
        if (world is not null)
            builder.ConfigureTestServices(services => services.AddKeyedSingleton(OrganisationClock.World, world));
    }

    /// <summary>A browser of somebody of the demo, signed in as they would.</summary>
    public HttpClient SignedIn(string person = "imke") => Task.Run(() => SignInAsync(person)).GetAwaiter().GetResult();

    private async Task<HttpClient> SignInAsync(string person)
    {
        var client = CreateClient();
        using var answer = await PostFormAsync(client, "/sign-in", "/sign-in?handler=Demo", new() { ["person"] = person });
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.Contains("your account\"", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        client.DefaultRequestHeaders.Add(
            "X-Auxilium-Token",
            ForgeryToken().Match(await client.GetStringAsync("/account")).Groups[1].Value
        );
        return client;
    }

    /// <summary>Sends the form of a page, with what it needs against forgery.</summary>
    public static async Task<HttpResponseMessage> PostFormAsync(
        HttpClient client,
        string page,
        string action,
        Dictionary<string, string> fields
    )
    {
        fields["__RequestVerificationToken"] = ForgeryToken().Match(await client.GetStringAsync(page)).Groups[1].Value;
        using var form = new FormUrlEncodedContent(fields);
        return await client.PostAsync(action, form);
    }

    [GeneratedRegex("name=\"__RequestVerificationToken\" type=\"hidden\" value=\"([^\"]+)\"")]
    private static partial Regex ForgeryToken();
}

/// <summary>One application with the demo organisation for a class of tests.</summary>
public sealed class DemoApp : IDisposable
{
    private readonly TestDatabase? _database;

    public DemoApp()
    {
        _database = TestDatabase.WithDemo();
        Connection = _database.Connection;
        App = new TestApp(Connection);
        Api = new ApiClient(App.SignedIn());
    }

    public TestApp App { get; }

    public ApiClient Api { get; }

    /// <summary>A second server on the database of another.</summary>
    internal DemoApp(string connection)
        : this(connection, new TestApp(connection)) { }

    internal DemoApp(string connection, TestApp app)
    {
        Connection = connection;
        App = app;
        Api = new ApiClient(App.SignedIn());
    }

    public string Connection { get; }

    /// <summary>Changes the database behind the application's back.</summary>
    public async Task InDatabaseAsync(Action<AuxiliumDb> change)
    {
        await using var db = await App.Services.GetRequiredService<IDbContextFactory<AuxiliumDb>>().CreateDbContextAsync();
        change(db);
        await db.SaveChangesAsync();
    }

    /// <summary>Tells people what became of plans, as on a day, while the application's own job waits.</summary>
    public async Task LookAsync(DateOnly today)
    {
        await using var connection = new NpgsqlConnection(Connection);
        await connection.OpenAsync();
        await using var turn = new NpgsqlCommand($"select pg_advisory_lock({OneRunner.Space}, {WatchJob.Number})", connection);
        await turn.ExecuteNonQueryAsync();
        await App.Services.GetRequiredService<NoticeWatch>().LookAsync(today);
        await using var end = new NpgsqlCommand($"select pg_advisory_unlock({OneRunner.Space}, {WatchJob.Number})", connection);
        await end.ExecuteNonQueryAsync();
    }

    public void Dispose()
    {
        App.Dispose();
        _database?.Dispose();
    }
}
