using System.Collections.Immutable;
using System.Text.Json.Nodes;
using Auxilium.Exchange.Edits;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Tests;

namespace Auxilium.Exchange.Tests;

public class EditJsonTests
{
    private static readonly EditJson Json = new(new DateOnly(2027, 5, 13));
    private static readonly PlanTime Instant = PlanTime.At(2027, 5, 12, 9);

    public static TheoryData<PlanEdit> Edits =>
        [
            new AddTask("t1", "Order <paper> & “frames”", null, "t0"),
            new RemoveTasks(["t1", "t2"]),
            new RestoreTasks(
                [
                    new(
                        new PlanTask
                        {
                            Id = "t1",
                            Name = "A",
                            Constraint = new(ConstraintKind.MustStartOn, Instant),
                            Assignments = [new("p", 0.5m)],
                        },
                        "t0"
                    ),
                ],
                [new(new PlanLink("a", "b", Length.Days(-2)), 3)]
            ),
            new SetLength("t1", new(Length.Days(2.5m), true)),
            new SetMilestone("t1", false, new(Length.Days(2))),
            new SetOwner("t1", "Imke Varga"),
            new AddHelper("t1", "Imke Varga", 0.5m, MoreHands.Shorter),
            new SetAssignments("t1", [new("p", 0.5m)], MoreHands.MoreEffort, Length.Days(2)),
            new SetOwnTime("p"),
            new SetCoordinator("p"),
            new JoinPlan(new Person("p", "Pat", "P", null, "late")),
            new TypePredecessors("t1", "4, 6", ImmutableDictionary<string, string>.Empty.Add("4", "a").Add("6", "b")),
            new SetPredecessors("t1", [new("a", Length.Days(-1), 2)]),
            new MoveTask("t1", "p", null),
            new SetTracking("t1", 0.4m, Instant, null),
            new PlaceTask("t1", Instant, true),
            new SetFixedDates("t1", new(Instant), null),
            new SetFinish("t1", new DateOrTime(new(2027, 5, 12))),
            new SetFinishBy(null),
            new RepeatTask(
                "t1",
                new()
                {
                    Every = RepeatUnit.Week,
                    On = [DayOfWeek.Sunday, DayOfWeek.Tuesday],
                    From = Instant,
                    Times = 3,
                    Length = Length.OneDay,
                    Made = new(2027, 5, 18),
                },
                ["a", "b", "c"]
            ),
            new ExtendSeries("t1", new DateOrTime(new(2027, 6, 1))),
            new SetChecklist("t1", [new("Call", true)]),
            new SetReferences("t1", [new("https://tidewell.example", "Tidewell")]),
            new SetPeriods([new("Week", new(2027, 5, 3), new(2027, 5, 9))]),
            new RestoreTasks(
                [
                    new(
                        new PlanTask
                        {
                            Id = "t2",
                            Name = "B",
                            Repeats = new()
                            {
                                Every = RepeatUnit.Day,
                                From = Instant,
                                Length = Length.OneDay,
                            },
                            Checklist = [new("Pay")],
                            References = [new("mailto:a@tidewell.example")],
                        },
                        null
                    ),
                ],
                []
            ),
            new Together([new RenameTask("t1", "B"), new RenameProject("C")]),
        ];

    [Theory]
    [MemberData(nameof(Edits))]
    public void An_edit_written_and_read_writes_the_same(PlanEdit edit)
    {
        var json = EditJson.Write(edit);
        var read = Json.Read(json);
        Assert.IsType(edit.GetType(), read);
        Assert.Equal(json, EditJson.Write(read));
    }

    public static TheoryData<string> Kinds => [.. EditKinds.All.Select(kind => kind.Wire)];

    [Theory]
    [MemberData(nameof(Kinds))]
    public void Every_kind_of_edit_is_read_as_it_was_written_and_its_schema_names_all_that_is_written(string wire)
    {
        var kind = EditKinds.All.Single(k => k.Wire == wire);
        var schema = EditJson.Schemas("#/Edit").GetValueOrDefault(wire);
        Assert.Equal(kind.Type.IsAssignableTo(typeof(ITrustedEdit)), schema is null);
        var named = schema?["properties"]!.AsObject().Select(p => p.Key).ToHashSet();
        for (var seed = 0; seed < 20; seed++)
        {
            var (_, edit) = kind.Sample(new Random(seed), RandomPlan.Of(new Random(seed), most: 12));
            var json = EditJson.Write(edit);
            var read = Json.Read(json);
            Assert.Equal(kind.Type, read.GetType());
            Assert.Equal(json, EditJson.Write(read));
            var written = JsonNode.Parse(json)!.AsObject();
            Assert.Equal(wire, written["type"]!.GetValue<string>());
            if (schema is null)
                continue;
            Assert.Empty(written.Select(p => p.Key).Except(named!));
            Assert.Empty(schema["required"]!.AsArray().Select(r => r!.GetValue<string>()).Except(written.Select(p => p.Key)));
        }
    }

    [Theory]
    [InlineData("""{"type":"removeTasks","tasks":["a",null]}""", "$.edit.tasks[1]")]
    [InlineData("""{"type":"together","edits":[{"type":"together","edits":[null]}]}""", "$.edit.edits[0].edits[0]")]
    public void An_empty_entry_of_a_list_is_an_error_at_its_path(string json, string path)
    {
        using var document = System.Text.Json.JsonDocument.Parse(json);
        Assert.Equal(path, Assert.Throws<UnreadableDocumentException>(() => Json.Read(document.RootElement)).Errors[0].Path);
    }

    [Fact]
    public void Lengths_and_dates_are_read_as_people_type_them()
    {
        Assert.Equal(
            new SetLength("t1", new(new(2, LengthUnit.Weeks), true)),
            Json.Read("""{"type":"setLength","task":"t1","length":"2 weeks ?"}""")
        );
        Assert.Equal(
            new PlaceTask("t1", new DateOrTime(new(2027, 6, 1))),
            Json.Read("""{"type":"placeTask","task":"t1","start":"1 June"}""")
        );
    }

    [Theory]
    [InlineData("""{"type":"setLength","task":"t1","length":"soon"}""", "$.edit.length", "“soon” is not a length")]
    [InlineData("""{"type":"placeTask","task":"t1","start":"31 June"}""", "$.edit.start", "no such day")]
    [InlineData("""{"type":"setLength","task":"t1","length":"3d","extra":1}""", "$.edit.extra", "extra")]
    [InlineData("""{"type":"setLength","length":"3d"}""", "$.edit", "task")]
    [InlineData("""{"type":"renameTask","task":"t1","name":null}""", "$.edit.name", "null")]
    [InlineData("""{"type":"fly","task":"t1"}""", "$.edit", "name an edit")]
    [InlineData("""{"task":"t1"}""", "$.edit", "name an edit")]
    [InlineData("""{"type":"together","edits":[{"type":"setLength","task":"t1","length":"-2d"}]}""", "$.edit.edits[0].length", "negative")]
    [InlineData("[]", "$.edit", "")]
    public void What_is_no_edit_is_refused_at_its_path(string json, string path, string part)
    {
        var error = Assert.Single(Assert.Throws<UnreadableDocumentException>(() => Json.Read(json)).Errors);
        Assert.StartsWith(path, error.Path, StringComparison.Ordinal);
        Assert.Contains(part, error.Message, StringComparison.Ordinal);
    }
}
