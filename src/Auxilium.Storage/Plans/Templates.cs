using System.Globalization;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Exchange.Templates;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Starting;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Plans;

/// <summary>A plan that projects start from.</summary>
/// <param name="Id">Of a saved one a GUID.</param>
/// <param name="Kind">The kind of project it is for; <c>null</c> for those that people here saved.</param>
/// <param name="Tasks">How many tasks it has, besides milestones and phases.</param>
/// <param name="Days">How many days of work it takes from start to finish.</param>
public sealed record Template(string Id, string? Kind, string Name, string Note, int Tasks, int Milestones, int Days);

/// <summary>A template cannot be saved so; the message says why, and what would be right.</summary>
/// <param name="field">Which of its fields is wrong.</param>
public sealed class TemplateRefusedException(string field, string message) : Exception(message)
{
    public string Field { get; } = field;
}

/// <summary>What projects start from: what ships with the product, and what people here have saved.</summary>
public sealed class Templates(IDbContextFactory<AuxiliumDb> databases)
{
    /// <summary>So many can be saved.</summary>
    public const int Most = 100;

    /// <summary>A name is at most this many characters.</summary>
    public const int LongestName = 80;

    /// <summary>A note is at most this many characters.</summary>
    public const int LongestNote = 400;

    private static readonly Lazy<IReadOnlyList<Template>> ReadyMade = new(() =>
        [
            .. ReadyMadeTemplates.All.Select(template =>
            {
                var (tasks, milestones, days) = Counted(template.Plan);
                return new Template(
                    template.Id,
                    template.Kind,
                    template.Plan.Project.Name,
                    template.Plan.Project.Note,
                    tasks,
                    milestones,
                    days
                );
            }),
        ]
    );

    /// <summary>All of them: ready-made ones by kind, then the others by name.</summary>
    public async Task<IReadOnlyList<Template>> AllAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var saved = await db
            .Templates.OrderBy(t => t.Name)
            .Select(t => new Template(t.Id.ToString(), null, t.Name, t.Note, t.Tasks, t.Milestones, t.Days))
            .ToListAsync(cancel);
        return [.. ReadyMade.Value, .. saved];
    }

    /// <summary>The plan of a template; <c>null</c> where there is none.</summary>
    public async Task<Plan?> FindAsync(string id, CancellationToken cancel = default)
    {
        if (ReadyMadeTemplates.All.FirstOrDefault(template => template.Id == id) is { } ready)
            return ready.Plan;
        if (!Guid.TryParse(id, CultureInfo.InvariantCulture, out var saved))
            return null;
        await using var db = await databases.CreateDbContextAsync(cancel);
        var document = await db.Templates.Where(t => t.Id == saved).Select(t => t.Document).SingleOrDefaultAsync(cancel);
        return document is null ? null : PlanDocumentReader.Read(document, cancel);
    }

    /// <summary>Keeps a plan for others to start from: what is planned, without what happened.</summary>
    /// <param name="plan">A sound plan.</param>
    /// <exception cref="TemplateRefusedException">It cannot be called so, or there are too many.</exception>
    public async Task<Template> SaveAsync(Plan plan, string? name, string? note, CancellationToken cancel = default)
    {
        var (called, about) = (Checked("Name", name, LongestName, true), Checked("Note", note, LongestNote, false));
        var kept = FreshStart.WithoutPast(plan) with { People = [.. plan.People.Select(person => person with { Email = null })] };
        kept = kept with { Project = kept.Project with { Name = called, Note = about } };
        var (tasks, milestones, days) = Counted(kept);
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"lock table templates in share row exclusive mode", cancel);
        var names = await db.Templates.Select(t => t.Name).ToListAsync(cancel);
        if (names.Concat(ReadyMade.Value.Select(t => t.Name)).Contains(called, StringComparer.CurrentCultureIgnoreCase))
            throw new TemplateRefusedException("Name", $"There is a template called “{called}” already: type another name.");
        if (names.Count >= Most)
            throw new TemplateRefusedException("Name", $"{Most} templates are saved, and more cannot be: delete one that is not used.");
        var row = new TemplateRow
        {
            Id = Guid.CreateVersion7(),
            Name = called,
            Note = about,
            Document = PlanDocumentWriter.Write(kept),
            Tasks = tasks,
            Milestones = milestones,
            Days = days,
        };
        db.Templates.Add(row);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return new Template(row.Id.ToString(), null, called, about, tasks, milestones, days);
    }

    /// <returns>Whether there was such a template that people saved.</returns>
    public async Task<bool> DeleteAsync(Guid id, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Templates.Where(t => t.Id == id).ExecuteDeleteAsync(cancel) > 0;
    }

    private static string Checked(string field, string? text, int longest, bool isNeeded)
    {
        var line = (text ?? "").Trim();
        if (line.Length == 0 && isNeeded)
            throw new TemplateRefusedException(field, "The name is missing: type what others will look for.");
        if (line.Length > longest)
            throw new TemplateRefusedException(field, $"This has {line.Length:N0} characters: shorten it to {longest} or fewer.");
        if (line.Any(char.IsControl))
            throw new TemplateRefusedException(field, "This is one line of text: leave out line breaks and control characters.");
        return line;
    }

    private static (int Tasks, int Milestones, int Days) Counted(Plan plan)
    {
        var schedule = Scheduler.Calculate(plan);
        var minutes = plan.ProjectCalendar.Between(schedule.Start, schedule.Finish);
        return (
            Enumerable.Range(0, plan.Tasks.Length).Count(row => schedule.IsLeaf(row) && !plan.Tasks[row].Milestone),
            plan.Tasks.Count(task => task.Milestone),
            (int)Math.Ceiling(minutes / (double)Math.Max(1, plan.Project.Units.Minutes(Length.OneDay).Count))
        );
    }
}
