using Auxilium.Planning.Calendars;
using Auxilium.Planning.Money;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using Auxilium.Storage.Money;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Api;
using Auxilium.Web.PlanScreen;

namespace Auxilium.Web.Pages.Projects;

/// <param name="Key">Name of the state in style sheets, and in the address of a plan that shows just those tasks.</param>
public sealed record StateCount(string Key, string Word, int Count);

/// <summary>One project as the page of all projects tells it.</summary>
public sealed record ProjectSummary(KnownProject Known)
{
    /// <summary>What needs attention first.</summary>
    private static readonly TaskState[] States =
    [
        TaskState.Overdue,
        TaskState.LateToStart,
        TaskState.UnderWay,
        TaskState.Ready,
        TaskState.Waiting,
        TaskState.Done,
    ];

    public Guid Id => Known.Id;

    /// <summary>How many people with work in it are overbooked on such days, this week and next.</summary>
    public int Overbooked { get; init; }

    /// <summary>“2 people overbooked this week and next”; <c>null</c> where nobody is.</summary>
    public string? OverbookedWords =>
        Overbooked == 0 ? null : $"{Overbooked} {(Overbooked == 1 ? "person" : "people")} overbooked this week and next";

    /// <summary>What it may cost and is expected to; <c>null</c> for whoever may not know, and where nobody said anything.</summary>
    public MoneySummary? Money { get; init; }

    /// <summary>Says amounts.</summary>
    public MoneyText? Amounts { get; init; }

    public string Budget => Money?.Budget is { } budget && Amounts is { } text ? text.Of(budget) : "";

    public string Expected => Money is { } money && Amounts is { } text ? text.Of(money.Expected) : "";

    /// <summary>“Expected to cost 8,146.20 € of 8,600.00 €”, or how much that is over; <c>null</c> for nothing to say.</summary>
    public string? MoneyWords =>
        Money is not { } money || Amounts is not { } text ? null
        : money.Budget is not { } budget ? $"Expected to cost {text.Of(money.Expected)}"
        : money.Free < 0 ? $"Expected to cost {text.Of(money.Expected)}, {text.Of(-money.Free.Value)} over budget"
        : $"Expected to cost {text.Of(money.Expected)} of {text.Of(budget)}";

    public string Name => Known.Name;

    /// <summary>Its dates; <c>null</c> where they cannot be worked out.</summary>
    public ProjectedPlan? Plan => Known.Plan;

    /// <summary>Its status in the words of style sheets and edits.</summary>
    public string StatusKey => JsonNames.Camel(Known.Status);

    public string Status => char.ToUpperInvariant(Known.Status.InWords()[0]) + Known.Status.InWords()[1..];

    /// <summary>“ · coordinated by Imke Varga”</summary>
    public string CoordinatedBy => Known.Coordinator is { } coordinator ? $" · coordinated by {coordinator}" : "";

    public string Dates => Plan is { } plan ? $"{Day(plan.Start.Date)} – {Day(plan.Finish.LastDate)}" : "No dates";

    public string Start => Plan is { } plan ? Day(plan.Start.Date) : "";

    public string Finish => Plan is { } plan ? Day(plan.Finish.LastDate) : "";

    public string Deadline => Plan?.FinishBy is { } by ? Day(by.LastDate) : "";

    /// <summary>In percent, rounded down.</summary>
    public int Progress => Plan is { } plan ? (int)Math.Floor(plan.Progress * 100) : 0;

    /// <summary>How much of its working time has passed, in percent; <c>null</c> before it begins.</summary>
    public int? Passed => Plan is { Passed: >= 0, Whole: > 0 } plan ? (int)(Math.Min(plan.Passed, plan.Whole) * 100L / plan.Whole) : null;

    public string TimePassed =>
        Plan is not { } plan ? ""
        : plan.Passed < 0 ? "not begun"
        : plan.Whole <= 0 ? "no time planned"
        : $"{Passed}% of the time passed";

    /// <summary>How long until its deadline, or how late; <c>null</c> without one.</summary>
    public string? Spare =>
        Plan is not { } plan ? $"Its dates cannot be worked out. {Known.Problem}"
        : plan.Spare is not { } spare ? null
        : $"Deadline {Deadline}, {SpareText(spare)}"
            + (plan.Outlook is { } left ? $" as planned, {SpareText(left)} if what is left starts today" : "");

    public string ShortSpare => Plan?.Spare is { } spare ? SpareText(spare) : "";

    public bool IsLate => Plan is null || Plan.Spare < 0 || Plan.Outlook < 0;

    /// <summary>How far its finish is from where the measure has it; <c>null</c> where it is there.</summary>
    public string? Drift =>
        Plan?.Drift is { } drift and not 0 ? $"{RippleText.Against(new WorkMinutes(drift), Known.Units)} “{Plan.Measure}”" : null;

    public string ShortDrift => Plan?.Drift is { } drift and not 0 ? RippleText.Shift(new WorkMinutes(drift), Known.Units) : "";

    /// <summary>“72%”; empty while it is worked out, and where it cannot be.</summary>
    public string Chance => Known.Chance is { } chance ? $"{Math.Floor(chance * 100)}%" : "";

    public IReadOnlyList<StateCount> Counts =>
        [
            .. States
                .Where(s => Known.Counts.ContainsKey(s))
                .Select(s => new StateCount(JsonNames.Camel(s), StateText.Of(s).ToLowerInvariant(), Known.Counts[s])),
        ];

    public int CountOf(TaskState state) => Known.Counts.GetValueOrDefault(state);

    private string SpareText(int minutes) => PlanView.SpareText(new WorkMinutes(minutes), Known.Units);

    private static string Day(DateOnly date) => Planning.Words.Dates.ShortDay(date);
}
