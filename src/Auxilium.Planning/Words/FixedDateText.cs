using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Words;

/// <summary>Fixed dates in words.</summary>
internal static class FixedDateText
{
    /// <summary>As a row has it: "not before Wed 12 May", "finishes not after Fri 14 May", "as late as it can".</summary>
    public static string Of(DateConstraint constraint) =>
        constraint.Kind switch
        {
            ConstraintKind.StartNoEarlierThan => $"not before {Day(constraint)}",
            ConstraintKind.FinishNoEarlierThan => $"finishes not before {Day(constraint)}",
            ConstraintKind.StartNoLaterThan => $"starts no later than {Day(constraint)}",
            ConstraintKind.FinishNoLaterThan => $"finishes no later than {Day(constraint)}",
            ConstraintKind.MustStartOn => $"starts exactly on {Day(constraint)}",
            ConstraintKind.MustFinishOn => $"finishes exactly on {Day(constraint)}",
            ConstraintKind.AsLateAsPossible => "as late as it can",
            _ => "as soon as it can",
        };

    /// <summary>As a sentence goes on after the task's name.</summary>
    public static string Does(DateConstraint constraint) =>
        constraint.Kind switch
        {
            ConstraintKind.StartNoEarlierThan or ConstraintKind.AsLateAsPossible or ConstraintKind.AsSoonAsPossible =>
                $"goes {Of(constraint)}",
            _ => Of(constraint),
        };

    private static string Day(DateConstraint constraint) =>
        constraint.IsOfFinish ? Dates.FinishDay(constraint.Date!.Value) : Dates.Day(constraint.Date!.Value);
}

/// <summary>Links in words.</summary>
internal static class LinkKindText
{
    /// <summary>The same of a link that is new: "now comes after", "may now begin".</summary>
    public static string NowWaits(LinkKind kind, Length lag, bool elapsed)
    {
        var waits = Waits(kind, lag, elapsed);
        return waits.StartsWith("may ", StringComparison.Ordinal) ? $"may now {waits[4..]}" : $"now {waits}";
    }

    /// <summary>What the task after does, before the name of the one before it: "comes 2 days after", "starts with".</summary>
    public static string Waits(LinkKind kind, Length lag, bool elapsed)
    {
        var by = (lag with { Amount = Math.Abs(lag.Amount) }).InWords() + (elapsed ? " on the clock" : "");
        return (kind, Math.Sign(lag.Amount)) switch
        {
            (LinkKind.FinishToStart, 0) => "comes after",
            (LinkKind.FinishToStart, > 0) => $"comes {by} after",
            (LinkKind.FinishToStart, _) => $"may begin {by} before the end of",
            (LinkKind.StartToStart, 0) => "starts with",
            (LinkKind.StartToStart, > 0) => $"starts {by} after the start of",
            (LinkKind.StartToStart, _) => $"may start {by} before the start of",
            (LinkKind.FinishToFinish, 0) => "ends with",
            (LinkKind.FinishToFinish, > 0) => $"ends {by} after the end of",
            (LinkKind.FinishToFinish, _) => $"may end {by} before the end of",
            (_, 0) => "ends after the start of",
            (_, > 0) => $"ends {by} after the start of",
            _ => $"may end {by} before the start of",
        };
    }
}
