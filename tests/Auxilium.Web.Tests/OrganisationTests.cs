using System.Net;
using System.Net.Http.Headers;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;

namespace Auxilium.Web.Tests;

/// <summary>What the organisation says of itself holds wherever it is asked for.</summary>
public partial class OrganisationTests(DemoApp shared) : IClassFixture<DemoApp>
{
    /// <summary>A PNG of one dot.</summary>
    private static readonly byte[] Dot = Convert.FromBase64String(
        "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="
    );

    [Fact]
    public async Task Currency_week_and_working_days_are_used_wherever_they_matter()
    {
        using var demo = new DemoApp();
        using var client = demo.App.SignedIn();
        Assert.Contains("data-week=\"mon\"", await PlanPageAsync(demo, client), StringComparison.Ordinal);
        using var saved = await TestApp.PostFormAsync(
            client,
            "/organisation",
            "/organisation",
            new()
            {
                ["Name"] = "Tidewell Boathouse Trust",
                ["TimeZone"] = "Europe/London",
                ["Currency"] = "gbp",
                ["FirstWeekday"] = "Sunday",
                ["Calendar"] = "four-days",
                ["Holidays"] = "england",
            }
        );
        var page = WebUtility.HtmlDecode(await saved.Content.ReadAsStringAsync());
        Assert.Contains(
            "the currency GBP, weeks that start on Sunday and the working days of new projects.",
            page,
            StringComparison.Ordinal
        );

        Assert.Contains("Rates, in GBP", await client.GetStringAsync("/people/tomas"), StringComparison.Ordinal);
        Assert.Contains("data-week=\"sun\"", await PlanPageAsync(demo, client), StringComparison.Ordinal);
        Assert.Contains("Sunday 9 May to Saturday 15 May", await client.GetStringAsync("/my-week"), StringComparison.Ordinal);

        using var made = await TestApp.PostFormAsync(
            client,
            "/projects/new",
            "/projects/new",
            new()
            {
                ["Name"] = "Winter store",
                ["Start"] = "24 May 2027",
                ["Coordinator"] = "imke",
            }
        );
        var id = ProjectId().Match(await made.Content.ReadAsStringAsync()).Groups["id"].Value;
        var plan = JsonNode.Parse(await client.GetStringAsync($"/api/v1/projects/{id}/plan"))!;
        var calendar = plan["calendars"]![0]!;
        Assert.Equal("Four-day week, holidays of England and Wales", calendar["name"]!.GetValue<string>());
        Assert.Equal(calendar["id"]!.GetValue<string>(), plan["project"]!["calendar"]!.GetValue<string>());
        Assert.Contains(calendar["exceptions"]!.AsArray(), e => e!["from"]!.GetValue<string>() == "2027-05-31");

        using var same = await TestApp.PostFormAsync(
            client,
            "/organisation",
            "/organisation",
            new() { ["Name"] = "Tidewell Boathouse Trust", ["TimeZone"] = "Europe/London" }
        );
        Assert.Contains("Nothing was different", await same.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("Currency", "Euro", "A currency is three letters, as banks write it: EUR, GBP or USD.")]
    [InlineData("FirstWeekday", "Tuesday", "Choose Monday, Saturday or Sunday.")]
    [InlineData("Calendar", "moon", "Choose one of these working weeks.")]
    [InlineData("Holidays", "atlantis", "Choose one of these countries, or none.")]
    public async Task What_cannot_be_is_told_at_its_field_and_nothing_typed_is_lost(string field, string value, string problem)
    {
        using var client = shared.App.SignedIn();
        var form = new Dictionary<string, string>
        {
            ["Name"] = "Renamed",
            ["TimeZone"] = "Europe/London",
            [field] = value,
        };
        using var answer = await TestApp.PostFormAsync(client, "/organisation", "/organisation", form);
        var page = WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
        Assert.Contains(problem, page, StringComparison.Ordinal);
        Assert.Contains("value=\"Renamed\"", page, StringComparison.Ordinal);
        Assert.DoesNotContain("Renamed", await client.GetStringAsync("/projects"), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("12 May", "2027-05-12", "12 May 2027")]
    [InlineData("today", "2027-05-13", "13 May 2027")]
    [InlineData("2028-02-29", "2028-02-29", "29 Feb 2028")]
    [InlineData("30 Dec&near=2029-01-02", "2028-12-30", "30 Dec 2028")]
    public async Task A_day_is_read_as_people_type_it(string typed, string day, string text)
    {
        using var stranger = shared.App.CreateClient();
        var read = JsonNode.Parse(await stranger.GetStringAsync($"/api/v1/days?text={typed}"))!;
        Assert.Equal((day, text), (read["day"]!.GetValue<string>(), read["text"]!.GetValue<string>()));
        using var wrong = await stranger.GetAsync("/api/v1/days?text=5/6");
        Assert.Equal(HttpStatusCode.BadRequest, wrong.StatusCode);
        Assert.Contains("could be read two ways", await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        using var client = shared.App.SignedIn();
        var week = WebUtility.HtmlDecode(await client.GetStringAsync($"/my-week?from={typed.Split('&')[0]}"));
        Assert.Contains("First day", week, StringComparison.Ordinal);
        Assert.Contains("value=\"someday\"", await client.GetStringAsync("/my-week?from=someday"), StringComparison.Ordinal);
        Assert.Contains(
            "“someday” is not a date",
            WebUtility.HtmlDecode(await client.GetStringAsync("/my-week?from=someday")),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_logo_is_shown_to_everybody_once_it_is_a_picture()
    {
        using var demo = new DemoApp();
        using var client = demo.App.SignedIn();
        using var stranger = demo.App.CreateClient();
        Assert.Equal(HttpStatusCode.NotFound, (await stranger.GetAsync("/logo")).StatusCode);
        Assert.Contains("This is no picture", await SendAsync("<svg/>"u8.ToArray()), StringComparison.Ordinal);
        Assert.Contains("use one of at most 300 kB", await SendAsync([.. Dot, .. new byte[301 * 1024]]), StringComparison.Ordinal);
        Assert.Contains("Saved: a logo.", await SendAsync(Dot), StringComparison.Ordinal);
        using var logo = await stranger.GetAsync("/logo");
        Assert.Equal(
            ("image/png", Dot.Length),
            (logo.Content.Headers.ContentType!.MediaType, (await logo.Content.ReadAsByteArrayAsync()).Length)
        );
        Assert.Contains("masthead-logo", await stranger.GetStringAsync("/sign-in"), StringComparison.Ordinal);
        var projects = JsonNode.Parse(await client.GetStringAsync("/api/v1/projects"))!.AsArray();
        var report = await client.GetStringAsync($"/projects/{projects[0]!["id"]!.GetValue<Guid>()}/report");
        Assert.Contains("report-logo", report, StringComparison.Ordinal);
        Assert.Contains("Saved: no logo.", await SendAsync(null), StringComparison.Ordinal);
        Assert.DoesNotContain("masthead-logo", await stranger.GetStringAsync("/sign-in"), StringComparison.Ordinal);

        async Task<string> SendAsync(byte[]? picture)
        {
            var form = new MultipartFormDataContent
            {
                { new StringContent(TokenIn(await client.GetStringAsync("/organisation"))), "__RequestVerificationToken" },
                { new StringContent("Tidewell Boathouse Trust"), "Name" },
                { new StringContent("Europe/Dublin"), "TimeZone" },
            };
            if (picture is null)
                form.Add(new StringContent("true"), "NoLogo");
            else
            {
                var file = new ByteArrayContent(picture);
                file.Headers.ContentType = new MediaTypeHeaderValue("image/png");
                form.Add(file, "Logo", "logo.png");
            }
            using var answer = await client.PostAsync("/organisation", form);
            return WebUtility
                .HtmlDecode(await answer.Content.ReadAsStringAsync())
                .Replace("the time zone Europe/Dublin and ", "", StringComparison.Ordinal);
        }
    }

    private static async Task<string> PlanPageAsync(DemoApp demo, HttpClient client)
    {
        var projects = JsonNode.Parse(await client.GetStringAsync("/api/v1/projects"))!.AsArray();
        return await client.GetStringAsync($"/projects/{projects[0]!["id"]!.GetValue<Guid>()}");
    }

    private static string TokenIn(string page) => Token().Match(page).Groups["token"].Value;

    [GeneratedRegex(""" name="__RequestVerificationToken" type="hidden" value="(?<token>[^"]+)" """)]
    private static partial Regex Token();

    [GeneratedRegex(""" data-project="(?<id>[^"]+)" """)]
    private static partial Regex ProjectId();
}
