using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Heads;

namespace MintHarbor.Core.Practice;

/// <summary>What a drill of anatomy shows.</summary>
public enum AnatomyAsk
{
    /// <summary>Two drawings of a check of the body, or of the head; one of them is wrong.</summary>
    BodyMistake,
    HeadMistake,

    /// <summary>A bone or a muscle, ringed.</summary>
    BoneName,
    MuscleName,

    /// <summary>A place to be put on the skin.</summary>
    Place,
}

/// <summary>A task of anatomy: its picture is drawn from the figure or the head when it is looked at.</summary>
/// <param name="Of">Key of the check; id of the part or the place.</param>
/// <param name="Pose">Of the figure; empty for the head.</param>
/// <param name="At">Azimuth of the seat, or the turn of the head, degrees.</param>
/// <param name="By">How much of the mistake is made, 1 all of it.</param>
/// <param name="Choices">What may be answered, in their order; empty where a place is.</param>
/// <param name="MmPerPixel">Of a figure as tall as life.</param>
public sealed record AnatomyTask(
    AnatomyAsk Ask,
    string Of,
    string Pose,
    double At,
    double By,
    IReadOnlyList<string> Choices,
    double MmPerPixel = 0
);

/// <summary>A drill of anatomy: its items are what <see cref="AnatomySeen"/> found to be seen.</summary>
public abstract class AnatomyDrill : Drill
{
    public override bool Signed => false;

    protected override IEnumerable<Candidate> Candidates(IReadOnlyList<StudioView> figures) => [];

    protected override double TruthOf(Marked asked, Marked? unit) => 0;

    protected override IReadOnlyList<DrillItem> Made(long seed, double difficulty, int count, bool clothed, DrillViews from)
    {
        var random = new SeededRandom(seed);
        var items = new List<DrillItem>();
        for (var n = 0; n < count; n++)
        {
            DrillItem item;
            var tries = 0;
            do item = Item($"{seed}-{n}", random, difficulty, clothed);
            while (tries++ < 20 && items.Any(i => i.Anatomy!.Of == item.Anatomy!.Of));
            items.Add(item);
        }
        return items;
    }

    protected abstract DrillItem Item(string id, SeededRandom random, double difficulty, bool clothed);

    /// <param name="at">The place of the picture that is asked about; nowhere where two pictures are.</param>
    protected DrillItem Asking(string id, string ask, double truth, AnatomyTask task, SeenPart? at = null)
    {
        var place = at is null ? new(0, 0) : new Vec2(at.X, at.Y);
        return new(id, "", false, new(place, place), null, ask, new(truth, Unit)) { Anatomy = task };
    }

    protected static T OneOf<T>(IReadOnlyList<T> list, SeededRandom random) => list[random.Next(list.Count)];
}

/// <summary>One of a few is right: the error is 0, or 1 for a wrong one.</summary>
public abstract class ChoiceDrill : AnatomyDrill
{
    public override string Unit => "choice";
    public override string Wanted => $"the number of a choice, {Asked}";
    public override bool HasLimit => false;
    protected override (double Easy, double Hard) Width => (0.5, 0.5);
    protected override int Decimals => 2;
    public override double Reach => 1;

    protected override double ErrorOf(double answer, double truth) => answer == truth ? 0 : 1;

    protected override bool Answerable(double value) => base.Answerable(value) && value == Math.Floor(value);

    public override string SayError(double error) =>
        error == 0 ? "found"
        : error >= 1 ? "missed"
        : $"{Say.Number(100 * error)} % missed";

    public override string SayWidth(double width) => $"{Say.Number(100 * width)} %";

    public override string SayAxis(double error) => $"{Say.Number(100 * error)} %";

    /// <summary>How many there are, and what is to be found among them.</summary>
    protected abstract string Among { get; }

    public override string SayRight(double allowed) => Among;
}

/// <summary>Which is the mistake? Two small drawings from one seat, one of them wrong in one thing, ever finer.</summary>
public sealed class WhichMistake : ChoiceDrill
{
    public override string Kind => "which-mistake";
    public override string Name => "Which is the mistake?";
    public override string About => "ten pairs of drawings; say which one is wrong";
    protected override string Among => "One of the two is wrong.";
    public override string How => "Look for one thing at a time: where it begins, where it ends, which of two is higher.";
    public override (double Least, double Most) Range => (0, 1);

    public override string SayValue(double value) => value == 0 ? "the left one" : "the right one";

    /// <summary>How small the mistake gets at the hardest, where it can be made smaller.</summary>
    private const double Finest = 0.35;

    private static readonly Lazy<Seen[]> Pool = new(() =>
        [
            .. AnatomySeen.All.Seats.SelectMany(s => s.Checks.Select(c => new Seen(CheckOn.Read(c), s.Pose, s.Azimuth))),
            .. AnatomySeen.All.Turns.SelectMany(t => t.Checks.Select(c => new Seen(CheckOn.Read(c), "", t.Turn))),
        ]
    );

    private sealed record Seen(CheckOn On, string Pose, double At)
    {
        public bool OfMuscles => On.Check is BodyCheck { OfMuscles: true };
        public bool Scales => On.Check is BodyCheck b ? b.Scales : ((HeadCheck)On.Check).Scales;
    }

    protected override DrillItem Item(string id, SeededRandom random, double difficulty, bool clothed)
    {
        // Where a mistake can't be made smaller it is an easy one.
        var pool = Pool.Value.Where(s => !(clothed && s.OfMuscles) && (difficulty < 0.5 || s.Scales)).ToList();
        var check = OneOf([.. pool.Select(s => s.On.Check.Id).Distinct().Order(StringComparer.Ordinal)], random);
        var seen = OneOf([.. pool.Where(s => s.On.Check.Id == check)], random);
        var by = seen.Scales ? Math.Round(1 - ((1 - Finest) * difficulty), 3) : 1;
        return Asking(
            id,
            $"{seen.On.Check.Name}: which drawing is wrong?",
            random.Next(2),
            new(
                seen.Pose == "" ? AnatomyAsk.HeadMistake : AnatomyAsk.BodyMistake,
                seen.On.Key,
                seen.Pose,
                seen.At,
                by,
                ["the left one", "the right one"]
            )
        );
    }
}

/// <summary>Name it: a bone or a muscle is ringed, four names are offered; the harder, the nearer the others lie.</summary>
public sealed class NameIt : ChoiceDrill
{
    private const int Offered = 4;

    public override string Kind => "name-it";
    public override string Name => "Name it";
    public override string About => "ten bones and muscles ringed on the figure; say which each is";
    protected override string Among => "One of the names is right.";
    public override string How => "Say where it begins and where it goes; the name follows.";
    public override (double Least, double Most) Range => (0, Offered - 1);

    public override string SayValue(double value) => $"the {new[] { "first", "second", "third", "fourth" }[(int)Math.Clamp(value, 0, 3)]}";

    protected override DrillItem Item(string id, SeededRandom random, double difficulty, bool clothed)
    {
        var bones = clothed || random.Next(2) == 0;
        var seat = OneOf(AnatomySeen.All.Seats, random);
        var parts = bones ? seat.Bones : seat.Muscles;
        var asked = OneOf(parts, random);
        string Stem(SeenPart p) => Sides.Stem(p.Id);
        var others = parts
            .Where(p => AnatomyParts.Name(p.Id) != AnatomyParts.Name(asked.Id))
            .DistinctBy(p => AnatomyParts.Name(p.Id))
            .OrderBy(p => Math.Pow(p.X - asked.X, 2) + Math.Pow(p.Y - asked.Y, 2))
            .ThenBy(Stem, StringComparer.Ordinal)
            .ToList();
        // Easy ones are told from what lies far away, hard ones from what lies beside.
        var window = Math.Min(others.Count, Offered * 2);
        var from = (int)((1 - difficulty) * (others.Count - window));
        var offered = others.Skip(from).Take(window).OrderBy(_ => random.Next(1000)).Take(Offered - 1).ToList();
        var right = random.Next(offered.Count + 1);
        offered.Insert(right, asked);
        return Asking(
            id,
            bones ? "Which bone is ringed?" : "Which muscle is ringed?",
            right,
            new(
                bones ? AnatomyAsk.BoneName : AnatomyAsk.MuscleName,
                asked.Id,
                seat.Pose,
                seat.Azimuth,
                1,
                [.. offered.Select(p => AnatomyParts.Name(p.Id))]
            ),
            asked
        );
    }
}

/// <summary>Place it: a place of the skeleton or the end of a muscle is put on the figure's skin.</summary>
public sealed class PlaceIt : AnatomyDrill
{
    public const double Farthest = 2500;

    public override string Kind => "place-it";
    public override string Name => "Place it";
    public override string About => "ten places under the skin; put each on the figure";
    public override string How => "Find it on yourself with a finger first.";
    public override string Unit => "mm";
    public override string Wanted => "a distance of 0 to 2500 mm";
    public override (double Least, double Most) Range => (0, Farthest);
    protected override (double Easy, double Hard) Width => (55, 20);
    protected override int Decimals => 1;
    public override double Reach => 60;

    protected override double ErrorOf(double answer, double truth) => answer;

    public override double Given(DrillItem item, double value, string? path) => Apart(item, DrawnDrill.Place(path ?? ""));

    /// <summary>How far a place of the picture lies from the true one, millimetres of a figure as tall as life.</summary>
    public static double Apart(DrillItem item, Vec2 said) =>
        Math.Min(Farthest, Math.Round((said - item.Asked.From).Length * item.Anatomy!.MmPerPixel, 1));

    public override string SayValue(double value) => value == 0 ? "there" : $"{Say.Number(value)} mm from it";

    public override string SayError(double error) =>
        error < 0.5 ? "on it" : $"{Say.Number(error)} mm beside it, on a figure as tall as life";

    public override string SayWidth(double width) => $"{Say.Number(width)} mm";

    public override string SayAxis(double error) => $"{Say.Number(error)} mm";

    protected override DrillItem Item(string id, SeededRandom random, double difficulty, bool clothed)
    {
        var bony = AnatomySeen.Places.Where(p => p.Bone).SelectMany(p => Sides.Of(p.Id).Select(s => Sides.Id(p.Id, s))).ToHashSet();
        var seats = AnatomySeen.All.Seats;
        var all = seats.SelectMany(s => s.Places.Where(p => !clothed || bony.Contains(p.Id)).Select(p => (Seat: s, Place: p))).ToList();
        var stem = OneOf([.. all.Select(x => Sides.Stem(x.Place.Id)).Distinct().Order(StringComparer.Ordinal)], random);
        var (seat, place) = OneOf([.. all.Where(x => Sides.Stem(x.Place.Id) == stem)], random);
        return Asking(
            id,
            $"Put on the figure: {AnatomySeen.NameOf(place.Id)}.",
            0,
            new(AnatomyAsk.Place, place.Id, seat.Pose, seat.Azimuth, 1, [], seat.MmPerPixel),
            place
        );
    }
}
