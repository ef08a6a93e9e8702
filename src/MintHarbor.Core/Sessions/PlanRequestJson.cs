using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;

namespace MintHarbor.Core.Sessions;

/// <summary>A request as one flat object, as it is kept and as the command line reads it. Fields that neither wish nor knowledge has are
/// read as the options say: refused, or passed over.</summary>
internal sealed class PlanRequestJson : JsonConverter<PlanRequest>
{
    private const string Held = "locked",
        Laid = "laid";

    private static readonly HashSet<string> OfKnown = typeof(PlanKnown)
        .GetProperties()
        .Select(p => JsonNamingPolicy.CamelCase.ConvertName(p.Name))
        .ToHashSet(StringComparer.OrdinalIgnoreCase);

    public override PlanRequest Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        using var whole = JsonDocument.ParseValue(ref reader);
        if (whole.RootElement.ValueKind != JsonValueKind.Object)
            throw new JsonException("a request is an object", "$", null, null);
        JsonObject wish = [],
            known = [];
        IReadOnlyList<PlanItem> held = [],
            laid = [];
        foreach (var field in whole.RootElement.EnumerateObject())
        {
            if (field.NameEquals(Held))
                held = field.Value.Deserialize<IReadOnlyList<PlanItem>>(options) ?? [];
            else if (field.NameEquals(Laid))
                laid = field.Value.Deserialize<IReadOnlyList<PlanItem>>(options) ?? [];
            else
                (OfKnown.Contains(field.Name) ? known : wish)[field.Name] = JsonNode.Parse(field.Value.GetRawText());
        }
        return new(wish.Deserialize<PlanWish>(options)!)
        {
            Known = known.Deserialize<PlanKnown>(options)!,
            Held = held,
            Laid = laid,
        };
    }

    public override void Write(Utf8JsonWriter writer, PlanRequest value, JsonSerializerOptions options)
    {
        writer.WriteStartObject();
        foreach (
            var part in new[]
            {
                JsonSerializer.SerializeToElement(value.Wish, options),
                JsonSerializer.SerializeToElement(value.Known, options),
            }
        )
        foreach (var field in part.EnumerateObject())
            field.WriteTo(writer);
        foreach (var (name, items) in new[] { (Held, value.Held), (Laid, value.Laid) })
        {
            writer.WritePropertyName(name);
            JsonSerializer.Serialize(writer, items, options);
        }
        writer.WriteEndObject();
    }
}
