using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace MintHarbor.Store.Migrations;

/// <summary>The room clock becomes a log of its own, and a sheet knows the pose that it is drawn from. The old clock column stays, unread.</summary>
[DbContext(typeof(HarborContext))]
[Migration("20261128113433_House")]
public partial class House : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.AddColumn<string>(name: "pose_key", table: "sheets", type: "text", nullable: true);
        migrationBuilder.AddColumn<bool>(name: "for_all", table: "assignments", type: "boolean", nullable: false, defaultValue: false);
        migrationBuilder.CreateTable(
            name: "clock_acts",
            columns: table => new
            {
                meeting_id = table.Column<int>(type: "integer", nullable: false),
                sequence = table.Column<int>(type: "integer", nullable: false),
                at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                act = table.Column<string>(type: "text", nullable: false),
                rest = table.Column<string>(type: "jsonb", nullable: true),
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_clock_acts", x => new { x.meeting_id, x.sequence });
                table.ForeignKey(
                    name: "fk_clock_acts_meetings_meeting_id",
                    column: x => x.meeting_id,
                    principalTable: "meetings",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade
                );
            }
        );
        // A line of an old plan gets its place in it, from 1, as its identity; a re-planned line named that place from 0, or −1 for a rest
        // that the model asked for.
        migrationBuilder.Sql(
            """
            insert into clock_acts (meeting_id, sequence, at, act, rest)
            select m.id, e.n, (e.value ->> 'at')::timestamptz, replace(initcap(replace(e.value ->> 'act', '-', ' ')), ' ', ''),
                (select jsonb_agg(case when (r.value ->> 'planIndex')::int < 0 then r.value
                    else jsonb_set(r.value, '{item,line}', to_jsonb((r.value ->> 'planIndex')::int + 1)) end order by r.k)
                 from jsonb_array_elements(case jsonb_typeof(e.value -> 'rest') when 'array' then e.value -> 'rest' else '[]'::jsonb end)
                    with ordinality as r(value, k))
            from meetings m, jsonb_array_elements(m.clock) with ordinality as e(value, n)
            """
        );
        migrationBuilder.Sql("alter table meetings alter column clock set default '[]'::jsonb");
        // The letter in a sheet's code is the pose that its card was read from.
        migrationBuilder.Sql(
            "update sheets set pose_key = substring(split_part(code, '-', 2) from '^[A-Z]+') where meeting_id is not null"
        );
        // What everybody of the class was given at once is due for all.
        migrationBuilder.Sql(
            """
            update assignments a set for_all = true where a.sheet_id is null and not exists (
                select 1 from memberships m where m.course_id = a.course_id and m.role = 'Student' and not exists (
                    select 1 from assignments b where b.course_id = a.course_id and b.student_id = m.person_id and b.given_at = a.given_at
                        and b.due = a.due and b.exercise is not distinct from a.exercise and b.drill is not distinct from a.drill))
            """
        );
        // Who joined after a running project was opened gets a place in it.
        migrationBuilder.Sql(
            """
            insert into project_works (project_id, student_id, gates, levels, stages_done)
            select p.id, m.person_id, '{}', '{}', '[]' from projects p join memberships m on m.course_id = p.course_id and m.role = 'Student'
            where p.ends >= current_date and not exists (select 1 from project_works w where w.project_id = p.id and w.student_id = m.person_id)
            """
        );
        // An hour past 12 was taken once; it is the hour of the morning.
        foreach (var hand in new[] { "shoulders", "pelvis", "action" })
            migrationBuilder.Sql(
                $"update pose_readings set card = jsonb_set(card, '{{directionsHours,{hand}}}', to_jsonb((card #>> '{{directionsHours,{hand}}}')::numeric - 12)) where (card #>> '{{directionsHours,{hand}}}')::numeric > 12"
            );
    }

    protected override void Down(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.DropColumn(name: "for_all", table: "assignments");
        migrationBuilder.DropTable(name: "clock_acts");
        migrationBuilder.DropColumn(name: "pose_key", table: "sheets");
    }
}
