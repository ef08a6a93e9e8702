using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MintHarbor.Store.Migrations;

/// <summary>What was said of the checks of anatomy on a sheet.</summary>
[DbContext(typeof(HarborContext))]
[Migration("20261202103652_AnatomyChecks")]
public partial class AnatomyChecks : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder) =>
        migrationBuilder.AddColumn<string>(
            name: "checked",
            table: "sheets",
            type: "jsonb",
            nullable: false,
            defaultValueSql: "'{}'::jsonb"
        );

    protected override void Down(MigrationBuilder migrationBuilder) => migrationBuilder.DropColumn(name: "checked", table: "sheets");
}
