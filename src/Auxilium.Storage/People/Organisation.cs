using Auxilium.Planning.Words;
using Auxilium.Storage.Access;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.People;

/// <summary>The organisation that this installation is for.</summary>
public sealed class Organisation(IDbContextFactory<AuxiliumDb> databases)
{
    private volatile OrganisationRow? _known;

    /// <summary>What it is called; <c>null</c> until somebody has made it.</summary>
    public async Task<OrganisationRow?> FindAsync(CancellationToken cancel = default)
    {
        if (_known is { } known)
            return known;
        await using var db = await databases.CreateDbContextAsync(cancel);
        return _known = await db.Organisation.AsNoTracking().SingleOrDefaultAsync(cancel);
    }

    /// <summary>Reads it again next time: its name or its time zone changed.</summary>
    public void Forget() => _known = null;

    /// <summary>Changes what everything in it goes by.</summary>
    /// <returns>What changed, in words; empty if nothing did.</returns>
    public async Task<string> ChangeAsync(OrganisationSettings now, string by, TimeProvider clock, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var row = await db.Organisation.SingleAsync(cancel);
        List<string> what =
        [
            .. new[]
            {
                row.Name == now.Name ? null : $"the name “{now.Name}”",
                row.TimeZone == now.TimeZone ? null : $"the time zone {now.TimeZone}",
                row.Currency == now.Currency ? null : $"the currency {now.Currency}",
                row.VolunteerHour == now.VolunteerHour ? null : "another worth of volunteers’ hours",
                row.FirstWeekday == now.FirstWeekday ? null : $"weeks that start on {now.FirstWeekday}",
                row.Calendar == now.Calendar && row.Holidays == now.Holidays ? null : "the working days of new projects",
                now.Logo is null ? null
                : now.Logo.Length == 0
                    ? row.Logo is null ? null
                        : "no logo"
                : "a logo",
            }.OfType<string>(),
        ];
        if (what.Count == 0)
            return "";
        (row.Name, row.TimeZone, row.Currency, row.FirstWeekday, row.Calendar, row.Holidays) = (
            now.Name,
            now.TimeZone,
            now.Currency,
            now.FirstWeekday,
            now.Calendar,
            now.Holidays
        );
        row.VolunteerHour = now.VolunteerHour;
        if (now.Logo is { } logo)
            row.Logo = logo.Length == 0 ? null : logo;
        var words = ListText.Listed(what);
        Audit.Note(db, clock, by, null, null, $"{await Audit.NameAsync(db, by, cancel)} gave the organisation {words}.");
        await db.SaveChangesAsync(cancel);
        await PlanNews.TellAsync(db, PlanNews.Organisation, cancel);
        await transaction.CommitAsync(cancel);
        Forget();
        return words;
    }

    /// <summary>Claims the daily mail of a day for this process; false if another has it.</summary>
    public async Task<bool> BeginDigestAsync(DateOnly day, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db
                .Organisation.Where(o => o.DigestOn == null || o.DigestOn < day)
                .ExecuteUpdateAsync(o => o.SetProperty(x => x.DigestOn, day), cancel) > 0;
    }

    /// <summary>
    /// The code that opens the page on which the organisation is made, the same for every process; <c>null</c> once there is one.
    /// </summary>
    public async Task<string?> FirstStartAsync(CancellationToken cancel = default)
    {
        if (await FindAsync(cancel) is not null)
            return null;
        await using var db = await databases.CreateDbContextAsync(cancel);
        var code = string.Join('-', Secret.Code().Chunk(4).Select(c => new string(c)));
        await db.Database.ExecuteSqlAsync($"insert into first_start (id, code) values (1, {code}) on conflict (id) do nothing", cancel);
        return await db.FirstStart.Select(f => f.Code).SingleAsync(cancel);
    }

    /// <summary>Makes it, within the transaction in which its first person is made.</summary>
    /// <returns><c>false</c> when there is one already, or this is not the code that opens it.</returns>
    public static async Task<bool> MakeAsync(AuxiliumDb db, string name, string code, CancellationToken cancel = default)
    {
        var known = await db
            .FirstStart.FromSql($"select * from first_start where id = 1 for update")
            .AsNoTracking()
            .SingleOrDefaultAsync(cancel);
        if (known is null || !Secret.IsSame(known.Code, code))
            return false;
        await db.FirstStart.ExecuteDeleteAsync(cancel);
        return await db.Database.ExecuteSqlAsync(
                $"insert into organisation (id, name, is_demo) values (1, {name}, false) on conflict (id) do nothing",
                cancel
            ) == 1;
    }
}

/// <summary>What everything in an organisation goes by.</summary>
/// <param name="TimeZone">As the time zone database names it, such as <c>Europe/Berlin</c>.</param>
/// <param name="Currency">As banks write it: EUR.</param>
/// <param name="FirstWeekday">Weeks begin with it, where nobody chose another day.</param>
/// <param name="Calendar">Id of the ready-made calendar that new projects work by.</param>
/// <param name="Holidays">Id of the public holidays that new projects keep; <c>null</c> for none.</param>
/// <param name="VolunteerHour">What an hour of a volunteer is worth; <c>null</c> where that is not told.</param>
/// <param name="Logo">A PNG or JPEG picture; empty to take it away, <c>null</c> to leave it as it is.</param>
public sealed record OrganisationSettings(
    string Name,
    string TimeZone,
    string Currency,
    DayOfWeek FirstWeekday,
    string Calendar,
    string? Holidays,
    byte[]? Logo = null,
    decimal? VolunteerHour = null
);
