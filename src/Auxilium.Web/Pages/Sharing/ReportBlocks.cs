using Auxilium.Drawing.Sheets;

namespace Auxilium.Web.Pages.Sharing;

/// <summary>The report on paper.</summary>
internal static class ReportBlocks
{
    public static IReadOnlyList<TextBlock> Of(ReportView report)
    {
        var summary = report.Summary;
        List<TextBlock> blocks =
        [
            new ParagraphBlock(summary.Dates + (summary.Known.Coordinator is { } coordinator ? $" · coordinated by {coordinator}" : "")),
        ];
        if (report.HasStates)
            blocks.Add(new ParagraphBlock($"{summary.Progress}% done · {summary.TimePassed}", IsStrong: true));
        if (summary.Spare is { } spare)
            blocks.Add(new ParagraphBlock(spare, summary.IsLate));
        if (report.Money is { } money)
        {
            blocks.Add(new HeadingBlock("Money"));
            blocks.Add(new ParagraphBlock(string.Join(" ", money.Said)));
            blocks.Add(Table(money.Rows));
        }
        foreach (var (title, lines) in report.Parts)
        {
            blocks.Add(new HeadingBlock(title));
            blocks.Add(lines.Count == 0 ? new ParagraphBlock("None.") : Table(report, lines));
        }
        return blocks;
    }

    private static TableBlock Table(IReadOnlyList<ReportCost> rows) =>
        new(
            [("Part", 3), ("Budget", 1.5f), ("Planned", 1.5f), ("Spent", 1.5f), ("Expected", 1.5f), ("Free", 1.5f)],
            [.. rows.Select(row => (IReadOnlyList<string>)[row.Name, row.Budget, row.Planned, row.Spent, row.Expected, row.Free])]
        )
        {
            AmountsFrom = 1,
        };

    private static TableBlock Table(ReportView report, IReadOnlyList<ReportLine> lines)
    {
        (string Title, float Share, bool IsThere, Func<ReportLine, string?> Of)[] columns =
        [
            ("Task", 3, true, line => line.Name),
            ("Phase", 2, true, line => line.Phase),
            ("When", 3, true, line => line.Dates),
            ("State", 1.3f, report.HasStates, line => line.StateWord),
            ("Owner", 1.8f, report.HasOwners, line => line.Owner),
            ("Deadline", 1.3f, report.HasDeadlines, line => line.Deadline),
        ];
        var shown = columns.Where(column => column.IsThere).ToList();
        return new TableBlock(
            [.. shown.Select(column => (column.Title, column.Share))],
            [.. lines.Select(line => (IReadOnlyList<string>)[.. shown.Select(column => column.Of(line) ?? "")])]
        );
    }
}
