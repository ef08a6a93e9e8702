using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using MintHarbor.Cli;
using Xunit;

namespace MintHarbor.Core.Tests.Cli;

/// <summary>docs/formats.md is true: each worked example is run, and what it shows is what comes back; every field is in its
/// verb's schema.</summary>
public sealed partial class FormatsTests
{
    [GeneratedRegex("```json (\\w+) request\\n(.*?)\\n```.*?```json \\1 result\\n(.*?)\\n```", RegexOptions.Singleline)]
    private static partial Regex Examples();

    private static string Docs()
    {
        var dir = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(dir.FullName, "MintHarbor.slnx")))
            dir = dir.Parent ?? throw new InvalidOperationException("not run from the checkout");
        return Path.Combine(dir.FullName, "docs");
    }

    [Fact]
    public void Every_worked_example_answers_as_it_is_printed()
    {
        var seen = new HashSet<string>();
        foreach (Match m in Examples().Matches(File.ReadAllText(Path.Combine(Docs(), "formats.md"))))
        {
            var output = new StringWriter();
            CoreCommand.Run([m.Groups[1].Value], new StringReader(m.Groups[2].Value), output, TextWriter.Null);
            Contains(JsonNode.Parse(output.ToString()), JsonNode.Parse(m.Groups[3].Value), m.Groups[1].Value);
            seen.Add(m.Groups[1].Value);
        }
        Assert.Superset(new HashSet<string> { "plan", "judge", "drill", "view", "seats" }, seen);
    }

    /// <summary>Everything printed is in the answer; an array printed in part must be found in it element by element.</summary>
    private static void Contains(JsonNode? actual, JsonNode? shown, string path)
    {
        switch (shown)
        {
            case JsonObject o:
                foreach (var (key, value) in o)
                    Contains(Assert.IsType<JsonObject>(actual)[key], value, $"{path}.{key}");
                break;
            case JsonArray a when a.Count > 0 && a[0] is JsonObject first && first.ContainsKey("rule"):
                foreach (var f in a)
                    Contains(Assert.IsType<JsonArray>(actual).First(x => JsonNode.DeepEquals(x!["rule"], f!["rule"])), f, path);
                break;
            case JsonArray a:
                Assert.Equal(a.Count, Assert.IsType<JsonArray>(actual).Count);
                for (var i = 0; i < a.Count; i++)
                    Contains(actual!.AsArray()[i], a[i], $"{path}[{i}]");
                break;
            default:
                Assert.True(
                    JsonNode.DeepEquals(actual, shown),
                    $"{path}: {actual?.ToJsonString()} where {shown?.ToJsonString()} is printed"
                );
                break;
        }
    }

    [Theory]
    [
        InlineData("plan", """{"minutes":150,"seed":3}"""),
        InlineData(
            "seats",
            """{"room":{"width":8,"depth":7},"students":[{"id":"a","hand":"left","needs":["low"],"had":{"front":1}}],"pose":"seated"}"""
        ),
        InlineData(
            "plan",
            """{"minutes":150,"part":"hands","weak":["F-tilt"],"history":[{"weeksAgo":1,"poses":["seated"],"longPose":"seated"}],"shape":"opener","medium":"ink","setUpMinutes":8}"""
        ),
        InlineData("judge", """{"landmarks":{"crown":[1,2],"chin":[1,60],"sole.L":[1,500]}}"""),
        InlineData(
            "view",
            """{"pose":"seated","kind":"mass","width":120,"height":180,"seat":{"azimuth":20,"distance":3,"eyeHeight":1.2}}"""
        ),
        InlineData("view", """{"pose":"armraised","kind":"muscles","width":120,"height":180,"part":"shoulder.R"}"""),
        InlineData("view", """{"subject":"head","sitter":"narrow","canon":"classical-head","kind":"mass","turn":20,"tilt":5,"roll":1}"""),
        InlineData("drill", """{"kind":"clock-hand","count":1}"""),
        InlineData("drill", """{"kind":"clock-hand","seed":5,"count":1,"answers":[{"id":"5-0","value":3}]}""")
    ]
    public void Every_field_of_an_answer_is_in_its_schema(string verb, string request)
    {
        var schema = JsonNode.Parse(File.ReadAllText(Path.Combine(Docs(), "formats", verb + ".schema.json")))!;
        Known(JsonNode.Parse(request), schema["$defs"]!["request"]!, verb);
        var output = new StringWriter();
        Assert.Equal(0, CoreCommand.Run([verb], new StringReader(request), output, TextWriter.Null));
        Known(JsonNode.Parse(output.ToString()), schema["$defs"]!["result"]!, verb);
    }

    private static void Known(JsonNode? value, JsonNode schema, string path)
    {
        if (value is JsonArray a && schema["items"] is { } item)
            foreach (var x in a)
                Known(x, item, path + "[]");
        if (value is not JsonObject o || schema["properties"] is not JsonObject properties)
            return;
        foreach (var (key, inner) in o)
        {
            Assert.True(properties.ContainsKey(key), $"{path}.{key} is not in the schema");
            Known(inner, properties[key]!, $"{path}.{key}");
        }
    }
}
