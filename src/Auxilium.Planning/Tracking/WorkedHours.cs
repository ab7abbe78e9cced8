namespace Auxilium.Planning.Tracking;

/// <summary>How long somebody worked on a task on a day (rule H1).</summary>
/// <param name="Task">Id of the task, which may have left the plan since.</param>
/// <param name="Person">Id of the person, who may have left too.</param>
/// <param name="Minutes">Above 0.</param>
public readonly record struct WorkedHours(string Task, string Person, DateOnly Day, int Minutes)
{
    /// <summary>A person works at most so long on a day, on everything together.</summary>
    public const int MostMinutesADay = 24 * 60;
}
