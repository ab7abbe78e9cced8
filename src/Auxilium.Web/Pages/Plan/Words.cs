namespace Auxilium.Web.Pages.Plan;

/// <summary>Names of values as the screens and the API write them.</summary>
internal static class Words
{
    public static string Camel(Enum value) => value.ToString() is var name ? char.ToLowerInvariant(name[0]) + name[1..] : "";
}
