using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace MintHarbor.Store.Migrations;

/// <summary>Projects of a course's own, sheets handed in to a stage, and what a grade needs beside its levels.</summary>
[DbContext(typeof(HarborContext))]
[Migration("20261129100000_OwnProjects")]
public partial class OwnProjects : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.CreateTable(
            name: "project_plans",
            columns: table => new
            {
                id = table
                    .Column<int>(type: "integer", nullable: false)
                    .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                course_id = table.Column<int>(type: "integer", nullable: false),
                name = table.Column<string>(type: "text", nullable: false),
                plan = table.Column<string>(type: "jsonb", nullable: false),
                by = table.Column<string>(type: "text", nullable: false),
                at = table.Column<Instant>(type: "timestamp with time zone", nullable: false),
                xmin = table.Column<uint>(type: "xid", rowVersion: true, nullable: false),
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_project_plans", x => x.id);
                table.ForeignKey(
                    name: "fk_project_plans_courses_course_id",
                    column: x => x.course_id,
                    principalTable: "courses",
                    principalColumn: "id",
                    onDelete: ReferentialAction.Cascade
                );
            }
        );
        migrationBuilder.CreateIndex(
            name: "ix_project_plans_course_id_name",
            table: "project_plans",
            columns: ["course_id", "name"],
            unique: true
        );

        foreach (var column in new[] { "plan", "rules" })
            migrationBuilder.AddColumn<string>(name: column, table: "projects", type: "jsonb", nullable: true);
        migrationBuilder.AddColumn<int>(name: "home_minutes", table: "projects", type: "integer", nullable: false, defaultValue: 0);
        migrationBuilder.AddColumn<int>(name: "long_pose_id", table: "projects", type: "integer", nullable: true);
        migrationBuilder.CreateIndex(name: "ix_projects_long_pose_id", table: "projects", column: "long_pose_id");
        migrationBuilder.AddForeignKey(
            name: "fk_projects_long_poses_long_pose_id",
            table: "projects",
            column: "long_pose_id",
            principalTable: "long_poses",
            principalColumn: "id",
            onDelete: ReferentialAction.SetNull
        );

        migrationBuilder.AddColumn<string>(
            name: "again",
            table: "project_works",
            type: "jsonb",
            nullable: false,
            defaultValueSql: "'{}'::jsonb"
        );
        foreach (var column in new[] { "comment", "extended_because", "standing_because" })
            migrationBuilder.AddColumn<string>(
                name: column,
                table: "project_works",
                type: "text",
                nullable: false,
                defaultValue: ""
            );
        migrationBuilder.AddColumn<string>(
            name: "standing",
            table: "project_works",
            type: "text",
            nullable: false,
            defaultValue: "Graded"
        );
        migrationBuilder.AddColumn<LocalDate>(name: "extended_to", table: "project_works", type: "date", nullable: true);
        migrationBuilder.AddColumn<Instant>(
            name: "handed_in_at",
            table: "project_works",
            type: "timestamp with time zone",
            nullable: true
        );

        migrationBuilder.AddColumn<int>(name: "work_id", table: "log", type: "integer", nullable: true);
        migrationBuilder.CreateIndex(name: "ix_log_work_id", table: "log", column: "work_id");
        migrationBuilder.AddColumn<int>(name: "work_id", table: "sheets", type: "integer", nullable: true);
        migrationBuilder.AddColumn<string>(name: "stage_id", table: "sheets", type: "text", nullable: true);
        migrationBuilder.CreateIndex(name: "ix_sheets_work_id", table: "sheets", column: "work_id");
        migrationBuilder.AddForeignKey(
            name: "fk_sheets_project_works_work_id",
            table: "sheets",
            column: "work_id",
            principalTable: "project_works",
            principalColumn: "id",
            onDelete: ReferentialAction.SetNull
        );
    }

    protected override void Down(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.DropForeignKey(name: "fk_sheets_project_works_work_id", table: "sheets");
        migrationBuilder.DropForeignKey(name: "fk_projects_long_poses_long_pose_id", table: "projects");
        migrationBuilder.DropColumn(name: "work_id", table: "log");
        foreach (var column in new[] { "work_id", "stage_id" })
            migrationBuilder.DropColumn(name: column, table: "sheets");
        foreach (var column in new[] { "plan", "rules", "home_minutes", "long_pose_id" })
            migrationBuilder.DropColumn(name: column, table: "projects");
        string[] of = ["again", "comment", "extended_because", "standing_because", "standing", "extended_to", "handed_in_at"];
        foreach (var column in of)
            migrationBuilder.DropColumn(name: column, table: "project_works");
        migrationBuilder.DropTable(name: "project_plans");
    }
}
