using Auxilium.Planning.Plans;
using Auxilium.Storage.People;

namespace Auxilium.Web.Tests;

/// <summary>Whom a comment mentions.</summary>
public class MentionTests
{
    private static readonly Person[] People =
    [
        new("imke", "Imke Varga", "IV"),
        new("anna", "Anna Berg", "AB"),
        new("anna-2", "Anna Bergmann", "AB"),
        new("jo", "Jo-Ann Søren", "JS"),
    ];

    [Theory]
    [InlineData("Ask @Imke Varga.", "imke")]
    [InlineData("@imke, please", "imke")]
    [InlineData("(@IV)", "imke")]
    [InlineData("@Anna Bergmann knows", "anna-2")]
    [InlineData("@anna berg knows", "anna")]
    [InlineData("@Jo-Ann Søren!", "jo")]
    [InlineData("@Imke and @imke varga", "imke")]
    [InlineData("@Jo-Ann and @IV", "jo imke")]
    [InlineData("@Anna is one of two", "")]
    [InlineData("@AB too", "")]
    [InlineData("write to wanda@imke.example", "")]
    [InlineData("@", "")]
    [InlineData("@@Imke", "imke")]
    [InlineData("no one", "")]
    public void Names_first_names_and_initials_mention_whom_they_can_only_mean(string text, string people) =>
        Assert.Equal(people, string.Join(' ', Mentions.In(text, People)));
}
