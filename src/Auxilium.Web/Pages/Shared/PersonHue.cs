namespace Auxilium.Web.Pages.Shared;

/// <summary>Which of the nine colours of the style sheet a person's initials have on every page.</summary>
internal static class PersonHue
{
    private const int Hues = 9;

    public static int Of(string person) => person.Aggregate(0, (hash, c) => (hash * 31 + c) & int.MaxValue) % Hues;
}
