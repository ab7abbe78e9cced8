namespace Auxilium.Storage.Rows;

/// <summary>A folder of projects, the same for everybody. It may lie in another, which lies in none.</summary>
public sealed class FolderRow
{
    public Guid Id { get; set; }

    public required string Name { get; set; }

    /// <summary>The folder that it lies in.</summary>
    public Guid? ParentId { get; set; }
}

/// <summary>How somebody looks at all projects.</summary>
public sealed class ProjectsViewRow
{
    public required string PersonId { get; set; }

    /// <summary>A <see cref="Tracking.ProjectsView"/> as JSON.</summary>
    public required string Content { get; set; }
}

/// <summary>How likely it is that a plan keeps its deadline.</summary>
public sealed class ChanceRow
{
    public Guid PlanId { get; set; }

    /// <summary>The version of the plan that it is of.</summary>
    public int Version { get; set; }

    /// <summary>0 to 1; <c>null</c> where there is no deadline, or no length is a range.</summary>
    public decimal? Chance { get; set; }
}
