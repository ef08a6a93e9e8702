using System.Diagnostics;
using MintHarbor.Core;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Courses;
using MintHarbor.Core.Critiques;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Fitting;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Landmarks;
using MintHarbor.Core.Objects;
using MintHarbor.Core.Rooms;
using MintHarbor.Core.Sessions;
using MintHarbor.Core.Sheets;
using MintHarbor.Core.Simulation;
using MintHarbor.Core.Technique;
using MintHarbor.Media;
using OpenCvSharp;

namespace MintHarbor.Bench;

/// <summary>What the core computes, and what is done to a photograph.</summary>
public static class CoreBench
{
    public static void Run(Report report, bool quick)
    {
        var drawing = SimulatedHand.Draw("stand-male-0", PaperSize.Find("18x24in")!, 500, new(HeadScale: 1.15), 0.6, 3);
        var marks = LandmarkIds
            .BenchOrder.Concat(drawing.Landmarks.Keys)
            .Distinct()
            .Where(drawing.Landmarks.ContainsKey)
            .Take(40)
            .ToDictionary(id => id, id => drawing.Landmarks[id]);
        var ask = new JudgeRequest { Landmarks = new(marks) };
        for (var n = 0; n < 1500; n++)
            Judge.Of(ask);
        report.Add("core", $"findings from {marks.Count} landmarks", Report.Median(1000, () => Judge.Of(ask)), "ms", atMost: 1);
        Fit(report);
        foreach (var approach in Enum.GetValues<Approach>())
        {
            var plan = new PlanRequest(
                new()
                {
                    Minutes = 180,
                    Approach = approach,
                    Purpose = Purpose.Proportion,
                    Students = 14,
                    Seed = 7,
                }
            )
            {
                Known = new() { Rung = approach == Approach.LongFirst ? "long-pose" : null },
            };
            if (Planner.Plan(plan).Proposals.Count == 0)
                throw new InvalidOperationException($"no plan by {approach}");
            report.Add("core", $"three timetables of 180 min, {approach}", Report.Median(20, () => Planner.Plan(plan)), "ms", atMost: 200);
        }
        var hall = RoomPlan.Usual with { Width = 16, Depth = 13, Stand = new(8, 5) };
        hall = hall with { Spots = RoomLayout.Lay(hall, 30) };
        if (hall.Spots.Count < 30)
            throw new InvalidOperationException($"{hall.Spots.Count} places");
        var thirty = Enumerable
            .Range(0, 30)
            .Select(n => new Sitter($"{n}", n % 9 == 0 ? Hand.Left : Hand.Right)
            {
                Had = new Dictionary<string, int> { ["front"] = n % 3, ["profile"] = n % 4 },
                Needs = n % 11 == 0 ? ["low"] : [],
            })
            .ToList();
        report.Add(
            "core",
            "30 students seated in 30 places, every place checked",
            Report.Median(15, () => SeatPlanner.Seat(hall, thirty, null, 0, 457.2, 609.6)),
            "ms",
            atMost: 100
        );
        Figures(report, quick);
        Anatomy(report, quick);
        Heads(report, quick);
        Things(report, quick);
        Paper(report, quick);
        var shot = StudioCamera.Take(drawing, 3000, 4000, 9);
        var runs = quick ? 3 : 9;
        using var photo = Photo.Read(shot.Jpeg);
        report.Add("photograph", "12 MP decoded", Report.Median(runs, () => Photo.Read(shot.Jpeg).Dispose()), "ms");
        var grey = photo.Grey();
        report.Add("photograph", "sheet found", Report.Median(runs, () => SheetFinder.Find(grey)), "ms");
        var paper = PaperSize.Find("18x24in")!;
        var ours = Report.Median(runs, () => photo.Straighten(shot.Corners, paper, 0.25).Dispose());
        var (w, h) = ((int)Math.Round(paper.WidthMm / 0.25), (int)Math.Round(paper.HeightMm / 0.25));
        using var source = Mat.FromPixelData(photo.Height, photo.Width, MatType.CV_8UC4, photo.Bitmap.GetPixels());
        using var map = Cv2.GetPerspectiveTransform(
            [.. shot.Corners.Select(c => new Point2f((float)c.X, (float)c.Y))],
            [new(0, 0), new(w - 1, 0), new(w - 1, h - 1), new(0, h - 1)]
        );
        using var flat = new Mat();
        var theirs = Report.Median(runs, () =>
            Cv2.WarpPerspective(source, flat, map, new OpenCvSharp.Size(w, h), InterpolationFlags.Linear)
        );
        report.Add(
            "photograph",
            $"straightened to {w} × {h}, over OpenCV's warp",
            ours / theirs,
            "×",
            atMost: 2.5,
            note: $"{ours:0} ms to {theirs:0} ms"
        );
        using var straight = photo.Straighten(shot.Corners, paper, 0.25);
        Technique(report, straight.Grey(), runs);
        report.Add("photograph", "light evened", Report.Median(runs, () =>
            {
                var field = LightField.Of(straight.Grey());
                straight.Even(field);
            }), "ms");
        report.Add(
            "photograph",
            "encoded for the bench",
            Report.Median(runs, () => straight.Encode(SkiaSharp.SKEncodedImageFormat.Jpeg, 88)),
            "ms"
        );
    }

    /// <summary>What the ink of a sheet says beside where it lies, which is read for the fit anyway: on one core, and how much it holds at the most.
    /// </summary>
    private static void Technique(Report report, GreyImage flat, int runs)
    {
        var ink = InkReading.Of(flat, 0.25);
        _ = ink.Form;
        TechniqueReading Read() => Alone.Run(() => TechniqueReader.Read(flat, 0.25, ink).Reading);
        if (Read().Contour is null)
            throw new InvalidOperationException("no contour was read");
        report.Add("photograph", "technique read from the ink, one core", Report.Median(runs, () => Read()), "ms", atMost: 700);
        report.Add("photograph", "technique: memory held at the most", MostHeld(() => Read()), "MB", atMost: 60);
    }

    /// <summary>Megabytes in use at the most while something runs, above what stood before: collected and looked at again and again.</summary>
    private static double MostHeld(Action act)
    {
        static long Held() => GC.GetTotalMemory(forceFullCollection: false);
        GC.Collect();
        var (before, most, done) = (Held(), 0L, false);
        var watcher = new Thread(() =>
        {
            while (!Volatile.Read(ref done))
            {
                GC.Collect();
                most = Math.Max(most, Held() - before);
                Thread.Yield();
            }
        });
        watcher.Start();
        for (var n = 0; n < 3; n++)
            act();
        Volatile.Write(ref done, true);
        watcher.Join();
        return most / (1024.0 * 1024);
    }

    /// <summary>A still life of five things, how open it lies to the light being known.</summary>
    private static void Things(Report report, bool quick)
    {
        var runs = quick ? 7 : 15;
        var kitchen = ThingShelf.Find("kitchen")!;
        var seat = new Seat(18, 1.2, 1.2);
        var model = new ArrangementModel(kitchen);
        FigureView Seen(FigureViewKind kind, int values = 0, int size = StillLife.Size) =>
            StillLife.View(model, seat, kind, size, size, values, finer: size == StillLife.Size ? 2 : 1);
        for (var n = 0; n < 5; n++)
            _ = (Seen(FigureViewKind.Line).ToSvg(), Seen(FigureViewKind.Tone), Seen(FigureViewKind.Tone, 5));
        const string large = "480 × 480",
            small = "preview 240 × 240";
        void Row(string what, Func<object> of, double atMost) =>
            report.Add("things", what, Report.Median(runs, () => of()), "ms", atMost: atMost);
        Row($"line {large}, written", () => Seen(FigureViewKind.Line).ToSvg(), 120);
        Row($"tone {large}", () => Seen(FigureViewKind.Tone), 120);
        Row($"five values {large}", () => Seen(FigureViewKind.Tone, 5), 250);
        Row($"line {small}, written", () => Seen(FigureViewKind.Line, 0, 240).ToSvg(), 60);
        Row($"tone {small}", () => Seen(FigureViewKind.Tone, 0, 240), 60);
        report.Add("things", "set up anew", Report.Median(runs, () => new ArrangementModel(kitchen)), "ms");
        report.Add("things", "all that is known of a view", Report.Median(runs, () => StillLife.Truth(model, seat)), "ms");
        report.Add(
            "things",
            "how open five things lie",
            Report.Median(quick ? 2 : 5, () => StillLife.View(new(kitchen), seat, FigureViewKind.Tone)),
            "ms"
        );
    }

    /// <summary>Under the figure's skin. The meshes at rest are made once in a process: what was asked first pays.</summary>
    private static void Anatomy(Report report, bool quick)
    {
        void Row(string what, double milliseconds, double? atMost) => report.Add("anatomy", what, milliseconds, "ms", atMost: atMost);
        FigureModel Made() =>
            new StudioFigure(0).Model("male", FigureCatalogue.Pose("contrapposto"), Drapery.For(false, false), StudioFigure.Fine);
        double Once(Action act)
        {
            var watch = Stopwatch.StartNew();
            act();
            return watch.Elapsed.TotalMilliseconds;
        }
        Row(
            "bones and muscles at rest, once",
            Once(() => (BoneShapes.All.Count + BoneShapes.Vertebra("C").TriangleCount + MuscleSheets.All.Count).ToString()),
            1200
        );
        var posed = new List<double>();
        for (var n = 0; n < (quick ? 5 : 9); n++)
        {
            var fresh = Made();
            posed.Add(Once(() => _ = fresh.UnderSkin.Bones.Mesh.TriangleCount + fresh.UnderSkin.Muscles.Mesh.TriangleCount));
        }
        Row("bones and muscles of a pose", posed.Order().ElementAt(posed.Count / 2), 250);
        var model = Made();
        foreach (var (kind, atMost) in new[] { (FigureViewKind.Bones, 110), (FigureViewKind.Muscles, 130), (FigureViewKind.Ecorche, 180) })
        foreach (var size in new[] { 1, 2 })
        {
            void Draw() => StudioFigure.View(model, new(25), kind, 480 / size, 720 / size);
            Report.Median(8, Draw);
            Row(
                $"{kind.ToString().ToLowerInvariant()} {480 / size} × {720 / size}",
                Report.Median(quick ? 10 : 20, Draw),
                atMost / (double)size
            );
        }
        report.Add("anatomy", "a model with all under its skin", model.Bytes / 1e6, "MB");
    }

    /// <summary>The studio figure; targets are one and a half times what its first drawing on two shared cores took.</summary>
    private static void Figures(Report report, bool quick)
    {
        var pose = FigureCatalogue.Pose("contrapposto");
        FigureModel Made(float step, bool garment) => new StudioFigure(0).Model("male", pose, Drapery.For(false, garment), step);
        for (var n = 0; n < 16; n++)
            Made(StudioFigure.Fine, n % 2 == 0);
        var runs = quick ? 7 : 15;
        report.Add("figure", "skin of a pose for a drawing", Report.Median(runs, () => Made(StudioFigure.Fine, false)), "ms", atMost: 164);
        report.Add("figure", "the same in shirt and shorts", Report.Median(runs, () => Made(StudioFigure.Fine, true)), "ms");
        report.Add("figure", "skin of a pose for a preview", Report.Median(runs, () => Made(StudioFigure.Coarse, false)), "ms");
        var (fine, coarse) = (Made(StudioFigure.Fine, false), Made(StudioFigure.Coarse, false));
        Report.Median(30, () => StudioFigure.View(fine, new(25), FigureViewKind.Line).ToSvg());
        report.Add(
            "figure",
            "line view 480 × 720, written",
            Report.Median(30, () => StudioFigure.View(fine, new(25), FigureViewKind.Line).ToSvg()),
            "ms",
            atMost: 35
        );
        report.Add(
            "figure",
            "line preview 240 × 360, written",
            Report.Median(30, () => StudioFigure.View(coarse, new(25), FigureViewKind.Line, 240, 360).ToSvg()),
            "ms",
            atMost: 26
        );
        report.Add(
            "figure",
            "tone 480 × 720 averaged from twice the size, shadow included",
            Report.Median(20, () => StudioFigure.View(fine, new(25), FigureViewKind.Tone)),
            "ms"
        );
        report.Add(
            "figure",
            "tone preview 240 × 360",
            Report.Median(20, () => StudioFigure.View(coarse, new(25), FigureViewKind.Tone, 240, 360, finer: 1)),
            "ms"
        );
        var studio = new StudioFigure();
        foreach (var body in FigureCatalogue.Bodies.Take(quick ? 2 : 8))
        foreach (var p in FigureCatalogue.Poses.Take(24))
            studio.Model(body.Id, p, Drapery.For(false, false));
        report.Add(
            "figure",
            $"kept after 24 poses × {(quick ? 2 : 8)} bodies",
            studio.BytesKept / 1048576.0,
            "MB",
            atMost: 96,
            note: $"one model {fine.Bytes / 1048576.0:0.0} MB, {fine.TriangleCount / 1000} thousand triangles"
        );
    }

    /// <summary>The studio head; targets are one and a half times what its first drawing on two shared cores took.</summary>
    private static void Heads(Report report, bool quick)
    {
        report.Add("head", "sculpt meshed", Report.Median(quick ? 1 : 3, () => new StudioHead().Model()), "ms", atMost: 4200);
        var studio = new StudioHead(kept: 1);
        var head = studio.Model();
        var sitters = 0;
        report.Add(
            "head",
            "another sitter of a kept sculpt",
            Report.Median(quick ? 3 : 8, () =>
                studio.Model(HeadCatalogue.Sitters.Where(s => s.Sculpt == "plain").ElementAt(1 + (sitters++ % 6)).Id)
            ),
            "ms"
        );
        foreach (var kind in new[] { FigureViewKind.Line, FigureViewKind.Tone })
            Report.Median(20, () => StudioHead.View(head, new(20), kind));
        var turn = 0.0;
        report.Add(
            "head",
            "line view 480 × 600, written",
            Report.Median(30, () => StudioHead.View(head, new(-60 + (turn++ * 3 % 120)), FigureViewKind.Line).ToSvg()),
            "ms",
            atMost: 64
        );
        report.Add(
            "head",
            "tone 480 × 600 averaged from twice the size, shadow included",
            Report.Median(20, () => StudioHead.View(head, new(-60 + (turn++ * 3 % 120)), FigureViewKind.Tone)),
            "ms",
            atMost: 110
        );
        report.Add(
            "head",
            "the same in five values",
            Report.Median(20, () => StudioHead.View(head, new(-60 + (turn++ * 3 % 120)), FigureViewKind.Tone, values: 5)),
            "ms",
            atMost: 196
        );
        report.Add(
            "head",
            "construction, written",
            Report.Median(20, () => StudioHead.View(head, new(-60 + (turn++ * 3 % 120)), FigureViewKind.Construction).ToSvg()),
            "ms"
        );
    }

    /// <summary>A figure from a flat sheet to its marks on one thread, and again with one mark placed; a drawing's cause traced.</summary>
    private static void Paper(Report report, bool quick)
    {
        using var faces = new PrintFaces(Path.Combine("src", "MintHarbor.Web", "wwwroot", "lib", "print"));
        var sheet = PaperStudy.Sheet(3);
        report.Add(
            "core",
            "a drill sheet's PDF",
            Report.Median(quick ? 5 : 15, () => DrillSheetPrint.Pdf([sheet], faces)),
            "ms",
            atMost: 150
        );
        var shot = PaperCamera.Take(PaperPencil.Answer(sheet, PencilManner.Other, 3), CameraManner.Other, faces, 3);
        using var photo = Photo.Read(shot.Jpeg);
        var grey = photo.Grey();
        report.Add(
            "photograph",
            "a drill sheet of 10 MP read, one core",
            Report.Median(quick ? 3 : 9, () =>
                Core.Alone.Run(() =>
                    Core.DrillSheets.DrillSheetReader.Read(grey, Core.DrillSheets.TrialSheets.Of, s => DrillSheetPrint.Print(s, faces))
                )
            ),
            "ms",
            atMost: 1200
        );
    }

    private static void Fit(Report report)
    {
        var studio = new StudioFigure();
        var model = studio.Model("male", FigureCatalogue.Pose("contrapposto"), Drapery.For(false, false), StudioFigure.Coarse);
        var drawn = SimulatedStudent.Draw(
            DrawnSubject.Of(model, new(20)),
            PaperSize.Find("18x24in")!,
            470,
            [new("legs short", 0.1)],
            new(),
            3
        );
        var flat = SheetCamera.Flat(drawn, 0.25, 3);
        var view = Core.Fitting.FitReferences.Of(model, new(20));
        Core.Fitting.MarkFit? fit = null;
        var whole = Report.Median(7, () => fit = Core.Alone.Run(() =>
            {
                var made = new Core.Fitting.MarkFit(Core.Fitting.InkReading.Of(flat, 0.25), Core.Fitting.FitReferences.Of(model, new(20)));
                made.Run();
                return made;
            }));
        report.Add("fit", "figure from the flat sheet to its marks, one thread", whole, "ms", atMost: 1200);
        var pins = new Dictionary<string, Core.Geometry.Vec2> { ["elbow.R"] = drawn.Landmarks["elbow.R"] };
        report.Add("fit", "fitted again with a mark placed", Report.Median(15, () => fit!.Run(pins)), "ms", atMost: 150);
        report.Add(
            "fit",
            "pose told among all, from sixteen sides",
            Report.Median(5, () => Core.Fitting.PoseFinder.Find(Core.Fitting.InkReading.Of(flat, 0.25).Form)),
            "ms"
        );
        var ask = new JudgeRequest
        {
            Pose = "contrapposto",
            Landmarks = new(drawn.Landmarks),
            Reference = new(view.Marks.Select(m => KeyValuePair.Create(m.Id, new Core.Geometry.Vec2(m.At.X, m.At.Y)))),
        };
        report.Add("fit", "findings against a reference view, causes traced", Report.Median(20, () => Judge.Of(ask)), "ms", atMost: 60);
    }
}
