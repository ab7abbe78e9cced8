using System.Text.Json;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Plans;
using Auxilium.Storage;
using Auxilium.Storage.Rows;
using Auxilium.Web.Access;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Web.Demo;

/// <summary>
/// The made-up Tidewell Boathouse Trust. Its plans are written around one Thursday; on loading they move by whole weeks to this
/// week, so that what is done, under way and late stays so.
/// </summary>
public sealed class DemoOrganisation(IDbContextFactory<AuxiliumDb> databases, PlanStore store, DemoPerson demo, Today today)
{
    private const string Name = "Tidewell Boathouse Trust";

    private static readonly DateOnly WrittenFor = new(2027, 5, 13);

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    /// <summary>What the organisation is called on every page.</summary>
    public string OrganisationName { get; private set; } = "";

    /// <summary>Makes sure that somebody is there to sign in as, and in an empty database loads the plans too if wanted.</summary>
    public async Task PrepareAsync(bool withPlans, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        var people = await ReadPeopleAsync(cancel);
        if (!await db.People.AnyAsync(cancel))
        {
            db.People.AddRange((withPlans ? people : [DemoPerson.Anybody]).Select(p => new PersonRow { Id = p.Id, Name = p.Name, Initials = p.Initials, Email = p.Email }));
            await db.SaveChangesAsync(cancel);
            if (withPlans) await LoadPlansAsync(people[0], cancel);
        }
        var isDemo = await db.People.AnyAsync(p => p.Id == people[0].Id, cancel);
        demo.Person = isDemo ? people[0] : DemoPerson.Anybody;
        OrganisationName = isDemo ? Name : "My organisation";
    }

    private static string Folder => Path.Combine(AppContext.BaseDirectory, "demo");

    private static async Task<IReadOnlyList<Person>> ReadPeopleAsync(CancellationToken cancel)
    {
        await using var file = File.OpenRead(Path.Combine(Folder, "people.json"));
        return (await JsonSerializer.DeserializeAsync<List<Person>>(file, Json, cancel))!;
    }

    private async Task LoadPlansAsync(Person coordinator, CancellationToken cancel)
    {
        var weeks = (int)Math.Floor((today.Date.DayNumber - Monday(WrittenFor)) / 7.0);
        // The newest project is listed first, so the last one loaded leads.
        foreach (var file in Directory.EnumerateFiles(Folder, "*.plan.json").OrderDescending())
        {
            var plan = PlanDocumentReader.Read(await File.ReadAllBytesAsync(file, cancel));
            await store.CreateAsync(PlanShift.ByWeeks(plan, weeks), coordinator, cancel);
        }
    }

    private static int Monday(DateOnly date) => date.DayNumber - date.DayNumber % 7;
}
