using Auxilium.Planning.Editing;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Exchange.Lists;

/// <summary>Columns of a list that hold fields which people added, or that fields are made of.</summary>
internal sealed class ListOwnFields(Schedule schedule, DateOnly today)
{
    private readonly Dictionary<ListColumnKind, OwnField> _new = [];

    /// <summary>Makes fields of the columns that are to be some, of the kind that all their cells are.</summary>
    /// <returns>The edit that adds them; <c>null</c> where there are none.</returns>
    public PlanEdit? Make(IReadOnlyList<ListReader.Entry> entries, IReadOnlyList<ListColumn> columns)
    {
        var fields = schedule.Plan.Project.Fields;
        var (ids, names) = (
            fields.Select(field => field.Id).ToHashSet(),
            fields.Select(field => field.Name).ToHashSet(StringComparer.OrdinalIgnoreCase)
        );
        foreach (var (kind, heading, _) in columns.Where(column => column.Kind.IsNew))
        {
            var name = heading.Length is 0 ? "Field" : heading[..Math.Min(heading.Length, OwnField.LongestName - 3)].Trim();
            var own = name;
            for (var i = 2; !names.Add(own); i++)
                own = $"{name} {i}";
            var cells = entries.Select(entry => entry.Cells.GetValueOrDefault(kind)).OfType<string>().ToList();
            var field = new OwnField(OwnField.IdFor(own, ids), own, KindOf(own, cells));
            ids.Add(field.Id);
            _new.Add(kind, field);
        }
        return _new.Count > 0 ? new SetFields([.. fields, .. _new.Values]) : null;
    }

    /// <summary>Reads the cells of a row that are of such fields.</summary>
    public void Read(MadeRow row)
    {
        foreach (var (kind, cell) in row.Entry.Cells)
            if ((kind.Field ?? _new.GetValueOrDefault(kind)) is { } field)
                Read(row, kind, field, cell);
    }

    private void Read(MadeRow row, ListColumnKind kind, OwnField field, string cell)
    {
        if (!OwnText.TryRead(field, cell, today, schedule.Start.Date, out var value, out var problem))
        {
            row.Problems.Add(new(kind, $"{problem} It is left out."));
            return;
        }
        row.Cells[kind] = cell;
        if (value is not null)
            row.Facts.Add((kind, new SetOwn(row.Id, field.Id, value)));
    }

    private OwnKind KindOf(string name, List<string> cells)
    {
        foreach (var kind in new[] { OwnKind.YesNo, OwnKind.Number, OwnKind.Date })
            if (
                cells.Count > 0
                && cells.All(cell => OwnText.TryRead(new OwnField("x", name, kind), cell, today, schedule.Start.Date, out _, out _))
            )
                return kind;
        return OwnKind.Text;
    }
}
