using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Tracking;

/// <summary>How somebody looks at all projects, and what of them they want to be told on Now.</summary>
/// <param name="Look">As <c>cards</c>, <c>table</c> or <c>timeline</c>.</param>
/// <param name="Sort">What the projects are sorted by, as <c>Pages/Projects</c> names it.</param>
/// <param name="Down">Whether the last comes first.</param>
public sealed record ProjectsView(string Look = "cards", string Sort = "newest", bool Down = false)
{
    /// <summary>Drift of more than so many days is told on Now.</summary>
    public const int UsualDriftDays = 2;

    /// <summary>How many months the timeline shows; 0 for all.</summary>
    public int Months { get; init; }

    /// <summary>The statuses that are left out.</summary>
    public ImmutableHashSet<string> Hidden { get; init; } = [];

    /// <summary>Ids of the projects that stand first.</summary>
    public ImmutableHashSet<Guid> Favourites { get; init; } = [];

    /// <summary>Ids of the folders that are closed.</summary>
    public ImmutableHashSet<Guid> Folded { get; init; } = [];

    /// <summary>Drift of more than so many days is told on Now.</summary>
    public int DriftDays { get; init; } = UsualDriftDays;
}

/// <summary>Remembers how each person looks at all projects.</summary>
public sealed class ProjectsViews(IDbContextFactory<AuxiliumDb> databases)
{
    public async Task<ProjectsView> OfAsync(string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var kept = await db.ProjectsViews.Where(v => v.PersonId == person).Select(v => v.Content).SingleOrDefaultAsync(cancel);
        return kept is null ? new ProjectsView() : Read(kept);
    }

    /// <summary>Changes it, however many pages of the same person do that at once.</summary>
    public async Task<ProjectsView> ChangeAsync(string person, Func<ProjectsView, ProjectsView> change, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var usual = JsonSerializer.Serialize(new ProjectsView());
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into projects_views (person_id, content) values ({person}, {usual}::jsonb) on conflict (person_id) do nothing
            """,
            cancel
        );
        var row = await db
            .ProjectsViews.FromSql($"select * from projects_views where person_id = {person} for update")
            .SingleAsync(cancel);
        var view = change(Read(row.Content));
        row.Content = JsonSerializer.Serialize(view);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return view;
    }

    private static ProjectsView Read(string json) => JsonSerializer.Deserialize<ProjectsView>(json)!;
}
