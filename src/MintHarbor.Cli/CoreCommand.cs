using System.Text.Json;
using System.Text.Json.Nodes;
using MintHarbor.Core;

namespace MintHarbor.Cli;

/// <summary>Reads the verb and its request, answers on <c>output</c>; wrong input is answered there too, with exit code 2.</summary>
public static class CoreCommand
{
    private static readonly Dictionary<string, Func<JsonObject, object>> Verbs = new()
    {
        ["plan"] = PlanVerb.Run,
        ["judge"] = JudgeVerb.Run,
        ["drill"] = DrillVerb.Run,
        ["view"] = ViewVerb.Run,
        ["seats"] = SeatsVerb.Run,
    };

    public static int Run(string[] args, TextReader input, TextWriter output, TextWriter errors)
    {
        try
        {
            if (args.Length == 0)
                throw new InputException("no verb", "verb", "plan | judge | sheet | fit | drill | view | seats");
            if (args[0] == "sheet")
            {
                Write(output, SheetVerb.Run(args[1..]));
                return 0;
            }
            if (args[0] == "fit")
            {
                Write(output, Fit(args[1..], input));
                return 0;
            }
            if (!Verbs.TryGetValue(args[0], out var verb))
                throw new InputException($"unknown verb '{args[0]}'", "verb", "plan | judge | sheet | fit | drill | view | seats");
            Write(output, verb(Request(args[1..], input)));
            return 0;
        }
        catch (InputException e)
        {
            Write(
                output,
                new
                {
                    error = e.Message,
                    field = e.Field,
                    accepted = e.Accepted,
                }
            );
            return 2;
        }
        catch (JsonException e)
        {
            Write(
                output,
                new
                {
                    error = "the request is not what this verb reads: " + FirstLine(e.Message),
                    field = e.Path?.TrimStart('$', '.') ?? "",
                    accepted = "JSON as in docs/formats.md",
                }
            );
            return 2;
        }
        catch (IOException e)
        {
            errors.WriteLine(e.Message);
            Write(
                output,
                new
                {
                    error = e.Message,
                    field = "in",
                    accepted = "a file that can be read",
                }
            );
            return 2;
        }
    }

    /// <summary>Takes the picture's options from the arguments and leaves the rest to the request.</summary>
    private static object Fit(string[] args, TextReader input)
    {
        var rest = args.ToList();
        string? Taken(string name)
        {
            var at = rest.IndexOf(name);
            if (at < 0)
                return null;
            if (at + 1 >= rest.Count)
                throw new InputException($"{name} without a value", name.TrimStart('-'), $"{name} VALUE");
            var value = rest[at + 1];
            rest.RemoveRange(at, 2);
            return value;
        }
        var sheet = Taken("--sheet") ?? throw new InputException("no sheet", "sheet", "--sheet FILE, a flat picture of the sheet");
        var paper = Taken("--paper") ?? throw new InputException("no paper size", "paper", "--paper WIDTHxHEIGHT in mm");
        return FitVerb.Run(sheet, Core.Courses.PaperSize.Parse(paper), Request([.. rest], input));
    }

    private static JsonObject Request(string[] args, TextReader input)
    {
        var text = args switch
        {
            [] => input.ReadToEnd(),
            ["--in", var file] => File.ReadAllText(file),
            _ => throw new InputException($"unknown option '{args[0]}'", args[0], "--in FILE, or the request on standard input"),
        };
        var request =
            JsonNode.Parse(text) as JsonObject ?? throw new InputException("the request is not a JSON object", "", "a JSON object");
        if (EmptyPlace(request) is { } place)
            throw new InputException("a list with nothing in one of its places", place, "a value in every place of a list");
        return request;
    }

    /// <summary>Where a list holds a null: no list of any verb does.</summary>
    private static string? EmptyPlace(JsonNode node, string path = "") =>
        node switch
        {
            JsonObject o => o.Where(f => f.Value is not null)
                .Select(f => EmptyPlace(f.Value!, path == "" ? f.Key : $"{path}.{f.Key}"))
                .FirstOrDefault(p => p is not null),
            JsonArray a => a.Select((v, n) => v is null ? $"{path}[{n}]" : EmptyPlace(v, $"{path}[{n}]"))
                .FirstOrDefault(p => p is not null),
            _ => null,
        };

    private static string FirstLine(string s) => s.Split(" Path:")[0].Split('\n')[0];

    private static void Write(TextWriter output, object result) => output.WriteLine(JsonSerializer.Serialize(result, Wire.Json));
}

/// <summary>How results are written: the field names of the contract, letters beyond ASCII as they are.</summary>
internal static class Wire
{
    public static readonly JsonSerializerOptions Json = new(CoreData.Json)
    {
        RespectNullableAnnotations = true,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };
}
