using System.Globalization;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Practice;

namespace MintHarbor.Core.Hands;

/// <summary>Draw it under the skin: a bone is drawn into the outline of a pose, where it lies.</summary>
public sealed class UnderTheSkin : HandDrill
{
    public override string Kind => "under-the-skin";
    public override string Name => "Draw it under the skin";
    public override string About => "bones drawn into the outline of a pose, where they lie";
    public override string How => "Find its two ends first, where bone comes to the skin; then its thickness.";
    public override string Unit => " %";
    public override int Length => 4;
    public override int Minutes => 3;
    public override IReadOnlyList<string> Strokes => ["its outline, in one go"];
    protected override (double Easy, double Hard) Width => (58, 32);

    public override string SayError(double error) => $"{Say.Number(error)} % not shared with the bone";

    public override string SayWidth(double width) => $"{Say.Number(width)} %";

    /// <summary>Slender bones leave less room: they are the harder ones.</summary>
    private static readonly string[] Broad = ["skull", "ribcage", "pelvis"];

    protected override IReadOnlyList<DrillItem> Made(long seed, double difficulty, int count, bool clothed, DrillViews from)
    {
        var random = new SeededRandom(seed);
        var items = new List<DrillItem>();
        while (items.Count < count)
        {
            var seat = AnatomySeen.All.Seats[random.Next(AnatomySeen.All.Seats.Length)];
            // Every other one broad at first; all slender at the end.
            var broad = random.Next(100) >= 100 * Math.Clamp(0.25 + (0.75 * difficulty), 0, 1);
            var pool = seat.Under.Where(b => Broad.Contains(b.Id) == broad).ToList();
            var bone = pool[random.Next(pool.Count)];
            items.Add(Item(string.Create(CultureInfo.InvariantCulture, $"{seed}-{items.Count}"), seat, bone, clothed));
        }
        return items;
    }

    private DrillItem Item(string id, AnatomySeat seat, SeenBone bone, bool clothed)
    {
        var skin = Places(clothed ? seat.Clothed : seat.Outline);
        return new(
            id,
            "",
            false,
            new(default, default),
            null,
            $"Draw {SeenBones.NameOf(bone.Id)}: its outline, where it lies.",
            new(0, Unit)
        )
        {
            Hand = new(
                new(AnatomySeen.Width, AnatomySeen.Height),
                [new(GivenStyle.Faint, skin, Closed: true)],
                null,
                [new(Places(bone.At), Closed: true)]
            ),
        };
    }

    private static List<Vec2> Places(int[] at) => [.. at.Chunk(2).Select(p => new Vec2(p[0], p[1]))];

    /// <summary>The drawn shape against the bone, where both lie; and how far its middle lies aside.</summary>
    protected override HandReading Reading(DrillItem item, PenTrace trace, double allowed)
    {
        var bone = item.Hand!.Truth[0].Places;
        var drawn = Outlined(trace, "the bone");
        return NotShared(bone, drawn, trace, allowed, doubt =>
            [
                new(HandMeasures.Size, 100 * ((Polygons.Area(drawn) / Polygons.Area(bone)) - 1), doubt),
                new(HandMeasures.Aside, (Area.Round(drawn).Middle - Area.Round(bone).Middle).Length * trace.Mm, trace.Doubt),
            ]
        );
    }
}
