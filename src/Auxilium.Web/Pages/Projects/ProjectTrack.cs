using System.Globalization;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Tracking;

namespace Auxilium.Web.Pages.Projects;

/// <summary>A stretch of days on a line from left to right, which tells how far along a day is.</summary>
/// <param name="From">The first minute.</param>
/// <param name="To">The last one.</param>
public sealed record DayLine(PlanTime From, PlanTime To)
{
    /// <summary>How far along, in percent as SVG takes it; before the line 0%, behind it 100%.</summary>
    public string At(PlanTime time) => Percent(Share(time));

    /// <summary>How long from one to the other is on the line.</summary>
    public string Between(PlanTime from, PlanTime to) => Percent(Math.Max(0, Share(to) - Share(from)));

    public bool Has(PlanTime time) => time >= From && time <= To;

    /// <summary>The first of each month on it, or of each quarter or year where it is long.</summary>
    public IEnumerable<DateOnly> Months()
    {
        var days = To.Day - From.Day;
        var step =
            days > 1500 ? 12
            : days > 500 ? 3
            : 1;
        var first = new DateOnly(From.Date.Year, From.Date.Month, 1);
        while (PlanTime.On(first) < From || (first.Month - 1) % step != 0)
            first = first.AddMonths(1);
        for (var month = first; PlanTime.On(month) < To; month = month.AddMonths(step))
            yield return month;
    }

    /// <summary>“May”, and the year where one begins.</summary>
    public static string Called(DateOnly month) => month.ToString(month.Month == 1 ? "MMM yyyy" : "MMM", CultureInfo.InvariantCulture);

    private double Share(PlanTime time) =>
        Math.Clamp((double)(time.Minutes - From.Minutes) / Math.Max(1, To.Minutes - From.Minutes), 0, 1);

    private static string Percent(double share) => (share * 100).ToString("0.##", CultureInfo.InvariantCulture) + "%";

    /// <summary>As far along a project as its progress is.</summary>
    public static PlanTime DoneTo(ProjectedPlan plan) =>
        new(plan.Start.Minutes + (int)((plan.Finish.Minutes - plan.Start.Minutes) * plan.Progress));

    /// <summary>From a project's start to its finish or deadline, whichever is later.</summary>
    public static DayLine Of(ProjectedPlan plan) =>
        new(
            plan.Start,
            plan.FinishBy is { } by && by > plan.Finish ? by : PlanTime.Max(plan.Finish, new PlanTime(plan.Start.Minutes + 1))
        );

    /// <summary>So many months around today, or all that the projects take.</summary>
    /// <param name="months">0 for all.</param>
    public static DayLine Around(IEnumerable<ProjectedPlan> plans, DateOnly today, int months)
    {
        var all = plans.ToList();
        var month = new DateOnly(today.Year, today.Month, 1);
        if (months > 0 || all.Count == 0)
            return new(PlanTime.On(month.AddMonths(-1)), PlanTime.On(month.AddMonths(Math.Max(2, months - 1))));
        var first = all.Min(p => p.Start).Date;
        var last = all.Max(p => p.FinishBy is { } by && by > p.Finish ? by : p.Finish).LastDate;
        return new(PlanTime.On(first.AddDays(-3)), PlanTime.On((last < today ? today : last).AddDays(4)));
    }
}
