using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Tracking;

/// <summary>
/// How many tasks serve each milestone, and how many of them are left. What is inside a phase serves what the phase does.
/// </summary>
public sealed class Gathered
{
    private readonly Dictionary<string, (int All, int Left)> _counts = [];

    public Gathered(Schedule schedule)
    {
        var plan = schedule.Plan;
        for (var row = 0; row < plan.Tasks.Length; row++)
        {
            if (schedule.IsOff(row) || !schedule.IsLeaf(row) || ServedBy(plan, row) is not { } milestone)
                continue;
            var (all, left) = _counts.GetValueOrDefault(milestone);
            _counts[milestone] = (all + 1, left + (plan.Tasks[row].IsFinished ? 0 : 1));
        }
    }

    /// <summary>Of a milestone; none where nothing serves it.</summary>
    public (int All, int Left) Of(string milestone) => _counts.GetValueOrDefault(milestone);

    /// <summary>Id of the milestone that a row serves itself, or by a phase that it is in; <c>null</c> for none.</summary>
    public static string? ServedBy(Plan plan, int row)
    {
        for (var at = row; at >= 0; at = plan.Index.ParentOf(at))
            if (PlainFacts.Serves.Of(plan.Tasks[at]) is { } id)
                return plan.Find(id) is { Milestone: true } milestone && milestone.Id != plan.Tasks[row].Id ? id : null;
        return null;
    }

    /// <summary>“3 of 5 tasks left”; <c>null</c> where nothing serves it.</summary>
    public static string? Said(int all, int left) =>
        all == 0 ? null
        : left == 0 ? $"all {all} done"
        : $"{left} of {all} left";
}
