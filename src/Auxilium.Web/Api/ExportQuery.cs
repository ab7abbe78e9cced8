using System.ComponentModel;
using System.Globalization;
using Auxilium.Drawing.Ink;
using Auxilium.Drawing.Paper;
using Auxilium.Drawing.Sheets;
using Auxilium.Exchange.Calendars;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Plans;

namespace Auxilium.Web.Api;

/// <summary>What is asked for as a file, as an address says it.</summary>
internal sealed record ExportQuery
{
    /// <summary>Pixels a point of a picture has at size 1: as large as on the screen.</summary>
    private const float ScreenSize = 4f / 3;

    private const int LongestTitle = 120;

    [Description("pdf, png, svg, xlsx, csv, ics or document.")]
    public string? Format { get; init; }

    [Description("Of PDF, PNG and SVG: plan, timeline, month, chains, outline, load or report.")]
    public string? Screen { get; init; }

    [Description("Ids of rows, with commas between, or “first..last” for those from one to another; all when left out.")]
    public string? Rows { get; init; }

    [Description("Columns of the table, with commas between; the usual ones when left out.")]
    public string? Columns { get; init; }

    [Description("The first day that is drawn, such as 2027-05-03; that of the rows when left out.")]
    public string? From { get; init; }

    [Description("The last day that is drawn.")]
    public string? To { get; init; }

    [Description("a4, a3, a2, a1, a0, letter, legal or tabloid.")]
    public string? Paper { get; init; }

    [Description("Whether the page is landscape; when left out, as suits the screen.")]
    public bool? Landscape { get; init; }

    [Description(
        "page: on one page of the paper; pages: on as many as needed; one: on a page as large as it must be. A PDF is on one page of the "
            + "paper when left out, a picture as large as it must be."
    )]
    public string? Fit { get; init; }

    [Description("colour, or ink for black and white.")]
    public string? Colours { get; init; }

    [Description("What stands above; the project’s name when left out, nothing when empty.")]
    public string? Title { get; init; }

    [Description("Whether the signs are explained; they are when left out.")]
    public bool? Legend { get; init; }

    [Description("Of a PNG: 1 to 4 times the size of the screen.")]
    public decimal? Size { get; init; }

    [Description("Whether a PNG or SVG leaves out the paper.")]
    public bool? Transparent { get; init; }

    [Description("Which page a PNG or SVG is of, from 1.")]
    public int? Page { get; init; }

    [Description("The day that weeks begin with: mon, sat or sun; the organisation’s when left out.")]
    public string? WeekStart { get; init; }

    [Description("Of CSV: comma, semicolon or tab.")]
    public string? Separator { get; init; }

    [Description("Whether CSV begins with a mark that says it is UTF-8.")]
    public bool? Marked { get; init; }

    [Description("Of XLSX: whether the timeline stands beside the tasks, as coloured cells by week.")]
    public bool? Timeline { get; init; }

    [Description(
        "Of XLSX, document, and the screens outline and report: whether the project’s money is in it, for those who may have it."
    )]
    public bool? Money { get; init; }

    [Description("Of ICS: whether tasks are to-dos with how far they are, instead of events.")]
    public bool? ToDos { get; init; }

    [Description("Of ICS: so many days before a task starts there is an alarm, from 0 to 60; none when left out.")]
    public int? Alarm { get; init; }

    internal bool AsToDos => ToDos ?? false;

    internal int? AlarmDays =>
        Alarm is null or (>= 0 and <= CalendarWishes.MostAlarmDays)
            ? Alarm
            : throw new ExportProblem($"“alarm” is from 0 to {CalendarWishes.MostAlarmDays} days before the start.", "alarm");

    /// <summary>The format by its name.</summary>
    /// <exception cref="ExportProblem">There is none of that name.</exception>
    internal ExportFormat Wanted =>
        ExportFormat.Find(Format)
        ?? throw new ExportProblem($"“format” is {string.Join(", ", ExportFormat.All.Select(f => f.Name))}.", "format");

    /// <summary>What stands between the cells of CSV.</summary>
    internal char SeparatorSign =>
        Separator switch
        {
            null or "comma" => ',',
            "semicolon" => ';',
            "tab" => '\t',
            _ => throw new ExportProblem("“separator” is comma, semicolon or tab.", "separator"),
        };

    /// <summary>The columns that are asked for; <c>null</c> for the usual ones.</summary>
    internal List<PlanColumn>? ColumnsAmong(IReadOnlyCollection<PlanColumn> known) =>
        Columns
            ?.Split(',')
            .Select(key =>
                known.FirstOrDefault(column => column.Key == key)
                ?? throw new ExportProblem($"“columns” are some of {string.Join(", ", known.Select(column => column.Key))}.", "columns")
            )
            .ToList();

    /// <summary>Ids of the rows that are asked for; <c>null</c> for all.</summary>
    internal HashSet<string>? RowsIn(Plan plan)
    {
        if (Rows is null)
            return null;
        var (index, ids) = (plan.Index, new HashSet<string>());
        foreach (var part in Rows.Split(','))
            if (!index.TryFind(part, out _) && part.Split("..") is [var first, var last] && index.TryFind(first, out var from))
                for (var row = from; index.TryFind(last, out var to) && row <= to; row++)
                    ids.Add(plan.Tasks[row].Id);
            else
                ids.Add(part);
        return ids;
    }

    /// <summary>The screen by its name.</summary>
    internal ExportScreen ScreenDrawn =>
        ExportScreen.Find(Screen ?? "plan")
        ?? throw new ExportProblem($"“screen” is {string.Join(", ", ExportScreen.All.Select(s => s.Name))}.", "screen");

    internal SheetWishes Wishes(Shown shown, DayOfWeek organisationWeek)
    {
        var (from, to) = (Day(From, "from"), Day(To, "to"));
        if (from > to)
            throw new ExportProblem($"The last day, {To}, is before the first, {From}.", "from");
        return new SheetWishes(
            shown,
            from,
            to,
            WeekStart: WeekStart switch
            {
                null => organisationWeek,
                "mon" => DayOfWeek.Monday,
                "sat" => DayOfWeek.Saturday,
                "sun" => DayOfWeek.Sunday,
                _ => throw new ExportProblem("“weekStart” is mon, sat or sun.", "weekStart"),
            }
        );
    }

    /// <param name="project">The project’s name.</param>
    internal PageSetup Setup(string project, string subtitle, string foot, ReadOnlyMemory<byte> logo) =>
        new(
            PaperSize.Find(Paper ?? "a4")
                ?? throw new ExportProblem($"“paper” is {string.Join(", ", PaperSize.All.Select(paper => paper.Name))}.", "paper"),
            Landscape ?? ScreenDrawn.IsWide,
            Fit switch
            {
                null => Wanted.Name != "pdf" ? Drawing.Paper.Fit.One
                : ScreenDrawn.IsWide ? Drawing.Paper.Fit.Page
                : Drawing.Paper.Fit.Pages,
                "page" => Drawing.Paper.Fit.Page,
                "pages" => Drawing.Paper.Fit.Pages,
                "one" => Drawing.Paper.Fit.One,
                _ => throw new ExportProblem("“fit” is page, pages or one.", "fit"),
            },
            Colours switch
            {
                null or "colour" => Inks.Colour,
                "ink" => Inks.BlackAndWhite,
                _ => throw new ExportProblem("“colours” is colour or ink.", "colours"),
            },
            (Title ?? project) is { Length: <= LongestTitle } title
                ? title.Trim()
                : throw new ExportProblem($"The title has more than {LongestTitle} letters: shorten it.", "title"),
            subtitle,
            foot,
            Legend ?? true,
            Transparent ?? false,
            logo
        );

    /// <summary>Pixels a point of a picture has.</summary>
    internal float Dense =>
        Size is null or (>= 0.25m and <= 4)
            ? (float)(Size ?? 1) * ScreenSize
            : throw new ExportProblem("“size” is from 0.25 to 4 times the size of the screen.", "size");

    /// <summary>Which page a picture is of, from 0.</summary>
    /// <param name="count">How many there are.</param>
    internal int PageOf(int count) =>
        Page is null or >= 1 && (Page ?? 1) <= count
            ? (Page ?? 1) - 1
            : throw new ExportProblem(count == 1 ? "There is one page only." : $"There are pages 1 to {count}.", "page");

    private static DateOnly? Day(string? text, string field)
    {
        try
        {
            return Today.Read(text);
        }
        catch (FormatException wrong)
        {
            throw new ExportProblem(wrong.Message, field);
        }
    }
}

/// <summary>Something that cannot be exported as it is asked for.</summary>
/// <param name="message">For whoever asks.</param>
/// <param name="field">Where they asked it.</param>
internal sealed class ExportProblem(string message, string field) : Exception(message)
{
    public string Field { get; } = field;
}
