using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace MintHarbor.Store.Migrations
{
    /// <inheritdoc />
    [DbContext(typeof(HarborContext))]
    [Migration("20261125181338_Evenings")]
    public sealed class Evenings : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "pinned",
                table: "seatings",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "spot",
                table: "seatings",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "hand",
                table: "memberships",
                type: "text",
                nullable: false,
                defaultValue: "Right");

            migrationBuilder.AddColumn<string>(
                name: "needs",
                table: "memberships",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'::jsonb");

            migrationBuilder.AddColumn<string>(
                name: "cautions_seen",
                table: "meetings",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'::jsonb");

            migrationBuilder.AddColumn<int>(
                name: "long_pose_id",
                table: "meetings",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "model_secret",
                table: "meetings",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<bool>(
                name: "online",
                table: "meetings",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "bookings",
                table: "courses",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'::jsonb");

            migrationBuilder.AddColumn<string>(
                name: "days_off",
                table: "courses",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'::jsonb");

            migrationBuilder.AddColumn<string>(
                name: "feed_secret",
                table: "courses",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "medium",
                table: "courses",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "pay",
                table: "courses",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "studio",
                table: "courses",
                type: "jsonb",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "long_poses",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    course_id = table.Column<int>(type: "integer", nullable: false),
                    pose_id = table.Column<string>(type: "text", nullable: false),
                    hours = table.Column<double>(type: "double precision", nullable: false),
                    floor_marks = table.Column<string>(type: "text", nullable: false),
                    lamp = table.Column<string>(type: "text", nullable: false),
                    seats = table.Column<string>(type: "text", nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_long_poses", x => x.id);
                    table.ForeignKey(
                        name: "fk_long_poses_courses_course_id",
                        column: x => x.course_id,
                        principalTable: "courses",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "presences",
                columns: table => new
                {
                    meeting_id = table.Column<int>(type: "integer", nullable: false),
                    person_id = table.Column<int>(type: "integer", nullable: false),
                    present = table.Column<bool>(type: "boolean", nullable: false),
                    ticks = table.Column<string>(type: "jsonb", nullable: false),
                    set_up = table.Column<string>(type: "jsonb", nullable: true),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_presences", x => new { x.meeting_id, x.person_id });
                    table.ForeignKey(
                        name: "fk_presences_meetings_meeting_id",
                        column: x => x.meeting_id,
                        principalTable: "meetings",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_presences_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "room_notes",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    meeting_id = table.Column<int>(type: "integer", nullable: false),
                    key = table.Column<Guid>(type: "uuid", nullable: false),
                    author_id = table.Column<int>(type: "integer", nullable: false),
                    student_id = table.Column<int>(type: "integer", nullable: true),
                    fault_id = table.Column<string>(type: "text", nullable: true),
                    place = table.Column<string>(type: "text", nullable: false),
                    text = table.Column<string>(type: "text", nullable: false),
                    minute = table.Column<double>(type: "double precision", nullable: false),
                    picture_hash = table.Column<string>(type: "text", nullable: true),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_room_notes", x => x.id);
                    table.ForeignKey(
                        name: "fk_room_notes_meetings_meeting_id",
                        column: x => x.meeting_id,
                        principalTable: "meetings",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_room_notes_people_author_id",
                        column: x => x.author_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "fk_room_notes_users_student_id",
                        column: x => x.student_id,
                        principalTable: "people",
                        principalColumn: "id");
                });

            migrationBuilder.CreateTable(
                name: "templates",
                columns: table => new
                {
                    id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    course_id = table.Column<int>(type: "integer", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    request = table.Column<string>(type: "jsonb", nullable: false),
                    by = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_templates", x => x.id);
                    table.ForeignKey(
                        name: "fk_templates_courses_course_id",
                        column: x => x.course_id,
                        principalTable: "courses",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_meetings_long_pose_id",
                table: "meetings",
                column: "long_pose_id");

            migrationBuilder.CreateIndex(
                name: "ix_meetings_model_secret",
                table: "meetings",
                column: "model_secret");

            migrationBuilder.CreateIndex(
                name: "ix_courses_feed_secret",
                table: "courses",
                column: "feed_secret");

            migrationBuilder.CreateIndex(
                name: "ix_long_poses_course_id",
                table: "long_poses",
                column: "course_id");

            migrationBuilder.CreateIndex(
                name: "ix_presences_person_id",
                table: "presences",
                column: "person_id");

            migrationBuilder.CreateIndex(
                name: "ix_room_notes_author_id",
                table: "room_notes",
                column: "author_id");

            migrationBuilder.CreateIndex(
                name: "ix_room_notes_meeting_id_key",
                table: "room_notes",
                columns: new[] { "meeting_id", "key" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_room_notes_student_id",
                table: "room_notes",
                column: "student_id");

            migrationBuilder.CreateIndex(
                name: "ix_templates_course_id_name",
                table: "templates",
                columns: new[] { "course_id", "name" },
                unique: true);

            migrationBuilder.AddForeignKey(
                name: "fk_meetings_long_poses_long_pose_id",
                table: "meetings",
                column: "long_pose_id",
                principalTable: "long_poses",
                principalColumn: "id");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_meetings_long_poses_long_pose_id",
                table: "meetings");

            migrationBuilder.DropTable(
                name: "long_poses");

            migrationBuilder.DropTable(
                name: "presences");

            migrationBuilder.DropTable(
                name: "room_notes");

            migrationBuilder.DropTable(
                name: "templates");

            migrationBuilder.DropIndex(
                name: "ix_meetings_long_pose_id",
                table: "meetings");

            migrationBuilder.DropIndex(
                name: "ix_meetings_model_secret",
                table: "meetings");

            migrationBuilder.DropIndex(
                name: "ix_courses_feed_secret",
                table: "courses");

            migrationBuilder.DropColumn(
                name: "pinned",
                table: "seatings");

            migrationBuilder.DropColumn(
                name: "spot",
                table: "seatings");

            migrationBuilder.DropColumn(
                name: "hand",
                table: "memberships");

            migrationBuilder.DropColumn(
                name: "needs",
                table: "memberships");

            migrationBuilder.DropColumn(
                name: "cautions_seen",
                table: "meetings");

            migrationBuilder.DropColumn(
                name: "long_pose_id",
                table: "meetings");

            migrationBuilder.DropColumn(
                name: "model_secret",
                table: "meetings");

            migrationBuilder.DropColumn(
                name: "online",
                table: "meetings");

            migrationBuilder.DropColumn(
                name: "bookings",
                table: "courses");

            migrationBuilder.DropColumn(
                name: "days_off",
                table: "courses");

            migrationBuilder.DropColumn(
                name: "feed_secret",
                table: "courses");

            migrationBuilder.DropColumn(
                name: "medium",
                table: "courses");

            migrationBuilder.DropColumn(
                name: "pay",
                table: "courses");

            migrationBuilder.DropColumn(
                name: "studio",
                table: "courses");
        }
    }
}
