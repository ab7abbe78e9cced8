using System.Globalization;

namespace Auxilium.Planning.Plans;

public enum LengthUnit
{
    Minutes,
    Hours,
    Days,
    Weeks,
}

/// <summary>An amount of working time in the unit a person gave it in, such as 3 d. Negative only where it is a lead.</summary>
public readonly record struct Length(decimal Amount, LengthUnit Unit)
{
    /// <summary>Ten years of weeks: no task is longer.</summary>
    public const int MostWeeks = 520;

    public static Length Zero => new(0, LengthUnit.Days);

    public static Length OneDay => new(1, LengthUnit.Days);

    public static Length Days(decimal amount) => new(amount, LengthUnit.Days);

    public bool IsZero => Amount == 0;

    /// <summary>The compact form of documents and cells: <c>30m</c>, <c>4h</c>, <c>2.5d</c>, <c>1w</c>.</summary>
    public override string ToString() => Number + "mhdw"[(int)Unit];

    /// <summary>The form for sentences: "4 days", "half a day" is "0.5 days".</summary>
    public string InWords() =>
        Number
        + " "
        + Unit switch
        {
            LengthUnit.Minutes => "minute",
            LengthUnit.Hours => "hour",
            LengthUnit.Days => "day",
            _ => "week",
        }
        + (Math.Abs(Amount) == 1 ? "" : "s");

    private string Number => Amount.ToString("0.############", CultureInfo.InvariantCulture);
}

/// <summary>A length as a person gives it: a trailing <c>?</c> marks a guess.</summary>
public readonly record struct TypedLength(Length Length, bool Tentative = false)
{
    public override string ToString() => Length + (Tentative ? "?" : "");
}
