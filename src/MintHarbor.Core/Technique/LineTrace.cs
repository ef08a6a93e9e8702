using System.Numerics;
using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.Technique;

/// <summary>Turns the middles of dark lines into lines: each is followed from its strongest place ahead without a sharp turn, then ends are
/// joined where the direction carries on, which crosses other lines and bridges small gaps. Where somebody lifted the tool and went on in
/// place and weight can't be seen, and is one line here.</summary>
internal static class LineTrace
{
    /// <summary>Pixels a millimetre that lines are followed at.</summary>
    public const float PerMm = 4;

    private const int PaperBlock = 32,
        Reach = 3;

    private static readonly RidgeLook Look = new(
        [(1.4f, 1), (2.8f, 0.75f)],
        TimesNoise: 4.5f,
        Least: 0.012f,
        Rim: 14,
        Every: 41,
        Clamped: false
    );

    /// <summary>Against the drawing's strong lines: share of the 85th percentile.</summary>
    private const float OfStrong = 0.05f,
        Strong = 0.85f;

    /// <summary>Shortest piece that is kept after following and after joining, mm.</summary>
    private const float LeastPiece = 0.8f,
        LeastLine = 2;

    /// <summary>A line's mean strength against the grain, the more the shorter it is: up to this length (mm), so many times.</summary>
    private static readonly (float To, float Times)[] AgainstGrain = [(5, 9), (12, 7), (float.MaxValue, 5.5f)];

    public static DarkSheet Dark(GreyImage flat) =>
        new(
            flat.Width,
            flat.Height,
            (y, to) =>
            {
                var row = flat.Pixels.AsSpan(y * flat.Width, flat.Width);
                for (var x = 0; x < row.Length; x++)
                    to[x] = row[x];
            },
            PaperBlock,
            1.2f
        );

    /// <param name="sheet">At <see cref="PerMm"/>.</param>
    public static InkLines Read(DarkSheet sheet)
    {
        var (peaks, grain) = RidgeFinder.Find(sheet, Look);
        if (peaks.Count > 0)
        {
            var least = OfStrong * peaks.Select(p => p.Strength).Order().ElementAt((int)(peaks.Count * Strong));
            peaks.RemoveAll(p => p.Strength < least);
        }
        var places = peaks.Select(p => new InkPlace(p.At / PerMm, p.Angle, p.Strength)).ToArray();
        var pieces = new Follow(places, peaks, sheet.Width, sheet.Height).All();
        foreach (var gap in LineJoin.Gaps)
            pieces = LineJoin.Joined(places, pieces, gap);
        var lines = pieces
            .Select(p => new InkLine(p, LineJoin.Length(places, p)))
            .Where(l => l.Length >= LeastLine && Told(places, l, grain))
            .ToList();
        return new(sheet.Width / PerMm, sheet.Height / PerMm, places, lines, grain);
    }

    private static bool Told(InkPlace[] places, InkLine line, float grain) =>
        line.Places.Average(i => places[i].Strength) >= grain * AgainstGrain.First(a => line.Length < a.To).Times;

    /// <summary>Follows lines over the pixels.</summary>
    private sealed class Follow
    {
        private readonly InkPlace[] places;
        private readonly int w,
            h;

        /// <summary>The strongest place of a pixel, and whether a place is used up.</summary>
        private readonly int[] at;
        private readonly int[] pixel;
        private readonly bool[] used;

        public Follow(InkPlace[] places, List<RidgePeak> peaks, int w, int h)
        {
            (this.places, this.w, this.h, used) = (places, w, h, new bool[places.Length]);
            at = new int[w * h];
            pixel = new int[places.Length];
            for (var i = 0; i < places.Length; i++)
            {
                int x = (int)peaks[i].At.X,
                    y = (int)peaks[i].At.Y,
                    o = (y * w) + x;
                pixel[i] = o;
                if (at[o] == 0 || places[at[o] - 1].Strength < places[i].Strength)
                    at[o] = i + 1;
            }
        }

        public List<List<int>> All()
        {
            var order = Enumerable.Range(0, places.Length).ToArray();
            Array.Sort(places.Select(p => -p.Strength).ToArray(), order);
            var pieces = new List<List<int>>();
            foreach (var start in order)
            {
                if (used[start])
                    continue;
                Use(start);
                var piece = new List<int> { start };
                Ahead(piece, places[start].Along);
                piece.Reverse();
                Ahead(piece, -places[start].Along);
                if (LineJoin.Length(places, piece) >= LeastPiece)
                    pieces.Add(piece);
            }
            return pieces;
        }

        private void Ahead(List<int> piece, Vector2 way)
        {
            for (var here = piece[^1]; Next(here, way) is >= 0 and var next; here = next)
            {
                var step = Vector2.Normalize(places[next].At - places[here].At);
                var along = places[next].Along;
                if (Vector2.Dot(along, way) < 0)
                    along = -along;
                way = Vector2.Normalize((way * 0.5f) + (along * 0.35f) + (step * 0.15f));
                Use(next);
                piece.Add(next);
            }
        }

        /// <summary>The place that carries on best; −1 where nothing does.</summary>
        private int Next(int here, Vector2 way)
        {
            var heading = MathF.Atan2(way.Y, way.X);
            var (best, least) = (-1, float.MaxValue);
            foreach (var other in Beside(here, Reach))
            {
                if (used[other])
                    continue;
                var to = (places[other].At - places[here].At) * PerMm;
                var far = to.Length();
                if (far < 4e-4f)
                    continue;
                var ahead = Vector2.Dot(to, way) / far;
                var turn = InkLines.Apart(places[other].Angle, heading);
                if (ahead < 0.75f || turn > 0.6f)
                    continue;
                var cost = far + ((1 - ahead) * 5) + (turn * 2);
                if (cost < least)
                    (best, least) = (other, cost);
            }
            return best;
        }

        /// <summary>A place and what lies on the same line within a pixel of it.</summary>
        private void Use(int here)
        {
            used[here] = true;
            foreach (var other in Beside(here, 1))
                if (
                    !used[other]
                    && Vector2.Distance(places[other].At, places[here].At) < 1.2f / PerMm
                    && InkLines.Apart(places[other].Angle, places[here].Angle) < 0.5f
                )
                    used[other] = true;
        }

        private IEnumerable<int> Beside(int here, int reach)
        {
            int x = pixel[here] % w,
                y = pixel[here] / w;
            for (var v = Math.Max(0, y - reach); v <= Math.Min(h - 1, y + reach); v++)
            for (var u = Math.Max(0, x - reach); u <= Math.Min(w - 1, x + reach); u++)
                if (at[(v * w) + u] is > 0 and var i && i - 1 != here)
                    yield return i - 1;
        }
    }
}
