using System.Globalization;
using System.Text.Json;
using MintHarbor.Core;
using MintHarbor.Store;

namespace MintHarbor.Web.Access;

/// <summary>What stood in the fields of a form when its page was made travels with it, so that nobody writes over what another has written
/// since, or what they wrote themselves on another device.</summary>
public static class Stood
{
    public const string Field = "stood";

    public static string Of(params IEnumerable<(string Name, object? Value)> fields) =>
        JsonSerializer.Serialize(fields.ToDictionary(f => f.Name, f => Text(f.Value)));

    /// <param name="now">What stands, by the same names.</param>
    /// <exception cref="ClashException">Something else stands than what the sender saw; a form that says nothing is not asked.</exception>
    public static void Check(HttpRequest request, params IEnumerable<(string Name, object? Value)> now)
    {
        if (Read(request.Form[Field].ToString()) is not { } seen)
            return;
        var changed = now.Select(f => (f.Name, Value: Text(f.Value)))
            .Where(f => seen.TryGetValue(f.Name, out var was) && was != f.Value)
            .Select(f => f.Value == "" ? $"{f.Name} is empty now" : $"{f.Name} is “{f.Value}” now")
            .ToList();
        if (changed.Count > 0)
            throw new ClashException(
                $"Somebody else changed this in the meantime, perhaps you on another device: {Say.List(changed)}. "
                    + "What you typed stands in its fields; sent once more it goes over theirs."
            );
    }

    private static Dictionary<string, string>? Read(string text)
    {
        try
        {
            return text == "" ? null : JsonSerializer.Deserialize<Dictionary<string, string>>(text);
        }
        catch (JsonException)
        {
            // No page of ours: there is nothing to hold it against.
            return null;
        }
    }

    private static string Text(object? value) => Convert.ToString(value, CultureInfo.InvariantCulture) ?? "";
}
