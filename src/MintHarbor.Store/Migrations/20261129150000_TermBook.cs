using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace MintHarbor.Store.Migrations;

/// <summary>A work that two grade, and what counts how much over a term.</summary>
[DbContext(typeof(HarborContext))]
[Migration("20261129150000_TermBook")]
public partial class TermBook : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.AddColumn<string>(name: "graders", table: "project_works", type: "jsonb", nullable: true);
        migrationBuilder.AddColumn<string>(name: "book", table: "courses", type: "jsonb", nullable: true);
    }

    protected override void Down(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.DropColumn(name: "graders", table: "project_works");
        migrationBuilder.DropColumn(name: "book", table: "courses");
    }
}
