using System.Collections.Concurrent;
using Auxilium.Storage;
using Auxilium.Web.Pages.Plan;
using Microsoft.AspNetCore.SignalR;

namespace Auxilium.Web.Live;

/// <summary>
/// The plans that are open in this process. What changed in one is worked out once and told to all who have it open; edits that come
/// while that goes on are told together. The last changes are kept, for those whose connection was away for a while.
/// </summary>
public sealed class LivePlans(IHubContext<PlanHub> hub, PlanStore store, PlanEdits edits, PlanViews views, ILogger<LivePlans> logger)
{
    /// <summary>So many changes of a plan are kept.</summary>
    private const int Kept = 60;

    /// <summary>Milliseconds after which a plan that nobody has open is followed no more.</summary>
    private const int Idle = 60_000;

    private readonly ConcurrentDictionary<Guid, Live> _plans = new();

    public static string GroupOf(Guid project) => $"plan {project}";

    public static string PersonGroupOf(string person) => $"person {person}";

    /// <summary>Begins to follow a plan, where that is not done yet.</summary>
    /// <returns>What changed since a version; <c>null</c> when that is not known any more.</returns>
    public async Task<IReadOnlyList<LiveChange>?> JoinAsync(Guid project, int version, CancellationToken cancel)
    {
        var live = _plans.GetOrAdd(project, id => new Live(id));
        live.JoinedAt = Environment.TickCount64;
        await live.Turn.WaitAsync(cancel);
        try
        {
            // Version by version from what this process follows to what there is now.
            await FollowAsync(live, cancel);
            if (live.Told is not { } told) return null;
            if (version == told.Version) return [];
            var since = live.Changes.SkipWhile(c => c.From != version).ToList();
            return since.Count > 0 && since[0].From == version && since[^1].To == told.Version ? since : null;
        }
        finally
        {
            live.Turn.Release();
        }
    }

    /// <summary>Looks what is new in a plan and tells it, if the plan is open here.</summary>
    public void Look(Guid project)
    {
        if (!_plans.TryGetValue(project, out var live) || Interlocked.Exchange(ref live.IsAsked, 1) == 1) return;
        _ = Task.Run(() => TellAsync(live));
    }

    /// <summary>After news may have been missed.</summary>
    public void LookAtAll()
    {
        foreach (var project in _plans.Keys) Look(project);
    }

    /// <summary>Forgets the plans that nobody has open here.</summary>
    public void KeepOnly(IReadOnlySet<Guid> open)
    {
        foreach (var project in _plans.Keys)
            // Whoever has just joined is not counted yet.
            if (!open.Contains(project) && _plans.TryGetValue(project, out var live) && Environment.TickCount64 - live.JoinedAt > Idle)
                _plans.TryRemove(project, out _);
    }

    private async Task TellAsync(Live live)
    {
        await live.Turn.WaitAsync();
        try
        {
            Interlocked.Exchange(ref live.IsAsked, 0);
            await FollowAsync(live, CancellationToken.None);
        }
        catch (Exception e) when (e is Npgsql.NpgsqlException or InvalidOperationException)
        {
            logger.LogWarning("What is new in a plan could not be told: {Message}", e.Message);
        }
        finally
        {
            live.Turn.Release();
        }
    }

    private async Task FollowAsync(Live live, CancellationToken cancel)
    {
        if (await store.LoadAsync(live.Project, cancel) is not { } now) return;
        var before = live.Told;
        if (before?.Version >= now.Version) return;
        live.Told = now;
        if (before is null) return;
        var last = await edits.ToldAsync(now, before.Version, cancel);
        var changes = PlanChanges.Between(views.Of(before), views.Of(now, before.Version == now.Version - 1 ? before : null), false, false, last?.Sentence ?? [], last?.Moved ?? 0);
        var change = new LiveChange(before.Version, now.Version, last?.PersonId, last?.Name, last?.Edits ?? [], changes);
        live.Changes.Enqueue(change);
        while (live.Changes.Count > Kept) live.Changes.Dequeue();
        await hub.Clients.Group(GroupOf(live.Project)).SendAsync("changed", change, cancel);
    }

    private sealed class Live(Guid project)
    {
        public SemaphoreSlim Turn { get; } = new(1);

        public int IsAsked;

        public long JoinedAt;

        public Guid Project { get; } = project;

        /// <summary>The version that was told last.</summary>
        public StoredPlan? Told { get; set; }

        public Queue<LiveChange> Changes { get; } = new();
    }
}
