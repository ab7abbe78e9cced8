using System.Text.RegularExpressions;
using System.Xml.Linq;
using Auxilium.Drawing.Ink;
using Auxilium.Drawing.Paper;
using Auxilium.Drawing.Sheets;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Tests;
using SkiaSharp;

namespace Auxilium.Drawing.Tests;

/// <summary>Plans on paper and as pictures, judged by readers that are not ours.</summary>
public sealed class PaperTests : IDisposable
{
    private static readonly DateOnly Today = new(2027, 5, 12);
    private static readonly DateTime Now = new(2027, 5, 12, 9, 0, 0, DateTimeKind.Utc);

    private readonly Lettering _letters = new();

    public void Dispose() => _letters.Dispose();

    private static Plan Fair() =>
        PlanText.Plan(
            "Site\n  Fence 2d\n  Power 3d after Fence + 1d\n  Water 4d with Power\n"
                + "Opening milestone after Power\nClearing 2d after Opening"
        );

    /// <summary>A plan with names that are found in no other.</summary>
    private static Plan Random(int seed, int tasks)
    {
        var random = new Random(seed);
        var plan = RandomPlan.Of(random, most: tasks);
        while (plan.Tasks.Length < tasks * 3 / 4)
            plan = RandomPlan.Of(random, most: tasks);
        return plan with { Tasks = [.. plan.Tasks.Select((task, row) => task with { Name = $"Nr{row}x" })] };
    }

    private PaperPages Draw(
        Plan plan,
        Func<PlanTable, Sheet>? make = null,
        Fit fit = Fit.Page,
        string paper = "a4",
        bool landscape = true,
        SheetWishes? wishes = null,
        Inks? inks = null,
        bool transparent = false
    )
    {
        var table = new PlanTable(Scheduler.Calculate(plan), Today);
        var sheet = make?.Invoke(table) ?? new PlanSheet(table, Today, wishes ?? new SheetWishes(), _letters);
        var setup = new PageSetup(
            PaperSize.Find(paper)!,
            landscape,
            fit,
            inks ?? Inks.Colour,
            "Quay fair",
            "Plan",
            "Ann Lee, 12 May",
            Transparent: transparent
        );
        return new PaperPages(sheet, setup, _letters);
    }

    private static byte[] Pdf(PaperPages pages) => Prints.Pdf(pages, "Quay fair – Plan", "Ann Lee", Now);

    private Sheet SheetOf(string name, PlanTable table) =>
        name switch
        {
            "month" => new MonthSheet(table, Today, new SheetWishes()),
            "chains" => new ChainsSheet(table, Today, new SheetWishes(), _letters),
            "load" => new LoadSheet(table, Today, new SheetWishes(), [], _letters),
            "outline" => new OutlineSheet(table, Today, new SheetWishes(), _letters),
            "timeline" => new PlanSheet(table, Today, new SheetWishes(HasList: false), _letters),
            _ => new PlanSheet(table, Today, new SheetWishes(), _letters),
        };

    [Fact]
    public void A_pdf_is_sound_and_says_what_it_is()
    {
        var pdf = Pdf(Draw(Fair()));
        Assert.DoesNotContain("WARNING", Tool.Run("qpdf", pdf, ["--check"]), StringComparison.Ordinal);
        var said = Tool.Run("pdfinfo", pdf, []);
        Assert.Matches(@"Title:\s+Quay fair – Plan\n", said);
        Assert.Matches(@"Author:\s+Ann Lee\n", said);
        Assert.Matches(@"Page size:\s+84[12]\S* x 595\S* pts \(A4\)", said);
        Assert.Contains("/Lang (en)", Tool.Run("qpdf", pdf, ["--show-object=trailer"]) + Catalogue(pdf), StringComparison.Ordinal);
        Assert.Contains("/DisplayDocTitle true", Catalogue(pdf), StringComparison.Ordinal);
    }

    private static string Catalogue(byte[] pdf)
    {
        var trailer = Tool.Run("qpdf", pdf, ["--show-object=trailer"]);
        var root = Regex.Match(trailer, @"/Root (\d+) 0 R").Groups[1].Value;
        return Tool.Run("qpdf", pdf, [$"--show-object={root}"]);
    }

    [Theory]
    [InlineData("plan", Fit.Page)]
    [InlineData("plan", Fit.One)]
    [InlineData("timeline", Fit.Page)]
    [InlineData("chains", Fit.One)]
    [InlineData("outline", Fit.Page)]
    public void Every_task_of_random_plans_is_named_once(string sheet, Fit fit)
    {
        for (var seed = 0; seed < 5; seed++)
        {
            var plan = Random(seed, 45);
            var schedule = Scheduler.Calculate(plan);
            var pdf = Pdf(Draw(plan, table => SheetOf(sheet, table), fit, "a1"));
            var named = Regex.Matches(Tool.TextOf(pdf), @"Nr\d+x").Select(match => match.Value).Order().ToList();
            // A timeline has no place for what has no dates.
            var expected = plan
                .Tasks.Where((_, row) => sheet != "timeline" || !schedule.IsOff(row))
                .Where((_, row) => IsDrawn(sheet, plan, row));
            Assert.Equal(expected.Select(task => task.Name).Order(), named);
        }
    }

    /// <summary>Chains leave out phases that are not linked.</summary>
    private static bool IsDrawn(string sheet, Plan plan, int row) =>
        sheet != "chains"
        || plan.Index.IsLeaf(row)
        || plan.Links.Any(link => link.From == plan.Tasks[row].Id || link.To == plan.Tasks[row].Id);

    [Fact]
    public void On_several_pages_each_row_is_whole_on_one_and_its_name_is_repeated_on_those_to_the_right()
    {
        var plan = Random(3, 300);
        var pages = Draw(plan, fit: Fit.Pages, landscape: false);
        var pdf = Pdf(pages);
        Assert.Equal(pages.Count, int.Parse(Tool.Run("qpdf", pdf, ["--show-npages"]), System.Globalization.CultureInfo.InvariantCulture));
        var each = Enumerable
            .Range(1, pages.Count)
            .Select(page =>
                Regex
                    .Matches(Tool.Run("pdftotext", pdf, ["-f", $"{page}", "-l", $"{page}", "-raw"], "-"), @"Nr\d+x")
                    .Select(m => m.Value)
                    .ToList()
            )
            .ToList();
        var across = pages.Count / each.Select(names => string.Join(' ', names)).Distinct().Count();
        Assert.InRange(across, 2, 40);
        Assert.Equal(plan.Tasks.Select(task => task.Name), each.Where((_, page) => page % across == 0).SelectMany(names => names));
        Assert.All(each.Chunk(across), row => Assert.All(row, names => Assert.Equal(row[0], names)));
        Assert.Contains($"Page 2 of {pages.Count}", Tool.TextOf(pdf), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("plan")]
    [InlineData("timeline")]
    [InlineData("month")]
    [InlineData("chains")]
    [InlineData("outline")]
    [InlineData("load")]
    public void Pages_hold_all_of_a_sheet_and_nothing_hangs_over_their_edges(string sheet)
    {
        foreach (var (paper, landscape) in new[] { ("a4", true), ("a4", false), ("a3", true), ("letter", false) })
        {
            var table = new PlanTable(Scheduler.Calculate(Random(8, 120)), Today);
            var drawn = SheetOf(sheet, table);
            var pages = Draw(table.Plan, _ => drawn, Fit.Pages, paper, landscape);
            var parts = pages.Parts;
            // Row by row from left to right, each going on where the one before ended, or a little before.
            var rows = parts.GroupBy(part => part.Part.Top).ToList();
            Assert.Equal(0, rows[0].Key);
            Assert.Equal(drawn.BodyHeight, rows[^1].First().Part.Bottom, 0.5f);
            foreach (var (row, next) in rows.Zip(rows.Skip(1)))
                Assert.Equal(row.First().Part.Bottom, next.Key, 0.01f);
            foreach (var row in rows)
            {
                var reached = 0f;
                foreach (var part in row)
                {
                    Assert.InRange(part.Part.Left, Math.Max(0, reached - 20), reached);
                    reached = part.Part.Right;
                    var width = (drawn.SideWidth(part.IsFirst) + part.Part.Width) * pages.Scale;
                    Assert.InRange(width, 1, pages.Size.Width - 50);
                    Assert.InRange((drawn.HeadHeight + part.Part.Height) * pages.Scale, 1, pages.Size.Height - 100);
                }
                Assert.Equal(drawn.BodyWidth, reached, 0.5f);
            }
        }
    }

    [Fact]
    public void Letters_are_as_large_as_one_page_allows()
    {
        Assert.Equal(8.25f, Draw(Fair(), fit: Fit.Page).LetterSize, 0.01f);
        var small = Draw(Random(1, 300), fit: Fit.Page);
        Assert.InRange(small.LetterSize, 0.3f, 3);
        Assert.InRange(Draw(Random(1, 300), fit: Fit.Page, paper: "a1", landscape: false).LetterSize, 3 * small.LetterSize, 8.25f);
    }

    [Fact]
    public void Names_in_other_scripts_can_be_found_in_a_pdf()
    {
        string[] names = ["הקמת הבמה", "ترتيب", "Zelt 🎪 aufbauen", "Łódź – ćwiczenia", "Διάδρομος ∑"];
        var plan = Fair();
        plan = plan with { Tasks = [.. plan.Tasks.Select((task, row) => row < names.Length ? task with { Name = names[row] } : task)] };
        var pdf = Pdf(Draw(plan));
        var text = Tool.TextOf(pdf);
        foreach (var word in names.SelectMany(name => name.Split(' ')))
            Assert.Contains(
                word.Normalize(System.Text.NormalizationForm.FormKC),
                text.Normalize(System.Text.NormalizationForm.FormKC),
                StringComparison.Ordinal
            );
    }

    [Fact]
    public void A_picture_has_the_size_it_says_and_paper_only_where_it_is_wanted()
    {
        foreach (var dense in new[] { 1f, 2, 4 })
        {
            var pages = Draw(Fair(), fit: Fit.One);
            using var picture = SKBitmap.Decode(Prints.Png(pages, 0, dense));
            Assert.Equal(
                ((int)MathF.Ceiling(pages.Size.Width * dense), (int)MathF.Ceiling(pages.Size.Height * dense)),
                (picture.Width, picture.Height)
            );
            Assert.Equal(SKColors.White, picture.GetPixel(2, 2));
        }
        using var clear = SKBitmap.Decode(Prints.Png(Draw(Fair(), fit: Fit.One, transparent: true), 0, 1));
        Assert.Equal(0, clear.GetPixel(2, 2).Alpha);
    }

    [Fact]
    public void In_black_and_white_there_is_no_colour()
    {
        using var picture = SKBitmap.Decode(Prints.Png(Draw(Fair(), fit: Fit.One, inks: Inks.BlackAndWhite), 0, 1));
        Assert.All(picture.Pixels, pixel => Assert.True(pixel.Red == pixel.Green && pixel.Green == pixel.Blue));
        using var colour = SKBitmap.Decode(Prints.Png(Draw(Fair(), fit: Fit.One), 0, 1));
        Assert.Contains(colour.Pixels, pixel => pixel.Red != pixel.Blue);
    }

    [Fact]
    public void An_svg_is_xml_with_text_as_text_and_nothing_that_runs_or_fetches()
    {
        var plan = Fair();
        plan = plan with
        {
            Tasks = [.. plan.Tasks.Select((task, row) => row == 1 ? task with { Name = "<script>alert(1)</script> & \"co\"" } : task)],
        };
        var svg = XDocument.Parse(System.Text.Encoding.UTF8.GetString(Prints.Svg(Draw(plan, fit: Fit.One), 0)));
        XNamespace ns = "http://www.w3.org/2000/svg";
        Assert.Equal(ns + "svg", svg.Root!.Name);
        var texts = svg.Descendants(ns + "text").Select(text => text.Value.Trim()).ToList();
        Assert.All(plan.Tasks, task => Assert.Contains(texts, text => text.Contains(task.Name.Split(' ')[0], StringComparison.Ordinal)));
        string[] known = ["svg", "g", "defs", "clipPath", "path", "rect", "text", "line", "circle", "use", "ellipse", "polygon"];
        Assert.All(svg.Descendants(), element => Assert.Contains(element.Name.LocalName, known));
        Assert.All(
            svg.Descendants()
                .Attributes()
                .Where(a => a.Name.LocalName is "href" || a.Name.LocalName.StartsWith("on", StringComparison.Ordinal)),
            attribute => Assert.StartsWith("#", attribute.Value, StringComparison.Ordinal)
        );
    }

    [Fact]
    public void What_is_not_to_be_shown_is_not_drawn()
    {
        var plan = Fair()
            .With("Fence", task =>
                task with
                {
                    Progress = 1,
                    ActualStart = Planning.Calendars.PlanTime.At(2027, 5, 3, 9),
                    ActualFinish = Planning.Calendars.PlanTime.At(2027, 5, 4, 18),
                }
            );
        Assert.Contains("Sets the finish", Tool.TextOf(Pdf(Draw(plan))), StringComparison.Ordinal);
        var bare = Draw(plan, wishes: new SheetWishes(Shown.Nothing));
        var text = Tool.TextOf(Pdf(bare));
        Assert.All(new[] { "Done part", "Sets the finish", "Overdue", "To spare" }, sign =>
            Assert.DoesNotContain(sign, text, StringComparison.Ordinal)
        );
        // The finish path is plum, and done work filled: no such ink is left on the timeline.
        using var picture = SKBitmap.Decode(Prints.Png(Draw(plan, fit: Fit.One, wishes: new SheetWishes(Shown.Nothing)), 0, 2));
        Assert.DoesNotContain(Inks.Colour.FinishPath, picture.Pixels);
        Assert.DoesNotContain(Inks.Colour.Done, picture.Pixels);
        using var whole = SKBitmap.Decode(Prints.Png(Draw(plan, fit: Fit.One), 0, 2));
        Assert.Contains(Inks.Colour.FinishPath, whole.Pixels);
        Assert.Contains(Inks.Colour.Done, whole.Pixels);
    }

    [Fact]
    public void Fixed_dates_guesses_and_who_delivers_leave_no_trace_where_they_are_not_to_be_shown()
    {
        var bare = Fair();
        var start = Scheduler.Calculate(bare).StartOf("Fence");
        var told = bare.With("Fence", task => task with { Pinned = new PinnedDates(start), Tentative = true, Progress = 0.4m })
            .With("Opening", task => task with { Facts = task.Facts.With(PlainFacts.DeliveredBy, "Town office") });
        byte[] Picture(Plan plan, Shown shown) =>
            Prints.Png(Draw(plan, fit: Fit.One, wishes: new SheetWishes(shown, HasList: false)), 0, 1);
        Assert.Equal(Picture(bare, Shown.Nothing), Picture(told, Shown.Nothing));
        foreach (var shown in new[] { Shown.Fixed, Shown.Guesses, Shown.Owners })
            Assert.NotEqual(Picture(bare, shown), Picture(told, shown));
    }

    [Fact]
    public void Days_that_are_asked_for_are_drawn_and_no_others()
    {
        var pages = Draw(Fair(), wishes: new SheetWishes(From: new DateOnly(2027, 6, 1), To: new DateOnly(2027, 6, 30)));
        var text = Tool.TextOf(Pdf(pages));
        Assert.Contains("June 2027", text, StringComparison.Ordinal);
        Assert.DoesNotContain("May 2027", text, StringComparison.Ordinal);
    }

    [Fact]
    public void A_long_drawing_can_be_cancelled_and_tells_how_far_it_is()
    {
        var pages = Draw(Random(2, 200), fit: Fit.Pages);
        List<int> told = [];
        Prints.Pdf(pages, "", "", Now, told.Add);
        Assert.Equal(Enumerable.Range(1, pages.Count), told);
        using var cancel = new CancellationTokenSource();
        Assert.Throws<OperationCanceledException>(() => Prints.Pdf(pages, "", "", Now, done => cancel.Cancel(), cancel.Token));
    }

    [Fact]
    public void The_logo_stands_at_the_top_on_the_right_and_what_is_none_is_left_out()
    {
        using var surface = SKSurface.Create(new SKImageInfo(200, 100));
        surface.Canvas.Clear(SKColors.Crimson);
        using var logo = surface.Snapshot().Encode(SKEncodedImageFormat.Png, 90);
        var table = new PlanTable(Scheduler.Calculate(Fair()), Today);
        foreach (var (content, isThere) in new[] { (logo.ToArray(), true), ("no picture"u8.ToArray(), false), ([], false) })
        {
            var setup = new PageSetup(PaperSize.Find("a4")!, true, Fit.Page, Inks.Colour, "Quay fair", "Plan", "", Logo: content);
            var pages = new PaperPages(new PlanSheet(table, Today, new SheetWishes(), _letters), setup, _letters);
            using var picture = SKBitmap.Decode(Prints.Png(pages, 0, 1));
            Assert.Equal(isThere, picture.GetPixel((int)pages.Size.Width - 40, 40) == SKColors.Crimson);
        }
    }

    [Fact]
    public void Load_says_who_has_how_much_in_which_week_and_what_is_too_much()
    {
        static PlanTask Given(PlanTask task, string to) => task with { Assignments = [new(to)] };
        var plan = PlanText
            .Plan("Fence 2d\nPower 2d\nWater 1d")
            .With("Fence", task => Given(task, "ann"))
            .With("Power", task => Given(task, "ann"))
            .With("Water", task => Given(task, "bo")) with
        {
            People = [new("ann", "Ann Lee", "AL"), new("bo", "Bo Ek", "BE")],
            Project = Fair().Project with { Start = PlanTime.At(2027, 5, 17, 9) },
        };

        var text = Tool.TextOf(Pdf(Draw(plan, table => SheetOf("load", table))));

        Assert.Matches(@"Ann Lee\s2 days too full", text);
        Assert.Matches(@"32\s2 d over", text);
        Assert.Matches(@"8\sof 40", text);
        Assert.Contains(
            "Nobody has anything to do.",
            Tool.TextOf(Pdf(Draw(Fair(), table => SheetOf("load", table)))),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_plan_without_rows_is_a_page_too()
    {
        foreach (var sheet in new[] { "plan", "timeline", "month", "chains", "outline", "load" })
        foreach (var fit in Enum.GetValues<Fit>())
        {
            var plan = Fair() with { Tasks = [], Links = [] };
            Tool.Run("qpdf", Pdf(Draw(plan, table => SheetOf(sheet, table), fit)), ["--check"]);
        }
    }
}
