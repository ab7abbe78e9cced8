using System.Net;
using System.Security.Claims;
using System.Text.Encodings.Web;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Routing;
using Microsoft.AspNetCore.TestHost;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;
using Microsoft.Extensions.Options;

namespace Auxilium.Web.Tests;

/// <summary>Every route × nobody, somebody who may look, and the coordinator.</summary>
public class RightsTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private static readonly string[] OpenToAll = ["/healthz", "/error"];

    [Fact]
    public void Every_route_but_the_open_ones_names_the_right_it_needs()
    {
        var endpoints = demo.App.Services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>()
            // The framework's own fallback for files in development; it falls under the policy of all that name none.
            .Where(e => e.RoutePattern.RawText != "{**path:file}").ToList();
        Assert.True(endpoints.Count > 10);
        foreach (var endpoint in endpoints)
        {
            var route = "/" + endpoint.RoutePattern.RawText!.TrimStart('/');
            var open = endpoint.Metadata.GetMetadata<IAllowAnonymous>() is not null;
            var isAsset = Path.HasExtension(route) && !route.StartsWith("/openapi", StringComparison.Ordinal) && !route.StartsWith("/api", StringComparison.Ordinal);
            if (open) Assert.True(isAsset || OpenToAll.Contains(route), $"{route} is open to everybody.");
            else Assert.True(endpoint.Metadata.GetOrderedMetadata<IAuthorizeData>().Count > 0, $"{route} names no right ({endpoint.DisplayName}).");
        }
    }

    [Theory]
    [InlineData("GET", "/", 401, 200)]
    [InlineData("GET", "/projects/new", 401, 403)]
    [InlineData("POST", "/projects/new", 401, 403)]
    [InlineData("GET", "/projects/{id}", 401, 200)]
    [InlineData("GET", "/api/v1/projects", 401, 200)]
    [InlineData("GET", "/api/v1/projects/{id}/plan", 401, 200)]
    [InlineData("GET", "/api/v1/projects/{id}/edits/last", 401, 404)]
    [InlineData("GET", "/projects/{id}/check-up", 401, 200)]
    [InlineData("GET", "/projects/{id}/lanes", 401, 200)]
    [InlineData("GET", "/projects/{id}/month", 401, 200)]
    [InlineData("GET", "/projects/{id}/chains", 401, 200)]
    [InlineData("GET", "/projects/{id}/anything", 401, 404)]
    [InlineData("GET", "/projects/{id}/journal", 401, 200)]
    [InlineData("GET", "/api/v1/projects/{id}/journal", 401, 200)]
    [InlineData("GET", "/projects/{id}/forecast", 401, 200)]
    [InlineData("GET", "/projects/{id}/settings", 401, 200)]
    [InlineData("GET", "/api/v1/projects/{id}/tasks/a", 401, 200)]
    [InlineData("GET", "/api/v1/projects/{id}/check-up", 401, 200)]
    [InlineData("GET", "/api/v1/projects/{id}/forecast?runs=10", 401, 200)]
    [InlineData("POST", "/api/v1/projects/{id}/calendars/year?year=2027", 401, 400)]
    [InlineData("GET", "/api/v1/calendars/ready-made", 401, 200)]
    [InlineData("GET", "/api/v1/holidays", 401, 200)]
    [InlineData("GET", "/api/v1/holidays/ireland?from=2027&to=2028", 401, 200)]
    [InlineData("POST", "/api/v1/projects", 401, 403)]
    [InlineData("POST", "/api/v1/projects/{id}/edits", 401, 403)]
    [InlineData("POST", "/api/v1/projects/{id}/lists", 401, 403)]
    [InlineData("POST", "/api/v1/projects/{id}/tasks/a/repeats", 401, 403)]
    [InlineData("PUT", "/api/v1/projects/{id}/look", 401, 415)]
    [InlineData("GET", "/api/v1/projects/{id}/tasks/a/talk", 401, 200)]
    [InlineData("POST", "/api/v1/projects/{id}/tasks/a/comments", 401, 403)]
    [InlineData("DELETE", "/api/v1/projects/{id}/tasks/a/comments/1", 401, 403)]
    [InlineData("POST", "/api/v1/projects/{id}/tasks/a/files?name=a.txt", 401, 403)]
    [InlineData("DELETE", "/api/v1/projects/{id}/tasks/a/files/0197a000-0000-7000-8000-000000000000", 401, 403)]
    [InlineData("GET", "/files/{id}/0197a000-0000-7000-8000-000000000000/a.txt", 401, 404)]
    [InlineData("POST", "/api/v1/schedule", 401, 400)]
    [InlineData("GET", "/api/v1/schema/auxilium-plan-1.json", 401, 200)]
    [InlineData("GET", "/openapi/v1.json", 401, 200)]
    [InlineData("GET", "/healthz", 200, 200)]
    public async Task Who_may_do_what(string method, string route, int nobody, int looker)
    {
        var project = await demo.Api.NewChainAsync();
        foreach (var (role, expected) in new[] { ("nobody", nobody), ("looker", looker) })
        {
            await using var app = demo.App.WithWebHostBuilder(builder => builder.ConfigureTestServices(services =>
                services.AddAuthentication("Test").AddScheme<AuthenticationSchemeOptions, SignInAs>("Test", null)));
            using var request = new HttpRequestMessage(new HttpMethod(method), route.Replace("{id}", project.ToString(), StringComparison.Ordinal));
            request.Headers.Add("As", role);
            if (method == "POST") request.Content = new StringContent("{}", System.Text.Encoding.UTF8, "application/json");
            using var response = await app.CreateClient().SendAsync(request);
            Assert.Equal((HttpStatusCode)expected, response.StatusCode);
        }
    }

    /// <summary>Signs in whom the header names.</summary>
    private sealed class SignInAs(IOptionsMonitor<AuthenticationSchemeOptions> options, ILoggerFactory logger, UrlEncoder encoder)
        : AuthenticationHandler<AuthenticationSchemeOptions>(options, logger, encoder)
    {
        protected override Task<AuthenticateResult> HandleAuthenticateAsync()
        {
            if (Request.Headers["As"] != "looker") return Task.FromResult(AuthenticateResult.NoResult());
            Claim[] claims = [new(ClaimTypes.NameIdentifier, "oona"), new(ClaimTypes.Name, "Oona Reilly"), new(Access.Rights.InitialsClaim, "OR")];
            return Task.FromResult(AuthenticateResult.Success(new AuthenticationTicket(new ClaimsPrincipal(new ClaimsIdentity(claims, "Test")), "Test")));
        }
    }
}
