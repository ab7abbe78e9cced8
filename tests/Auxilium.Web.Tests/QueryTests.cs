using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net;

namespace Auxilium.Web.Tests;

/// <summary>How often the database is asked for a page about many plans: a bounded number of times, however many there are.</summary>
public class QueryTests(DemoApp demo) : IClassFixture<DemoApp>
{
    [Theory]
    [InlineData("/", 20)]
    [InlineData("/projects", 16)]
    [InlineData("/my-week")]
    [InlineData("/my-week/hours")]
    [InlineData("/notices")]
    [InlineData("/api/v1/projects")]
    public async Task Many_projects_take_as_many_queries_as_few(string path, int most = 12)
    {
        var client = demo.App.SignedIn();
        // What is asked for the first time, such as the organisation, is remembered.
        await CountAsync(client, path);
        var few = await CountAsync(client, path);
        for (var i = 0; i < 10; i++)
            await demo.Api.CreateAsync(
                $$"""
                {"format":"auxilium-plan/1","project":{"name":"Query {{i}}","start":"2027-05-03"},
                 "people":[{"id":"imke","name":"Imke Varga","initials":"IV"}],
                 "tasks":[{"id":"a","name":"Caulk the seams","length":"3d","assignments":[{"person":"imke"}]}]}
                """
            );
        // New plans are of the clock's day, which is not the one that tests are on: the first who asks has them worked out for it.
        await CountAsync(client, path);
        var many = await CountAsync(client, path);
        Assert.InRange(many, 1, most);
        Assert.Equal(few, many);
    }

    /// <summary>The commands that one request sends to the database, found by the trace that they belong to.</summary>
    private static async Task<int> CountAsync(HttpClient client, string path)
    {
        var trace = ActivityTraceId.CreateRandom();
        var commands = new ConcurrentBag<Activity>();
        using var listener = new ActivityListener
        {
            ShouldListenTo = source => source.Name is "Npgsql" or "Microsoft.AspNetCore",
            Sample = (ref ActivityCreationOptions<ActivityContext> _) => ActivitySamplingResult.AllData,
            ActivityStopped = activity =>
            {
                if (activity.Source.Name == "Npgsql" && activity.TraceId == trace)
                    commands.Add(activity);
            },
        };
        ActivitySource.AddActivityListener(listener);
        using var request = new HttpRequestMessage(HttpMethod.Get, path);
        request.Headers.Add("traceparent", $"00-{trace}-{ActivitySpanId.CreateRandom()}-01");
        using var answer = await client.SendAsync(request);
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        return commands.Count;
    }
}
