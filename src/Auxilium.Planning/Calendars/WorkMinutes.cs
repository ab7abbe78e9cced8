namespace Auxilium.Planning.Calendars;

/// <summary>A signed number of working minutes of some calendar.</summary>
public readonly record struct WorkMinutes(int Count) : IComparable<WorkMinutes>
{
    public static WorkMinutes Zero => default;

    public int CompareTo(WorkMinutes other) => Count.CompareTo(other.Count);

    public static WorkMinutes operator -(WorkMinutes a) => new(-a.Count);

    public static WorkMinutes operator +(WorkMinutes a, WorkMinutes b) => new(a.Count + b.Count);

    public static bool operator <(WorkMinutes a, WorkMinutes b) => a.Count < b.Count;

    public static bool operator >(WorkMinutes a, WorkMinutes b) => a.Count > b.Count;

    public static bool operator <=(WorkMinutes a, WorkMinutes b) => a.Count <= b.Count;

    public static bool operator >=(WorkMinutes a, WorkMinutes b) => a.Count >= b.Count;
}
