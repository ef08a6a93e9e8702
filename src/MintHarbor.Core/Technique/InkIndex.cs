using System.Numerics;

namespace MintHarbor.Core.Technique;

/// <summary>Finds what runs beside a place of a line.</summary>
internal sealed class InkIndex
{
    /// <summary>Side of a cell; nearest that another line is another; how far along, and how near to one already
    /// met, still counts as the same. Millimetres.</summary>
    private const float Cell = 0.5f,
        Nearest = 0.3f,
        Same = 0.45f;

    private readonly InkLines ink;
    private readonly int across,
        down;
    private readonly List<int>?[] cells;
    private readonly int[] lineOf;

    public InkIndex(InkLines ink)
    {
        this.ink = ink;
        (across, down) = ((int)(ink.Width / Cell) + 2, (int)(ink.Height / Cell) + 2);
        cells = new List<int>?[across * down];
        lineOf = new int[ink.Places.Length];
        for (var n = 0; n < ink.Lines.Count; n++)
            foreach (var i in ink.Lines[n].Places)
            {
                lineOf[i] = n;
                var o = ((int)(ink.At(i).Y / Cell) * across) + (int)(ink.At(i).X / Cell);
                (cells[o] ??= []).Add(i);
            }
    }

    /// <summary>Distances at which a ray from a place, across its line to one side, meets others that run alongside; sorted.</summary>
    /// <param name="sign">1 or −1: the side.</param>
    /// <param name="reach">Millimetres.</param>
    /// <param name="tolerance">Radians.</param>
    /// <param name="met">Takes the places met.</param>
    public List<float> Side(int from, int sign, float reach, float tolerance, List<int>? met = null)
    {
        var here = ink.Places[from];
        Vector2 way = here.Across * sign,
            along = here.Along;
        var found = new List<float>();
        for (var t = 0.35f; t <= reach; t += Cell * 0.7f)
        {
            var q = here.At + (way * t);
            int cx = (int)(q.X / Cell),
                cy = (int)(q.Y / Cell);
            for (var y = Math.Max(0, cy - 1); y <= Math.Min(down - 1, cy + 1); y++)
            for (var x = Math.Max(0, cx - 1); x <= Math.Min(across - 1, cx + 1); x++)
                if (cells[(y * across) + x] is { } cell)
                    Meet(cell);
        }
        found.Sort();
        return found;

        void Meet(List<int> cell)
        {
            foreach (var other in cell)
            {
                var to = ink.At(other) - here.At;
                var far = Vector2.Dot(to, way);
                if (
                    far < Nearest
                    || far > reach
                    || MathF.Abs(Vector2.Dot(to, along)) > Same
                    || IsMet(found, far)
                    || InkLines.Apart(ink.Places[other].Angle, here.Angle) > tolerance
                )
                    continue;
                found.Add(far);
                met?.Add(other);
            }
        }
    }

    private static bool IsMet(List<float> found, float far)
    {
        foreach (var f in found)
            if (MathF.Abs(f - far) < Same)
                return true;
        return false;
    }

    /// <summary>Lines that run beside a place on either side.</summary>
    public IEnumerable<InkLine> Neighbours(int place, float reach, float tolerance)
    {
        var met = new List<int>();
        Side(place, 1, reach, tolerance, met);
        Side(place, -1, reach, tolerance, met);
        return met.Select(i => ink.Lines[lineOf[i]]);
    }
}
