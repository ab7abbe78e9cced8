using Auxilium.Planning.Tracking;

namespace Auxilium.Planning.Words;

/// <summary>States as people say them.</summary>
public static class StateText
{
    /// <summary>Such as “Late to start”.</summary>
    public static string Of(TaskState state) =>
        state switch
        {
            TaskState.Waiting => "Waiting",
            TaskState.Ready => "Ready",
            TaskState.UnderWay => "Under way",
            TaskState.LateToStart => "Late to start",
            TaskState.Overdue => "Overdue",
            _ => "Done",
        };
}
