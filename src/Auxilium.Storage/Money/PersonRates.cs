using System.Collections.Immutable;
using System.Text.Json;
using Auxilium.Planning.Money;
using Auxilium.Storage.Rows;

namespace Auxilium.Storage.Money;

/// <summary>What somebody costs (rule M1): one rate for always, and those that begin on later days.</summary>
public static class PersonRates
{
    public static ImmutableArray<Rate> Of(PersonRow person) =>
        [
            .. person.HourlyRate is null && person.OvertimeRate is null && person.CostPerUse is null
                ? Array.Empty<Rate>()
                : [new Rate(null, person.HourlyRate ?? 0, person.OvertimeRate, person.CostPerUse ?? 0)],
            .. Read(person.LaterRates),
        ];

    public static ImmutableArray<Rate> Read(string? json) => json is null ? [] : JsonSerializer.Deserialize<ImmutableArray<Rate>>(json);

    /// <summary>Later rates to keep; <c>null</c> for none.</summary>
    public static string? Write(ImmutableArray<Rate> rates) => rates.IsEmpty ? null : JsonSerializer.Serialize(rates);
}
