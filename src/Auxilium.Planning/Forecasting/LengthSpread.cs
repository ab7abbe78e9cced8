using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Forecasting;

/// <summary>How a length is spread between its low and its high.</summary>
public enum SpreadKind
{
    /// <summary>The beta distribution of PERT: its mean is (low + 4 × likely + high) / 6.</summary>
    PertBeta,

    /// <summary>Straight up from low to likely and straight down to high.</summary>
    Triangular,
}

/// <summary>
/// Draws lengths of a range. The distribution is laid out once as a table of quantiles, between which it is straight, so that a draw
/// costs next to nothing.
/// </summary>
internal sealed class LengthSpread
{
    private const int Quantiles = 1024;
    private const int Steps = 4096;

    private readonly float[] _minutes = new float[Quantiles + 1];

    /// <param name="estimate">Low, likely and high, in order.</param>
    /// <param name="units">What days and weeks come to.</param>
    /// <param name="kind">The distribution.</param>
    public LengthSpread(LengthEstimate estimate, WorkUnits units, SpreadKind kind)
    {
        var (low, likely, high) = (
            (double)units.Minutes(estimate.Low).Count,
            units.Minutes(estimate.Likely).Count,
            (double)units.Minutes(estimate.High).Count
        );
        var (width, mode) = (high - low, high > low ? (likely - low) / (high - low) : 0);
        var density = kind == SpreadKind.PertBeta ? Beta(1 + 4 * mode, 1 + 4 * (1 - mode)) : Triangle(mode);
        // The area under the density up to each step, by midpoints.
        var area = new double[Steps + 1];
        for (var i = 0; i < Steps; i++)
            area[i + 1] = area[i] + density((i + 0.5) / Steps);
        var at = 0;
        for (var q = 0; q <= Quantiles; q++)
        {
            var wanted = area[Steps] * q / Quantiles;
            while (at < Steps - 1 && area[at + 1] < wanted)
                at++;
            var part = area[at + 1] > area[at] ? (wanted - area[at]) / (area[at + 1] - area[at]) : 0;
            _minutes[q] = (float)(low + width * Math.Clamp((at + part) / Steps, 0, 1));
        }
    }

    /// <summary>The length, in whole minutes, below which a share of all draws lies.</summary>
    /// <param name="share">0 to 1.</param>
    public int At(double share)
    {
        var place = share * Quantiles;
        var below = Math.Min((int)place, Quantiles - 1);
        return (int)Math.Round(_minutes[below] + (_minutes[below + 1] - _minutes[below]) * (place - below));
    }

    private static Func<double, double> Beta(double alpha, double beta) => x => Math.Pow(x, alpha - 1) * Math.Pow(1 - x, beta - 1);

    private static Func<double, double> Triangle(double mode) =>
        x =>
            x < mode ? x / mode
            : mode < 1 ? (1 - x) / (1 - mode)
            : 0;
}
