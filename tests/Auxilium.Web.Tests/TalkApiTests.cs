using System.IO.Compression;
using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;

namespace Auxilium.Web.Tests;

public class TalkApiTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private static readonly byte[] Png = [0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A, 1, 2, 3];

    [Fact]
    public async Task Comments_stand_in_their_order_and_come_back_with_their_task()
    {
        var project = await demo.Api.NewChainAsync();
        await SayAsync(project, "a", "Ask <b>twice</b>\r\nand once more");
        var said = await SayAsync(project, "a", "Done");
        Assert.Equal(["Ask <b>twice</b>\nand once more", "Done"], said.Body["comments"]!.AsArray().Select(c => (string)c!["text"]!));
        await demo.Api.EditAsync(project, """{"type":"removeTasks","tasks":["a"]}""", 1);
        Assert.Equal(HttpStatusCode.NotFound, (await demo.Api.Http.GetAsync($"/api/v1/projects/{project}/tasks/a/talk")).StatusCode);
        await demo.Api.TakeBackAsync(project);
        var first = (long)said.Body["comments"]![0]!["id"]!;
        using var gone = await demo.Api.Http.DeleteAsync($"/api/v1/projects/{project}/tasks/a/comments/{first}");
        Assert.Equal(
            ["Done"],
            JsonNode.Parse(await gone.Content.ReadAsStringAsync())!["comments"]!.AsArray().Select(c => (string)c!["text"]!)
        );
        using var again = await demo.Api.Http.DeleteAsync($"/api/v1/projects/{project}/tasks/a/comments/{first}");
        Assert.Equal(HttpStatusCode.NotFound, again.StatusCode);
    }

    [Theory]
    [InlineData("""{"text":"  "}""", 400)]
    [InlineData("""{"text":"\u0000"}""", 400)]
    [InlineData("""{"text":"\ud800"}""", 400)]
    [InlineData("""{"text":7}""", 400)]
    [InlineData("[]", 400)]
    public async Task A_comment_that_is_none_says_what_would_be(string body, int status)
    {
        var answer = await demo.Api.PostAsync($"/api/v1/projects/{await demo.Api.NewChainAsync()}/tasks/a/comments", body);
        Assert.Equal(status, (int)answer.Status);
        Assert.EndsWith(".", answer.Detail, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_file_is_what_its_content_says_and_is_never_run()
    {
        var project = await demo.Api.NewChainAsync();
        await AddAsync(project, "../../etc/Permit.png", Png);
        var added = await AddAsync(project, "notes.txt", "<script>alert(1)</script>"u8.ToArray());
        Assert.Equal(
            ["notes.txt text/plain", "Permit.png image/png"],
            added.Body["files"]!.AsArray().Select(f => $"{f!["name"]} {f["type"]}")
        );
        foreach (var (file, disposition) in added.Body["files"]!.AsArray().Zip(new[] { "attachment", "inline" }))
        {
            using var got = await demo.Api.Http.GetAsync((string)file!["address"]!);
            Assert.Equal(disposition, got.Content.Headers.ContentDisposition!.DispositionType);
            Assert.StartsWith(
                "sandbox; default-src 'none'",
                got.Headers.GetValues("Content-Security-Policy").Single(),
                StringComparison.Ordinal
            );
            Assert.Equal("nosniff", got.Headers.GetValues("X-Content-Type-Options").Single());
        }
        var other = await demo.Api.NewChainAsync();
        using var elsewhere = await demo.Api.Http.GetAsync(
            ((string)added.Body["files"]![0]!["address"]!).Replace(project.ToString(), other.ToString(), StringComparison.Ordinal)
        );
        Assert.Equal(HttpStatusCode.NotFound, elsewhere.StatusCode);
        using var removed = await demo.Api.Http.DeleteAsync($"/api/v1/projects/{project}/tasks/a/files/{added.Body["files"]![0]!["id"]}");
        Assert.Single(JsonNode.Parse(await removed.Content.ReadAsStringAsync())!["files"]!.AsArray());
    }

    [Fact]
    public async Task Packed_documents_are_looked_into()
    {
        var project = await demo.Api.NewChainAsync();
        Assert.Equal(HttpStatusCode.OK, (await AddAsync(project, "plan.docx", Zip("word/document.xml"))).Status);
        Assert.Equal(HttpStatusCode.BadRequest, (await AddAsync(project, "plan.xlsx", Zip("word/document.xml"))).Status);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await AddAsync(project, "plan.docx", Zip("word/document.xml", "word/vbaProject.bin"))).Status
        );
        Assert.Equal(HttpStatusCode.BadRequest, (await AddAsync(project, "plan.zip", Zip("anything"))).Status);
        Assert.Equal(HttpStatusCode.BadRequest, (await AddAsync(project, "plan.docx", "PK\u0003\u0004 and no more"u8.ToArray())).Status);
    }

    public static TheoryData<string, byte[]> Refused =>
        new()
        {
            { "picture.png", "GIF89a and so on"u8.ToArray() },
            { "picture.svg", "<svg onload=alert(1)>"u8.ToArray() },
            { "page.html", "<h1>Page</h1>"u8.ToArray() },
            { "run.exe", [(byte)'M', (byte)'Z', 0, 0] },
            { "notes.txt", [(byte)'a', 0, (byte)'b'] },
            { "notes.txt", [0xFF, 0xFE, 0xFD] },
            { "notes.txt", [] },
            { "...", Png },
            { "noending", Png },
        };

    [Theory]
    [MemberData(nameof(Refused))]
    public async Task A_file_that_cannot_be_kept_says_what_can(string name, byte[] content)
    {
        var answer = await AddAsync(await demo.Api.NewChainAsync(), name, content);
        Assert.Equal(HttpStatusCode.BadRequest, answer.Status);
        Assert.EndsWith(".", answer.Detail, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_file_over_the_limit_is_refused()
    {
        var large = new byte[10 * 1024 * 1024 + 1];
        Png.CopyTo(large, 0);
        Assert.Equal(HttpStatusCode.RequestEntityTooLarge, (await AddAsync(await demo.Api.NewChainAsync(), "large.png", large)).Status);
    }

    private Task<Answer> SayAsync(Guid project, string task, string text) =>
        demo.Api.PostAsync($"/api/v1/projects/{project}/tasks/{task}/comments", $$"""{"text":{{ApiClient.Quote(text)}}}""");

    private async Task<Answer> AddAsync(Guid project, string name, byte[] file)
    {
        using var content = new ByteArrayContent(file);
        content.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
        using var response = await demo.Api.Http.PostAsync(
            $"/api/v1/projects/{project}/tasks/a/files?name={Uri.EscapeDataString(name)}",
            content
        );
        return new Answer(response.StatusCode, JsonNode.Parse(await response.Content.ReadAsStringAsync())!);
    }

    private static byte[] Zip(params string[] entries)
    {
        using var stream = new MemoryStream();
        using (var archive = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
            foreach (var entry in entries)
                using (var writer = new StreamWriter(archive.CreateEntry(entry).Open(), Encoding.UTF8))
                    writer.Write("<x/>");
        return stream.ToArray();
    }
}
