using System.Net;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Geometry;
using MintHarbor.Media;
using MintHarbor.Store.Actions;
using MintHarbor.Store.Model;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Content;
using Xunit;

namespace MintHarbor.Web.Tests;

/// <summary>The critique as a page, read back by another library.</summary>
public sealed class CritiquePrintTests(DemoFixture fixture) : IClassFixture<DemoFixture>
{
    private const double Mm = 72 / 25.4;

    private HarborApp App => fixture.App;

    private static string Words(Page page) => string.Join(' ', page.GetWords().Select(w => w.Text));

    private static string Plain(string text) => string.Join(' ', text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));

    [Theory]
    [InlineData("A4", 210, 297), InlineData("letter", 215.9, 279.4)]
    public async Task A_released_critique_prints_with_its_priorities_beside_the_sheet(string paper, double width, double height)
    {
        var sheet = await App.Read(db =>
            db.Sheets.AsNoTracking().Include(s => s.Student).OrderBy(s => s.Id).FirstAsync(s => s.CourseId == 1 && s.ReleasedAt != null)
        );
        var student = await App.AsNamed(sheet.Student.Name);
        Assert.Contains($"{sheet.Id}/pdf", await student.Text($"/courses/1/critique/{sheet.Id}"));
        using var answer = await student.GetAsync($"/courses/1/critique/{sheet.Id}/pdf?paper={paper}");
        Assert.Equal("application/pdf", answer.Content.Headers.ContentType!.MediaType);
        using var pdf = PdfDocument.Open(await answer.Content.ReadAsByteArrayAsync());
        var page = pdf.GetPage(1);
        Assert.Equal(width, page.Width / Mm, 1);
        Assert.Equal(height, page.Height / Mm, 1);
        var image = Assert.Single(page.GetImages());
        // To its own proportions, whatever the page's.
        Assert.Equal(sheet.PaperWidthMm / sheet.PaperHeightMm, image.BoundingBox.Width / image.BoundingBox.Height, 2);
        var said = Plain(Words(page));
        Assert.Contains(sheet.Student.Name, said);
        Assert.Contains(sheet.Code, said);
        var priorities = sheet.Remarks.Where(r => r.Priority is not null).OrderBy(r => r.Priority).ToList();
        Assert.NotEmpty(priorities);
        // Words break over rows: each one's first three stand together, in the order of their priority.
        var at = priorities
            .Select(r => said.IndexOf(string.Join(' ', Plain(r.Next).Split(' ').Take(3)), StringComparison.Ordinal))
            .ToList();
        Assert.All(at, i => Assert.True(i >= 0));
        Assert.Equal(at.Order(), at);
        Assert.All(pdf.GetPages().SelectMany(p => p.Letters.Select(l => (l, p))), x =>
            Assert.True(x.l.BoundingBox.Left >= 0 && x.l.BoundingBox.Right <= x.p.Width && x.l.BoundingBox.Bottom >= 0)
        );
    }

    [Fact]
    public async Task Only_who_may_read_it_prints_it_and_on_paper_that_there_is()
    {
        var waiting = await App.Read(db =>
            db.Sheets.AsNoTracking().Include(s => s.Student).FirstAsync(s => s.CourseId == 1 && s.State == SheetState.Waiting)
        );
        var path = $"/courses/1/critique/{waiting.Id}/pdf";
        var staff = await App.As("edda@saltmarsh.example");
        Assert.Equal(HttpStatusCode.OK, (await staff.GetAsync(path)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await (await App.AsNamed(waiting.Student.Name)).GetAsync(path)).StatusCode);
        var refused = await staff.GetAsync(path + "?paper=A0");
        Assert.Equal(HttpStatusCode.BadRequest, refused.StatusCode);
        Assert.Contains("A4 | letter", WebUtility.HtmlDecode(await refused.Content.ReadAsStringAsync()));
    }

    /// <summary>As long as the fields allow: it goes on over the page, and no letter leaves the paper.</summary>
    [Fact]
    public void A_long_critique_goes_on_over_the_page()
    {
        var word = string.Concat(Enumerable.Repeat("shoulder", 30));
        var long_ = string.Join(' ', Enumerable.Repeat("the far knee lies a hand lower than the plumb", 8));
        var remarks = Enumerable
            .Range(1, 9)
            .Select(n => new PrintedRemark(
                n <= 3 ? n : null,
                $"Item{n} {long_}",
                [("Where", long_), ("What", word), ("Why", long_)],
                n % 2 == 0 ? null : new Vec2(40 * n, 30 * n)
            ))
            .ToList();
        using var photo = Photo.Read(BadFiles.Png(120, 160));
        var critique = new PrintedCritique(
            "A course",
            word,
            "Nell Orchard, 4-G-3",
            long_,
            remarks,
            [.. Enumerable.Repeat(long_, 6)],
            long_,
            photo.Encode(SkiaSharp.SKEncodedImageFormat.Jpeg, 80),
            457.2,
            609.6
        );
        foreach (var paper in new[] { "A4", "letter" })
        {
            var faces = App.Services.GetRequiredService<IPaperPrints>().Faces;
            using var pdf = PdfDocument.Open(CritiquePrint.Draw(critique, PaperSize.Find(paper)!, faces));
            Assert.True(pdf.NumberOfPages > 2);
            var all = string.Join(' ', pdf.GetPages().Select(Words));
            Assert.All(Enumerable.Range(1, 9), n => Assert.Contains($"Item{n}", all));
            foreach (var page in pdf.GetPages())
                Assert.All(page.Letters, l =>
                    Assert.True(
                        l.BoundingBox.Left >= 14 * Mm && l.BoundingBox.Right <= page.Width - (13 * Mm) && l.BoundingBox.Bottom >= 10 * Mm,
                        $"“{l.Value}” at {l.BoundingBox} of page {page.Number}"
                    )
                );
        }
    }
}
