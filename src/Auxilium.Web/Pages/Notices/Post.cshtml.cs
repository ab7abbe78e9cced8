using Auxilium.Storage.Notices;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Auxilium.Web.Mail;
using Auxilium.Web.Pages.Shared;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Auxilium.Web.Pages.Notices;

/// <summary>The state of the mail queue; without a mail server, the mails themselves.</summary>
[Authorize(Rights.Organise)]
public sealed class PostModel(Mails mails, MailServer server, TimeProvider clock) : PageModel
{
    public bool IsStandIn => server.IsStandIn;

    public string Server => server.Name;

    public IReadOnlyList<MailRow> Open { get; private set; } = [];

    public int Sent { get; private set; }

    public IReadOnlyList<PostRow> Post { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken cancel)
    {
        (Open, Sent) = await mails.StateAsync(cancel);
        if (IsStandIn)
            Post = await mails.PostAsync(cancel);
    }

    public string When(DateTime utc) => clock.InWords(utc, "ddd d MMM HH:mm");

    internal static string StateOf(MailRow mail) =>
        mail.State switch
        {
            MailState.Waiting when mail.Tries == 0 => "waits to be sent",
            MailState.Waiting => $"tried {mail.Tries} times, tried again later: {mail.Problem}",
            MailState.Sending => "was cut off while it was handed over: it may have gone, and is not sent twice",
            _ => $"could not be sent: {mail.Problem}",
        };
}
