using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace MintHarbor.Store.Migrations;

/// <summary>Who poses for a course, and which meetings they are asked for.</summary>
[DbContext(typeof(HarborContext))]
[Migration("20261201033224_ModelsBook")]
public partial class ModelsBook : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.CreateTable(
            name: "booked_models",
            columns: table => new
            {
                id = table.Column<int>(type: "integer", nullable: false)
                    .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                course_id = table.Column<int>(type: "integer", nullable: false),
                name = table.Column<string>(type: "text", nullable: false),
                gladly = table.Column<string>(type: "jsonb", nullable: false),
                rather_not = table.Column<string>(type: "jsonb", nullable: false),
                ease = table.Column<double>(type: "double precision", nullable: false),
                note = table.Column<string>(type: "text", nullable: false),
                rate_per_hour = table.Column<double>(type: "double precision", nullable: true),
                rate_per_posed_hour = table.Column<double>(type: "double precision", nullable: false),
                secret = table.Column<string>(type: "text", nullable: false),
                by = table.Column<string>(type: "text", nullable: false),
                at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                left_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
                xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false)
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_booked_models", x => x.id);
                table.ForeignKey(
                    name: "fk_booked_models_courses_course_id",
                    column: x => x.course_id,
                    principalTable: "courses",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade);
            });

        migrationBuilder.CreateTable(
            name: "model_bookings",
            columns: table => new
            {
                meeting_id = table.Column<int>(type: "integer", nullable: false),
                model_id = table.Column<int>(type: "integer", nullable: false),
                answer = table.Column<int>(type: "integer", nullable: false),
                at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_model_bookings", x => new { x.meeting_id, x.model_id });
                table.ForeignKey(
                    name: "fk_model_bookings_booked_models_model_id",
                    column: x => x.model_id,
                    principalTable: "booked_models",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade);
                table.ForeignKey(
                    name: "fk_model_bookings_meetings_meeting_id",
                    column: x => x.meeting_id,
                    principalTable: "meetings",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade);
            });

        migrationBuilder.CreateIndex(
            name: "ix_booked_models_course_id",
            table: "booked_models",
            column: "course_id");

        migrationBuilder.CreateIndex(
            name: "ix_booked_models_secret",
            table: "booked_models",
            column: "secret",
            unique: true);

        migrationBuilder.CreateIndex(
            name: "ix_model_bookings_model_id",
            table: "model_bookings",
            column: "model_id");
    }

    protected override void Down(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.DropTable(
            name: "model_bookings");

        migrationBuilder.DropTable(
            name: "booked_models");
    }
}
