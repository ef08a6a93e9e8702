using System.Numerics;
using MintHarbor.Core.Geometry;

namespace MintHarbor.Core.Objects;

/// <summary>The flat faces of a view with the tone that is seen on each: shadows that fall on it are part of it, as they are of the drawing.</summary>
internal sealed class FlatFaces(ArrangementView view)
{
    /// <summary>Picture pixels below which a face isn't spoken of.</summary>
    private const double Least = 40;

    public IReadOnlyList<SeenPlane> All()
    {
        var planes = view.Model.Planes;
        var tone = new ThingTones(view).Soft();
        var owner = Owners();
        var room = Room(owner);
        var sums = new (double Sum, double Squares, int Count, int Deepest)[planes.Count];
        for (var o = 0; o < owner.Length; o++)
        {
            if (owner[o] < 0)
                continue;
            ref var s = ref sums[owner[o]];
            if (s.Count == 0 || room[o] > room[s.Deepest])
                s.Deepest = o;
            s = (s.Sum + tone[o], s.Squares + (tone[o] * tone[o]), s.Count + 1, s.Deepest);
        }
        var smaller = 1.0 / view.Finer;
        return
        [
            .. planes
                .Zip(sums)
                .Where(p => p.Second.Count * smaller * smaller >= Least)
                .Select(p => Seen(p.First.Thing, p.First.Plane, p.Second, room[p.Second.Deepest] * smaller)),
        ];
    }

    private SeenPlane Seen(int thing, Plane plane, (double Sum, double Squares, int Count, int Deepest) s, double room)
    {
        var mean = s.Sum / s.Count;
        var smaller = 1.0 / view.Finer;
        return new(
            view.Model.Names[thing],
            plane.Name[(plane.Name.IndexOf(':', StringComparison.Ordinal) + 2)..],
            ThingTones.Facing(view, plane),
            mean,
            Math.Sqrt(Math.Max(0, (s.Squares / s.Count) - (mean * mean))),
            s.Count * smaller * smaller,
            new Vec2((s.Deepest % view.Camera.Width) + 0.5, (s.Deepest / view.Camera.Width) + 0.5) * smaller,
            room
        );
    }

    /// <summary>Which flat face each pixel shows; −1 where none.</summary>
    private int[] Owners()
    {
        var byPart = view
            .Model.Planes.Select((p, i) => (p.Plane, Index: i))
            .ToLookup(p => p.Plane.Part, p => (Normal: p.Plane.Normal.Single, p.Index));
        var mesh = view.Model.Things;
        var owner = new int[view.Camera.Width * view.Camera.Height];
        Parallel.For(0, view.Camera.Height, y =>
        {
            for (var o = y * view.Camera.Width; o < (y + 1) * view.Camera.Width; o++)
                owner[o] = view.PartAt(o) is >= 0 and var part
                    ? Facing(byPart[part], mesh.Normals[mesh.Triangles[view.Depth.Triangle[o] * 3]])
                    : -1;
        });
        return owner;
    }

    private static int Facing(IEnumerable<(Vector3 Normal, int Index)> faces, Vector3 normal)
    {
        foreach (var (facing, index) in faces)
            if (Vector3.Dot(facing, normal) > 0.9995f)
                return index;
        return -1;
    }

    /// <summary>How far every pixel is from one of another face, by steps to its neighbours (chessboard distance, two passes).</summary>
    private int[] Room(int[] owner)
    {
        int width = view.Camera.Width,
            height = view.Camera.Height;
        var room = new int[owner.Length];
        int At(int x, int y, int mine) => (uint)x < width && (uint)y < height && owner[(y * width) + x] == mine ? room[(y * width) + x] : 0;
        for (var pass = 0; pass < 2; pass++)
        {
            for (var n = 0; n < owner.Length; n++)
            {
                var o = pass == 0 ? n : owner.Length - 1 - n;
                int x = o % width,
                    y = o / width,
                    back = pass == 0 ? -1 : 1,
                    mine = owner[o];
                if (mine < 0)
                    continue;
                var least = Math.Min(
                    Math.Min(At(x + back, y, mine), At(x, y + back, mine)),
                    Math.Min(At(x - 1, y + back, mine), At(x + 1, y + back, mine))
                );
                room[o] = pass == 0 ? least + 1 : Math.Min(room[o], least + 1);
            }
        }
        return room;
    }
}
