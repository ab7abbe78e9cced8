using System.Net;
using System.Net.Http.Headers;
using System.Text;

namespace Auxilium.Web.Tests;

/// <summary>What is no text, no number or no form is refused in a sentence, wherever it is sent.</summary>
public class HostileBodiesTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private const string Plan =
        """{"format":"auxilium-plan/1","project":{"name":"NAME","start":"2027-05-03"},"tasks":[{"id":"a","name":"A","length":"1d"}]}""";

    public static TheoryData<string, string, string> Bodies =>
        new()
        {
            { "POST", "/api/v1/schedule", Plan },
            { "POST", "/api/v1/projects", Plan },
            { "POST", "/api/v1/projects/{id}/lists", """{"text":"NAME"}""" },
            { "POST", "/api/v1/projects/{id}/tasks/a/comments", """{"text":"NAME"}""" },
            { "PUT", "/api/v1/projects/{id}/view", """{"columns":["NAME"]}""" },
            { "PUT", "/api/v1/projects/{id}/tasks/a/hours", """{"day":"2027-05-13","hours":"NAME"}""" },
            { "POST", "/api/v1/projects/{id}/tasks/a/repeats", """{"every":"week","from":"2027-05-04","times":2,"length":"NAME"}""" },
            { "POST", "/api/v1/projects/{id}/calendars/year?year=2027", """{"id":"c","name":"NAME","week":{},"exceptions":[]}""" },
            {
                "POST",
                "/api/v1/projects/{id}/edits",
                """{"id":"0197a000-0000-7000-8000-000000000001","baseVersion":1,"edit":{"type":"renameTask","task":"a","name":"NAME"}}"""
            },
            {
                "POST",
                "/api/v1/projects/{id}/edits",
                """
                    {"id":"0197a000-0000-7000-8000-000000000001", "baseVersion":1, "note":"NAME", "edit":{"type":"setNote", "task":"a",
                    "note":"N"}}
                    """
            },
        };

    [Theory]
    [MemberData(nameof(Bodies))]
    public async Task A_text_that_is_none_is_refused_with_its_path(string method, string route, string body)
    {
        var project = await demo.Api.NewChainAsync();
        byte[][] hostile =
        [
            .. new[] { @"\ud800", @"\udc00x", @"\u0000" }.Select(text =>
                Encoding.UTF8.GetBytes(body.Replace("NAME", text, StringComparison.Ordinal))
            ),
            .. new byte[][] { [0xff], [0xc3], [0xed, 0xa0, 0x80] }.Select(bytes => With(body, bytes)),
            Encoding.UTF8.GetBytes(body.Replace("\"NAME\"", "1e200000", StringComparison.Ordinal)),
            Encoding.UTF8.GetBytes(body.Replace("\"NAME\"", "\"x\",\"\\ud800\":1", StringComparison.Ordinal)),
        ];
        foreach (var bytes in hostile)
        {
            using var content = new ByteArrayContent(bytes);
            content.Headers.ContentType = new MediaTypeHeaderValue("application/json");
            using var request = new HttpRequestMessage(
                new HttpMethod(method),
                route.Replace("{id}", project.ToString(), StringComparison.Ordinal)
            )
            {
                Content = content,
            };
            using var answer = await demo.Api.Http.SendAsync(request);
            var said = await answer.Content.ReadAsStringAsync();
            Assert.True(
                answer.StatusCode == HttpStatusCode.BadRequest,
                $"{Encoding.Latin1.GetString(bytes)} gave {answer.StatusCode}: {said}"
            );
            Assert.Contains("\"path\":\"$", said, StringComparison.Ordinal);
        }
    }

    [Theory]
    [InlineData("/api/v1/projects/{id}/journal?person=%00")]
    [InlineData("/my-week?who=%00")]
    public async Task An_address_with_a_NUL_is_none(string address)
    {
        using var answer = await demo.Api.Http.GetAsync(
            address.Replace("{id}", (await demo.Api.NewChainAsync()).ToString(), StringComparison.Ordinal)
        );
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
    }

    [Fact]
    public async Task A_form_that_does_not_hold_together_is_refused()
    {
        async Task<HttpStatusCode> SendAsync(string type, string body)
        {
            using var content = new StringContent(body, Encoding.UTF8);
            content.Headers.ContentType = MediaTypeHeaderValue.Parse(type);
            using var answer = await demo.Api.Http.PostAsync("/people/new", content);
            return answer.StatusCode;
        }

        Assert.Equal(HttpStatusCode.BadRequest, await SendAsync("multipart/form-data; boundary=x", "--x\r\nnothing"));
        Assert.Equal(HttpStatusCode.UnsupportedMediaType, await SendAsync("application/json", "{}"));
        Assert.Equal(HttpStatusCode.BadRequest, await SendAsync("application/x-www-form-urlencoded", "Name=A%00B"));
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await demo.Api.Http.PostAsync("/people/new?handler=Nothing", new FormUrlEncodedContent([new("Name", "A")]))).StatusCode
        );
    }

    private static byte[] With(string body, byte[] name)
    {
        var parts = body.Split("NAME");
        return [.. Encoding.UTF8.GetBytes(parts[0]), .. name, .. Encoding.UTF8.GetBytes(parts[1])];
    }
}
