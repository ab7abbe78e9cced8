using System.Buffers;
using System.Collections.Immutable;
using System.Text;
using System.Text.Json;
using Auxilium.Planning.Calendars;
using Auxilium.Planning.Plans;
using Auxilium.Storage.Rows;

namespace Auxilium.Storage.Plans;

/// <summary>Turns baselines into rows and back.</summary>
internal static class BaselineRows
{
    private const int IsMilestone = 1;
    private const int IsPhase = 2;

    public static KeptBaselineRow ToRow(Guid plan, Baseline baseline, int position) =>
        new()
        {
            PlanId = plan,
            Id = baseline.Id,
            Position = position,
            Name = baseline.Name,
            Taken = baseline.Taken,
            Whole = baseline.Whole,
            Start = baseline.Start.ToDateTime(),
            Finish = baseline.Finish.ToDateTime(),
            Rows = Write(baseline.Rows),
        };

    public static Baseline ToBaseline(KeptBaselineRow row) =>
        new(row.Id, row.Name, row.Taken, row.Whole, PlanTime.FromDateTime(row.Start), PlanTime.FromDateTime(row.Finish), Read(row.Rows));

    /// <summary>A list a row, without names of fields: a baseline of 10,000 rows is read with the plan that has it.</summary>
    private static string Write(ImmutableArray<BaselineRow> rows)
    {
        var buffer = new ArrayBufferWriter<byte>(rows.Length * 100);
        using (var json = new Utf8JsonWriter(buffer))
        {
            json.WriteStartArray();
            foreach (var row in rows)
            {
                json.WriteStartArray();
                json.WriteStringValue(row.Task);
                json.WriteStringValue(row.Name);
                json.WriteNumberValue(row.Start.Minutes);
                json.WriteNumberValue(row.Finish.Minutes);
                json.WriteNumberValue(row.Length);
                json.WriteNumberValue(row.Effort);
                json.WriteNumberValue(row.Progress);
                json.WriteNumberValue((row.Milestone ? IsMilestone : 0) + (row.Phase ? IsPhase : 0));
                json.WriteNumberValue(row.Cost.AtStart);
                json.WriteNumberValue(row.Cost.Evenly);
                json.WriteNumberValue(row.Cost.AtFinish);
                json.WriteEndArray();
            }
            json.WriteEndArray();
        }
        return Encoding.UTF8.GetString(buffer.WrittenSpan);
    }

    private static ImmutableArray<BaselineRow> Read(string text)
    {
        var json = new Utf8JsonReader(Encoding.UTF8.GetBytes(text));
        var rows = ImmutableArray.CreateBuilder<BaselineRow>();
        json.Read();
        while (json.Read() && json.TokenType == JsonTokenType.StartArray)
        {
            var (task, name) = (Text(ref json), Text(ref json));
            var (start, finish) = (new PlanTime(Whole(ref json)), new PlanTime(Whole(ref json)));
            var (length, effort, progress, marks) = (Whole(ref json), Number(ref json), Number(ref json), Whole(ref json));
            var cost = new PlannedCost(Number(ref json), Number(ref json), Number(ref json));
            var (milestone, phase) = ((marks & IsMilestone) != 0, (marks & IsPhase) != 0);
            rows.Add(new BaselineRow(task, name, start, finish, length, effort, progress, milestone, phase, cost));
            json.Read();
        }
        return rows.ToImmutable();
    }

    private static string Text(ref Utf8JsonReader json)
    {
        json.Read();
        return json.GetString()!;
    }

    private static int Whole(ref Utf8JsonReader json)
    {
        json.Read();
        return json.GetInt32();
    }

    private static decimal Number(ref Utf8JsonReader json)
    {
        json.Read();
        return json.GetDecimal();
    }
}
