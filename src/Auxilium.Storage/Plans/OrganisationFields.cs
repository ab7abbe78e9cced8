using System.Collections.Immutable;
using Auxilium.Planning.OwnFields;
using Auxilium.Planning.Words;
using Auxilium.Storage.Access;
using Auxilium.Storage.People;
using Microsoft.EntityFrameworkCore;

namespace Auxilium.Storage.Plans;

/// <summary>Fields that tasks of all projects have.</summary>
public sealed class OrganisationFields(IDbContextFactory<AuxiliumDb> databases, Organisation organisation, TimeProvider clock)
{
    public async Task<ImmutableArray<OwnField>> AllAsync(CancellationToken cancel = default) =>
        PlanRows.ReadFields((await organisation.FindAsync(cancel))?.Fields ?? "[]");

    /// <summary>The sentence that says what is wrong with them; <c>null</c> when nothing is.</summary>
    public async Task<string?> WhyRefusedAsync(ImmutableArray<OwnField> fields, CancellationToken cancel = default)
    {
        if (fields.Length > OwnField.Most)
            return $"There are at most {OwnField.Most} fields: delete one that is not used.";
        if (fields.Select(field => field.WhyRefused()).FirstOrDefault(why => why is not null) is { } why)
            return why;
        if (
            fields.DistinctBy(field => field.Id).Count() < fields.Length
            || fields.DistinctBy(field => field.Name, StringComparer.OrdinalIgnoreCase).Count() < fields.Length
        )
            return "Two fields are called the same: give one of them another name.";
        var before = (await AllAsync(cancel)).ToDictionary(field => field.Id);
        return fields.FirstOrDefault(field => before.TryGetValue(field.Id, out var was) && was.Kind != field.Kind) is { } other
            ? $"Projects may have something in {other.Name}: add another field instead of changing what it holds."
            : null;
    }

    public async Task SetAsync(ImmutableArray<OwnField> fields, string by, CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var row = await db.Organisation.SingleAsync(cancel);
        row.Fields = PlanRows.WriteFields(fields);
        var names = fields.IsEmpty ? "no fields of its own" : $"the fields {ListText.Listed([.. fields.Select(field => field.Name)])}";
        Audit.Note(db, clock, by, null, null, $"{await Audit.NameAsync(db, by, cancel)} gave the organisation {names}.");
        await db.SaveChangesAsync(cancel);
        await PlanNews.TellAsync(db, PlanNews.Organisation, cancel);
        await transaction.CommitAsync(cancel);
        organisation.Forget();
    }

    /// <summary>Projects that are neither archived nor deleted.</summary>
    public async Task<IReadOnlyList<Guid>> OpenProjectsAsync(CancellationToken cancel = default)
    {
        await using var db = await databases.CreateDbContextAsync(cancel);
        return await db.Projects.Where(project => project.ArchivedAt == null).Select(project => project.Id).ToListAsync(cancel);
    }
}
