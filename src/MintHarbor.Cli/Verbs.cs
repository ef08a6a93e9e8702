using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using MintHarbor.Core;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Geometry;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Practice;
using MintHarbor.Core.Sessions;
using MintHarbor.Core.Sheets;
using MintHarbor.Core.Technique;
using MintHarbor.Media;

namespace MintHarbor.Cli;

internal static class PlanVerb
{
    public static object Run(JsonObject request) => Planner.Plan(request.Deserialize<PlanRequest>(Wire.Json)!);
}

internal static class JudgeVerb
{
    private sealed record Wanted(
        string? Canon,
        string? Subject,
        string? View,
        string? Pose,
        string? StandingLeg,
        string? Exercise,
        double? PlacementErrorMm,
        Dictionary<string, double>? PlacementErrorsMm,
        IReadOnlyList<string>? NotLookedAt,
        JsonObject? Landmarks,
        PoseCard? PoseCard,
        ReferenceMarks? Reference,
        double? Seed
    );

    private sealed record ReferenceMarks(JsonObject? Landmarks);

    public static object Run(JsonObject request)
    {
        var w = request.Deserialize<Wanted>(Wire.Json)!;
        var subject = w.Subject ?? "figure";
        var asked = new JudgeRequest
        {
            Subject = subject,
            Canon = w.Canon ?? (subject == "head" ? "classical-head" : "academic"),
            View = w.View ?? "front",
            Pose = w.Pose ?? "standing",
            StandingLeg = w.StandingLeg,
            Exercise = w.Exercise,
            PlacementErrorMm = w.PlacementErrorMm ?? 1,
            Errors = w.PlacementErrorsMm ?? [],
            NotLookedAt = (w.NotLookedAt ?? []).ToHashSet(),
            Landmarks = Marks(
                w.Landmarks ?? throw new InputException("no landmarks", "landmarks", "{\"crown\": [x, y], …} in mm"),
                "landmarks"
            ),
            PoseCard = w.PoseCard,
            Reference = w.Reference?.Landmarks is { } l ? Marks(l, "reference.landmarks") : null,
        };
        var judged = Judge.Of(asked);
        return new
        {
            findings = judged.Findings.Select(f => new
            {
                rule = f.Rule.Id,
                f.Part,
                f.Against,
                f.Verdict,
                measured = Round(f.Measured),
                expected = Round(f.Expected),
                tolerance = Round(f.Tolerance),
                uncertainty = Round(f.Uncertainty),
                f.Unit,
                also = f.Also.Select(a => new { a.Against, expected = Round(a.Expected) }),
                f.Says,
                f.Because,
                f.Landmarks,
                f.FollowsFrom,
            }),
            sheet = new
            {
                alignment = judged.Alignment is { } a
                    ? new
                    {
                        scale = Round(a.Scale),
                        turn = Round(a.TurnDegrees),
                        residualMm = Round(a.Residual),
                    }
                    : null,
            },
        };
    }

    private static double? Round(double? v) => v is { } x ? Math.Round(x, 4) : null;

    private static LandmarkSet Marks(JsonObject marks, string field) =>
        new(
            marks.Select(m =>
            {
                if (
                    m.Value is not JsonArray { Count: 2 } pair
                    || pair.Any(n => n is not JsonValue v || v.GetValueKind() != JsonValueKind.Number)
                )
                    throw new InputException($"the place of {m.Key} is not a pair of numbers", $"{field}.{m.Key}", "[x, y] in mm");
                return KeyValuePair.Create(m.Key, new Vec2(pair[0]!.GetValue<double>(), pair[1]!.GetValue<double>()));
            }),
            field
        );
}

internal static class DrillVerb
{
    private sealed record Answer(string Id, double Value);

    private sealed record Wanted(string? Kind, long? Seed, double? Difficulty, int? Count, bool? Clothed, IReadOnlyList<Answer>? Answers);

    public static object Run(JsonObject request)
    {
        var w = request.Deserialize<Wanted>(Wire.Json)!;
        var drill = Drills.Get(w.Kind);
        var difficulty = w.Difficulty ?? 0.5;
        var items = drill.Items(w.Seed ?? 1, difficulty, w.Count ?? 10, w.Clothed ?? false);
        if (w.Answers is null)
            return new
            {
                items = items.Select(i => new
                {
                    i.Id,
                    picture = new { svg = DrillPicture.Svg(i) },
                    i.Ask,
                    truth = i.Truth,
                }),
            };
        var scores = w
            .Answers.Select(
                (a, n) =>
                    drill.Score(
                        items.FirstOrDefault(i => i.Id == a.Id)
                            ?? throw new InputException(
                                $"no item '{a.Id}' in this drill",
                                $"answers[{n}].id",
                                string.Join(" | ", items.Select(i => i.Id))
                            ),
                        a.Value,
                        difficulty
                    )
            )
            .ToList();
        var result = drill.Summarise(scores, difficulty);
        return new
        {
            result.Scores,
            result.Bias,
            result.Spread,
            result.NextDifficulty,
        };
    }
}

internal static class SheetVerb
{
    public static object Run(string[] args)
    {
        var o = Options(args);
        var file = o.GetValueOrDefault("photo") ?? throw new InputException("no photograph", "photo", "--photo FILE");
        var paper = PaperSize.Parse(
            o.GetValueOrDefault("paper") ?? throw new InputException("no paper size", "paper", "--paper WIDTHxHEIGHT in mm")
        );
        var exercise = o.GetValueOrDefault("exercise") is { } id ? Exercises.Get(id) : null;
        using var photo = Photo.Read(File.ReadAllBytes(file));
        IReadOnlyList<Vec2> corners;
        double confidence;
        if (o.ContainsKey("whole"))
            (corners, confidence) = (
                [new(-0.5, -0.5), new(photo.Width - 0.5, -0.5), new(photo.Width - 0.5, photo.Height - 0.5), new(-0.5, photo.Height - 0.5)],
                1
            );
        else if (o.GetValueOrDefault("corners") is { } given)
            (corners, confidence) = (Given(given), 1);
        else
        {
            var found = SheetFinder.Find(photo.Grey());
            if (found.Corners is null)
                return new
                {
                    corners = (object?)null,
                    confidence = found.Confidence,
                    mmPerPixel = (double?)null,
                    turned = photo.ExifTurn,
                    says = found.Says,
                    placement = (object?)null,
                    line = (object?)null,
                    tone = (object?)null,
                };
            (corners, confidence) = (found.Corners, found.Confidence);
        }
        const double mmPerPixel = 0.25;
        using var flat = photo.Straighten(corners, paper, mmPerPixel);
        var light = LightField.Of(flat.Grey());
        if (o.ContainsKey("even") && light.Evens)
            flat.Even(light);
        var target = o.GetValueOrDefault("out");
        if (target is not null)
            File.WriteAllBytes(target, flat.Encode(SkiaSharp.SKEncodedImageFormat.Png, 100));
        var read = TechniqueAnswer.Of(TechniqueReader.Read(flat.Grey(), mmPerPixel).Reading, exercise, flat.Height * mmPerPixel);
        return new
        {
            corners = corners.Select(c => new[] { Math.Round(c.X, 2), Math.Round(c.Y, 2) }),
            confidence,
            mmPerPixel,
            turned = photo.ExifTurn,
            @out = target,
            placement = read.Placement,
            line = read.Line,
            tone = read.Tone,
            cannotTell = read.CannotTell,
            says = read.Says,
            light = new
            {
                spreadBefore = Math.Round(light.SpreadBefore, 2),
                spreadAfter = Math.Round(light.SpreadAfter, 2),
                evened = o.ContainsKey("even") && light.Evens,
            },
        };
    }

    private static IReadOnlyList<Vec2> Given(string text)
    {
        var n = text.Split(',')
            .Select(s => double.TryParse(s, CultureInfo.InvariantCulture, out var v) && double.IsFinite(v) ? v : double.NaN)
            .ToList();
        if (n.Count != 8 || n.Any(double.IsNaN))
            throw new InputException(
                "corners are eight numbers",
                "corners",
                "x1,y1,x2,y2,x3,y3,x4,y4 in pixels, clockwise from the sheet's upper left"
            );
        return [.. Enumerable.Range(0, 4).Select(i => new Vec2(n[2 * i], n[(2 * i) + 1]))];
    }

    private static Dictionary<string, string?> Options(string[] args)
    {
        var o = new Dictionary<string, string?>();
        for (var i = 0; i < args.Length; i++)
        {
            var name = args[i].StartsWith("--", StringComparison.Ordinal)
                ? args[i][2..]
                : throw new InputException(
                    $"unexpected '{args[i]}'",
                    args[i],
                    "--photo FILE --paper WxH [--whole] [--corners …] [--out FILE] [--even] [--exercise ID]"
                );
            if (name is "whole" or "even")
                o[name] = null;
            else if (name is "photo" or "paper" or "corners" or "out" or "exercise")
                o[name] = ++i < args.Length ? args[i] : throw new InputException($"--{name} without a value", name, $"--{name} VALUE");
            else
                throw new InputException($"unknown option --{name}", name, "--photo --paper --whole --corners --out --even --exercise");
        }
        return o;
    }
}
