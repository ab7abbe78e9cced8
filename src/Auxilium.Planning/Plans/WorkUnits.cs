using Auxilium.Planning.Calendars;

namespace Auxilium.Planning.Plans;

/// <summary>What a day and a week of work come to (rule T4).</summary>
/// <param name="HoursPerDay">Above 0, at most 24; must come to whole minutes.</param>
/// <param name="DaysPerWeek">Above 0, at most 7.</param>
public readonly record struct WorkUnits(decimal HoursPerDay, decimal DaysPerWeek)
{
    public static WorkUnits Standard => new(8, 5);

    public int MinutesPerDay => (int)(HoursPerDay * 60);

    /// <summary>Turns a length into minutes.</summary>
    /// <returns>False when it does not come to whole minutes or is longer than ten years either way.</returns>
    public bool TryGetMinutes(Length length, out WorkMinutes minutes)
    {
        // Up to a week of whole hours, as most lags are, needs no exact reckoning.
        if (
            length is { Unit: LengthUnit.Hours, Amount: { Scale: 0 } and >= -168 and <= 168 and var hours }
            && HoursPerDay >= 1
            && DaysPerWeek >= 1
        )
        {
            minutes = new WorkMinutes((int)hours * 60);
            return true;
        }
        minutes = default;
        if (Math.Abs(length.Amount) > 10_000_000)
            return false;
        var exact = length.Amount * MinutesIn(length.Unit);
        if (exact != decimal.Truncate(exact) || Math.Abs(exact) > Length.MostWeeks * MinutesIn(LengthUnit.Weeks))
            return false;
        minutes = new WorkMinutes((int)exact);
        return true;
    }

    /// <summary>The minutes of a length that is known to come to whole ones.</summary>
    /// <exception cref="ArgumentException">It does not.</exception>
    public WorkMinutes Minutes(Length length) =>
        TryGetMinutes(length, out var minutes)
            ? minutes
            : throw new ArgumentException($"{length} does not come to whole minutes.", nameof(length));

    /// <summary>The same minutes as a length in the largest unit that gives at most two decimals.</summary>
    public Length ToLength(WorkMinutes minutes)
    {
        foreach (var unit in new[] { LengthUnit.Days, LengthUnit.Hours })
        {
            var amount = minutes.Count / MinutesIn(unit);
            if (amount == Math.Round(amount, 2))
                return new Length(amount, unit);
        }
        return new Length(minutes.Count, LengthUnit.Minutes);
    }

    private decimal MinutesIn(LengthUnit unit) =>
        unit switch
        {
            LengthUnit.Minutes => 1,
            LengthUnit.Hours => 60,
            LengthUnit.Days => HoursPerDay * 60,
            _ => DaysPerWeek * HoursPerDay * 60,
        };
}
