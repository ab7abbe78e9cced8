using Auxilium.Storage.Notices;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;

namespace Auxilium.Web.Mail;

/// <summary>The mails about signing in.</summary>
public sealed class Letters(Mails mails, OwnAddress address, Organisation organisation, Storage.People.Directory directory, PlanNews news)
{
    private const string ResetSubject = "Choose a new password";

    private const int MostResets = 3;

    public async Task InviteAsync(string name, string mail, string by, string secret, CancellationToken cancel)
    {
        var us = (await organisation.FindAsync(cancel))?.Name ?? "Auxilium";
        await SendAsync(
            mail,
            $"{by} invites you to plan with {us}",
            $"""
            Hello {name},

            {by} invites you to the plans of {us}. Choose a password here:

            {address.Of($"/invitation/{secret}")}

            The link works once, for a week. If you did not expect this, do nothing.
            """,
            cancel
        );
    }

    /// <summary>Sends a link to choose a new password; a few in an hour are enough.</summary>
    public async Task ResetAsync(string name, string mail, string link, CancellationToken cancel)
    {
        if (await mails.LatelyAsync(mail, ResetSubject, cancel) >= MostResets)
            return;
        await SendAsync(
            mail,
            ResetSubject,
            $"""
            Hello {name},

            somebody, most likely you, asked for a new password. Choose it here:

            {address.Of(link)}

            The link works once, for two hours. If it was not you, do nothing: your password stays as it is.
            """,
            cancel
        );
    }

    public Task PasswordChangedAsync(string name, string mail, CancellationToken cancel) =>
        SendAsync(
            mail,
            "Your password was changed",
            $"""
            Hello {name},

            your password was changed just now, and everywhere else you were signed out. If that was not you, ask for a new one at once:

            {address.Of("/forgot")}
            """,
            cancel
        );

    /// <summary>Tells somebody that their account opens otherwise than before.</summary>
    public async Task ChangedAsync(string person, string what, CancellationToken cancel)
    {
        if (await directory.FindAsync(person, cancel) is not { Email: { } mail } row)
            return;
        await SendAsync(
            mail,
            "Your account was changed",
            $"""
            Hello {row.Name},

            {what}

            If that was not you, ask for a new password at once, which signs everybody out: {address.Of("/forgot")}
            """,
            cancel
        );
    }

    public Task SendAsync(string mail, string subject, string body, CancellationToken cancel) =>
        SendAsync(mail, subject, body, null, cancel);

    /// <param name="attachment">A PDF that goes with it, and what that is called.</param>
    public async Task SendAsync(
        string mail,
        string subject,
        string body,
        (string Name, byte[] Content)? attachment,
        CancellationToken cancel
    )
    {
        await mails.QueueAsync(mail, subject, body, attachment, cancel);
        await news.TellAsync(PlanNews.Mail, cancel);
    }
}
