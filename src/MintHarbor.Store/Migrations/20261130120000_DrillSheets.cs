using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace MintHarbor.Store.Migrations;

/// <summary>Drill sheets on paper, and the photographs that were handed in as such.</summary>
[DbContext(typeof(HarborContext))]
[Migration("20261130120000_DrillSheets")]
public partial class DrillSheets : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.CreateTable(
            name: "paper_sheets",
            columns: table => new
            {
                id = table
                    .Column<int>(type: "integer", nullable: false)
                    .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                course_id = table.Column<int>(type: "integer", nullable: false),
                student_id = table.Column<int>(type: "integer", nullable: false),
                number = table.Column<long>(type: "bigint", nullable: false),
                batch = table.Column<long>(type: "bigint", nullable: false),
                drills = table.Column<string>(type: "jsonb", nullable: false),
                printed = table.Column<string>(type: "jsonb", nullable: false),
                given_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                by = table.Column<string>(type: "text", nullable: false),
                sheet_id = table.Column<int>(type: "integer", nullable: true),
                reading = table.Column<string>(type: "jsonb", nullable: true),
                read_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                photo_hash = table.Column<string>(type: "text", nullable: true),
                flat_hash = table.Column<string>(type: "text", nullable: true),
                looked = table.Column<string>(type: "jsonb", nullable: false),
                xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_paper_sheets", x => x.id);
                table.ForeignKey(
                    name: "fk_paper_sheets_courses_course_id",
                    column: x => x.course_id,
                    principalTable: "courses",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade
                );
                table.ForeignKey(
                    name: "fk_paper_sheets_users_student_id",
                    column: x => x.student_id,
                    principalTable: "people",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade
                );
                table.ForeignKey(
                    name: "fk_paper_sheets_sheets_sheet_id",
                    column: x => x.sheet_id,
                    principalTable: "sheets",
                    principalColumn: "id",
                    onDelete: ReferentialAction.SetNull
                );
            }
        );
        migrationBuilder.CreateTable(
            name: "paper_photos",
            columns: table => new
            {
                id = table
                    .Column<int>(type: "integer", nullable: false)
                    .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                course_id = table.Column<int>(type: "integer", nullable: false),
                person_id = table.Column<int>(type: "integer", nullable: false),
                name = table.Column<string>(type: "text", nullable: false),
                hash = table.Column<string>(type: "text", nullable: false),
                upload_key = table.Column<Guid>(type: "uuid", nullable: true),
                at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                outcome = table.Column<string>(type: "text", nullable: false),
                paper_sheet_id = table.Column<int>(type: "integer", nullable: true),
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_paper_photos", x => x.id);
                table.ForeignKey(
                    name: "fk_paper_photos_courses_course_id",
                    column: x => x.course_id,
                    principalTable: "courses",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade
                );
                table.ForeignKey(
                    name: "fk_paper_photos_people_person_id",
                    column: x => x.person_id,
                    principalTable: "people",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade
                );
                table.ForeignKey(
                    name: "fk_paper_photos_paper_sheets_paper_sheet_id",
                    column: x => x.paper_sheet_id,
                    principalTable: "paper_sheets",
                    principalColumn: "id",
                    onDelete: ReferentialAction.SetNull
                );
            }
        );
        migrationBuilder.CreateIndex("ix_paper_sheets_number", "paper_sheets", "number", unique: true);
        migrationBuilder.CreateIndex("ix_paper_sheets_course_id_student_id_given_at", "paper_sheets", ["course_id", "student_id", "given_at"]);
        migrationBuilder.CreateIndex("ix_paper_sheets_student_id", "paper_sheets", "student_id");
        migrationBuilder.CreateIndex("ix_paper_sheets_sheet_id", "paper_sheets", "sheet_id");
        migrationBuilder.CreateIndex("ix_paper_photos_course_id_at", "paper_photos", ["course_id", "at"]);
        migrationBuilder.CreateIndex("ix_paper_photos_at", "paper_photos", "at", filter: "outcome = 'Waiting'");
        migrationBuilder.CreateIndex("ix_paper_photos_person_id_upload_key", "paper_photos", ["person_id", "upload_key"], unique: true);
        migrationBuilder.CreateIndex("ix_paper_photos_paper_sheet_id", "paper_photos", "paper_sheet_id");
    }

    protected override void Down(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.DropTable(name: "paper_photos");
        migrationBuilder.DropTable(name: "paper_sheets");
    }
}
