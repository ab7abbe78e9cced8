using System.Collections.Immutable;

namespace Auxilium.Planning.Plans;

/// <summary>The rows of a plan by position. A row's descendants are the rows up to its <see cref="SubtreeEnd"/>.</summary>
public sealed class PlanIndex
{
    private readonly Dictionary<string, int> _rowById;
    private readonly int[] _parent;
    private readonly int[] _level;
    private readonly int[] _subtreeEnd;
    private string[]? _numbers;

    /// <param name="tasks">The rows.</param>
    /// <param name="before">An index that may be of the same rows with other contents, whose outline then holds on.</param>
    internal PlanIndex(ImmutableArray<PlanTask> tasks, PlanIndex? before = null)
    {
        Tasks = tasks;
        if (before is not null && HaveSameOutline(before.Tasks, tasks))
        {
            (_rowById, _parent, _level, _subtreeEnd, _numbers) = (
                before._rowById,
                before._parent,
                before._level,
                before._subtreeEnd,
                before._numbers
            );
            return;
        }
        var count = tasks.Length;
        _rowById = new Dictionary<string, int>(count, StringComparer.Ordinal);
        _parent = new int[count];
        _level = new int[count];
        _subtreeEnd = new int[count];
        for (var row = 0; row < count; row++)
        {
            _rowById.TryAdd(tasks[row].Id, row);
            // The parent is the row above or one of its ancestors, so this walk is short.
            var parent = row - 1;
            while (parent >= 0 && tasks[parent].Id != tasks[row].Parent)
                parent = _parent[parent];
            _parent[row] = tasks[row].Parent is null ? -1 : parent;
            _level[row] = _parent[row] < 0 ? 0 : _level[_parent[row]] + 1;
        }
        for (var row = count - 1; row >= 0; row--)
        {
            _subtreeEnd[row] = Math.Max(_subtreeEnd[row], row + 1);
            if (_parent[row] >= 0)
                _subtreeEnd[_parent[row]] = Math.Max(_subtreeEnd[_parent[row]], _subtreeEnd[row]);
        }
    }

    internal ImmutableArray<PlanTask> Tasks { get; }

    /// <summary>The same object for every index that has the same rows in the same places.</summary>
    internal object Outline => _rowById;

    /// <summary>Whether both have the same rows in the same places, as after an edit that left the outline as it was.</summary>
    public bool HasOutlineOf(PlanIndex other) => ReferenceEquals(Outline, other.Outline);

    public int Count => Tasks.Length;

    public int RowOf(string id) => _rowById[id];

    public bool TryFind(string id, out int row) => _rowById.TryGetValue(id, out row);

    /// <summary>Row of the phase this row is in, -1 at the top level.</summary>
    public int ParentOf(int row) => _parent[row];

    /// <summary>Depth in the outline, 0 at the top level.</summary>
    public int LevelOf(int row) => _level[row];

    /// <summary>The row after the last descendant.</summary>
    public int SubtreeEnd(int row) => _subtreeEnd[row];

    public bool IsPhase(int row) => _subtreeEnd[row] > row + 1;

    public bool IsLeaf(int row) => !IsPhase(row);

    /// <summary>Whether <paramref name="row"/> is below <paramref name="phase"/> at any depth.</summary>
    public bool IsDescendant(int row, int phase) => row > phase && row < _subtreeEnd[phase];

    /// <summary>Direct children in order.</summary>
    public IEnumerable<int> ChildrenOf(int row)
    {
        for (var child = row + 1; child < _subtreeEnd[row]; child = _subtreeEnd[child])
            yield return child;
    }

    /// <summary>The rows beside this one, itself included.</summary>
    public IEnumerable<int> SiblingsOf(int row)
    {
        if (_parent[row] >= 0)
            return ChildrenOf(_parent[row]);
        return TopLevel();
    }

    /// <summary>Rows that are in no phase, in order.</summary>
    public IEnumerable<int> TopLevel()
    {
        for (var row = 0; row < Count; row = _subtreeEnd[row])
            yield return row;
    }

    /// <summary>The sibling before this row, -1 when it is the first.</summary>
    public int PreviousSibling(int row)
    {
        var previous = -1;
        foreach (var sibling in SiblingsOf(row))
        {
            if (sibling == row)
                return previous;
            previous = sibling;
        }
        return -1;
    }

    /// <summary>Outline number: <c>1</c>, <c>1.1</c>, … by position (rule P2). It is the number that links are typed with.</summary>
    public string NumberOf(int row) => (_numbers ??= Number())[row];

    /// <summary>The row with an outline number, -1 when there is none.</summary>
    public int RowNumbered(string number) => Array.IndexOf(_numbers ??= Number(), number);

    /// <summary>Edits keep the ids of rows they do not touch, so looking at the references is enough.</summary>
    private static bool HaveSameOutline(ImmutableArray<PlanTask> before, ImmutableArray<PlanTask> after)
    {
        if (before.Length != after.Length)
            return false;
        for (var row = 0; row < after.Length; row++)
            if (
                !ReferenceEquals(before[row], after[row])
                && !(ReferenceEquals(before[row].Id, after[row].Id) && ReferenceEquals(before[row].Parent, after[row].Parent))
            )
                return false;
        return true;
    }

    private string[] Number()
    {
        var numbers = new string[Count];
        var next = new int[Count + 1];
        for (var row = 0; row < Count; row++)
        {
            var position = ++next[_parent[row] + 1];
            numbers[row] = _parent[row] < 0 ? position.ToString() : numbers[_parent[row]] + "." + position;
        }
        return numbers;
    }
}
