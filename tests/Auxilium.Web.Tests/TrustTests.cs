using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;
using Auxilium.Exchange.Edits;
using Auxilium.Planning.Editing;
using Auxilium.Storage;
using Auxilium.Storage.Access;
using Auxilium.Storage.Notices;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

/// <summary>Who may do what once things change: roles, sign-ins, tokens, people.</summary>
public sealed class TrustTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private ProjectRoles Roles => demo.App.Services.GetRequiredService<ProjectRoles>();

    [Fact]
    public async Task Taking_back_needs_the_right_that_the_edit_needs()
    {
        var project = await demo.Api.NewChainAsync();
        await Roles.GiveAsync(project, "jonas", ProjectRole.Coordinator);
        var jonas = new ApiClient(demo.App.SignedIn("jonas"));
        await jonas.EditAsync(project, """{"type":"removeTasks","tasks":["b"]}""", 1);
        await Roles.GiveAsync(project, "jonas", ProjectRole.Member);
        var undone = await jonas.TakeBackAsync(project);
        Assert.Equal((HttpStatusCode.Forbidden, "mayNot"), (undone.Status, undone.Body["code"]!.GetValue<string>()));
        Assert.DoesNotContain("\"b\"", await demo.Api.PlanAsync(project), StringComparison.Ordinal);
        // What is theirs to report is theirs to take back.
        await demo.Api.EditAsync(project, """{"type":"setOwner","task":"a","owner":"Jonas"}""", 2);
        Assert.Equal(
            HttpStatusCode.OK,
            (await jonas.EditAsync(project, """{"type":"reportProgress","task":"a","progress":0.5}""", 3)).Status
        );
        Assert.Equal(HttpStatusCode.OK, (await jonas.TakeBackAsync(project)).Status);
        Assert.Equal(HttpStatusCode.OK, (await jonas.TakeBackAsync(project, "lastTakeBack")).Status);
        // A program that only reports, of somebody who may do everything.
        await demo.Api.EditAsync(project, """{"type":"renameTask","task":"a","name":"Aa"}""", 6);
        var reporting = await WithTokenAsync("imke", TokenScope.Report);
        Assert.Equal(HttpStatusCode.Forbidden, (await reporting.TakeBackAsync(project)).Status);
        Assert.Equal(HttpStatusCode.OK, (await demo.Api.TakeBackAsync(project)).Status);
        Assert.Equal(HttpStatusCode.Forbidden, (await reporting.TakeBackAsync(project, "lastTakeBack")).Status);
    }

    [Theory]
    [InlineData(
        """
            {"type":"together", "edits":[{"type":"renameTask", "task":"a", "name":"Harmless"}, {"type":"together",
            "edits":[{"type":"setCoordinator", "person":"oona"}]}]}
            """
    )]
    [InlineData("""{"type":"setCoordinator","person":"oona"}""")]
    [InlineData("""{"type":"joinPlan","person":{"id":"bert","name":"Bert Stolk","initials":"BS"}}""")]
    [InlineData("""{"type":"setOwner","task":"a","owner":"Bert"}""")]
    [InlineData("""{"type":"leavePlan","person":"oona"}""")]
    [InlineData("""{"type":"setPersonCalendar","person":"oona","calendar":null}""")]
    public async Task Who_may_what_is_decided_and_not_proposed(string edit)
    {
        var project = await WithOonaAsync();
        var answer = await new ApiClient(demo.App.SignedIn("oona")).EditAsync(project, edit, 1);
        Assert.Equal(
            (HttpStatusCode.Forbidden, true),
            (answer.Status, answer.Detail.Contains("cannot be proposed", StringComparison.Ordinal))
        );
        Assert.Equal("[]", await demo.Api.Http.GetStringAsync($"/api/v1/projects/{project}/proposals"));
        // One that was kept before cannot be accepted.
        var old = Guid.NewGuid();
        if (!edit.Contains("oona\"}", StringComparison.Ordinal))
            return;
        await demo.InDatabaseAsync(db =>
            db.Proposals.Add(
                new ProposalRow
                {
                    Id = old,
                    ProjectId = project,
                    PersonId = "oona",
                    At = DateTime.UtcNow,
                    BaseVersion = 1,
                    Edit = edit,
                    Sentence = "2 changes made together.",
                }
            )
        );
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await demo.Api.PostAsync($"/api/v1/projects/{project}/proposals/{old}/accept", "{}")).Status
        );
    }

    [Fact]
    public async Task Every_part_of_a_proposal_is_told_to_whoever_decides()
    {
        var project = await WithOonaAsync();
        await new ApiClient(demo.App.SignedIn("oona")).EditAsync(
            project,
            """
            {"type":"together", "edits":[{"type":"renameTask", "task":"a", "name":"Harmless"}, {"type":"setFinishBy",
            "finishBy":null}, {"type":"removeTasks", "tasks":["b"]}]}
            """,
            1
        );
        var told = JsonNode.Parse(await demo.Api.Http.GetStringAsync($"/api/v1/projects/{project}/proposals"))![0]![
            "sentence"
        ]!.GetValue<string>();
        foreach (var part in new[] { "is now called Harmless", "has no deadline now", "B removed" })
            Assert.Contains(part, told, StringComparison.Ordinal);
        // Looking again does not calculate it again, until the plan changes.
        var sentences = demo.App.Services.GetRequiredService<Api.ProposalSentences>();
        var store = demo.App.Services.GetRequiredService<PlanStore>();
        var proposal = JsonNode.Parse(await demo.Api.Http.GetStringAsync($"/api/v1/projects/{project}/proposals"))![0]![
            "id"
        ]!.GetValue<Guid>();
        Assert.Equal(told, sentences.Find(proposal, (await store.LoadAsync(project))!)!.Value.Sentence);
        await demo.Api.EditAsync(project, """{"type":"renameTask","task":"c","name":"Other"}""", 2);
        Assert.Null(sentences.Find(proposal, (await store.LoadAsync(project))!));
    }

    [Fact]
    public async Task Whoever_is_shut_out_is_told_nothing_more()
    {
        var (project, other) = (await demo.Api.NewChainAsync(), await demo.Api.NewChainAsync());
        await Roles.GiveAsync(project, "wanda", ProjectRole.Viewer);
        await Roles.GiveAsync(project, "priya", ProjectRole.Viewer);
        await Roles.GiveAsync(other, "priya", ProjectRole.Viewer);
        await using var shutOut = await LiveServers.JoinAsync(demo, "wanda", project, 1);
        await using var revoked = await LiveServers.JoinAsync(demo, "femi", await ForAsync("femi"), 1);
        await using var moved = await LiveServers.JoinAsync(demo, "priya", project, 1);
        await moved.Connection.InvokeCoreAsync("Join", typeof(JsonNode), [other, 1, null]);
        var ended = new[] { shutOut, revoked }.Select(c => c.Ended).ToList();
        await Roles.GiveAsync(project, "wanda", ProjectRole.None, "imke");
        await demo.App.Services.GetRequiredService<Sessions>().EndAllAsync("femi");
        // Disconnected at once, not at the next heartbeat.
        await Task.WhenAll(ended).WaitAsync(TimeSpan.FromSeconds(8));
        await demo.Api.EditAsync(project, """{"type":"renameTask","task":"a","name":"Secret"}""", 1);
        await demo.Api.EditAsync(other, """{"type":"renameTask","task":"a","name":"Theirs"}""", 1);
        // A page that came to another plan is told of that one alone.
        Assert.Contains("Theirs", (await moved.NextAsync("changed")).ToJsonString(), StringComparison.Ordinal);

        async Task<Guid> ForAsync(string person)
        {
            await Roles.GiveAsync(other, person, ProjectRole.Viewer);
            return other;
        }
    }

    [Fact]
    public async Task Somebody_who_is_no_organiser_any_more_is_sent_away_from_plans_that_are_not_theirs()
    {
        var project = await demo.Api.NewChainAsync();
        var directory = demo.App.Services.GetRequiredService<Storage.People.Directory>();
        await directory.SetStandingAsync("greta", true, true, "imke");
        await using var greta = await LiveServers.JoinAsync(demo, "greta", project, 1);
        await directory.SetStandingAsync("greta", false, false, "imke");
        await greta.Ended.WaitAsync(TimeSpan.FromSeconds(8));
    }

    [Theory]
    [InlineData("http://elsewhere.example", HttpStatusCode.Forbidden)]
    [InlineData("null", HttpStatusCode.Forbidden)]
    [InlineData("http://localhost", HttpStatusCode.OK)]
    public async Task A_page_of_another_site_cannot_listen(string origin, HttpStatusCode expected)
    {
        using var client = demo.App.SignedIn();
        client.DefaultRequestHeaders.Add("Origin", origin);
        using var answer = await client.PostAsync("/live/negotiate?negotiateVersion=1", null);
        Assert.Equal(expected, answer.StatusCode);
    }

    [Fact]
    public async Task Signing_in_over_somebody_elses_session_makes_a_new_one_and_ends_theirs()
    {
        var client = demo.App.SignedIn("bert");
        var sessions = demo.App.Services.GetRequiredService<Sessions>();
        var before = (await sessions.OfAsync("bert")).Count;
        using var over = await TestApp.PostFormAsync(client, "/sign-in", "/sign-in?handler=Demo", new() { ["person"] = "wanda" });
        // The token of the page before belongs to the session before.
        client.DefaultRequestHeaders.Remove("X-Auxilium-Token");
        var page = await client.GetStringAsync("/account");
        Assert.Contains("signed in as Wanda Coles", page, StringComparison.Ordinal);
        Assert.Equal(before - 1, (await sessions.OfAsync("bert")).Count);
        var first = (await sessions.OfAsync("wanda"))[0].Id;
        using var again = await TestApp.PostFormAsync(client, "/sign-in", "/sign-in?handler=Demo", new() { ["person"] = "wanda" });
        Assert.DoesNotContain(first, (await sessions.OfAsync("wanda")).Select(s => s.Id));
    }

    [Fact]
    public async Task Signing_out_everywhere_ends_tokens_and_the_calendar_too()
    {
        var client = demo.App.SignedIn("priya");
        var token = await WithTokenAsync("priya", TokenScope.Look);
        var feed = await demo.App.Services.GetRequiredService<Feeds>().MakeAsync("priya");
        using (var open = await demo.App.CreateClient().GetAsync($"/feeds/{feed}.ics"))
            Assert.Equal(HttpStatusCode.OK, open.StatusCode);
        using var everywhere = await TestApp.PostFormAsync(client, "/account", "/account?handler=Everywhere", []);
        using var gone = await token.Http.GetAsync("/api/v1/projects");
        Assert.Equal(HttpStatusCode.Unauthorized, gone.StatusCode);
        using var closed = await demo.App.CreateClient().GetAsync($"/feeds/{feed}.ics");
        Assert.NotEqual(HttpStatusCode.OK, closed.StatusCode);
    }

    [Fact]
    public async Task Whatever_is_wrong_with_a_sign_in_one_password_is_worked_out_and_guesses_are_counted()
    {
        await using var scope = demo.App.Services.CreateAsyncScope();
        var accounts = scope.ServiceProvider.GetRequiredService<UserManager<Account>>();
        var counting = new CountingHasher(accounts.PasswordHasher);
        accounts.PasswordHasher = counting;
        var check = new PasswordCheck(accounts, scope.ServiceProvider.GetRequiredService<AccessLog>());
        var account = (await accounts.FindByIdAsync("oona"))!;
        await accounts.AddPasswordAsync(account, "tide table seven");
        counting.Count = 0;
        async Task<int> CostAsync(Account? of, string password)
        {
            counting.Count = 0;
            Assert.False(await check.IsRightAsync(of, password));
            return counting.Count;
        }
        await check.IsRightAsync(null, "warm up");
        Assert.Equal(1, await CostAsync(null, "wrong"));
        Assert.Equal(1, await CostAsync((await accounts.FindByIdAsync("bert"))!, "wrong"));
        for (var i = 0; i < 8; i++)
            Assert.Equal(1, await CostAsync(account, "wrong"));
        Assert.True(await accounts.IsLockedOutAsync(account));
        Assert.Equal(1, await CostAsync(account, "tide table seven"));
        Assert.Equal(1, await CostAsync(account, new string('x', 500)));
        await accounts.SetLockoutEndDateAsync(account, null);
        Assert.True(await check.IsRightAsync(account, "tide table seven"));
        // The page that asks for the current password counts the same way.
        var client = demo.App.SignedIn("oona");
        for (var i = 0; i < 8; i++)
            using (
                await TestApp.PostFormAsync(
                    client,
                    "/account",
                    "/account?handler=Password",
                    new()
                    {
                        ["Current"] = "guess",
                        ["Password"] = "another good one",
                        ["Again"] = "another good one",
                    }
                )
            ) { }
        using var right = await TestApp.PostFormAsync(
            client,
            "/account",
            "/account?handler=Password",
            new()
            {
                ["Current"] = "tide table seven",
                ["Password"] = "another good one",
                ["Again"] = "another good one",
            }
        );
        Assert.Contains("not the password you have", await right.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Of_two_organisers_who_demote_each_other_at_once_one_stays()
    {
        var directory = demo.App.Services.GetRequiredService<Storage.People.Directory>();
        for (var round = 0; round < 5; round++)
        {
            await directory.SetStandingAsync("tomas", true, true, "imke");
            var done = await Task.WhenAll(
                directory.SetStandingAsync("tomas", false, false, "imke"),
                directory.SetStandingAsync("imke", false, false, "tomas")
            );
            Assert.Single(done, true);
            await directory.SetStandingAsync("imke", true, true, "tomas");
        }
        await directory.SetStandingAsync("tomas", false, false, "imke");
        Assert.False(await directory.LeaveAsync("imke", new DateOnly(2027, 5, 13), "imke"));
        Assert.False(await directory.MergeAsync("imke", "wanda", "imke"));
    }

    [Fact]
    public async Task A_coordinator_enters_days_off_for_their_project_and_learns_nothing_of_others()
    {
        var (theirs, hidden) = (await OfTomasAsync("Quay lights"), await OfTomasAsync("Hidden hull"));
        await Roles.GiveAsync(theirs, "jonas", ProjectRole.Coordinator);
        await Roles.GiveAsync(hidden, "priya", ProjectRole.Coordinator);
        var jonas = demo.App.SignedIn("jonas");
        var before = await demo.Api.PlanAsync(hidden);
        using var entered = await TestApp.PostFormAsync(
            jonas,
            "/people/tomas",
            "/people/tomas?handler=Away",
            new()
            {
                ["From"] = "17 May",
                ["To"] = "18 May",
                ["Note"] = "Dentist",
            }
        );
        var page = WebUtility.HtmlDecode(await entered.Content.ReadAsStringAsync());
        Assert.Contains("Quay lights: Tomas Lindqvist is away", page, StringComparison.Ordinal);
        Assert.DoesNotContain("Hidden hull", page, StringComparison.Ordinal);
        Assert.Equal(before, await demo.Api.PlanAsync(hidden));
        // Who decides there is asked, sees no reason, and says so with a press.
        Assert.Contains(
            "Tomas Lindqvist may be away from Mon 17 May to Tue 18 May",
            await demo.App.SignedIn("priya").GetStringAsync("/notices"),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Jonas Achterberg entered that you are away",
            await demo.App.SignedIn("tomas").GetStringAsync("/notices"),
            StringComparison.Ordinal
        );
        var priya = demo.App.SignedIn("priya");
        var seen = await priya.GetStringAsync("/people/tomas");
        Assert.Contains("entered for another project", seen, StringComparison.Ordinal);
        Assert.DoesNotContain("Dentist", seen, StringComparison.Ordinal);
        await using (var db = await demo.App.Services.GetRequiredService<IDbContextFactory<AuxiliumDb>>().CreateDbContextAsync())
        {
            var days = (await db.TimeOff.SingleAsync(t => t.Note == "Dentist")).Id.ToString(
                System.Globalization.CultureInfo.InvariantCulture
            );
            using var too = await TestApp.PostFormAsync(
                priya,
                "/people/tomas",
                "/people/tomas?handler=AwayToo",
                new() { ["days"] = days }
            );
            Assert.Contains("own-tomas", await demo.Api.PlanAsync(hidden), StringComparison.Ordinal);
            using var gone = await TestApp.PostFormAsync(
                jonas,
                "/people/tomas",
                "/people/tomas?handler=NotAway",
                new() { ["days"] = days }
            );
            Assert.DoesNotContain("own-tomas", await demo.Api.PlanAsync(theirs), StringComparison.Ordinal);
            Assert.Contains("own-tomas", await demo.Api.PlanAsync(hidden), StringComparison.Ordinal);
        }
        using var week = await TestApp.PostFormAsync(jonas, "/people/tomas", "/people/tomas?handler=Save", new() { ["Week"] = "" });
        Assert.Equal(HttpStatusCode.Forbidden, week.StatusCode);
    }

    [Theory]
    [InlineData("jonas", """{"id":"x1","name":"Nell Ash","initials":"NA","email":"nell@tidewell.example"}""", "only an organiser")]
    [InlineData(
        "imke",
        """{"id":"x2","name":"Nell Ash","initials":"NA","email":"oona@tidewell.example"}""",
        "Oona Reilly has this address"
    )]
    [InlineData(
        "imke",
        """{"id":"x3","name":"Nell Ash","initials":"NA","email":"nell@tidewell.example\r\nBcc: all@tidewell.example"}""",
        "no mail address"
    )]
    [InlineData("imke", """{"id":"x4","name":"Nell\r\nAsh","initials":"NA"}""", "one line of text")]
    [InlineData("imke", """{"id":"x5","name":"Nell Ash","initials":"N A"}""", "Initials are")]
    public async Task What_a_document_brings_into_the_directory_passes_the_reader_of_people(string by, string person, string why)
    {
        var answer = await new ApiClient(demo.App.SignedIn(by)).PostAsync(
            "/api/v1/projects",
            $$"""{"format":"auxilium-plan/1","project":{"name":"D","start":"2027-05-03"},"people":[{{person}}],"tasks":[]}"""
        );
        Assert.Equal((HttpStatusCode.BadRequest, true), (answer.Status, answer.Detail.Contains(why, StringComparison.Ordinal)));
        Assert.StartsWith("$.people[0].", answer.Body["errors"]![0]!["path"]!.GetValue<string>(), StringComparison.Ordinal);
        var joined = await demo.Api.EditAsync(await demo.Api.NewChainAsync(), $$"""{"type":"joinPlan","person":{{person}}}""", 1);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, joined.Status);
    }

    [Fact]
    public async Task Who_was_only_made_by_a_slip_is_told_and_gone_with_undo()
    {
        var project = await demo.Api.NewChainAsync();
        var directory = demo.App.Services.GetRequiredService<Storage.People.Directory>();
        var slip = await demo.Api.EditAsync(project, """{"type":"setOwner","task":"a","owner":"Wanda Cloes"}""", 1);
        Assert.Contains(
            "Wanda Cloes is new here and joined the plan. Did you mean Wanda Coles?",
            ApiClient.Sentence(slip.Body),
            StringComparison.Ordinal
        );
        Assert.NotNull(await directory.FindAsync("wanda-cloes"));
        await demo.Api.TakeBackAsync(project);
        Assert.Null(await directory.FindAsync("wanda-cloes"));
        await demo.Api.TakeBackAsync(project, "lastTakeBack");
        Assert.NotNull(await directory.FindAsync("wanda-cloes"));
        // Used elsewhere meanwhile, they stay.
        var other = await demo.Api.NewChainAsync();
        await demo.Api.EditAsync(other, """{"type":"setOwner","task":"a","owner":"Wanda Cloes"}""", 1);
        await demo.Api.TakeBackAsync(project);
        Assert.NotNull(await directory.FindAsync("wanda-cloes"));
        await demo.Api.TakeBackAsync(other);
        Assert.Null(await directory.FindAsync("wanda-cloes"));
    }

    [Fact]
    public async Task Nobody_who_left_is_given_new_work()
    {
        var project = await demo.Api.NewChainAsync();
        await demo.InDatabaseAsync(db =>
            db.People.Add(
                new PersonRow
                {
                    Id = "gus",
                    Name = "Gus Marsh",
                    Initials = "GM",
                    LeftOn = new DateOnly(2027, 5, 1),
                }
            )
        );
        foreach (
            var edit in new[]
            {
                """{"type":"setOwner","task":"a","owner":"Gus Marsh"}""",
                """{"type":"addHelper","task":"a","helper":"gus"}""",
                """{"type":"joinPlan","person":{"id":"gus","name":"Gus Marsh","initials":"GM"}}""",
            }
        )
        {
            var refused = await demo.Api.EditAsync(project, edit, 1);
            Assert.Equal(
                (HttpStatusCode.UnprocessableEntity, true),
                (refused.Status, refused.Detail.StartsWith("Gus Marsh has left", StringComparison.Ordinal))
            );
        }
    }

    [Fact]
    public async Task What_opens_an_account_is_noted_for_organisers_and_mailed_to_its_person()
    {
        var project = await demo.Api.NewChainAsync();
        var imke = demo.App.SignedIn();
        using (
            await TestApp.PostFormAsync(
                imke,
                $"/projects/{project}/sharing",
                $"/projects/{project}/sharing?handler=Link",
                new() { ["For"] = "Noted office" }
            )
        ) { }
        using (
            await TestApp.PostFormAsync(
                imke,
                $"/projects/{project}/sharing",
                $"/projects/{project}/sharing?handler=Roles",
                new()
                {
                    ["person"] = "bert",
                    ["was"] = "Member",
                    ["role"] = "Viewer",
                }
            )
        ) { }
        using (
            await TestApp.PostFormAsync(
                imke,
                "/account",
                "/account?handler=Token",
                new()
                {
                    ["TokenName"] = "Wall",
                    ["scope"] = "Look",
                    ["days"] = "1",
                }
            )
        ) { }
        using (await TestApp.PostFormAsync(imke, "/account", "/account?handler=Feed", [])) { }
        var trail = WebUtility.HtmlDecode(await imke.GetStringAsync("/audit"));
        foreach (
            var noted in new[]
            {
                "made a link for “Noted office”",
                "Bert Stolk is a viewer.",
                "made the token “Wall”, which reads.",
                "made a calendar address",
            }
        )
            Assert.Contains(noted, trail, StringComparison.Ordinal);
        await using var db = await demo.App.Services.GetRequiredService<IDbContextFactory<AuxiliumDb>>().CreateDbContextAsync();
        Assert.True(await db.Mails.AnyAsync(m => m.To == "imke@tidewell.example" && m.Subject == "Your account was changed"));
    }

    [Theory]
    [InlineData("/")]
    [InlineData("/people")]
    [InlineData("/account")]
    [InlineData("/my-week")]
    [InlineData("/notices")]
    [InlineData("/api/v1/projects")]
    [InlineData("/projects/{id}")]
    [InlineData("/projects/{id}/journal")]
    [InlineData("/api/v1/projects/{id}/plan")]
    [InlineData("/api/v1/projects/{id}/tasks/a")]
    public async Task Nothing_personal_is_kept_by_a_browser(string path)
    {
        var project = await demo.Api.NewChainAsync();
        using var answer = await demo.Api.Http.GetAsync(path.Replace("{id}", project.ToString(), StringComparison.Ordinal));
        Assert.True(answer.Headers.CacheControl?.NoStore, $"{path} may be kept: {answer.Headers.CacheControl}");
    }

    [Fact]
    public void The_edits_that_decide_who_may_what_are_known_as_such_however_deep_they_lie()
    {
        var json = new EditJson(new DateOnly(2027, 5, 13));
        Assert.False(
            OwnWork.MayBeProposed(
                json.Read("""{"type":"together","edits":[{"type":"together","edits":[{"type":"leavePlan","person":"x"}]}]}""")
            )
        );
        Assert.True(OwnWork.MayBeProposed(new RenameTask("a", "b")));
    }

    private async Task<Guid> WithOonaAsync()
    {
        var project = await demo.Api.NewChainAsync();
        await Roles.GiveAsync(project, "oona", ProjectRole.Member);
        await demo.Api.EditAsync(project, """{"type":"setOwner","task":"c","owner":"Oona"}""", 1);
        return project;
    }

    private Task<Guid> OfTomasAsync(string name) =>
        demo.Api.CreateAsync(
            $$"""
            {"format":"auxilium-plan/1", "project":{"name":"{{name}}", "start":"2027-05-17"}, "people":[{"id":"tomas",
              "name":"Tomas Lindqvist", "initials":"TL"}],
             "tasks":[{"id":"a","name":"A","length":"2d","assignments":[{"person":"tomas"}]}]}
            """
        );

    private async Task<ApiClient> WithTokenAsync(string person, TokenScope scope)
    {
        var client = demo.App.CreateClient();
        client.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue(
            "Bearer",
            await demo.App.Services.GetRequiredService<Tokens>().MakeAsync(person, "test", scope, null)
        );
        return new ApiClient(client);
    }

    private sealed class CountingHasher(IPasswordHasher<Account> real) : IPasswordHasher<Account>
    {
        public int Count { get; set; }

        public string HashPassword(Account user, string password) => real.HashPassword(user, password);

        public PasswordVerificationResult VerifyHashedPassword(Account user, string hashedPassword, string providedPassword)
        {
            Count++;
            return real.VerifyHashedPassword(user, hashedPassword, providedPassword);
        }
    }
}
