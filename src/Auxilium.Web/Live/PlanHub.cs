using Auxilium.Planning.Plans;
using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Auxilium.Web.PlanScreen;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.SignalR;

namespace Auxilium.Web.Live;

/// <summary>
/// Open plans: whoever joins one is told what changes in it, who else is there, and on which row. Nothing is changed by it: edits go
/// to the API. What is told: <c>changed</c>, <c>lost</c>, <c>who</c>, <c>talk</c>, <c>proposals</c>, and to a person <c>notice</c>.
/// </summary>
[Authorize(Rights.Live)]
public sealed class PlanHub(LivePlans plans, PlanStore store, Presence presence, ProjectRoles roles, IHostApplicationLifetime lifetime)
    : Hub
{
    /// <summary>The groups that a page is in, among what is known of its connection.</summary>
    private const string In = "groups";

    public override Task OnConnectedAsync()
    {
        // A page that is disconnected because this process stops comes back at once.
        if (lifetime.ApplicationStopping.IsCancellationRequested)
            Context.Abort();
        return Task.CompletedTask;
    }

    /// <summary>Joins the live plan of a project.</summary>
    /// <param name="project">Id of the project.</param>
    /// <param name="version">The version that the page shows.</param>
    /// <param name="edit">Id of the edit that made it; <c>null</c> for the first.</param>
    /// <returns>The id of this page among those who are there, and what changed since.</returns>
    /// <exception cref="HubException">There is no such project for this person.</exception>
    public async Task<Joined> Join(Guid project, int version, Guid? edit)
    {
        var user = Context.User!;
        var role = await roles.OfAsync(project, user.PersonId(), user.IsOrganiser(), Context.ConnectionAborted);
        if (role == ProjectRole.None || await store.LivePlanAsync(project, Context.ConnectionAborted) is not { } plan)
            throw new HubException("There is no such project.");
        string[] groups = [LivePlans.GroupOf(project), LivePlans.PlanGroupOf(plan), LivePlans.PersonGroupOf(user.PersonId())];
        // A page shows one plan: joining another leaves the one before.
        foreach (var left in (Context.Items[In] as string[] ?? []).Except(groups))
            await Groups.RemoveFromGroupAsync(Context.ConnectionId, left, Context.ConnectionAborted);
        Context.Items[In] = groups;
        foreach (var group in groups)
            await Groups.AddToGroupAsync(Context.ConnectionId, group, Context.ConnectionAborted);
        var (changes, isLost) = await plans.JoinAsync(plan, project, version, edit, Context.ConnectionAborted);
        await presence.ComeAsync(
            new Connected(Context.ConnectionId, project, user.PersonId(), user.SessionId(), user.TokenId(), Context.Abort)
        );
        return new Joined(Context.ConnectionId, changes, isLost);
    }

    /// <summary>Moves to a row.</summary>
    /// <param name="task">Its id; <c>null</c> for none.</param>
    public Task At(string? task) => task is null || PlanIds.IsId(task) ? presence.GoAsync(Context.ConnectionId, task) : Task.CompletedTask;

    public override Task OnDisconnectedAsync(Exception? exception) => presence.LeaveAsync(Context.ConnectionId);
}

/// <param name="Id">Id of the page.</param>
/// <param name="Changes">What changed since, in turn; <c>null</c> when that is too long ago, so that the page asks for the whole
/// plan.</param>
/// <param name="IsLost">Whether what the page shows is not a version of this plan, as after a backup was restored: what it has counts for
/// nothing.</param>
public sealed record Joined(string Id, IReadOnlyList<LiveChange>? Changes, bool IsLost);

/// <summary>Somebody's page of a plan that is connected to this process.</summary>
/// <param name="Abort">Closes the connection.</param>
public sealed record Connected(string Id, Guid Project, string Person, Guid? Session, Guid? Token, Action Abort);

/// <summary>Somebody who has the plan open.</summary>
/// <param name="Task">Id of the row they are on.</param>
public sealed record Here(string Id, string Person, string Name, string Initials, int Hue, string? Task);

/// <summary>What one or more edits changed.</summary>
/// <param name="From">The version before.</param>
/// <param name="To">The version it makes.</param>
/// <param name="By">Id of who made the last of them.</param>
/// <param name="Name">Their name.</param>
/// <param name="Edits">Ids of the edits.</param>
public sealed record LiveChange(int From, int To, string? By, string? Name, IReadOnlyList<Guid> Edits, PlanChanges Changes);
