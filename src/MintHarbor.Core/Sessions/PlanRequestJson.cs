using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;

namespace MintHarbor.Core.Sessions;

/// <summary>A request as one flat object, as it is kept and as the command line reads it. Fields that neither wish nor knowledge has are
/// read as the options say: refused, or passed over.</summary>
internal sealed class PlanRequestJson : JsonConverter<PlanRequest>
{
    private sealed record Timetables
    {
        public IReadOnlyList<PlanItem> Locked { get; init; } = [];
        public IReadOnlyList<PlanItem> Laid { get; init; } = [];
    }

    private static readonly IReadOnlySet<string> OfKnown = Names<PlanKnown>(),
        OfTimetables = Names<Timetables>();

    private static HashSet<string> Names<T>() =>
        typeof(T).GetProperties().Select(p => JsonNamingPolicy.CamelCase.ConvertName(p.Name)).ToHashSet(StringComparer.OrdinalIgnoreCase);

    public override PlanRequest Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        if (JsonNode.Parse(ref reader) is not JsonObject whole)
            throw new JsonException("a request is an object", "$", null, null);
        JsonObject wish = [],
            known = [],
            tables = [];
        foreach (var (name, value) in whole)
        {
            var part =
                OfKnown.Contains(name) ? known
                : OfTimetables.Contains(name) ? tables
                : wish;
            part[name] = value?.DeepClone();
        }
        var lists = tables.Deserialize<Timetables>(options)!;
        return new(wish.Deserialize<PlanWish>(options)!)
        {
            Known = known.Deserialize<PlanKnown>(options)!,
            Held = lists.Locked,
            Laid = lists.Laid,
        };
    }

    public override void Write(Utf8JsonWriter writer, PlanRequest value, JsonSerializerOptions options)
    {
        writer.WriteStartObject();
        var tables = new Timetables { Locked = value.Held, Laid = value.Laid };
        foreach (var part in new object[] { value.Wish, value.Known, tables })
        foreach (var field in JsonSerializer.SerializeToElement(part, part.GetType(), options).EnumerateObject())
            field.WriteTo(writer);
        writer.WriteEndObject();
    }
}
