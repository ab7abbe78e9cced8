using System.Collections.Immutable;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Exchange.Lists;

/// <summary>Makes the edit that brings the rows of a list into a plan, and says what of them could not be read.</summary>
internal sealed class ListMaker(Schedule schedule, IReadOnlyList<Person> people, DateOnly today, DateOrder order, ListOptions options)
{
    private readonly Plan _plan = schedule.Plan;

    public ListReading Make(IReadOnlyList<ListReader.Entry> entries, IReadOnlyList<ListColumn> columns, bool ask)
    {
        var matches = new ListMatches(_plan, entries);
        var rows = RowsOf(entries, options.Again ? matches : null);
        var own = new ListOwnFields(schedule, today);
        var fields = own.Make(entries, columns);
        var facts = new ListFacts(schedule, people, today, order, options, own);
        foreach (var row in rows)
            facts.Read(row);
        ListLinks.Read(rows);
        var repeats = ReadRepeats(rows);
        var comparison = options.Again ? new ListComparison(Context(), options, rows, fields) : null;
        var (edit, problem) = EditOf(rows, comparison, new ListEdits(Context(), options, fields, repeats));
        return new ListReading(
            columns,
            [
                .. rows.Select(row => new ListRow(
                    row.Entry.Line,
                    row.Id,
                    row.Entry.Level,
                    row.Entry.Number,
                    row.Entry.Name,
                    row.IsPhase,
                    row.Cells,
                    row.Problems
                )
                {
                    State = comparison is null ? null : ListComparison.StateOf(row),
                    Changes = row.Changes,
                }),
            ],
            order,
            ask,
            facts.NewPeople,
            problem,
            edit
        )
        {
            Matches = matches.Count,
            IsLikelyAgain = matches.AreMany,
            Gone = comparison?.Gone ?? [],
        };
    }

    private List<MadeRow> RowsOf(IReadOnlyList<ListReader.Entry> entries, ListMatches? matches)
    {
        var rows = new List<MadeRow>(entries.Count);
        for (var at = 0; at < entries.Count; at++)
        {
            var end = at + 1;
            while (end < entries.Count && entries[end].Level > entries[at].Level)
                end++;
            var phase = at == 0 ? null : rows[at - 1];
            while (phase is not null && phase.Entry.Level >= entries[at].Level)
                phase = phase.Phase;
            var existing = matches?.Of(at);
            var row = new MadeRow(entries[at], existing, phase, at, end)
            {
                HoldsRows = existing is not null && _plan.Index.IsPhase(_plan.Index.RowOf(existing.Id)),
            };
            if (row.Entry.Name.Length > PlanTask.LongestName)
                row.Problems.Add(
                    new(
                        ListColumnKind.Task,
                        $"The name has {row.Entry.Name.Length:N0} characters: the first {PlanTask.LongestName} are kept."
                    )
                );
            rows.Add(row);
        }
        return rows;
    }

    private List<PlanEdit> ReadRepeats(List<MadeRow> rows)
    {
        var repeats = new List<PlanEdit>();
        for (var i = 0; i < rows.Count && i < options.Repeats?.Count; i++)
        {
            if (options.Repeats[i] is not { } repeat)
                continue;
            // A series that is there already stays as people have made it since.
            if (repeat.Rule is { } rule && rows[i].Existing?.Repeats is null)
                repeats.Add(new RepeatTask(rows[i].Id, rule));
            if (repeat.Problem is { } problem)
                rows[i].Problems.Add(new(null, problem));
        }
        return repeats;
    }

    private EditContext Context() => new(schedule, today, people);

    /// <summary>The edit, tried before anybody is asked to confirm it, or why there is none.</summary>
    private (PlanEdit? Edit, string? Problem) EditOf(List<MadeRow> rows, ListComparison? comparison, ListEdits edits)
    {
        try
        {
            var edit = comparison is null ? edits.Adding(rows) : edits.Updating(rows, comparison);
            if (edit is null)
                return (null, comparison!.WhyNothing());
            EditPipeline.Run(edit, Context());
            return (edit, null);
        }
        catch (EditRefusedException refused)
        {
            var row = rows.Find(r => r.Id == refused.Task);
            row?.Problems.Add(new(null, refused.Message));
            var line = row is null ? "" : $"Line {row.Entry.Line}, “{MadeRow.Short(row.Entry.Name)}”: ";
            return (null, line + refused.Message);
        }
    }
}
