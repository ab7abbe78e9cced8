using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Auxilium.Storage.Access;

namespace Auxilium.Web.Tests;

/// <summary>My week, hours, and the calendar that programs fetch.</summary>
public partial class WeekTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private const string Plan = """
        {"format":"auxilium-plan/1", "project":{"name":"Winter store", "start":"2027-05-03"}, "people":[{"id":"wanda",
          "name":"Wanda Coles", "initials":"WC"}, {"id":"bert", "name":"Bert Stolk", "initials":"BS"}],
         "tasks":[{"id":"late","name":"Clear the shed","length":"2d","assignments":[{"person":"wanda"}]},
                  {"id":"now","name":"Fold, sails; \"big\" ones","length":"3d","pinned":{"start":"2027-05-13"},
                    "assignments":[{"person":"bert"},{"person":"wanda","share":0.5}]},
                  {"id":"next","name":"Store the oars","length":"1d","pinned":{"start":"2027-05-20"},"assignments":[{"person":"wanda"}]},
                  {"id":"other","name":"Not hers","length":"1d","assignments":[{"person":"bert"}]}]}
        """;

    [Fact]
    public async Task It_lists_own_tasks_by_day_late_ones_first_and_goes_from_week_to_week()
    {
        await demo.Api.CreateAsync(Plan);
        var wanda = demo.App.SignedIn("wanda");
        var week = await PageAsync(wanda, "/my-week");
        Assert.Contains("Clear the shed", Between(week, "id=\"late\"", "</section>"), StringComparison.Ordinal);
        Assert.Contains("Fold, sails", Between(week, "Thursday 13 May", "</section>"), StringComparison.Ordinal);
        Assert.Contains("helping", week, StringComparison.Ordinal);
        Assert.DoesNotContain("Not hers", week, StringComparison.Ordinal);
        Assert.DoesNotContain("Store the oars", week, StringComparison.Ordinal);
        Assert.Contains(
            "Store the oars",
            Between(await PageAsync(wanda, "/my-week?from=2027-05-17"), "Thursday 20 May", "</section>"),
            StringComparison.Ordinal
        );
        Assert.Equal(HttpStatusCode.NotFound, (await wanda.GetAsync("/my-week?who=bert")).StatusCode);
    }

    [Fact]
    public async Task Whoever_coordinates_hands_out_the_list_of_a_person_or_a_team_by_mail()
    {
        await demo.Api.CreateAsync(Plan);
        var imke = demo.App.SignedIn();
        var team = await PageAsync(imke, "/my-week?who=team:Workshop&from=2027-05-10&days=14");
        Assert.Contains("Tasks of Workshop", team, StringComparison.Ordinal);
        Assert.Contains("Wanda Coles", team, StringComparison.Ordinal);
        var nobody = await PageAsync(imke, "/my-week?who=:nobody&from=2027-05-10&days=30");
        Assert.Contains("Tasks of nobody", nobody, StringComparison.Ordinal);
        Assert.Contains("Printed programme", nobody, StringComparison.Ordinal);
        Assert.DoesNotContain("Store the oars", nobody, StringComparison.Ordinal);
        using var sent = await TestApp.PostFormAsync(imke, "/my-week", "/my-week?handler=Mail&who=wanda&from=2027-05-10", []);
        Assert.Contains("on its way by mail", await sent.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("", "Tasks of Imke Varga")]
    [InlineData("&who=wanda", "Tasks of Wanda Coles")]
    [InlineData("&who=team:Workshop", "Tasks of Workshop")]
    [InlineData("&who=:everybody", "Everybody’s tasks")]
    [InlineData("&who=:nobody", "Tasks of nobody")]
    public async Task The_list_of_a_person_a_team_or_everybody_is_a_pdf(string who, string title)
    {
        await demo.Api.CreateAsync(Plan);
        using var answer = await demo.App.SignedIn().GetAsync($"/my-week?handler=Pdf&from=2027-05-10&days=14{who}");
        Assert.Equal("application/pdf", answer.Content.Headers.ContentType!.MediaType);
        var pdf = System.Text.Encoding.Latin1.GetString(await answer.Content.ReadAsByteArrayAsync());
        Assert.StartsWith("%PDF-", pdf, StringComparison.Ordinal);
        // Titles are in UTF-16 where they have to be.
        Assert.Contains(
            title.All(char.IsAscii) ? title : string.Concat(title.Select(c => $"{(int)c:X4}")),
            pdf,
            StringComparison.OrdinalIgnoreCase
        );
        using var hidden = await demo.App.SignedIn("oona").GetAsync("/my-week?handler=Pdf&who=wanda");
        Assert.Equal(HttpStatusCode.NotFound, hidden.StatusCode);
    }

    [Fact]
    public async Task The_mail_with_a_list_has_it_as_a_pdf()
    {
        var imke = demo.App.SignedIn();
        using var sent = await TestApp.PostFormAsync(imke, "/my-week", "/my-week?handler=Mail&who=wanda&from=2027-05-10", []);
        var post = "";
        for (var tries = 0; tries < 100 && !post.Contains("[Tasks 2027-05-10.pdf]", StringComparison.Ordinal); tries++)
        {
            post = WebUtility.HtmlDecode(await imke.GetStringAsync("/post"));
            await Task.Delay(100);
        }
        Assert.Contains("[Tasks 2027-05-10.pdf]", post, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Hours_are_said_for_own_tasks_and_shown_with_what_is_said()
    {
        var project = await demo.Api.CreateAsync(Plan);
        var wanda = demo.App.SignedIn("wanda");
        Assert.Equal(HttpStatusCode.OK, await SayAsync(wanda, project, "now", """{"day":"2027-05-13","hours":"1,5"}"""));
        Assert.Equal("""[{"person":"Wanda Coles","hours":1.5}]""", await WorkedAsync(project));
        Assert.Equal(HttpStatusCode.OK, await SayAsync(wanda, project, "now", """{"day":"2027-05-13","hours":"1h30"}"""));
        Assert.Equal("""[{"person":"Wanda Coles","hours":1.5}]""", await WorkedAsync(project));
        Assert.Equal(HttpStatusCode.OK, await SayAsync(wanda, project, "now", """{"day":"2027-05-13","hours":3}"""));
        Assert.Equal(HttpStatusCode.BadRequest, await SayAsync(wanda, project, "now", """{"day":"2027-05-13","hours":"soon"}"""));
        Assert.Equal(HttpStatusCode.BadRequest, await SayAsync(wanda, project, "now", """{"day":"2027-05-13","hours":"25"}"""));
        Assert.Equal(HttpStatusCode.Forbidden, await SayAsync(wanda, project, "other", """{"day":"2027-05-13","hours":1}"""));
        Assert.Equal(HttpStatusCode.BadRequest, await SayAsync(wanda, project, "now", """{"day":"2027-05-13","hours":25}"""));
        Assert.Equal(HttpStatusCode.BadRequest, await SayAsync(wanda, project, "now", """{"day":"yesterday","hours":1}"""));
        Assert.Equal("""[{"person":"Wanda Coles","hours":3}]""", await WorkedAsync(project));
    }

    private async Task<string> WorkedAsync(Guid project) =>
        JsonNode.Parse(await demo.Api.Http.GetStringAsync($"/api/v1/projects/{project}/tasks/now/talk"))!["worked"]!.ToJsonString();

    [Fact]
    public async Task The_calendar_is_fetched_by_its_secret_until_it_is_withdrawn()
    {
        await demo.Api.CreateAsync(Plan);
        var wanda = demo.App.SignedIn("wanda");
        using var made = await TestApp.PostFormAsync(wanda, "/account", "/account?handler=Feed", []);
        var address = Feed().Match(await made.Content.ReadAsStringAsync()).Value;
        using var fetched = await demo.App.CreateClient().GetAsync(address);
        Assert.Equal("text/calendar", fetched.Content.Headers.ContentType!.MediaType);
        var text = await fetched.Content.ReadAsStringAsync();
        var lines = text.Replace("\r\n ", "", StringComparison.Ordinal).Split("\r\n");
        Assert.All(text.Split("\r\n"), line => Assert.True(Encoding.UTF8.GetByteCount(line) <= 75, line));
        Assert.Equal(["BEGIN:VCALENDAR", "END:VCALENDAR"], new[] { lines[0], lines.Last(l => l.Length > 0) });
        Assert.Contains("VERSION:2.0", lines);
        Assert.Contains(@"SUMMARY:Fold\, sails\; ""big"" ones", lines);
        var at = Array.IndexOf(lines, @"SUMMARY:Fold\, sails\; ""big"" ones");
        var begin = Array.LastIndexOf(lines, "BEGIN:VEVENT", at);
        var one = lines[begin..Array.IndexOf(lines, "END:VEVENT", at)];
        Assert.Contains("DTSTART;VALUE=DATE:20270513", one);
        Assert.Contains("DTEND;VALUE=DATE:20270518", one);
        Assert.Contains(one, l => l.StartsWith("UID:now.", StringComparison.Ordinal));
        Assert.Equal(
            lines.Count(l => l == "BEGIN:VEVENT"),
            lines.Where(l => l.StartsWith("UID:", StringComparison.Ordinal)).Distinct().Count()
        );
        Assert.DoesNotContain("Not hers", text, StringComparison.Ordinal);
        using var withdrawn = await TestApp.PostFormAsync(wanda, "/account", "/account?handler=Withdraw", []);
        using var gone = await demo.App.CreateClient().GetAsync(address);
        Assert.Equal(HttpStatusCode.NotFound, gone.StatusCode);
    }

    private static async Task<HttpStatusCode> SayAsync(HttpClient client, Guid project, string task, string body)
    {
        using var answer = await client.PutAsync(
            $"/api/v1/projects/{project}/tasks/{task}/hours",
            new StringContent(body, Encoding.UTF8, "application/json")
        );
        return answer.StatusCode;
    }

    private static async Task<string> PageAsync(HttpClient client, string path) =>
        WebUtility.HtmlDecode(await client.GetStringAsync(path));

    private static string Between(string text, string from, string to)
    {
        var start = text.IndexOf(from, StringComparison.Ordinal);
        Assert.True(start >= 0, from);
        return text[start..text.IndexOf(to, start, StringComparison.Ordinal)];
    }

    [GeneratedRegex("/feeds/[A-Za-z0-9_-]+\\.ics")]
    private static partial Regex Feed();
}
