using System.Text.Json;
using System.Text.Json.Serialization;

namespace MintHarbor.Core;

/// <summary>Reads the catalogues that ship inside the core (exercises, canons, faults, views). They are data, checked
/// when first read; a damaged file is a fault of the build and throws.</summary>
public static class CoreData
{
    public static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower) },
        ReadCommentHandling = JsonCommentHandling.Skip,
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        NumberHandling = JsonNumberHandling.Strict,
    };

    public static T Read<T>(string name)
    {
        using var stream = typeof(CoreData).Assembly.GetManifestResourceStream(name)
            ?? throw new InvalidOperationException($"no catalogue named {name} in the core");
        return JsonSerializer.Deserialize<T>(stream, Json) ?? throw new InvalidOperationException($"catalogue {name} is empty");
    }

    public static IEnumerable<string> Names(string folder) =>
        typeof(CoreData)
            .Assembly.GetManifestResourceNames()
            .Where(n => n.StartsWith(folder + "/", StringComparison.Ordinal))
            .Order(StringComparer.Ordinal);
}

/// <summary>Input that the core can't use: what is wrong, in which field, and what is accepted.</summary>
public sealed class InputException(string message, string field, string accepted) : Exception(message)
{
    public string Field { get; } = field;
    public string Accepted { get; } = accepted;
}
