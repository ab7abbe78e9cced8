using Auxilium.Planning.Plans;

namespace Auxilium.Planning.Tests.Scheduling;

/// <summary>Networks with published answers; a week of the book is a day here.</summary>
public class TextbookTests
{
    /// <summary>Building a plant: Hillier and Lieberman, Introduction to Operations Research, the chapter on PERT/CPM. 44 weeks.</summary>
    private const string Plant = """
        A 2d
        B 4d after A
        C 10d after B
        D 6d after C
        E 4d after C
        F 5d after E
        G 7d after D
        H 9d after E, G
        I 7d after C
        J 8d after F, I
        K 4d after J
        L 5d after J
        M 2d after H
        N 6d after K, L
        """;

    /// <summary>Fitting air filters: Render, Stair and Hanna, Quantitative Analysis for Management. 15 weeks.</summary>
    private const string Filters = """
        A 2d
        B 3d
        C 2d after A
        D 4d after B
        E 4d after C
        F 3d after C
        G 5d after D, E
        H 2d after F, G
        """;

    [Theory]
    [InlineData(Plant, 44, "ABCEFJLN", "D4 G4 H4 I2 K1 M4")]
    [InlineData(Filters, 15, "ACEGH", "B1 D1 F6")]
    public void The_length_the_critical_path_and_every_float_are_the_published_ones(
        string network,
        int length,
        string critical,
        string floats
    )
    {
        var schedule = PlanText.Schedule(network);
        var rows = Enumerable.Range(0, schedule.Plan.Tasks.Length).ToList();
        Assert.Equal(length * 480, schedule.Length.Count);
        Assert.Equal(critical, string.Concat(rows.Where(schedule.IsCritical).Select(row => schedule.Plan.Tasks[row].Id)));
        Assert.Equal(
            floats,
            string.Join(
                ' ',
                rows.Where(row => !schedule.IsCritical(row))
                    .Select(row => $"{schedule.Plan.Tasks[row].Id}{schedule.TotalFloatOf(row)!.Value.Count / 480}")
            )
        );
    }

    [Fact]
    public void Early_and_late_times_are_the_published_ones()
    {
        var schedule = PlanText.Schedule(Plant);
        // Start and finish of H, earliest and latest, in weeks from the start.
        var calendar = schedule.Plan.ProjectCalendar;
        var (early, late) = (schedule.EarlyDatesOf(7)!.Value, schedule.LateDatesOf(7)!.Value);
        Assert.Equal(
            [29, 38, 33, 42],
            new[] { early.Start, early.Finish, late.Start, late.Finish }.Select(t => calendar.Between(PlanText.DefaultStart, t) / 480)
        );
    }
}
