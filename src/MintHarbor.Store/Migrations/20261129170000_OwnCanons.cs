using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace MintHarbor.Store.Migrations;

/// <summary>Canons of a course's own, by version, and what a released sheet was judged by.</summary>
[DbContext(typeof(HarborContext))]
[Migration("20261129170000_OwnCanons")]
public partial class OwnCanons : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.CreateTable(
            name: "course_canons",
            columns: table => new
            {
                id = table
                    .Column<int>(type: "integer", nullable: false)
                    .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                course_id = table.Column<int>(type: "integer", nullable: false),
                subject = table.Column<string>(type: "text", nullable: false),
                number = table.Column<int>(type: "integer", nullable: false),
                canon = table.Column<string>(type: "jsonb", nullable: false),
                by = table.Column<string>(type: "text", nullable: false),
                at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_course_canons", x => x.id);
                table.ForeignKey(
                    name: "fk_course_canons_courses_course_id",
                    column: x => x.course_id,
                    principalTable: "courses",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade
                );
            }
        );
        migrationBuilder.CreateIndex(
            name: "ix_course_canons_course_id_subject_number",
            table: "course_canons",
            columns: ["course_id", "subject", "number"],
            unique: true
        );
        foreach (var column in new[] { "own_figure", "own_head" })
            migrationBuilder.AddColumn<string>(name: column, table: "courses", type: "jsonb", nullable: true);
        migrationBuilder.AddColumn<string>(name: "judged_by", table: "sheets", type: "jsonb", nullable: true);
    }

    protected override void Down(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.DropColumn(name: "judged_by", table: "sheets");
        foreach (var column in new[] { "own_figure", "own_head" })
            migrationBuilder.DropColumn(name: column, table: "courses");
        migrationBuilder.DropTable(name: "course_canons");
    }
}
