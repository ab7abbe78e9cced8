using System.Text;
using System.Text.Json.Nodes;
using Auxilium.Exchange.Files;
using Auxilium.Exchange.Lists;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Exchange.Tables;
using Auxilium.Planning.Editing;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Exchange.Tests;

/// <summary>Fields that people added, in documents, tables and lists.</summary>
public class OwnFieldJsonTests
{
    private static readonly DateOnly Today = new(2027, 5, 3);

    private const string Document = """
        {"format":"auxilium-plan/1","project":{"name":"Fair","start":"2027-05-10","fields":[
          {"id":"code","name":"Cost code"},
          {"id":"seats","name":"Seats","kind":"amount","unit":"chairs"},
          {"id":"day","name":"Inspected","kind":"date"},
          {"id":"wet","name":"If wet","kind":"yesNo"},
          {"id":"hall","name":"Hall","kind":"choice","choices":[
            {"id":"big","name":"Great hall","colour":"sky"},{"id":"small","name":"Small"}]}]},
         "tasks":[
          {"id":"a","name":"Chairs","length":"1d","fields":{"code":"A-1","seats":240.5,"day":"2027-05-11","wet":true,"hall":"big"}},
          {"id":"b","name":"Tents","length":"2d"}]}
        """;

    private static Plan Read(string json) => PlanDocumentReader.Read(Encoding.UTF8.GetBytes(json));

    [Fact]
    public void A_document_holds_fields_and_their_values_each_as_what_it_is()
    {
        var plan = Read(Document);
        Assert.Equal("240.5", plan.Tasks[0].Facts[OwnFact.Of("seats")]);
        var written = PlanDocumentWriter.Write(plan);
        var task = JsonNode.Parse(written)!["tasks"]![0]!["fields"]!;
        Assert.Equal("""{"code":"A-1","seats":240.5,"day":"2027-05-11","wet":true,"hall":"big"}""", task.ToJsonString());
        Assert.Equal(written, PlanDocumentWriter.Write(PlanDocumentReader.Read(written)));
    }

    [Theory]
    [InlineData("\"seats\":240.5", "\"seats\":\"many\"", "$.tasks[0].fields.seats")]
    [InlineData("\"day\":\"2027-05-11\"", "\"day\":\"11 May\"", "$.tasks[0].fields.day")]
    [InlineData("\"hall\":\"big\"", "\"hall\":\"barn\"", "$.tasks[0].fields.hall")]
    [InlineData("\"wet\":true", "\"dry\":true", "$.tasks[0].fields.dry")]
    [InlineData("\"kind\":\"date\"", "\"kind\":\"moon\"", "$.project.fields[2].kind")]
    [InlineData("\"id\":\"day\"", "\"id\":\"seats\"", "$.project.fields[2].id")]
    [InlineData("\"colour\":\"sky\"", "\"colour\":\"loud\"", "$.project.fields[4].name")]
    public void What_is_wrong_in_a_document_is_told_with_its_path(string right, string wrong, string path)
    {
        var refused = Assert.Throws<UnreadableDocumentException>(() => Read(Document.Replace(right, wrong, StringComparison.Ordinal)));
        Assert.Contains(refused.Errors, error => error.Path == path);
    }

    [Fact]
    public void A_table_has_them_as_columns_which_a_list_is_read_back_by()
    {
        var plan = Read(Document);
        var columns = PlanTable.ColumnsOf(plan).Where(c => c.Key == "name" || c.Key.StartsWith("own:", StringComparison.Ordinal)).ToList();
        var csv = Encoding.UTF8.GetString(TableCsv.Write(new PlanTable(Scheduler.Calculate(plan), Today, columns), ',', false));
        Assert.StartsWith(
            "Task,Cost code,Seats,Inspected,If wet,Hall\r\nChairs,A-1,240.5,2027-05-11,Yes,Great hall\r\n",
            csv,
            StringComparison.Ordinal
        );

        var empty = plan with { Tasks = [] };
        var again = Add(empty, csv);
        Assert.Equal(plan.Tasks[0].Facts, again.Tasks[0].Facts);
        Assert.True(again.Tasks[1].Facts.IsEmpty);
    }

    [Fact]
    public void An_unknown_column_becomes_a_field_where_that_is_wanted_of_the_kind_that_all_its_cells_are()
    {
        const string List = "Task,Crew size,Booked,Code,Rain plan\nTents,4,12 May 2027,A-1,yes\nStage,12,13 May 2027,7,no\n";
        var plan = Read(Document);
        var kept = Add(plan, List);
        Assert.Equal(plan.Project.Fields.AsEnumerable(), kept.Project.Fields);
        var made = Add(plan, List, "name", "new:1", "new:2", "new:3", "new:4");
        Assert.Equal(
            [("Crew size", OwnKind.Number), ("Booked", OwnKind.Date), ("Code", OwnKind.Text), ("Rain plan", OwnKind.YesNo)],
            made.Project.Fields.Skip(5).Select(field => (field.Name, field.Kind))
        );
        var stage = made.Tasks.Single(task => task.Name == "Stage");
        Assert.Equal(
            ["12", "2027-05-13", "7", null],
            made.Project.Fields.Skip(5).Select(field => stage.Facts[OwnFact.Of(field.Id)] as string)
        );
    }

    private static Plan Add(Plan plan, string csv, params string[] kinds)
    {
        var file = ListFile.Read("list.csv", Encoding.UTF8.GetBytes(csv));
        var schedule = Scheduler.Calculate(plan);
        var options = new ListOptions(
            kinds.Length == 0 ? null : [.. kinds.Select(name => ListColumnKind.Find(name, plan.Project.Fields)!)],
            DateOrder.DayFirst
        );
        var reading = ListReader.Read(file.Text, options, schedule, [], Today);
        Assert.Null(reading.Problem);
        Assert.All(reading.Rows, row => Assert.Empty(row.Problems));
        return EditPipeline.Run(reading.Edit!, new EditContext(schedule, Today, [])).After.Plan;
    }

    [Fact]
    public void Facts_of_the_project_itself_are_told_with_their_values_and_are_none_of_its_tasks()
    {
        const string Text = """
            {"format":"auxilium-plan/1", "project":{"name":"Fair", "start":"2027-05-10", "fields":[
              {"id":"guests","name":"Guests","kind":"amount","unit":"people","ofProject":true,"value":"400"}]},
             "tasks":[{"id":"a","name":"Fence"FIELDS}]}
            """;
        var plan = PlanDocumentReader.Read(Encoding.UTF8.GetBytes(Text.Replace("FIELDS", "")));
        Assert.Equal("400", plan.Project.FindField("guests")!.Value);
        Assert.Equal(plan.Project.Fields.AsEnumerable(), PlanDocumentReader.Read(PlanDocumentWriter.Write(plan)).Project.Fields);
        var stray = Assert.Throws<UnreadableDocumentException>(() =>
            PlanDocumentReader.Read(Encoding.UTF8.GetBytes(Text.Replace("FIELDS", ",\"fields\":{\"guests\":4}")))
        );
        Assert.Equal("$.tasks[0].fields.guests", stray.Errors[0].Path);
        var wrong = Assert.Throws<UnreadableDocumentException>(() =>
            PlanDocumentReader.Read(Encoding.UTF8.GetBytes(Text.Replace("FIELDS", "").Replace("400", "many")))
        );
        Assert.Equal("$.project.fields[0].value", wrong.Errors[0].Path);
        Assert.DoesNotContain(PlanTable.ColumnsOf(plan), column => column.Title == "Guests");
    }
}
