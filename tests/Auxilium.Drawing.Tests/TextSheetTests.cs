using Auxilium.Drawing.Ink;
using Auxilium.Drawing.Sheets;

namespace Auxilium.Drawing.Tests;

/// <summary>Pages that are read: where they may end.</summary>
public sealed class TextSheetTests : IDisposable
{
    private readonly Lettering _letters = new();

    public void Dispose() => _letters.Dispose();

    [Fact]
    public void What_introduces_a_table_is_never_the_last_on_a_page()
    {
        var table = new TableBlock(
            [("Task", 3), ("When", 1)],
            [
                ["Fence", "Mon"],
                ["Power", "Tue"],
            ]
        );
        var sheet = new TextSheet([new HeadingBlock("Ann"), new ParagraphBlock("Late", IsStrong: true), table], _letters);
        var alone = new TextSheet([new HeadingBlock("Ann"), new ParagraphBlock("Late", IsStrong: true)], _letters);
        var head = new TextSheet([table with { Rows = [] }], _letters);
        // The first place to end is behind the first row, not behind the heading, the paragraph or the head of the table.
        Assert.True(sheet.Ends[0] > alone.BodyHeight + head.Ends[0] - 10);
        Assert.Equal(sheet.BodyHeight, sheet.Ends[^1]);
    }

    [Fact]
    public void Narrow_columns_wrap_and_the_sheet_grows()
    {
        var sheet = new TextSheet(
            [
                new TableBlock(
                    [("Task", 1), ("Note", 1)],
                    [
                        ["Agree the closing of the towpath with the harbour office", ""],
                    ]
                ),
            ],
            _letters
        );
        var wide = sheet.BodyHeight;
        sheet.FillWidth(320);
        Assert.Equal(320, sheet.BodyWidth);
        Assert.True(sheet.BodyHeight > wide);
    }
}
