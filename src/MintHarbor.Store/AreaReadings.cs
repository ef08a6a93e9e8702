using MintHarbor.Core.Technique;
using MintHarbor.Store.Fitting;

namespace MintHarbor.Store;

/// <summary>The sheets that areas were asked of last, read once each: a second lasso answers at once.</summary>
public sealed class AreaReadings
{
    private const int Kept = 3;

    private readonly Lock gate = new();
    private readonly LinkedList<(string Flat, Task<SheetAreas?> Areas)> byUse = new();

    /// <param name="flat">Hash of the flat sheet.</param>
    public async Task<SheetAreas?> Of(string flat, double widthMm, PictureService pictures)
    {
        Task<SheetAreas?> areas;
        lock (gate)
        {
            var known = byUse.FirstOrDefault(n => n.Flat == flat && !n.Areas.IsFaulted && !n.Areas.IsCanceled);
            if (known.Areas is null)
                known = (flat, Read(flat, widthMm, pictures));
            else
                byUse.Remove(known);
            byUse.AddFirst(known);
            while (byUse.Count > Kept)
                byUse.RemoveLast();
            areas = known.Areas;
        }
        return await areas;
    }

    private static async Task<SheetAreas?> Read(string flat, double widthMm, PictureService pictures)
    {
        using var open = await pictures.Take(flat);
        return await Nice.Work(
            () =>
            {
                var grey = open.Photo.Grey();
                return TechniqueReader.Areas(grey, widthMm / grey.Width);
            },
            CancellationToken.None
        );
    }
}
