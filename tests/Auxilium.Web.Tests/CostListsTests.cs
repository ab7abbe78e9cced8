using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;

namespace Auxilium.Web.Tests;

/// <summary>Lists of what tasks cost, brought in and handed out; and cost on what is handed out of a plan.</summary>
public class CostListsTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private const string Fair = """
        {"format":"auxilium-plan/1", "project":{"name":"Quay fair","start":"2027-05-10","budget":500},
         "tasks":[{"id":"p","name":"Site"},
                  {"id":"a","name":"Fence","parent":"p","length":"2d",
                   "items":[{"id":"wood","name":"Planks","kind":"material","quantity":10,"price":12.5,"category":"Timber"}]},
                  {"id":"b","name":"Paint","parent":"p","length":"1d"}]}
        """;

    private const string List =
        "Task,Item,Quantity,Price,Paid,Paid on\nFence,Planks,12,,30,12 May\nPaint,Brush,4,2.25,,\nRoof,Tar,1,9,,\n";

    [Fact]
    public async Task A_file_is_read_line_by_line_and_what_could_be_read_is_taken_over_as_one_change()
    {
        var project = await demo.Api.CreateAsync(Fair);
        var read = await SendAsync(project, List);
        Assert.Equal(["changed", "new", "new"], read["lines"]!.AsArray().Select(line => (string)line!["state"]!));
        Assert.StartsWith("No row is called “Roof”", (string?)read["lines"]![2]!["problem"], StringComparison.Ordinal);
        Assert.Equal(125, await PlannedAsync(project));
        var taken = await SendAsync(project, List, "?commit=true");
        Assert.Equal("2 changes to the money. Expected cost 159.00 €, 34.00 € more. 341.00 € of the budget free.", (string?)taken["told"]);
        Assert.Equal(159, await PlannedAsync(project));
        var csv = await demo.Api.Http.GetStringAsync($"/api/v1/projects/{project}/costs");
        Assert.Contains("1.1,Fence,Planks,material,Timber,,12.00,,12.50,each,,start,,30.00,2027-05-12,", csv, StringComparison.Ordinal);
        var again = await SendAsync(project, csv, "?commit=true");
        Assert.All(again["lines"]!.AsArray(), line => Assert.Equal("same", (string?)line!["state"]));
        Assert.Null(again["told"]);
        await demo.Api.PostAsync(
            $"/api/v1/projects/{project}/money/edits",
            $$"""{"id":"{{Guid.NewGuid()}}","baseVersion":2,"takeBack":"lastEdit"}"""
        );
        Assert.Equal(125, await PlannedAsync(project));
    }

    [Theory]
    [InlineData("Item\nTent", "", "task=none", "“task” is the id of a row")]
    [InlineData("Thing\nTent", "", "", "No column is called “Item”")]
    [InlineData("\0\0", "", "", "is no list that can be read here")]
    public async Task What_is_no_list_is_refused_in_a_sentence(string list, string query, string field, string why)
    {
        var project = await demo.Api.CreateAsync(Fair);
        using var answer = await PostAsync(project, list, query, field);
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains(why, await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task On_the_page_a_list_is_looked_at_before_it_is_kept_and_what_is_wrong_is_said_in_its_line()
    {
        var project = await demo.Api.CreateAsync(Fair);
        var imke = demo.App.SignedIn("imke");
        var address = $"/projects/{project}/money/import";
        var looked = await PageAsync("Read", List);
        Assert.Contains("Import 2 items", looked, StringComparison.Ordinal);
        Assert.Contains("1 line cannot be read, and is left out until you mend it above.", looked, StringComparison.Ordinal);
        Assert.Contains("No row is called “Roof”", looked, StringComparison.Ordinal);
        Assert.Contains("Paint,Brush,4", looked, StringComparison.Ordinal);
        Assert.Equal(125, await PlannedAsync(project));
        Assert.Contains("2 items imported. 2 changes to the money.", await PageAsync("Take", List), StringComparison.Ordinal);
        Assert.Equal(159, await PlannedAsync(project));
        Assert.Contains(
            "Everything in this list is there already.",
            await PageAsync("Take", "No,Item\n1.2,Brush"),
            StringComparison.Ordinal
        );
        Assert.Contains("The list is missing", await PageAsync("Read", " "), StringComparison.Ordinal);
        Assert.Contains(
            "Lines that name no task are for “Paint”",
            await imke.GetStringAsync($"{address}?task=b"),
            StringComparison.Ordinal
        );

        async Task<string> PageAsync(string handler, string text)
        {
            using var answer = await TestApp.PostFormAsync(imke, address, $"{address}?handler={handler}", new() { ["Text"] = text });
            return Regex.Replace(WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()), @"\s+", " ");
        }
    }

    [Fact]
    public async Task Report_and_outline_have_the_cost_when_it_is_asked_for()
    {
        var project = await demo.Api.CreateAsync(Fair);
        var imke = demo.App.SignedIn("imke");
        var plain = await imke.GetStringAsync($"/projects/{project}/report");
        Assert.DoesNotContain("125.00", plain, StringComparison.Ordinal);
        var report = WebUtility.HtmlDecode(await imke.GetStringAsync($"/projects/{project}/report?money=true"));
        Assert.Contains(
            "It is expected to cost 125.00 €; 375.00 € of the budget of 500.00 € stay free.",
            report,
            StringComparison.Ordinal
        );
        foreach (var screen in new[] { "outline", "report" })
        {
            var address = $"/api/v1/projects/{project}/export?format=svg&screen={screen}";
            Assert.Contains("125.00", await TextAsync($"{address}&money=true"), StringComparison.Ordinal);
            Assert.DoesNotContain("125.00", await TextAsync(address), StringComparison.Ordinal);
        }

        async Task<string> TextAsync(string address) =>
            Regex.Replace(WebUtility.HtmlDecode(await imke.GetStringAsync(address)), "<[^>]*>", "");
    }

    private async Task<decimal> PlannedAsync(Guid project) =>
        JsonNode.Parse(await demo.Api.Http.GetStringAsync($"/api/v1/projects/{project}/money"))!["project"]![
            "planned"
        ]!.GetValue<decimal>();

    private async Task<JsonNode> SendAsync(Guid project, string list, string query = "")
    {
        using var answer = await PostAsync(project, list, query);
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        return JsonNode.Parse(await answer.Content.ReadAsStringAsync())!;
    }

    private async Task<HttpResponseMessage> PostAsync(Guid project, string list, string query, string field = "")
    {
        using var form = new MultipartFormDataContent { { new ByteArrayContent(Encoding.UTF8.GetBytes(list)), "file", "costs.csv" } };
        if (field.Split('=') is [var name, var value])
            form.Add(new StringContent(value), name);
        return await demo.Api.Http.PostAsync($"/api/v1/projects/{project}/costs/imports{query}", form);
    }
}
