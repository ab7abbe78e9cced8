using System.Net;
using System.Text.RegularExpressions;
using Auxilium.Storage.Access;
using Auxilium.Storage.Rows;
using Ical.Net;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

/// <summary>Calendars of a project that programs fetch: with what was chosen, until they are withdrawn.</summary>
public partial class ProjectFeedTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private const string Plan = """
        {"format":"auxilium-plan/1", "project":{"name":"Pontoon", "start":"2027-05-17"},
         "people":[{"id":"oona", "name":"Oona Reilly", "initials":"OR"}],
         "tasks":[{"id":"a", "name":"Sand the deck", "length":"2d", "progress":0.5, "actualStart":"2027-05-13",
             "assignments":[{"person":"oona"}]},
           {"id":"b", "name":"Paint", "length":"1d"}, {"id":"m", "name":"Deck open", "milestone":true}],
         "links":[{"from":"b", "to":"m"}]}
        """;

    [Fact]
    public async Task A_calendar_has_what_was_chosen_and_ends_when_it_is_withdrawn()
    {
        var project = await demo.Api.CreateAsync(Plan);
        var all = await FeedAsync(project);
        var calendar = Calendar.Load(await demo.App.CreateClient().GetStringAsync(all))!;
        Assert.Equal(["Deck open", "Paint", "Sand the deck"], calendar.Events.Select(e => e.Summary!).Order());
        var hers = Calendar.Load(
            await demo.App.CreateClient().GetStringAsync(await FeedAsync(project, ("Whose", "oona"), ("AsToDos", "true"), ("Alarm", "2")))
        )!;
        var todo = Assert.Single(hers.Todos);
        Assert.Equal(("Sand the deck", 50), (todo.Summary, todo.PercentComplete));
        Assert.Single(todo.Alarms);
        var milestones = Calendar.Load(await demo.App.CreateClient().GetStringAsync(await FeedAsync(project, ("Milestones", "true"))))!;
        Assert.Equal("Deck open", Assert.Single(milestones.Events).Summary);

        var imke = demo.App.SignedIn();
        var page = await imke.GetStringAsync($"/projects/{project}/sharing");
        Assert.Contains("milestones, fetched last on", page, StringComparison.Ordinal);
        Assert.DoesNotContain(all, page, StringComparison.Ordinal);
        foreach (Match feed in FeedButton().Matches(page))
            await TestApp.PostFormAsync(
                imke,
                $"/projects/{project}/sharing",
                $"/projects/{project}/sharing?handler=WithdrawCalendar",
                new() { ["feed"] = feed.Groups[1].Value }
            );
        Assert.Equal(HttpStatusCode.NotFound, (await demo.App.CreateClient().GetAsync(all)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await demo.App.CreateClient().GetAsync("/feeds/projects/nothing.ics")).StatusCode);
    }

    [Fact]
    public async Task It_shows_nothing_more_once_who_made_it_may_not_look()
    {
        var project = await demo.Api.CreateAsync(Plan);
        var roles = demo.App.Services.GetRequiredService<ProjectRoles>();
        await roles.GiveAsync(project, "wanda", ProjectRole.Coordinator);
        var feed = await FeedAsync(project, "wanda");
        var anybody = demo.App.CreateClient();
        Assert.Equal(HttpStatusCode.OK, (await anybody.GetAsync(feed)).StatusCode);
        await roles.GiveAsync(project, "wanda", ProjectRole.None);
        Assert.Equal(HttpStatusCode.NotFound, (await anybody.GetAsync(feed)).StatusCode);
    }

    [Fact]
    public async Task What_is_missing_is_asked_for_where_it_is_missing()
    {
        var project = await demo.Api.CreateAsync(Plan);
        var page = $"/projects/{project}/sharing";
        using var answer = await TestApp.PostFormAsync(
            demo.App.SignedIn(),
            page,
            $"{page}?handler=Calendar",
            new()
            {
                ["CalendarFor"] = "",
                ["Whose"] = "nobody",
                ["Alarm"] = "99",
            }
        );
        var text = WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
        Assert.Contains("The name of the calendar", text, StringComparison.Ordinal);
        Assert.DoesNotContain("/feeds/projects/", text, StringComparison.Ordinal);
    }

    private Task<string> FeedAsync(Guid project, params (string Name, string Value)[] fields) => FeedAsync(project, "imke", fields);

    private async Task<string> FeedAsync(Guid project, string who, params (string Name, string Value)[] fields)
    {
        var page = $"/projects/{project}/sharing";
        var form = fields.Append(("CalendarFor", "Crews")).ToDictionary(f => f.Item1, f => f.Item2);
        using var answer = await TestApp.PostFormAsync(demo.App.SignedIn(who), page, $"{page}?handler=Calendar", form);
        return FeedAddress().Match(await answer.Content.ReadAsStringAsync()).Value;
    }

    [GeneratedRegex("/feeds/projects/[^<]+\\.ics")]
    private static partial Regex FeedAddress();

    [GeneratedRegex("name=\"feed\"\\s+value=\"([^\"]+)\"")]
    private static partial Regex FeedButton();
}
