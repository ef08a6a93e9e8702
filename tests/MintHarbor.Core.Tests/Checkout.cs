namespace MintHarbor.Core.Tests;

/// <summary>The checkout that the tests run from.</summary>
public static class Checkout
{
    public static string Path(string file)
    {
        var dir = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(System.IO.Path.Combine(dir.FullName, "MintHarbor.slnx")))
            dir = dir.Parent ?? throw new InvalidOperationException("not run from the checkout");
        return System.IO.Path.Combine(dir.FullName, file);
    }
}
