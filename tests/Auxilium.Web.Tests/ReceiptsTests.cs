using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using Auxilium.Storage;
using Auxilium.Storage.Access;
using Auxilium.Storage.Money;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

/// <summary>Receipts of payments as files.</summary>
public class ReceiptsTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private const string Paid = """
        {"format":"auxilium-plan/1", "project":{"name":"Quay fair","start":"2027-05-10"},
         "tasks":[{"id":"a","name":"Fence","length":"2d","items":[{"id":"wood","name":"Planks","price":125,"payments":[
           {"day":"2027-05-11","amount":50,"receipt":"R-1"},{"day":"2027-05-12","amount":25,"receipt":"r-1.PDF"},
           {"day":"2027-05-13","amount":10}]}]}]}
        """;

    private static readonly byte[] Pdf = "%PDF-1.7 one"u8.ToArray();

    private async Task<(HttpStatusCode Status, JsonNode Body)> AddAsync(Guid project, string named, byte[] content)
    {
        using var body = new ByteArrayContent(content);
        using var answer = await demo.Api.Http.PostAsync($"/api/v1/projects/{project}/money/receipts?{named}", body);
        return (answer.StatusCode, JsonNode.Parse(await answer.Content.ReadAsStringAsync())!);
    }

    private async Task<JsonNode> AskAsync(Guid project, string path = "/money/receipts") =>
        JsonNode.Parse(await demo.Api.Http.GetStringAsync($"/api/v1/projects/{project}{path}"))!;

    private static string Names(JsonNode answer) =>
        string.Join("; ", answer["files"]!.AsArray().Select(file => $"{file!["name"]}: {string.Join(", ", file["proves"]!.AsArray())}"));

    [Fact]
    public async Task A_receipt_belongs_to_the_payments_that_name_it_and_is_handed_out_as_it_came()
    {
        var project = await demo.Api.CreateAsync(Paid);
        var (status, added) = await AddAsync(project, "name=scan.pdf&receipt=R-1", Pdf);
        Assert.Equal((HttpStatusCode.OK, "R-1.pdf", "R-1"), (status, (string?)added["name"], (string?)added["proves"]![0]));
        var known = await AskAsync(project);
        Assert.Equal("R-1.pdf: r-1.PDF, R-1", Names(known));
        Assert.Equal(
            "2027-05-13 10 ; 2027-05-12 25 r-1.PDF; 2027-05-11 50 R-1",
            string.Join("; ", known["payments"]!.AsArray().Select(p => $"{p!["day"]} {p["amount"]} {p["receipt"]}"))
        );
        Assert.Equal("R-1.pdf", (string?)(await AskAsync(project, "/tasks/a/costs"))["receipts"]![0]!["name"]);
        using var file = await demo.Api.Http.GetAsync((string)added["address"]!);
        Assert.Equal(Pdf, await file.Content.ReadAsByteArrayAsync());
        Assert.Equal("application/pdf", file.Content.Headers.ContentType!.MediaType);
        Assert.Equal("attachment", file.Content.Headers.ContentDisposition!.DispositionType);
        Assert.StartsWith("sandbox", file.Headers.GetValues("Content-Security-Policy").Single(), StringComparison.Ordinal);
        Assert.True(file.Headers.CacheControl!.NoStore);
        var other = await demo.Api.NewChainAsync();
        using var elsewhere = await demo.Api.Http.GetAsync(
            ((string)added["address"]!).Replace(project.ToString(), other.ToString(), StringComparison.Ordinal)
        );
        Assert.Equal(HttpStatusCode.NotFound, elsewhere.StatusCode);
    }

    [Fact]
    public async Task A_number_that_no_file_can_be_called_finds_its_file()
    {
        var project = await demo.Api.CreateAsync(Paid.Replace("\"R-1\"", "\"2027/109\"", StringComparison.Ordinal));
        var (_, added) = await AddAsync(project, "name=scan.PDF&receipt=2027%2F109", Pdf);
        Assert.Equal(("2027-109.PDF", "2027/109"), ((string?)added["name"], (string?)added["proves"]![0]));
        Assert.Equal("2027-109.PDF: 2027/109", Names(await AskAsync(project)));
    }

    [Fact]
    public async Task The_same_is_kept_once_another_of_the_name_gets_a_number_and_others_hear_of_both()
    {
        var project = await demo.Api.CreateAsync(Paid);
        var before = (int)(await AskAsync(project))["version"]!;
        foreach (var content in new[] { Pdf, Pdf, "%PDF-1.7 two"u8.ToArray(), "%PDF-1.7 three"u8.ToArray() })
            Assert.Equal(HttpStatusCode.OK, (await AddAsync(project, "name=R-1.pdf", content)).Status);
        Assert.Equal("R-1 (2).pdf: ; R-1 (3).pdf: ; R-1.pdf: r-1.PDF, R-1", Names(await AskAsync(project)));
        Assert.Equal(before + 3, (int)(await AskAsync(project))["version"]!);
        // What is planned and what was paid are as they were.
        Assert.Equal(85, (await AskAsync(project, "/money"))["project"]!["spent"]!.GetValue<decimal>());
    }

    [Fact]
    public async Task What_was_removed_can_be_brought_back_until_it_is_cleared_away()
    {
        var project = await demo.Api.CreateAsync(Paid);
        var (_, added) = await AddAsync(project, "name=R-1.pdf", Pdf);
        var at = $"/api/v1/projects/{project}/money/receipts/{added["id"]}";
        using var removed = await demo.Api.Http.DeleteAsync(at);
        Assert.Equal("“R-1.pdf” removed.", (string?)JsonNode.Parse(await removed.Content.ReadAsStringAsync())!["sentence"]);
        Assert.Equal("", Names(await AskAsync(project)));
        Assert.Equal(HttpStatusCode.NotFound, (await demo.Api.Http.GetAsync((string)added["address"]!)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await demo.Api.Http.DeleteAsync(at)).StatusCode);
        var receipts = demo.App.Services.GetRequiredService<Receipts>();
        await receipts.ClearAsync();
        Assert.Equal(HttpStatusCode.OK, (await demo.Api.PostAsync($"{at}/back", "{}")).Status);
        Assert.Equal("R-1.pdf: r-1.PDF, R-1", Names(await AskAsync(project)));
        Assert.Equal(HttpStatusCode.NotFound, (await demo.Api.PostAsync($"{at}/back", "{}")).Status);

        await demo.Api.Http.DeleteAsync(at);
        await demo.InDatabaseAsync(db => db.Receipts.Single(r => r.ProjectId == project).RemovedAt = DateTime.UtcNow.AddDays(-31));
        await receipts.ClearAsync();
        Assert.Equal(HttpStatusCode.NotFound, (await demo.Api.PostAsync($"{at}/back", "{}")).Status);
    }

    [Theory]
    [InlineData("name=R-1.pdf", "no PDF", "what is in it is another")]
    [InlineData("name=R-1.exe", "MZ", "is no kind of file that is kept here")]
    [InlineData("name=R-1.pdf", "", "is empty")]
    [InlineData("name=...", "%PDF-1.7", "needs a name")]
    public async Task A_file_that_cannot_be_kept_says_why(string named, string content, string why)
    {
        var (status, answer) = await AddAsync(await demo.Api.CreateAsync(Paid), named, Encoding.UTF8.GetBytes(content));
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains(why, (string?)answer["detail"], StringComparison.Ordinal);
    }

    [Fact]
    public async Task Receipts_and_files_of_tasks_share_the_room_of_a_project()
    {
        var project = await demo.Api.CreateAsync(Paid);
        await AddAsync(project, "name=R-1.pdf", Pdf);
        await demo.InDatabaseAsync(db => db.Receipts.Single(r => r.ProjectId == project).Size = 500 * 1024 * 1024 - 4);
        using var content = new StringContent("five!");
        using var full = await demo.Api.Http.PostAsync($"/api/v1/projects/{project}/tasks/a/files?name=a.txt", content);
        Assert.Contains("more than 500 MB", await full.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Contains(
            "more than 500 MB",
            (string?)(await AddAsync(project, "name=a.pdf", Pdf)).Body["detail"],
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Whom_a_coordinator_lets_in_reads_receipts_and_changes_none()
    {
        var project = await demo.Api.CreateAsync(Paid);
        var (_, added) = await AddAsync(project, "name=R-1.pdf", Pdf);
        var roles = demo.App.Services.GetRequiredService<ProjectRoles>();
        await roles.GiveAsync(project, "oona", ProjectRole.Member);
        var oona = demo.App.SignedIn("oona");
        Assert.Equal(HttpStatusCode.Forbidden, (await oona.GetAsync((string)added["address"]!)).StatusCode);
        await roles.LetSeeMoneyAsync(project, "oona", true, "imke");
        Assert.Equal(HttpStatusCode.OK, (await oona.GetAsync((string)added["address"]!)).StatusCode);
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await oona.DeleteAsync($"/api/v1/projects/{project}/money/receipts/{added["id"]}")).StatusCode
        );
    }
}
