using Auxilium.Exchange.Calendars;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;

namespace Auxilium.Exchange.Lists;

/// <summary>
/// Which rows of a plan the lines of a list are: by their own id in our calendars, by source id, then by their names with those of
/// their phases, then by names that only one row has. Each row is one line at most.
/// </summary>
internal sealed class ListMatches
{
    private readonly PlanTask?[] _of;

    public ListMatches(Plan plan, IReadOnlyList<ListReader.Entry> entries)
    {
        _of = new PlanTask?[entries.Count];
        // What comes of a series is not in any list: its phase is.
        var rows = Enumerable.Range(0, plan.Tasks.Length).Where(row => plan.Tasks[row].Occurrence is null).ToList();
        var taken = new HashSet<string>();
        Pair(at => CalendarTask.TaskOf(IdOf(entries[at])), row => plan.Tasks[row].Id);
        Pair(at => IdOf(entries[at]), row => plan.Tasks[row].Facts[PlainFacts.SourceId] as string);
        // Two articles of different numbers are two, whatever they are called.
        Pair(at => PathOf(entries, at), row => PathOf(plan, row), (at, row) => AreSame(entries[at], plan.Tasks[row]));
        Pair(at => Plain(entries[at].Name), row => Plain(plan.Tasks[row].Name), (at, row) => AreSame(entries[at], plan.Tasks[row]));
        Count = _of.Count(task => task is not null);

        void Pair(Func<int, string?> ofEntry, Func<int, string?> ofRow, Func<int, int, bool>? also = null)
        {
            var free = rows.Where(row => !taken.Contains(plan.Tasks[row].Id)).ToLookup(ofRow);
            foreach (var lines in Enumerable.Range(0, entries.Count).Where(at => _of[at] is null).GroupBy(ofEntry))
            {
                if (lines.Key is not { Length: > 0 } key || lines.Count() != 1 || free[key].Count() != 1)
                    continue;
                var (line, row) = (lines.Single(), free[key].Single());
                if (also?.Invoke(line, row) == false)
                    continue;
                _of[line] = plan.Tasks[row];
                taken.Add(plan.Tasks[row].Id);
            }
        }
    }

    public int Count { get; }

    public bool AreMany => Count >= 2 && Count * 2 >= _of.Length;

    /// <summary>The row that a line is; <c>null</c> for none.</summary>
    /// <param name="at">The place of its entry.</param>
    public PlanTask? Of(int at) => _of[at];

    private static string? IdOf(ListReader.Entry entry) => entry.Cells.GetValueOrDefault(ListColumnKind.SourceId);

    private static bool AreSame(ListReader.Entry entry, PlanTask task) =>
        IdOf(entry) is not { } id || task.Facts[PlainFacts.SourceId] is not string own || id == own;

    private static string PathOf(IReadOnlyList<ListReader.Entry> entries, int at)
    {
        var path = Plain(entries[at].Name);
        var level = entries[at].Level;
        for (var up = at - 1; up >= 0 && level > 0; up--)
            if (entries[up].Level < level)
            {
                level = entries[up].Level;
                path = $"{Plain(entries[up].Name)}\n{path}";
            }
        return path;
    }

    private static string PathOf(Plan plan, int row)
    {
        var path = Plain(plan.Tasks[row].Name);
        for (var up = plan.Index.ParentOf(row); up >= 0; up = plan.Index.ParentOf(up))
            path = $"{Plain(plan.Tasks[up].Name)}\n{path}";
        return path;
    }

    private static string Plain(string name) =>
        string.Join(' ', name.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)).ToUpperInvariant();
}
