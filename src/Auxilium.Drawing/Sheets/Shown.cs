namespace Auxilium.Drawing.Sheets;

/// <summary>What of a plan is drawn besides the names and dates of its rows.</summary>
[Flags]
public enum Shown
{
    Nothing = 0,

    /// <summary>How far tasks are, and their states.</summary>
    States = 1,

    /// <summary>What sets the finish, and how much the rest has to spare.</summary>
    Spare = 2,

    Deadlines = 4,
    Links = 8,
    Owners = 16,

    /// <summary>Where the measure has them.</summary>
    Planned = 32,

    /// <summary>Which dates are fixed.</summary>
    Fixed = 64,

    /// <summary>Which lengths are guesses.</summary>
    Guesses = 128,
    All = States | Spare | Deadlines | Links | Owners | Planned | Fixed | Guesses,
}
