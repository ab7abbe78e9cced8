using System.Text.Json.Nodes;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Facts;
using Auxilium.Web.PlanScreen;

namespace Auxilium.Web.Pages.Sharing;

/// <summary>What of a plan a link may show besides names and dates, and leaving out the rest.</summary>
internal static class SharedColumns
{
    public static readonly (string Column, string Word)[] All =
    [
        ("state", "how far tasks are"),
        ("owner", "who does them"),
        ("length", "how long they take"),
        ("after", "what comes before them"),
        ("deadline", "deadlines"),
        ("label", "labels and colours"),
        ("float", "float and what sets the finish"),
        ("days", "names of holidays and periods"),
    ];

    /// <summary>The list with the columns that have something to show.</summary>
    public static JsonNode ViewOf(IReadOnlyCollection<string> columns)
    {
        (string Key, int Width)[] all =
        [
            ("no", 38),
            ("name", 220),
            ("owner", 46),
            ("length", 52),
            ("after", 66),
            ("start", 76),
            ("finish", 60),
            ("deadline", 74),
            ("state", 104),
            ("label", 84),
            ("float", 74),
        ];
        string[] always = ["no", "name", "start", "finish"];
        return new JsonObject
        {
            ["view"] = new JsonObject
            {
                ["columns"] = new JsonArray([
                    .. all.Where(c => always.Contains(c.Key) || columns.Contains(c.Key))
                        .Select(c => new JsonObject { ["key"] = c.Key, ["width"] = c.Width }),
                ]),
            },
        };
    }

    /// <summary>The columns that files may have, of those that a link shows.</summary>
    public static IReadOnlyList<PlanColumn> OfTables(IReadOnlyCollection<string> columns) =>
        [
            .. PlanTable.All.Where(column =>
                column.Key is "no" or "name" or "start" or "finish"
                || (column.Key is "owner" or "length" or "after" or "deadline" or "state" && columns.Contains(column.Key))
                || (column.Key == "progress" && columns.Contains("state"))
                || (PlainFacts.Find(column.Key)?.SharedWith is { } shown && columns.Contains(shown))
            ),
        ];

    /// <summary>A view with only these columns. Each part is named here: what is not, is not in it, so no browser can show it.</summary>
    public static PlanView Only(PlanView view, IReadOnlyCollection<string> columns)
    {
        bool Has(string column) => columns.Contains(column);
        var project = view.Project;
        return new PlanView
        {
            Project = new ProjectView
            {
                Name = project.Name,
                Version = project.Version,
                Start = project.Start,
                Finish = project.Finish,
                FromFinish = false,
                FinishBy = Has("deadline") ? project.FinishBy : null,
                Spare = Has("deadline") ? project.Spare : null,
                IsLate = Has("deadline") && project.IsLate,
                Today = project.Today,
                Progress = Has("state") ? project.Progress : 0,
                Coordinator = Has("owner") ? project.Coordinator : null,
                DayStart = project.DayStart,
                DayEnd = project.DayEnd,
                Periods = Has("days") ? project.Periods : [],
                Stops = [],
                Baselines = [],
            },
            People = Has("owner") ? view.People : [],
            Links = Has("after") ? view.Links : [],
            FinishLinks = Has("after") && Has("float") ? view.FinishLinks : [],
            Closed = Has("days") ? view.Closed : [.. view.Closed.Select(days => days with { Name = null })],
            Rows = [.. view.Rows.Select(row => row.Only(Has))],
        };
    }
}
