using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MintHarbor.Store.Migrations;

/// <summary>Where a pose card was read from.</summary>
[DbContext(typeof(HarborContext))]
[Migration("20261129013000_ReadFrom")]
public partial class ReadFrom : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder) =>
        migrationBuilder.AddColumn<double>(name: "read_from", table: "pose_readings", type: "double precision", nullable: true);

    protected override void Down(MigrationBuilder migrationBuilder) => migrationBuilder.DropColumn(name: "read_from", table: "pose_readings");
}
