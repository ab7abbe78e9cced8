using System.Collections.Immutable;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;

namespace Auxilium.Storage.Plans;

/// <summary>A version of a plan with its dates worked out. Immutable, so it can be shared.</summary>
public sealed class StoredPlan
{
    private readonly Lazy<Schedule> _schedule;

    internal StoredPlan(Guid id, Guid project, int version, Guid? edit, Func<Schedule> schedule, PlanRanks ranks)
    {
        Id = id;
        Project = project;
        Version = version;
        Edit = edit;
        Ranks = ranks;
        _schedule = new Lazy<Schedule>(schedule);
    }

    /// <summary>Of the plan itself.</summary>
    public Guid Id { get; }

    /// <summary>Id of the project that it belongs to.</summary>
    public Guid Project { get; }

    public int Version { get; }

    /// <summary>
    /// Id of the edit that made this version; <c>null</c> for the first. Only with it a version is one: after a backup was restored, the
    /// same number may come again for something else.
    /// </summary>
    public Guid? Edit { get; }

    public Schedule Schedule => _schedule.Value;

    /// <summary>Its name, which is known also where its dates are not.</summary>
    public required string Name { get; init; }

    /// <summary>Why its dates cannot be worked out, in a sentence; <c>null</c> where they can.</summary>
    public string? WhyUnsound
    {
        get
        {
            try
            {
                _ = Schedule;
                return null;
            }
            catch (UnsoundPlanException unsound)
            {
                return unsound.Problems[0].Message;
            }
        }
    }

    internal PlanRanks Ranks { get; }

    /// <summary>The edit that made this version, where it was made in this process.</summary>
    internal EditMade? Made { get; init; }
}

/// <summary>An edit that was just made.</summary>
/// <param name="Before">Id of the edit that made the version it was made on.</param>
/// <param name="Moved">How many tasks it moved.</param>
internal sealed record EditMade(Guid? Before, Guid Edit, string PersonId, ImmutableArray<TextRun> Sentence, int Moved);

/// <summary>Where the rows of a stored plan stand.</summary>
internal sealed record PlanRanks(IReadOnlyDictionary<string, long> Tasks, IReadOnlyDictionary<(string From, string To), long> Links);
