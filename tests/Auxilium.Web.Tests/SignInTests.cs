using System.Net;
using System.Security.Cryptography;
using System.Text.RegularExpressions;
using Auxilium.Storage.Access;
using Auxilium.Storage.Notices;
using Auxilium.Storage.People;
using Microsoft.AspNetCore.Hosting;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;

namespace Auxilium.Web.Tests;

/// <summary>Passwords, invitations, two-step sign-in, sessions.</summary>
public partial class SignInTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private const string Good = "seven tides a week";

    [Fact]
    public async Task Without_a_sign_in_pages_lead_there_and_back()
    {
        var client = demo.App.CreateClient();
        using var asked = await client.GetAsync("/projects/new");
        Assert.Equal("/sign-in?to=%2Fprojects%2Fnew", asked.RequestMessage!.RequestUri!.PathAndQuery);
        using var signedIn = await TestApp.PostFormAsync(
            client,
            "/sign-in?to=%2Fprojects%2Fnew",
            "/sign-in?handler=Demo",
            new() { ["person"] = "imke", ["to"] = "/projects/new" }
        );
        Assert.Equal("/projects/new", signedIn.RequestMessage!.RequestUri!.PathAndQuery);
        using var elsewhere = await TestApp.PostFormAsync(
            client,
            "/sign-in",
            "/sign-in?handler=Demo",
            new() { ["person"] = "imke", ["to"] = "//evil.example/" }
        );
        Assert.Equal("/", elsewhere.RequestMessage!.RequestUri!.PathAndQuery);
    }

    [Fact]
    public async Task An_invitation_opens_once_and_makes_a_member_of_the_organisation()
    {
        var (person, link) = await InviteAsync("Nadia Brook", "nadia@tidewell.example");
        var client = demo.App.CreateClient();
        var weak = await PostAsync(client, link, new() { ["Password"] = "password123", ["Again"] = "password123" });
        Assert.Contains("easy to guess", weak, StringComparison.Ordinal);
        var differs = await PostAsync(client, link, new() { ["Password"] = Good, ["Again"] = Good + "!" });
        Assert.Contains("not the same as above", differs, StringComparison.Ordinal);
        Assert.Contains(
            "signed in as Nadia Brook",
            await PostAsync(client, link, new() { ["Password"] = Good, ["Again"] = Good }),
            StringComparison.Ordinal
        );
        using var again = await demo.App.CreateClient().GetAsync(link);
        Assert.Equal(HttpStatusCode.Gone, again.StatusCode);
        var page = await again.Content.ReadAsStringAsync();
        Assert.Contains("does not open", page, StringComparison.Ordinal);
        Assert.DoesNotContain("Nadia", page, StringComparison.Ordinal);
        Assert.Contains(
            "signed in as Nadia Brook",
            await SignInAsync(demo.App.CreateClient(), "NADIA@tidewell.example", Good),
            StringComparison.Ordinal
        );
        Assert.Contains(person, (await demo.App.Services.GetRequiredService<Storage.People.Directory>().AccountsAsync()).Keys);
    }

    [Fact]
    public async Task A_wrong_password_an_unknown_address_and_a_locked_account_are_told_in_the_same_words()
    {
        var (_, link) = await InviteAsync("Lew Lock", "lew@tidewell.example");
        await PostAsync(demo.App.CreateClient(), link, new() { ["Password"] = Good, ["Again"] = Good });
        var unknown = Problem(await SignInAsync(demo.App.CreateClient(), "nobody@tidewell.example", Good));
        for (var i = 0; i < 8; i++)
            Assert.Equal(unknown, Problem(await SignInAsync(demo.App.CreateClient(), "lew@tidewell.example", "wrong wrong wrong")));
        Assert.Equal(unknown, Problem(await SignInAsync(demo.App.CreateClient(), "lew@tidewell.example", Good)));
    }

    [Fact]
    public async Task A_forgotten_password_is_replaced_once_by_a_mailed_link_and_signs_out_everywhere()
    {
        var (_, link) = await InviteAsync("Fay Gott", "fay@tidewell.example");
        var first = demo.App.CreateClient();
        await PostAsync(first, link, new() { ["Password"] = Good, ["Again"] = Good });
        var unknown = await PostAsync(demo.App.CreateClient(), "/forgot", new() { ["MailAddress"] = "nobody@tidewell.example" });
        var known = await PostAsync(demo.App.CreateClient(), "/forgot", new() { ["MailAddress"] = "fay@tidewell.example" });
        Assert.Equal(Content().Match(unknown).Value, Content().Match(known).Value);
        var reset = Reset().Match(await MailToAsync("fay@tidewell.example", "Choose a new password")).Value;
        Assert.Contains(
            "Sign in with it",
            await PostAsync(demo.App.CreateClient(), reset, new() { ["Password"] = Good + " two", ["Again"] = Good + " two" }),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "run out or was used",
            await PostAsync(demo.App.CreateClient(), reset, new() { ["Password"] = Good + " three", ["Again"] = Good + " three" }),
            StringComparison.Ordinal
        );
        using var signedOut = await first.GetAsync("/account");
        Assert.Contains("/sign-in", signedOut.RequestMessage!.RequestUri!.PathAndQuery, StringComparison.Ordinal);
        Assert.Contains(
            "signed in as Fay Gott",
            await SignInAsync(demo.App.CreateClient(), "fay@tidewell.example", Good + " two"),
            StringComparison.Ordinal
        );
        Assert.DoesNotContain(await MailToAsync("fay@tidewell.example", "Your password was changed"), Good, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_second_step_asks_for_a_code_and_takes_each_spare_code_once()
    {
        var (_, link) = await InviteAsync("Tess Totp", "tess@tidewell.example");
        var client = demo.App.CreateClient();
        await PostAsync(client, link, new() { ["Password"] = Good, ["Again"] = Good });
        var setUp = await PostAsync(client, "/account", "/account?handler=SetUp", []);
        var key = Key().Match(setUp).Groups[1].Value.Replace(" ", "", StringComparison.Ordinal);
        Assert.Contains(
            "do not",
            Problem(await PostAsync(client, "/account", "/account?handler=TurnOn", new() { ["Code"] = "000000" }))
                .Replace("not the digits", "do not", StringComparison.Ordinal),
            StringComparison.Ordinal
        );
        var used = CodeOf(key);
        var on = await PostAsync(client, "/account", "/account?handler=TurnOn", new() { ["Code"] = used });
        var spare = Spare().Matches(on).Select(m => m.Groups[1].Value).ToList();
        Assert.Equal(10, spare.Count);

        var second = demo.App.CreateClient();
        Assert.Contains("Two-step sign-in", await SignInAsync(second, "tess@tidewell.example", Good), StringComparison.Ordinal);
        Assert.Contains(
            "does not fit",
            await PostAsync(second, "/sign-in/second-step", new() { ["Code"] = "123456" }),
            StringComparison.Ordinal
        );
        // What turned it on has been used; the next one opens, and once.
        Assert.Contains(
            "does not fit",
            await PostAsync(second, "/sign-in/second-step", new() { ["Code"] = used }),
            StringComparison.Ordinal
        );
        var next = CodeOf(key, 1);
        Assert.Contains(
            "signed in as Tess Totp",
            await PostAsync(second, "/sign-in/second-step", new() { ["Code"] = next }),
            StringComparison.Ordinal
        );
        foreach (var old in new[] { next, used, CodeOf(key, 2), CodeOf(key, -2) })
        {
            var late = demo.App.CreateClient();
            await SignInAsync(late, "tess@tidewell.example", Good);
            Assert.Contains(
                "does not fit",
                await PostAsync(late, "/sign-in/second-step", new() { ["Code"] = old }),
                StringComparison.Ordinal
            );
        }
        foreach (var (expected, code) in new[] { ("signed in as Tess Totp", spare[0]), ("does not fit", spare[0]) })
        {
            var another = demo.App.CreateClient();
            await SignInAsync(another, "tess@tidewell.example", Good);
            Assert.Contains(
                expected,
                await PostAsync(another, "/sign-in/second-step", new() { ["Code"] = code }),
                StringComparison.Ordinal
            );
        }
    }

    [Fact]
    public async Task Sessions_are_listed_and_ended_and_signing_out_everywhere_ends_all()
    {
        var (here, there) = (demo.App.SignedIn("femi"), demo.App.SignedIn("femi"));
        var page = await here.GetStringAsync("/account");
        var other = Session().Match(page).Groups[1].Value;
        Assert.NotEqual("", other);
        await PostAsync(here, "/account", "/account?handler=End", new() { ["session"] = other });
        Assert.Contains("Sign in", await there.GetStringAsync("/account"), StringComparison.Ordinal);
        var third = demo.App.SignedIn("femi");
        await PostAsync(here, "/account", "/account?handler=Everywhere", []);
        foreach (var client in new[] { here, third })
            Assert.Contains("This is a demo", await client.GetStringAsync("/account"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Cookies_are_kept_from_scripts_and_other_sites_and_the_key_is_not_in_the_database()
    {
        var client = demo.App.CreateClient(new() { AllowAutoRedirect = false, HandleCookies = true });
        using var answer = await TestApp.PostFormAsync(client, "/sign-in", "/sign-in?handler=Demo", new() { ["person"] = "oona" });
        foreach (var cookie in answer.Headers.GetValues("Set-Cookie"))
        {
            Assert.Contains("httponly", cookie, StringComparison.OrdinalIgnoreCase);
            Assert.Matches("samesite=(lax|strict)", cookie.ToLowerInvariant());
        }
        Assert.All(await demo.App.Services.GetRequiredService<Sessions>().OfAsync("oona"), s => Assert.Equal(32, s.KeyHash.Length));
    }

    [Fact]
    public async Task No_secret_is_in_a_log()
    {
        using var kept = new KeptLog();
        await using var app = demo.App.WithWebHostBuilder(builder => builder.ConfigureLogging(logging => logging.AddProvider(kept)));
        var client = app.CreateClient();
        var (_, link) = await InviteAsync("Log Book", "log@tidewell.example");
        await PostAsync(client, link, new() { ["Password"] = Good, ["Again"] = Good });
        await SignInAsync(app.CreateClient(), "log@tidewell.example", "a wrong password of mine");
        var made = await PostAsync(
            client,
            "/account",
            "/account?handler=Token",
            new()
            {
                ["TokenName"] = "t",
                ["scope"] = "Edit",
                ["days"] = "30",
            }
        );
        var token = Token().Match(made).Value;
        Assert.NotEqual("", token);
        var program = app.CreateClient();
        program.DefaultRequestHeaders.Authorization = new("Bearer", token);
        await program.GetAsync("/api/v1/projects");
        await program.PostAsync("/api/v1/projects", new StringContent("{ broken"));
        await PostAsync(app.CreateClient(), "/forgot", new() { ["MailAddress"] = "log@tidewell.example" });
        var reset = Reset().Match(await MailToAsync("log@tidewell.example", "Choose a new password")).Value;
        await app.CreateClient().GetAsync("/shared/" + reset.Split('/')[^1][..20]);
        app.Services.GetRequiredService<ILogger<SignInTests>>().LogWarning("The log is kept.");
        Assert.Contains("The log is kept.", kept.Text, StringComparison.Ordinal);
        foreach (
            var secret in new[]
            {
                Good,
                "a wrong password of mine",
                token,
                link.Split('/')[^1],
                reset.Split('/')[^1],
                reset.Split('/')[^1][..20],
            }
        )
            Assert.DoesNotContain(secret, kept.Text, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Who_gets_in_and_who_does_not_is_logged_without_what_was_typed()
    {
        using var kept = new KeptLog();
        await using var app = demo.App.WithWebHostBuilder(builder => builder.ConfigureLogging(logging => logging.AddProvider(kept)));
        var (person, link) = await InviteAsync("Watched Door", "watched@tidewell.example");
        var client = app.CreateClient();
        await PostAsync(client, link, new() { ["Password"] = Good, ["Again"] = Good });
        Assert.Contains($"{person} signed in from ", kept.Text, StringComparison.Ordinal);
        await SignInAsync(app.CreateClient(), "nobody-of-here@tidewell.example", Good);
        Assert.Contains("A sign-in as nobody of here from ", kept.Text, StringComparison.Ordinal);
        for (var i = 0; i < 9; i++)
            await SignInAsync(app.CreateClient(), "watched@tidewell.example", "a wrong password of mine");
        Assert.Contains($"A sign-in as {person} from ", kept.Text, StringComparison.Ordinal);
        Assert.Contains("the account is closed for a while", kept.Text, StringComparison.Ordinal);
        using var forbidden = await client.GetAsync("/people/new");
        Assert.Contains($"{person} asked for GET people/new", kept.Text, StringComparison.Ordinal);
        var program = app.CreateClient();
        program.DefaultRequestHeaders.Authorization = new("Bearer", "auxilium_not-one-of-ours");
        using var unknown = await program.GetAsync("/api/v1/projects");
        Assert.Contains("A token from ", kept.Text, StringComparison.Ordinal);
        await PostAsync(client, "/account", "/account?handler=Everywhere", []);
        Assert.Contains($"{person} signed out from ", kept.Text, StringComparison.Ordinal);
        foreach (var typed in new[] { "nobody-of-here@", "watched@", Good, "a wrong password", "not-one-of-ours" })
            Assert.DoesNotContain(typed, kept.Text, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Too_many_tries_at_a_door_are_told_to_wait()
    {
        using var database = TestDatabase.WithDemo();
        await using var app = new TestApp(database.Connection, doorTries: 30);
        var client = app.CreateClient();
        var statuses = new List<HttpStatusCode>();
        for (var i = 0; i < 35; i++)
        {
            using var answer = await client.PostAsync("/sign-in", new StringContent(""));
            statuses.Add(answer.StatusCode);
        }
        Assert.Equal(HttpStatusCode.TooManyRequests, statuses[^1]);
        Assert.NotEqual(HttpStatusCode.TooManyRequests, statuses[0]);
        using var reading = await client.GetAsync("/sign-in");
        Assert.Equal(HttpStatusCode.OK, reading.StatusCode);
    }

    [Theory]
    [InlineData("short", "at least 10")]
    [InlineData("aaaaaaaaaaaa", "repeats")]
    [InlineData("Qwertyuiop123!", "easy to guess")]
    [InlineData("1234567890123", "easy to guess")]
    [InlineData("ninaharbour of boats", "mail address in it")]
    [InlineData("P@ssw0rd2027", "easy to guess")]
    [InlineData("auxilium2027", "easy to guess")]
    [InlineData("iloveyou1990", "easy to guess")]
    [InlineData("a boat called tide", null)]
    public void A_password_is_long_and_not_one_that_everybody_tries(string password, string? why)
    {
        var refused = Access.Passwords.WhyRefused(password, "ninaharbour@tidewell.example");
        if (why is null)
            Assert.Null(refused);
        else
            Assert.Contains(why, refused, StringComparison.Ordinal);
    }

    /// <summary>All that is logged, as it is shipped.</summary>
    private sealed class KeptLog : ILoggerProvider, ILogger
    {
        private readonly System.Collections.Concurrent.ConcurrentQueue<string> _lines = new();

        public string Text => string.Join("\n", _lines);

        public ILogger CreateLogger(string categoryName) => this;

        public IDisposable? BeginScope<TState>(TState state)
            where TState : notnull => null;

        public bool IsEnabled(LogLevel logLevel) => true;

        public void Log<TState>(
            LogLevel logLevel,
            EventId eventId,
            TState state,
            Exception? exception,
            Func<TState, Exception?, string> formatter
        ) => _lines.Enqueue($"{formatter(state, exception)} {exception}");

        public void Dispose() { }
    }

    /// <summary>Adds somebody and invites them, as the organiser does.</summary>
    /// <returns>Their id, and the path of the invitation.</returns>
    private async Task<(string Person, string Link)> InviteAsync(string name, string mail)
    {
        var organiser = demo.App.SignedIn();
        using var added = await TestApp.PostFormAsync(
            organiser,
            "/people/new",
            "/people/new",
            new() { ["Name"] = name, ["MailAddress"] = mail }
        );
        var path = added.RequestMessage!.RequestUri!.AbsolutePath;
        var page = await PostAsync(organiser, path, path + "?handler=Invite", []);
        return (path.Split('/')[^1], InvitationLink().Match(page).Value);
    }

    private async Task<string> MailToAsync(string mail, string subject)
    {
        var mails = demo.App.Services.GetRequiredService<Mails>();
        for (var tries = 0; tries < 200; tries++)
        {
            if ((await mails.PostAsync()).FirstOrDefault(p => p.To == mail && p.Subject == subject) is { } found)
                return found.Body;
            await Task.Delay(100);
        }
        throw new InvalidOperationException($"No mail “{subject}” came to {mail}.");
    }

    private static Task<string> SignInAsync(HttpClient client, string mail, string password) =>
        PostAsync(client, "/sign-in", new() { ["MailAddress"] = mail, ["Password"] = password });

    private static Task<string> PostAsync(HttpClient client, string page, Dictionary<string, string> fields) =>
        PostAsync(client, page, page, fields);

    private static async Task<string> PostAsync(HttpClient client, string page, string action, Dictionary<string, string> fields)
    {
        using var answer = await TestApp.PostFormAsync(client, page, action, fields);
        return WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());
    }

    private static string Problem(string page) =>
        string.Join(" ", Problems().Matches(page).Select(m => m.Groups[1].Value).Where(t => t.Length > 0));

    /// <summary>The six digits of RFC 6238 for now, or for so many half minutes later.</summary>
    private static string CodeOf(string base32, int later = 0)
    {
        var bits = string.Concat(
            base32
                .ToUpperInvariant()
                .Select(c => Convert.ToString("ABCDEFGHIJKLMNOPQRSTUVWXYZ234567".IndexOf(c, StringComparison.Ordinal), 2).PadLeft(5, '0'))
        );
        var key = Enumerable.Range(0, bits.Length / 8).Select(i => Convert.ToByte(bits.Substring(i * 8, 8), 2)).ToArray();
        var step = BitConverter.GetBytes(IPAddress.HostToNetworkOrder(DateTimeOffset.UtcNow.ToUnixTimeSeconds() / 30 + later));
#pragma warning disable CA5350 // What authenticators go by.
        var hash = HMACSHA1.HashData(key, step);
#pragma warning restore CA5350
        var at = hash[^1] & 15;
        var number = ((hash[at] & 127) << 24 | hash[at + 1] << 16 | hash[at + 2] << 8 | hash[at + 3]) % 1_000_000;
        return number.ToString("000000", System.Globalization.CultureInfo.InvariantCulture);
    }

    [GeneratedRegex("/invitation/[A-Za-z0-9_-]+")]
    private static partial Regex InvitationLink();

    [GeneratedRegex("/reset/[A-Za-z0-9_-]+/[A-Za-z0-9_-]+")]
    private static partial Regex Reset();

    [GeneratedRegex("auxilium_[A-Za-z0-9_-]{20,}")]
    private static partial Regex Token();

    [GeneratedRegex("<main.*?</main>", RegexOptions.Singleline)]
    private static partial Regex Content();

    [GeneratedRegex("Key: <code class=\"secret\">([^<]+)<")]
    private static partial Regex Key();

    [GeneratedRegex("<li><code>([^<]+)</code></li>")]
    private static partial Regex Spare();

    [GeneratedRegex("name=\"session\" value=\"([^\"]+)\"")]
    private static partial Regex Session();

    [GeneratedRegex("class=\"problem\"[^>]*><span[^>]*>([^<]*)</span>")]
    private static partial Regex Problems();
}
