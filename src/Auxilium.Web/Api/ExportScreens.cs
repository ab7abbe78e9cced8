using System.Collections.Immutable;
using Auxilium.Drawing.Ink;
using Auxilium.Drawing.Sheets;
using Auxilium.Web.Pages.Sharing;

namespace Auxilium.Web.Api;

/// <summary>What can be drawn of a plan.</summary>
/// <param name="Name">Its name in addresses.</param>
/// <param name="Title">Its name on the page.</param>
/// <param name="IsWide">Whether it is wider than high, so that its page is landscape and one holds it.</param>
internal sealed record ExportScreen(string Name, string Title, bool IsWide, Func<Handout, SheetWishes, Lettering, Sheet> Make)
{
    /// <summary>Whether those who see a plan by a link may have it too.</summary>
    public bool IsForLinks { get; init; } = true;

    /// <summary>Every one. A new one is a line here, and one in the dialog.</summary>
    public static ImmutableArray<ExportScreen> All { get; } =
    [
        new("plan", "Plan", true, (handout, wishes, letters) => new PlanSheet(handout.Table, handout.Today, wishes, letters)),
        new("timeline", "Timeline", true, (handout, wishes, letters) =>
            new PlanSheet(handout.Table, handout.Today, wishes with { HasList = false }, letters)
        ),
        new("month", "Month", false, (handout, wishes, _) => new MonthSheet(handout.Table, handout.Today, wishes)),
        new("chains", "Chains", true, (handout, wishes, letters) => new ChainsSheet(handout.Table, handout.Today, wishes, letters)),
        new("outline", "Outline", true, (handout, wishes, letters) =>
            new OutlineSheet(handout.Table, handout.Today, wishes with { CostOf = handout.CostOf }, letters)
        ),
        new("load", "Load", true, (handout, wishes, letters) =>
            new LoadSheet(handout.Table, handout.Today, wishes, handout.Hours, letters)
        )
        {
            IsForLinks = false,
        },
        new("report", "Report", false, (handout, _, letters) =>
            new TextSheet(
                ReportBlocks.Of(
                    ReportView.Of(handout.Plan, handout.Today, handout.Columns) with
                    {
                        Money = handout.Money is { } money ? ReportMoney.Of(money, handout.Amounts) : null,
                    }
                ),
                letters
            )
        ),
    ];

    public static ExportScreen? Find(string name) => All.FirstOrDefault(screen => screen.Name == name);
}
