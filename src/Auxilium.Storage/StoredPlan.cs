using System.Collections.Immutable;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Storage;

/// <summary>A version of a plan with its dates worked out. Immutable, so it can be shared.</summary>
public sealed class StoredPlan
{
    private readonly Lazy<Schedule> _schedule;

    internal StoredPlan(Guid id, int version, Func<Schedule> schedule, PlanRanks ranks)
    {
        Id = id;
        Version = version;
        Ranks = ranks;
        _schedule = new Lazy<Schedule>(schedule);
    }

    public Guid Id { get; }

    public int Version { get; }

    public Schedule Schedule => _schedule.Value;

    internal PlanRanks Ranks { get; }

    /// <summary>The edit that made this version, where it was made in this process.</summary>
    internal EditMade? Made { get; init; }
}

/// <summary>An edit that was just made.</summary>
/// <param name="Moved">How many tasks it moved.</param>
internal sealed record EditMade(Guid Edit, string PersonId, ImmutableArray<TextRun> Sentence, int Moved);

/// <summary>Where the rows of a stored plan stand.</summary>
internal sealed record PlanRanks(IReadOnlyDictionary<string, long> Tasks, IReadOnlyDictionary<(string From, string To), long> Links);
