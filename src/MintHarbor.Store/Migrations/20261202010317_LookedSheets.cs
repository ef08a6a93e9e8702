using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace MintHarbor.Store.Migrations;

/// <summary>What is marked on a sheet by hand, and what is laid over it.</summary>
[DbContext(typeof(HarborContext))]
[Migration("20261202010317_LookedSheets")]
public partial class LookedSheets : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.CreateTable(
            name: "looked_sheets",
            columns: table => new
            {
                sheet_id = table.Column<int>(type: "integer", nullable: false),
                of = table.Column<string>(type: "text", nullable: false),
                marks = table.Column<string>(type: "jsonb", nullable: false),
                over = table.Column<string>(type: "jsonb", nullable: true),
                photo_hash = table.Column<string>(type: "text", nullable: true),
                photo_shape = table.Column<double>(type: "double precision", nullable: false),
                by = table.Column<string>(type: "text", nullable: false),
                at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_looked_sheets", x => x.sheet_id);
                table.ForeignKey(
                    name: "fk_looked_sheets_sheets_sheet_id",
                    column: x => x.sheet_id,
                    principalTable: "sheets",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade
                );
            }
        );
        migrationBuilder.CreateIndex(name: "ix_looked_sheets_photo_hash", table: "looked_sheets", column: "photo_hash");
    }

    protected override void Down(MigrationBuilder migrationBuilder) => migrationBuilder.DropTable(name: "looked_sheets");
}
