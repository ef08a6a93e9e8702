using System.Globalization;
using System.Text;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;

namespace MintHarbor.Web.Figures;

/// <summary>Everything that a view of the head is made of, as its address says it.</summary>
public sealed record HeadAddress
{
    public string Sitter { get; init; } = "classical";
    public string Canon { get; init; } = "classical-head";
    public HeadPose Pose { get; init; } = new(25);
    public FigureViewKind Kind { get; init; } = FigureViewKind.Tone;
    public int Values { get; init; }
    public Lamp Lamp { get; init; } = new(-42, 42);
    public int Width { get; init; } = 480;
    public int Height { get; init; } = 600;
    public bool Preview { get; init; }

    /// <exception cref="Core.InputException">A value that can't be read, with what is accepted.</exception>
    public static HeadAddress Read(IQueryCollection q)
    {
        var (kind, values) = AddressQuery.Kind(q);
        var (width, height) = AddressQuery.Size(q, 480, 600);
        return new()
        {
            Sitter = q["sitter"].ToString() is { Length: > 0 } s ? s : "classical",
            Canon = q["canon"].ToString() is { Length: > 0 } c ? c : "classical-head",
            Pose = new HeadPose(AddressQuery.Number(q, "turn", 25), AddressQuery.Number(q, "tilt", 0)).Checked(),
            Kind = q.ContainsKey("kind") ? kind : FigureViewKind.Tone,
            Values = values,
            Lamp = new Lamp(AddressQuery.Number(q, "la", -42), AddressQuery.Number(q, "le", 42)).Checked(),
            Width = width,
            Height = height,
            Preview = q["quick"] == "1",
        };
    }

    /// <summary>The address under a course.</summary>
    public string For(int course)
    {
        var s = new StringBuilder().Append(
            CultureInfo.InvariantCulture,
            $"/courses/{course}/head?sitter={Sitter}&canon={Canon}&kind={KindName}&turn={Pose.Turn:0.##}&tilt={Pose.Tilt:0.##}&la={Lamp.Azimuth:0.##}&le={Lamp.Elevation:0.##}"
        );
        if (Preview)
            s.Append("&quick=1");
        return s.Append(CultureInfo.InvariantCulture, $"&w={Width}&h={Height}&e={FigureAddress.Edition}").ToString();
    }

    public string KindName => AddressQuery.KindName(Kind, Values);
}
