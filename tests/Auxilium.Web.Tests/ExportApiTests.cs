using System.Net;
using System.Text.Json.Nodes;
using Ical.Net;

namespace Auxilium.Web.Tests;

public class ExportApiTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private const string Fair = """
        {"format":"auxilium-plan/1", "project":{"name":"Fair: north / south", "start":"2027-05-10"},
         "tasks":[{"id":"a","name":"Choose the field","length":"3d"},{"id":"b","name":"Open","milestone":true},
          {"id":"c","name":"Tents","length":"2h"}],
         "links":[{"from":"a","to":"b"}]}
        """;

    private async Task<HttpResponseMessage> ExportAsync(string query) =>
        await demo.Api.Http.GetAsync($"/api/v1/projects/{await demo.Api.CreateAsync(Fair)}/export?{query}");

    [Theory]
    [InlineData("pdf", "application/pdf", ".pdf")]
    [InlineData("png", "image/png", ".png")]
    [InlineData("svg", "image/svg+xml", ".svg")]
    [InlineData("xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", ".xlsx")]
    [InlineData("csv", "text/csv", ".csv")]
    [InlineData("ics", "text/calendar", ".ics")]
    [InlineData("document", "application/vnd.auxilium.plan+json", ".json")]
    public async Task Each_format_is_a_file_named_after_its_project(string format, string type, string ending)
    {
        using var answer = await ExportAsync($"format={format}");

        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.Equal(type, answer.Content.Headers.ContentType!.MediaType);
        var about = answer.Content.Headers.ContentDisposition!;
        Assert.Equal("attachment", about.DispositionType);
        Assert.EndsWith(ending, about.FileNameStar ?? about.FileName!.Trim('"'), StringComparison.Ordinal);
        Assert.DoesNotContain('/', about.FileNameStar ?? about.FileName!);
        Assert.True(answer.Headers.CacheControl!.NoStore);
        Assert.NotEmpty(await answer.Content.ReadAsByteArrayAsync());
    }

    [Fact]
    public async Task Rows_columns_and_separator_are_as_asked_for()
    {
        using var answer = await ExportAsync("format=csv&rows=c,a&columns=name,length&separator=semicolon&marked=true");

        var text = System.Text.Encoding.UTF8.GetString(await answer.Content.ReadAsByteArrayAsync());
        Assert.Equal("\uFEFFTask;Days\r\nChoose the field;3\r\nTents;0.25\r\n", text);
    }

    [Fact]
    public async Task Rows_from_one_to_another_are_named_by_these_two()
    {
        using var some = await ExportAsync("format=csv&rows=b..c&columns=name");
        Assert.Equal("Task\r\nOpen\r\nTents\r\n", await some.Content.ReadAsStringAsync());
        using var all = await ExportAsync("format=csv&rows=a,b..b,c&columns=name");
        Assert.Equal("Task\r\nChoose the field\r\nOpen\r\nTents\r\n", await all.Content.ReadAsStringAsync());
    }

    [Theory]
    [InlineData("plan")]
    [InlineData("timeline")]
    [InlineData("month")]
    [InlineData("chains")]
    [InlineData("outline")]
    [InlineData("report")]
    [InlineData("load")]
    public async Task Every_screen_is_drawn_in_each_format_and_says_how_many_pages_it_has(string screen)
    {
        foreach (var format in new[] { "pdf", "png", "svg" })
        {
            using var answer = await ExportAsync($"format={format}&screen={screen}&fit=pages&paper=a3&title=Our%20fair");

            Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
            Assert.Equal("1", answer.Headers.GetValues("X-Pages").Single());
            Assert.Equal("8.3", answer.Headers.GetValues("X-Letters").Single());
        }
        using var svg = await ExportAsync($"format=svg&screen={screen}&title=Our%20fair");
        var drawn = await svg.Content.ReadAsStringAsync();
        Assert.Contains("Our fair", drawn, StringComparison.Ordinal);
        Assert.Contains(screen == "load" ? "Hours by week" : "Open", drawn, StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_would_be_too_large_is_refused_with_its_size()
    {
        var tasks = string.Join(",", Enumerable.Range(0, 1_200).Select(i => $$"""{"id":"t{{i}}","name":"Task {{i}}"}"""));
        var project = await demo.Api.CreateAsync(
            $$"""{"format":"auxilium-plan/1","project":{"name":"Long","start":"2027-05-10"},"tasks":[{{tasks}}]}"""
        );
        foreach (
            var (query, why) in new[] { ("format=png&size=4", "pixels: choose a smaller size"), ("format=pdf&fit=one", "metres long") }
        )
        {
            using var answer = await demo.Api.Http.GetAsync($"/api/v1/projects/{project}/export?{query}");
            Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
            Assert.Contains(why, await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task A_calendar_has_whole_days_as_days_and_hours_as_hours()
    {
        using var answer = await ExportAsync("format=ics");

        var events = Calendar.Load(await answer.Content.ReadAsStringAsync())!.Events.ToDictionary(e => e.Summary!);
        Assert.Equal(3, events.Count);
        Assert.Equal((new DateOnly(2027, 5, 13), false), (events["Choose the field"].End!.Date, events["Choose the field"].End!.HasTime));
        Assert.True(events["Tents"].Start!.HasTime);
    }

    [Fact]
    public async Task A_plan_document_makes_the_same_plan_again()
    {
        var project = await demo.Api.CreateAsync(Fair);
        var document = await demo.Api.Http.GetStringAsync($"/api/v1/projects/{project}/export?format=document");
        Assert.Equal(await demo.Api.PlanAsync(project), document);

        var again = await demo.Api.CreateAsync(document);
        Assert.Equal(
            JsonNode.Parse(document)!["tasks"]!.ToJsonString(),
            JsonNode.Parse(await demo.Api.PlanAsync(again))!["tasks"]!.ToJsonString()
        );
    }

    [Theory]
    [InlineData("", "“format” is pdf, png, svg, xlsx, csv, ics, document.")]
    [InlineData("format=doc", "“format” is pdf, png, svg, xlsx, csv, ics, document.")]
    [InlineData("format=pdf&screen=wall", "“screen” is plan, timeline, month, chains, outline, load, report.")]
    [InlineData("format=pdf&paper=b5", "“paper” is a4, a3,")]
    [InlineData("format=pdf&fit=all", "“fit” is page, pages or one.")]
    [InlineData("format=pdf&colours=red", "“colours” is colour or ink.")]
    [InlineData("format=pdf&from=2027-05-20&to=2027-05-10", "The last day, 2027-05-10, is before the first")]
    [InlineData("format=pdf&from=soon", "“soon” is not a day")]
    [InlineData("format=pdf&weekStart=tue", "“weekStart” is mon, sat or sun.")]
    [InlineData("format=png&size=9", "“size” is from 0.25 to 4")]
    [InlineData("format=png&page=2", "There is one page only.")]
    [InlineData("format=csv&separator=dot", "comma, semicolon or tab")]
    [InlineData("format=csv&columns=name,shoes", "“columns” are some of no, name")]
    [InlineData("format=csv&rows=gone", "None of these rows")]
    public async Task What_cannot_be_made_is_refused_with_what_would_be_right(string query, string why)
    {
        using var answer = await ExportAsync(query);

        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains(
            why,
            JsonNode.Parse(await answer.Content.ReadAsStringAsync())!["detail"]!.GetValue<string>(),
            StringComparison.Ordinal
        );
    }
}
