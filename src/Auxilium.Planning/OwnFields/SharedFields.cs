using System.Collections.Immutable;
using Auxilium.Planning.Plans;

namespace Auxilium.Planning.OwnFields;

/// <summary>Fields of the organisation, as a project has them besides its own.</summary>
public static class SharedFields
{
    /// <summary>
    /// The fields of a plan with those of the organisation as they are now. What the organisation no longer has is retired where
    /// something is in it, and deleted elsewhere; a field of the project's own gives way where it is called the same.
    /// </summary>
    public static ImmutableArray<OwnField> In(Plan plan, ImmutableArray<OwnField> organisation)
    {
        var shared = organisation.ToDictionary(field => field.Id);
        var names = organisation.Select(field => field.Name).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var fields = ImmutableArray.CreateBuilder<OwnField>();
        foreach (var field in plan.Project.Fields)
            if (shared.Remove(field.Id, out var now) && (now.Kind, now.OfProject) == (field.Kind, field.OfProject))
                fields.Add(now with { Shared = true, Value = field.Value });
            else if (!field.Shared)
                fields.Add(names.Add(field.Name) ? field : field with { Name = Other(field.Name, names) });
            else if (IsUsed(plan, field))
                fields.Add(
                    field with
                    {
                        Shared = false,
                        Retired = true,
                        Name = names.Add(field.Name) ? field.Name : Other(field.Name, names),
                    }
                );
        foreach (var field in organisation.Where(field => shared.ContainsKey(field.Id) && !field.Retired))
            if (fields.Count < OwnField.Most && fields.All(other => other.Id != field.Id))
                fields.Add(field with { Shared = true });
        return fields.ToImmutable();
    }

    private static bool IsUsed(Plan plan, OwnField field)
    {
        var fact = OwnFact.Of(field.Id);
        return field.Value is not null || plan.Tasks.Any(task => task.Facts[fact] is not null);
    }

    private static string Other(string name, HashSet<string> taken)
    {
        var start = name.Length > OwnField.LongestName - 3 ? name[..(OwnField.LongestName - 3)] : name;
        for (var i = 2; ; i++)
            if (taken.Add($"{start} {i}"))
                return $"{start} {i}";
    }
}
