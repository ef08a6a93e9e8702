using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace MintHarbor.Store.Migrations;

/// <summary>Sign-ins that the server can end; notes of the walk that are the staff's own unless shared; what lists are sorted by.</summary>
[DbContext(typeof(HarborContext))]
[Migration("20261128182439_Hands")]
public partial class Hands : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.AddColumn<bool>(name: "shared", table: "room_notes", type: "boolean", nullable: false, defaultValue: false);
        migrationBuilder.CreateTable(
            name: "signed_ins",
            columns: table => new
            {
                id = table.Column<Guid>(type: "uuid", nullable: false),
                person_id = table.Column<int>(type: "integer", nullable: false),
                at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                seen_at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                stays = table.Column<bool>(type: "boolean", nullable: false),
                ended_at = table.Column<Instant>(type: "timestamp with time zone", nullable: true),
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_signed_ins", x => x.id);
                table.ForeignKey(
                    name: "fk_signed_ins_people_person_id",
                    column: x => x.person_id,
                    principalTable: "people",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade
                );
            }
        );
        migrationBuilder.CreateIndex(name: "ix_signed_ins_person_id", table: "signed_ins", column: "person_id");
        migrationBuilder.CreateIndex(
            name: "ix_sheets_course_id_submitted_at",
            table: "sheets",
            columns: new[] { "course_id", "submitted_at" }
        );
        migrationBuilder.CreateIndex(name: "ix_outbox_course_id_sent_at", table: "outbox", columns: new[] { "course_id", "sent_at" });
    }

    protected override void Down(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.DropTable(name: "signed_ins");
        migrationBuilder.DropIndex(name: "ix_sheets_course_id_submitted_at", table: "sheets");
        migrationBuilder.DropIndex(name: "ix_outbox_course_id_sent_at", table: "outbox");
        migrationBuilder.DropColumn(name: "shared", table: "room_notes");
    }
}
