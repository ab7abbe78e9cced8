using System.Text.Json;
using Auxilium.Exchange;
using Auxilium.Exchange.PlanDocuments;
using Auxilium.Exchange.Prices;
using Auxilium.Planning.Load;
using Auxilium.Planning.Plans;
using Auxilium.Storage;
using Auxilium.Storage.Access;
using Auxilium.Storage.People;
using Auxilium.Storage.Plans;
using Auxilium.Storage.Rows;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Web.Demo;

/// <summary>
/// The made-up Tidewell Boathouse Trust. Its plans are written around one Thursday; on loading they move by whole weeks to this
/// week, so that what is done, under way and late stays so.
/// </summary>
public sealed class DemoOrganisation(IDbContextFactory<AuxiliumDb> databases, PlanStore store, Today today)
{
    /// <summary>What an hour of a volunteer is worth there.</summary>
    private const decimal DemoVolunteerHour = 14;

    private const string Name = "Tidewell Boathouse Trust";

    private static readonly DateOnly WrittenFor = new(2027, 5, 13);

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    /// <summary>Fills a database in which nobody is yet: all of it, or nothing when the process dies meanwhile.</summary>
    public async Task PrepareAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await db.Organisation.AnyAsync(cancel))
            return;
        var people = await ReadPeopleAsync(cancel);
        // One that was filled before people could sign in has everything but their accounts.
        var isNew = !await db.People.AnyAsync(cancel);
        if (!isNew && !await db.People.AnyAsync(p => p.Id == people[0].Id, cancel))
            return;
        await AddPeopleAsync(db, people, cancel);
        if (isNew)
        {
            await LoadPlansAsync(db, people, cancel);
            var (prices, _) = PriceList.Read(await File.ReadAllTextAsync(Path.Combine(Folder, "price-list.csv"), cancel));
            db.Prices.AddRange(prices.Select((line, position) => PriceBook.RowOf(line.Item, position)));
        }
        db.Organisation.Add(
            new OrganisationRow
            {
                Name = Name,
                IsDemo = true,
                VolunteerHour = DemoVolunteerHour,
            }
        );
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    private static string Folder => Path.Combine(AppContext.BaseDirectory, "demo");

    private static async Task<IReadOnlyList<DemoPerson>> ReadPeopleAsync(CancellationToken cancel)
    {
        await using var file = File.OpenRead(Path.Combine(Folder, "people.json"));
        return (await JsonSerializer.DeserializeAsync<List<DemoPerson>>(file, Json, cancel))!;
    }

    private static async Task AddPeopleAsync(AuxiliumDb db, IReadOnlyList<DemoPerson> people, CancellationToken cancel)
    {
        var known = await db.People.Select(p => p.Id).ToListAsync(cancel);
        foreach (var person in people)
        {
            var row = new PersonRow
            {
                Id = person.Id,
                Name = person.Name,
                Initials = person.Initials,
                Email = person.Email,
                Role = person.Role,
                Team = person.Team,
                ReportsTo = person.ReportsTo,
                Kind = Enum.Parse<PersonKind>(person.Kind, ignoreCase: true),
                Availability = person.Availability is { } share ? PersonTimes.Write([new Availability(share)]) : null,
            };
            if (known.Contains(person.Id))
                db.People.Update(row);
            else
                db.People.Add(row);
            db.Users.Add(
                new Account
                {
                    Id = person.Id,
                    UserName = person.Id,
                    NormalizedUserName = person.Id.ToUpperInvariant(),
                    Email = person.Email,
                    NormalizedEmail = person.Email.ToUpperInvariant(),
                    EmailConfirmed = true,
                    LockoutEnabled = true,
                    SecurityStamp = Secret.New(),
                    IsOrganiser = person.Access == "organiser",
                    MayMakeProjects = person.Access is "organiser" or "maker",
                }
            );
        }
        await db.SaveChangesAsync(cancel);
    }

    private async Task LoadPlansAsync(AuxiliumDb db, IReadOnlyList<DemoPerson> people, CancellationToken cancel)
    {
        await using var file = File.OpenRead(Path.Combine(Folder, "folders.json"));
        var folders = (await JsonSerializer.DeserializeAsync<List<DemoFolder>>(file, Json, cancel))!.ToDictionary(
            folder => new FolderRow { Id = Guid.NewGuid(), Name = folder.Name },
            folder => folder.Projects
        );
        db.Folders.AddRange(folders.Keys);
        await db.SaveChangesAsync(cancel);
        var weeks = (int)Math.Floor((today.Date.DayNumber - Monday(WrittenFor)) / 7.0);
        // The newest project is listed first, so the last one loaded leads.
        foreach (var path in System.IO.Directory.EnumerateFiles(Folder, "*.plan.json").OrderDescending())
        {
            var (plan, hours, ledger, _) = PlanDocumentReader.ReadWhole(await File.ReadAllBytesAsync(path, cancel), cancel);
            var stored = await store.CreateAsync(
                db,
                PlanShift.ByWeeks(plan, weeks),
                new Person(people[0].Id, people[0].Name, people[0].Initials),
                true,
                [.. hours.Select(h => h with { Day = h.Day.AddDays(7 * weeks) })],
                ledger.Later(7 * weeks),
                cancel
            );
            await AddReceiptsAsync(db, stored.Project, path, people[0].Id, cancel);
            var folder = folders.FirstOrDefault(f => f.Value.Contains(plan.Project.Name)).Key;
            (await db.Projects.SingleAsync(p => p.Id == stored.Project, cancel)).FolderId = folder?.Id;
            foreach (var person in people)
            foreach (var (project, role) in person.Roles)
                if (project == "*" || project == plan.Project.Name)
                    db.ProjectRoles.Add(
                        new RoleRow
                        {
                            ProjectId = stored.Project,
                            PersonId = person.Id,
                            Role = Enum.Parse<ProjectRole>(role, ignoreCase: true),
                        }
                    );
        }
    }

    /// <summary>Receipts lie in a folder that is called like the plan's file.</summary>
    private async Task AddReceiptsAsync(AuxiliumDb db, Guid project, string plan, string person, CancellationToken cancel)
    {
        var folder = Path.Combine(Folder, "receipts", Path.GetFileName(plan).Split('.')[0]);
        if (!System.IO.Directory.Exists(folder))
            return;
        foreach (var file in System.IO.Directory.EnumerateFiles(folder).Order(StringComparer.Ordinal))
        {
            var content = await File.ReadAllBytesAsync(file, cancel);
            if (!FileKinds.TryFind(file, content, out var type, out var problem))
                throw new InvalidDataException(problem);
            db.Receipts.Add(
                new ReceiptRow
                {
                    Id = Guid.NewGuid(),
                    ProjectId = project,
                    PersonId = person,
                    At = today.Date.ToDateTime(new TimeOnly(8, 30), DateTimeKind.Utc),
                    Name = Path.GetFileName(file),
                    MediaType = type,
                    Size = content.Length,
                    Content = content,
                }
            );
        }
    }

    private static int Monday(DateOnly date) => date.DayNumber - date.DayNumber % 7;

    /// <param name="Projects">Names of the projects in it.</param>
    private sealed record DemoFolder(string Name, IReadOnlyList<string> Projects);

    /// <param name="Access"><c>organiser</c>, <c>maker</c> of projects, or nothing.</param>
    /// <param name="Roles">Roles by name of project; <c>*</c> for all.</param>
    private sealed record DemoPerson(
        string Id,
        string Name,
        string Initials,
        string Email,
        string Role,
        string Team,
        string? ReportsTo,
        string Kind,
        string? Access,
        Dictionary<string, string> Roles,
        decimal? Availability = null
    );
}
