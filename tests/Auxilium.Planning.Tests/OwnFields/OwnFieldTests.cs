using System.Collections.Immutable;
using Auxilium.Planning.Editing;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;

namespace Auxilium.Planning.Tests.OwnFields;

/// <summary>Fields that people add: what they hold, and how they are made, changed and retired.</summary>
public class OwnFieldTests
{
    private static readonly DateOnly Today = new(2027, 5, 12);

    private static readonly OwnField Seats = new("seats", "Seats", OwnKind.Amount, "chairs");

    private static readonly OwnField Hall = new("hall", "Hall", OwnKind.Choice)
    {
        Choices = [new("big", "Great hall", "sky"), new("small", "Small hall")],
    };

    private static Plan Fair(params OwnField[] fields)
    {
        var plan = PlanText.Plan("Fence 2d\nPower 1d after Fence");
        return plan with { Project = plan.Project with { Fields = [.. fields] } };
    }

    private static Plan Do(Plan plan, params PlanEdit[] edits) =>
        edits.Aggregate(plan, (now, edit) => EditPipeline.Run(edit, new EditContext(Scheduler.Calculate(now), Today, [])).After.Plan);

    private static string Refused(Plan plan, PlanEdit edit) => Assert.Throws<EditRefusedException>(() => Do(plan, edit)).Message;

    private static string? Of(Plan plan, string task, OwnField field) => plan.Find(task)!.Facts[OwnFact.Of(field.Id)] as string;

    [Theory]
    [InlineData(OwnKind.Text, "  Quay 4 ", "Quay 4")]
    [InlineData(OwnKind.Number, "12", "12")]
    [InlineData(OwnKind.Number, "-2,5", "-2.5")]
    [InlineData(OwnKind.Number, "1,250,000", "1250000")]
    [InlineData(OwnKind.Number, "1 250.50", "1250.5")]
    [InlineData(OwnKind.Amount, "40 chairs", "40")]
    [InlineData(OwnKind.Date, "3 Jun", "2027-06-03")]
    [InlineData(OwnKind.Date, "today", "2027-05-12")]
    [InlineData(OwnKind.YesNo, "X", "yes")]
    [InlineData(OwnKind.YesNo, "no", null)]
    [InlineData(OwnKind.Choice, "small HALL", "small")]
    [InlineData(OwnKind.Choice, "big", "big")]
    [InlineData(OwnKind.Choice, "", null)]
    public void Each_kind_reads_what_people_type_and_keeps_it_in_one_form(OwnKind kind, string typed, string? kept)
    {
        var field = kind == OwnKind.Choice ? Hall : new OwnField("f", "Field", kind, kind == OwnKind.Amount ? "chairs" : null);
        Assert.True(OwnText.TryRead(field, typed, Today, null, out var value, out var problem), problem);
        Assert.Equal(kept, value);
        // What is kept is read as itself.
        Assert.True(OwnText.TryRead(field, value, Today, null, out var again, out _));
        Assert.Equal(value, again);
    }

    [Theory]
    [InlineData(OwnKind.Number, "many", "“many” is not a number for Field: write one such as 12 or 2.5.")]
    [InlineData(OwnKind.Number, "1e9", "is not a number")]
    [InlineData(OwnKind.Number, "9999999999999", "is not a number")]
    [InlineData(OwnKind.Date, "5/6", "could be")]
    [InlineData(OwnKind.Date, "3 Jun 14:00", "has a time: give a day alone")]
    [InlineData(OwnKind.YesNo, "perhaps", "“perhaps” is neither yes nor no: write one of them.")]
    [InlineData(OwnKind.Choice, "Barn", "Hall is one of Great hall, Small hall.")]
    [InlineData(OwnKind.Text, "two\nlines", "is one line of text")]
    public void What_is_wrong_is_said_with_what_would_be_right(OwnKind kind, string typed, string why)
    {
        var field = kind == OwnKind.Choice ? Hall : new OwnField("f", "Field", kind);
        Assert.False(OwnText.TryRead(field, typed, Today, null, out _, out var problem));
        Assert.Contains(why, problem, StringComparison.Ordinal);
    }

    [Fact]
    public void Values_stay_when_a_field_is_renamed_reordered_and_retired_and_follow_their_choices()
    {
        var plan = Do(Fair(Seats, Hall), new SetOwn("Fence", "seats", "40"), new SetOwn("Power", "hall", "Small hall"));
        plan = Do(
            plan,
            new SetFields([
                Hall with
                {
                    Name = "Room",
                    Choices = [new("small", "Kitchen"), new("big", "Great hall")],
                },
                Seats with
                {
                    Retired = true,
                },
            ])
        );
        Assert.Equal(["Room", "Seats"], plan.Project.Fields.Select(field => field.Name));
        Assert.Equal("40", Of(plan, "Fence", Seats));
        Assert.Equal("Kitchen", OwnText.InWords(plan.Project.FindField("hall")!, Of(plan, "Power", Hall)));
    }

    [Fact]
    public void What_would_lose_values_is_refused()
    {
        var plan = Do(Fair(Seats, Hall), new SetOwn("Fence", "seats", "40"), new SetOwn("Power", "hall", "big"));
        Assert.Equal(
            "A row has something in Seats: retire it, which keeps that, instead of deleting it.",
            Refused(plan, new SetFields([Hall]))
        );
        Assert.Contains(
            "instead of changing what it holds",
            Refused(plan, new SetFields([Seats with { Kind = OwnKind.Date }, Hall])),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "a choice of Hall that is left out",
            Refused(plan, new SetFields([Seats, Hall with { Choices = [new("small", "Small hall")] }])),
            StringComparison.Ordinal
        );
        // What nobody uses may go.
        Assert.Empty(Do(Fair(Seats, Hall), new SetFields([])).Project.Fields);
    }

    [Fact]
    public void There_are_at_most_forty_each_with_a_name_of_its_own()
    {
        ImmutableArray<OwnField> many = [.. Enumerable.Range(0, 41).Select(i => new OwnField($"f{i}", $"Field {i}", OwnKind.Text))];
        Assert.Contains("at most 40", Refused(Fair(), new SetFields(many)), StringComparison.Ordinal);
        Assert.Equal(40, Do(Fair(), new SetFields(many[..40])).Project.Fields.Length);
        Assert.Contains(
            "two fields called",
            Refused(Fair(), new SetFields([Seats, Hall with { Name = "SEATS" }])),
            StringComparison.OrdinalIgnoreCase
        );
        Assert.Contains(
            "needs from 1 to 50 choices",
            Refused(Fair(), new SetFields([Hall with { Choices = [] }])),
            StringComparison.Ordinal
        );
        Assert.Contains("The name of a field has", Refused(Fair(), new SetFields([Seats with { Name = " " }])), StringComparison.Ordinal);
        Assert.Contains("not there any more", Refused(Fair(), new SetOwn("Fence", "seats", "4")), StringComparison.Ordinal);
    }

    [Fact]
    public void Copies_and_edits_of_whole_rows_take_values_along()
    {
        var plan = Do(Fair(Seats), new SetOwn("Fence", "seats", "40"));
        var copied = Do(plan, new CopyTasks(["Fence"]));
        Assert.Equal(2, copied.Tasks.Count(task => task.Facts[OwnFact.Of("seats")] is "40"));
    }

    [Fact]
    public void Two_people_who_type_into_different_fields_do_not_collide()
    {
        var (seats, hall) = (OwnFact.Of("seats").Field, OwnFact.Of("hall").Field);
        Assert.False(new Touch("t", seats).Meets(new Touch("t", hall)));
        Assert.True(new Touch("t", seats).Meets(Touch.Parse(new Touch("t", OwnFact.Of("seats").Field).ToString())));
    }

    [Fact]
    public void A_project_gets_the_fields_of_the_organisation_beside_its_own()
    {
        var code = new OwnField("code", "Cost code", OwnKind.Text, Shared: true);
        var plan = Fair(Seats, new OwnField("mine", "cost code", OwnKind.Text));
        var with = SharedFields.In(plan, [code]);
        Assert.Equal(["Seats", "cost code 2", "Cost code"], with.Select(field => field.Name));
        // Renamed there, renamed here; deleted there, deleted here, or retired where something is in it.
        plan = plan with { Project = plan.Project with { Fields = with } };
        Assert.Equal("Code", SharedFields.In(plan, [code with { Name = "Code" }])[^1].Name);
        Assert.Equal(["Seats", "cost code 2"], SharedFields.In(plan, []).Select(field => field.Name));
        var used = SharedFields.In(Do(plan, new SetOwn("Fence", "code", "A-1")), []);
        Assert.True(used[^1] is { Name: "Cost code", Retired: true, Shared: false });
        // Nothing new, nothing changed.
        Assert.Equal(with.AsEnumerable(), SharedFields.In(plan, [code]));
    }

    [Fact]
    public void The_project_itself_has_facts_that_its_tasks_do_not_have()
    {
        var guests = new OwnField("guests", "Guests", OwnKind.Amount, "people", OfProject: true);
        var plan = Do(Fair(Seats, guests), new SetProjectOwn("guests", "400"));
        Assert.Equal("400", plan.Project.FindField("guests")!.Value);
        Assert.Equal(["seats"], plan.Project.FieldsOfTasks.Select(field => field.Id));
        Assert.Contains("fact of the project itself", Refused(plan, new SetOwn("Fence", "guests", "4")), StringComparison.Ordinal);
        Assert.Contains("no such field", Refused(plan, new SetProjectOwn("seats", "4")), StringComparison.Ordinal);
        Assert.Contains("number", Refused(plan, new SetProjectOwn("guests", "many")), StringComparison.Ordinal);
        // It stays when fields are renamed, and is not lost or misread.
        var renamed = Do(plan, new SetFields([guests with { Name = "Visitors" }, Seats]));
        Assert.Equal(("Visitors", "400"), (renamed.Project.Fields[0].Name, renamed.Project.Fields[0].Value));
        Assert.Contains("retire it", Refused(plan, new SetFields([Seats])), StringComparison.Ordinal);
        Assert.Contains(
            "add another field",
            Refused(plan, new SetFields([Seats, guests with { Kind = OwnKind.Date }])),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "add another field",
            Refused(plan, new SetFields([Seats, guests with { OfProject = false }])),
            StringComparison.Ordinal
        );
        var used = Do(plan, new SetOwn("Fence", "seats", "40"));
        Assert.Contains(
            "for the project itself",
            Refused(used, new SetFields([Seats with { OfProject = true }, guests])),
            StringComparison.Ordinal
        );
        // Of the organisation's it keeps what it has.
        var shared = SharedFields.In(
            plan with
            {
                Project = plan.Project with { Fields = [guests with { Shared = true, Value = "400" }] },
            },
            [guests with { Name = "Visitors" }]
        );
        Assert.Equal(("Visitors", "400"), (shared[0].Name, shared[0].Value));
    }
}
