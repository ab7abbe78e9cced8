using System.Text;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Facts;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Exchange.Files;

/// <summary>
/// A plan document as a list: the rows of its plan for one that is open. What only a whole plan has, such as calendars and baselines, is
/// not in it.
/// </summary>
internal static class PlanDocumentFile
{
    private static readonly string[] Usual = ["no", "name", "owner", "length", "after", "start", "finish", "progress", "deadline", "note"];

    /// <exception cref="FileRefusedException">It is no sound plan document.</exception>
    public static string Read(string name, ReadOnlyMemory<byte> content, CancellationToken cancel)
    {
        try
        {
            var plan = PlanDocumentReader.Read(content, cancel);
            // A row is known again by what it is called there, where nothing else is said.
            plan = plan with
            {
                Tasks =
                [
                    .. plan.Tasks.Select(task =>
                        task.Facts[PlainFacts.SourceId] is null
                            ? task with
                            {
                                Facts = task.Facts.With(PlainFacts.SourceId, task.Id),
                            }
                            : task
                    ),
                ],
            };
            var facts = PlainFacts.All.Where(fact => plan.Tasks.Any(task => !Equals(task.Facts[fact], fact.UsualValue)));
            var wanted = Usual.Concat(facts.Select(fact => fact.Name)).ToHashSet();
            var columns = PlanTable.ColumnsOf(plan).Where(column => wanted.Contains(column.Key) || IsOwn(column)).Select(Needed).ToList();
            var table = new PlanTable(Scheduler.Calculate(plan, cancel), default, columns);
            return Encoding.UTF8.GetString(TableCsv.Write(table, '\t'));
        }
        catch (UnreadableDocumentException unreadable)
        {
            throw new FileRefusedException($"“{name}” is a plan document that cannot be read. {unreadable.Errors[0].Message}");
        }
    }

    /// <summary>
    /// Phases follow from their rows, and the finish from start and length; of what is done, the length from the dates.
    /// </summary>
    private static PlanColumn Needed(PlanColumn column) =>
        column.Key switch
        {
            "start" => Only(column, (_, isLeaf) => isLeaf),
            "finish" => Only(column, (isDone, isLeaf) => isLeaf && isDone),
            "length" => Only(column, (isDone, isLeaf) => isLeaf && !isDone),
            _ => column,
        };

    private static PlanColumn Only(PlanColumn column, Func<bool, bool, bool> isNeeded) =>
        column with
        {
            Of = (table, row) => isNeeded(table.Plan.Tasks[row].IsFinished, table.Schedule.IsLeaf(row)) ? column.Of(table, row) : null,
        };

    private static bool IsOwn(PlanColumn column) => column.Key.StartsWith(OwnFact.Prefix, StringComparison.Ordinal);
}
