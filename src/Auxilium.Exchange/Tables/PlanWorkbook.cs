using Auxilium.Planning.Calendars;
using Auxilium.Planning.Load;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Typing;

namespace Auxilium.Exchange.Tables;

/// <summary>
/// A plan as an office spreadsheet: tasks, links, people and how far it is from its baseline, each on a sheet. Dates are dates and
/// numbers are numbers; what people typed is text, never a formula.
/// </summary>
public static class PlanWorkbook
{
    /// <summary>A timeline has at most so many weeks.</summary>
    private const int MostWeeks = 520;

    /// <param name="title">What the file is about: the name of the project.</param>
    /// <param name="isWhole">Whether there are sheets besides that of the tasks.</param>
    /// <param name="hours">Hours that people worked on its tasks.</param>
    /// <param name="weekStart">The day that weeks begin with.</param>
    /// <param name="hasTimeline">Whether the timeline stands beside the tasks, by week.</param>
    public static byte[] Write(
        PlanTable table,
        string title,
        bool isWhole = true,
        IReadOnlyList<WorkedHours>? hours = null,
        DayOfWeek weekStart = DayOfWeek.Monday,
        bool hasTimeline = false,
        PlanMoney? money = null
    )
    {
        List<DateOnly> weeks = hasTimeline ? WeeksOf(table, weekStart) : [];
        var stream = new MemoryStream();
        using (var book = new WorkbookWriter(stream, title))
        {
            book.Add("Tasks", table.Columns.Select(c => (c.Title, c.Width)), TasksOf(table, weeks), weeks);
            if (isWhole)
                AddOthers(book);
            if (isWhole && money is not null)
                AddMoney(book, money);
        }
        return stream.ToArray();

        void AddOthers(WorkbookWriter book)
        {
            book.Add("Links", [("From", 8), ("Task", 40), ("To", 8), ("Task", 40), ("Link", 20)], LinksOf(table.Plan));
            book.Add("People", [("Person", 30), ("Mail", 34), ("Tasks", 8)], PeopleOf(table.Plan));
            var load = new PlanLoad(table.Schedule, PlanLoad.FirstDay(table.Plan, table.Today), hours ?? []);
            if (load.Parts.Count > 0)
                AddLoad(book, load);
            if (hours is { Count: > 0 })
                book.Add("Hours", [("Day", 12), ("Person", 30), ("No", 8), ("Task", 40), ("Hours", 8)], HoursOf(table.Plan, hours));
            if (Drift.Of(table.Schedule) is { } drift)
                book.Add(
                    "Drift",
                    [
                        ("No", 8),
                        ("Task", 40),
                        ("Planned start", 16),
                        ("Start", 16),
                        ("Planned finish", 16),
                        ("Finish", 16),
                        ("Hours later", 12),
                    ],
                    DriftOf(table, drift)
                );
        }

        void AddLoad(WorkbookWriter book, PlanLoad load)
        {
            var loaded = WeeksOf(load.Parts.Min(part => part.Day), load.Parts.Max(part => part.Day), weekStart);
            book.Add("Load", [("Person", 30), ("Hours", 12)], LoadOf(table.Plan, load, loaded), loaded);
        }
    }

    /// <summary>Every item with what it costs and what is paid of it, and the labour of each person on each row.</summary>
    private static void AddMoney(WorkbookWriter book, PlanMoney money) =>
        book.Add(
            "Costs",
            [
                ("No", 8),
                ("Task", 40),
                ("Item", 30),
                ("Category", 18),
                ("Supplier", 24),
                ("Quantity", 10),
                ("Unit", 10),
                ("Price", 12),
                ("Planned", 14),
                ("Spent", 14),
                ("Left", 14),
            ],
            CostsOf(money)
        );

    private static IEnumerable<SheetRow> CostsOf(PlanMoney money)
    {
        var plan = money.Schedule.Plan;
        foreach (var line in money.Lines)
        {
            var item = line.Item;
            yield return new(
                0,
                [
                    (CellStyle.Plain, plan.Index.NumberOf(line.Row)),
                    (CellStyle.Plain, plan.Tasks[line.Row].Name),
                    (CellStyle.Plain, item?.Name ?? plan.FindPerson(line.Person)?.Name ?? line.Person),
                    (CellStyle.Plain, item?.Category ?? CostGroups.Labour),
                    (CellStyle.Plain, plan.FindPerson(item?.Supplier)?.Name ?? item?.Supplier ?? ""),
                    (CellStyle.Number, (object?)item?.Quantity),
                    (CellStyle.Plain, item?.Unit ?? ""),
                    (CellStyle.Number, (object?)item?.Price),
                    (CellStyle.Number, (object?)Math.Round(line.Planned.Whole, 2)),
                    (CellStyle.Number, (object?)Math.Round(line.Spent, 2)),
                    (CellStyle.Number, (object?)Math.Round(line.Left, 2)),
                ]
            );
        }
    }

    /// <summary>Of each person, the hours of each week beside those that they can work; bold where they are more.</summary>
    private static IEnumerable<SheetRow> LoadOf(Plan plan, PlanLoad load, List<DateOnly> weeks)
    {
        var people = load.Parts.Select(part => part.Person).ToHashSet();
        foreach (var person in plan.People.Where(person => people.Contains(person.Id)))
        {
            var rows = weeks.Select(week => Enumerable.Range(0, 7).Select(week.AddDays).ToList()).ToList();
            var work = rows.ConvertAll(week => week.Sum(day => load.Of(person.Id, day)));
            var room = rows.ConvertAll(week => week.Sum(day => load.Capacities.Of(person.Id, day)));
            yield return Row("to do", work.Zip(room, (has, can) => has > can ? CellStyle.Phase : CellStyle.Number), work);
            yield return Row("available", room.Select(_ => CellStyle.Number), room);

            SheetRow Row(string what, IEnumerable<CellStyle> styles, IEnumerable<decimal> minutes) =>
                new(
                    0,
                    [
                        (CellStyle.Plain, person.Name),
                        (CellStyle.Plain, what),
                        .. styles.Zip(minutes, (style, of) => (style, (object?)Math.Round(of / 60, 2))),
                    ]
                );
        }
    }

    /// <summary>The first days of the weeks that the rows take; none where they would be too many.</summary>
    private static List<DateOnly> WeeksOf(PlanTable table, DayOfWeek first)
    {
        var rows = table.Rows.Where(row => !table.Schedule.IsOff(row)).ToList();
        if (rows.Count == 0)
            return [];
        return WeeksOf(rows.Min(row => table.Schedule.StartOf(row).Date), rows.Max(row => LastDay(table, row)), first);
    }

    private static List<DateOnly> WeeksOf(DateOnly from, DateOnly to, DayOfWeek first)
    {
        from = from.AddDays(-(((int)from.DayOfWeek - (int)first + 7) % 7));
        var count = (to.DayNumber - from.DayNumber) / 7 + 1;
        return count > MostWeeks ? [] : [.. Enumerable.Range(0, count).Select(week => from.AddDays(7 * week))];
    }

    private static DateOnly LastDay(PlanTable table, int row) => table.Schedule.FinishOf(row).LastDateFrom(table.Schedule.StartOf(row));

    private static IEnumerable<(CellStyle, object?)> BarOf(PlanTable table, int row, List<DateOnly> weeks, bool isPhase)
    {
        if (table.Schedule.IsOff(row))
            yield break;
        var (start, last) = (table.Schedule.StartOf(row).Date, LastDay(table, row));
        foreach (var week in weeks)
            yield return start < week.AddDays(7) && last >= week
                ? (isPhase ? CellStyle.PhaseBar : CellStyle.Bar, "")
                : (CellStyle.Plain, null);
    }

    private static IEnumerable<SheetRow> HoursOf(Plan plan, IReadOnlyList<WorkedHours> hours) =>
        hours
            .OrderBy(worked => worked.Day)
            .Select(worked =>
            {
                var row = plan.Index.TryFind(worked.Task, out var found) ? found : -1;
                return new SheetRow(
                    0,
                    [
                        (CellStyle.Day, SheetRow.Shown(CellKind.Day, worked.Day)),
                        (CellStyle.Plain, plan.FindPerson(worked.Person)?.Name ?? worked.Person),
                        (CellStyle.Plain, row < 0 ? null : plan.Index.NumberOf(row)),
                        (CellStyle.Plain, row < 0 ? "A task that is no longer in the plan" : plan.Tasks[row].Name),
                        (CellStyle.Number, Math.Round(worked.Minutes / 60m, 2)),
                    ]
                );
            });

    private static IEnumerable<SheetRow> TasksOf(PlanTable table, List<DateOnly> weeks)
    {
        foreach (var row in table.Rows)
        {
            var isPhase = !table.Schedule.IsLeaf(row);
            yield return new SheetRow(
                table.Plan.Index.LevelOf(row),
                table
                    .Columns.Select(column => (StyleOf(column.Kind, isPhase), SheetRow.Shown(column.Kind, column.Of(table, row))))
                    .Concat(BarOf(table, row, weeks, isPhase))
            );
        }
    }

    private static IEnumerable<SheetRow> LinksOf(Plan plan) =>
        plan.Links.Select(link =>
        {
            var (from, to) = (plan.Index.RowOf(link.From), plan.Index.RowOf(link.To));
            return Row(
                plan.Index.NumberOf(from),
                plan.Tasks[from].Name,
                plan.Index.NumberOf(to),
                plan.Tasks[to].Name,
                LinkText.Format(plan.Index.NumberOf(from), link)
            );
        });

    private static IEnumerable<SheetRow> PeopleOf(Plan plan)
    {
        var tasks = plan.Tasks.SelectMany(task => task.Assignments).GroupBy(a => a.Person).ToDictionary(g => g.Key, g => g.Count());
        return plan.People.Select(person => Row(person.Name, person.Email, (decimal)tasks.GetValueOrDefault(person.Id)));
    }

    private static IEnumerable<SheetRow> DriftOf(PlanTable table, Drift drift) =>
        table
            .Rows.Where(row => drift.Of(row) is not null)
            .Select(row =>
            {
                var (schedule, planned) = (table.Schedule, drift.PlannedOf(row)!);
                return new SheetRow(
                    0,
                    [
                        (CellStyle.Plain, table.Plan.Index.NumberOf(row)),
                        (CellStyle.Plain, table.Plan.Tasks[row].Name),
                        (CellStyle.Moment, SheetRow.Shown(CellKind.Start, planned.Start)),
                        (CellStyle.Moment, SheetRow.Shown(CellKind.Start, schedule.StartOf(row))),
                        (CellStyle.Moment, SheetRow.Shown(CellKind.Finish, planned.Finish)),
                        (CellStyle.Moment, SheetRow.Shown(CellKind.Finish, schedule.FinishOf(row))),
                        (CellStyle.Number, Math.Round(drift.Of(row)!.Value.Finish.Count / 60m, 2)),
                    ]
                );
            });

    private static SheetRow Row(params object?[] values) =>
        new(0, values.Select(value => (value is decimal ? CellStyle.Number : CellStyle.Plain, value)));

    private static CellStyle StyleOf(CellKind kind, bool isPhase) =>
        kind switch
        {
            CellKind.Start or CellKind.Finish => CellStyle.Moment,
            CellKind.Day => CellStyle.Day,
            CellKind.Percent => CellStyle.Percent,
            CellKind.Number => CellStyle.Number,
            _ => isPhase ? CellStyle.Phase : CellStyle.Plain,
        };
}
