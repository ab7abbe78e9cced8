using System.Diagnostics;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using Auxilium.Storage;
using Auxilium.Storage.Access;
using Auxilium.Storage.Notices;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Web.Api;
using Microsoft.AspNetCore.Http;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

/// <summary>Tests that compare what something takes: nothing else runs meanwhile.</summary>
[CollectionDefinition(nameof(Alone), DisableParallelization = true)]
public sealed class Alone;

/// <summary>What one person asks for does not stop the others, and is refused in a sentence where it is too much.</summary>
[Collection(nameof(Alone))]
public sealed class BudgetTests(DemoApp demo) : IClassFixture<DemoApp>
{
    [Fact]
    public async Task Calendars_that_come_to_too_much_are_refused_before_they_are_worked_out()
    {
        // Every pair of a task's and its owner's calendar differs.
        var paired = Document(calendars: 150, days: 40, based: false, tasks: 2_000);
        var answer = await demo.Api.PostAsync("/api/v1/schedule", paired);
        Assert.Equal(HttpStatusCode.BadRequest, answer.Status);
        Assert.Contains("combinations of a task’s and its owner’s", answer.Detail, StringComparison.Ordinal);
        Assert.Equal("$.calendars", answer.Body["errors"]![0]!["path"]!.GetValue<string>());
        var chained = await demo.Api.PostAsync("/api/v1/schedule", Document(calendars: 200, days: 20, based: true, tasks: 5));
        Assert.Contains("builds on another, more than 20 deep", chained.Detail, StringComparison.Ordinal);
        var fair = await demo.Api.PostAsync("/api/v1/schedule", Document(calendars: 40, days: 20, based: false, tasks: 500));
        Assert.Equal(HttpStatusCode.OK, fair.Status);
    }

    [Fact]
    public async Task Whoever_asks_for_much_at_once_waits_for_themselves_and_is_told_when_it_is_too_much()
    {
        using var budgets = new Budgets();
        static HttpContext Of(string person) =>
            new DefaultHttpContext
            {
                User = Access.Rights.ToPrincipal(new SignedIn(null, person, person, "X", false, false, DateTime.MaxValue, false), "test"),
            };
        var first = await budgets.EnterAsync(Of("wanda"), default);
        var waiting = Enumerable.Range(0, Budgets.MostWaiting).Select(_ => budgets.EnterAsync(Of("wanda"), default)).ToList();
        var tooMuch = await Assert.ThrowsAsync<TooMuchAtOnceException>(() => budgets.EnterAsync(Of("wanda"), default));
        Assert.Equal(429, Faults.StatusOf(tooMuch));
        Assert.DoesNotContain(waiting, turn => turn.IsCompleted);
        first.Dispose();
        foreach (var turn in waiting)
            (await turn).Dispose();
        // As many run at once as there are processors but one, each for somebody else.
        using var theirs = await budgets.EnterAsync(Of("bert"), default);
    }

    [Fact]
    public async Task A_body_that_trickles_holds_nobody_up_and_is_given_up()
    {
        using var slow = new TrickleStream();
        var context = new DefaultHttpContext();
        (context.Request.Body, context.Request.ContentLength, context.Request.ContentType) = (slow, 10, "application/json");
        var reading = RequestDocument.ReadAsync(context.Request, 100, TimeSpan.FromMilliseconds(300));
        var given = await Assert.ThrowsAsync<BadHttpRequestException>(() => reading);
        Assert.Equal((408, true), (given.StatusCode, given.Message.Contains("took too long to arrive", StringComparison.Ordinal)));
    }

    [Fact]
    public async Task Files_of_a_project_have_a_bound()
    {
        var project = await demo.Api.NewChainAsync();
        await demo.InDatabaseAsync(db =>
            db.Files.Add(
                new FileRow
                {
                    Id = Guid.NewGuid(),
                    ProjectId = project,
                    TaskId = "b",
                    PersonId = "imke",
                    At = DateTime.UtcNow,
                    Name = "big.txt",
                    MediaType = "text/plain",
                    Size = 500 * 1024 * 1024 - 4,
                    Content = [1],
                }
            )
        );
        using var content = new StringContent("five!");
        using var full = await demo.Api.Http.PostAsync($"/api/v1/projects/{project}/tasks/a/files?name=a.txt", content);
        Assert.Equal(HttpStatusCode.BadRequest, full.StatusCode);
        Assert.Contains("more than 500 MB", await full.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Whoever_writes_too_often_is_told_to_wait_and_nobody_is_mailed_again_and_again()
    {
        var project = await demo.Api.NewChainAsync();
        await demo.App.Services.GetRequiredService<ProjectRoles>().GiveAsync(project, "priya", ProjectRole.Member);
        await demo.App.Services.GetRequiredService<ProjectRoles>().GiveAsync(project, "wanda", ProjectRole.Member);
        var wanda = new ApiClient(demo.App.SignedIn("wanda"));
        HttpStatusCode last = default;
        for (var i = 0; i < 61 && last != HttpStatusCode.TooManyRequests; i++)
        {
            using var content = new StringContent("""{"text":"@Priya, look"}""", Encoding.UTF8, "application/json");
            using var answer = await wanda.Http.PostAsync($"/api/v1/projects/{project}/tasks/a/comments", content);
            last = answer.StatusCode;
            if (last == HttpStatusCode.TooManyRequests)
                Assert.NotNull(answer.Headers.RetryAfter);
        }
        Assert.Equal(HttpStatusCode.TooManyRequests, last);
        await using var db = await demo.App.Services.GetRequiredService<IDbContextFactory<AuxiliumDb>>().CreateDbContextAsync();
        Assert.Equal(NoticeBook.MostInBurst, await db.Mails.CountAsync(m => m.To == "priya@tidewell.example"));
        Assert.True(await db.Notices.CountAsync(n => n.PersonId == "priya" && n.ForDigest) > 40);
    }

    /// <summary>The same edit, alone and while others ask for all that costs most: a ratio within one run.</summary>
    [Fact]
    public async Task An_edit_of_somebody_else_goes_on_while_others_ask_for_all_that_costs_most()
    {
        var project = await demo.Api.NewChainAsync();
        var large = await demo.Api.CreateAsync(Document(calendars: 30, days: 20, based: false, tasks: 3_000));
        var version = 1;
        async Task<double> EditAsync(int times)
        {
            var took = new List<double>();
            for (var i = 0; i < times; i++)
            {
                var started = Stopwatch.GetTimestamp();
                var answer = await demo.Api.EditAsync(
                    project,
                    $$"""{"type":"setLength","task":"a","length":"{{version % 5 + 1}}d"}""",
                    version++
                );
                Assert.Equal(HttpStatusCode.OK, answer.Status);
                took.Add(Stopwatch.GetElapsedTime(started).TotalMilliseconds);
            }
            took.Sort();
            return took[took.Count / 2];
        }
        await EditAsync(20);
        var usual = await EditAsync(40);

        using var end = new CancellationTokenSource();
        var heavy = Document(calendars: 40, days: 60, based: false, tasks: 4_000);
        var parts = string.Join(',', Enumerable.Range(0, 1_500).Select(i => $$"""{"type":"setLength","task":"t{{i}}","length":"2d"}"""));
        var asks = new (string Person, Func<ApiClient, Task> Ask)[]
        {
            ("wanda", api => api.PostAsync("/api/v1/schedule", heavy)),
            ("bert", api => api.PostAsync("/api/v1/schedule", heavy)),
            ("oona", api => api.PostAsync("/api/v1/schedule", heavy)),
            ("imke", async api => await api.Http.GetStringAsync($"/api/v1/projects/{large}/forecast?runs=3000")),
            ("imke", api =>
                api.PostAsync(
                    $"/api/v1/projects/{large}/edits?preview=true",
                    $$$"""{"id":"{{{Guid.NewGuid()}}}","baseVersion":1,"edit":{"type":"together","edits":[{{{parts}}}]}}"""
                )
            ),
            ("imke", async api => await api.Http.GetStringAsync($"/api/v1/projects/{large}/check-up")),
        };
        var attackers = asks.SelectMany(a => Enumerable.Range(0, 2).Select(_ => (Api: new ApiClient(demo.App.SignedIn(a.Person)), a.Ask)))
            .ToList();
        var begun = new TaskCompletionSource();
        var attacks = attackers
            .Select(attacker =>
                Task.Run(async () =>
                {
                    while (!end.IsCancellationRequested)
                    {
                        await attacker.Ask(attacker.Api);
                        begun.TrySetResult();
                    }
                })
            )
            .ToList();
        // One of them has had its answer, and all others are under way.
        await begun.Task;
        var meanwhile = await EditAsync(40);
        await end.CancelAsync();
        // Work that nobody waits for is stopped.
        foreach (var (api, _) in attackers)
            api.Http.CancelPendingRequests();
        await Task.WhenAll(attacks.Select(attack => attack.ContinueWith(_ => { }, TaskScheduler.Default)));
        Assert.True(meanwhile < 5 * usual, $"An edit takes {meanwhile:0.0} ms instead of {usual:0.0} ms.");
    }

    /// <summary>A plan in which tasks and their owners go by calendars of their own.</summary>
    private static string Document(int calendars, int days, bool based, int tasks)
    {
        var first = new DateOnly(2027, 1, 1);
        var list = Enumerable
            .Range(0, calendars)
            .Select(c => new JsonObject
            {
                ["id"] = $"c{c}",
                ["name"] = $"Calendar {c}",
                ["base"] = based && c > 0 ? $"c{c - 1}" : null,
                ["week"] = new JsonObject
                {
                    ["mon"] = new JsonArray("09:00-17:00"),
                    ["tue"] = new JsonArray("09:00-17:00"),
                    ["wed"] = new JsonArray("09:00-17:00"),
                },
                ["exceptions"] = new JsonArray([
                    .. Enumerable
                        .Range(0, days)
                        .Select(d =>
                            (JsonNode)
                                new JsonObject
                                {
                                    ["from"] = $"{first.AddDays(3 * d + c % 3):yyyy-MM-dd}",
                                    ["to"] = $"{first.AddDays(3 * d + c % 3):yyyy-MM-dd}",
                                    ["name"] = "x",
                                    ["work"] = new JsonArray($"10:{c % 60:00}-12:00"),
                                }
                        ),
                ]),
            });
        var people = Enumerable
            .Range(0, calendars)
            .Select(p => new JsonObject
            {
                ["id"] = $"pair-{p}",
                ["name"] = $"Pair {p}",
                ["calendar"] = $"c{p}",
            });
        var rows = Enumerable
            .Range(0, tasks)
            .Select(t =>
            {
                var task = new JsonObject
                {
                    ["id"] = $"t{t}",
                    ["name"] = $"T{t}",
                    ["length"] = "2h",
                };
                if (calendars == 0)
                    return task;
                task["calendar"] = $"c{t % calendars}";
                task["assignments"] = new JsonArray(new JsonObject { ["person"] = $"pair-{(t / calendars + t) % calendars}" });
                return task;
            });
        return new JsonObject
        {
            ["format"] = "auxilium-plan/1",
            ["project"] = new JsonObject { ["name"] = "Much", ["start"] = "2027-01-04" },
            ["calendars"] = new JsonArray([.. list]),
            ["people"] = new JsonArray([.. people]),
            ["tasks"] = new JsonArray([.. rows]),
        }.ToJsonString();
    }

    /// <summary>A body that stalls.</summary>
    private sealed class TrickleStream : MemoryStream
    {
        public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
        {
            await Task.Delay(Timeout.Infinite, cancellationToken);
            return 0;
        }
    }
}
