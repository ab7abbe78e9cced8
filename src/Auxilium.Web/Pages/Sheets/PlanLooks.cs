namespace Auxilium.Web.Pages.Sheets;

/// <summary>The ways to look at one project, of which one is open.</summary>
/// <param name="Project">Its id.</param>
/// <param name="Open">Which is open.</param>
/// <param name="Rights">What whoever looks may do: <c>edit</c>, <c>report</c>, <c>look</c> or <c>shared</c>.</param>
/// <param name="Secret">Of the link, where it is seen by one.</param>
public sealed record PlanLooks(Guid Project, string Open, string Rights = "edit", string? Secret = null)
{
    public IEnumerable<(string Name, string Address)> All
    {
        get
        {
            var at = Secret is null ? $"/projects/{Project}" : $"/shared/{Secret}";
            yield return ("Plan", at);
            yield return ("Lanes", $"{at}/lanes");
            yield return ("Month", $"{at}/month");
            yield return ("Chains", $"{at}/chains");
            if (Secret is not null || Open == "Report")
                yield return ("Report", $"{at}/report");
            if (Secret is not null)
                yield break;
            yield return ("Journal", $"{at}/journal");
            yield return ("Check-up", $"{at}/check-up");
            yield return ("Forecast", $"{at}/forecast");
            yield return ("Settings", $"{at}/settings");
            if (Rights == "edit")
                yield return ("Sharing", $"{at}/sharing");
        }
    }
}
