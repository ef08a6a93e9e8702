using MintHarbor.Core.Figure;

namespace MintHarbor.Core.Sessions;

/// <summary>One pose of a line with everything said of it.</summary>
/// <param name="Held">How it is held, in a word for whoever holds it.</param>
/// <param name="Facing">Degrees that the model turns from the front of the stand.</param>
public sealed record EveningPose(string Id, string Name, string Held, double Facing);

/// <summary>One line of an evening with every name resolved.</summary>
/// <param name="OnWall">What is done, for the room's display.</param>
/// <param name="OnPaper">What is done, for the sheet that is pinned up.</param>
public sealed record EveningLine(PlanItem Item, string OnWall, string OnPaper, IReadOnlyList<EveningPose> Poses)
{
    public string Name => Item.Name;
    public bool IsRest => Item.Kind is ItemKind.Rest or ItemKind.Break;
}

/// <summary>A meeting's evening as wall, paper and clock tell it: one reading of the names of poses, the course's own among them.</summary>
public sealed class Evening
{
    private readonly PlanRequest request;
    private readonly int periods;
    private readonly Subject subject;

    public Evening(PlanRequest request, IReadOnlyList<PlanItem> plan)
    {
        this.request = request;
        periods = plan.Count(i => i.Period > 0);
        subject = request.Wish.Online ? Subject.Of(request.Wish.Model).Online() : Subject.Of(request.Wish.Model);
        Lines = [.. plan.Select(Line)];
    }

    public IReadOnlyList<EveningLine> Lines { get; }

    public EveningLine Line(PlanItem i) =>
        new(
            i,
            OnWall(i),
            OnPaper(i),
            [
                .. i.PoseIds.Select(
                    (id, n) =>
                        new EveningPose(
                            id,
                            request.Wish.Model == ModelKind.Two
                                ? PosePair.Said(id, PoseLibrary.Name(id, request))
                                : PoseLibrary.Name(id, request),
                            PoseLibrary.Held(id, n < i.Strains.Count ? i.Strains[n] : Strain.Standing, request),
                            i.Facings.ElementAtOrDefault(n)
                        )
                ),
            ]
        );

    /// <summary>A turn of the stand in words, after a comma; nothing for the front.</summary>
    /// <param name="whose">"your" where the model reads it.</param>
    public static string Turned(double facing, string whose = "your") =>
        Math.Round(facing) switch
        {
            0 => "",
            90 => $", turned to {whose} left",
            -90 => $", turned to {whose} right",
            180 or -180 => ", turned to the back",
            var f => $", turned {Say.Number(Math.Abs(f))}° to {whose} {(f > 0 ? "left" : "right")}",
        };

    private string OnWall(PlanItem i) =>
        i.Kind switch
        {
            ItemKind.Exercise when i.Period > 0 => $"sitting {i.Period} of {periods}: {Work(i)}",
            ItemKind.Exercise => $"{i.Catalogue!.Name.ToLowerInvariant()}: {Work(i)}",
            ItemKind.SetUp => subject.OnWall,
            ItemKind.Rest when i.Line.IsNone => subject.Asked,
            ItemKind.Rest => subject.Live ? "shake out the arm" : subject.Rest,
            ItemKind.Break => subject.Stand && !request.Wish.Online ? "boards turned upside down" : subject.Break,
            ItemKind.Review => subject.Review,
            ItemKind.PackUp => subject.PackUp,
            _ => "look from three metres",
        };

    /// <summary>What is done in an exercise; where one drawing goes on, what stays in its place for it.</summary>
    private string Work(PlanItem i)
    {
        var work = subject.How is { } how && i.Catalogue!.NeedsSubject ? $"{how}; {i.Catalogue.Wall}" : i.Catalogue!.Wall;
        return i.Period > 0 ? $"{work}; {subject.Stays}" : work;
    }

    private string OnPaper(PlanItem i) =>
        i.Kind switch
        {
            ItemKind.Exercise when i.IsLong && Turned(i.Facings.FirstOrDefault(), "the model's") is { Length: > 2 } turned =>
                $"{turned[2..]}; {Work(i)}",
            ItemKind.Exercise => Work(i),
            ItemKind.SetUp => subject.SetUp,
            ItemKind.Rest => subject.Rest,
            ItemKind.Break => subject.Break,
            ItemKind.StandBack => "look from three metres",
            ItemKind.Review => subject.Review,
            _ => subject.PackUp,
        };
}
