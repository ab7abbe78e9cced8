using System.Text.Json;
using System.Text.Json.Nodes;
using Auxilium.Storage;
using Auxilium.Web.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Auxilium.Web.Pages.Plan;

/// <summary>The task list and the timeline of one project. Its script draws what <see cref="Data"/> says and sends edits.</summary>
[Authorize(Rights.LookAtPlans)]
public sealed class PlanModel(PlanStore store, PlanEdits edits, PlanViews views, Looks looks, TaskTalk talk) : PageModel
{
    // The default encoder escapes <, > and &, so that no name can end the element the data stands in.
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    public Guid Id { get; private set; }

    /// <summary>Which look at the plan is open: <c>Plan</c>, <c>Lanes</c>, <c>Month</c> or <c>Chains</c>.</summary>
    public string Look { get; private set; } = "Plan";

    public PlanView View { get; private set; } = null!;

    /// <summary>The plan as JSON, the same as an edit answers with when everything is to be drawn anew.</summary>
    public string Data { get; private set; } = "";

    public async Task<IActionResult> OnGetAsync(Guid id, string? look, CancellationToken cancel)
    {
        if (await store.LoadAsync(id, cancel) is not { } plan) return NotFound();
        var last = await edits.LastAsync(plan, User.PersonId(), cancel);
        var directory = await store.DirectoryAsync(cancel);
        Id = id;
        Look = look switch { "lanes" => "Lanes", "month" => "Month", "chains" => "Chains", _ => "Plan" };
        View = views.Of(plan);
        var changes = PlanChanges.Everything(View, last);
        var kept = await looks.OfAsync(id, User.PersonId(), cancel);
        Data = JsonSerializer.Serialize(new { changes, talk = await talk.CountsAsync(id, cancel), look = kept is null ? null : JsonNode.Parse(kept), directory = directory.Select(p => p.Name), calendars = plan.Schedule.Plan.Calendars.Select(c => new { c.Id, c.Name }) }, Json);
        Response.Headers.CacheControl = "no-store";
        return Page();
    }
}
