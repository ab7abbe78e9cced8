using System.Net;
using Auxilium.Storage;
using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

/// <summary>Projects that are over.</summary>
public class ClosedProjectsTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private const string Plan = """
        {"format":"auxilium-plan/1", "project":{"name":"Winter store", "start":"2027-05-10"}, "people":[{"id":"wanda",
          "name":"Wanda Coles", "initials":"WC"}],
         "tasks":[{"id":"a","name":"Clear the shed","length":"3d","assignments":[{"person":"wanda"}]}]}
        """;

    [Fact]
    public async Task What_is_archived_is_looked_at_and_changed_no_more_until_it_comes_back()
    {
        var project = await demo.Api.CreateAsync(
            Plan.Replace("Winter store", "Summer store", StringComparison.Ordinal).Replace("shed", "loft", StringComparison.Ordinal)
        );
        var (imke, wanda) = (demo.App.SignedIn(), demo.App.SignedIn("wanda"));
        Assert.Contains("Clear the loft", await wanda.GetStringAsync("/my-week"), StringComparison.Ordinal);
        Assert.Contains("Archive project", await imke.GetStringAsync($"/projects/{project}/close"), StringComparison.Ordinal);
        Assert.Contains("is archived", await PostAsync(imke, $"/projects/{project}/close", "Archive"), StringComparison.Ordinal);

        Assert.DoesNotContain("Summer store", MainOf(await imke.GetStringAsync("/projects")), StringComparison.Ordinal);
        Assert.DoesNotContain("Clear the loft", await wanda.GetStringAsync("/my-week"), StringComparison.Ordinal);
        Assert.Contains("Clear the loft", await imke.GetStringAsync($"/projects/{project}"), StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await demo.Api.EditAsync(project, """{"type":"renameTask","task":"a","name":"B"}""", 1)).Status
        );
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await new ApiClient(wanda).EditAsync(project, """{"type":"finishTask","task":"a"}""", 1)).Status
        );

        // Who does not coordinate it is not offered it, nor can bring it back.
        Assert.DoesNotContain("Summer store", await wanda.GetStringAsync("/archive"), StringComparison.Ordinal);
        Assert.Contains("cannot be brought back", await BringBackAsync(wanda, project), StringComparison.Ordinal);
        Assert.Contains("is back", await BringBackAsync(imke, project), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.OK, (await demo.Api.EditAsync(project, """{"type":"renameTask","task":"a","name":"B"}""", 1)).Status);
    }

    [Fact]
    public async Task What_is_deleted_is_gone_for_everybody_and_comes_back_whole_within_thirty_days()
    {
        var project = await demo.Api.CreateAsync(Plan);
        var imke = demo.App.SignedIn();
        using var made = await TestApp.PostFormAsync(
            imke,
            $"/projects/{project}/sharing",
            $"/projects/{project}/sharing?handler=Link",
            new() { ["For"] = "Band" }
        );
        var link = SharingTests.LinkIn(await made.Content.ReadAsStringAsync());
        await demo.Api.EditAsync(project, """{"type":"setLength","task":"a","length":"5d"}""", 1);
        var plan = await demo.Api.PlanAsync(project);

        Assert.Contains(
            "This is not the name of the project",
            WebUtility.HtmlDecode(await PostAsync(imke, $"/projects/{project}/close", "Delete", new() { ["Typed"] = "Winter" })),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "is deleted",
            await PostAsync(imke, $"/projects/{project}/close", "Delete", new() { ["Typed"] = "winter store" }),
            StringComparison.Ordinal
        );
        foreach (
            var route in new[]
            {
                $"/projects/{project}",
                $"/api/v1/projects/{project}/plan",
                $"/api/v1/projects/{project}/journal",
                $"/projects/{project}/report",
            }
        )
            Assert.Equal(HttpStatusCode.NotFound, (await imke.GetAsync(route)).StatusCode);
        Assert.Equal(HttpStatusCode.Gone, (await demo.App.CreateClient().GetAsync(link)).StatusCode);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await demo.Api.EditAsync(project, """{"type":"renameTask","task":"a","name":"B"}""", 2)).Status
        );
        Assert.DoesNotContain(project.ToString(), await imke.GetStringAsync("/api/v1/projects"), StringComparison.Ordinal);

        Assert.Contains("gone for good on", await imke.GetStringAsync("/archive"), StringComparison.Ordinal);
        Assert.Contains("is back", await BringBackAsync(imke, project), StringComparison.Ordinal);
        Assert.Equal(plan, await demo.Api.PlanAsync(project));
        Assert.Equal(HttpStatusCode.OK, (await demo.App.CreateClient().GetAsync(link)).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await demo.Api.TakeBackAsync(project)).Status);
        var audit = WebUtility.HtmlDecode(await imke.GetStringAsync("/audit"));
        foreach (var did in new[] { "deleted the project “Winter store”", "brought the project “Winter store” back" })
            Assert.Contains(did, audit, StringComparison.Ordinal);
    }

    [Fact]
    public async Task After_thirty_days_everything_of_it_is_removed()
    {
        var project = await demo.Api.CreateAsync(Plan);
        await demo.Api.EditAsync(project, """{"type":"setLength","task":"a","length":"5d"}""", 1);
        var closed = demo.App.Services.GetRequiredService<ClosedProjects>();
        await closed.CloseAsync(project, delete: true, "imke");
        await closed.ClearAsync();
        Assert.Equal((1, 1, 1), await LeftAsync());
        await demo.InDatabaseAsync(db =>
            db.Projects.IgnoreQueryFilters().Single(p => p.Id == project).DeletedAt = DateTime.SpecifyKind(
                DateTime.UtcNow.AddDays(-31),
                DateTimeKind.Unspecified
            )
        );
        await closed.ClearAsync();
        Assert.Equal((0, 0, 0), await LeftAsync());

        async Task<(int, int, int)> LeftAsync()
        {
            await using var db = await demo.App.Services.GetRequiredService<IDbContextFactory<AuxiliumDb>>().CreateDbContextAsync();
            return (
                await db.Projects.IgnoreQueryFilters().CountAsync(p => p.Id == project),
                await db.Tasks.CountAsync(t => db.Plans.Any(p => p.Id == t.PlanId && p.ProjectId == project)),
                await db.Journal.CountAsync(j => db.Plans.Any(p => p.Id == j.PlanId && p.ProjectId == project))
            );
        }
    }

    private static string MainOf(string page) => page[page.IndexOf("<main", StringComparison.Ordinal)..];

    private static async Task<string> BringBackAsync(HttpClient client, Guid project)
    {
        using var answer = await TestApp.PostFormAsync(client, "/account", "/archive", new() { ["project"] = project.ToString() });
        return await answer.Content.ReadAsStringAsync();
    }

    private static async Task<string> PostAsync(HttpClient client, string page, string handler, Dictionary<string, string>? fields = null)
    {
        using var answer = await TestApp.PostFormAsync(client, page, $"{page}?handler={handler}", fields ?? []);
        return await answer.Content.ReadAsStringAsync();
    }
}
