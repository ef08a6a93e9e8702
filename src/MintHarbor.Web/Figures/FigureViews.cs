using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using MintHarbor.Core;
using MintHarbor.Core.Anatomy;
using MintHarbor.Core.Figure;
using MintHarbor.Core.Heads;
using MintHarbor.Core.Practice;
using MintHarbor.Media;
using MintHarbor.Store;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Figures;

/// <summary>Draws views of the figure and keeps the newest: models in the core's own budget, finished pictures here.</summary>
public sealed class FigureViews : IDisposable
{
    /// <summary>Bytes of finished pictures that are kept.</summary>
    public const long Budget = 48L << 20;

    internal sealed record Finished(byte[] Bytes, byte[]? Packed, string Type, string Tag);

    private readonly StudioFigure studio = new();
    private readonly StudioHead heads = new(1, 4),
        quickHeads = new(StudioHead.Coarse, 4);
    private readonly MemoryCache pictures = new(new MemoryCacheOptions { SizeLimit = Budget, CompactionPercentage = 0.2 });
    private readonly Lock gate = new();

    /// <summary>Views are drawn on every core already: more at a time would only hold more memory.</summary>
    private readonly SemaphoreSlim atWork = new(Math.Max(2, Environment.ProcessorCount));
    private readonly Dictionary<object, Task<Finished>> running = [];

    public long ModelBytes => studio.BytesKept;

    /// <summary>The model that an address speaks of, edits made.</summary>
    /// <exception cref="InputException">An edit or a body that can't be.</exception>
    public FigureModel Model(FigureAddress a, Pose pose, Drapery drapery, bool forDrawing = true)
    {
        if (a.Mirrored)
            pose = pose.Mirrored();
        var step =
            a.Preview && a.Height <= 260 ? StudioFigure.Thumb
            : a.Preview || !forDrawing ? StudioFigure.Coarse
            : StudioFigure.Fine;
        if (a.Edit.Length > 0)
        {
            var changes = PoseEdit.Read(a.Edit);
            pose = PoseEdit.Apply(studio.Model(a.Body, pose, drapery, StudioFigure.Coarse), changes);
        }
        return studio.Model(a.Body, pose, drapery, step);
    }

    /// <summary>The small dark shape of a pose that is not among those shipped.</summary>
    public Silhouette Silhouette(Pose pose, Drapery drapery) =>
        Core.Figure.Silhouette.Of(studio.Model(Core.Figure.Silhouette.Seen(false).Body, pose, drapery, StudioFigure.Coarse), false);

    public FigureView View(FigureAddress a, Pose pose, Drapery drapery) => Drawn(a, Model(a, pose, drapery));

    private static FigureView Drawn(FigureAddress a, FigureModel model) =>
        StudioFigure.View(model, a.Seat, a.Kind, a.Width, a.Height, a.Values, a.Lamp, a.Preview ? 1 : 2, a.CloseUp);

    /// <summary>GET /courses/{course}/figure/{pose}: the view as SVG or WebP, named by its content.</summary>
    public static Task<IResult> Serve(int course, string pose, HttpContext http, FigureGate gate, FigureViews views) =>
        views.GiveOfPose(course, pose, http, gate, "view", (address, model) =>
            Finish(Drawn(address, model), address.Preview, address.Blue)
        );

    /// <summary>Pixels of the picture that names are read from: coarse enough to send, fine enough for a fingertip.</summary>
    private const int NamesWide = 240,
        NamesHigh = 360;

    /// <summary>GET /courses/{course}/figure/{pose}/names: what lies where in a view of bones or muscles, and what it is called.</summary>
    public static Task<IResult> ServeNames(int course, string pose, HttpContext http, FigureGate gate, FigureViews views) =>
        views.GiveOfPose(course, pose, http, gate, "names", (address, model) =>
        {
            var names = AnatomyNames.Of(model, address.Seat, address.Kind, NamesWide, NamesHigh, address.CloseUp);
            var bytes = JsonSerializer.SerializeToUtf8Bytes(names, JsonSerializerOptions.Web);
            return new(bytes, Pack(bytes), "application/json", Tag(bytes));
        });

    /// <summary>Pixels a side of a check's small drawing.</summary>
    private const int CardSize = 200;

    /// <summary>GET /courses/{course}/figure/{pose}/check/{check}: one of a check's two drawings in this pose, from this seat.</summary>
    public static Task<IResult> ServeCheck(
        int course,
        string pose,
        string check,
        int? side,
        bool? wrong,
        HttpContext http,
        FigureGate gate,
        FigureViews views
    ) => views.GiveOfPose(course, pose, http, gate, (check, side, wrong), (address, model) =>
        {
            var drawing = BodyChecks.Draw(model, BodyChecks.Find(check), side is -1 ? -1 : 1, address.Seat, wrong == true, CardSize);
            return Finish(FigurePicture.Svg(drawing));
        });

    /// <summary>GET /courses/{course}/head/check/{check}: one of a check's two drawings of the head as it is turned, on the course's school.</summary>
    public static async Task<IResult> ServeHeadCheck(
        int course,
        string check,
        int? side,
        bool? wrong,
        HttpContext http,
        FigureGate gate,
        HarborContext db,
        FigureViews views
    )
    {
        if (await gate.Dress(http.User, course, true) is null)
            return Results.NotFound();
        var levels = HeadLevels.Of((await db.Courses.AsNoTracking().SingleAsync(c => c.Id == course)).SchoolOf("head"));
        return await views.Give(http, () =>
        {
            var asked = HeadChecks.Find(check);
            var pose = HeadAddress.Read(http.Request.Query).Pose;
            var on = side is -1 ? -1 : 1;
            return new(("check", check, on, wrong == true, pose, levels), () =>
                Finish(FigurePicture.Svg(HeadChecks.Draw(views.quickHeads, levels, asked, on, pose, wrong == true, CardSize)))
            );
        });
    }

    /// <summary>One of the two drawings of a drill's task: how it is, or the mistake; its marks only once it is answered.</summary>
    public async Task<(byte[] Bytes, string Type)> Pair(AnatomyTask task, Drapery drapery, bool wrong, bool marked)
    {
        var picture = await Picture(("pair", task.Of, task.Pose, task.At, task.By, drapery.Clothed, wrong, marked), () =>
        {
            var drawing = AnatomyPicture.Drawing(task, wrong, studio, quickHeads, drapery, CardSize);
            return Finish(FigurePicture.Svg(marked ? drawing : drawing.Unmarked));
        });
        return (picture.Bytes, picture.Type);
    }

    /// <summary>Where the checks of anatomy lie in a view.</summary>
    public IReadOnlyList<SeenCheck> Checks(FigureAddress a, Pose pose, Drapery drapery) =>
        Kept(("checks", a, StudioFigure.Key(pose), drapery.Clothed), () =>
            BodyChecks.In(Model(a, pose, drapery, forDrawing: false), a.Seat, a.Width, a.Height)
        );

    /// <summary>Where the checks of the head lie in a view of it.</summary>
    public IReadOnlyList<SeenHeadCheck> Checks(HeadLevels levels, HeadPose pose) =>
        Kept(("head checks", levels, pose), () => HeadChecks.In(Head(levels, true), pose));

    /// <summary>What the bench asks for after every change of a sheet, though the view stays the same.</summary>
    private IReadOnlyList<T> Kept<T>(object key, Func<IReadOnlyList<T>> find) => pictures.GetOrCreate(key, entry =>
        {
            entry.Size = 4000;
            return find();
        })!;

    /// <summary>Something drawn of a pose, for members and as they may see it.</summary>
    /// <param name="what">What is drawn of it, beside what its address says.</param>
    private async Task<IResult> GiveOfPose(
        int course,
        string pose,
        HttpContext http,
        FigureGate gate,
        object what,
        Func<FigureAddress, FigureModel, Finished> draw
    )
    {
        if (
            await gate.Dress(http.User, course, http.Request.Query["g"] == "1") is not { } drapery
            || await gate.Find(course, pose) is not { } found
        )
            return Results.NotFound();
        return await Give(http, () =>
        {
            var address = FigureAddress.Read(pose, http.Request.Query);
            return new((what, course, drapery.Clothed, StudioFigure.Key(found), address), () =>
                draw(address, Model(address, found, drapery))
            );
        });
    }

    /// <summary>GET /courses/{course}/head: a view of the head. It has no garment and is nobody's: members see it.</summary>
    public static async Task<IResult> ServeHead(int course, HttpContext http, FigureGate gate, FigureViews views) =>
        await gate.Dress(http.User, course, true) is null ? Results.NotFound() : await views.Give(http, () =>
            {
                var address = HeadAddress.Read(http.Request.Query);
                return new(address, () =>
                    Finish(
                        StudioHead.View(
                            views.Head(address),
                            address.Pose,
                            address.Kind,
                            address.Width,
                            address.Height,
                            address.Values,
                            address.Lamp,
                            address.Preview ? 1 : 2
                        ),
                        address.Preview,
                        false
                    )
                );
            });

    /// <summary>The head that an address speaks of.</summary>
    /// <exception cref="InputException">A sitter or canon that isn't there.</exception>
    public HeadModel Head(HeadAddress a) => (a.Preview ? quickHeads : heads).Model(a.Sitter, a.Canon);

    /// <summary>A head on levels of its own.</summary>
    /// <param name="quick">For a small picture.</param>
    /// <exception cref="InputException">Levels that no head has.</exception>
    public HeadModel Head(HeadLevels levels, bool quick = false) => (quick ? quickHeads : heads).Model(levels);

    /// <summary>A view that is wanted: what it is, and how it is drawn.</summary>
    /// <param name="Key">What the picture depends on and nothing else: of an address what was read of it, not how it was written.</param>
    internal sealed record Wanted(object Key, Func<Finished> Draw);

    /// <param name="read">Reads the address.</param>
    internal async Task<IResult> Give(HttpContext http, Func<Wanted> read)
    {
        Finished picture;
        try
        {
            var wanted = read();
            picture = await Picture(wanted.Key, wanted.Draw);
        }
        catch (InputException e)
        {
            return Results.Problem($"{e.Message}: {e.Field}. Accepted: {e.Accepted}.", statusCode: StatusCodes.Status400BadRequest);
        }
        pictures.Set(
            Asked(http),
            picture,
            new MemoryCacheEntryOptions { Size = 2000, AbsoluteExpirationRelativeToNow = FigureGate.Remembered }
        );
        await Answer(http, picture);
        return Results.Empty;
    }

    /// <summary>What somebody has just been given is given again without asking once more who they are: a view is asked for many times while
    /// a figure turns, and whoever shows the same cookie within the time a membership is remembered is the same person.</summary>
    public static Task FromMemory(HttpContext http, RequestDelegate next) =>
        HttpMethods.IsGet(http.Request.Method)
        && http.Request.Path.StartsWithSegments("/courses")
        && http.RequestServices.GetRequiredService<FigureViews>().pictures.TryGetValue(Asked(http), out Finished? picture)
            ? Answer(http, picture!)
            : next(http);

    private static (string Cookie, string Path, string Query) Asked(HttpContext http) =>
        (http.Request.Headers.Cookie.ToString(), http.Request.Path.Value ?? "", http.Request.QueryString.Value ?? "");

    private static Task Answer(HttpContext http, Finished picture)
    {
        var headers = http.Response.Headers;
        headers.CacheControl = "private, max-age=86400";
        headers.Vary = "Accept-Encoding";
        headers.ETag = picture.Tag;
        if (http.Request.Headers.IfNoneMatch == picture.Tag)
        {
            http.Response.StatusCode = StatusCodes.Status304NotModified;
            return Task.CompletedTask;
        }
        var packed = picture.Packed is not null && http.Request.Headers.AcceptEncoding.ToString().Contains("br", StringComparison.Ordinal);
        if (packed)
            headers.ContentEncoding = "br";
        var bytes = packed ? picture.Packed! : picture.Bytes;
        http.Response.ContentType = picture.Type;
        http.Response.ContentLength = bytes.Length;
        return http.Response.Body.WriteAsync(bytes).AsTask();
    }

    internal static Finished Finish(string svg)
    {
        var bytes = Encoding.UTF8.GetBytes(svg);
        return new(bytes, Pack(bytes), "image/svg+xml", Tag(bytes));
    }

    internal static Finished Finish(FigureView view, bool preview, bool blue)
    {
        var quality = preview ? 70 : 90;
        if (!view.IsPixels)
            return Finish(blue ? FigurePicture.Svg(view, "#2F5DA8") : FigurePicture.Svg(view));
        var bytes = view.Tone is { } tone ? FigurePicture.WebP(tone, quality) : FigurePicture.WebP(view.Colours!, quality);
        return new(bytes, null, "image/webp", Tag(bytes));
    }

    private static string Tag(byte[] bytes) => $"\"{Convert.ToHexStringLower(SHA256.HashData(bytes))[..24]}\"";

    private static byte[] Pack(byte[] bytes)
    {
        using var to = new MemoryStream();
        using (var brotli = new BrotliStream(to, CompressionLevel.Fastest))
            brotli.Write(bytes);
        return to.ToArray();
    }

    /// <summary>A finished picture; those who ask for the same one at the same time wait for one drawing of it.</summary>
    private async Task<Finished> Picture(object key, Func<Finished> draw)
    {
        if (pictures.TryGetValue(key, out Finished? kept))
            return kept!;
        Task<Finished> task;
        lock (gate)
        {
            if (!running.TryGetValue(key, out task!))
                running[key] = task = Worked(draw);
        }
        try
        {
            var made = await task;
            pictures.Set(key, made, new MemoryCacheEntryOptions { Size = made.Bytes.Length + (made.Packed?.Length ?? 0) + 200 });
            return made;
        }
        finally
        {
            lock (gate)
                running.Remove(key);
        }
    }

    private async Task<Finished> Worked(Func<Finished> draw)
    {
        await atWork.WaitAsync();
        try
        {
            return await Task.Run(draw);
        }
        finally
        {
            atWork.Release();
        }
    }

    public void Dispose()
    {
        pictures.Dispose();
        atWork.Dispose();
    }

    /// <summary>Draws one pose and models the usual head before anybody asks: the first drawing of a process is five times as slow, its code
    /// isn't compiled yet, and a head is sculpted once and kept.</summary>
    public void WarmUp()
    {
        var pose = FigureCatalogue.Poses[0];
        for (var i = 0; i < 3; i++)
        {
            Finish(
                View(
                    new()
                    {
                        Pose = pose.Id,
                        Preview = true,
                        Width = 190,
                        Height = 250,
                    },
                    i == 0 ? pose : pose.Mirrored(),
                    Drapery.For(false, i == 2)
                ),
                true,
                false
            );
        }
        quickHeads.Model();
        heads.Model();
    }
}

/// <summary>Warms the figure up beside the start, not before it.</summary>
public sealed class FigureWarmUp(FigureViews views) : BackgroundService
{
    protected override Task ExecuteAsync(CancellationToken stoppingToken) => Task.Run(views.WarmUp, stoppingToken);
}
