using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Auxilium.Storage;
using Auxilium.Storage.Access;
using Auxilium.Storage.Notices;
using Auxilium.Storage.Rows;
using Auxilium.Web.Api;
using Microsoft.AspNetCore.Routing;
using Microsoft.AspNetCore.Routing.Patterns;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

/// <summary>
/// Words that occur nowhere else are planted into all that not everybody may see. Then everybody asks for every page and every answer
/// that is read, and each word must be where it may be and nowhere else.
/// </summary>
public sealed partial class LeakTests(LeakApp app) : IClassFixture<LeakApp>
{
    /// <summary>
    /// What each role may see. Roles in turn: nobody, somebody without a part, a viewer, a member, a coordinator, an organiser; then a
    /// link that shows nothing more, and one that shows all it can.
    /// </summary>
    [Theory]
    [InlineData("plantedproject", "no no yes yes yes yes no no")]
    [InlineData("plantedtask", "no no yes yes yes yes yes yes")]
    [InlineData("plantednote", "no no yes yes yes yes no no")]
    [InlineData("plantedcomment", "no no yes yes yes yes no no")]
    [InlineData("plantedlabel", "no no yes yes yes yes no yes")]
    [InlineData("plantedcalendar", "no no yes yes yes yes no no")]
    [InlineData("plantedholiday", "no no yes yes yes yes no yes")]
    [InlineData("plantedperiod", "no no yes yes yes yes no yes")]
    [InlineData("plantedowner", "no yes yes yes yes yes no yes")]
    [InlineData("plantedsecretreason", "no no no no yes yes no no")]
    [InlineData("77731.55", "no no no no no yes no no")]
    [InlineData("plantedelsewhere", "no no no no no yes no no")]
    [InlineData("88123.4567", "no no no no yes yes no no")]
    [InlineData("88999.77", "no no no no yes yes no no")]
    [InlineData("87654.32", "no no no no yes yes no no")]
    [InlineData("86543.21", "no no no no yes yes no no")]
    [InlineData("plantedsupplier", "no no no no yes yes no no")]
    [InlineData("plantedreceipt", "no no no no yes yes no no")]
    [InlineData("85210.37", "no no no no yes yes no no")]
    [InlineData("84321.98", "no no no no no yes no no")]
    [InlineData("€", "no no no no yes yes no no")]
    [InlineData("plantednotice", "no no no no no no no no")]
    [InlineData("2029-11-20", "no no yes yes yes yes no no")]
    [InlineData("1067091420", "no no yes yes yes yes no yes")]
    [InlineData("1067383740", "no no yes yes yes yes no yes")]
    public void Each_word_is_seen_by_those_it_is_for(string word, string expected)
    {
        bool Holds((string Path, string Text) answer) => answer.Text.Contains(word, StringComparison.OrdinalIgnoreCase);
        var seen = app.Answers.Select(answers => answers.Any(Holds)).ToList();
        var where = string.Join(
            "; ",
            app.Answers.Select((answers, i) => $"{i}: {string.Join(" ", answers.Where(Holds).Select(a => a.Path).Take(6))}")
        );
        Assert.True(
            expected == string.Join(' ', seen.Select(s => s ? "yes" : "no")),
            $"{word}: {string.Join(' ', seen.Select(s => s ? "yes" : "no"))} instead of {expected}. {where}"
        );
    }
}

/// <summary>A demo with planted words, and what each role was answered to everything there is to ask.</summary>
public sealed partial class LeakApp : IDisposable
{
    private readonly DemoApp _demo = new();

    private string _receipt = "";

    public LeakApp() => Answers = Task.Run(AskAsync).GetAwaiter().GetResult();

    public IReadOnlyList<IReadOnlyList<(string Path, string Text)>> Answers { get; }

    public void Dispose() => _demo.Dispose();

    private async Task<IReadOnlyList<IReadOnlyList<(string, string)>>> AskAsync()
    {
        await _demo.InDatabaseAsync(db =>
            db.People.Add(
                new PersonRow
                {
                    Id = "otto",
                    Name = "Otto Plantedowner",
                    Initials = "OP",
                    HourlyRate = 77731.55m,
                    LaterRates = """[{"From":"2031-01-01","Hour":84321.98,"Overtime":null,"PerUse":0}]""",
                }
            )
        );
        var project = await _demo.Api.CreateAsync(
            """
            {"format":"auxilium-plan/1", "project":{"name":"Plantedproject", "start":"2027-05-17", "finishBy":"2030-06-11",
              "calendar":"own", "note":"x"},
             "calendars":[{"id":"own", "name":"Plantedcalendar", "week":{"mon":["09:00-17:00"], "tue":["09:00-17:00"],
               "wed":["09:00-17:00"]}, "exceptions":[{"from":"2027-05-18", "to":"2027-05-18", "name":"Plantedholiday", "work":[]}]}],
             "people":[{"id":"otto","name":"Otto Plantedowner","initials":"OP"}],
             "tasks":[{"id":"a", "name":"Plantedtask", "length":"2d", "note":"Plantednote", "label":"Plantedlabel",
               "deadline":"2029-11-20", "assignments":[{"person":"otto"}]}]}
            """
        );
        await _demo.Api.EditAsync(
            project,
            """{"type":"setPeriods","periods":[{"name":"Plantedperiod","from":"2027-05-24","to":"2027-05-25"}]}""",
            1
        );
        await _demo.Api.PostAsync($"/api/v1/projects/{project}/tasks/a/comments", """{"text":"Plantedcomment"}""");
        await _demo.Api.PostAsync(
            $"/api/v1/projects/{project}/money/edits",
            $$$"""
            {"id":"{{{Guid.NewGuid()}}}","baseVersion":0,"edit":{"type":"together","edits":[
              {"type":"setBudget","task":null,"amount":88999.77},{"type":"setBudget","task":"a","amount":87654.32},
              {"type":"setItem","task":"a","item":{"id":"x","name":"Paper","price":88123.4567,"supplier":"Plantedsupplier",
                "payments":[{"day":"2027-05-12","amount":86543.21}]}}]}}
            """
        );
        using (var receipt = new StringContent("85210.37 paid"))
        using (var added = await _demo.Api.Http.PostAsync($"/api/v1/projects/{project}/money/receipts?name=Plantedreceipt.txt", receipt))
            _receipt = (string)JsonNode.Parse(await added.Content.ReadAsStringAsync())!["id"]!;
        await _demo.Api.EditAsync(project, """{"type":"takeBaseline","name":"Agreed"}""", 2);
        var elsewhere = await _demo.Api.CreateAsync(
            """
            {"format":"auxilium-plan/1", "project":{"name":"Plantedelsewhere", "start":"2027-05-17"}, "people":[{"id":"otto",
              "name":"Otto Plantedowner", "initials":"OP"}],
             "tasks":[{"id":"a","name":"Plantedelsewhere task","length":"2d","assignments":[{"person":"otto"}]}]}
            """
        );
        var roles = _demo.App.Services.GetRequiredService<ProjectRoles>();
        await roles.GiveAsync(project, "bert", ProjectRole.Viewer);
        await roles.GiveAsync(project, "oona", ProjectRole.Member);
        await roles.GiveAsync(project, "jonas", ProjectRole.Coordinator);
        using (
            await TestApp.PostFormAsync(
                _demo.App.SignedIn("jonas"),
                "/people/otto",
                "/people/otto?handler=Away",
                new() { ["From"] = "31 May", ["Note"] = "Plantedsecretreason" }
            )
        ) { }
        // Told when they had a part in it, which they have no more; and queued for the daily mail.
        await _demo.InDatabaseAsync(db =>
            db.Notices.Add(
                new NoticeRow
                {
                    PersonId = "wanda",
                    At = DateTime.UtcNow,
                    Kind = NoticeKind.Moved,
                    ProjectId = elsewhere,
                    Text = "Plantednotice moved.",
                    Once = "planted",
                    ForDigest = true,
                }
            )
        );
        await _demo.App.Services.GetRequiredService<NoticeBook>().DigestAsync(path => "http://here" + path);
        await using (var db = await _demo.App.Services.GetRequiredService<IDbContextFactory<AuxiliumDb>>().CreateDbContextAsync())
            Assert.False(await db.Mails.AnyAsync(m => m.Body.Contains("Plantednotice")));

        var heard = await ListenAsync(project);
        var answers = new List<IReadOnlyList<(string, string)>>();
        foreach (var person in new[] { null, "wanda", "bert", "oona", "jonas", "imke" })
        {
            using var client = person is null ? _demo.App.CreateClient() : _demo.App.SignedIn(person);
            answers.Add([
                .. await ReadAsync(client, [.. Paths(project, elsewhere), .. Files(project)]),
                .. person is not null && heard.TryGetValue(person, out var told) ? told.Select(text => ("live", text)) : [],
            ]);
        }
        foreach (var columns in new[] { [], Pages.Sharing.SharedColumns.All.Select(c => c.Column).ToArray() })
        {
            var secret = await _demo
                .App.Services.GetRequiredService<ShareLinks>()
                .MakeAsync(project, "imke", "Harbour", null, null, columns);
            answers.Add(
                await ReadAsync(
                    _demo.App.CreateClient(),
                    new[] { "", "/lanes", "/month", "/chains", "/report" }.Select(look => $"/shared/{secret}{look}")
                )
            );
        }
        // The name of what is opened is announced with it.
        return [.. answers.Select((list, i) => i < 6 ? list : [.. list.Select(a => (a.Item1, ProjectName().Replace(a.Item2, "")))])];
    }

    /// <summary>Every route that is read, of the project and of the one that is not theirs.</summary>
    private IEnumerable<string> Paths(Guid project, Guid elsewhere) =>
        from endpoint in _demo.App.Services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>()
        let methods = endpoint.Metadata.GetMetadata<HttpMethodMetadata>()?.HttpMethods
        where methods is null || methods.Contains("GET")
        let route = "/" + endpoint.RoutePattern.RawText!.TrimStart('/')
        where
            !route.Contains("**", StringComparison.Ordinal)
            && !Path.HasExtension(route)
            && !route.StartsWith("/live", StringComparison.Ordinal)
            && !route.StartsWith("/shared", StringComparison.Ordinal)
        from id in new[] { project, elsewhere }
        select Fill(endpoint.RoutePattern, id);

    /// <summary>Every file that is made of the project, with its money and without.</summary>
    private static IEnumerable<string> Files(Guid project) =>
        from format in ExportFormat.All
        from screen in format.IsDrawn ? ExportScreen.All.Select(screen => screen.Name) : ["plan"]
        // What a PDF or PNG says, the SVG of the same drawing says too.
        where format.Name is not ("pdf" or "png")
        from money in new[] { "", "&money=true" }
        select $"/api/v1/projects/{project}/export?format={format.Name}&screen={screen}{money}";

    /// <summary>What those who have the plan open are told while what it costs is changed, by a change of money and of the plan.</summary>
    private async Task<Dictionary<string, IReadOnlyCollection<string>>> ListenAsync(Guid project)
    {
        const int version = 3;
        var heard = new Dictionary<string, IReadOnlyCollection<string>>();
        var listeners = new List<(string Person, Listening Page)>();
        foreach (var person in new[] { "bert", "oona", "jonas", "imke" })
            listeners.Add((person, await LiveServers.JoinAsync(_demo, person, project, version)));
        await _demo.Api.PostAsync(
            $"/api/v1/projects/{project}/money/edits",
            $$$"""{"id":"{{{Guid.NewGuid()}}}","baseVersion":2,"edit":{"type":"setBudget","task":null,"amount":88999.77}}"""
        );
        foreach (var (_, page) in listeners)
            await page.NextAsync("money");
        await _demo.Api.EditAsync(project, """{"type":"setLength","task":"a","length":"3d"}""", version);
        foreach (var (person, page) in listeners)
        {
            await page.NextAsync("changed");
            await page.DisposeAsync();
            heard[person] = page.Heard;
        }
        return heard;
    }

    private string Fill(RoutePattern pattern, Guid project) =>
        "/"
        + string.Join(
                '/',
                pattern.PathSegments.Select(segment =>
                    string.Concat(
                        segment.Parts.Select(part =>
                            part switch
                            {
                                RoutePatternLiteralPart literal => literal.Content,
                                RoutePatternSeparatorPart separator => separator.Content,
                                RoutePatternParameterPart { Name: "id" } => project.ToString(),
                                RoutePatternParameterPart { Name: "task" } => "a",
                                RoutePatternParameterPart { Name: "person" } => "otto",
                                RoutePatternParameterPart { Name: "file" } => _receipt,
                                RoutePatternParameterPart { Name: "screen" } => "month",
                                RoutePatternParameterPart { Name: "set" } => "ireland",
                                RoutePatternParameterPart { IsOptional: true } => "",
                                _ => Guid.Empty.ToString(),
                            }
                        )
                    )
                )
            )
            .TrimEnd('/')
        + (pattern.RawText!.EndsWith("forecast", StringComparison.Ordinal) ? "?runs=10" : "");

    private static async Task<IReadOnlyList<(string, string)>> ReadAsync(HttpClient client, IEnumerable<string> paths)
    {
        var answers = new List<(string, string)>();
        foreach (var path in paths.Distinct())
        {
            using var answer = await client.GetAsync(path);
            var content = await answer.Content.ReadAsByteArrayAsync();
            answers.Add(
                (path, content.AsSpan().StartsWith("PK"u8) ? Unpacked(content) : WebUtility.HtmlDecode(Encoding.UTF8.GetString(content)))
            );
        }
        return answers;
    }

    /// <summary>The texts of a spreadsheet, of all its parts.</summary>
    private static string Unpacked(byte[] content)
    {
        using var parts = new ZipArchive(new MemoryStream(content));
        var texts = parts.Entries.Select(part =>
        {
            using var reader = new StreamReader(part.Open());
            return reader.ReadToEnd();
        });
        return string.Join('\n', texts);
    }

    [GeneratedRegex("plantedproject", RegexOptions.IgnoreCase)]
    private static partial Regex ProjectName();
}
