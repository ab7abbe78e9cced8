using Auxilium.Planning.Tracking;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Tracking;

/// <summary>A timer that runs.</summary>
/// <param name="StartedAt">In UTC.</param>
public sealed record RunningTimer(Guid Project, string ProjectName, string Task, string TaskName, DateTime StartedAt);

/// <summary>What became of a timer that was stopped.</summary>
/// <param name="Timer">Which it was.</param>
/// <param name="Booked">The minutes it added to each day.</param>
/// <param name="IsForgotten">It ran too long to be true, and goes on until somebody says how long it really was.</param>
/// <param name="Left">Minutes that it could not add, since the days have no room for them.</param>
public sealed record StoppedTimer(RunningTimer Timer, IReadOnlyList<(DateOnly Day, int Minutes)> Booked, bool IsForgotten, int Left);

/// <summary>Timers of people: one each, wherever it was started (rule H2).</summary>
public sealed class Timers(IDbContextFactory<AuxiliumDb> databases, TimeProvider clock)
{
    /// <summary>Beyond so many minutes it was forgotten rather than worked.</summary>
    public const int LongestMinutes = 16 * 60;

    /// <summary>The timer that somebody runs; <c>null</c> where none does.</summary>
    public async Task<RunningTimer?> OfAsync(string person, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await FindAsync(db, person, cancel);
    }

    /// <summary>Starts a timer; one that runs on another task is stopped and adds its minutes.</summary>
    /// <returns>The one that ran before; forgotten where that has to be answered first, so that nothing was started.</returns>
    public async Task<StoppedTimer?> StartAsync(
        string person,
        Guid project,
        string task,
        string taskName,
        CancellationToken cancel = default
    )
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await Hours.LockAsync(db, person, cancel);
        var before = await FindAsync(db, person, cancel);
        // Pressed in two windows at once, it goes on.
        if (before is not null && before.Project == project && before.Task == task)
            return null;
        var stopped = before is null ? null : await StopAsync(db, person, before, null, cancel);
        if (stopped?.IsForgotten == true)
            return stopped;
        db.Timers.Add(
            new TimerRow
            {
                PersonId = person,
                ProjectId = project,
                TaskId = task,
                TaskName = taskName,
                StartedAt = clock.GetUtcNow().UtcDateTime,
            }
        );
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return stopped;
    }

    /// <summary>Stops a timer, which adds its minutes to the days it ran on.</summary>
    /// <param name="person">Whose.</param>
    /// <param name="minutes">How long they really worked, where that is something else; all of it on the day it was started.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <returns><c>null</c> where none ran.</returns>
    public async Task<StoppedTimer?> StopAsync(string person, int? minutes = null, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await Hours.LockAsync(db, person, cancel);
        if (await FindAsync(db, person, cancel) is not { } timer)
            return null;
        var stopped = await StopAsync(db, person, timer, minutes, cancel);
        await transaction.CommitAsync(cancel);
        return stopped;
    }

    /// <summary>The minutes between two moments by the days they lie on: at each midnight of the zone they are split.</summary>
    /// <param name="from">In UTC.</param>
    /// <param name="to">In UTC, later.</param>
    /// <param name="zone">Where days begin and end.</param>
    public static IReadOnlyList<(DateOnly Day, int Minutes)> Split(DateTime from, DateTime to, TimeZoneInfo zone)
    {
        var days = new List<(DateOnly, int)>();
        var (start, done) = (from, 0);
        while (start < to)
        {
            var day = DateOnly.FromDateTime(TimeZoneInfo.ConvertTimeFromUtc(start, zone));
            var midnight = day.AddDays(1).ToDateTime(TimeOnly.MinValue);
            // Where clocks go forward at midnight, the day begins later.
            while (zone.IsInvalidTime(midnight))
                midnight = midnight.AddMinutes(15);
            var end = TimeZoneInfo.ConvertTimeToUtc(midnight, zone) is var next && next < to ? next : to;
            // Each day has what is whole so far, so that nothing of the sum is lost to rounding.
            var whole = (int)Math.Round((end - from).TotalMinutes);
            if (whole > done)
                days.Add((day, whole - done));
            (start, done) = (end, whole);
        }
        return days;
    }

    private async Task<StoppedTimer> StopAsync(AuxiliumDb db, string person, RunningTimer timer, int? minutes, CancellationToken cancel)
    {
        var now = clock.GetUtcNow().UtcDateTime;
        if (minutes is null && (now - timer.StartedAt).TotalMinutes > LongestMinutes)
            return new StoppedTimer(timer, [], true, 0);
        var days = Split(timer.StartedAt, now, clock.LocalTimeZone);
        if (minutes is { } said)
            days = said == 0 ? [] : [(DateOnly.FromDateTime(TimeZoneInfo.ConvertTimeFromUtc(timer.StartedAt, clock.LocalTimeZone)), said)];
        var booked = new List<(DateOnly, int)>();
        var left = 0;
        foreach (var (day, worked) in days)
        {
            var known = await db
                .Hours.Where(h => h.PersonId == person && h.Day == day)
                .Select(h => new
                {
                    h.ProjectId,
                    h.TaskId,
                    h.Minutes,
                })
                .ToListAsync(cancel);
            var added = Math.Min(worked, WorkedHours.MostMinutesADay - known.Sum(h => h.Minutes));
            left += worked - Math.Max(0, added);
            if (added <= 0)
                continue;
            var here = known.SingleOrDefault(h => h.ProjectId == timer.Project && h.TaskId == timer.Task)?.Minutes ?? 0;
            var entry = new WorkedHours(timer.Task, person, day, here + added);
            await Hours.WriteAsync(db, timer.Project, timer.TaskName, entry, person, now, cancel);
            booked.Add((day, added));
        }
        await db.Timers.Where(t => t.PersonId == person).ExecuteDeleteAsync(cancel);
        return new StoppedTimer(timer, booked, false, left);
    }

    private static Task<RunningTimer?> FindAsync(AuxiliumDb db, string person, CancellationToken cancel) =>
        (
            from timer in db.Timers
            join project in db.Projects on timer.ProjectId equals project.Id
            where timer.PersonId == person
            select new RunningTimer(project.Id, project.Name, timer.TaskId, timer.TaskName, timer.StartedAt)
        ).SingleOrDefaultAsync(cancel);
}
