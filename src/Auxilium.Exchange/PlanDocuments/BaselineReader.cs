using System.Collections.Immutable;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;

namespace Auxilium.Exchange.PlanDocuments;

/// <summary>A baseline as read, before its bare days are understood by the project's calendar.</summary>
/// <param name="Start"><c>null</c> for the earliest start of its rows.</param>
/// <param name="Finish"><c>null</c> for their latest finish.</param>
internal sealed record ReadBaseline(
    Baseline Baseline,
    DateOrTime? Start,
    DateOrTime? Finish,
    ImmutableArray<(BaselineRow Row, DateOrTime Start, DateOrTime Finish, bool? Phase)> Rows
)
{
    public Baseline WithDates(Plan plan)
    {
        var calendar = plan.ProjectCalendar;
        ImmutableArray<BaselineRow> rows =
        [
            .. Rows.Select(r =>
                r.Row with
                {
                    Name = r.Row.Name.Length > 0 ? r.Row.Name : plan.Find(r.Row.Task)?.Name ?? r.Row.Task,
                    Start = r.Start.AsStart(calendar),
                    Finish = r.Finish.AsFinish(calendar),
                    Phase = r.Phase ?? (plan.Index.TryFind(r.Row.Task, out var row) && plan.Index.IsPhase(row)),
                }
            ),
        ];
        return Baseline with
        {
            Rows = rows,
            Start = Start?.AsStart(calendar) ?? rows.Min(r => r.Start),
            Finish = Finish?.AsFinish(calendar) ?? rows.Max(r => r.Finish),
        };
    }
}

/// <summary>Reads <c>$.baselines</c>.</summary>
internal static class BaselineReader
{
    private const decimal MostMinutes = 100_000_000;
    private const decimal MostCost = 1_000_000_000_000;

    public static IReadOnlyList<ReadBaseline> Read(JsonObjectReader root)
    {
        var baselines = new List<ReadBaseline>();
        foreach (var at in root.Objects("baselines", Baseline.Most))
        {
            var read = ReadOne(at);
            if (baselines.Any(b => b.Baseline.Id == read.Baseline.Id))
                at.Error("id", "duplicateId", $"There are two baselines with the id “{read.Baseline.Id}”.");
            if (baselines.Any(b => b.Baseline.Name.Equals(read.Baseline.Name, StringComparison.OrdinalIgnoreCase)))
                at.Error("name", "duplicateName", $"There are two baselines called “{read.Baseline.Name}”.");
            baselines.Add(read);
            at.Done();
        }
        return baselines;
    }

    private static ReadBaseline ReadOne(JsonObjectReader at)
    {
        var name = at.RequiredText("name", Baseline.LongestName).Trim();
        if (name.Any(char.IsControl))
            at.Error("name", "name", "A name is one line of text: leave out line breaks.");
        var taken = at.Date("taken");
        if (!at.Has("taken"))
            at.Error("taken", "missing", "“taken” is missing: give the day it was taken.");
        var rows = ReadRows(at);
        if (rows.IsEmpty)
            at.Error("rows", "missing", "A baseline of nothing remembers nothing: give it rows.");
        var baseline = new Baseline(
            PlanDocumentReader.ReadId(at, "id"),
            name,
            taken?.Date ?? default,
            !at.Has("whole") || at.Flag("whole"),
            default,
            default,
            []
        );
        return new ReadBaseline(baseline, at.Date("start"), at.Date("finish"), rows);
    }

    private static ImmutableArray<(BaselineRow, DateOrTime, DateOrTime, bool?)> ReadRows(JsonObjectReader baseline)
    {
        var rows = ImmutableArray.CreateBuilder<(BaselineRow, DateOrTime, DateOrTime, bool?)>();
        var ids = new HashSet<string>();
        foreach (var at in baseline.Objects("rows", Plan.MostTasks))
        {
            var id = PlanDocumentReader.ReadId(at, "task");
            if (!ids.Add(id))
                at.Error("task", "duplicateId", $"This baseline has two rows of “{id}”.");
            var (start, finish) = (Required(at, "start"), Required(at, "finish"));
            if (start.Date > finish.Date)
                at.Error("finish", "range", "A row cannot finish before it starts.");
            var progress = at.Number("progress") ?? 0;
            if (progress is < 0 or > 1)
                at.Error("progress", "range", "Progress goes from 0 to 1.");
            var row = new BaselineRow(
                id,
                (at.Text("name", PlanTask.LongestName) ?? "").Trim(),
                default,
                default,
                (int)Number(at, "lengthMinutes", MostMinutes, whole: true),
                Number(at, "effortMinutes", MostMinutes),
                progress,
                at.Flag("milestone"),
                false,
                new PlannedCost(
                    Number(at, "costAtStart", MostCost),
                    Number(at, "costEvenly", MostCost),
                    Number(at, "costAtFinish", MostCost)
                )
            );
            rows.Add((row, start, finish, at.Has("phase") ? at.Flag("phase") : null));
            at.Done();
        }
        return rows.ToImmutable();
    }

    private static DateOrTime Required(JsonObjectReader at, string field)
    {
        if (!at.Has(field))
            at.Error(field, "missing", $"“{field}” is missing here.");
        return at.Date(field) ?? default;
    }

    private static decimal Number(JsonObjectReader at, string field, decimal most, bool whole = false)
    {
        var number = at.Number(field) ?? 0;
        if (number >= 0 && number <= most && (!whole || number == decimal.Truncate(number)))
            return number;
        at.Error(field, "range", $"“{field}” is {(whole ? "a whole number" : "a number")} from 0 to {most:0}.");
        return 0;
    }
}
