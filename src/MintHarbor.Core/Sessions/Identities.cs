using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace MintHarbor.Core.Sessions;

/// <summary>Which line of a meeting's timetable: given once, kept through every change and into the room clock. 0 is no line, as of a
/// rest that the model asks for.</summary>
[JsonConverter(typeof(Json))]
public readonly record struct LineId(int Value)
{
    public bool IsNone => Value == 0;

    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);

    private sealed class Json : JsonConverter<LineId>
    {
        public override LineId Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) => new(reader.GetInt32());

        public override void Write(Utf8JsonWriter writer, LineId value, JsonSerializerOptions options) =>
            writer.WriteNumberValue(value.Value);
    }
}

/// <summary>Which of a meeting's poses a sheet is drawn from and a card is read from: the letter on the paper. The periods of one long
/// pose share it, two long poses of an evening do not.</summary>
[JsonConverter(typeof(Json))]
public readonly record struct PoseKey(string? Letters)
{
    public bool IsNone => string.IsNullOrEmpty(Letters);

    /// <summary>A, B … Z, AA, AB …: <paramref name="n"/> from 0.</summary>
    public static PoseKey Of(int n) => new(n < 26 ? ((char)('A' + n)).ToString() : Of((n / 26) - 1).Letters + (char)('A' + (n % 26)));

    /// <exception cref="InputException">Not one or two letters A to Z.</exception>
    public static PoseKey Parse(string? text, string field = "pose") =>
        text is { Length: 1 or 2 } && text.All(char.IsAsciiLetterUpper)
            ? new(text)
            : throw new InputException($"pose '{text}'", field, "the pose's letter, A to Z");

    public override string ToString() => Letters ?? "";

    private sealed class Json : JsonConverter<PoseKey>
    {
        public override PoseKey Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) => new(reader.GetString());

        public override void Write(Utf8JsonWriter writer, PoseKey value, JsonSerializerOptions options) =>
            writer.WriteStringValue(value.Letters);
    }
}

/// <summary>Gives the lines of a timetable their identities.</summary>
public static class Identities
{
    /// <summary>The items with a line each and, where something is drawn, a pose. What a line has already it keeps; of two with the same the
    /// second gets its own. A second long pose of an evening takes a letter after those of the other exercises.</summary>
    public static List<PlanItem> Assign(IReadOnlyList<PlanItem> items) => Poses(Lines(items));

    public static bool Complete(IReadOnlyList<PlanItem> items) =>
        items.All(i => !i.Line.IsNone && (i.Kind != ItemKind.Exercise || !i.Pose.IsNone));

    private static List<PlanItem> Lines(IReadOnlyList<PlanItem> items)
    {
        var next = 1 + items.Select(i => i.Line.Value).DefaultIfEmpty(0).Max();
        var taken = new HashSet<LineId>();
        return [.. items.Select(i => !i.Line.IsNone && taken.Add(i.Line) ? i : i with { Line = new(next++) })];
    }

    private static List<PlanItem> Poses(List<PlanItem> items)
    {
        // What shares a letter: the periods of one long pose; everything else stands alone.
        var groups = new List<List<int>>();
        List<int>? series = null;
        for (var k = 0; k < items.Count; k++)
        {
            if (items[k].Kind != ItemKind.Exercise)
                continue;
            if (items[k].Period > 1 && series is not null)
            {
                series.Add(k);
                continue;
            }
            groups.Add([k]);
            if (items[k].Period > 0)
                series = groups[^1];
        }
        var first = groups.FindIndex(g => items[g[0]].Period > 0);
        var taken = new HashSet<PoseKey>();
        var keys = new PoseKey[groups.Count];
        for (var g = 0; g < groups.Count; g++)
            if (items[groups[g][0]].Pose is { IsNone: false } own && taken.Add(own))
                keys[g] = own;
        foreach (var g in Enumerable.Range(0, groups.Count).OrderBy(g => g != first && items[groups[g][0]].Period > 0 ? 1 : 0))
            if (keys[g].IsNone)
                taken.Add(keys[g] = Enumerable.Range(0, 1000).Select(PoseKey.Of).First(k => !taken.Contains(k)));
        var by = groups.SelectMany((g, n) => g.Select(k => (k, keys[n]))).ToDictionary(p => p.k, p => p.Item2);
        return [.. items.Select((i, k) => i with { Pose = by.GetValueOrDefault(k) })];
    }
}
