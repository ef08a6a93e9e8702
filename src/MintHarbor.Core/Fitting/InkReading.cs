using MintHarbor.Core.Sheets;

namespace MintHarbor.Core.Fitting;

/// <summary>What a flat sheet's ink says before anything is laid over it: its lines, and the form that they enclose. Read once for all that asks.</summary>
public sealed class InkReading
{
    /// <summary>A drawing has more line than this, in places of half a millimetre; our own choice, a tenth of a poor gesture.</summary>
    private const int LeastPoints = 200;

    /// <summary>A sheet darker than this on the whole (of 255) shows no line any more.</summary>
    private const double Blackest = 60;

    /// <summary>A second form of so much of the first one's area is another drawing.</summary>
    private const double Another = 0.4;

    private readonly Lazy<InkMaps> maps;

    public InkRidges Ridges { get; }
    public InkForm Form { get; }
    public InkMaps Maps => maps.Value;

    /// <summary>Blank or black: nothing can be laid over it.</summary>
    public NoFit Nothing { get; }

    /// <summary>How many drawings of about one size stand on the sheet.</summary>
    public int Drawings { get; }

    private InkReading(InkRidges ridges, NoFit nothing)
    {
        (Ridges, Form, Nothing) = (ridges, InkForm.Of(ridges), nothing);
        maps = new(() => new(ridges with { Points = Form.Lines }));
        Drawings = nothing == NoFit.None ? Count(Form) : 0;
    }

    /// <param name="flat">Straightened sheet.</param>
    /// <param name="mmPerPixel">Its scale.</param>
    public static InkReading Of(GreyImage flat, double mmPerPixel)
    {
        double sum = 0;
        for (var i = 0; i < flat.Pixels.Length; i += 16)
            sum += flat.Pixels[i];
        if (sum / ((flat.Pixels.Length + 15) / 16) < Blackest)
            return new(new((float)(flat.Width * mmPerPixel), (float)(flat.Height * mmPerPixel), []), NoFit.Black);
        var ridges = InkRidges.Read(flat, mmPerPixel);
        return new(ridges, ridges.Points.Count < LeastPoints ? NoFit.Blank : NoFit.None);
    }

    private static int Count(InkForm form)
    {
        var left = (bool[])form.Inside.Clone();
        var areas = new List<int>();
        var open = new Stack<int>();
        for (var first = 0; first < left.Length; first++)
        {
            if (!left[first])
                continue;
            var area = 0;
            left[first] = false;
            open.Push(first);
            while (open.TryPop(out var o))
            {
                area++;
                var x = o % form.Width;
                foreach (var n in (ReadOnlySpan<int>)[x > 0 ? o - 1 : -1, x < form.Width - 1 ? o + 1 : -1, o - form.Width, o + form.Width])
                {
                    if ((uint)n >= (uint)left.Length || !left[n])
                        continue;
                    left[n] = false;
                    open.Push(n);
                }
            }
            areas.Add(area);
        }
        return areas.Count == 0 ? 0 : areas.Count(a => a >= Another * areas.Max());
    }
}
