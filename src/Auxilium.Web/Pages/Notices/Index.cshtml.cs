using Auxilium.Storage.Notices;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Auxilium.Web.Pages.Shared;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Auxilium.Web.Pages.Notices;

/// <summary>What somebody has been told. Once shown here, it is no longer new.</summary>
[Authorize(Rights.OwnAccount)]
public sealed class NoticesModel(NoticeBook notices, TimeProvider clock) : PageModel
{
    public IReadOnlyList<(NoticeRow Notice, string Project)> All { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken cancel)
    {
        All = await notices.OfAsync(User.PersonId(), cancel: cancel);
        if (All.Count > 0)
            await notices.ReadAsync(User.PersonId(), All[0].Notice.Id, cancel);
    }

    /// <summary>Where what it is about is shown, or fetched.</summary>
    public static string AddressOf(NoticeRow notice) =>
        notice switch
        {
            { Kind: NoticeKind.Export, TaskId: { } file } => $"/api/v1/exports/{file}/file",
            { TaskId: { } task } => $"/projects/{notice.ProjectId}#{task}",
            _ => $"/projects/{notice.ProjectId}",
        };

    public bool IsNew(NoticeRow notice) => notice.ReadAt is null;

    public string When(DateTime utc) => clock.InWords(utc, "ddd d MMM HH:mm");
}
