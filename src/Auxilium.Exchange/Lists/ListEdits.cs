using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;

namespace Auxilium.Exchange.Lists;

/// <summary>Puts together the edit that adds the rows of a list, or updates those that are there.</summary>
/// <param name="context">What edits are understood by.</param>
/// <param name="fields">The edit that adds fields; <c>null</c> for none.</param>
/// <param name="repeats">What makes rows come again.</param>
internal sealed class ListEdits(EditContext context, ListOptions options, PlanEdit? fields, IReadOnlyList<PlanEdit> repeats)
{
    /// <summary>Up to so many rows, and edits, are added step by step as a person would; longer lists as whole rows.</summary>
    public const int MostBySteps = 2_000;
    private const int MostEdits = 10_000;

    /// <summary>All rows, after the place that was chosen.</summary>
    public PlanEdit Adding(List<MadeRow> rows)
    {
        var edits = rows.Sum(row => 1 + row.Facts.Count + row.Before.Count);
        if (options.AsWholeRows || rows.Count > MostBySteps || edits > MostEdits)
            return new ManyRows(context).Adding(rows, options, fields, repeats);
        var last = new List<string>();
        var adds = new List<PlanEdit>();
        foreach (var row in rows)
        {
            var level = row.Entry.Level;
            var parent = level == 0 ? options.Parent : last[level - 1];
            var after =
                last.Count > level ? last[level]
                : level == 0 ? options.After
                : null;
            adds.Add(new AddTask(row.Id, NameOf(row), parent, after));
            last.RemoveRange(Math.Min(level, last.Count), Math.Max(0, last.Count - level));
            last.Add(row.Id);
        }
        return Together(adds, rows, []);
    }

    /// <summary>New rows beside those that they stand beside in the list, what has changed, and without what is to go.</summary>
    /// <returns><c>null</c> where nothing is left to do.</returns>
    public PlanEdit? Updating(List<MadeRow> rows, ListComparison comparison)
    {
        var adds = comparison.Places();
        var taken = rows.Where(comparison.IsTaken).ToList();
        List<PlanEdit> removals = comparison.Removed is { Length: > 0 } gone ? [new RemoveTasks(gone)] : [];
        var edit = Together(adds, taken, removals);
        return edit.Edits.IsEmpty ? null : edit;
    }

    internal static string NameOf(MadeRow row) =>
        row.Entry.Name.Length > PlanTask.LongestName ? row.Entry.Name[..PlanTask.LongestName] : row.Entry.Name;

    private Together Together(List<PlanEdit> adds, List<MadeRow> rows, List<PlanEdit> removals)
    {
        var ids = rows.Select(row => row.Id).ToHashSet();
        return new Together([
            .. adds,
            .. fields is null ? [] : (PlanEdit[])[fields],
            .. rows.SelectMany(row => row.Facts.Select(fact => fact.Edit)),
            .. rows.Where(row => row.Before.Count > 0).Select(row => new SetPredecessors(row.Id, [.. row.Before])),
            .. rows.Where(row => row.Place is not null).OrderBy(row => row.Place).Select(row => new PlaceTask(row.Id, row.Place!.Value)),
            .. repeats.Where(repeat => ids.Contains(repeat.Traits.Task!)),
            .. removals,
        ]);
    }
}
