using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace MintHarbor.Store.Migrations;

/// <summary>What two writers at once must not double; the log that is only added to; age by person, a guardian's consent, a course's end.</summary>
[DbContext(typeof(HarborContext))]
[Migration("20261128192734_Turns")]
public partial class Turns : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.AddColumn<Guid>(
                name: "saved_in",
                table: "sheets",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "minor",
                table: "people",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "consent_for",
                table: "memberships",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<LocalDate>(
                name: "consent_on",
                table: "memberships",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<Instant>(
                name: "ended_at",
                table: "courses",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "log",
                columns: table => new
                {
                    id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                    course_id = table.Column<int>(type: "integer", nullable: true),
                    kind = table.Column<string>(type: "text", nullable: false),
                    by_id = table.Column<int>(type: "integer", nullable: true),
                    by = table.Column<string>(type: "text", nullable: false),
                    about = table.Column<string>(type: "text", nullable: false),
                    what = table.Column<string>(type: "text", nullable: false),
                    was = table.Column<string>(type: "text", nullable: false),
                    now = table.Column<string>(type: "text", nullable: false),
                    why = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_log", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "once_keys",
                columns: table => new
                {
                    key = table.Column<Guid>(type: "uuid", nullable: false),
                    person_id = table.Column<int>(type: "integer", nullable: false),
                    sent = table.Column<string>(type: "text", nullable: false),
                    went = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<Instant>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_once_keys", x => x.key);
                    table.ForeignKey(
                        name: "fk_once_keys_people_person_id",
                        column: x => x.person_id,
                        principalTable: "people",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_log_course_id_id",
                table: "log",
                columns: new[] { "course_id", "id" });

            migrationBuilder.CreateIndex(
                name: "ix_once_keys_at",
                table: "once_keys",
                column: "at");

            migrationBuilder.CreateIndex(
                name: "ix_once_keys_person_id",
                table: "once_keys",
                column: "person_id");

        // Of two on one place the later one stands until the class is seated again.
        migrationBuilder.Sql(
            """
            update seatings s set spot = null, pinned = false where exists (
                select 1 from seatings o where o.meeting_id = s.meeting_id and o.spot = s.spot and o.person_id < s.person_id)
            """
        );
        // Asked at the end of a transaction: two change places in one.
        migrationBuilder.Sql(
            "alter table seatings add constraint uq_seatings_meeting_id_spot unique (meeting_id, spot) deferrable initially deferred"
        );
        migrationBuilder.Sql(
            """
            create function log_is_only_added_to() returns trigger language plpgsql as $$
            begin raise exception 'the log is only added to'; end $$
            """
        );
        migrationBuilder.Sql("create trigger log_kept before update or delete on log for each row execute function log_is_only_added_to()");
        migrationBuilder.Sql("create trigger log_not_emptied before truncate on log for each statement execute function log_is_only_added_to()");
        migrationBuilder.Sql("create index ix_log_views on log (by_id, about, at) where kind = 'View'");
        // Whoever is a student of a course for under 18 counts as such until somebody says otherwise.
        migrationBuilder.Sql(
            """
            update people p set minor = true where exists (
                select 1 from memberships m join courses c on c.id = m.course_id where m.person_id = p.id and m.role = 'Student' and c.minors)
            """
        );
        migrationBuilder.Sql(
            """
            update courses c set minors = true where not c.minors and exists (
                select 1 from memberships m join people p on p.id = m.person_id where m.course_id = c.id and m.role = 'Student' and p.minor)
            """
        );
    }

    protected override void Down(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.Sql("alter table seatings drop constraint uq_seatings_meeting_id_spot");
        migrationBuilder.DropTable(
                name: "log");

            migrationBuilder.DropTable(
                name: "once_keys");

            migrationBuilder.DropColumn(
                name: "saved_in",
                table: "sheets");

            migrationBuilder.DropColumn(
                name: "minor",
                table: "people");

            migrationBuilder.DropColumn(
                name: "consent_for",
                table: "memberships");

            migrationBuilder.DropColumn(
                name: "consent_on",
                table: "memberships");

            migrationBuilder.DropColumn(
                name: "ended_at",
                table: "courses");
        migrationBuilder.Sql("drop function log_is_only_added_to()");
    }
}
