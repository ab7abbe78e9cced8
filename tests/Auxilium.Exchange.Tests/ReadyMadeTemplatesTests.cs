using Auxilium.Exchange.PlanDocuments;
using Auxilium.Exchange.Templates;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Facts;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Starting;

namespace Auxilium.Exchange.Tests;

public class ReadyMadeTemplatesTests
{
    public static TheoryData<string> Ids => [.. ReadyMadeTemplates.All.Select(template => template.Id)];

    [Fact]
    public void There_are_two_for_each_kind_of_project() =>
        Assert.All(ReadyMadeTemplates.All.GroupBy(template => template.Kind), kind => Assert.Equal(2, kind.Count()));

    [Theory]
    [MemberData(nameof(Ids))]
    public void Each_holds_together_as_somebody_who_ran_such_a_project_would_plan_it(string id)
    {
        var plan = ReadyMadeTemplates.All.Single(template => template.Id == id).Plan;
        var schedule = Scheduler.Calculate(plan);
        Assert.Empty(schedule.Warnings);
        var leaves = Enumerable.Range(0, plan.Tasks.Length).Where(schedule.IsLeaf).Select(row => plan.Tasks[row]).ToList();
        Assert.All(leaves, task => Assert.True(task.Milestone || PlainFacts.Role.Of(task) is not null, $"{task.Name} has no role."));
        Assert.True(leaves.Count(task => task.Milestone) >= 3);
        Assert.Contains(leaves, task => !task.Checklist.IsEmpty);
        Assert.Contains(leaves, task => task.Estimate is not null);
        // Everything but where work can begin at once waits for something.
        var waits = plan.Links.Select(link => link.To).ToHashSet();
        Assert.True(leaves.Count(task => !waits.Contains(task.Id)) <= 2);
        Assert.Equal(plan.Tasks.Length, plan.Tasks.Select(task => task.Name).Distinct().Count());
        Assert.True(plan.Project.Note.Length > 20);
        Assert.InRange((schedule.Finish.Minutes - schedule.Start.Minutes) / PlanTime.MinutesPerDay, 25, 150);
    }

    [Theory]
    [MemberData(nameof(Ids))]
    public void Each_starts_on_any_day_and_is_a_plan_document_then(string id)
    {
        var plan = ReadyMadeTemplates.All.Single(template => template.Id == id).Plan;

        var fresh = new FreshStart(new DateOrTime(new(2028, 2, 29)), null, WhoComes.AsRoles, new(2028, 2, 1)).Of(plan);

        Assert.Equal(new DateOnly(2028, 2, 29), Scheduler.Calculate(fresh).Start.Date);
        var document = PlanDocumentWriter.Write(fresh);
        Assert.Equal(document, PlanDocumentWriter.Write(PlanDocumentReader.Read(document)));
    }
}
