namespace MintHarbor.Core.Sheets;

/// <summary>Light as the eye takes it and as a file keeps it.</summary>
public static class LightCurves
{
    /// <summary>CIE L* of a luminance Y/Yn (CIE 15, published formula): 116·f(t) − 16.</summary>
    public static double Lightness(double y) => y > Math.Pow(6.0 / 29, 3) ? (116 * Math.Cbrt(y)) - 16 : y * Math.Pow(29.0 / 3, 3);

    /// <summary>The luminance of a CIE L*: the same formula turned round.</summary>
    public static double Light(double lightness) => lightness > 8 ? Math.Pow((lightness + 16) / 116, 3) : lightness * Math.Pow(3.0 / 29, 3);

    /// <summary>Linear light of an sRGB value 0 to 255 (IEC 61966-2-1, published).</summary>
    public static double Linear(double value)
    {
        var c = value / 255;
        return c <= 0.04045 ? c / 12.92 : Math.Pow((c + 0.055) / 1.055, 2.4);
    }
}
