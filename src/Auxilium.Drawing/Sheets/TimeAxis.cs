using System.Globalization;
using Auxilium.Drawing.Ink;
using Auxilium.Planning.Calendars;
using SkiaSharp;

namespace Auxilium.Drawing.Sheets;

/// <summary>
/// Where a time lies on a timeline. A day is as wide as the project's working day, so that a task of three days fills three.
/// </summary>
/// <param name="First">The first day.</param>
/// <param name="Last">The last day, which is drawn too.</param>
/// <param name="DayWidth">The width of a day.</param>
/// <param name="DayStart">Minute of the day at which a day's width begins.</param>
/// <param name="DayEnd">Minute at which it ends.</param>
internal sealed record TimeAxis(DateOnly First, DateOnly Last, float DayWidth, int DayStart, int DayEnd)
{
    public const float Height = 40;

    private const float Size = 11;
    private const float MonthLine = 14;
    private const float DayLine = 33;
    private const float Gap = 6;

    public float Width => (Last.DayNumber - First.DayNumber + 1) * DayWidth;

    public float OfDay(DateOnly day) => (day.DayNumber - First.DayNumber) * DayWidth;

    public float Of(PlanTime time)
    {
        var within = (time.MinuteOfDay - DayStart) / (float)Math.Max(1, DayEnd - DayStart);
        return (time.Day - First.DayNumber + Math.Clamp(within, 0, 1)) * DayWidth;
    }

    /// <summary>The days of the axis between two places.</summary>
    public IEnumerable<DateOnly> Days(float left, float right)
    {
        var (from, to) = (Math.Max(0, (int)(left / DayWidth)), Math.Min(Last.DayNumber - First.DayNumber, (int)(right / DayWidth)));
        for (var day = from; day <= to; day++)
            yield return First.AddDays(day);
    }

    /// <summary>Days at which a line goes all the way down: weeks where there is room, else months.</summary>
    public bool HasLine(DateOnly day, DayOfWeek weekStart) => DayWidth > 2.4f ? day.DayOfWeek == weekStart : day.Day == 1;

    /// <summary>The dates above the timeline: months, and below them days, weeks or quarters, as there is room.</summary>
    public void Paint(Pen pen, SKRect part, DateOnly today, DateOnly? deadline, DayOfWeek weekStart)
    {
        var inks = pen.Inks;
        var taken = new List<(float From, float To)>();
        if (today >= First && today <= Last)
        {
            var middle = OfDay(today) + DayWidth / 2;
            pen.Fill(new SKRect(middle - 20, 2, middle + 20, 18), inks.Today, 5);
            pen.Text("today", middle, MonthLine, Face.Strong, Size, inks.Text, Align.Middle);
            taken.Add((middle - 22, middle + 22));
        }
        if (deadline is { } by && by >= First && by <= Last)
        {
            var width = pen.Letters.WidthOf("deadline", Face.Strong, Size);
            var x = OfDay(by.AddDays(1)) - width / 2;
            foreach (var (from, to) in taken)
                if (x < to && x + width > from)
                    x = to + Gap;
            pen.Text("deadline", x, MonthLine, Face.Strong, Size, inks.Text);
            taken.Add((x, x + width));
        }
        foreach (var day in Days(part.Left - 40 * DayWidth, part.Right))
        {
            var x = OfDay(day);
            if (day.Day == 1 || day == First)
                Month(day);
            if (Label(day, weekStart) is not { } words)
                continue;
            pen.Line(x, 24, x, Height, inks.Line);
            if (DayWidth >= 22)
                pen.Text(words, x + DayWidth / 2, DayLine, Face.Text, Size - 1, inks.Mute, Align.Middle);
            else if (words.Length > 0)
                pen.Text(words, x + 3, DayLine, Face.Text, Size - 1, inks.Mute);
        }

        void Month(DateOnly day)
        {
            var next = new DateOnly(day.Year, day.Month, 1).AddMonths(1);
            var (x, end) = (Math.Max(OfDay(day), part.Left) + 4, Math.Min(OfDay(next), Width));
            var words = DayWidth * 30 > 70 ? day.ToString("MMMM yyyy", CultureInfo.InvariantCulture) : MonthInShort(day);
            var width = pen.Letters.WidthOf(words, Face.Strong, Size);
            foreach (var (from, to) in taken.Order())
                if (x < to && x + width + Gap > from)
                    x = to + Gap;
            if (x + width > end)
                return;
            pen.Text(words, x, MonthLine, Face.Strong, Size, inks.Text);
            taken.Add((x, x + width));
        }
    }

    private static string MonthInShort(DateOnly day) => day.ToString(day.Month == 1 ? "MMM yyyy" : "MMM", CultureInfo.InvariantCulture);

    /// <summary>What stands below the month at a day; <c>null</c> for nothing.</summary>
    private string? Label(DateOnly day, DayOfWeek weekStart)
    {
        if (DayWidth >= 22)
            return $"{"SMTWTFS"[(int)day.DayOfWeek]} {day.Day}";
        if (DayWidth * 7 >= 24)
            return day.DayOfWeek != weekStart ? null
                : DayWidth * 7 >= 44 ? day.ToString("d MMM", CultureInfo.InvariantCulture)
                : day.Day.ToString(CultureInfo.InvariantCulture);
        return day.Day != 1 ? null
            : DayWidth * 30 > 70 || day.Month % 3 != 1 ? ""
            : $"Q{(day.Month + 2) / 3}";
    }
}
