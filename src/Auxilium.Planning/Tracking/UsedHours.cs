using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Tracking;

/// <summary>Hours worked on a task beside the work it was to take (rule H3).</summary>
/// <param name="Worked">Minutes that people worked on it.</param>
/// <param name="Effort">Minutes of work that it was to take; 0 where nothing was said.</param>
/// <param name="Progress">0 to 1.</param>
public readonly record struct UsedHours(int Worked, decimal Effort, decimal Progress)
{
    /// <summary>Hours worked by effort; <c>null</c> without effort.</summary>
    public decimal? Share => Effort > 0 ? Worked / Effort : null;

    /// <summary>Whether it is eating more than planned: more of its effort is used than of its work is done.</summary>
    public bool IsEating => Share > Progress;

    /// <summary>Minutes it takes in the end, if it goes on like this; <c>null</c> while nothing is done.</summary>
    public decimal? Expected => Progress > 0 ? Worked / Progress : null;

    /// <summary>"5 of 12 hours", and what is to be expected where it is eating more than planned.</summary>
    public string Said
    {
        get
        {
            if (Effort <= 0)
                return $"{ComparisonText.HoursInWords(Worked)} worked";
            var hours = new Length(Math.Round(Worked / 60m, 2), LengthUnit.Hours).ToString()[..^1];
            var used = $"{hours} of {ComparisonText.HoursInWords(Effort)} used";
            return !IsEating ? used
                : Expected is { } expected
                    ? $"{used}, more than planned: about {ComparisonText.HoursInWords(Math.Round(expected / 60) * 60)} at the end"
                : $"{used}, more than planned: nothing is done yet";
        }
    }

    /// <summary>Every row of a plan on which somebody has worked; phases have the hours of their rows.</summary>
    /// <param name="schedule">The plan with its dates.</param>
    /// <param name="worked">Minutes by the id of a task.</param>
    public static IEnumerable<(int Row, UsedHours Used)> Of(Schedule schedule, IReadOnlyDictionary<string, int> worked)
    {
        var (index, effort) = (schedule.Plan.Index, new Effort(schedule));
        var minutes = new int[index.Count];
        foreach (var (task, sum) in worked)
            if (index.TryFind(task, out var at))
                for (; at >= 0; at = index.ParentOf(at))
                    minutes[at] += sum;
        for (var row = 0; row < minutes.Length; row++)
            if (minutes[row] > 0)
                yield return (
                    row,
                    new UsedHours(minutes[row], effort.Of(row), schedule.IsOff(row) ? 0 : (decimal)schedule.ProgressOf(row))
                );
    }
}
