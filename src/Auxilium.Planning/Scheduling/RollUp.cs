using Auxilium.Planning.Calendars;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Scheduling;

/// <summary>Dates, length, progress and criticality of phases from their leaves (rules P1–P3).</summary>
internal static class RollUp
{
    public static void Fill(Schedule schedule, TaskInputs facts)
    {
        var plan = schedule.Plan;
        var index = plan.Index;
        var count = index.Count;
        // By row, and one more for the whole project: weighted work done, work, leaves finished, leaves.
        using var scratch = new Scratch<(double Done, double Work, int Finished, int Leaves)>(count + 1);
        var sums = scratch.Array;
        for (var row = count - 1; row >= 0; row--)
        {
            if (facts.IsOff(row))
                continue;
            if (facts.IsLeaf(row))
            {
                var traits = facts.Traits[row];
                var progress =
                    (traits & TaskTraits.Finished) != 0 ? 1
                    : (traits & TaskTraits.Progress) != 0 ? (double)plan.Tasks[row].Progress
                    : 0;
                sums[row] = (facts.Lengths[row] * progress, facts.Lengths[row], progress >= 1 ? 1 : 0, 1);
                schedule.Progresses[row] = (float)progress;
            }
            else
            {
                schedule.Progresses[row] = (float)Share(sums[row]);
            }
            var parent = index.ParentOf(row);
            ref var up = ref sums[parent < 0 ? count : parent];
            var first = up.Leaves == 0;
            up = (up.Done + sums[row].Done, up.Work + sums[row].Work, up.Finished + sums[row].Finished, up.Leaves + sums[row].Leaves);
            if (parent < 0)
                continue;
            schedule.Starts[parent] = first ? schedule.Starts[row] : PlanTime.Min(schedule.Starts[parent], schedule.Starts[row]);
            schedule.Finishes[parent] = first ? schedule.Finishes[row] : PlanTime.Max(schedule.Finishes[parent], schedule.Finishes[row]);
            schedule.Criticals[parent] = schedule.Criticals[row] || (!first && schedule.Criticals[parent]);
        }
        schedule.Progress = Share(sums[count]);
    }

    private static double Share((double Done, double Work, int Finished, int Leaves) sum) =>
        sum.Work > 0 ? sum.Done / sum.Work
        : sum.Leaves > 0 ? (double)sum.Finished / sum.Leaves
        : 0;
}
