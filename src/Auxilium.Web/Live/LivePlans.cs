using System.Collections.Concurrent;
using Auxilium.Storage;
using Auxilium.Storage.Plans;
using Auxilium.Web.PlanScreen;
using Microsoft.AspNetCore.SignalR;

namespace Auxilium.Web.Live;

/// <summary>
/// The plans that are open in this process. What changed in one is worked out once and sent to all who have it open; edits that come
/// meanwhile are sent together. The last changes are kept for those who lose their connection for a while.
/// </summary>
public sealed class LivePlans(
    IHubContext<PlanHub> hub,
    PlanStore store,
    PlanEdits edits,
    PlanViews views,
    Presence presence,
    ILogger<LivePlans> logger
)
{
    /// <summary>How many changes of a plan are kept.</summary>
    private const int Kept = 60;

    /// <summary>Milliseconds after which a plan that nobody has open is dropped.</summary>
    private const int Idle = 60_000;

    private static readonly TimeSpan Again = TimeSpan.FromSeconds(1);
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(30);

    private readonly ConcurrentDictionary<Guid, Live> _plans = new();

    /// <summary>Those who have a project open.</summary>
    public static string GroupOf(Guid project) => $"project {project}";

    /// <summary>Those who are told what changes in a plan.</summary>
    public static string PlanGroupOf(Guid plan) => $"plan {plan}";

    public static string PersonGroupOf(string person) => $"person {person}";

    /// <summary>Begins to follow a plan, where that is not done yet.</summary>
    /// <returns>What changed since a version, <c>null</c> when that is not known any more; and whether there never was such a
    /// version.</returns>
    public async Task<(IReadOnlyList<LiveChange>? Changes, bool IsLost)> JoinAsync(
        Guid plan,
        Guid project,
        int version,
        Guid? edit,
        CancellationToken cancel
    )
    {
        var live = _plans.GetOrAdd(plan, id => new Live(id, project));
        live.JoinedAt = Environment.TickCount64;
        await live.Turn.WaitAsync(cancel);
        try
        {
            // Version by version from what this process follows to what there is now.
            await FollowAsync(live);
            if (live.Told is not { } told)
                return (null, false);
            if (version == told.Version && edit == told.Edit)
                return ([], false);
            if (!await edits.IsOfAsync(plan, version, edit, cancel))
                return (null, true);
            var since = live.Changes.SkipWhile(c => c.From != version).ToList();
            return (since.Count > 0 && since[^1].To == told.Version ? since : null, false);
        }
        finally
        {
            live.Turn.Release();
        }
    }

    /// <summary>Finds what is new in a plan and sends it, if the plan is open here.</summary>
    public void Look(Guid plan)
    {
        if (!_plans.TryGetValue(plan, out var live) || Interlocked.Exchange(ref live.IsAsked, 1) == 1)
            return;
        _ = Task.Run(() => TellAsync(live));
    }

    /// <summary>After news may have been missed.</summary>
    public void LookAtAll()
    {
        foreach (var plan in _plans.Keys)
            Look(plan);
    }

    /// <summary>Forgets the plans that nobody has open here.</summary>
    /// <param name="open">Projects that somebody has open here.</param>
    public void KeepOnly(IReadOnlySet<Guid> open)
    {
        foreach (var live in _plans.Values)
            // Somebody who just joined is not counted yet.
            if (!open.Contains(live.Project) && Environment.TickCount64 - live.JoinedAt > Idle)
                _plans.TryRemove(live.Plan, out _);
    }

    private async Task TellAsync(Live live)
    {
        // If the news of a plan cannot be sent, it is tried again until it can.
        for (var wait = Again; !await TryTellAsync(live); wait = wait < Longest ? 2 * wait : Longest)
            await Task.Delay(wait);
    }

    private async Task<bool> TryTellAsync(Live live)
    {
        await live.Turn.WaitAsync();
        try
        {
            Interlocked.Exchange(ref live.IsAsked, 0);
            await FollowAsync(live);
            return true;
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            logger.LogWarning("What is new in a plan could not be told: {Kind}: {Message}", e.GetType().Name, e.Message);
            // Whoever is told of it meanwhile, or nobody has it open any more: then there is nothing left to do here.
            return Interlocked.Exchange(ref live.IsAsked, 1) == 1 || !_plans.ContainsKey(live.Plan);
        }
        finally
        {
            live.Turn.Release();
        }
    }

    /// <summary>It serves everybody, so it is not cancelled with the one who asked for it.</summary>
    private async Task FollowAsync(Live live)
    {
        if (await store.LoadPlanAsync(live.Plan) is not { } now)
            return;
        if (live.Told is { } before && (before.Version != now.Version || before.Edit != now.Edit))
            await TellAsync(live, before, now);
        // Only what was sent counts as told.
        live.Told = now;
    }

    private async Task TellAsync(Live live, StoredPlan before, StoredPlan now)
    {
        // People who lost access by a change are not told of it.
        var (was, plan) = (before.Schedule.Plan, now.Schedule.Plan);
        if (was.People != plan.People || was.Project.Coordinator != plan.Project.Coordinator)
            await presence.SendAwayAsync(connected => connected.Project == live.Project);
        var group = hub.Clients.Group(PlanGroupOf(live.Plan));
        // Another process may have announced a newer version than the one read here: that is announced again.
        if (before.Version > now.Version && await edits.IsOfAsync(live.Plan, before.Version, before.Edit))
            throw new InvalidOperationException("The version that was read is older than the one that was told.");
        if (before.Version >= now.Version || await edits.ToldAsync(now, before) is not { } last)
        {
            live.Changes.Clear();
            await group.SendAsync("lost");
            return;
        }
        var changes = PlanChanges.Between(
            views.Of(before),
            views.Of(now, before.Version == now.Version - 1 ? before : null),
            false,
            false,
            last.Sentence,
            last.Moved
        );
        var change = new LiveChange(before.Version, now.Version, last.PersonId, last.Name, last.Edits, changes);
        await group.SendAsync("changed", change);
        live.Changes.Enqueue(change);
        while (live.Changes.Count > Kept)
            live.Changes.Dequeue();
    }

    private sealed class Live(Guid plan, Guid project)
    {
        public SemaphoreSlim Turn { get; } = new(1);

        public int IsAsked;

        public long JoinedAt;

        public Guid Plan { get; } = plan;

        public Guid Project { get; } = project;

        /// <summary>The version that was told last.</summary>
        public StoredPlan? Told { get; set; }

        public Queue<LiveChange> Changes { get; } = new();
    }
}
