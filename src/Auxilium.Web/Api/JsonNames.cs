using Auxilium.Planning.Editing;

namespace Auxilium.Web.Api;

/// <summary>Names of values as the screens and the API write them.</summary>
internal static class JsonNames
{
    public static string Camel(Enum value) => Camel(value.ToString());

    public static string Camel(EditField field) => Camel(field.Name);

    private static string Camel(string name) => char.ToLowerInvariant(name[0]) + name[1..];
}
