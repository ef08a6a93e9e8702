namespace MintHarbor.Core;

/// <summary>Loops that are spread over the processors, but for work that is done beside what people wait for: that keeps to its own thread.</summary>
public static class Alone
{
    [ThreadStatic]
    private static bool alone;

    /// <summary>Runs something whose loops are not to be spread.</summary>
    public static T Run<T>(Func<T> work)
    {
        var before = alone;
        alone = true;
        try
        {
            return work();
        }
        finally
        {
            alone = before;
        }
    }

    internal static void For(int from, int to, Action<int> body)
    {
        if (!alone)
        {
            Parallel.For(from, to, body);
            return;
        }
        for (var i = from; i < to; i++)
            body(i);
    }
}
