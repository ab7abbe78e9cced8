using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;

namespace Auxilium.Web.Tests;

/// <summary>The organisation's price list: changed as one list, handed out, and there for who coordinates a project.</summary>
public class PricesTests
{
    [Fact]
    public async Task A_list_is_looked_at_saved_and_handed_out_and_an_item_that_stays_keeps_its_id()
    {
        using var database = TestDatabase.WithDemo()!;
        await using var app = new TestApp(database.Connection);
        var imke = app.SignedIn();
        var before = await ItemsAsync(imke);
        Assert.True(before.Count > 10);

        const string Text =
            "Category\tItem\tUnit\tPrice\tSupplier\tLength\n"
            + "Guests\tFolding chair\tpiece\t1.35\tQuayside Stages\t2h\nGuests\tTent\tday\tmuch\t\t";
        using var read = await PostAsync(imke, "Read", Text);
        var page = WebUtility.HtmlDecode(await read.Content.ReadAsStringAsync());
        Assert.Contains("“much” is not a price: write one such as 12.50.", page, StringComparison.Ordinal);
        using var refused = await PostAsync(imke, "Save", Text);
        Assert.Equal(before.Count, (await ItemsAsync(imke)).Count);

        using var saved = await PostAsync(imke, "Save", Text.Replace("much", "80"));
        Assert.Contains("Saved: the price list has 2 items.", await saved.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var after = await ItemsAsync(imke);
        Assert.Equal([("Folding chair", 1.35m), ("Tent", 80m)], after.Select(item => ((string)item["name"]!, (decimal)item["price"]!)));
        Assert.Equal((string)before.Single(item => (string)item["name"]! == "Folding chair")["id"]!, (string)after[0]["id"]!);
        Assert.Contains("changed the price list: 2 items.", await imke.GetStringAsync("/audit"), StringComparison.Ordinal);

        Assert.Contains(
            "Guests,Folding chair,piece,1.35",
            await imke.GetStringAsync("/api/v1/price-list?format=csv"),
            StringComparison.Ordinal
        );
        using var workbook = await imke.GetAsync("/api/v1/price-list?format=xlsx");
        Assert.Equal("Price list.xlsx", workbook.Content.Headers.ContentDisposition!.FileName!.Trim('"'));
        Assert.Equal(HttpStatusCode.BadRequest, (await imke.GetAsync("/api/v1/price-list?format=ics")).StatusCode);

        // The file comes back as it went, and is looked at before it is saved, whichever button is pressed.
        using var form = new MultipartFormDataContent
        {
            { new ByteArrayContent(await workbook.Content.ReadAsByteArrayAsync()), "Upload", "prices.xlsx" },
            { new StringContent(Token().Match(await imke.GetStringAsync("/price-list")).Groups[1].Value), "__RequestVerificationToken" },
        };
        using var again = await imke.PostAsync("/price-list?handler=Save", form);
        Assert.Contains("Save 2 items", Regex.Replace(await again.Content.ReadAsStringAsync(), @"\s+", " "), StringComparison.Ordinal);

        // Coordinators of a project read it there, and prices are for nobody else.
        var lantern = JsonNode.Parse(await imke.GetStringAsync("/api/v1/projects"))!.AsArray()[0]!["id"]!;
        Assert.Equal(2, JsonNode.Parse(await imke.GetStringAsync($"/api/v1/projects/{lantern}/price-list"))!.AsArray().Count);
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await app.SignedIn("tomas").GetAsync($"/api/v1/projects/{lantern}/price-list")).StatusCode
        );
    }

    private static async Task<List<JsonNode>> ItemsAsync(HttpClient client) =>
        [.. JsonNode.Parse(await client.GetStringAsync("/api/v1/price-list"))!.AsArray().Select(item => item!)];

    private static Task<HttpResponseMessage> PostAsync(HttpClient client, string handler, string text) =>
        TestApp.PostFormAsync(client, "/price-list", $"/price-list?handler={handler}", new() { ["Text"] = text });

    private static Regex Token() => new("name=\"__RequestVerificationToken\" type=\"hidden\" value=\"([^\"]+)\"");
}
