namespace Auxilium.Web.Pages.Sheets;

/// <summary>The ways to look at one project, of which one is open.</summary>
public sealed record PlanLooks(Guid Project, string Open)
{
    public IEnumerable<(string Name, string Address)> All =>
    [
        ("Plan", $"/projects/{Project}"),
        ("Lanes", $"/projects/{Project}/lanes"),
        ("Month", $"/projects/{Project}/month"),
        ("Chains", $"/projects/{Project}/chains"),
        ("Journal", $"/projects/{Project}/journal"),
        ("Check-up", $"/projects/{Project}/check-up"),
        ("Forecast", $"/projects/{Project}/forecast"),
        ("Settings", $"/projects/{Project}/settings"),
    ];
}
