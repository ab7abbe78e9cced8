using Auxilium.Planning.Editing;
using Auxilium.Planning.Words;
using Auxilium.Storage;
using Auxilium.Storage.Exports;
using Auxilium.Storage.Money;
using Auxilium.Storage.Notices;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Tracking;
using Auxilium.Web.Mail;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Quartz;

namespace Auxilium.Web.Notices;

/// <summary>
/// What is done beside the requests: notifying people, sending mails, the daily mail, cleaning up. Every process has the
/// scheduler, and a lock in the database lets one at a time do each job.
/// </summary>
internal static class Jobs
{
    private static readonly TimeSpan Often = TimeSpan.FromSeconds(3);

    /// <summary>Somebody looks on while a file is made.</summary>
    private static readonly TimeSpan Soon = TimeSpan.FromSeconds(1);

    /// <summary>How often to check whether the daily jobs are due.</summary>
    private static readonly TimeSpan Daily = TimeSpan.FromMinutes(1);

    public static void Add(IServiceCollection services)
    {
        services.AddSingleton<OneRunner>();
        services.AddQuartz(quartz =>
        {
            Every<WatchJob>(quartz, trigger => trigger.WithSimpleSchedule(s => s.WithInterval(Often).RepeatForever()));
            Every<MailJob>(quartz, trigger => trigger.WithSimpleSchedule(s => s.WithInterval(Often).RepeatForever()));
            Every<ChanceJob>(quartz, trigger => trigger.WithSimpleSchedule(s => s.WithInterval(Often).RepeatForever()));
            Every<ExportJob>(quartz, trigger => trigger.WithSimpleSchedule(s => s.WithInterval(Soon).RepeatForever()));
            Every<DayJob>(quartz, trigger => trigger.WithSimpleSchedule(s => s.WithInterval(Daily).RepeatForever()));
        });
        services.AddQuartzHostedService(options => options.WaitForJobsToComplete = true);
    }

    private static void Every<T>(IQuartzBuilder quartz, Action<ITriggerConfigurator<T>> when)
        where T : class, IJob =>
        quartz.ScheduleJob<T>(trigger =>
        {
            trigger.StartNow();
            when(trigger);
        });
}

/// <summary>Lets one process at a time do a job.</summary>
internal sealed class OneRunner(IDbContextFactory<AuxiliumDb> databases, ILogger<OneRunner> logger)
{
    internal const int Space = 0x4175;

    /// <param name="job">Number of the job.</param>
    /// <param name="work">What to do.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task RunAsync(int job, Func<Task> work, CancellationToken cancel)
    {
        try
        {
            await using var db = await databases.CreateDbContextAsync(cancel);
            // The lock belongs to the connection: it is released with it when the process dies.
            await db.Database.OpenConnectionAsync(cancel);
            var isOurs = (
                await db.Database.SqlQuery<bool>($"""select pg_try_advisory_lock({Space}, {job}) as "Value" """).ToListAsync(cancel)
            )[0];
            if (!isOurs)
                return;
            try
            {
                await work();
            }
            finally
            {
                await db.Database.ExecuteSqlAsync($"select pg_advisory_unlock({Space}, {job})", CancellationToken.None);
            }
        }
        catch (OperationCanceledException)
        {
            // The process stops; the job runs the next time.
        }
        catch (Exception e) when (e is NpgsqlException or InvalidOperationException { InnerException: NpgsqlException })
        {
            logger.LogWarning("A job waits for the database: {Message}", e.Message);
        }
    }
}

/// <summary>Tells people what became of their tasks.</summary>
[DisallowConcurrentExecution]
internal sealed class WatchJob(OneRunner runner, NoticeWatch watch, OwnTimes times, Today today) : IJob
{
    internal const int Number = 1;

    public async ValueTask Execute(IJobExecutionContext context, CancellationToken cancellationToken) =>
        await runner.RunAsync(
            Number,
            async () =>
            {
                Dates.SpeakOn(today.Date);
                await times.CatchUpAsync(today.Date, cancellationToken);
                await watch.LookAsync(today.Date, cancellationToken);
            },
            cancellationToken
        );
}

/// <summary>Sends the mails that are due.</summary>
[DisallowConcurrentExecution]
internal sealed class MailJob(OneRunner runner, Mails mails, MailServer server, OwnAddress address) : IJob
{
    internal const int Number = 2;

    public async ValueTask Execute(IJobExecutionContext context, CancellationToken cancellationToken) =>
        await runner.RunAsync(
            Number,
            async () =>
            {
                while (await mails.ClaimAsync(cancellationToken) is { } mail)
                {
                    // A claimed mail is not interrupted: nobody would know whether it was sent.
                    if (
                        await server.SendAsync(
                            mail.Id,
                            mail.To,
                            mail.Subject,
                            mail.Body.Replace(Mails.Address, address.Of(""), StringComparison.Ordinal),
                            mail.Attachment is { } pdf ? (mail.AttachmentName ?? "Auxilium.pdf", pdf) : null,
                            CancellationToken.None
                        )
                        is not var (why, fate)
                    )
                        await mails.SentAsync(mail.Id, CancellationToken.None);
                    else if (fate == MailFate.MayHaveGone)
                        await mails.MayHaveGoneAsync(mail.Id, why, CancellationToken.None);
                    else
                        await mails.RefusedAsync(mail, why, fate == MailFate.Refused, CancellationToken.None);
                }
            },
            cancellationToken
        );
}

/// <summary>Works out how likely plans keep their deadlines.</summary>
[DisallowConcurrentExecution]
internal sealed class ChanceJob(OneRunner runner, Chances chances) : IJob
{
    public async ValueTask Execute(IJobExecutionContext context, CancellationToken cancellationToken) =>
        await runner.RunAsync(4, async () => await chances.RefreshAsync(cancellationToken), cancellationToken);
}

/// <summary>
/// Once a day, from seven in the morning in the organisation's time zone: writes the daily mail, and deletes what is no longer needed.
/// When no process runs at that hour, it is done as soon as one does.
/// </summary>
[DisallowConcurrentExecution]
internal sealed class DayJob(
    OneRunner runner,
    Organisation organisation,
    NoticeBook notices,
    Mails mails,
    ClosedProjects closed,
    ExportShelf exports,
    Receipts receipts,
    WeeklyMail weekly,
    OwnAddress address,
    TimeProvider clock
) : IJob
{
    private const int Hour = 7;

    public async ValueTask Execute(IJobExecutionContext context, CancellationToken cancellationToken) => await RunAsync(cancellationToken);

    internal Task RunAsync(CancellationToken cancel) =>
        runner.RunAsync(
            3,
            async () =>
            {
                var now = clock.GetLocalNow();
                if (now.Hour < Hour || !await organisation.BeginDigestAsync(DateOnly.FromDateTime(now.DateTime), cancel))
                    return;
                await notices.DigestAsync(address.Of, cancel);
                await weekly.WriteAsync(DateOnly.FromDateTime(now.DateTime), cancel);
                await mails.ClearAsync(cancel);
                await closed.ClearAsync(cancel);
                await exports.ClearAsync(cancel);
                await receipts.ClearAsync(cancel);
            },
            cancel
        );
}
