using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.RegularExpressions;
using Auxilium.Storage.Access;
using Auxilium.Storage.Rows;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Mvc.RazorPages.Infrastructure;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

/// <summary>Every route × every role, in a project of one's own and in one that is not.</summary>
public class RightsTests(RightsApp app) : IClassFixture<RightsApp>
{
    /// <summary>Routes that need no sign-in; each guards itself.</summary>
    private static readonly string[] OpenToAll =
    [
        "/healthz",
        "/logo",
        "/api/v1/days",
        "/error",
        "/sign-in",
        "/sign-in/second-step",
        "/forgot",
        "/reset/{person}/{token}",
        "/invitation/{secret}",
        "/welcome",
        "/shared/{secret}/{screen:shared?}",
        "/shared/{secret}/export",
        "/feeds/{secret}.ics",
        "/feeds/projects/{secret}.ics",
    ];

    [Fact]
    public void Every_route_but_the_open_ones_names_the_right_it_needs()
    {
        var endpoints = Routes().ToList();
        Assert.True(endpoints.Count > 10);
        foreach (var (route, endpoint) in endpoints)
        {
            var open = endpoint.Metadata.GetMetadata<IAllowAnonymous>() is not null;
            var isAsset =
                Path.HasExtension(route)
                && !route.StartsWith("/openapi", StringComparison.Ordinal)
                && !route.StartsWith("/api", StringComparison.Ordinal)
                && !route.StartsWith("/feeds", StringComparison.Ordinal);
            if (open)
                Assert.True(isAsset || OpenToAll.Contains(route), $"{route} is open to everybody.");
            else
                Assert.True(
                    endpoint.Metadata.GetOrderedMetadata<IAuthorizeData>().Any(a => a.Policy is not null),
                    $"{route} names no right ({endpoint.DisplayName})."
                );
        }
    }

    [Fact]
    public void Every_route_stands_in_the_table()
    {
        var table = typeof(RightsTests)
            .GetMethod(nameof(Who_may_do_what))!
            .GetCustomAttributesData()
            .Where(a => a.AttributeType == typeof(InlineDataAttribute))
            .Select(a =>
                (System.Collections.ObjectModel.ReadOnlyCollection<System.Reflection.CustomAttributeTypedArgument>)
                    a.ConstructorArguments[0].Value!
            )
            .Select(a =>
                new Uri("http://x" + ((string)a[1].Value!).Replace("{id}", Guid.Empty.ToString(), StringComparison.Ordinal)).AbsolutePath
            )
            .ToList();
        foreach (var (route, endpoint) in Routes())
        {
            if (endpoint.Metadata.GetMetadata<IAllowAnonymous>() is not null)
                continue;
            var matcher = new Microsoft.AspNetCore.Routing.Template.TemplateMatcher(
                Microsoft.AspNetCore.Routing.Template.TemplateParser.Parse(endpoint.RoutePattern.RawText!),
                []
            );
            Assert.True(table.Any(path => matcher.TryMatch(path, [])), $"{route} does not stand in the table.");
        }
    }

    [Fact]
    public async Task Every_button_of_a_page_stands_in_the_table()
    {
        var table = typeof(RightsTests)
            .GetMethod(nameof(Who_may_do_what))!
            .GetCustomAttributesData()
            .Where(a => a.AttributeType == typeof(InlineDataAttribute))
            .Select(a =>
                (System.Collections.ObjectModel.ReadOnlyCollection<System.Reflection.CustomAttributeTypedArgument>)
                    a.ConstructorArguments[0].Value!
            )
            .Where(a => (string)a[0].Value! == "POST")
            .Select(a => new Uri("http://x" + ((string)a[1].Value!).Replace("{id}", Guid.Empty.ToString(), StringComparison.Ordinal)))
            .ToList();
        var pages = app.Demo.App.Services.GetRequiredService<PageLoader>();
        foreach (var (route, endpoint) in Routes())
        {
            if (
                endpoint.Metadata.GetMetadata<PageActionDescriptor>() is not { } page
                || endpoint.Metadata.GetMetadata<IAllowAnonymous>() is not null
            )
                continue;
            var matcher = new Microsoft.AspNetCore.Routing.Template.TemplateMatcher(
                Microsoft.AspNetCore.Routing.Template.TemplateParser.Parse(endpoint.RoutePattern.RawText!),
                []
            );
            foreach (
                var handler in (await pages.LoadAsync(page, EndpointMetadataCollection.Empty)).HandlerMethods.Where(h =>
                    h.HttpMethod == "Post"
                )
            )
                Assert.True(
                    table.Any(row =>
                        matcher.TryMatch(row.AbsolutePath, []) && row.Query == (handler.Name is null ? "" : $"?handler={handler.Name}")
                    ),
                    $"{route}?handler={handler.Name} does not stand in the table."
                );
        }
    }

    /// <summary>
    /// Roles in turn: nobody, somebody without a part in the project, a viewer, a member, a coordinator, an organiser. A route without a
    /// project takes them as people of the organisation.
    /// </summary>
    [Theory]
    [InlineData("GET", "/", "302 200 200 200 200 200")]
    [InlineData("GET", "/projects", "302 200 200 200 200 200")]
    [InlineData("GET", "/projects/new", "302 403 403 403 200 200")]
    [InlineData("POST", "/projects/new", "401 403 403 403 200 200")]
    [InlineData("GET", "/templates", "302 403 403 403 200 200")]
    [InlineData("POST", "/templates?handler=Delete", "401 403 403 403 200 200")]
    [InlineData("GET", "/projects/{id}/template", "302 404 403 403 200 200")]
    [InlineData("POST", "/projects/{id}/template", "401 404 403 403 200 200")]
    [InlineData("GET", "/api/v1/fields", "401 403 403 403 403 200")]
    [InlineData("GET", "/api/v1/price-list", "401 403 403 403 403 200")]
    [InlineData("GET", "/api/v1/projects/{id}/price-list", "401 404 403 403 200 200")]
    [InlineData("GET", "/price-list", "302 403 403 403 403 200")]
    [InlineData("POST", "/price-list?handler=Read", "401 403 403 403 403 200")]
    [InlineData("POST", "/price-list?handler=Save", "401 403 403 403 403 200")]
    [InlineData("PUT", "/api/v1/fields", "401 403 403 403 403 400")]
    [InlineData("GET", "/api/v1/templates", "401 403 403 403 200 200")]
    [InlineData("GET", "/api/v1/templates/hall-concert", "401 403 403 403 200 200")]
    [InlineData("POST", "/api/v1/templates", "401 404 404 404 404 404")]
    [InlineData("DELETE", "/api/v1/templates/0197a000-0000-7000-8000-000000000000", "401 403 403 403 404 404")]
    [InlineData("POST", "/projects/new?handler=File", "401 403 403 403 200 200")]
    [InlineData("GET", "/projects/{id}", "302 404 200 200 200 200")]
    [InlineData("GET", "/projects/{id}/lanes", "302 404 200 200 200 200")]
    [InlineData("GET", "/projects/{id}/month", "302 404 200 200 200 200")]
    [InlineData("GET", "/projects/{id}/chains", "302 404 200 200 200 200")]
    [InlineData("GET", "/projects/{id}/outline", "302 404 200 200 200 200")]
    [InlineData("POST", "/projects?handler=View", "401 200 200 200 200 200")]
    [InlineData("GET", "/api/v1/folders", "401 200 200 200 200 200")]
    [InlineData("POST", "/api/v1/folders", "401 403 403 403 400 400")]
    [InlineData("PUT", "/api/v1/folders/0197a000-0000-7000-8000-000000000000", "401 403 403 403 400 400")]
    [InlineData("DELETE", "/api/v1/folders/0197a000-0000-7000-8000-000000000000", "401 403 403 403 404 404")]
    [InlineData("PUT", "/api/v1/folders/0197a000-0000-7000-8000-000000000000/folded", "401 400 400 400 400 400")]
    [InlineData("PUT", "/api/v1/projects/{id}/folder", "401 404 403 403 400 400")]
    [InlineData("PUT", "/api/v1/projects/{id}/favourite", "401 404 400 400 400 400")]
    [InlineData("GET", "/projects/{id}/anything", "302 404 404 404 404 404")]
    [InlineData("GET", "/projects/{id}/check-up", "302 404 200 200 200 200")]
    [InlineData("GET", "/projects/{id}/compare", "302 404 200 200 200 200")]
    [InlineData("GET", "/projects/{id}?version=1", "302 404 200 200 200 200")]
    [InlineData("GET", "/api/v1/projects/{id}/baselines", "401 404 200 200 200 200")]
    [InlineData("GET", "/api/v1/projects/{id}/comparison", "401 404 200 200 200 200")]
    [InlineData("GET", "/api/v1/projects/{id}/snapshots/now", "401 404 200 200 200 200")]
    [InlineData("GET", "/projects/{id}/journal", "302 404 200 200 200 200")]
    [InlineData("GET", "/projects/{id}/forecast", "302 404 200 200 200 200")]
    [InlineData("GET", "/projects/{id}/settings", "302 404 200 200 200 200")]
    [InlineData("GET", "/projects/{id}/report", "302 404 200 200 200 200")]
    [InlineData("GET", "/projects/{id}/sharing", "302 404 403 403 200 200")]
    [InlineData("POST", "/projects/{id}/sharing?handler=Link", "401 404 403 403 200 200")]
    [InlineData("POST", "/projects/{id}/sharing?handler=Calendar", "401 404 403 403 200 200")]
    [InlineData("POST", "/projects/{id}/sharing?handler=WithdrawCalendar", "401 404 403 403 200 200")]
    [InlineData("GET", "/people", "302 200 200 200 200 200")]
    [InlineData("GET", "/people/new", "302 403 403 403 403 200")]
    [InlineData("POST", "/people/new", "401 403 403 403 403 200")]
    [InlineData("GET", "/people/import", "302 403 403 403 403 200")]
    [InlineData("GET", "/people/oona", "302 200 200 200 200 200")]
    [InlineData("POST", "/people/oona?handler=Save", "401 403 403 200 403 200")]
    [InlineData("POST", "/people/oona?handler=Invite", "401 403 403 403 403 403")]
    [InlineData("POST", "/people/bert?handler=Away", "401 403 200 403 200 200")]
    [InlineData("POST", "/people/oona?handler=Merge", "401 403 403 403 403 200")]
    [InlineData("GET", "/account", "302 200 200 200 200 200")]
    [InlineData("GET", "/sign-out", "302 200 200 200 200 200")]
    [InlineData("GET", "/notices", "302 200 200 200 200 200")]
    [InlineData("GET", "/my-week", "302 200 200 200 200 200")]
    [InlineData("GET", "/my-week/hours", "302 200 200 200 200 200")]
    [InlineData("GET", "/api/v1/projects/{id}/hours", "401 404 200 200 200 200")]
    [InlineData("GET", "/api/v1/projects/{id}/used", "401 404 200 200 200 200")]
    [InlineData("GET", "/api/v1/timer", "401 204 204 204 204 204")]
    [InlineData("PUT", "/api/v1/projects/{id}/tasks/none/timer", "401 404 403 400 400 400")]
    [InlineData("POST", "/api/v1/timer/stop", "401 409 409 409 409 409")]
    [InlineData("GET", "/audit", "302 403 403 403 403 200")]
    [InlineData("GET", "/organisation", "302 403 403 403 403 200")]
    [InlineData("POST", "/organisation", "401 403 403 403 403 200")]
    [InlineData("GET", "/archive", "302 200 200 200 200 200")]
    [InlineData("POST", "/archive", "401 200 200 200 200 200")]
    [InlineData("GET", "/projects/{id}/close", "302 404 403 403 200 200")]
    [InlineData("POST", "/projects/{id}/close?handler=Delete", "401 404 403 403 200 200")]
    [InlineData("POST", "/projects/{id}/close?handler=Archive", "401 404 403 403 200 403")]
    [InlineData("GET", "/post", "302 403 403 403 403 200")]
    [InlineData("POST", "/account?handler=Password", "401 200 200 200 200 200")]
    [InlineData("POST", "/account?handler=SetUp", "401 200 200 200 200 200")]
    [InlineData("POST", "/account?handler=TurnOn", "401 200 200 200 200 200")]
    [InlineData("POST", "/account?handler=SpareCodes", "401 200 200 200 200 200")]
    [InlineData("POST", "/account?handler=TurnOff", "401 200 200 200 200 200")]
    [InlineData("POST", "/account?handler=End", "401 200 200 200 200 200")]
    [InlineData("POST", "/account?handler=Everywhere", "401 200 200 200 200 200")]
    [InlineData("POST", "/account?handler=Notices", "401 200 200 200 200 200")]
    [InlineData("POST", "/account?handler=Feed", "401 200 200 200 200 200")]
    [InlineData("POST", "/account?handler=Withdraw", "401 200 200 200 200 200")]
    [InlineData("POST", "/account?handler=Token", "401 200 200 200 200 200")]
    [InlineData("POST", "/account?handler=Revoke", "401 200 200 200 200 200")]
    [InlineData("POST", "/sign-out", "401 200 200 200 200 200")]
    [InlineData("POST", "/people/oona?handler=AwayToo", "401 403 403 200 200 200")]
    [InlineData("POST", "/people/oona?handler=NotAway", "401 403 403 200 200 200")]
    [InlineData("POST", "/people/oona?handler=HandOver", "401 403 403 403 200 200")]
    [InlineData("POST", "/people/greta?handler=Leave", "401 403 403 403 403 200")]
    [InlineData("POST", "/people/greta?handler=Return", "401 403 403 403 403 200")]
    [InlineData("POST", "/people/import?handler=Read", "401 403 403 403 403 200")]
    [InlineData("POST", "/people/import?handler=Take", "401 403 403 403 403 200")]
    [InlineData("POST", "/projects/{id}/sharing?handler=Roles", "401 404 403 403 200 200")]
    [InlineData("POST", "/projects/{id}/sharing?handler=Withdraw", "401 404 403 403 200 200")]
    [InlineData("POST", "/my-week?handler=Mail", "401 200 200 200 200 200")]
    [InlineData("GET", "/api/v1/projects", "401 200 200 200 200 200")]
    [InlineData("POST", "/api/v1/projects", "401 403 403 403 400 400")]
    [InlineData("GET", "/api/v1/projects/{id}/plan", "401 404 200 200 200 200")]
    [InlineData("GET", "/api/v1/projects/{id}/changes", "401 404 200 200 200 200")]
    [InlineData("GET", "/api/v1/projects/{id}/edits/last", "401 404 404 404 404 404")]
    [InlineData("POST", "/api/v1/projects/{id}/edits", "401 404 403 400 400 400")]
    [InlineData("GET", "/api/v1/projects/{id}/journal", "401 404 200 200 200 200")]
    [InlineData("GET", "/api/v1/projects/{id}/tasks/a", "401 404 200 200 200 200")]
    [InlineData("GET", "/api/v1/projects/{id}/check-up", "401 404 200 200 200 200")]
    [InlineData("GET", "/api/v1/projects/{id}/forecast?runs=10", "401 404 200 200 200 200")]
    [InlineData("GET", "/projects/{id}/money", "302 404 403 403 200 200")]
    [InlineData("GET", "/api/v1/projects/{id}/money", "401 404 403 403 200 200")]
    [InlineData("GET", "/api/v1/projects/{id}/money/curve", "401 404 403 403 200 200")]
    [InlineData("GET", "/api/v1/projects/{id}/plan?money=true", "401 404 403 403 200 200")]
    [InlineData("GET", "/api/v1/projects/{id}/tasks/none/costs", "401 404 403 403 404 404")]
    [InlineData("POST", "/api/v1/projects/{id}/money/edits", "401 404 403 403 400 400")]
    [InlineData("GET", "/api/v1/projects/{id}/money/receipts", "401 404 403 403 200 200")]
    [InlineData("POST", "/api/v1/projects/{id}/money/receipts?name=a.zip", "401 404 403 403 400 400")]
    [InlineData("DELETE", "/api/v1/projects/{id}/money/receipts/0197a000-0000-7000-8000-000000000000", "401 404 403 403 404 404")]
    [InlineData("POST", "/api/v1/projects/{id}/money/receipts/0197a000-0000-7000-8000-000000000000/back", "401 404 403 403 404 404")]
    [InlineData("GET", "/receipts/{id}/0197a000-0000-7000-8000-000000000000/a.pdf", "401 404 403 403 404 404")]
    [InlineData("GET", "/api/v1/projects/{id}/costs", "401 404 403 403 200 200")]
    [InlineData("POST", "/api/v1/projects/{id}/costs/imports", "401 404 403 403 415 415")]
    [InlineData("GET", "/projects/{id}/money/import", "302 404 403 403 200 200")]
    [InlineData("POST", "/projects/{id}/money/import?handler=Read", "401 404 403 403 200 200")]
    [InlineData("POST", "/projects/{id}/money/import?handler=Take", "401 404 403 403 200 200")]
    [InlineData("GET", "/projects/{id}/report?money=true", "302 404 403 403 200 200")]
    [InlineData("GET", "/load", "302 200 200 200 200 200")]
    [InlineData("GET", "/projects/{id}/load", "302 404 200 200 200 200")]
    [InlineData("GET", "/api/v1/load", "401 200 200 200 200 200")]
    [InlineData("POST", "/api/v1/projects/{id}/levelling", "401 404 403 403 400 400")]
    [InlineData("POST", "/api/v1/projects/{id}/tasks/a/ways-out", "401 404 403 400 400 400")]
    [InlineData("POST", "/api/v1/projects/{id}/calendars/year?year=2027", "401 404 400 400 400 400")]
    [InlineData("POST", "/api/v1/projects/{id}/lists", "401 404 403 400 400 400")]
    [InlineData("GET", "/api/v1/projects/{id}/export?format=csv", "401 404 200 200 200 200")]
    [InlineData("POST", "/api/v1/projects/{id}/exports?format=csv", "401 404 202 202 202 202")]
    [InlineData("GET", "/api/v1/exports/0197a000-0000-7000-8000-000000000000", "401 404 404 404 404 404")]
    [InlineData("GET", "/api/v1/exports/0197a000-0000-7000-8000-000000000000/file", "401 404 404 404 404 404")]
    [InlineData("DELETE", "/api/v1/exports/0197a000-0000-7000-8000-000000000000", "401 404 404 404 404 404")]
    [InlineData("POST", "/api/v1/projects/{id}/imports", "401 404 403 415 415 415")]
    [InlineData("POST", "/api/v1/projects/imports", "401 403 403 403 415 415")]
    [InlineData("POST", "/api/v1/projects/{id}/tasks/a/repeats", "401 404 403 400 400 400")]
    [InlineData("PUT", "/api/v1/projects/{id}/view", "401 404 204 204 204 204")]
    [InlineData("GET", "/api/v1/projects/{id}/proposals", "401 404 200 200 200 200")]
    [InlineData("POST", "/api/v1/projects/{id}/proposals/0197a000-0000-7000-8000-000000000000/accept", "401 404 403 403 404 404")]
    [InlineData("POST", "/api/v1/projects/{id}/proposals/0197a000-0000-7000-8000-000000000000/decline", "401 404 403 403 404 404")]
    [InlineData("DELETE", "/api/v1/projects/{id}/proposals/0197a000-0000-7000-8000-000000000000", "401 404 403 404 404 404")]
    [InlineData("GET", "/api/v1/projects/{id}/tasks/a/talk", "401 404 200 200 200 200")]
    [InlineData("POST", "/api/v1/projects/{id}/tasks/a/comments", "401 404 403 400 400 400")]
    [InlineData("DELETE", "/api/v1/projects/{id}/tasks/a/comments/1", "401 404 403 404 404 404")]
    [InlineData("POST", "/api/v1/projects/{id}/tasks/a/files?name=a.zip", "401 404 403 400 400 400")]
    [InlineData("DELETE", "/api/v1/projects/{id}/tasks/a/files/0197a000-0000-7000-8000-000000000000", "401 404 403 404 404 404")]
    [InlineData("PUT", "/api/v1/projects/{id}/tasks/a/hours", "401 404 403 400 400 400")]
    [InlineData("GET", "/files/{id}/0197a000-0000-7000-8000-000000000000/a.txt", "401 404 404 404 404 404")]
    [InlineData("GET", "/api/v1/calendars/ready-made", "401 200 200 200 200 200")]
    [InlineData("GET", "/api/v1/holidays", "401 200 200 200 200 200")]
    [InlineData("GET", "/api/v1/holidays/ireland?from=2027&to=2028", "401 200 200 200 200 200")]
    [InlineData("POST", "/api/v1/schedule", "401 400 400 400 400 400")]
    [InlineData("GET", "/api/v1/schema/auxilium-plan-1.json", "401 200 200 200 200 200")]
    [InlineData("GET", "/openapi/v1.json", "401 200 200 200 200 200")]
    [InlineData("GET", "/live", "401 400 400 400 400 400")]
    [InlineData("POST", "/live/negotiate?negotiateVersion=1", "401 200 200 200 200 200")]
    [InlineData("GET", "/healthz", "200 200 200 200 200 200")]
    public async Task Who_may_do_what(string method, string route, string expected)
    {
        // A session that signs out cannot be used for the other rows.
        using var alone =
            method == "POST"
            && (route.EndsWith("Everywhere", StringComparison.Ordinal) || route is "/sign-out" or "/projects/{id}/close?handler=Archive")
                ? new RightsApp()
                : null;
        var statuses = new List<int>();
        foreach (var (client, project) in (alone ?? app).Roles)
        {
            using var request = new HttpRequestMessage(
                new HttpMethod(method),
                route.Replace("{id}", project.ToString(), StringComparison.Ordinal)
            );
            if (method is "POST" or "PUT")
                request.Content = route.StartsWith("/api", StringComparison.Ordinal)
                    ? new StringContent("{}", Encoding.UTF8, "application/json")
                    : new FormUrlEncodedContent([new("Nothing", "")]);
            using var response = await client.SendAsync(request);
            statuses.Add((int)response.StatusCode);
        }
        Assert.Equal(expected, string.Join(' ', statuses.Select(s => s == 302 && expected[..3] != "302" ? 200 : s)));
    }

    [Fact]
    public async Task Whatever_changes_something_needs_the_token_of_a_page_from_whoever_comes_with_a_cookie()
    {
        var project = await app.Demo.Api.NewChainAsync();
        using var client = app.Demo.App.SignedIn();
        client.DefaultRequestHeaders.Remove("X-Auxilium-Token");
        var changing = Routes()
            .Where(r =>
                r.Route.StartsWith("/api/v1", StringComparison.Ordinal)
                && r.Endpoint.Metadata.GetMetadata<HttpMethodMetadata>()!.HttpMethods[0] != "GET"
                && r.Route != "/api/v1/schedule"
            )
            .ToList();
        Assert.True(changing.Count > 10);
        foreach (var (route, endpoint) in changing)
        {
            var address = Regex.Replace(route, @"\{(\w+)(:\w+)?\}", m => m.Groups[2].Value == ":long" ? "1"
                : m.Groups[1].Value == "task" ? "a"
                : project.ToString());
            using var request = new HttpRequestMessage(
                new HttpMethod(endpoint.Metadata.GetMetadata<HttpMethodMetadata>()!.HttpMethods[0]),
                address
            )
            {
                Content = new StringContent("{}", Encoding.UTF8, "application/json"),
            };
            using var response = await client.SendAsync(request);
            Assert.True(
                (await response.Content.ReadAsStringAsync()).Contains("pageOutOfDate", StringComparison.Ordinal),
                $"{request.Method} {route} answers {response.StatusCode} to a cookie alone."
            );
        }
    }

    [Fact]
    public async Task In_another_project_a_coordinator_is_nobody_and_nothing_tells_that_it_is_there()
    {
        var (coordinator, _) = app.Roles[4];
        var other = await app.Demo.Api.NewChainAsync();
        foreach (var project in new[] { other, Guid.NewGuid() })
        {
            using var page = await coordinator.GetAsync($"/api/v1/projects/{project}/plan");
            Assert.Equal(HttpStatusCode.NotFound, page.StatusCode);
            var edit = await new ApiClient(coordinator).EditAsync(project, """{"type":"renameTask","task":"a","name":"Mine"}""", 1);
            Assert.Equal(HttpStatusCode.NotFound, edit.Status);
            Assert.Equal("There is no such project, or you have no part in it any more.", edit.Detail);
        }
        Assert.DoesNotContain(other.ToString(), await coordinator.GetStringAsync("/api/v1/projects"), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(TokenScope.Look, "200 403 403")]
    [InlineData(TokenScope.Report, "200 200 202")]
    [InlineData(TokenScope.Edit, "200 200 200")]
    public async Task A_token_does_no_more_than_its_scope(TokenScope scope, string expected)
    {
        var project = await app.Demo.Api.CreateAsync(
            """
            {"format":"auxilium-plan/1", "project":{"name":"Own", "start":"2027-05-03"}, "people":[{"id":"imke", "name":"Imke Varga",
              "initials":"IV"}],
             "tasks":[{"id":"a","name":"A","length":"1d","assignments":[{"person":"imke"}]}]}
            """
        );
        var api = await app.WithTokenAsync("imke", scope);
        using var look = await api.Http.GetAsync($"/api/v1/projects/{project}/plan");
        var report = await api.EditAsync(project, """{"type":"reportProgress","task":"a","progress":0.5}""", 1);
        var rename = await api.EditAsync(project, """{"type":"renameTask","task":"a","name":"B"}""", 2);
        Assert.Equal(expected, $"{(int)look.StatusCode} {(int)report.Status} {(int)rename.Status}");
    }

    [Theory]
    [InlineData("auxilium_wrong")]
    [InlineData("")]
    [InlineData("other")]
    public async Task A_wrong_token_opens_nothing(string token)
    {
        var client = app.Demo.App.CreateClient();
        client.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", token);
        using var response = await client.GetAsync("/api/v1/projects");
        Assert.Equal(HttpStatusCode.Unauthorized, response.StatusCode);
    }

    [Fact]
    public async Task Whoever_tries_many_wrong_tokens_is_told_to_wait()
    {
        using var database = TestDatabase.WithDemo();
        await using var guarded = new TestApp(database.Connection, doorTries: 5);
        var client = guarded.CreateClient();
        client.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", "auxilium_guessed");
        var statuses = new List<HttpStatusCode>();
        for (var i = 0; i < 7; i++)
        {
            using var answer = await client.GetAsync("/api/v1/projects");
            statuses.Add(answer.StatusCode);
        }
        Assert.Equal(HttpStatusCode.Unauthorized, statuses[3]);
        Assert.Equal(HttpStatusCode.TooManyRequests, statuses[6]);
    }

    [Fact]
    public async Task A_token_does_not_open_pages_and_ends_when_it_is_revoked()
    {
        var api = await app.WithTokenAsync("imke", TokenScope.Edit);
        using var page = await api.Http.GetAsync("/account");
        Assert.Contains("/sign-in", page.RequestMessage!.RequestUri!.ToString(), StringComparison.Ordinal);
        var tokens = app.Demo.App.Services.GetRequiredService<Tokens>();
        await tokens.RevokeAsync("imke", (await tokens.OfAsync("imke"))[0].Id);
        using var gone = await api.Http.GetAsync("/api/v1/projects");
        Assert.Equal(HttpStatusCode.Unauthorized, gone.StatusCode);
    }

    private IEnumerable<(string Route, RouteEndpoint Endpoint)> Routes() =>
        app
            .Demo.App.Services.GetRequiredService<EndpointDataSource>()
            .Endpoints.OfType<RouteEndpoint>()
            // The framework's own fallback for files in development; it falls under the policy of all that name none.
            .Where(e => e.RoutePattern.RawText != "{**path:file}")
            .Select(e => ("/" + e.RoutePattern.RawText!.TrimStart('/'), e));
}

/// <summary>A demo with one person in each role of a project.</summary>
public sealed class RightsApp : IDisposable
{
    public RightsApp() => Roles = Task.Run(SetUpAsync).GetAwaiter().GetResult();

    public DemoApp Demo { get; } = new();

    /// <summary>
    /// Nobody, somebody without a part, a viewer, a member, a coordinator, an organiser; each with a project to ask for.
    /// </summary>
    public IReadOnlyList<(HttpClient Client, Guid Project)> Roles { get; }

    public async Task<ApiClient> WithTokenAsync(string person, TokenScope scope)
    {
        var client = Demo.App.CreateClient();
        var token = await Demo.App.Services.GetRequiredService<Tokens>().MakeAsync(person, "test", scope, null);
        client.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", token);
        return new ApiClient(client);
    }

    public void Dispose() => Demo.Dispose();

    private async Task<IReadOnlyList<(HttpClient, Guid)>> SetUpAsync()
    {
        var project = await Demo.Api.NewChainAsync();
        var roles = Demo.App.Services.GetRequiredService<ProjectRoles>();
        await roles.GiveAsync(project, "bert", ProjectRole.Viewer);
        await roles.GiveAsync(project, "oona", ProjectRole.Member);
        await roles.GiveAsync(project, "jonas", ProjectRole.Coordinator);
        return
        [
            .. new[] { null, "wanda", "bert", "oona", "jonas", "imke" }.Select(person =>
                (person is null ? Demo.App.CreateClient(new() { AllowAutoRedirect = false }) : Demo.App.SignedIn(person), project)
            ),
        ];
    }
}
