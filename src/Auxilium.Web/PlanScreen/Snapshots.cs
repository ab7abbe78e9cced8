using System.Globalization;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tracking;
using Auxilium.Storage.Plans;
using Auxilium.Web.Pages.Shared;

namespace Auxilium.Web.PlanScreen;

/// <summary>A record of a plan that can be compared with another.</summary>
/// <param name="Key">How it is asked for.</param>
/// <param name="Title">What it is called: <c>Now</c>, <c>As agreed</c>, <c>12 May 18:04</c>.</param>
/// <param name="Record">What it has.</param>
public sealed record Snapshot(string Key, string Title, Baseline Record);

/// <summary>
/// Records of plans by their keys: <c>now</c>, <c>baseline:b1</c>, <c>version:12</c>, or <c>day:2027-05-12</c> for how the plan was at the
/// end of that day.
/// </summary>
public sealed class Snapshots(PastPlans past, OrganisationClock clock)
{
    /// <param name="plan">The plan as it is.</param>
    /// <param name="key">Which record.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <returns>The record, or a sentence that says why there is none.</returns>
    public async Task<(Snapshot? Found, string? WhyNot)> FindAsync(StoredPlan plan, string key, CancellationToken cancel = default)
    {
        var (kind, value) = key.Split(':', 2) is [var k, var v] ? (k, v) : (key, "");
        switch (kind)
        {
            case "now" when value.Length == 0:
                return (new Snapshot(key, "Now", Taken(plan)), null);
            case "baseline":
                return plan.Schedule.Plan.FindBaseline(value) is { } known
                    ? (new Snapshot(key, known.Name, known), null)
                    : (null, "This baseline is no longer in the plan: choose another one.");
            case "version" when int.TryParse(value, NumberStyles.None, CultureInfo.InvariantCulture, out var version):
                return await PastAsync(plan, key, version, cancel);
            case "day" when DateOnly.TryParseExact(value, "yyyy-MM-dd", CultureInfo.InvariantCulture, default, out var day):
                return await PastAsync(plan, key, await past.VersionAtAsync(plan.Project, clock.EndOf(day), cancel), cancel);
            default:
                return (null, $"“{key}” is no record of a plan: use now, baseline:b1, version:12 or day:2027-05-12.");
        }
    }

    private async Task<(Snapshot?, string?)> PastAsync(StoredPlan plan, string key, int version, CancellationToken cancel) =>
        await past.FindAsync(plan.Project, version, cancel) is { } was
            ? (new Snapshot(key, clock.MomentOf(was.At), Taken(was.Plan)), null)
            : (null, $"This plan never had a version {version}: choose one from its journal.");

    private static Baseline Taken(StoredPlan plan) => Baselines.Take(plan.Schedule, "taken", "Taken", default);
}
