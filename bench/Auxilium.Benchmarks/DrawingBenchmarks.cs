using Auxilium.Drawing.Ink;
using Auxilium.Drawing.Paper;
using Auxilium.Drawing.Sheets;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Scheduling;
using BenchmarkDotNet.Attributes;
using SkiaSharp;

namespace Auxilium.Benchmarks;

/// <summary>A plan as PDF and PNG, against a PDF with as many texts and boxes that the bare library draws (ratio 1).</summary>
[MemoryDiagnoser]
public class DrawingBenchmarks
{
    private static readonly DateOnly Today = new(2027, 5, 13);
    private static readonly DateTime Now = new(2027, 5, 13, 9, 0, 0, DateTimeKind.Utc);

    private Schedule _schedule = null!;

    [Params(300, 10_000)]
    public int Tasks { get; set; }

    [GlobalSetup]
    public void Setup() => _schedule = Scheduler.Calculate(BenchPlan.Of(Tasks));

    [Benchmark(Baseline = true)]
    public long BareShapes()
    {
        using var stream = new MemoryStream();
        using (var document = SKDocument.CreatePdf(stream))
        {
            using var font = new SKFont(SKTypeface.Default, 8);
            using var paint = new SKPaint();
            for (var row = 0; row < Tasks; )
            {
                var canvas = document.BeginPage(842, 595);
                for (var line = 0; line < 30 && row < Tasks; line++, row++)
                for (var column = 0; column < 9; column++)
                {
                    canvas.DrawText("Task 123", column * 90, line * 18, SKTextAlign.Left, font, paint);
                    canvas.DrawRect(column * 90, line * 18, 80, 12, paint);
                }
                document.EndPage();
            }
            document.Close();
        }
        return stream.Length;
    }

    [Benchmark]
    public int PagesOfA4() => Pdf("a4", Fit.Pages);

    [Benchmark]
    public int OnePageOfA1() => Pdf("a1", Fit.Page);

    private int Pdf(string paper, Fit fit)
    {
        using var letters = new Lettering();
        var sheet = new PlanSheet(new PlanTable(_schedule, Today), Today, new SheetWishes(), letters);
        var setup = new PageSetup(PaperSize.Find(paper)!, true, fit, Inks.Colour, "Bench", "Plan", "Bench");
        return Prints.Pdf(new PaperPages(sheet, setup, letters), "Bench", "Bench", Now).Length;
    }
}
