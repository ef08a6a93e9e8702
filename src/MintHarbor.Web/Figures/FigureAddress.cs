using System.Globalization;
using System.Text;
using MintHarbor.Core;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Figure;

namespace MintHarbor.Web.Figures;

/// <summary>Everything that a view of the figure is made of, as its address says it. The address is the view's name: what it shows
/// never changes while the figure's tables don't.</summary>
public sealed record FigureAddress
{
    /// <summary>Changed with the tables or the drawing, so that kept pictures are asked for again.</summary>
    public const int Edition = 2;

    public string Pose { get; init; } = "stand";

    /// <summary>The body; with its hair after a plus sign, where that isn't the body's own.</summary>
    public string Body { get; init; } = "male";

    /// <summary>The body alone.</summary>
    public string BareBody => Body.Split('+')[0];

    /// <summary>The hair, empty for the body's own.</summary>
    public string Hair => Body.Split('+') is [_, var hair] ? hair : "";
    public FigureViewKind Kind { get; init; }
    public int Values { get; init; }
    public Seat Seat { get; init; } = new(25, 3.2, 1.3);
    public Lamp? Lamp { get; init; }
    public bool Mirrored { get; init; }
    public bool Garment { get; init; }
    public string Edit { get; init; } = "";
    public int Width { get; init; } = 480;
    public int Height { get; init; } = 720;

    /// <summary>The part of the body that is looked at alone; empty for the whole.</summary>
    public string Part { get; init; } = "";

    public CloseUp? CloseUp => Part.Length > 0 ? CloseUp.Find(Part) : null;

    /// <summary>Quick and small, while it is being turned.</summary>
    public bool Preview { get; init; }

    /// <summary>In the blue of what a drawing is held against.</summary>
    public bool Blue { get; init; }

    /// <exception cref="InputException">A value that can't be read, with what is accepted.</exception>
    public static FigureAddress Read(string pose, IQueryCollection q)
    {
        double Number(string key, double otherwise) => AddressQuery.Number(q, key, otherwise);
        var (parsed, values) = AddressQuery.Kind(q);
        var (width, height) = AddressQuery.Size(q, 480, 720);
        return new()
        {
            Pose = pose,
            Body =
                (q["body"].ToString() is { Length: > 0 } b ? b : "male") + (q["hair"].ToString() is { Length: > 0 } hair ? '+' + hair : ""),
            Kind = parsed,
            Values = values,
            Seat = new Seat(Number("az", 25), Number("d", 3.2), Number("eye", 1.3)).Checked(),
            Lamp = q.ContainsKey("la") ? new Lamp(Number("la", -33), Number("le", 45)).Checked() : null,
            Mirrored = q["m"] == "1",
            Garment = q["g"] == "1",
            Edit = q["edit"].ToString(),
            Part = q["part"].ToString() is { Length: > 0 } part ? CloseUp.Find(part).Id : "",
            Preview = q["quick"] == "1",
            Blue = q["ink"] == "blue",
            Width = width,
            Height = height,
        };
    }

    /// <summary>The query that a form sends along as the state of the page; nothing of one too long to be a page's.</summary>
    public static IQueryCollection State(string text) =>
        new QueryCollection(Microsoft.AspNetCore.WebUtilities.QueryHelpers.ParseQuery(text.Length > 3000 ? "" : text));

    /// <summary>The address under a course.</summary>
    public string For(int course)
    {
        var s = new StringBuilder().Append(
            CultureInfo.InvariantCulture,
            $"/courses/{course}/figure/{Pose}?body={Uri.EscapeDataString(Body)}&kind={KindName}&az={Seat.Azimuth:0.##}&d={Seat.Distance:0.##}&eye={Seat.EyeHeight:0.##}"
        );
        if (Lamp is { } l)
            s.Append(CultureInfo.InvariantCulture, $"&la={l.Azimuth:0.##}&le={l.Elevation:0.##}");
        if (Mirrored)
            s.Append("&m=1");
        if (Garment)
            s.Append("&g=1");
        if (Part.Length > 0)
            s.Append("&part=").Append(Uri.EscapeDataString(Part));
        if (Preview)
            s.Append("&quick=1");
        if (Blue)
            s.Append("&ink=blue");
        if (Edit.Length > 0)
            s.Append("&edit=").Append(Uri.EscapeDataString(Edit));
        return s.Append(CultureInfo.InvariantCulture, $"&w={Width}&h={Height}&e={Edition}").ToString();
    }

    /// <summary>Address of one of a check's two small drawings, of this body from this seat.</summary>
    public string ForCheck(int course, string check, int side, bool wrong) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"/courses/{course}/figure/{Pose}/check/{check}?body={Uri.EscapeDataString(Body)}&az={Seat.Azimuth:0.##}&d={Seat.Distance:0.##}&eye={Seat.EyeHeight:0.##}"
        )
        + (Mirrored ? "&m=1" : "")
        + (Garment ? "&g=1" : "")
        + $"&{Card(side, wrong)}";

    /// <summary>Which of a check's two drawings, of which side.</summary>
    public static string Card(int side, bool wrong) => $"side={side}&wrong={(wrong ? "true" : "false")}&e={Edition}";

    public string KindName => AddressQuery.KindName(Kind, Values);
}

/// <summary>What the addresses of figure and head read alike.</summary>
internal static class AddressQuery
{
    private const int MostPixels = 700_000;

    /// <exception cref="InputException">No finite number.</exception>
    public static double Number(IQueryCollection q, string key, double otherwise) =>
        q[key].ToString() is not { Length: > 0 } text ? otherwise
        : double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var v) && double.IsFinite(v) ? v
        : throw new InputException($"'{text}' is not a number", key, "a number such as 25 or 1.4");

    /// <exception cref="InputException">No kind of view.</exception>
    public static (FigureViewKind Kind, int Values) Kind(IQueryCollection q)
    {
        var kind = q["kind"].ToString() is { Length: > 0 } k ? k : "line";
        var tone = kind.StartsWith("tone", StringComparison.Ordinal);
        var values = tone && int.TryParse(kind.AsSpan(4), NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : 0;
        return Enum.TryParse<FigureViewKind>(tone ? "tone" : kind, true, out var parsed) && !char.IsDigit(kind[0]) && !kind.Contains(',')
            ? (parsed, values)
            : throw new InputException(
                $"there is no view '{kind}'",
                "kind",
                "line, mass, construction, bones, muscles, ecorche, tone, tone3, tone5 or tone9"
            );
    }

    /// <summary>Tone is drawn at twice the size: what one request may take of the server is bounded here.</summary>
    /// <exception cref="InputException">Too small or too large.</exception>
    public static (int Width, int Height) Size(IQueryCollection q, int width, int height)
    {
        int Whole(string key, int otherwise) => (int)Math.Clamp(Number(q, key, otherwise), int.MinValue, int.MaxValue);
        int w = Whole("w", width),
            h = Whole("h", height);
        return w is < 40 or > 2000 || h is < 40 or > 2000 || w * h > MostPixels
            ? throw new InputException($"a picture of {w} × {h} pixels", "width", $"40 pixels a side, {MostPixels} in all at most")
            : (w, h);
    }

    public static string KindName(FigureViewKind kind, int values) =>
        kind.ToString().ToLowerInvariant() + (values > 0 ? values.ToString(CultureInfo.InvariantCulture) : "");
}
