using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;

namespace MintHarbor.Store;

/// <summary>Lets the migration tool see the model without a running server; it never connects.</summary>
public sealed class DesignTimeContext : IDesignTimeDbContextFactory<HarborContext>
{
    public HarborContext CreateDbContext(string[] args)
    {
        var o = new DbContextOptionsBuilder<HarborContext>();
        StoreSetup.Configure(o, "Host=localhost;Database=design");
        return new(o.Options);
    }
}
