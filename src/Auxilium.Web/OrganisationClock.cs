using Auxilium.Storage.People;

namespace Auxilium.Web;

/// <summary>
/// The organisation's wall clock: the time of the server, in the organisation's time zone. What day it is, and what hour
/// people read, goes by it on every server alike.
/// </summary>
/// <param name="world">Tells the time.</param>
/// <param name="organisation">Knows the organisation's time zone; resolved late, since the clock is needed before the database.</param>
public sealed class OrganisationClock(TimeProvider world, Lazy<Organisation> organisation) : TimeProvider
{
    /// <summary>The key under which the system clock is registered.</summary>
    public const string World = "world";

    private volatile TimeZoneInfo _zone = world.LocalTimeZone;

    public override TimeZoneInfo LocalTimeZone => _zone;

    public override long TimestampFrequency => world.TimestampFrequency;

    public override DateTimeOffset GetUtcNow() => world.GetUtcNow();

    public override long GetTimestamp() => world.GetTimestamp();

    public override ITimer CreateTimer(TimerCallback callback, object? state, TimeSpan dueTime, TimeSpan period) =>
        world.CreateTimer(callback, state, dueTime, period);

    /// <summary>The moment, in UTC, at which a day of the organisation ends.</summary>
    public DateTime EndOf(DateOnly day)
    {
        var midnight = day.AddDays(1).ToDateTime(TimeOnly.MinValue);
        // Where clocks go forward at midnight, the day begins an hour later.
        while (_zone.IsInvalidTime(midnight))
            midnight = midnight.AddMinutes(15);
        return TimeZoneInfo.ConvertTimeToUtc(midnight, _zone);
    }

    /// <summary>The moment, in UTC, that the wall clock shows.</summary>
    public DateTime ToUtc(DateTime wall)
    {
        while (_zone.IsInvalidTime(wall))
            wall = wall.AddMinutes(15);
        return TimeZoneInfo.ConvertTimeToUtc(DateTime.SpecifyKind(wall, DateTimeKind.Unspecified), _zone);
    }

    /// <summary>Takes the time zone that the organisation has now.</summary>
    public async Task RefreshAsync(CancellationToken cancel = default)
    {
        organisation.Value.Forget();
        _zone = Find((await organisation.Value.FindAsync(cancel))?.TimeZone) ?? world.LocalTimeZone;
    }

    /// <summary>A zone by its name; <c>null</c> where there is none.</summary>
    public static TimeZoneInfo? Find(string? name) =>
        name is not null && TimeZoneInfo.TryFindSystemTimeZoneById(name, out var zone) ? zone : null;
}
