using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Objects;

/// <summary>How much of the sky each place of an arrangement sees: lamps spread over the upper half, each with its own shadow. It doesn't hang on
/// the seat.</summary>
internal static class SkyLight
{
    private const int Lamps = 40,
        Block = 2048;

    /// <summary>Radians from one lamp to the next: the golden angle, so that none stand behind one another.</summary>
    private const double Golden = 2.399963;

    /// <summary>Light that reaches a thing's place even edge on.</summary>
    private const float Grazing = 0.12f;

    public static bool Open(ArrangementModel model)
    {
        Mesh[] meshes = [model.Things, model.Support];
        var lit = meshes.Select(m => new float[m.Places.Length]).ToArray();
        var all = meshes.Select(m => new float[m.Places.Length]).ToArray();
        for (var k = 0; k < Lamps; k++)
        {
            var map = new ShadowMap(Direction(k), [model.Things], model.Low, model.High);
            for (var q = 0; q < meshes.Length; q++)
                Add(map, meshes[q], q == 0 ? Grazing : 0, lit[q], all[q]);
        }
        for (var q = 0; q < meshes.Length; q++)
        {
            var open = meshes[q].Openness;
            for (var i = 0; i < open.Length; i++)
                open[i] = all[q][i] > 0 ? Math.Clamp(lit[q][i] / all[q][i], 0.08f, 1) : 1;
            meshes[q].Calmed(open, q == 0 ? 2 : 5).CopyTo(open, 0);
        }
        return true;
    }

    private static Vector3 Direction(int k)
    {
        double y = 0.06 + (0.93 * (k + 0.5) / Lamps),
            r = Math.Sqrt(1 - (y * y));
        var (sin, cos) = Math.SinCos(k * Golden);
        return new((float)(r * cos), (float)y, (float)(r * sin));
    }

    private static void Add(ShadowMap map, Mesh mesh, float grazing, float[] lit, float[] all) =>
        Parallel.For(0, (mesh.Places.Length + Block - 1) / Block, block =>
        {
            for (var i = block * Block; i < Math.Min(mesh.Places.Length, (block + 1) * Block); i++)
            {
                var weight = MathF.Max(0, Vector3.Dot(mesh.Normals[i], map.Lamp)) + grazing;
                if (weight <= 0)
                    continue;
                all[i] += weight;
                lit[i] += weight * (map.Covers(mesh.Places[i]) ? map.Lit(mesh.Places[i], mesh.Normals[i]) : 1);
            }
        });
}
