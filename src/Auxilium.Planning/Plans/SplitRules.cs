using System.Collections.Immutable;
using Auxilium.Planning.Typing;

namespace Auxilium.Planning.Plans;

/// <summary>Which pauses (rule L3) and which ranges of a length make sense.</summary>
public static class SplitRules
{
    /// <summary>The position of the first pause that is refused and why, in a sentence; <c>null</c> when all are fine.</summary>
    public static (int Split, string Why)? WhyRefused(ImmutableArray<Split> splits, Length length, WorkUnits units)
    {
        if (splits.IsEmpty)
            return null;
        if (splits.Length > PlanTask.MostSplits)
            return (PlanTask.MostSplits, $"A task pauses at most {PlanTask.MostSplits} times.");
        if (length.IsZero)
            return (0, "A task that takes no time cannot pause: give it a length first.");
        var last = 0;
        for (var i = 0; i < splits.Length; i++)
        {
            var (after, pause) = splits[i];
            if (LengthText.WhyUnusable(after, units) is { } unusable)
                return (i, unusable);
            if (LengthText.WhyUnusable(pause, units) is { } tooLong)
                return (i, tooLong);
            if (units.Minutes(pause).Count <= 0)
                return (i, "A pause takes some time: give it a length, such as 2d.");
            var minutes = units.Minutes(after).Count;
            if (minutes <= 0)
                return (i, "A pause comes after some work: say after how much, such as 1d.");
            if (minutes >= units.Minutes(length).Count)
                return (
                    i,
                    $"A pause after {after.InWords()} of work lies beyond the end: the task takes {length.InWords()}, so give less "
                        + "than that."
                );
            if (minutes <= last)
                return (i, "Pauses stand in order, each after more work than the one before it.");
            last = minutes;
        }
        return null;
    }

    /// <summary>Why a range is refused, or <c>null</c>.</summary>
    public static string? WhyRefused(LengthEstimate estimate, bool milestone, WorkUnits units)
    {
        if (milestone)
            return "A milestone takes no time, so there is no range to it.";
        foreach (var length in new[] { estimate.Low, estimate.Likely, estimate.High })
        {
            if (length.Amount < 0)
                return "A length cannot be negative: type one from 0 up, such as 3d.";
            if (LengthText.WhyUnusable(length, units) is { } why)
                return why;
        }
        return
            units.Minutes(estimate.Low) <= units.Minutes(estimate.Likely) && units.Minutes(estimate.Likely) <= units.Minutes(estimate.High)
            ? null
            : "The three lengths stand in order: at best, most likely, at worst, such as 3d, 5d and 10d.";
    }
}
