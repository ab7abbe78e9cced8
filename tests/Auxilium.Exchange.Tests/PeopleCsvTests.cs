using Auxilium.Exchange.People;

namespace Auxilium.Exchange.Tests;

/// <summary>Lists of people as they come out of other programs.</summary>
public class PeopleCsvTests
{
    [Theory]
    [InlineData("Name,Mail\nAda Moor,ada@quay.example\n")]
    [InlineData("name;e-mail\r\nAda Moor;ada@quay.example\r\n")]
    [InlineData("Email\tFull name\nada@quay.example\tAda Moor\n\n")]
    [InlineData("Name,Mail,Shoe size\n\"Ada Moor\",\"ada@quay.example\",39\n")]
    [InlineData(" Name , Mail \n Ada Moor , ada@quay.example ")]
    public void Columns_stand_in_any_order_between_any_of_three_signs(string text)
    {
        var (lines, problem) = Read(text);
        Assert.Null(problem);
        var only = Assert.Single(lines);
        Assert.Equal(("Ada Moor", "ada@quay.example", (string?)null), (only.Name, only.Mail, only.Problem));
    }

    [Fact]
    public void Quoted_cells_may_have_the_sign_and_lines_in_them()
    {
        var (lines, _) = Read("Name,Role,Team\n\"Moor, Ada\",\"Bow \"\"one\"\"\",Crew\n\"Two\nlines\",,\n");
        Assert.Equal(("Moor, Ada", "Bow \"one\"", "Crew"), (lines[0].Name, lines[0].Role, lines[0].Team));
        Assert.Contains("control characters", lines[1].Problem, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("volunteer", "Volunteer")]
    [InlineData("Outside supplier", "Supplier")]
    [InlineData("EMPLOYEE", "Staff")]
    [InlineData("", null)]
    public void A_kind_is_read_as_people_say_it(string typed, string? kind)
    {
        var line = Assert.Single(Read($"Name,Kind\nAda,{typed}\n").Lines);
        Assert.Equal((kind, (string?)null), (line.Kind, line.Problem));
    }

    [Theory]
    [InlineData("Name,Mail\n,ada@quay.example", "The name is missing.")]
    [InlineData("Name,Mail\n42,ada@quay.example", "A name has letters.")]
    [InlineData("Name,Mail\nAda,ada at quay", "“ada at quay” is no mail address.")]
    [InlineData("Name,Kind\nAda,robot", "“robot” is no kind of person: use staff, volunteer or supplier.")]
    [InlineData("Name,Initials\nAda,ABCDEFGHIJKLMNOPQ", "Initials have at most 16 characters.")]
    public void What_is_wrong_with_a_line_is_said(string text, string problem) =>
        Assert.Equal(problem, Assert.Single(Read(text).Lines).Problem);

    [Fact]
    public void Somebody_who_stands_in_the_list_twice_is_taken_once()
    {
        var (lines, _) = Read("Name,Mail\nAda,a@b.example\nAda M.,A@B.example\nBo,\nbo,\n");
        Assert.Equal(
            [null, "This person stands in the list twice.", null, "This person stands in the list twice."],
            lines.Select(l => l.Problem)
        );
        Assert.Equal([2, 3, 4, 5], lines.Select(l => l.Number));
    }

    [Theory]
    [InlineData("", "The list is empty")]
    [InlineData("Mail,Team\na@b.example,Crew", "No column is called “Name”")]
    [InlineData("Name,Mail\n", "its line of columns only")]
    public void A_list_that_cannot_be_read_says_why(string text, string problem)
    {
        var (lines, why) = Read(text);
        Assert.Empty(lines);
        Assert.Contains(problem, why, StringComparison.Ordinal);
    }

    [Fact]
    public void A_list_has_a_most()
    {
        var (_, problem) = Read("Name\n" + string.Join('\n', Enumerable.Range(0, PeopleCsv.MostLines + 1).Select(i => $"Ada {i}")));
        Assert.Contains("more than 2,000 people", problem, StringComparison.Ordinal);
    }

    private static (IReadOnlyList<PersonLine> Lines, string? Problem) Read(string text) =>
        PeopleCsv.Read(text, mail => mail.Contains('@', StringComparison.Ordinal));
}
