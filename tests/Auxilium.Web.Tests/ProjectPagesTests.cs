using System.Net;
using Auxilium.Storage.Rows;
using Auxilium.Web.Pages;

namespace Auxilium.Web.Tests;

/// <summary>One list has the pages of a project: every one of them is there, for whom it says, and is offered to no one else.</summary>
public class ProjectPagesTests(RightsApp app) : IClassFixture<RightsApp>
{
    /// <summary>Money is for coordinators, where they let nobody else.</summary>
    private static bool May(ProjectPage page, ProjectRole role) =>
        role >= page.Role && (!page.NeedsMoney || role == ProjectRole.Coordinator);

    public static TheoryData<string> Names => [.. ProjectPages.All.Select(page => page.Name)];

    [Theory]
    [MemberData(nameof(Names))]
    public async Task A_page_opens_for_those_who_may_see_it_and_its_head_offers_what_they_may(string name)
    {
        var page = ProjectPages.All.Single(p => p.Name == name);
        ProjectRole[] roles = [ProjectRole.None, ProjectRole.Viewer, ProjectRole.Member, ProjectRole.Coordinator, ProjectRole.Coordinator];
        // The first of the fixture is not signed in at all.
        foreach (var ((client, project), role) in app.Roles.Skip(1).Zip(roles))
        {
            var root = $"/projects/{project}";
            using var answer = await client.GetAsync(page.At(root));
            Assert.Equal(
                !May(page, role) ? (role == ProjectRole.None ? HttpStatusCode.NotFound : HttpStatusCode.Forbidden) : HttpStatusCode.OK,
                answer.StatusCode
            );
            if (!answer.IsSuccessStatusCode)
                continue;
            var html = await answer.Content.ReadAsStringAsync();
            Assert.Contains($"href=\"{page.At(root)}\" aria-current=\"page\">{name}</a>", html, StringComparison.Ordinal);
            foreach (var other in ProjectPages.All.Where(p => p.IsOffered && p.Name != name))
                Assert.Equal(May(other, role), html.Contains($"href=\"{other.At(root)}\">{other.Name}</a>", StringComparison.Ordinal));
        }
    }
}
