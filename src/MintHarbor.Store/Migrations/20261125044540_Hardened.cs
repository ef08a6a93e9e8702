using Microsoft.EntityFrameworkCore.Infrastructure;
using System;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace MintHarbor.Store.Migrations
{
    // What EF Core keeps beside a migration (its model) is not needed to apply it; the snapshot holds the newest.
    [DbContext(typeof(HarborContext))]
    [Migration("20261125044540_Hardened")]
    public sealed class Hardened : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "light_says",
                table: "sheets",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "observed",
                table: "sheets",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'::jsonb");

            migrationBuilder.AddColumn<string>(
                name: "saved_by",
                table: "sheets",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "set_at",
                table: "sheets",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<Guid>(
                name: "set_id",
                table: "sheets",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "subject",
                table: "sheets",
                type: "text",
                nullable: false,
                defaultValue: "figure");

            migrationBuilder.AddColumn<Guid>(
                name: "upload_key",
                table: "sheets",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "whole",
                table: "sheets",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "kind",
                table: "drill_rounds",
                type: "text",
                nullable: false,
                defaultValue: "clock-hand");

            migrationBuilder.AddColumn<string>(
                name: "head_canon",
                table: "courses",
                type: "text",
                nullable: false,
                defaultValue: "classical-head");

            migrationBuilder.AddColumn<string>(
                name: "rung",
                table: "courses",
                type: "text",
                nullable: false,
                defaultValue: "still-life");

            migrationBuilder.CreateTable(
                name: "rung_moves",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    course_id = table.Column<int>(type: "integer", nullable: false),
                    from = table.Column<string>(type: "text", nullable: false),
                    to = table.Column<string>(type: "text", nullable: false),
                    evidence = table.Column<string>(type: "text", nullable: false),
                    reason = table.Column<string>(type: "text", nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_rung_moves", x => x.id);
                    table.ForeignKey(
                        name: "fk_rung_moves_courses_course_id",
                        column: x => x.course_id,
                        principalTable: "courses",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_sheets_set_id",
                table: "sheets",
                column: "set_id");

            migrationBuilder.CreateIndex(
                name: "ix_sheets_student_id_upload_key",
                table: "sheets",
                columns: new[] { "student_id", "upload_key" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_rung_moves_course_id_at",
                table: "rung_moves",
                columns: new[] { "course_id", "at" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "rung_moves");

            migrationBuilder.DropIndex(
                name: "ix_sheets_set_id",
                table: "sheets");

            migrationBuilder.DropIndex(
                name: "ix_sheets_student_id_upload_key",
                table: "sheets");

            migrationBuilder.DropColumn(
                name: "light_says",
                table: "sheets");

            migrationBuilder.DropColumn(
                name: "observed",
                table: "sheets");

            migrationBuilder.DropColumn(
                name: "saved_by",
                table: "sheets");

            migrationBuilder.DropColumn(
                name: "set_at",
                table: "sheets");

            migrationBuilder.DropColumn(
                name: "set_id",
                table: "sheets");

            migrationBuilder.DropColumn(
                name: "subject",
                table: "sheets");

            migrationBuilder.DropColumn(
                name: "upload_key",
                table: "sheets");

            migrationBuilder.DropColumn(
                name: "whole",
                table: "sheets");

            migrationBuilder.DropColumn(
                name: "kind",
                table: "drill_rounds");

            migrationBuilder.DropColumn(
                name: "head_canon",
                table: "courses");

            migrationBuilder.DropColumn(
                name: "rung",
                table: "courses");
        }
    }
}
