using Auxilium.Planning.Plans;
using Auxilium.Storage.Access;
using Auxilium.Storage.Money;
using Auxilium.Storage.Notices;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Storage.Tracking;
using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Auxilium.Storage;

/// <summary>The database: the truth about every plan and everybody who works on it.</summary>
public sealed class AuxiliumDb(DbContextOptions<AuxiliumDb> options) : IdentityUserContext<Account>(options), IDataProtectionKeyContext
{
    private const int MostPrepared = 100;
    private const int MostConnections = 30;
    private const int IdleMilliseconds = 30_000;
    private const int LockMilliseconds = 8_000;

    public DbSet<ProjectRow> Projects => Set<ProjectRow>();

    public DbSet<TaskRow> Tasks => Set<TaskRow>();

    public DbSet<LinkRow> Links => Set<LinkRow>();

    public DbSet<PersonRow> People => Set<PersonRow>();

    public DbSet<TimeOffRow> TimeOff => Set<TimeOffRow>();

    public DbSet<RoleRow> ProjectRoles => Set<RoleRow>();

    public DbSet<SessionRow> Sessions => Set<SessionRow>();

    public DbSet<TokenRow> Tokens => Set<TokenRow>();

    public DbSet<InvitationRow> Invitations => Set<InvitationRow>();

    public DbSet<ShareLinkRow> ShareLinks => Set<ShareLinkRow>();

    public DbSet<FeedRow> Feeds => Set<FeedRow>();

    public DbSet<ProjectFeedRow> ProjectFeeds => Set<ProjectFeedRow>();

    public DbSet<ExportRow> Exports => Set<ExportRow>();

    public DbSet<PriceRow> Prices => Set<PriceRow>();

    public DbSet<NoticeRow> Notices => Set<NoticeRow>();

    public DbSet<MailRow> Mails => Set<MailRow>();

    public DbSet<PostRow> Post => Set<PostRow>();

    public DbSet<WatchRow> Watches => Set<WatchRow>();

    public DbSet<ProposalRow> Proposals => Set<ProposalRow>();

    public DbSet<HoursRow> Hours => Set<HoursRow>();

    public DbSet<TimerRow> Timers => Set<TimerRow>();

    public DbSet<ProjectMoneyRow> Money => Set<ProjectMoneyRow>();

    public DbSet<CostItemRow> CostItems => Set<CostItemRow>();

    public DbSet<RowBudgetRow> RowBudgets => Set<RowBudgetRow>();

    public DbSet<MoneyAccessRow> MoneyAccess => Set<MoneyAccessRow>();

    public DbSet<MoneyEntryRow> MoneyEntries => Set<MoneyEntryRow>();

    public DbSet<ReceiptRow> Receipts => Set<ReceiptRow>();

    public DbSet<PresenceRow> Presence => Set<PresenceRow>();

    public DbSet<AuditRow> Audit => Set<AuditRow>();

    public DbSet<FirstStartRow> FirstStart => Set<FirstStartRow>();

    public DbSet<TimeChangeRow> TimeChanges => Set<TimeChangeRow>();

    public DbSet<OrganisationRow> Organisation => Set<OrganisationRow>();

    public DbSet<PlanRow> Plans => Set<PlanRow>();

    public DbSet<KeptBaselineRow> Baselines => Set<KeptBaselineRow>();

    public DbSet<MemberRow> Members => Set<MemberRow>();

    public DbSet<ProjectedPlanRow> ProjectedPlans => Set<ProjectedPlanRow>();

    public DbSet<ProjectedTaskRow> ProjectedTasks => Set<ProjectedTaskRow>();

    /// <summary>Who is on the live plan of which project.</summary>
    internal IQueryable<LiveMember> LiveMembers =>
        from member in Members
        join plan in Plans on member.PlanId equals plan.Id
        where plan.Kind == PlanKind.Live
        select new LiveMember { ProjectId = plan.ProjectId, PersonId = member.PersonId };

    public DbSet<FolderRow> Folders => Set<FolderRow>();

    public DbSet<TemplateRow> Templates => Set<TemplateRow>();

    public DbSet<ProjectsViewRow> ProjectsViews => Set<ProjectsViewRow>();

    public DbSet<ChanceRow> Chances => Set<ChanceRow>();

    public DbSet<CommentRow> Comments => Set<CommentRow>();

    public DbSet<FileRow> Files => Set<FileRow>();

    public DbSet<ViewRow> Views => Set<ViewRow>();

    public DbSet<JournalRow> Journal => Set<JournalRow>();

    public DbSet<DataProtectionKey> DataProtectionKeys => Set<DataProtectionKey>();

    /// <summary>Sets up a context for a PostgreSQL connection string.</summary>
    public static void Configure(DbContextOptionsBuilder options, string connection)
    {
        var settings = new NpgsqlConnectionStringBuilder(connection);
        // Frequent statements are prepared once per connection, unless the connection string says otherwise.
        if (!settings.ShouldSerialize("Max Auto Prepare"))
            settings.MaxAutoPrepare = MostPrepared;
        // Several processes share the server's connections, a hundred by default.
        if (!settings.ShouldSerialize("Maximum Pool Size"))
            settings.MaxPoolSize = MostConnections;
        if (!settings.ShouldSerialize("Keepalive"))
            settings.KeepAlive = 30;
        // A process that hangs must not hold a plan for ever, nor let others wait for it for ever.
        settings.Options =
            $"-c idle_in_transaction_session_timeout={IdleMilliseconds} -c lock_timeout={LockMilliseconds} {settings.Options}".TrimEnd();
        options.UseNpgsql(settings.ConnectionString).UseSnakeCaseNamingConvention();
    }

    protected override void ConfigureConventions(ModelConfigurationBuilder configurationBuilder)
    {
        // Plans use the organisation's wall clock; only the journal has times in UTC.
        configurationBuilder.Properties<DateTime>().HaveColumnType("timestamp without time zone");
    }

    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        MakePlans(builder);
        MakePeople(builder);
        MakeNotices(builder);
        MoneyTables.Make(builder);
        UseInstants<MoneyEntryRow>(builder);
    }

    private static void MakePeople(ModelBuilder modelBuilder)
    {
        modelBuilder.Entity<PersonRow>(person =>
        {
            person.ToTable("people");
            person.Property(p => p.Role).HasDefaultValue("");
            person.Property(p => p.Team).HasDefaultValue("");
            person.Property(p => p.Kind).HasConversion<string>().HasDefaultValue(PersonKind.Staff).HasSentinel(PersonKind.Staff);
            person.Property(p => p.Calendar).HasColumnType("jsonb");
            person.Property(p => p.LaterRates).HasColumnType("jsonb");
            foreach (var money in new[] { nameof(PersonRow.HourlyRate), nameof(PersonRow.OvertimeRate), nameof(PersonRow.CostPerUse) })
                person.Property<decimal?>(money).HasPrecision(12, 2);
        });
        modelBuilder.Entity<TimeChangeRow>(change =>
        {
            change.ToTable("time_changes").HasKey(c => c.PersonId);
            change.HasOne<PersonRow>().WithOne().HasForeignKey<TimeChangeRow>(c => c.PersonId);
        });
        modelBuilder.Entity<TimeOffRow>().ToTable("time_off").HasOne<PersonRow>().WithMany().HasForeignKey(t => t.PersonId);
        modelBuilder.Entity<MemberRow>(member =>
        {
            member.ToTable("members").HasKey(m => new { m.PlanId, m.PersonId });
            member.HasOne<PlanRow>().WithMany().HasForeignKey(m => m.PlanId);
            member.HasOne<PersonRow>().WithMany().HasForeignKey(m => m.PersonId);
        });
        modelBuilder.Entity<RoleRow>(role =>
        {
            role.ToTable("project_roles").HasKey(r => new { r.ProjectId, r.PersonId });
            role.HasOne<ProjectRow>().WithMany().HasForeignKey(r => r.ProjectId);
            role.HasOne<PersonRow>().WithMany().HasForeignKey(r => r.PersonId);
            role.Property(r => r.Role).HasConversion<string>();
        });
        modelBuilder.Entity<Account>(account =>
        {
            account.ToTable("accounts").HasOne<PersonRow>().WithOne().HasForeignKey<Account>(a => a.Id);
            account.Property(a => a.NoticeWishes).HasColumnType("jsonb");
        });
        modelBuilder.Entity<IdentityUserClaim<string>>().ToTable("account_claims");
        modelBuilder.Entity<IdentityUserLogin<string>>().ToTable("account_logins");
        modelBuilder.Entity<IdentityUserToken<string>>().ToTable("account_secrets");
        modelBuilder.Entity<SessionRow>(session =>
        {
            session.ToTable("sessions").HasOne<Account>().WithMany().HasForeignKey(s => s.PersonId);
            session.HasIndex(s => s.KeyHash).IsUnique();
        });
        modelBuilder.Entity<TokenRow>(token =>
        {
            token.ToTable("tokens").HasOne<Account>().WithMany().HasForeignKey(t => t.PersonId);
            token.HasIndex(t => t.Hash).IsUnique();
            token.Property(t => t.Scope).HasConversion<string>();
        });
        modelBuilder.Entity<InvitationRow>(invitation =>
        {
            invitation.ToTable("invitations").HasOne<PersonRow>().WithMany().HasForeignKey(i => i.PersonId);
            invitation.HasIndex(i => i.Hash).IsUnique();
        });
        modelBuilder.Entity<ShareLinkRow>(link =>
        {
            link.ToTable("share_links").HasOne<ProjectRow>().WithMany().HasForeignKey(l => l.ProjectId);
            link.HasIndex(l => l.Hash).IsUnique();
        });
        modelBuilder.Entity<FeedRow>(feed =>
        {
            feed.ToTable("feeds").HasOne<Account>().WithMany().HasForeignKey(f => f.PersonId);
            feed.HasIndex(f => f.Hash).IsUnique();
        });
        modelBuilder.Entity<ProjectFeedRow>(feed =>
        {
            feed.ToTable("project_feeds").HasOne<ProjectRow>().WithMany().HasForeignKey(f => f.ProjectId);
            feed.HasOne<PersonRow>().WithMany().HasForeignKey(f => f.MadeBy);
            feed.HasOne<PersonRow>().WithMany().HasForeignKey(f => f.PersonId).OnDelete(DeleteBehavior.Cascade);
            feed.HasIndex(f => f.Hash).IsUnique();
        });
        modelBuilder.Entity<PriceRow>(item => item.ToTable("price_list").Property(i => i.Price).HasPrecision(12, 2));
        modelBuilder.Entity<OrganisationRow>(organisation =>
        {
            organisation.ToTable("organisation").Property(o => o.Id).ValueGeneratedNever();
            organisation.Property(o => o.Currency).HasDefaultValue("EUR");
            organisation
                .Property(o => o.FirstWeekday)
                .HasConversion<string>()
                .HasDefaultValue(DayOfWeek.Monday)
                .HasSentinel(DayOfWeek.Monday);
            organisation.Property(o => o.Calendar).HasDefaultValue("weekdays");
            organisation.Property(o => o.Fields).HasColumnType("jsonb").HasDefaultValueSql("'[]'::jsonb");
        });
        modelBuilder.Entity<FirstStartRow>().ToTable("first_start").Property(f => f.Id).ValueGeneratedNever();
        // The audit trail outlives the people and projects it is about.
        modelBuilder.Entity<AuditRow>().ToTable("audit");
        UseInstants<AuditRow>(modelBuilder);
        UseInstants<SessionRow>(modelBuilder);
        UseInstants<TokenRow>(modelBuilder);
        UseInstants<InvitationRow>(modelBuilder);
        UseInstants<ShareLinkRow>(modelBuilder);
        UseInstants<FeedRow>(modelBuilder);
        UseInstants<ProjectFeedRow>(modelBuilder);
    }

    private static void MakeNotices(ModelBuilder modelBuilder)
    {
        modelBuilder.Entity<NoticeRow>(notice =>
        {
            notice.ToTable("notices").HasOne<PersonRow>().WithMany().HasForeignKey(n => n.PersonId);
            notice.HasOne<ProjectRow>().WithMany().HasForeignKey(n => n.ProjectId);
            notice.HasIndex(n => new { n.PersonId, n.Once }).IsUnique();
            notice.Property(n => n.Kind).HasConversion<string>();
        });
        modelBuilder.Entity<MailRow>(mail =>
        {
            mail.ToTable("mails").HasIndex(m => new { m.State, m.NotBefore });
            mail.Property(m => m.State).HasConversion<string>();
        });
        modelBuilder.Entity<PostRow>().ToTable("post");
        modelBuilder.Entity<ExportRow>(export =>
        {
            export.ToTable("exports").HasOne<PersonRow>().WithMany().HasForeignKey(e => e.PersonId);
            export.HasOne<ProjectRow>().WithMany().HasForeignKey(e => e.ProjectId);
            export.HasIndex(e => e.State);
            export.Property(e => e.State).HasConversion<string>();
        });
        modelBuilder.Entity<WatchRow>(watch =>
        {
            watch.ToTable("watches").HasKey(w => w.ProjectId);
            watch.HasOne<ProjectRow>().WithOne().HasForeignKey<WatchRow>(w => w.ProjectId);
            watch.Property(w => w.Seen).HasColumnType("json");
        });
        modelBuilder.Entity<ProposalRow>(proposal =>
        {
            proposal.ToTable("proposals").HasOne<ProjectRow>().WithMany().HasForeignKey(p => p.ProjectId);
            proposal.HasIndex(p => new { p.ProjectId, p.State });
            proposal.Property(p => p.Edit).HasColumnType("jsonb");
            proposal.Property(p => p.State).HasConversion<string>();
        });
        modelBuilder.Entity<HoursRow>(hours =>
        {
            hours
                .ToTable("hours")
                .HasKey(h => new
                {
                    h.ProjectId,
                    h.TaskId,
                    h.PersonId,
                    h.Day,
                });
            hours.HasIndex(h => new { h.PersonId, h.Day });
            hours.HasOne<ProjectRow>().WithMany().HasForeignKey(h => h.ProjectId);
            hours.Property(h => h.EnteredAt).HasDefaultValueSql("now()");
        });
        modelBuilder.Entity<TimerRow>(timer =>
        {
            timer.ToTable("timers").HasKey(t => t.PersonId);
            timer.HasOne<PersonRow>().WithOne().HasForeignKey<TimerRow>(t => t.PersonId);
            timer.HasOne<ProjectRow>().WithMany().HasForeignKey(t => t.ProjectId);
        });
        UseInstants<HoursRow>(modelBuilder);
        UseInstants<TimerRow>(modelBuilder);
        modelBuilder.Entity<PresenceRow>(presence => presence.ToTable("presence").HasIndex(p => p.ProjectId));
        UseInstants<NoticeRow>(modelBuilder);
        UseInstants<ExportRow>(modelBuilder);
        UseInstants<MailRow>(modelBuilder);
        UseInstants<PostRow>(modelBuilder);
        UseInstants<ProposalRow>(modelBuilder);
        UseInstants<PresenceRow>(modelBuilder);
    }

    /// <summary>All times of a table are in UTC.</summary>
    private static void UseInstants<T>(ModelBuilder modelBuilder)
        where T : class
    {
        var entity = modelBuilder.Entity<T>();
        foreach (
            var time in typeof(T).GetProperties().Where(p => p.PropertyType == typeof(DateTime) || p.PropertyType == typeof(DateTime?))
        )
            entity.Property(time.Name).HasColumnType("timestamp with time zone");
    }

    private static void MakePlans(ModelBuilder modelBuilder)
    {
        modelBuilder.Entity<ProjectRow>(project =>
        {
            // Deleted projects are hidden until they are restored.
            project.HasQueryFilter(p => p.DeletedAt == null);
            project.ToTable("projects").HasOne<FolderRow>().WithMany().HasForeignKey(p => p.FolderId).OnDelete(DeleteBehavior.SetNull);
            project
                .Property(p => p.Status)
                .HasConversion<string>()
                .HasDefaultValue(ProjectStatus.Active)
                .HasSentinel(ProjectStatus.Active);
            project.Property(p => p.Priority).HasDefaultValue(ProjectRow.UsualPriority).HasSentinel(ProjectRow.UsualPriority);
        });
        modelBuilder
            .Entity<FolderRow>()
            .ToTable("folders")
            .HasOne<FolderRow>()
            .WithMany()
            .HasForeignKey(f => f.ParentId)
            .OnDelete(DeleteBehavior.SetNull);
        modelBuilder.Entity<TemplateRow>().ToTable("templates");
        modelBuilder.Entity<ProjectsViewRow>(view =>
        {
            view.ToTable("projects_views").HasKey(v => v.PersonId);
            view.HasOne<PersonRow>().WithOne().HasForeignKey<ProjectsViewRow>(v => v.PersonId);
            view.Property(v => v.Content).HasColumnType("jsonb");
        });
        modelBuilder.Entity<ChanceRow>(chance =>
        {
            chance.ToTable("chances").HasKey(c => c.PlanId);
            chance.HasOne<PlanRow>().WithOne().HasForeignKey<ChanceRow>(c => c.PlanId);
        });
        modelBuilder.Entity<PlanRow>(plan =>
        {
            plan.ToTable("plans").HasOne<ProjectRow>().WithMany().HasForeignKey(p => p.ProjectId);
            plan.Property(p => p.Kind).HasConversion<string>();
            plan.HasIndex(p => p.ProjectId);
            plan.HasIndex(p => p.ProjectId, "live").HasDatabaseName("ix_plans_live").IsUnique().HasFilter("kind = 'Live'");
            plan.Property(p => p.FloatTo).HasConversion<string>();
            plan.Property(p => p.ScheduleFrom).HasConversion<string>().HasDefaultValue(ScheduleFrom.Start).HasSentinel(ScheduleFrom.Start);
            plan.Property(p => p.Calendars).HasColumnType("jsonb");
            plan.Property(p => p.Periods).HasColumnType("jsonb").HasDefaultValueSql("'[]'::jsonb");
            plan.Property(p => p.Fields).HasColumnType("jsonb").HasDefaultValueSql("'[]'::jsonb");
        });
        modelBuilder.Entity<TaskRow>(task =>
        {
            task.ToTable("tasks").HasKey(t => new { t.PlanId, t.Id });
            task.HasOne<PlanRow>().WithMany().HasForeignKey(t => t.PlanId);
            task.Property(t => t.Facts).HasColumnType("jsonb");
            task.Property(t => t.ConstraintKind).HasConversion<string>();
            task.Property(t => t.Hands).HasConversion<string>();
            // Defaults for rows that were written before these columns existed.
            task.Property(t => t.Active).HasDefaultValue(true).HasSentinel(true);
            task.Property(t => t.Splits).HasDefaultValue("");
            task.Property(t => t.Assignments).HasColumnType("jsonb");
            task.Property(t => t.Checklist).HasColumnType("jsonb").HasDefaultValueSql("'[]'::jsonb");
            task.Property(t => t.WebReferences).HasColumnType("jsonb").HasDefaultValueSql("'[]'::jsonb");
            task.Property(t => t.Repeats).HasColumnType("jsonb");
        });
        modelBuilder.Entity<LinkRow>(link =>
        {
            link.ToTable("links")
                .HasKey(l => new
                {
                    l.PlanId,
                    l.From,
                    l.To,
                });
            link.Property(l => l.Kind).HasConversion<string>().HasDefaultValue(LinkKind.FinishToStart).HasSentinel(LinkKind.FinishToStart);
            link.HasOne<PlanRow>().WithMany().HasForeignKey(l => l.PlanId);
        });
        modelBuilder.Entity<KeptBaselineRow>(baseline =>
        {
            baseline.ToTable("baselines").HasKey(b => new { b.PlanId, b.Id });
            baseline.HasOne<PlanRow>().WithMany().HasForeignKey(b => b.PlanId);
        });
        modelBuilder.Entity<ProjectedPlanRow>(plan =>
        {
            plan.ToTable("projected_plans").HasKey(p => p.PlanId);
            plan.HasOne<PlanRow>().WithOne().HasForeignKey<ProjectedPlanRow>(p => p.PlanId);
        });
        modelBuilder.Entity<ProjectedTaskRow>(task =>
        {
            task.ToTable("projected_tasks").HasKey(t => new { t.PlanId, t.TaskId });
            task.HasOne<ProjectedPlanRow>().WithMany().HasForeignKey(t => t.PlanId);
            task.HasIndex(t => t.People).HasMethod("gin");
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
        modelBuilder.Entity<ViewRow>(view =>
        {
            view.ToTable("views").HasKey(l => new { l.ProjectId, l.PersonId });
            view.HasOne<ProjectRow>().WithMany().HasForeignKey(l => l.ProjectId);
            view.Property(l => l.Content).HasColumnType("jsonb");
        });
        modelBuilder.Entity<JournalRow>(entry =>
        {
            entry.ToTable("journal").HasOne<PlanRow>().WithMany().HasForeignKey(j => j.PlanId);
            entry.HasIndex(j => new { j.PlanId, j.Version }).IsUnique();
            entry.HasIndex(j => new { j.PlanId, j.EditId }).IsUnique();
            entry.HasIndex(j => new
            {
                j.PlanId,
                j.PersonId,
                j.Version,
            });
            entry
                .HasIndex(j => new { j.PlanId, j.Version }, "takings")
                .HasDatabaseName("ix_journal_takings")
                .HasFilter("takes_back is not null");
            entry.HasIndex(j => j.Tasks).HasMethod("gin");
            entry.Property(j => j.Tasks).HasDefaultValueSql("'{}'");
            entry.Property(j => j.At).HasColumnType("timestamp with time zone");
            entry.Property(j => j.Edit).HasColumnType("jsonb");
            entry.Property(j => j.Inverse).HasColumnType("jsonb");
            entry.Property(j => j.Sentence).HasColumnType("jsonb");
            // Only ever read as a whole: kept as the text it is.
            entry.Property(j => j.Moves).HasColumnType("json");
        });
    }
}

/// <summary>Somebody on the live plan of a project.</summary>
internal sealed class LiveMember
{
    public Guid ProjectId { get; init; }

    public required string PersonId { get; init; }
}
