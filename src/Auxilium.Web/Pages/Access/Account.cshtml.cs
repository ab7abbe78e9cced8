using Auxilium.Storage.Access;
using Auxilium.Storage.Notices;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Auxilium.Web.Api;
using Auxilium.Web.Mail;
using Auxilium.Web.Pages.Shared;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using QRCoder;

namespace Auxilium.Web.Pages.Access;

/// <summary>The person's own account: password, two-step sign-in, sessions, notifications, calendar feed, tokens.</summary>
[Authorize(Rights.OwnAccount)]
[RequestSizeLimit(64 * 1024)]
[EnableRateLimiting(Api.Limits.Writing)]
public sealed class AccountModel(
    UserManager<Account> accounts,
    SignInManager<Account> signIn,
    Sessions sessions,
    Tokens tokens,
    Feeds feeds,
    NoticeBook notices,
    Letters letters,
    OwnAddress address,
    PasswordCheck passwords,
    Audit audit,
    OrganisationClock clock,
    AccessLog log
) : PasswordPage
{
    private const int SpareCodeCount = 10;

    internal static readonly DayOfWeek[] Weekdays = [.. Enum.GetValues<DayOfWeek>().OrderBy(day => ((int)day + 6) % 7)];

    internal static readonly (NoticeKind Kind, string Words)[] Kinds =
    [
        (NoticeKind.Assigned, "A task becomes mine"),
        (NoticeKind.Mentioned, "Somebody mentions me"),
        (NoticeKind.CanStart, "A task of mine can start"),
        (NoticeKind.Moved, "A task of mine moved"),
        (NoticeKind.DueSoon, "A task of mine is due soon"),
        (NoticeKind.Overdue, "A task of mine is overdue"),
        (NoticeKind.StartsSoon, "A task of mine starts soon"),
        (NoticeKind.LateToStart, "A task of mine is late to start"),
        (NoticeKind.Reminder, "Somebody set a reminder for me"),
        (NoticeKind.MilestoneSoon, "A milestone is near"),
        (NoticeKind.Drift, "A project I coordinate drifts from its plan"),
        (NoticeKind.Overbooked, "Somebody in a project I coordinate is overbooked"),
        (NoticeKind.Proposal, "Somebody proposes a change"),
        (NoticeKind.Decided, "What I proposed is decided"),
        (NoticeKind.TimeOff, "Days off are entered for me or my people"),
        (NoticeKind.Export, "A file that I asked for is ready"),
    ];

    private Account _account = null!;

    [BindProperty]
    public string? Current { get; set; }

    [BindProperty]
    public string? Code { get; set; }

    [BindProperty]
    public string? TokenName { get; set; }

    public string? Address => _account.Email;

    public bool HasPassword => _account.PasswordHash is not null;

    public bool HasSecondStep => _account.TwoFactorEnabled;

    public int SpareCodes { get; private set; }

    public string? Key { get; private set; }

    /// <summary>The key of the second step as SVG.</summary>
    public string? Picture { get; private set; }

    public IReadOnlyList<string> NewCodes { get; private set; } = [];

    /// <summary>A secret that was just made, shown once.</summary>
    public string? Secret { get; private set; }

    public string? SecretSays { get; private set; }

    public IReadOnlyList<SessionRow> Sessions { get; private set; } = [];

    public IReadOnlyList<TokenRow> Tokens { get; private set; } = [];

    public FeedRow? Feed { get; private set; }

    public NoticeWishes Wishes { get; private set; } = new();

    public async Task OnGetAsync(CancellationToken cancel) => await LoadAsync(cancel);

    public async Task<IActionResult> OnPostPasswordAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        if (HasPassword && !await passwords.IsRightAsync(_account, Current ?? ""))
            Wrong(
                nameof(Current),
                "This is not the password you have. After too many tries the account stays closed for a quarter of an hour."
            );
        if (!IsPasswordGood(Address))
            return Page();
        if (HasPassword)
            await accounts.ChangePasswordAsync(_account, Current!, Password!);
        else
            await accounts.AddPasswordAsync(_account, Password!);
        log.Changed(_account.Id, "password");
        await audit.NoteAsync(_account.Id, _account.Id, $"{User.Identity!.Name} has another password.", cancel);
        await sessions.SignOutAsync(_account.Id, allBut: User.SessionId(), cancel: cancel);
        if (Address is { } mail)
            await letters.PasswordChangedAsync(User.Identity!.Name!, mail, cancel);
        return Done("Your password is changed. Everywhere else you were signed out.");
    }

    public async Task<IActionResult> OnPostSetUpAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        await accounts.ResetAuthenticatorKeyAsync(_account);
        await ShowKeyAsync();
        return Page();
    }

    public async Task<IActionResult> OnPostTurnOnAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        var code = string.Concat((Code ?? "").Where(char.IsAsciiDigit));
        if (await accounts.GetAuthenticatorKeyAsync(_account) is null)
            return await OnPostSetUpAsync(cancel);
        if (!await accounts.VerifyTwoFactorTokenAsync(_account, TokenOptions.DefaultAuthenticatorProvider, code))
        {
            Wrong(nameof(Code), "These are not the digits that belong to this key now: type the ones that are shown.");
            await ShowKeyAsync();
            return Page();
        }
        await accounts.SetTwoFactorEnabledAsync(_account, true);
        await TellAsync(
            "second step",
            $"{User.Identity!.Name} turned the second step on.",
            "The second step of your sign-in is on now.",
            cancel
        );
        return await OnPostSpareCodesAsync(cancel);
    }

    public async Task<IActionResult> OnPostSpareCodesAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        if (!HasSecondStep)
            return Done("Spare codes go with the second step: turn that on first.");
        NewCodes = [.. (await accounts.GenerateNewTwoFactorRecoveryCodesAsync(_account, SpareCodeCount))!];
        await TellAsync(
            "spare codes",
            $"{User.Identity!.Name} made new spare codes.",
            "You have new spare codes for your sign-in; those before no longer open.",
            cancel
        );
        SpareCodes = NewCodes.Count;
        return Page();
    }

    public async Task<IActionResult> OnPostTurnOffAsync(CancellationToken cancel)
    {
        await LoadAsync(cancel);
        await accounts.SetTwoFactorEnabledAsync(_account, false);
        await TellAsync(
            "second step",
            $"{User.Identity!.Name} turned the second step off.",
            "The second step of your sign-in is off now.",
            cancel
        );
        await accounts.ResetAuthenticatorKeyAsync(_account);
        return Done("The second step is off.");
    }

    public async Task<IActionResult> OnPostEndAsync(Guid session, CancellationToken cancel)
    {
        await sessions.SignOutAsync(User.PersonId(), only: session, cancel: cancel);
        return Done("That browser is signed out.");
    }

    public async Task<IActionResult> OnPostEverywhereAsync(CancellationToken cancel)
    {
        log.SignedOut(User.PersonId());
        await sessions.EndAllAsync(User.PersonId(), cancel);
        await signIn.SignOutAsync();
        return Redirect("/sign-in");
    }

    public async Task<IActionResult> OnPostNoticesAsync(string[] app, NoticeWishes wished, CancellationToken cancel)
    {
        var wishes = new NoticeWishes
        {
            Never = [.. Kinds.Select(k => k.Kind).Where(k => !app.Contains(k.ToString()))],
            Mail = Kinds.ToDictionary(
                k => k.Kind,
                k => Enum.TryParse<ByMail>(Request.Form[$"mail-{k.Kind}"], out var how) ? how : ByMail.No
            ),
            MovedDays = Days(wished.MovedDays),
            DueDays = Days(wished.DueDays),
            StartDays = Days(wished.StartDays),
            MilestoneDays = Days(wished.MilestoneDays),
            DriftDays = Days(wished.DriftDays),
            AllMine = wished.AllMine,
            WeeklyOn = wished.WeeklyOn,
        };
        await notices.WishAsync(User.PersonId(), wishes, cancel);
        return Done("From now on you are told like this.");

        static int Days(int typed) => Math.Clamp(typed, 0, NoticeWishes.MostDays);
    }

    public async Task<IActionResult> OnPostFeedAsync(CancellationToken cancel)
    {
        (Secret, SecretSays) = (
            address.Of($"/feeds/{await feeds.MakeAsync(User.PersonId(), cancel)}.ics"),
            "Give this address to your calendar program. Whoever has it sees your tasks, and it is shown only now."
        );
        await LoadAsync(cancel);
        return Page();
    }

    public async Task<IActionResult> OnPostWithdrawAsync(CancellationToken cancel)
    {
        await feeds.WithdrawAsync(User.PersonId(), cancel);
        return Done("The address no longer opens.");
    }

    public async Task<IActionResult> OnPostTokenAsync(TokenScope scope, int days, CancellationToken cancel)
    {
        if (Line(nameof(TokenName), TokenName, "What the token is for", 80, true) is { } name)
        {
            Secret = await tokens.MakeAsync(
                User.PersonId(),
                name,
                scope,
                days > 0 ? clock.EndOf(DateOnly.FromDateTime(clock.GetLocalNow().DateTime).AddDays(Math.Min(days, 3650))) : null,
                cancel
            );
            SecretSays = "Your token. It is shown only now.";
            if (Secret is not null)
                await letters.ChangedAsync(
                    User.PersonId(),
                    $"A program can use your account now, by the new token “{name}”, which {ScopeOf(scope)}.",
                    cancel
                );
            else
                Wrong(nameof(TokenName), $"You have {Storage.Access.Tokens.Most} tokens: revoke one first.");
        }
        await LoadAsync(cancel);
        return Page();
    }

    public async Task<IActionResult> OnPostRevokeAsync(Guid token, CancellationToken cancel)
    {
        await tokens.RevokeAsync(User.PersonId(), token, cancel);
        await letters.ChangedAsync(User.PersonId(), "A token of yours was revoked.", cancel);
        return Done("The token no longer works.");
    }

    public string Day(DateTime utc) => clock.MomentOf(utc);

    internal static string ScopeOf(TokenScope scope) =>
        scope switch
        {
            TokenScope.Look => "reads",
            TokenScope.Report => "reads, reports and comments",
            _ => "does what you may in projects",
        };

    /// <summary>What a browser says it is, short.</summary>
    internal static string BrowserOf(string agent)
    {
        var browser = new[] { ("Edg/", "Edge"), ("OPR/", "Opera"), ("Firefox/", "Firefox"), ("Chrome/", "Chrome"), ("Safari/", "Safari") }
            .FirstOrDefault(b => agent.Contains(b.Item1, StringComparison.Ordinal))
            .Item2
            ?? "A browser";
        var device = new[]
        {
            ("Android", "Android"),
            ("iPhone", "iPhone"),
            ("iPad", "iPad"),
            ("Windows", "Windows"),
            ("Mac OS", "Mac"),
            ("Linux", "Linux"),
        }
            .FirstOrDefault(d => agent.Contains(d.Item1, StringComparison.Ordinal))
            .Item2;
        return device is null ? browser : $"{browser} on {device}";
    }

    /// <summary>Logs, notes and mails a change of how the account opens.</summary>
    private async Task TellAsync(string what, string noted, string told, CancellationToken cancel)
    {
        log.Changed(_account.Id, what);
        await audit.NoteAsync(_account.Id, _account.Id, noted, cancel);
        await letters.ChangedAsync(_account.Id, told, cancel);
    }

    private RedirectResult Done(string said)
    {
        Say(said);
        return Redirect("/account");
    }

    private async Task LoadAsync(CancellationToken cancel)
    {
        _account = (await accounts.FindByIdAsync(User.PersonId()))!;
        SpareCodes = HasSecondStep ? await accounts.CountRecoveryCodesAsync(_account) : 0;
        Sessions = await sessions.OfAsync(_account.Id, cancel);
        Tokens = await tokens.OfAsync(_account.Id, cancel);
        Feed = await feeds.OfAsync(_account.Id, cancel);
        Wishes = await notices.WishesAsync(_account.Id, cancel);
    }

    private async Task ShowKeyAsync()
    {
        var key = (await accounts.GetAuthenticatorKeyAsync(_account))!;
        Key = string.Join(' ', key.Chunk(4).Select(c => new string(c))).ToLowerInvariant();
        using var generator = new QRCodeGenerator();
        using var data = generator.CreateQrCode(
            $"otpauth://totp/Auxilium:{Uri.EscapeDataString(Address ?? _account.Id)}?secret={key}&issuer=Auxilium&digits=6",
            QRCodeGenerator.ECCLevel.M
        );
        using var picture = new SvgQRCode(data);
        Picture = picture.GetGraphic(4, "#000000", "#ffffff", true, SvgQRCode.SizingMode.ViewBoxAttribute);
    }
}
