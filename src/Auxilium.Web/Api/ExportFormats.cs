using System.Collections.Immutable;
using System.Globalization;
using Auxilium.Drawing.Ink;
using Auxilium.Drawing.Paper;
using Auxilium.Drawing.Sheets;
using Auxilium.Exchange;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Money;
using Auxilium.Planning.Tracking;
using Auxilium.Planning.Words;
using Auxilium.Storage.Plans;

namespace Auxilium.Web.Api;

/// <summary>What is handed out of a plan.</summary>
/// <param name="Query">What is asked for.</param>
/// <param name="Table">The rows and columns that are meant.</param>
/// <param name="Today">Today.</param>
/// <param name="Now">When it is made, in UTC.</param>
/// <param name="ToUtc">Turns a time of the organisation into UTC.</param>
/// <param name="AddressOf">The address of a task.</param>
/// <param name="By">Who makes it, such as “Imke Varga, Tidewell Boathouse Trust”; empty where nobody is to be named.</param>
/// <param name="WeekStart">The day that the organisation's weeks begin with.</param>
/// <param name="Zone">The organisation's time zone.</param>
/// <param name="Logo">The organisation's; empty where it has none.</param>
/// <param name="Columns">What may be told besides names and dates; <c>null</c> for all.</param>
internal sealed record Handout(
    ExportQuery Query,
    StoredPlan Plan,
    PlanTable Table,
    DateOnly Today,
    DateTime Now,
    Func<DateTime, DateTime> ToUtc,
    Func<string, string> AddressOf,
    string By,
    DayOfWeek WeekStart,
    TimeZoneInfo Zone,
    ReadOnlyMemory<byte> Logo,
    IReadOnlyCollection<string>? Columns = null
)
{
    /// <summary>Hours that people worked on it, where they are asked for.</summary>
    public ImmutableArray<WorkedHours> Hours { get; init; } = [];

    /// <summary>The project's money, where whoever asks may have it and asks for it.</summary>
    public PlanMoney? Money { get; init; }

    /// <summary>The organisation's currency.</summary>
    public string? Currency { get; init; }

    public MoneyText Amounts => new(Currency ?? "EUR");

    /// <summary>What a row is to cost, in words; <c>null</c> where that is not to be told.</summary>
    public Func<int, string?>? CostOf =>
        Money is null ? null : row => Money.Of(row).Planned.Whole is var cost and not 0 ? Amounts.Of(cost) : null;

    /// <summary>Whether what single people cost may be in it.</summary>
    public bool HasRates { get; init; }

    /// <summary>What is drawn besides names and dates.</summary>
    public Shown Shown =>
        Columns is null
            ? Shown.All
            : (Columns.Contains("state") ? Shown.States : 0)
                | (Columns.Contains("float") ? Shown.Spare : 0)
                | (Columns.Contains("deadline") ? Shown.Deadlines : 0)
                | (Columns.Contains("after") ? Shown.Links : 0)
                | (Columns.Contains("owner") ? Shown.Owners : 0)
                | (Columns.Contains("length") ? Shown.Guesses : 0);

    /// <summary>Its pages.</summary>
    /// <exception cref="ExportProblem">It cannot be drawn as it is asked for.</exception>
    public PaperPages Draw(Lettering letters)
    {
        Dates.SpeakOn(Today);
        var screen = Query.ScreenDrawn;
        var setup = Query.Setup(Plan.Name, SubtitleOf(screen), By.Length == 0 ? "" : $"{By}, {Dates.Day(Today)}", Logo);
        return new PaperPages(screen.Make(this, Query.Wishes(Shown, WeekStart), letters), setup, letters);
    }

    private string SubtitleOf(ExportScreen screen)
    {
        var schedule = Table.Schedule;
        var some = Table.Rows.Length == Table.Plan.Tasks.Length ? "" : $" · {Table.Rows.Length} of {Table.Plan.Tasks.Length} rows";
        return $"{screen.Title} · {Dates.Day(schedule.Start)} to {Dates.FinishDay(schedule.Finish)}{some} · as of {Dates.Day(Today)}";
    }
}

/// <summary>A file.</summary>
/// <param name="Pages">How many pages it is drawn on; 0 where it is not drawn.</param>
/// <param name="LetterSize">How high the letters of a list are on these, in points.</param>
internal sealed record ExportedFile(byte[] Content, int Pages = 0, float LetterSize = 0);

/// <summary>A format that plans are handed out in.</summary>
/// <param name="Name">Its name in addresses.</param>
/// <param name="Ending">How its files end.</param>
/// <param name="Type">Its media type.</param>
/// <param name="IsForLinks">Whether those who see a plan by a link may have it too: what it holds can be left out by column.</param>
internal sealed record ExportFormat(
    string Name,
    string Ending,
    string Type,
    bool IsForLinks,
    Func<Handout, Action<int, int>, CancellationToken, ExportedFile> Write
)
{
    /// <summary>Whether it is a picture or paper.</summary>
    public bool IsDrawn => Name is "pdf" or "png" or "svg";

    /// <summary>Every format. A new one is a line here, and one in the dialog.</summary>
    public static ImmutableArray<ExportFormat> All { get; } =
    [
        new("pdf", ".pdf", "application/pdf", true, Pdf),
        new("png", ".png", "image/png", true, Png),
        new("svg", ".svg", "image/svg+xml", true, Svg),
        new("xlsx", ".xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", true, (handout, _, _) =>
            new(
                PlanWorkbook.Write(
                    handout.Table,
                    handout.Plan.Name,
                    isWhole: handout.Columns is null,
                    handout.Hours,
                    handout.WeekStart,
                    handout.Query.Timeline ?? false,
                    handout.Money
                )
            )
        ),
        new("csv", ".csv", "text/csv; charset=utf-8", true, (handout, _, _) =>
            new(TableCsv.Write(handout.Table, handout.Query.SeparatorSign, handout.Query.Marked ?? false))
        ),
        new("ics", ".ics", "text/calendar; charset=utf-8", true, (handout, _, _) => new(ProjectCalendar.Write(handout))),
        new("document", ".json", RequestDocument.PlanType, false, (handout, _, _) =>
            new(
                PlanDocumentWriter.Write(
                    handout.Table.Plan,
                    ledger: handout.Money?.Ledger is { } ledger && !handout.HasRates
                        ? ledger with
                        {
                            Rates = Ledger.None.Rates,
                        }
                        : handout.Money?.Ledger,
                    currency: handout.Currency
                )
            )
        ),
    ];

    public static ExportFormat? Find(string? name) => All.FirstOrDefault(format => format.Name == name);

    /// <summary>The format of a file by its name.</summary>
    public static ExportFormat OfFile(string name) => All.First(format => name.EndsWith(format.Ending, StringComparison.Ordinal));

    /// <summary>The name of a file with a plan.</summary>
    public string FileName(string plan)
    {
        var name = FileKinds.CleanName(plan);
        return (name.Length > 0 ? name : "Plan") + Ending;
    }

    private static ExportedFile Pdf(Handout handout, Action<int, int> progress, CancellationToken cancel)
    {
        using var letters = new Lettering();
        var pages = handout.Draw(letters);
        if (Math.Max(pages.Size.Width, pages.Size.Height) is > Prints.LongestPage and var points)
        {
            var metres = (points / 72 * 0.0254).ToString("0.#", CultureInfo.InvariantCulture);
            throw new ExportProblem(
                $"The page would be {metres} metres long, and 5 is the most: choose several pages or fewer rows.",
                "fit"
            );
        }
        var content = Prints.Pdf(
            pages,
            $"{handout.Plan.Name} – {handout.Query.ScreenDrawn.Title}",
            handout.By,
            handout.Now,
            done => progress(done, pages.Count),
            cancel
        );
        return new ExportedFile(content, pages.Count, pages.LetterSize);
    }

    private static ExportedFile Png(Handout handout, Action<int, int> progress, CancellationToken cancel)
    {
        using var letters = new Lettering();
        var pages = handout.Draw(letters);
        var dense = handout.Query.Dense;
        var (width, height) = Prints.PixelsOf(pages, dense);
        if ((long)width * height > Prints.MostPixels)
            throw new ExportProblem(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"The picture would be {width:N0} × {height:N0} pixels: choose a smaller size, fewer rows, or pages of paper."
                ),
                "size"
            );
        var page = handout.Query.PageOf(pages.Count);
        return new ExportedFile(Prints.Png(pages, page, dense), pages.Count, pages.LetterSize);
    }

    private static ExportedFile Svg(Handout handout, Action<int, int> progress, CancellationToken cancel)
    {
        using var letters = new Lettering();
        var pages = handout.Draw(letters);
        return new ExportedFile(Prints.Svg(pages, handout.Query.PageOf(pages.Count)), pages.Count, pages.LetterSize);
    }
}
