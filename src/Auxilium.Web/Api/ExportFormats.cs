using System.Collections.Immutable;
using System.Text;
using Auxilium.Exchange.Calendars;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Tracking;
using Auxilium.Storage.Plans;

namespace Auxilium.Web.Api;

/// <summary>What is handed out of a plan.</summary>
/// <param name="Table">The rows and columns that are meant.</param>
/// <param name="Today">Today.</param>
/// <param name="Now">When it is made, in UTC.</param>
/// <param name="ToUtc">Turns a time of the organisation into UTC.</param>
/// <param name="AddressOf">The address of a task.</param>
/// <param name="Separator">What stands between the cells of CSV.</param>
/// <param name="Marked">Whether CSV begins with a mark that says it is UTF-8.</param>
internal sealed record Handout(
    StoredPlan Plan,
    PlanTable Table,
    DateOnly Today,
    DateTime Now,
    Func<DateTime, DateTime> ToUtc,
    Func<string, string> AddressOf,
    char Separator,
    bool Marked
);

/// <summary>A format that plans are handed out in.</summary>
/// <param name="Name">Its name in addresses.</param>
/// <param name="Ending">How its files end.</param>
/// <param name="Type">Its media type.</param>
internal sealed record ExportFormat(string Name, string Ending, string Type, Func<Handout, byte[]> Write)
{
    /// <summary>Every format. A new one is a line here, and one in the dialog.</summary>
    public static ImmutableArray<ExportFormat> All { get; } =
    [
        new("xlsx", ".xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", handout =>
            PlanWorkbook.Write(handout.Table, handout.Plan.Name)
        ),
        new("csv", ".csv", "text/csv; charset=utf-8", handout => TableCsv.Write(handout.Table, handout.Separator, handout.Marked)),
        new("ics", ".ics", "text/calendar; charset=utf-8", Calendar),
        new("document", ".json", RequestDocument.PlanType, handout => PlanDocumentWriter.Write(handout.Table.Plan)),
    ];

    public static ExportFormat? Find(string? name) => All.FirstOrDefault(format => format.Name == name);

    private static byte[] Calendar(Handout handout)
    {
        var wanted = handout.Table.Rows.Select(row => handout.Table.Plan.Tasks[row].Id).ToHashSet();
        var tasks = Projection
            .Of(handout.Table.Schedule, handout.Today)
            .Tasks.Where(task => task.IsLeaf && task.Start is not null && wanted.Contains(task.Id))
            .Select(task => new CalendarTask(
                $"{task.Id}.{handout.Plan.Project}@auxilium",
                task.Name,
                handout.Plan.Name,
                task.Start!.Value.Date,
                task.Finish!.Value.LastDateFrom(task.Start.Value),
                task.IsOfHours ? (handout.ToUtc(task.Start.Value.ToDateTime()), handout.ToUtc(task.Finish.Value.ToDateTime())) : null,
                task.IsFinished,
                IsOwner: true,
                handout.AddressOf(task.Id)
            ));
        return Encoding.UTF8.GetBytes(TaskCalendar.Write(handout.Plan.Name, tasks, handout.Now));
    }
}
