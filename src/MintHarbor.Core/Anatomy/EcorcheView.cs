using System.Numerics;
using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Anatomy;

/// <summary>The figure without its skin in tone: muscles in red chalk, tendons and bones pale, under one lamp.</summary>
internal static class EcorcheView
{
    /// <summary>A colour's dark, middle and light.</summary>
    private readonly record struct Ramp(Vector3 Dark, Vector3 Middle, Vector3 Light)
    {
        public Vector3 At(float v) => v < 0.5f ? Vector3.Lerp(Dark, Middle, v * 2) : Vector3.Lerp(Middle, Light, (v - 0.5f) * 2);
    }

    private static readonly Vector3 Paper = new(0xF1, 0xEB, 0xDD);
    private static readonly Ramp Belly = new(new(58, 20, 18), new(164, 70, 54), new(232, 164, 136)),
        Tendon = new(new(92, 74, 60), new(186, 164, 134), new(246, 236, 214)),
        Bone = new(new(88, 80, 66), new(190, 176, 144), new(250, 244, 226)),
        Flesh = new(new(70, 34, 28), new(164, 112, 88), new(226, 190, 164)),
        Skin = new(new(86, 76, 64), new(178, 158, 132), new(242, 228, 206)),
        Prop = new(new(96, 92, 84), new(170, 166, 156), new(220, 216, 206));

    /// <param name="camera">Of a picture <see cref="AnatomyView.Finer"/> times finer than the result.</param>
    public static ColourPicture Draw(FigureModel model, SeatCamera camera, Vector3 lamp)
    {
        var scene = new MuscleScene(model, camera);
        var under = model.UnderSkin;
        var shadow = new ShadowMap(lamp, [under.Muscles.Mesh, under.Core, .. model.Solids.Select(s => s.Mesh)], model.Low, model.High);
        var d = scene.Depth;
        var pixels = new uint[d.Width * d.Height];
        Parallel.For(0, d.Height / AnatomyView.Finer, row =>
        {
            // Squares of pixels become one: of the floor one of each is asked, and 0 is one that wasn't yet.
            var floor = new uint[d.Width / AnatomyView.Finer];
            for (var o = row * AnatomyView.Finer * d.Width; o < (row + 1) * AnatomyView.Finer * d.Width; o++)
            {
                var (y, x) = Math.DivRem(o, d.Width);
                if (scene.Id[o] != MuscleScene.Nothing)
                    pixels[o] = Opaque(Colour(scene, shadow, x, y));
                else
                {
                    ref var here = ref floor[x / AnatomyView.Finer];
                    pixels[o] = here != 0 ? here : here = Opaque(Floor(camera, shadow, x, y));
                }
            }
        });
        return new ColourPicture(d.Width, d.Height, pixels).Smaller(AnatomyView.Finer);
    }

    private static uint Opaque(Vector3 c) => ColourPicture.Pixel(c.X, c.Y, c.Z, 255);

    private static Vector3 Floor(SeatCamera camera, ShadowMap shadow, int x, int y)
    {
        var dark = camera.OnFloor(x + 0.5f, y + 0.5f) is { } at && shadow.Covers(at) ? 1 - shadow.Lit(at, Vector3.UnitY) : 0;
        return Paper * (1 - (0.16f * dark));
    }

    private static Vector3 Colour(MuscleScene scene, ShadowMap shadow, int x, int y)
    {
        var d = scene.Depth;
        var o = (y * d.Width) + x;
        var id = scene.Id[o];
        var at = d.Camera.At(x + 0.5f, y + 0.5f, d.Depth[o]);
        var n = d.NormalAt(o, out _, out _, out _);
        // A skirt that faces away is lit as what it goes under.
        var away = MathF.Min(0, Vector3.Dot(n, d.Camera.ToEye(at)));
        n -= d.Camera.ToEye(at) * away;
        var open = Openness(d, x, y);
        var toLamp = Vector3.Dot(n, shadow.Lamp);
        var direct = toLamp > 0 ? toLamp * shadow.Lit(at, n) : 0;
        var up = Vector3.Dot(n, d.Camera.Up);
        var light =
            ((0.19f + (0.14f * (0.5f + (0.5f * up))) + (0.09f * MathF.Max(0, -toLamp))) * open)
            + (0.86f * direct * (0.42f + (0.58f * open)));
        var value = MathF.Pow(Math.Clamp(light, 0, 1), 0.74f);
        if (!scene.IsMuscle(id))
            return Paint(scene, id).At(value);
        var tendon = scene.Tendon(o, ragged: true);
        value = Math.Clamp(value + (Stripe(scene, o) * 0.045f * (1 - (tendon * 0.6f))), 0, 1);
        return Vector3.Lerp(Belly.At(value), Tendon.At(value), tendon * 0.85f);
    }

    private static Ramp Paint(MuscleScene scene, int id) =>
        scene.IsBone(id)
            ? Bone
            : id switch
            {
                MuscleScene.Flesh => Flesh,
                MuscleScene.Skin => Skin,
                _ => Prop,
            };

    /// <summary>Where round a pixel it is asked what stands before it: a spiral by the golden angle, in radii.</summary>
    private static readonly Vector2[] Round =
    [
        .. Enumerable.Range(0, 14).Select(k => new Vector2(MathF.Cos(k * 2.39996f), MathF.Sin(k * 2.39996f)) * (0.35f + (1.35f * k / 14))),
    ];

    /// <summary>How much of the light round about reaches a pixel: less where something stands before its neighbours.</summary>
    private static float Openness(DepthPicture d, int x, int y)
    {
        var own = d.Depth[(y * d.Width) + x];
        // Half a unit at the stand, about.
        var radius = MathF.Max(2, 0.55f * d.Camera.Focal / own);
        float shut = 0;
        foreach (var tap in Round)
        {
            var before = own - d.DepthAt(x + (tap.X * radius), y + (tap.Y * radius));
            if (before is > 0.04f and < 3)
                shut += MathF.Min(1, before / 0.45f) * (before > 1.4f ? 0.5f : 1);
        }
        return 1 - (0.62f * MathF.Min(1, shut / 7));
    }

    /// <summary>The run of the fibres as a faint ripple across a muscle, −0.8 to 0.8.</summary>
    private static float Stripe(MuscleScene scene, int pixel)
    {
        var f = scene.Depth.Blend(pixel, scene.Muscles.Fibre);
        var id = scene.Id[pixel];
        float many = scene.Muscles.Sheets[id].Row.Flat ? 26 : 13,
            u = f.X,
            v = f.Y;
        var coarse = MathF.Sin((v * many) + (1.2f * MathF.Sin((u * 7) + id)) + (0.8f * MathF.Sin((u * 17) + (v * 3))));
        return (coarse * 0.5f) + (MathF.Sin((v * many * 2.3f) + (u * 11)) * 0.3f);
    }
}
