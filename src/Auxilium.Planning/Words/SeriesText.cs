using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;

namespace Auxilium.Planning.Words;

/// <summary>Says what another rule does to the occurrences that a series has, before it is kept and after.</summary>
public static class SeriesText
{
    /// <summary>
    /// "Of the 9 so far, 6 stay as they are, 2 change their day or length and 1 is removed; 3 are added.", and whose own day or work is
    /// kept.
    /// </summary>
    /// <param name="before">The plan that the rule is not in yet.</param>
    /// <param name="edit">The rule for a row of it.</param>
    /// <param name="spoken">Rows that people have written comments on, or brought files to: they stay.</param>
    /// <returns>Nothing for a task that does not repeat yet.</returns>
    /// <exception cref="EditRefusedException">The rule makes no sense, or gives no occurrence.</exception>
    public static string Of(Schedule before, RepeatTask edit, IReadOnlySet<string>? spoken = null)
    {
        var plan = before.Plan;
        if (plan.Find(edit.Task) is not { Repeats: not null } series)
            return "";
        var (rule, occurrences) = SeriesEdits.Rehearse(plan, series, edit.Rule, before);
        var change = SeriesEdits.Change(plan, series, rule, occurrences);
        var all = plan.Index.ChildrenOf(plan.Index.RowOf(series.Id)).Count();
        var gone = edit.Drop is { } drop ? change.Gone.Count(drop.Contains) : change.Gone.Count(id => spoken?.Contains(id) != true);
        var other = change.Changed.Count(t => plan.Find(t.Id)! with { Occurrence = t.Occurrence } != t);
        List<string> parts = [];
        if (all - gone - other is var stay and > 0)
            parts.Add($"{stay} {(stay == 1 ? "stays as it is" : "stay as they are")}");
        if (other > 0)
            parts.Add($"{other} {(other == 1 ? "changes its" : "change their")} day or length");
        if (gone > 0)
            parts.Add($"{gone} {(gone == 1 ? "is" : "are")} removed");
        var added = change.New.Count switch
        {
            0 => "",
            1 => "; 1 is added",
            var count => $"; {count} are added",
        };
        var kept =
            change.Kept.Length == 0
                ? ""
                : $" What somebody did to "
                    + $"{ListText.Listed([.. change.Kept.Select(id => $"“{LengthText.Shorten(plan.Find(id)!.Name)}”")])} is kept.";
        return parts.Count == 0 ? "" : $"Of the {all} so far, {ListText.Listed(parts)}{added}.{kept}";
    }
}
