using System.Text.Json;
using Auxilium.Storage.Access;
using Auxilium.Storage.Exports;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Auxilium.Web.Api;
using Quartz;

namespace Auxilium.Web.Notices;

/// <summary>Makes the files that people have asked for, one after another, and says how far each is.</summary>
[DisallowConcurrentExecution]
internal sealed class ExportJob(
    OneRunner runner,
    ExportShelf shelf,
    PlanStore store,
    ProjectRoles roles,
    Storage.People.Directory directory,
    Handouts handouts,
    ILogger<ExportJob> logger
) : IJob
{
    private const int Number = 5;
    private static readonly TimeSpan Often = TimeSpan.FromMilliseconds(500);

    public async ValueTask Execute(IJobExecutionContext context, CancellationToken cancellationToken) => await RunAsync(cancellationToken);

    internal Task RunAsync(CancellationToken cancel) =>
        runner.RunAsync(
            Number,
            async () =>
            {
                while (await shelf.ClaimAsync(cancel) is { } wanted)
                    await MakeAsync(wanted, cancel);
            },
            cancel
        );

    private async Task MakeAsync(ExportRow wanted, CancellationToken stop)
    {
        // Cancelled by whoever asked, or because the process stops: then another begins anew.
        using var cancel = CancellationTokenSource.CreateLinkedTokenSource(stop);
        var (drawn, pages) = (0, 0);
        var making = Task.Run(() => WriteAsync(wanted, (done, of) => (drawn, pages) = (done, of), cancel.Token), CancellationToken.None);
        while (await Task.WhenAny(making, Task.Delay(Often, CancellationToken.None)) != making)
            if (!await shelf.HearAsync(wanted.Id, drawn, pages, stop))
                await cancel.CancelAsync();
        try
        {
            var (content, problem) = await making;
            await shelf.HearAsync(wanted.Id, pages, pages, stop);
            await shelf.EndAsync(wanted.Id, content, problem, stop);
        }
        catch (OperationCanceledException) when (!stop.IsCancellationRequested)
        {
            // Nobody wants it any more.
        }
    }

    private async Task<(byte[]? Content, string? Problem)> WriteAsync(
        ExportRow wanted,
        Action<int, int> progress,
        CancellationToken cancel
    )
    {
        try
        {
            var query = JsonSerializer.Deserialize<ExportQuery>(wanted.Query)!;
            if (
                await roles.NowAsync(wanted.ProjectId, wanted.PersonId, cancel) == ProjectRole.None
                || await store.LoadAsync(wanted.ProjectId, cancel) is not { } plan
            )
                return (null, "The project is no longer there for you.");
            var who = await directory.FindAsync(wanted.PersonId, cancel);
            var account = (await directory.AccountsAsync(cancel)).GetValueOrDefault(wanted.PersonId);
            var handout = await handouts.OfAsync(query, plan, who?.Name, null, cancel, (wanted.PersonId, account?.IsOrganiser == true));
            return (query.Wanted.Write(handout, progress, cancel).Content, null);
        }
        catch (ExportProblem problem)
        {
            return (null, problem.Message);
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            logger.LogError(e, "A file could not be made.");
            return (null, "Something went wrong here: export it again, or fewer rows of it.");
        }
    }
}
