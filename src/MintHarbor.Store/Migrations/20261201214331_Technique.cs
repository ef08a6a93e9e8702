using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MintHarbor.Store.Migrations;

/// <summary>What the ink of a sheet says of technique. Sheets that nobody has answered yet are read now.</summary>
[DbContext(typeof(HarborContext))]
[Migration("20261201214331_Technique")]
public partial class Technique : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.AddColumn<string>(name: "technique", table: "sheets", type: "jsonb", nullable: true);
        migrationBuilder.Sql("update sheets set fit_since = now() where flat_hash is not null and released_at is null and fit_since is null");
    }

    protected override void Down(MigrationBuilder migrationBuilder) => migrationBuilder.DropColumn(name: "technique", table: "sheets");
}
