using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace MintHarbor.Store.Migrations;

/// <summary>What a course made its own of the studio's tables, by version, and who draws a project together.</summary>
[DbContext(typeof(HarborContext))]
[Migration("20261129190000_OwnShelvesAndGroups")]
public partial class OwnShelvesAndGroups : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.CreateTable(
            name: "shelf_versions",
            columns: table => new
            {
                course_id = table.Column<int>(type: "integer", nullable: false),
                number = table.Column<int>(type: "integer", nullable: false),
                shelf = table.Column<string>(type: "jsonb", nullable: false),
                what = table.Column<string>(type: "text", nullable: false),
                by = table.Column<string>(type: "text", nullable: false),
                at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_shelf_versions", x => new { x.course_id, x.number });
                table.ForeignKey(
                    name: "fk_shelf_versions_courses_course_id",
                    column: x => x.course_id,
                    principalTable: "courses",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade
                );
            }
        );
        migrationBuilder.AddColumn<string>(name: "own_shelf", table: "courses", type: "jsonb", nullable: true);
        migrationBuilder.AddColumn<string>(
            name: "groups",
            table: "projects",
            type: "jsonb",
            nullable: false,
            defaultValueSql: "'[]'::jsonb"
        );
    }

    protected override void Down(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.DropColumn(name: "groups", table: "projects");
        migrationBuilder.DropColumn(name: "own_shelf", table: "courses");
        migrationBuilder.DropTable(name: "shelf_versions");
    }
}
