using System.Collections.Immutable;
using System.Globalization;
using Auxilium.Planning.Load;

namespace Auxilium.Planning.Typing;

/// <summary>
/// Availability as people type it: <c>80%</c>, <c>50% from 1 Jun</c>, <c>0% 5 Jul to 9 Jul</c>, <c>50% until 4 May</c>; several with
/// commas between, of which the later counts.
/// </summary>
public static class AvailabilityText
{
    private const string Help = "Write how much of their time somebody gives, and when: 80%, or 50% from 1 Jun, 0% 5 Jul to 9 Jul.";

    /// <param name="text">What was typed; empty for all of the time.</param>
    /// <param name="today">The day that years are guessed from.</param>
    /// <param name="stretches">What it says.</param>
    /// <param name="problem">Why it cannot be read, in a sentence.</param>
    public static bool TryParse(string text, DateOnly today, out ImmutableArray<Availability> stretches, out string problem)
    {
        var read = ImmutableArray.CreateBuilder<Availability>();
        (stretches, problem) = ([], "");
        foreach (var part in text.Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            if (ReadOne(part, today, out var why) is not { } stretch)
            {
                problem = why;
                return false;
            }
            read.Add(stretch);
        }
        if (read.Count > Availability.Most)
        {
            problem = $"At most {Availability.Most} stretches can be given.";
            return false;
        }
        stretches = read.ToImmutable();
        return true;
    }

    /// <summary>What <see cref="TryParse"/> reads back.</summary>
    public static string Of(ImmutableArray<Availability> stretches) =>
        string.Join(
            ", ",
            stretches.Select(stretch =>
            {
                var share = string.Create(CultureInfo.InvariantCulture, $"{stretch.Share * 100:0.##}%");
                return (stretch.From, stretch.To) switch
                {
                    ({ } from, { } to) => $"{share} {Day(from)} to {Day(to)}",
                    ({ } from, null) => $"{share} from {Day(from)}",
                    (null, { } to) => $"{share} until {Day(to)}",
                    _ => share,
                };
            })
        );

    private static Availability? ReadOne(string part, DateOnly today, out string problem)
    {
        problem = $"“{LengthText.Shorten(part)}” is no availability. {Help}";
        var percent = part.IndexOf('%');
        if (
            percent < 0
            || !decimal.TryParse(part[..percent].Trim(), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var share)
        )
            return null;
        var (from, to) = (default(DateOnly?), default(DateOnly?));
        var when = part[(percent + 1)..].Trim();
        if (when.StartsWith("from ", StringComparison.OrdinalIgnoreCase))
            when = when[5..];
        if (when.StartsWith("until ", StringComparison.OrdinalIgnoreCase))
        {
            if ((to = Day(when[6..], today, ref problem)) is null)
                return null;
        }
        else if (when.Length > 0)
        {
            var ends = when.Split(" to ", 2, StringSplitOptions.TrimEntries);
            if ((from = Day(ends[0], today, ref problem)) is null)
                return null;
            if (ends.Length == 2 && (to = Day(ends[1], today, ref problem)) is null)
                return null;
        }
        var read = new Availability(share / 100, from, to);
        if (read.WhyRefused() is not { } why)
            return read;
        problem = why;
        return null;
    }

    private static DateOnly? Day(string text, DateOnly today, ref string problem)
    {
        if (DateText.TryParse(text.Trim(), today, out var day, out var why) && day.Minute is null)
            return day.Date;
        problem = why is { Length: > 0 } ? why : $"“{LengthText.Shorten(text)}” is no day. {Help}";
        return null;
    }

    private static string Day(DateOnly day) => day.ToString("d MMM yyyy", CultureInfo.InvariantCulture);
}
