using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using MintHarbor.Core;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Media;

/// <summary>Remarks on a drawing as annotations of its picture: the W3C's Web Annotation Data Model (2017) in JSON-LD, written and read. A place is a
/// fragment of the picture in per cent (Media Fragments URI 1.0), so that it holds for any size of it.</summary>
public static class WebAnnotations
{
    public const int Most = 40;
    private const string Context = "http://www.w3.org/ns/anno.jsonld",
        Fragments = "http://www.w3.org/TR/media-frags/",
        Accepted = "a page or list of Web Annotations in JSON-LD, up to 40";

    /// <summary>Per cent of the picture that a place takes: a point has no size, a fragment has.</summary>
    private const double Size = 2;

    /// <summary>What each part of a remark is for, in the model's own words: what is seen, why it matters, what to do, the named fault.</summary>
    private const string What = "describing",
        Why = "commenting",
        Next = "editing",
        Named = "tagging",
        Place = "identifying";

    private static readonly JsonSerializerOptions Readable = new()
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <param name="page">Address of the critique; <paramref name="picture"/> that of the drawing.</param>
    /// <param name="width">Of the sheet, mm; likewise the height.</param>
    public static string Write(string page, string picture, IEnumerable<Remark> remarks, double width, double height) =>
        new JsonObject
        {
            ["@context"] = Context,
            ["id"] = $"{page}#annotations",
            ["type"] = "AnnotationPage",
            ["items"] = new JsonArray([.. remarks.Select(r => Item(page, picture, r, width, height))]),
        }.ToJsonString(Readable);

    private static JsonNode Item(string page, string picture, Remark r, double width, double height)
    {
        var body = new JsonArray();
        foreach (var (purpose, text) in new[] { (What, r.What), (Why, r.Why), (Next, r.Next), (Named, r.FaultId), (Place, r.Where) })
            if (!string.IsNullOrWhiteSpace(text))
                body.Add(
                    new JsonObject
                    {
                        ["type"] = "TextualBody",
                        ["purpose"] = purpose,
                        ["value"] = text,
                    }
                );
        JsonNode target = picture;
        if (r.Spot is { } at)
        {
            string Share(double v, double of) => ((100 * v / of) - (Size / 2)).ToString("0.##", CultureInfo.InvariantCulture);
            target = new JsonObject
            {
                ["source"] = picture,
                ["selector"] = new JsonObject
                {
                    ["type"] = "FragmentSelector",
                    ["conformsTo"] = Fragments,
                    ["value"] = $"xywh=percent:{Share(at.X, width)},{Share(at.Y, height)},{Size},{Size}",
                },
            };
        }
        return new JsonObject
        {
            ["id"] = $"{page}#{r.Id}",
            ["type"] = "Annotation",
            ["motivation"] = r.Holds ? "highlighting" : "assessing",
            ["body"] = body,
            ["target"] = target,
        };
    }

    /// <summary>Remarks out of annotations: those of the model's own purposes part by part, any other text as what is seen.</summary>
    /// <param name="faultOf">Finds a named fault by its id; what is unknown stays plain words.</param>
    /// <exception cref="InputException">No annotations, too many, or a place off the picture.</exception>
    public static IReadOnlyList<Remark> Read(string json, double width, double height, Func<string, Fault?> faultOf)
    {
        JsonNode? root;
        try
        {
            root = JsonNode.Parse(json);
        }
        catch (JsonException)
        {
            throw new InputException("that file is no JSON", "file", Accepted);
        }
        var items = root switch
        {
            JsonArray list => list,
            JsonObject o when o["items"] is JsonArray list => list,
            JsonObject o when o["first"] is JsonObject first && first["items"] is JsonArray list => list,
            JsonObject o when TypeOf(o) == "Annotation" => new JsonArray(o.DeepClone()),
            _ => throw new InputException("there are no annotations in that file", "file", Accepted),
        };
        if (items.Count is 0 or > Most)
            throw new InputException($"{items.Count} annotations", "file", Accepted);
        return [.. items.Select((item, n) => One(item as JsonObject ?? throw Wrong(n), n, width, height, faultOf))];
    }

    private static InputException Wrong(int n) => new($"number {n + 1} is no annotation", "file", Accepted);

    private static string? TypeOf(JsonObject o) => Text(o["type"]);

    private static string? Text(JsonNode? node) => node is JsonValue v && v.TryGetValue<string>(out var s) ? s : null;

    private static Remark One(JsonObject item, int n, double width, double height, Func<string, Fault?> faultOf)
    {
        var texts = (item["body"] is JsonArray many ? [.. many] : new[] { item["body"] })
            .Select(b =>
                b is JsonObject o ? (Purpose: Text(o["purpose"]) ?? "", Value: Text(o["value"]) ?? "") : (Purpose: "", Value: Text(b) ?? "")
            )
            .Where(b => b.Value.Trim() != "")
            .ToList();
        if (texts.Count == 0)
            throw Wrong(n);
        string Of(string purpose) => string.Join(" ", texts.Where(t => t.Purpose == purpose).Select(t => t.Value.Trim()));
        var known = new[] { What, Why, Next, Named, Place };
        var fault = texts.Where(t => t.Purpose == Named).Select(t => faultOf(t.Value.Trim())).FirstOrDefault(f => f is not null);
        var holds = Text(item["motivation"]) == "highlighting";
        var loose = texts.Where(t => !known.Contains(t.Purpose) || (t.Purpose == Named && fault is null)).Select(t => t.Value.Trim());
        return new(
            $"r{n + 1}",
            fault?.Family ?? Family.Proportion,
            Of(Place) is { Length: > 0 } place ? place : fault?.Where ?? "",
            string.Join(" ", new[] { Of(What) }.Concat(loose).Where(t => t != "")),
            Of(Why),
            Of(Next),
            Spot(item["target"], n, width, height),
            null,
            fault?.Drill,
            fault?.Id,
            fault?.Rule,
            holds
        );
    }

    private static Vec2? Spot(JsonNode? target, int n, double width, double height)
    {
        var one = target is JsonArray { Count: > 0 } many ? many[0] : target;
        var value =
            one is JsonObject o ? Text((o["selector"] is JsonArray { Count: > 0 } list ? list[0] : o["selector"])?["value"])
            : Text(one)?.Split('#', 2) is [_, var fragment] ? fragment
            : null;
        if (value is null || !value.StartsWith("xywh=percent:", StringComparison.Ordinal))
            return null;
        var at = value["xywh=percent:".Length..]
            .Split(',')
            .Select(v => double.TryParse(v, CultureInfo.InvariantCulture, out var d) && double.IsFinite(d) ? d : double.NaN)
            .ToList();
        if (at.Count != 4 || at.Any(double.IsNaN))
            throw Wrong(n);
        var middle = new Vec2((at[0] + (at[2] / 2)) * width / 100, (at[1] + (at[3] / 2)) * height / 100);
        return middle.X >= 0 && middle.Y >= 0 && middle.X <= width && middle.Y <= height
            ? middle
            : throw new InputException($"number {n + 1} lies off the picture", "file", "places from 0 to 100 per cent");
    }
}
