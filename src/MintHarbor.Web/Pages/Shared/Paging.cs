namespace MintHarbor.Web.Pages.Shared;

/// <summary>One part of a long list: which, of how many entries.</summary>
/// <param name="At">From 1.</param>
/// <param name="What">What is listed, in the plural.</param>
/// <param name="Asked">What else the address asks, ended by "&amp;"; empty for nothing.</param>
public sealed record Paging(int At, int Size, int Total, string What, string Asked = "")
{
    public int Pages => Math.Max(1, (Total + Size - 1) / Size);
    public int Skip => (At - 1) * Size;
    public int First => Total == 0 ? 0 : Skip + 1;
    public int Last => Math.Min(Total, Skip + Size);

    /// <summary>The part asked for, held to those there are.</summary>
    public static Paging Of(int? asked, int size, int total, string what)
    {
        var all = new Paging(1, size, total, what);
        return all with { At = Math.Clamp(asked ?? 1, 1, all.Pages) };
    }
}
