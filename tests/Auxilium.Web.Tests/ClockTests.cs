using System.Net;
using System.Text.Json.Nodes;
using Auxilium.Storage;
using Auxilium.Storage.Access;
using Auxilium.Storage.Notices;
using Auxilium.Storage.Rows;
using Auxilium.Web.Notices;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

/// <summary>What day and what hour it is goes by the clocks of the organisation, wherever its servers are.</summary>
public class ClockTests
{
    [Fact]
    public async Task Servers_in_different_zones_agree_on_the_day_that_the_organisation_has()
    {
        using var database = TestDatabase.WithDemo();
        // In the evening of London it is the next day in Auckland, and the day before in Honolulu.
        var evening = new DateTimeOffset(2027, 5, 13, 20, 0, 0, TimeSpan.Zero);
        await using var east = new TestApp(database.Connection, today: "", world: new MovedClock(evening, "Pacific/Auckland"));
        await using var west = new TestApp(database.Connection, today: "", world: new MovedClock(evening, "Pacific/Honolulu"));
        Assert.Equal((new DateOnly(2027, 5, 14), new DateOnly(2027, 5, 13)), (TodayOf(east), TodayOf(west)));
        using var client = east.SignedIn();
        using var wrong = await TestApp.PostFormAsync(
            client,
            "/organisation",
            "/organisation",
            new() { ["Name"] = "Tidewell", ["TimeZone"] = "Moon/Tranquility" }
        );
        Assert.Contains("There is no such time zone", await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        using var saved = await TestApp.PostFormAsync(
            client,
            "/organisation",
            "/organisation",
            new() { ["Name"] = "Tidewell Boathouse", ["TimeZone"] = "Europe/London" }
        );
        Assert.Contains("Thu 13 May 21:00", await saved.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(new DateOnly(2027, 5, 13), TodayOf(east));
        // The other hears of it by the database; a new one reads it.
        await using var north = new TestApp(database.Connection, today: "", world: new MovedClock(evening, "Pacific/Auckland"));
        Assert.Equal(new DateOnly(2027, 5, 13), TodayOf(north));
        Assert.Contains(
            "gave the organisation the name “Tidewell Boathouse” and the time zone Europe/London",
            System.Net.WebUtility.HtmlDecode(await client.GetStringAsync("/audit")),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task At_midnight_open_pages_get_the_states_that_turned()
    {
        using var database = TestDatabase.WithDemo();
        var clock = new MovedClock(new DateTimeOffset(2027, 5, 13, 21, 59, 0, TimeSpan.Zero), "Europe/Berlin");
        using var server = new DemoApp(database.Connection, new TestApp(database.Connection, today: "", world: clock));
        var project = await server.Api.NewChainAsync();
        Assert.Equal(["overdue", "overdue", "overdue"], await StatesAsync(server, project));
        await server.Api.EditAsync(project, """{"type":"placeTask","task":"a","start":"2027-05-13"}""", 1);
        Assert.Equal("ready", (await StatesAsync(server, project))[0]);
        // Pages without a connection of their own know when to ask again.
        foreach (var address in new[] { "/", "/projects", "/my-week", $"/projects/{project}/report" })
            Assert.Contains("data-day-ends=\"60\"", await server.Api.Http.GetStringAsync(address), StringComparison.Ordinal);
        await using var page = await LiveServers.JoinAsync(server, "imke", project, 2);
        clock.Now = new DateTimeOffset(2027, 5, 13, 22, 1, 0, TimeSpan.Zero);
        await page.NextAsync("day", TimeSpan.FromSeconds(20));
        Assert.Equal("overdue", (await StatesAsync(server, project))[0]);
    }

    [Fact]
    public async Task The_mail_of_the_day_is_made_up_for_when_no_process_ran_at_seven_and_once_only()
    {
        using var database = TestDatabase.WithDemo();
        var clock = new MovedClock(new DateTimeOffset(2027, 5, 13, 4, 0, 0, TimeSpan.Zero), "Europe/Berlin");
        using var server = new DemoApp(database.Connection, new TestApp(database.Connection, today: "", world: clock));
        var job = ActivatorUtilities.CreateInstance<DayJob>(server.App.Services);
        await WaitingAsync(server);
        await job.RunAsync(CancellationToken.None);
        Assert.Equal(0, await DigestsAsync(server));
        clock.Now = new DateTimeOffset(2027, 5, 13, 9, 40, 0, TimeSpan.Zero);
        await job.RunAsync(CancellationToken.None);
        Assert.Equal(1, await DigestsAsync(server));
        await WaitingAsync(server);
        await job.RunAsync(CancellationToken.None);
        Assert.Equal(1, await DigestsAsync(server));
        clock.Now = clock.Now.AddDays(1);
        await job.RunAsync(CancellationToken.None);
        Assert.Equal(2, await DigestsAsync(server));
    }

    [Fact]
    public async Task A_link_opens_until_its_last_day_has_ended()
    {
        using var database = TestDatabase.WithDemo();
        var clock = new MovedClock(new DateTimeOffset(2027, 5, 13, 8, 15, 0, TimeSpan.Zero), "Europe/Berlin");
        using var server = new DemoApp(database.Connection, new TestApp(database.Connection, today: "", world: clock));
        var project = await server.Api.NewChainAsync();
        using var made = await TestApp.PostFormAsync(
            server.App.SignedIn(),
            $"/projects/{project}/sharing",
            $"/projects/{project}/sharing?handler=Link",
            new() { ["For"] = "Band", ["Until"] = "14 May" }
        );
        var address = SharingTests.LinkIn(await made.Content.ReadAsStringAsync());
        async Task<HttpStatusCode> OpenAsync() => (await server.App.CreateClient().GetAsync(address)).StatusCode;
        clock.Now = new DateTimeOffset(2027, 5, 14, 21, 59, 0, TimeSpan.Zero);
        Assert.Equal(HttpStatusCode.OK, await OpenAsync());
        clock.Now = new DateTimeOffset(2027, 5, 14, 22, 1, 0, TimeSpan.Zero);
        Assert.Equal(HttpStatusCode.Gone, await OpenAsync());
    }

    private static DateOnly TodayOf(TestApp app) => app.Services.GetRequiredService<Today>().Date;

    private static async Task<string[]> StatesAsync(DemoApp server, Guid project) =>
        [
            .. JsonNode.Parse(await server.Api.Http.GetStringAsync($"/api/v1/projects/{project}/changes"))!["rows"]!
                .AsArray()
                .Select(r => r!["state"]?.GetValue<string>() ?? ""),
        ];

    /// <summary>Somebody has a notice that waits for the daily mail.</summary>
    private static async Task WaitingAsync(DemoApp server)
    {
        var project = await server.Api.NewChainAsync();
        await server.InDatabaseAsync(db =>
            db.Notices.Add(
                new NoticeRow
                {
                    PersonId = "imke",
                    ProjectId = project,
                    Kind = NoticeKind.Moved,
                    At = DateTime.UtcNow,
                    Text = "A moved.",
                    Once = Guid.NewGuid().ToString(),
                    ForDigest = true,
                }
            )
        );
    }

    private static async Task<int> DigestsAsync(DemoApp server)
    {
        await using var db = await server.App.Services.GetRequiredService<IDbContextFactory<AuxiliumDb>>().CreateDbContextAsync();
        return await db.Mails.CountAsync(m => m.Subject.Contains("since yesterday"));
    }
}

/// <summary>A system clock that a test sets.</summary>
internal sealed class MovedClock(DateTimeOffset now, string zone) : TimeProvider
{
    private long _ticks = now.UtcTicks;

    public DateTimeOffset Now
    {
        get => new(Interlocked.Read(ref _ticks), TimeSpan.Zero);
        set => Interlocked.Exchange(ref _ticks, value.UtcTicks);
    }

    public override TimeZoneInfo LocalTimeZone { get; } = TimeZoneInfo.FindSystemTimeZoneById(zone);

    public override DateTimeOffset GetUtcNow() => Now;
}
