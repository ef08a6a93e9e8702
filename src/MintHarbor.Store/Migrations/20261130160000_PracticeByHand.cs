using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace MintHarbor.Store.Migrations;

/// <summary>What hands drew, timed sittings, daily lines, stages of measuring and their evidence, and the eye that one aims with.</summary>
[DbContext(typeof(HarborContext))]
[Migration("20261130160000_PracticeByHand")]
public partial class PracticeByHand : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.AddColumn<long>(
            name: "paper_batch",
            table: "assignments",
            type: "bigint",
            nullable: true);

        migrationBuilder.AddColumn<string>(
            name: "eye",
            table: "memberships",
            type: "text",
            nullable: true);

        migrationBuilder.CreateTable(
            name: "daily_lines",
            columns: table => new
            {
                course_id = table.Column<int>(type: "integer", nullable: false),
                student_id = table.Column<int>(type: "integer", nullable: false),
                day = table.Column<LocalDate>(type: "date", nullable: false),
                trace = table.Column<string>(type: "jsonb", nullable: true),
                second = table.Column<string>(type: "jsonb", nullable: true),
                of = table.Column<string>(type: "text", nullable: false),
                at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_daily_lines", x => new { x.course_id, x.student_id, x.day });
                table.ForeignKey(
                    name: "fk_daily_lines_courses_course_id",
                    column: x => x.course_id,
                    principalTable: "courses",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade);
                table.ForeignKey(
                    name: "fk_daily_lines_users_student_id",
                    column: x => x.student_id,
                    principalTable: "people",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade);
            });

        migrationBuilder.CreateTable(
            name: "drawn_answers",
            columns: table => new
            {
                round_id = table.Column<int>(type: "integer", nullable: false),
                number = table.Column<int>(type: "integer", nullable: false),
                trace = table.Column<string>(type: "jsonb", nullable: false),
                reading = table.Column<string>(type: "jsonb", nullable: false)
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_drawn_answers", x => new { x.round_id, x.number });
                table.ForeignKey(
                    name: "fk_drawn_answers_drill_rounds_round_id",
                    column: x => x.round_id,
                    principalTable: "drill_rounds",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade);
            });

        migrationBuilder.CreateTable(
            name: "measure_points",
            columns: table => new
            {
                id = table.Column<int>(type: "integer", nullable: false)
                    .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                course_id = table.Column<int>(type: "integer", nullable: false),
                student_id = table.Column<int>(type: "integer", nullable: false),
                measure = table.Column<string>(type: "text", nullable: false),
                from = table.Column<string>(type: "text", nullable: false),
                of = table.Column<int>(type: "integer", nullable: false),
                name = table.Column<string>(type: "text", nullable: false),
                at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                lean = table.Column<double>(type: "double precision", nullable: false),
                scatter = table.Column<double>(type: "double precision", nullable: false)
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_measure_points", x => x.id);
                table.ForeignKey(
                    name: "fk_measure_points_courses_course_id",
                    column: x => x.course_id,
                    principalTable: "courses",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade);
                table.ForeignKey(
                    name: "fk_measure_points_users_student_id",
                    column: x => x.student_id,
                    principalTable: "people",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade);
            });

        migrationBuilder.CreateTable(
            name: "practice_sittings",
            columns: table => new
            {
                id = table.Column<int>(type: "integer", nullable: false)
                    .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                course_id = table.Column<int>(type: "integer", nullable: false),
                student_id = table.Column<int>(type: "integer", nullable: false),
                assignment_id = table.Column<int>(type: "integer", nullable: true),
                key = table.Column<Guid>(type: "uuid", nullable: false),
                log = table.Column<string>(type: "jsonb", nullable: false),
                ended_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_practice_sittings", x => x.id);
                table.ForeignKey(
                    name: "fk_practice_sittings_assignments_assignment_id",
                    column: x => x.assignment_id,
                    principalTable: "assignments",
                    principalColumn: "id",
                    onDelete: ReferentialAction.SetNull);
                table.ForeignKey(
                    name: "fk_practice_sittings_courses_course_id",
                    column: x => x.course_id,
                    principalTable: "courses",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade);
                table.ForeignKey(
                    name: "fk_practice_sittings_users_student_id",
                    column: x => x.student_id,
                    principalTable: "people",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade);
            });

        migrationBuilder.CreateTable(
            name: "stage_moves",
            columns: table => new
            {
                id = table.Column<int>(type: "integer", nullable: false)
                    .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                course_id = table.Column<int>(type: "integer", nullable: false),
                student_id = table.Column<int>(type: "integer", nullable: false),
                measure = table.Column<string>(type: "text", nullable: false),
                from = table.Column<string>(type: "text", nullable: false),
                to = table.Column<string>(type: "text", nullable: false),
                evidence = table.Column<string>(type: "jsonb", nullable: true),
                word = table.Column<string>(type: "text", nullable: false),
                by = table.Column<string>(type: "text", nullable: false),
                at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_stage_moves", x => x.id);
                table.ForeignKey(
                    name: "fk_stage_moves_courses_course_id",
                    column: x => x.course_id,
                    principalTable: "courses",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade);
                table.ForeignKey(
                    name: "fk_stage_moves_users_student_id",
                    column: x => x.student_id,
                    principalTable: "people",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade);
            });

        migrationBuilder.CreateIndex(
            name: "ix_daily_lines_student_id",
            table: "daily_lines",
            column: "student_id");

        migrationBuilder.CreateIndex(
            name: "ix_measure_points_course_id_student_id_measure_at",
            table: "measure_points",
            columns: new[] { "course_id", "student_id", "measure", "at" });

        migrationBuilder.CreateIndex(
            name: "ix_measure_points_from_of_measure",
            table: "measure_points",
            columns: new[] { "from", "of", "measure" },
            unique: true);

        migrationBuilder.CreateIndex(
            name: "ix_measure_points_student_id",
            table: "measure_points",
            column: "student_id");

        migrationBuilder.CreateIndex(
            name: "ix_practice_sittings_assignment_id",
            table: "practice_sittings",
            column: "assignment_id");

        migrationBuilder.CreateIndex(
            name: "ix_practice_sittings_course_id_student_id_ended_at",
            table: "practice_sittings",
            columns: new[] { "course_id", "student_id", "ended_at" });

        migrationBuilder.CreateIndex(
            name: "ix_practice_sittings_student_id_key",
            table: "practice_sittings",
            columns: new[] { "student_id", "key" },
            unique: true);

        migrationBuilder.CreateIndex(
            name: "ix_stage_moves_course_id_student_id_at",
            table: "stage_moves",
            columns: new[] { "course_id", "student_id", "at" });

        migrationBuilder.CreateIndex(
            name: "ix_stage_moves_student_id",
            table: "stage_moves",
            column: "student_id");
    }

    protected override void Down(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.DropTable(
            name: "daily_lines");

        migrationBuilder.DropTable(
            name: "drawn_answers");

        migrationBuilder.DropTable(
            name: "measure_points");

        migrationBuilder.DropTable(
            name: "practice_sittings");

        migrationBuilder.DropTable(
            name: "stage_moves");

        migrationBuilder.DropColumn(
            name: "paper_batch",
            table: "assignments");

        migrationBuilder.DropColumn(
            name: "eye",
            table: "memberships");
    }
}
