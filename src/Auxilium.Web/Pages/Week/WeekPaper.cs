using Auxilium.Drawing.Ink;
using Auxilium.Drawing.Paper;
using Auxilium.Drawing.Sheets;
using Auxilium.Planning.Words;

namespace Auxilium.Web.Pages.Week;

/// <summary>A list of tasks to hand out, on paper: by person, and in that by day, with a box to tick.</summary>
internal static class WeekPaper
{
    /// <param name="title">What the list is of, such as “Tasks of Priya Raman”.</param>
    /// <param name="span">From when to when, in words.</param>
    /// <param name="lists">Whose tasks, and which; a list of one person needs no name above it.</param>
    /// <param name="foot">Who made it and when.</param>
    /// <param name="now">When it is made, in UTC.</param>
    public static byte[] Write(string title, string span, IReadOnlyList<(string Name, TaskWeek Week)> lists, string foot, DateTime now)
    {
        using var letters = new Lettering();
        var setup = new PageSetup(
            PaperSize.Find("a4")!,
            Landscape: false,
            Fit.Pages,
            Inks.BlackAndWhite,
            title,
            span,
            foot,
            HasLegend: false
        );
        var pages = new PaperPages(
            new TextSheet([.. lists.SelectMany(list => Blocks(list.Name, list.Week, lists.Count > 1))], letters),
            setup,
            letters
        );
        return Prints.Pdf(pages, $"{title}, {span}", foot, now);
    }

    private static IEnumerable<TextBlock> Blocks(string name, TaskWeek week, bool isNamed)
    {
        if (isNamed)
            yield return new HeadingBlock(name);
        if (week.Count == 0)
            yield return new ParagraphBlock("Nothing to do.");
        if (week.Late.Count > 0)
            foreach (var block in Part("Late", week.Late))
                yield return block;
        foreach (var (day, tasks) in week.Days)
            if (tasks.Count > 0)
                foreach (var block in Part(Dates.Day(day), tasks))
                    yield return block;
    }

    private static IEnumerable<TextBlock> Part(string title, IReadOnlyList<WeekTask> tasks)
    {
        yield return new ParagraphBlock(title, IsStrong: true);
        yield return new TableBlock(
            [("Task", 4), ("Project", 2.4f), ("When", 3), ("State", 1.5f)],
            [.. tasks.Select(task => (IReadOnlyList<string>)[task.Name, task.ProjectName, task.Dates, task.StateWord])],
            HasBoxes: true
        );
    }
}
