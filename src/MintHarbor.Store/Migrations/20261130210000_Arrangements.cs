using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace MintHarbor.Store.Migrations;

/// <summary>Arrangements of things that a course keeps, and sheets held against the one that they were drawn from.</summary>
[DbContext(typeof(HarborContext))]
[Migration("20261130210000_Arrangements")]
public partial class Arrangements : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.CreateTable(
            name: "course_arrangements",
            columns: table => new
            {
                id = table.Column<int>(type: "integer", nullable: false)
                    .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                course_id = table.Column<int>(type: "integer", nullable: false),
                name = table.Column<string>(type: "text", nullable: false),
                things = table.Column<string>(type: "text", nullable: false),
                azimuth = table.Column<double>(type: "double precision", nullable: false),
                distance = table.Column<double>(type: "double precision", nullable: false),
                eye_height = table.Column<double>(type: "double precision", nullable: false),
                lamp_azimuth = table.Column<double>(type: "double precision", nullable: true),
                lamp_elevation = table.Column<double>(type: "double precision", nullable: false),
                by = table.Column<string>(type: "text", nullable: false),
                at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_course_arrangements", x => x.id);
                table.ForeignKey(
                    name: "fk_course_arrangements_courses_course_id",
                    column: x => x.course_id,
                    principalTable: "courses",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade);
            });

        migrationBuilder.CreateTable(
            name: "held_sheets",
            columns: table => new
            {
                sheet_id = table.Column<int>(type: "integer", nullable: false),
                of = table.Column<string>(type: "text", nullable: false),
                name = table.Column<string>(type: "text", nullable: false),
                boxes = table.Column<string>(type: "jsonb", nullable: false),
                by = table.Column<string>(type: "text", nullable: false),
                at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_held_sheets", x => x.sheet_id);
                table.ForeignKey(
                    name: "fk_held_sheets_sheets_sheet_id",
                    column: x => x.sheet_id,
                    principalTable: "sheets",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade);
            });

        migrationBuilder.CreateIndex(
            name: "ix_course_arrangements_course_id_name",
            table: "course_arrangements",
            columns: new[] { "course_id", "name" },
            unique: true);
    }

    protected override void Down(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.DropTable(
            name: "course_arrangements");

        migrationBuilder.DropTable(
            name: "held_sheets");
    }
}
