using System.Globalization;
using System.Text;
using MintHarbor.Core;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Objects;

namespace MintHarbor.Web.Figures;

/// <summary>Everything that a view of things is made of, as its address says it.</summary>
public sealed record ThingAddress
{
    /// <summary>Ground and places, as <see cref="Arrangement.Write"/> says them.</summary>
    public string Things { get; init; } = "table;block,0,0,30";
    public FigureViewKind Kind { get; init; }
    public int Values { get; init; }
    public Seat Seat { get; init; } = new(15, 1.3, 1.2);
    public Lamp? Lamp { get; init; }
    public int Width { get; init; } = StillLife.Size;
    public int Height { get; init; } = StillLife.Size;
    public bool Preview { get; init; }

    /// <summary>In the blue of what a drawing is held against.</summary>
    public bool Blue { get; init; }

    /// <exception cref="InputException">A value that can't be read, with what is accepted.</exception>
    public static ThingAddress Read(IQueryCollection q)
    {
        var (kind, values) = AddressQuery.Kind(q);
        var (width, height) = AddressQuery.Size(q, StillLife.Size, StillLife.Size);
        return new()
        {
            Things = Arrangement.Read(q["a"].ToString()).Write(),
            Kind = kind,
            Values = values,
            Seat = new Seat(
                AddressQuery.Number(q, "az", 15),
                AddressQuery.Number(q, "d", 1.3),
                AddressQuery.Number(q, "eye", 1.2)
            ).Checked(),
            Lamp = q.ContainsKey("la") ? new Lamp(AddressQuery.Number(q, "la", -43), AddressQuery.Number(q, "le", 45)).Checked() : null,
            Width = width,
            Height = height,
            Preview = q["quick"] == "1",
            Blue = q["ink"] == "blue",
        };
    }

    /// <summary>A studio view of things, as drills show it.</summary>
    public static ThingAddress Of(StudioView view, FigureViewKind kind) =>
        new()
        {
            Things = ThingShelf.Find(view.Body)!.Write(),
            Kind = kind,
            Seat = view.From!.Seat,
            Width = view.Width,
            Height = view.Height,
        };

    /// <summary>The address under a course.</summary>
    public string For(int course)
    {
        var s = new StringBuilder().Append(
            CultureInfo.InvariantCulture,
            $"/courses/{course}/things?a={Things}&kind={KindName}&az={Seat.Azimuth:0.##}&d={Seat.Distance:0.##}&eye={Seat.EyeHeight:0.##}"
        );
        if (Lamp is { } l)
            s.Append(CultureInfo.InvariantCulture, $"&la={l.Azimuth:0.##}&le={l.Elevation:0.##}");
        if (Preview)
            s.Append("&quick=1");
        if (Blue)
            s.Append("&ink=blue");
        return s.Append(CultureInfo.InvariantCulture, $"&w={Width}&h={Height}&e={FigureAddress.Edition}").ToString();
    }

    public string KindName => AddressQuery.KindName(Kind, Values);
}
