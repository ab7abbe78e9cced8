using System.Globalization;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Load;

namespace Auxilium.Web.Api;

/// <summary>A day of somebody on which an edit gives them more or less to do.</summary>
/// <param name="Task">Of which task.</param>
/// <param name="Minutes">More, or, negative, less.</param>
public sealed record LoadChange(string Person, string Task, string Day, decimal Minutes)
{
    /// <summary>So many are told at most: what moves more than that is better looked at when it is done.</summary>
    private const int Most = 5_000;

    internal static IReadOnlyList<LoadChange> Of(EditedPlan edited)
    {
        var minutes = new Dictionary<(string Person, string Task, DateOnly Day), decimal>();
        foreach (var (schedule, sign) in new[] { (edited.Before, -1), (edited.After, 1) })
        foreach (var part in new PlanLoad(schedule, PlanLoad.FirstDay(schedule.Plan, edited.Today), []).Parts)
            minutes[(part.Person, part.Task, part.Day)] =
                minutes.GetValueOrDefault((part.Person, part.Task, part.Day)) + sign * part.Minutes;
        return
        [
            .. minutes
                .Where(change => Math.Abs(change.Value) >= 0.01m)
                .OrderBy(change => change.Key.Day)
                .Take(Most)
                .Select(change => new LoadChange(
                    change.Key.Person,
                    change.Key.Task,
                    change.Key.Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                    Math.Round(change.Value, 2)
                )),
        ];
    }
}
