using CsvHelper;
using CsvHelper.Configuration;
using MintHarbor.Core.Courses;
using NodaTime;
using Xunit;

namespace MintHarbor.Core.Tests.Courses;

public class CourseTests
{
    private static readonly HashSet<string> None = [];

    /// <summary>Published: ISO 216 sizes; the inch of 25.4 mm.</summary>
    [Theory]
    [
        InlineData("A4", 210, 297),
        InlineData("A3", 297, 420),
        InlineData("A2", 420, 594),
        InlineData("A1", 594, 841),
        InlineData("18x24in", 457.2, 609.6)
    ]
    public void Papers_have_their_true_size(string id, double w, double h)
    {
        var p = PaperSize.Find(id)!;
        Assert.Equal((w, h), (Math.Round(p.WidthMm, 6), Math.Round(p.HeightMm, 6)));
    }

    [Theory]
    [InlineData("457.2x609.6", 457.2), InlineData("A4", 210)]
    public void A_size_is_read_from_text(string text, double width) => Assert.Equal(width, PaperSize.Parse(text).WidthMm);

    [Theory]
    [InlineData("axb"), InlineData("0x10"), InlineData("")]
    public void A_bad_size_says_what_is_accepted(string text) =>
        Assert.Equal("paper", Assert.Throws<InputException>(() => PaperSize.Parse(text)).Field);

    /// <summary>Published: RFC 4180, quoted fields with commas, doubled quotes and line breaks; CRLF line ends.</summary>
    [Fact]
    public void A_roster_is_read_by_RFC_4180()
    {
        var r = Roster.Read(
            "name,mail\r\n\"Holt, Maren\",maren@example.org\r\n\"Bram \"\"B\"\" Sedge\",bram@example.org\r\n\"Two\r\nlines\",two@example.org\r\n",
            None
        );
        Assert.Equal(["Holt, Maren", "Bram \"B\" Sedge", "Two\r\nlines"], r.Rows.Select(x => x.Name));
        Assert.Equal("name with control characters", r.Rows[2].Error);
    }

    [Fact]
    public void Each_bad_row_says_why_and_nothing_can_be_imported_while_one_stands()
    {
        var r = Roster.Read(
            "Mail;Name\nok@example.org;Ada\nnot-a-mail;Bo\nok@example.org;Twice\n;No mail\nin@example.org;Old\n",
            new HashSet<string> { "in@example.org" }
        );
        Assert.Equal(
            [null, "'not-a-mail' is not a mail address", "the same mail as line 2", "no mail address", "already in this course"],
            r.Rows.Select(x => x.Error)
        );
        Assert.Equal([2, 3, 4, 5, 6], r.Rows.Select(x => x.Line));
        Assert.False(r.CanImport);
        Assert.True(Roster.Read("\uFEFFname,email\nAda,a@example.org\n", None).CanImport);
    }

    [Theory]
    [InlineData(""), InlineData("foo,bar\n1,2\n"), InlineData("name,mail\n")]
    public void A_file_without_students_is_explained(string text) => Assert.NotNull(Roster.Read(text, None).Error);

    /// <summary>Reference library: a written line is read back by CsvHelper as RFC 4180.</summary>
    [Fact]
    public void Written_lines_are_read_back_and_formulas_are_disarmed()
    {
        string[] fields = ["a,b", "say \"so\"", "line\nbreak", "", "ä", "-3"];
        using var csv = new CsvReader(
            new StringReader(Roster.Csv([fields])),
            new CsvConfiguration(System.Globalization.CultureInfo.InvariantCulture) { HasHeaderRecord = false }
        );
        csv.Read();
        Assert.Equal(fields, Enumerable.Range(0, fields.Length).Select(i => csv.GetField(i)!));
    }

    /// <summary>What a spreadsheet runs begins with one of six characters (OWASP, CSV Injection); a number keeps its sign.</summary>
    [Theory]
    [InlineData("=1+1", "'=1+1"), InlineData("+1+1", "'+1+1"), InlineData("@SUM(1)", "'@SUM(1)"), InlineData("\t=1", "'\t=1")]
    [InlineData("-2+3+cmd|' /C calc'!A0", "'-2+3+cmd|' /C calc'!A0"), InlineData("-A1", "'-A1"), InlineData("-", "'-")]
    [InlineData("-3", "-3"), InlineData("-3.25", "-3.25"), InlineData("a-b", "a-b"), InlineData("", "")]
    public void A_formula_is_disarmed_and_a_number_stays_one(string field, string read)
    {
        using var csv = new CsvReader(
            new StringReader(
                Roster.Csv([
                    [field, "x"],
                ])
            ),
            new CsvConfiguration(System.Globalization.CultureInfo.InvariantCulture) { HasHeaderRecord = false }
        );
        csv.Read();
        Assert.Equal(read, csv.GetField(0));
    }
}
