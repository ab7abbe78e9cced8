using System.Collections.Immutable;
using System.Globalization;
using Auxilium.Planning.Money;

namespace Auxilium.Planning.Typing;

/// <summary>
/// Rates that begin on later days, as people type them: <c>30 from 1 Jun 2027</c>, <c>32.50 overtime 40 per task 15 from 1 Jan 2028</c>;
/// several with commas between.
/// </summary>
public static class RatesText
{
    private const string Help =
        "Write an amount and the day it begins: 30 from 1 Jun 2027, or 32.50 overtime 40 per task 15 from 1 Jan 2028.";

    /// <param name="text">What was typed; empty for none.</param>
    /// <param name="today">The day that years are guessed from.</param>
    /// <param name="rates">What it says.</param>
    /// <param name="problem">Why it cannot be read, in a sentence.</param>
    public static bool TryParse(string text, DateOnly today, out ImmutableArray<Rate> rates, out string problem)
    {
        var read = ImmutableArray.CreateBuilder<Rate>();
        (rates, problem) = ([], "");
        foreach (var part in text.Split([',', ';'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            if (ReadOne(part, today, out var why) is not { } rate)
            {
                problem = why;
                return false;
            }
            read.Add(rate);
        }
        if (read.Count >= Rate.Most)
        {
            problem = $"At most {Rate.Most - 1} later rates can be given.";
            return false;
        }
        rates = read.ToImmutable();
        return true;
    }

    /// <summary>What <see cref="TryParse"/> reads back.</summary>
    public static string Of(ImmutableArray<Rate> rates) =>
        string.Join(
            ", ",
            rates.Select(rate =>
                $"{Amount(rate.Hour)}{(rate.Overtime is { } overtime ? $" overtime {Amount(overtime)}" : "")}"
                + $"{(rate.PerUse > 0 ? $" per task {Amount(rate.PerUse)}" : "")}"
                + $" from {rate.From?.ToString("d MMM yyyy", CultureInfo.InvariantCulture)}"
            )
        );

    private static Rate? ReadOne(string part, DateOnly today, out string problem)
    {
        problem = $"“{LengthText.Shorten(part)}” is no rate. {Help}";
        var ends = part.Split(" from ", 2, StringSplitOptions.TrimEntries);
        if (ends.Length < 2)
            return null;
        if (!DateText.TryParse(ends[1], today, out var day, out var why) || day.Minute is not null)
        {
            problem = why is { Length: > 0 } ? why : problem;
            return null;
        }
        var rest = ends[0];
        var perUse = Cut(ref rest, " per task ");
        var overtime = Cut(ref rest, " overtime ");
        if (Number(rest) is not { } hour || perUse is { IsRead: false } || overtime is { IsRead: false })
            return null;
        var rate = new Rate(day.Date, hour, overtime?.Amount, perUse?.Amount ?? 0);
        if (rate.WhyRefused() is not { } refused)
            return rate;
        problem = refused;
        return null;
    }

    private static (decimal? Amount, bool IsRead)? Cut(ref string text, string word)
    {
        var at = text.IndexOf(word, StringComparison.OrdinalIgnoreCase);
        if (at < 0)
            return null;
        var number = Number(text[(at + word.Length)..]);
        text = text[..at];
        return (number, number is not null);
    }

    private static decimal? Number(string text) =>
        decimal.TryParse(text.Trim(), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number) ? number : null;

    private static string Amount(decimal amount) => amount.ToString("0.##", CultureInfo.InvariantCulture);
}
