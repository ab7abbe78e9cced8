using Auxilium.Planning.Plans;
using Auxilium.Storage.Rows;
using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage;

/// <summary>The database: the truth about every plan.</summary>
public sealed class AuxiliumDb(DbContextOptions<AuxiliumDb> options) : DbContext(options), IDataProtectionKeyContext
{
    public DbSet<ProjectRow> Projects => Set<ProjectRow>();

    public DbSet<TaskRow> Tasks => Set<TaskRow>();

    public DbSet<LinkRow> Links => Set<LinkRow>();

    public DbSet<PersonRow> People => Set<PersonRow>();

    public DbSet<MemberRow> Members => Set<MemberRow>();

    public DbSet<CommentRow> Comments => Set<CommentRow>();

    public DbSet<FileRow> Files => Set<FileRow>();

    public DbSet<LookRow> Looks => Set<LookRow>();

    public DbSet<JournalRow> Journal => Set<JournalRow>();

    public DbSet<DataProtectionKey> DataProtectionKeys => Set<DataProtectionKey>();

    /// <summary>Sets up a context for a PostgreSQL connection string.</summary>
    public static void Configure(DbContextOptionsBuilder options, string connection) =>
        options.UseNpgsql(connection).UseSnakeCaseNamingConvention();

    protected override void ConfigureConventions(ModelConfigurationBuilder configurationBuilder)
    {
        // Plans run on the wall clock of the organisation; only the journal has instants of the world.
        configurationBuilder.Properties<DateTime>().HaveColumnType("timestamp without time zone");
    }

    protected override void OnModelCreating(ModelBuilder modelBuilder)
    {
        modelBuilder.Entity<ProjectRow>(project =>
        {
            project.ToTable("projects");
            project.Property(p => p.FloatTo).HasConversion<string>();
            project.Property(p => p.ScheduleFrom).HasConversion<string>().HasDefaultValue(ScheduleFrom.Start).HasSentinel(ScheduleFrom.Start);
            project.Property(p => p.Calendars).HasColumnType("jsonb");
            project.Property(p => p.Periods).HasColumnType("jsonb").HasDefaultValueSql("'[]'::jsonb");
        });
        modelBuilder.Entity<TaskRow>(task =>
        {
            task.ToTable("tasks").HasKey(t => new { t.ProjectId, t.Id });
            task.HasOne<ProjectRow>().WithMany().HasForeignKey(t => t.ProjectId);
            task.Property(t => t.ConstraintKind).HasConversion<string>();
            // What rows have that were written before there were these.
            task.Property(t => t.Active).HasDefaultValue(true).HasSentinel(true);
            task.Property(t => t.Splits).HasDefaultValue("");
            task.Property(t => t.Priority).HasDefaultValue(PlanTask.UsualPriority).HasSentinel(PlanTask.UsualPriority);
            task.Property(t => t.Assignments).HasColumnType("jsonb");
            task.Property(t => t.Checklist).HasColumnType("jsonb").HasDefaultValueSql("'[]'::jsonb");
            task.Property(t => t.WebReferences).HasColumnType("jsonb").HasDefaultValueSql("'[]'::jsonb");
            task.Property(t => t.Repeats).HasColumnType("jsonb");
        });
        modelBuilder.Entity<LinkRow>(link =>
        {
            link.ToTable("links").HasKey(l => new { l.ProjectId, l.From, l.To });
            link.Property(l => l.Kind).HasConversion<string>().HasDefaultValue(LinkKind.FinishToStart).HasSentinel(LinkKind.FinishToStart);
            link.HasOne<ProjectRow>().WithMany().HasForeignKey(l => l.ProjectId);
        });
        modelBuilder.Entity<PersonRow>().ToTable("people");
        modelBuilder.Entity<MemberRow>(member =>
        {
            member.ToTable("members").HasKey(m => new { m.ProjectId, m.PersonId });
            member.HasOne<ProjectRow>().WithMany().HasForeignKey(m => m.ProjectId);
            member.HasOne<PersonRow>().WithMany().HasForeignKey(m => m.PersonId);
        });
        modelBuilder.Entity<CommentRow>(comment =>
        {
            comment.ToTable("comments").HasOne<ProjectRow>().WithMany().HasForeignKey(c => c.ProjectId);
            comment.HasIndex(c => new { c.ProjectId, c.TaskId });
            comment.Property(c => c.At).HasColumnType("timestamp with time zone");
        });
        modelBuilder.Entity<FileRow>(file =>
        {
            file.ToTable("files").HasOne<ProjectRow>().WithMany().HasForeignKey(f => f.ProjectId);
            file.HasIndex(f => new { f.ProjectId, f.TaskId });
            file.Property(f => f.At).HasColumnType("timestamp with time zone");
        });
        modelBuilder.Entity<LookRow>(look =>
        {
            look.ToTable("looks").HasKey(l => new { l.ProjectId, l.PersonId });
            look.HasOne<ProjectRow>().WithMany().HasForeignKey(l => l.ProjectId);
            look.Property(l => l.Content).HasColumnType("jsonb");
        });
        modelBuilder.Entity<JournalRow>(entry =>
        {
            entry.ToTable("journal").HasOne<ProjectRow>().WithMany().HasForeignKey(j => j.ProjectId);
            entry.HasIndex(j => new { j.ProjectId, j.Version }).IsUnique();
            entry.HasIndex(j => new { j.ProjectId, j.EditId }).IsUnique();
            entry.Property(j => j.At).HasColumnType("timestamp with time zone");
            entry.Property(j => j.Edit).HasColumnType("jsonb");
            entry.Property(j => j.Inverse).HasColumnType("jsonb");
            entry.Property(j => j.Sentence).HasColumnType("jsonb");
            // Only ever read as a whole: kept as the text it is.
            entry.Property(j => j.Moves).HasColumnType("json");
        });
    }
}
