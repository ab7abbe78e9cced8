using Auxilium.Drawing.Ink;

namespace Auxilium.Drawing.Tests;

/// <summary>Setting text: order, cutting and wrapping.</summary>
public sealed class LetteringTests : IDisposable
{
    private readonly Lettering _letters = new();

    public void Dispose() => _letters.Dispose();

    [Theory]
    [InlineData("Rig the lanterns", "Rig the lanterns")]
    [InlineData("חשמל", "<חשמל>")]
    [InlineData("Power חשמל now", "Power |<חשמל>| now")]
    [InlineData("חשמל for stage", "for stage|<חשמל >")]
    [InlineData("חשמל 12 קו", "< קו>|12|<חשמל >")]
    [InlineData("12 Stalls", "12 Stalls")]
    public void Stretches_stand_in_the_order_in_which_they_are_read(string text, string expected)
    {
        var runs = TextRuns.Of(text, Face.Text);
        // Fonts may part what has one direction.
        var said = new List<(string Text, bool FromRight)>();
        foreach (var run in runs)
            if (said.Count > 0 && said[^1].FromRight == run.IsFromRight)
                said[^1] = (run.IsFromRight ? run.Text + said[^1].Text : said[^1].Text + run.Text, run.IsFromRight);
            else
                said.Add((run.Text, run.IsFromRight));
        Assert.Equal(
            expected.Replace("|", "", StringComparison.Ordinal),
            string.Concat(said.Select(s => s.FromRight ? $"<{s.Text}>" : s.Text))
        );
    }

    [Fact]
    public void What_is_cut_fits_and_says_so()
    {
        const string Name = "Agree the closing of the towpath with the harbour office";
        for (var width = 20; width < 400; width += 13)
        {
            var cut = _letters.Fit(Name, Face.Text, 11, width);
            Assert.True(_letters.WidthOf(cut, Face.Text, 11) <= width);
            if (cut != Name)
                Assert.EndsWith("…", cut, StringComparison.Ordinal);
        }
        Assert.Equal(Name, _letters.Fit(Name, Face.Text, 11, 1000));
    }

    [Theory]
    [InlineData("Agree the closing of the towpath with the harbour office")]
    [InlineData("Donaudampfschifffahrtsgesellschaftskapitänsmützenband für alle")]
    [InlineData("one\ntwo three")]
    public void Wrapped_lines_fit_and_lose_nothing(string text)
    {
        for (var width = 40; width < 300; width += 20)
        {
            var lines = _letters.Wrap(text, Face.Text, 11, width);
            Assert.All(lines, line => Assert.True(_letters.WidthOf(line, Face.Text, 11) <= width));
            Assert.Equal(Letters(text), Letters(string.Concat(lines)));
        }

        static string Letters(string of) => string.Concat(of.Where(c => !char.IsWhiteSpace(c)));
    }

    [Fact]
    public void A_text_of_any_characters_can_be_set()
    {
        var random = new Random(4);
        for (var i = 0; i < 2_000; i++)
        {
            var text = new string([.. Enumerable.Range(0, random.Next(1, 30)).Select(_ => (char)random.Next(1, 0x10000))]);
            Assert.InRange(_letters.Set(text, Face.Text, 11).Width, 0, 10_000);
        }
    }
}
