namespace Auxilium.Planning.Plans;

/// <summary>Where a project is in its life; somebody says so.</summary>
public enum ProjectStatus
{
    Proposed,
    Active,
    OnHold,
    Finished,
}

/// <summary>What each status is called.</summary>
public static class ProjectStatuses
{
    public static string InWords(this ProjectStatus status) =>
        status switch
        {
            ProjectStatus.Proposed => "proposed",
            ProjectStatus.Active => "active",
            ProjectStatus.OnHold => "on hold",
            _ => "finished",
        };
}
