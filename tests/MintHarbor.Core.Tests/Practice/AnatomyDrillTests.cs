using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Practice;
using Xunit;

namespace MintHarbor.Core.Tests.Practice;

/// <summary>Drills of bones, muscles and the face: what is asked is seen, what is right is right, and it gets finer.</summary>
public class AnatomyDrillTests
{
    private static IReadOnlyList<DrillItem> Items(string kind, double difficulty, bool clothed = false, long seed = 5) =>
        Drills.Get(kind).Items(seed, difficulty, 40, clothed);

    public static TheoryData<string> Kinds => [.. Drills.Anatomical.Select(d => d.Kind)];

    [Theory]
    [MemberData(nameof(Kinds))]
    public void Items_come_again_from_their_seed_and_differ_with_another(string kind)
    {
        Assert.Equal(Items(kind, 0.4).Select(i => (i.Anatomy!.Of, i.Truth)), Items(kind, 0.4).Select(i => (i.Anatomy!.Of, i.Truth)));
        Assert.NotEqual(Items(kind, 0.4).Select(i => i.Anatomy!.Of), Items(kind, 0.4, seed: 6).Select(i => i.Anatomy!.Of));
    }

    [Theory]
    [MemberData(nameof(Kinds))]
    public void A_round_is_kept_as_text_and_goes_on(string kind)
    {
        var state = new DrillRoundState(kind, 31, 0.2, false, []) { Finer = true }.Kept();
        for (var n = 0; n < 10; n++)
        {
            var text = System.Text.Json.JsonSerializer.Serialize(state, System.Text.Json.JsonSerializerOptions.Web);
            state = System.Text.Json.JsonSerializer.Deserialize<DrillRoundState>(text, System.Text.Json.JsonSerializerOptions.Web)!;
            state = state.Answered(state.Replay().Next!.Truth.Value);
        }
        Assert.True(state.Finished);
        Assert.All(state.Replay().Done, d => Assert.True(d.Score.Correct));
        // Ten right in a row: harder than it began.
        Assert.True(state.Replay().Difficulty > 0.4);
    }

    [Theory]
    [MemberData(nameof(Kinds))]
    public void An_item_has_a_picture_that_does_not_tell(string kind)
    {
        var svg = DrillPicture.Svg(Items(kind, 0.2)[0]);
        Assert.StartsWith("<svg", svg, StringComparison.Ordinal);
        System.Xml.Linq.XDocument.Parse(svg);
        // Neither the triangle of a mistake nor the dot of the truth.
        Assert.DoesNotContain("l5 8.6h-10z", svg, StringComparison.Ordinal);
        Assert.DoesNotContain("#2A7F68", svg, StringComparison.Ordinal);
    }

    [Fact]
    public void The_wrong_one_lies_left_as_often_as_right_and_grows_finer()
    {
        var items = Items("which-mistake", 0, seed: 9);
        Assert.InRange(items.Count(i => i.Truth.Value == 0), 10, 30);
        Assert.All(items, i => Assert.Equal(1, i.Anatomy!.By));
        var fine = Items("which-mistake", 1);
        Assert.All(fine, i => Assert.InRange(i.Anatomy!.By, 0.3, 0.4));
        Assert.Contains(items, i => i.Anatomy!.Ask == AnatomyAsk.HeadMistake);
        Assert.Contains(items, i => i.Anatomy!.Ask == AnatomyAsk.BodyMistake);
        var drill = Drills.Get("which-mistake");
        var first = items[0];
        Assert.True(drill.Score(first, first.Truth.Value, 0.5).Correct);
        Assert.False(drill.Score(first, 1 - first.Truth.Value, 0.5).Correct);
        foreach (var no in new[] { -1, 0.5, 2, double.NaN })
            Assert.Throws<InputException>(() => drill.Score(first, no, 0.5));
    }

    [Fact]
    public void Under_the_garment_no_muscle_is_asked_for()
    {
        Assert.DoesNotContain(Items("name-it", 0.5, clothed: true), i => i.Anatomy!.Ask == AnatomyAsk.MuscleName);
        Assert.DoesNotContain(Items("which-mistake", 0.2, clothed: true), i =>
            i.Anatomy!.Ask == AnatomyAsk.BodyMistake && BodyChecks.Find(CheckOn.Read(i.Anatomy.Of).Check.Id).Muscles.Length > 0
        );
        Assert.DoesNotContain(Items("place-it", 0.5, clothed: true), i => i.Anatomy!.Of.StartsWith("deltoid", StringComparison.Ordinal));
    }

    [Fact]
    public void A_name_is_offered_once_among_four_and_the_others_come_nearer()
    {
        double Away(double difficulty) =>
            Items("name-it", difficulty)
                .Average(i =>
                {
                    var seat = AnatomySeen.All.Seats.Single(s => s.Pose == i.Anatomy!.Pose && s.Azimuth == i.Anatomy.At);
                    var parts = i.Anatomy!.Ask == AnatomyAsk.BoneName ? seat.Bones : seat.Muscles;
                    return i
                        .Anatomy.Choices.Where((_, n) => n != (int)i.Truth.Value)
                        .Average(c => parts.Where(p => AnatomyParts.Name(p.Id) == c).Min(p => Math.Abs(p.Y - i.Asked.From.Y)));
                });
        Assert.All(Items("name-it", 0.5), i =>
        {
            Assert.Equal(4, i.Anatomy!.Choices.Distinct().Count());
            Assert.Equal(AnatomyParts.Name(i.Anatomy.Of), i.Anatomy.Choices[(int)i.Truth.Value]);
        });
        Assert.True(Away(1) < 0.6 * Away(0), $"{Away(1)} against {Away(0)}");
    }

    /// <summary>A figure 1.72 m tall or thereabouts stands some 640 of 720 pixels high: a pixel is near 2.7 mm.</summary>
    [Fact]
    public void A_place_is_measured_in_millimetres_of_life()
    {
        var item = Items("place-it", 0.3).First(i => i.Anatomy!.Pose == "stand");
        Assert.InRange(item.Anatomy!.MmPerPixel, 2.4, 3.1);
        var at = item.Asked.From;
        Assert.Equal(0, PlaceIt.Apart(item, at));
        Assert.Equal(10 * item.Anatomy.MmPerPixel, PlaceIt.Apart(item, new(at.X + 6, at.Y - 8)), 0.1);
        var drill = Drills.Get("place-it");
        Assert.True(drill.Score(item, 40, 0).Correct);
        Assert.False(drill.Score(item, 40, 1).Correct);
        Assert.Equal("40 mm beside it, on a figure as tall as life", drill.SayError(40));
    }

    /// <summary>What is shipped as seen is seen on the figure as it is now, and left is the figure's own left.</summary>
    [Fact]
    public void Shipped_places_lie_where_the_figure_has_them()
    {
        var studio = new StudioFigure();
        var model = studio.Model(AnatomySeen.Body, FigureCatalogue.Pose("stand"), Drapery.For(false, false), StudioFigure.Coarse);
        foreach (var seat in AnatomySeen.All.Seats.Where(s => s.Pose == "stand"))
        {
            var now = AnatomySeen.OnSkin(model, AnatomySeen.Seat(seat.Azimuth)).ToDictionary(p => p.Id);
            Assert.Equal(seat.Places.Select(p => p.Id).Order(), now.Keys.Order());
            Assert.All(seat.Places, p => Assert.InRange(Math.Abs(p.X - now[p.Id].X) + Math.Abs(p.Y - now[p.Id].Y), 0, 2));
        }
        // Seen from in front, the figure's left is the picture's right.
        var front = AnatomySeen.All.Seats.Single(s => s is { Pose: "stand", Azimuth: 0 }).Places.ToDictionary(p => p.Id);
        Assert.True(front["patella.L"].X > front["patella.R"].X);
        Assert.True(front["hip-point.L"].Y < front["patella.L"].Y);
        Assert.DoesNotContain("blade-corner.L", front.Keys);
    }

    [Fact]
    public void Every_place_is_asked_for_from_somewhere()
    {
        var asked = AnatomySeen.All.Seats.SelectMany(s => s.Places).Select(p => p.Id).ToHashSet();
        Assert.All(AnatomySeen.Places, p => Assert.Contains(p.Id, asked));
        Assert.Equal("the inner ankle, the model's right", AnatomySeen.NameOf("ankle-inner.R"));
        Assert.Equal("the pit of the neck", AnatomySeen.NameOf("pit"));
    }

    [Theory]
    [InlineData("ankles")]
    [InlineData("calf")]
    [InlineData("kneecap")]
    public void A_mistake_made_by_less_lies_nearer_to_the_truth(string id)
    {
        var check = BodyChecks.Find(id);
        var model = new FigureModel(FigureCatalogue.Body("male"), MuscleSheets.Rest, false, StudioFigure.Coarse);
        CheckDrawing Drawn(bool wrong, double by) => BodyChecks.Draw(model, check, 1, new(id == "calf" ? 180 : 20), wrong, 120, by);
        static int Apart(CheckDrawing a, CheckDrawing b) =>
            a.Wash!.Pixels.Zip(b.Wash!.Pixels).Count(p => Math.Abs((p.First >> 24) - (double)(p.Second >> 24)) > 24);
        var right = Drawn(false, 1);
        int all = Apart(right, Drawn(true, 1)),
            some = Apart(right, Drawn(true, 0.35));
        Assert.InRange(some, 1, all * 0.8);
    }

    [Fact]
    public void A_head_s_mistake_made_by_less_lies_nearer_to_the_truth()
    {
        var studio = new StudioHead(2.5f);
        var levels = HeadLevels.Of(Core.Canons.CanonTable.Get("classical-head"));
        float Eyes(bool wrong, double by) =>
            HeadChecks.Draw(studio, levels, HeadChecks.Find("eye-line"), 1, new(0), wrong, 160, by).Key[0].Y;
        Assert.Equal((Eyes(true, 1) - Eyes(false, 1)) * 0.5f, Eyes(true, 0.5) - Eyes(false, 1), 1f);
        Assert.Equal(Eyes(false, 1), Eyes(false, 0.4));
    }
}
