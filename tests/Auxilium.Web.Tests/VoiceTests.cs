using System.Net;
using System.Runtime.CompilerServices;
using System.Text.RegularExpressions;

namespace Auxilium.Web.Tests;

/// <summary>Words that Auxilium no longer uses, on its pages, in its scripts and in its documents.</summary>
public partial class VoiceTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private static readonly string[] NoLongerSaid =
    [
        "Keep this",
        "The password you have",
        "The same once more",
        "Second step",
        "Come in",
        "Money for an hour",
        "For each task",
        "Has to do",
        "Twice in the directory",
        "Make them one",
        "Kept.",
        "Taken away.",
        "As usual",
        "Let in",
        "take part: report",
        "Hand it out",
        "In my calendar program",
        "Start planning",
        "Not now",
        "See how it is read",
        "Cannot hold as it is",
        "Could be sounder",
        "keeps the plan from holding",
        "Only tasks",
        "Together by",
        "The last first",
        "Rows by",
        "Bars by",
        "Beside bars",
        "Setting the finish",
        "Forget the view",
        "Pick nothing",
        "now leads over",
        "way to the finish is now",
        "What is everybody",
        "takes no part",
        "take no part",
        "task no more",
        "tasks no more",
        "milestones no more",
        "repeats no more",
        "it should go not after",
        "Look otherwise",
        "It goes on <",
        "A day without work <",
        "Viewers look.",
        "Be several",
        "Say what comes again",
        "Bring in a list",
        "Add somebody",
        "less than no float",
        "Save week",
        ">Notices<",
        "What I am told",
        "\"Do it\"",
        "please",
    ];

    [Theory]
    [InlineData("/")]
    [InlineData("/my-week")]
    [InlineData("/people")]
    [InlineData("/people/new")]
    [InlineData("/people/import")]
    [InlineData("/people/tomas")]
    [InlineData("/organisation")]
    [InlineData("/audit")]
    [InlineData("/account")]
    [InlineData("/notices")]
    [InlineData("/post")]
    [InlineData("/projects/new")]
    [InlineData("/archive")]
    [InlineData("/projects/{id}")]
    [InlineData("/projects/{id}/sharing")]
    [InlineData("/projects/{id}/settings")]
    [InlineData("/projects/{id}/check-up")]
    [InlineData("/projects/{id}/forecast")]
    [InlineData("/projects/{id}/journal")]
    [InlineData("/projects/{id}/report")]
    [InlineData("/projects/{id}/close")]
    public async Task A_page_says_it_in_ordinary_words(string path)
    {
        var project = await demo.Api.NewChainAsync();
        using var answer = await demo.Api.Http.GetAsync(path.Replace("{id}", project.ToString(), StringComparison.Ordinal));
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        var page = await answer.Content.ReadAsStringAsync();
        AssertPlain(path, WebUtility.HtmlDecode(Scripts().Replace(page, "")));
    }

    [Fact]
    public void Scripts_rules_and_documents_say_it_in_ordinary_words()
    {
        var root = Root();
        string[] folders = ["src/Auxilium.Web/Frontend", "src/Auxilium.Planning", "src/Auxilium.Exchange", "docs"];
        var files = folders
            .SelectMany(folder => Directory.EnumerateFiles(Path.Combine(root, folder), "*", SearchOption.AllDirectories))
            .Where(file => Path.GetExtension(file) is ".js" or ".cs" or ".md")
            .Append(Path.Combine(root, "README.md"));
        foreach (var file in files)
            AssertPlain(file, Comments().Replace(File.ReadAllText(file), ""));
    }

    private static void AssertPlain(string where, string text) =>
        Assert.Empty(NoLongerSaid.Where(said => Regex.IsMatch(text, $@"\b{Regex.Escape(said)}(?!\w)")).Select(said => $"{where}: {said}"));

    private static string Root([CallerFilePath] string here = "") => Path.GetFullPath(Path.Combine(Path.GetDirectoryName(here)!, "../.."));

    [GeneratedRegex("<script.*?</script>", RegexOptions.Singleline)]
    private static partial Regex Scripts();

    [GeneratedRegex(@"^\s*(//|\*|/\*).*$", RegexOptions.Multiline)]
    private static partial Regex Comments();
}
