using Auxilium.Storage.Access;
using Auxilium.Web.Access;
using Auxilium.Web.Pages.Shared;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Auxilium.Web.Pages.People;

/// <summary>What happened outside the plans, for organisers.</summary>
[Authorize(Rights.Organise)]
public sealed class AuditModel(Audit audit, TimeProvider clock) : PageModel
{
    private const int Most = 100;

    public IReadOnlyList<AuditEntry> Entries { get; private set; } = [];

    /// <summary>What “before” is for the next page; <c>null</c> on the last.</summary>
    public long? Next { get; private set; }

    public async Task OnGetAsync(long? before, CancellationToken cancel)
    {
        Entries = await audit.PageAsync(before, Most, cancel);
        Next = Entries.Count == Most ? Entries[^1].Id : null;
    }

    public string At(DateTime utc) => clock.MomentOf(utc);
}
