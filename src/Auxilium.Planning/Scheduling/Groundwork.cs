using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Scheduling;

/// <summary>
/// What is known of a plan before its dates: its facts and its network. An edit of a length or a date leaves most of it as it was,
/// so plans that come of one another share it.
/// </summary>
internal sealed class Groundwork
{
    private readonly Plan _plan;
    private readonly LinkEnds _ends;

    private Groundwork(Plan plan, TaskInputs facts, Network network)
    {
        (_plan, _ends, Facts, Network) = (plan, plan.LinkEnds, facts, network);
    }

    public TaskInputs Facts { get; }

    public Network Network { get; }

    /// <param name="plan">The plan.</param>
    /// <param name="known">The groundwork of a plan that this one may have come of.</param>
    /// <exception cref="UnsoundPlanException">The links go round in a circle, or a task has no time to be worked in.</exception>
    public static Groundwork Of(Plan plan, Groundwork? known)
    {
        var like = known is not null && known.HasSameRows(plan);
        var facts = like ? TaskInputs.Of(plan, known!._plan, known.Facts) : TaskInputs.Of(plan);
        var network = like && ReferenceEquals(known!._ends, plan.LinkEnds) ? known.Network.With(facts) : Network.Of(plan, facts);
        return like && ReferenceEquals(facts, known!.Facts) && ReferenceEquals(network, known.Network)
            ? known
            : new Groundwork(plan, facts, network);
    }

    /// <summary>The same, with facts to be changed apart from these.</summary>
    public Groundwork Copy() => Facts.Copy() is var facts ? new(_plan, facts, Network.With(facts)) : this;

    /// <summary>Whether rows, and what their facts depend on besides themselves, are the same, and all took part and do.</summary>
    private bool HasSameRows(Plan plan)
    {
        var (a, b) = (_plan.Project, plan.Project);
        var same =
            plan.Index.Outline == _plan.Index.Outline
            && plan.People == _plan.People
            && plan.Calendars == _plan.Calendars
            && a.Calendar == b.Calendar
            && a.Units == b.Units
            && a.ScheduleFrom == b.ScheduleFrom
            && a.Anchor == b.Anchor;
        if (!same)
            return false;
        if (plan.Tasks == _plan.Tasks)
            return true;
        if ((Facts.Any & TaskTraits.Off) != 0)
            return false;
        for (var row = 0; row < plan.Tasks.Length; row++)
            if (!ReferenceEquals(plan.Tasks[row], _plan.Tasks[row]) && !plan.Tasks[row].Active)
                return false;
        return true;
    }
}
