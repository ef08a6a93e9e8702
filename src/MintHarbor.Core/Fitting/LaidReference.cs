using System.Numerics;

namespace MintHarbor.Core.Fitting;

/// <summary>A place of a reference's line, laid on the sheet by the two clicks.</summary>
/// <param name="Along">Unit direction of the line.</param>
/// <param name="Weight">What it counts, by its kind and how far the next one lies.</param>
internal readonly record struct Sample(Vector2 At, Vector2 Along, float Weight, int Part, PartShare[] Shares);

/// <summary>A landmark of a reference, laid on the sheet by the two clicks.</summary>
internal readonly record struct LaidMark(string Id, Vector2 At, int Part, bool Seen, PartShare[] Shares);

/// <summary>A reference laid over a sheet by a crown and a sole, ready to be bent: in millimetres, its lines cut into samples.</summary>
internal sealed class LaidReference
{
    /// <summary>Distance of samples as a share of the height; 2 mm at least.</summary>
    private const float SampleShare = 0.006f;

    /// <summary>How far parts go over into one another at a joint, as a share of the height.</summary>
    private const float Blend = 0.02f;

    public FitReference Reference { get; }
    public PartTree Tree => Reference.Tree;

    /// <summary>From the upper click to the lower, mm.</summary>
    public float Height { get; }
    public Vector2 Crown { get; }
    public Vector2 Sole { get; }
    public Vector2[] Joint { get; }
    public Vector2[] End { get; }
    public IReadOnlyList<Sample> Samples { get; }
    public IReadOnlyList<LaidMark> Marks { get; }
    public LaidMark TopMark { get; }
    public LaidMark SoleMark { get; }

    public LaidReference(FitReference r, Vector2 crown, Vector2 sole)
    {
        (Reference, Crown, Sole, Height) = (r, crown, sole, Vector2.Distance(crown, sole));
        Vector2 a = r.Sole.At - r.Crown.At,
            b = sole - crown;
        var square = a.LengthSquared();
        float c = Vector2.Dot(a, b) / square,
            s = ((a.X * b.Y) - (a.Y * b.X)) / square;
        Vector2 Lay(Vector2 p) => crown + Turned(p - r.Crown.At);
        Vector2 Turned(Vector2 d) => new((c * d.X) - (s * d.Y), (s * d.X) + (c * d.Y));
        LaidMark Mark(FitMark m) => new(m.Id, Lay(m.At), m.Part, m.Seen, Skin.Of(r, m, Blend * r.Height));
        (Joint, End) = ([.. r.Joint.Select(Lay)], [.. r.End.Select(Lay)]);
        Marks = [.. r.Marks.Select(Mark)];
        (TopMark, SoleMark) = (Marks.First(m => m.Id == FitReference.Top), Mark(r.Sole));
        Samples = [.. Cut(r, Turned, Lay, MathF.Sqrt(square == 0 ? 1 : ((c * c) + (s * s))))];
    }

    private IEnumerable<Sample> Cut(FitReference r, Func<Vector2, Vector2> turned, Func<Vector2, Vector2> lay, float scale)
    {
        var step = MathF.Max(2, Height * SampleShare);
        foreach (var stroke in r.Strokes)
        {
            var p = stroke.Places;
            var carried = step / 2;
            for (var i = 1; i < p.Length; i++)
            {
                carried += Vector2.Distance(p[i], p[i - 1]) * scale;
                if (carried < step)
                    continue;
                carried -= step;
                var along = turned(p[Math.Min(p.Length - 1, i + 2)] - p[Math.Max(0, i - 2)]);
                if (along.Length() > 1e-3f)
                    yield return new(
                        lay(p[i]),
                        Vector2.Normalize(along),
                        stroke.Weight * step / 3,
                        stroke.Parts[i],
                        Skin.Of(r, p[i], stroke.Parts[i], Blend * r.Height)
                    );
            }
        }
    }

    public PartChain Chain() => new(Tree, Joint, End);

    public Dictionary<string, Vector2> Places(PartChain chain) => Marks.ToDictionary(m => m.Id, m => chain.At(m.Shares, m.At));
}
