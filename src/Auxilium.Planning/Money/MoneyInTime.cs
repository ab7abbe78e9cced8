using Auxilium.Planning.Calendars;

namespace Auxilium.Planning.Money;

/// <summary>An amount in a stretch of time.</summary>
/// <param name="Key">The first day of the stretch.</param>
public readonly record struct AmountIn(DateOnly Key, decimal Amount);

/// <summary>When a plan costs what it costs.</summary>
public sealed class MoneyInTime(PlanMoney money)
{
    /// <summary>What is planned, by when it is due: at the start or finish of its row, or evenly as that is worked on.</summary>
    /// <param name="stretchOf">The first day of the stretch that a day is in: of its month, or week.</param>
    public IReadOnlyList<AmountIn> Planned(Func<DateOnly, DateOnly> stretchOf)
    {
        var sums = new SortedDictionary<DateOnly, decimal>();
        foreach (var line in money.Lines)
            Lay(line, line.Planned.AtStart, line.Planned.Evenly, line.Planned.AtFinish, default, (day, amount) =>
                Add(sums, stretchOf(day), amount)
            );
        return Listed(sums);
    }

    /// <summary>What is to be paid of the items that are not paid yet, by when it is due; what is late is due now.</summary>
    /// <param name="stretchOf">The first day of the stretch that a day is in.</param>
    public IReadOnlyList<AmountIn> ToBePaid(Func<DateOnly, DateOnly> stretchOf)
    {
        var sums = new SortedDictionary<DateOnly, decimal>();
        foreach (var line in money.Lines)
        {
            if (line.Item is null || line.Left == 0)
                continue;
            var (start, evenly, finish) = line.Item.Accrues switch
            {
                Accrual.Start => (line.Left, 0m, 0m),
                Accrual.Evenly => (0m, line.Left, 0m),
                _ => (0m, 0m, line.Left),
            };
            var next = money.AsOf.AddDays(1);
            // A payment whose day is known is due on that day.
            foreach (var payment in money.Actuals == Actuals.Entered ? line.Item.Payments.Where(p => p.Day > money.AsOf) : [])
            {
                var part = Math.Clamp(payment.Amount, 0, start + evenly + finish);
                Add(sums, stretchOf(payment.Day), part);
                (start, part) = (Math.Max(0, start - part), Math.Max(0, part - start));
                (evenly, part) = (Math.Max(0, evenly - part), Math.Max(0, part - evenly));
                finish -= part;
            }
            Lay(line, start, evenly, finish, next, (day, amount) => Add(sums, stretchOf(day < next ? next : day), amount));
        }
        return Listed(sums);
    }

    /// <param name="from">What lies evenly, lies on this day and later, as long as any of its row does.</param>
    private void Lay(CostLine line, decimal start, decimal evenly, decimal finish, DateOnly from, Action<DateOnly, decimal> lay)
    {
        var (schedule, row) = (money.Schedule, line.Row);
        if (start != 0)
            lay(schedule.StartOf(row).Date, start);
        if (finish != 0)
            lay(schedule.LastDayOf(row), finish);
        if (evenly == 0)
            return;
        var (last, counted) = (schedule.LastDayOf(row), Math.Max(schedule.StartOf(row).Day, from.DayNumber));
        if (line.Person is { } person && schedule.Plan.Tasks[row].Assignments.FirstOrDefault(a => a.Person == person) is { Share: > 0 } on)
        {
            LayLabour(row, on, evenly, lay);
            return;
        }
        var calendar = schedule.Plan.ProjectCalendar;
        var days = new List<(DateOnly Day, int Minutes)>();
        for (var day = counted; day <= last.DayNumber; day++)
        {
            var date = DateOnly.FromDayNumber(day);
            if (calendar.WorkedOn(date) is > 0 and var minutes)
                days.Add((date, minutes));
        }
        Spread(days, evenly, last, lay);
    }

    /// <summary>What somebody costs lies on the days they work, at the rates of these.</summary>
    private void LayLabour(int row, Plans.Assignment on, decimal evenly, Action<DateOnly, decimal> lay)
    {
        var (rates, days) = (money.RatesOf(on.Person), new List<(DateOnly, decimal)>());
        money
            .WorkOf(row, on)
            .Lay(DateOnly.MinValue, WorkTime.AroundTheClock, (day, minutes) => days.Add((day, minutes * rates.On(day).Hour)));
        var (whole, laid) = (days.Sum(day => day.Item2), 0m);
        foreach (var (day, cost) in days)
        {
            var part = whole == 0 ? 0 : evenly * cost / whole;
            laid += part;
            lay(day, part);
        }
        lay(money.Schedule.LastDayOf(row), evenly - laid);
    }

    private static void Spread(List<(DateOnly Day, int Minutes)> days, decimal amount, DateOnly last, Action<DateOnly, decimal> lay)
    {
        var (whole, laid) = (days.Sum(day => (long)day.Minutes), 0m);
        foreach (var (day, minutes) in days)
        {
            var part = amount * minutes / whole;
            laid += part;
            lay(day, part);
        }
        // What thirds and sevenths lose, so that the whole stays the whole.
        lay(last, amount - laid);
    }

    private static void Add(SortedDictionary<DateOnly, decimal> sums, DateOnly stretch, decimal amount) =>
        sums[stretch] = sums.GetValueOrDefault(stretch) + amount;

    private static IReadOnlyList<AmountIn> Listed(SortedDictionary<DateOnly, decimal> sums) =>
        [.. sums.Where(sum => Math.Round(sum.Value, 6) != 0).Select(sum => new AmountIn(sum.Key, sum.Value))];
}
