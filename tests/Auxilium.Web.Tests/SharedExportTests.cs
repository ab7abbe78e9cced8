using System.IO.Compression;
using System.Net;
using System.Text;

namespace Auxilium.Web.Tests;

/// <summary>What a read-only link shows, as files: no more than the link, and only where it is allowed.</summary>
public class SharedExportTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private const string Plan = """
        {"format":"auxilium-plan/1", "project":{"name":"Pontoon", "start":"2027-05-17", "finishBy":"2027-06-11",
          "fields":[{"id":"code","name":"Gatecode"}]},
         "people":[{"id":"oona", "name":"Oona Reilly", "initials":"OR", "email":"oona@tidewell.example"}],
         "tasks":[{"id":"a", "name":"Sand the deck", "length":"2d", "note":"The gate code is 4711", "label":"Inside", "progress":0.37,
             "assignments":[{"person":"oona"}], "fields":{"code":"0815"}},
           {"id":"b", "name":"Paint", "length":"1d", "deadline":"2027-06-01"}], "links":[{"from":"a", "to":"b"}]}
        """;

    private static readonly string[] Secrets =
    [
        "Oona",
        "tidewell.example",
        "4711",
        "0815",
        "Gatecode",
        "Inside",
        "37%",
        "0.37",
        "Overdue",
        "Sets the finish",
        "deadline",
        "Imke",
    ];

    private async Task<string> LinkAsync(Guid project, params (string Name, string Value)[] fields)
    {
        var form = fields.Append(("For", "Harbour office")).ToDictionary(f => f.Item1, f => f.Item2);
        return await SharingTests.LinkAsync(demo.App.SignedIn(), project, form);
    }

    [Fact]
    public async Task It_is_there_only_where_the_coordinator_allows_it_and_goes_with_the_link()
    {
        var project = await demo.Api.CreateAsync(Plan);
        var anybody = demo.App.CreateClient();
        var closed = await LinkAsync(project);
        Assert.Equal(HttpStatusCode.NotFound, (await anybody.GetAsync($"{closed}/export?format=pdf")).StatusCode);
        Assert.DoesNotContain("data-command=\"export\"", await anybody.GetStringAsync(closed), StringComparison.Ordinal);

        var open = await LinkAsync(project, ("AllowsExport", "true"));
        Assert.Contains("data-command=\"export\"", await anybody.GetStringAsync(open), StringComparison.Ordinal);
        using var pdf = await anybody.GetAsync($"{open}/export?format=pdf");
        Assert.Equal("application/pdf", pdf.Content.Headers.ContentType!.MediaType);

        var guarded = await LinkAsync(project, ("AllowsExport", "true"), ("Password", "ebb and flow 9"));
        Assert.Equal(HttpStatusCode.NotFound, (await anybody.GetAsync($"{guarded}/export?format=pdf")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await anybody.GetAsync("/shared/nothing/export?format=pdf")).StatusCode);
    }

    [Theory]
    [InlineData("csv")]
    [InlineData("csv&columns=no,name,start,finish")]
    [InlineData("xlsx")]
    [InlineData("ics")]
    [InlineData("svg&screen=plan")]
    [InlineData("svg&screen=timeline")]
    [InlineData("svg&screen=month")]
    [InlineData("svg&screen=chains")]
    [InlineData("svg&screen=outline")]
    [InlineData("svg&screen=report")]
    public async Task Nothing_is_in_it_that_the_link_does_not_show(string query)
    {
        var project = await demo.Api.CreateAsync(Plan);
        var link = await LinkAsync(project, ("AllowsExport", "true"), ("columns", "length"));
        using var answer = await demo.App.CreateClient().GetAsync($"{link}/export?format={query}");
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        var text = TextOf(await answer.Content.ReadAsByteArrayAsync());
        Assert.Contains("Sand the deck", text, StringComparison.Ordinal);
        Assert.All(Secrets, secret => Assert.DoesNotContain(secret, Without(text), StringComparison.Ordinal));

        // All of it is in what somebody may have who works on the plan, so that the search would have found it.
        if (query.StartsWith("svg&screen=plan", StringComparison.Ordinal))
        {
            var whole = TextOf(
                await demo.Api.Http.GetByteArrayAsync(
                    $"/api/v1/projects/{project}/export?format={query}&columns=name,owner,note,label,own:code"
                )
            );
            Assert.All(Secrets[..1], secret => Assert.Contains(secret, whole, StringComparison.Ordinal));
            Assert.Contains("4711", whole, StringComparison.Ordinal);
            Assert.Contains("0815", whole, StringComparison.Ordinal);
        }
    }

    [Theory]
    [InlineData("format=document", "cannot be exported whole")]
    [InlineData("format=csv&columns=name,owner", "“columns” are some of no, name, length, start, finish.")]
    [InlineData("format=csv&columns=name,own:code", "“columns” are some of")]
    [InlineData("format=pdf&screen=load", "What people have to do is not shown by a link.")]
    public async Task What_a_link_does_not_show_cannot_be_asked_for(string query, string why)
    {
        var link = await LinkAsync(await demo.Api.CreateAsync(Plan), ("AllowsExport", "true"), ("columns", "length"));
        using var answer = await demo.App.CreateClient().GetAsync($"{link}/export?{query}");
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains(why, await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    /// <summary>Numbers of a drawing are places, not what is planned.</summary>
    private static string Without(string text) =>
        System.Text.RegularExpressions.Regex.Replace(
            text,
            " (x|y|d|width|height|fill|stroke|rx|ry|transform|id|clip-path|font-size|stroke-width|uid)=\"[^\"]*\""
                + "|UID:[^\\n]*|DTSTAMP[^\\n]*|/shared/\\S+",
            ""
        );

    private static string TextOf(byte[] content)
    {
        if (content is not [(byte)'P', (byte)'K', ..])
            return Encoding.UTF8.GetString(content);
        using var parts = new ZipArchive(new MemoryStream(content));
        var text = new StringBuilder();
        foreach (
            var part in parts.Entries.Where(part =>
                part.FullName.Contains("sheet", StringComparison.Ordinal) || part.FullName.Contains("String", StringComparison.Ordinal)
            )
        )
        {
            using var reader = new StreamReader(part.Open());
            text.Append(System.Text.RegularExpressions.Regex.Replace(reader.ReadToEnd(), "<[^>]*>", " "));
        }
        return text.ToString();
    }
}
