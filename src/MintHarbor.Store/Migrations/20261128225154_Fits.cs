using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using NodaTime;

#nullable disable

namespace MintHarbor.Store.Migrations;

/// <summary>What the ink told of a sheet, and what its student and staff placed, apart from one another.</summary>
[DbContext(typeof(HarborContext))]
[Migration("20261128225154_Fits")]
public partial class Fits : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.AddColumn<string>(
            name: "by_staff",
            table: "sheets",
            type: "jsonb",
            nullable: false,
            defaultValueSql: "'{}'::jsonb");

        migrationBuilder.AddColumn<string>(
            name: "by_student",
            table: "sheets",
            type: "jsonb",
            nullable: false,
            defaultValueSql: "'{}'::jsonb");

        migrationBuilder.AddColumn<string>(
            name: "fit",
            table: "sheets",
            type: "jsonb",
            nullable: true);

        migrationBuilder.AddColumn<Instant>(
            name: "fit_since",
            table: "sheets",
            type: "timestamp with time zone",
            nullable: true);

        migrationBuilder.CreateIndex(
            name: "ix_sheets_fit_since",
            table: "sheets",
            column: "fit_since",
            filter: "fit_since is not null");

        // Whose hand placed the marks so far nobody kept; they stand as they did.
        migrationBuilder.Sql(
            """
            update sheets set by_student = coalesce(
                (select jsonb_object_agg(m.key, jsonb_build_object('at', m.value, 'by', '', 'when', null)) from jsonb_each(landmarks) m),
                '{}'::jsonb)
            """);
    }

    protected override void Down(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.DropIndex(name: "ix_sheets_fit_since", table: "sheets");
        foreach (var column in new[] { "by_staff", "by_student", "fit", "fit_since" })
            migrationBuilder.DropColumn(name: column, table: "sheets");
    }
}
