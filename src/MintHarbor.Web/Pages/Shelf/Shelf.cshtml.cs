using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using MintHarbor.Core.Canons;
using MintHarbor.Store;
using MintHarbor.Store.Model;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Shelf;

/// <summary>What the course works by: canons, the table's and its own, named faults, cautions.</summary>
public sealed class ShelfModel(CourseScope scope, HarborContext db) : CoursePage(scope)
{
    /// <summary>A canon of the table, or the number of a version of the course's own.</summary>
    [FromQuery(Name = "canon")]
    public string? Wanted { get; set; }
    public IReadOnlyList<CourseCanon> Versions { get; private set; } = [];

    /// <summary>The version that is shown; null where a canon of the table is.</summary>
    public CourseCanon? Own { get; private set; }
    public Canon Canon => Own?.Canon ?? CanonTable.All.FirstOrDefault(c => c.Id == Wanted) ?? Course.SchoolOf("figure");

    /// <summary>Sheets are judged by what is shown.</summary>
    public bool InUse => Same(Course.SchoolOf(Canon.Subject), Canon);

    private static bool Same(Canon a, Canon b) => OwnCanon.Write(a) == OwnCanon.Write(b);

    /// <summary>How what is shown is named in an address.</summary>
    public string Address => Own?.Id.ToString(CultureInfo.InvariantCulture) ?? Canon.Id;

    public async Task OnGetAsync()
    {
        Versions = await db
            .CourseCanons.AsNoTracking()
            .Where(c => c.CourseId == Course.Id)
            .OrderBy(c => c.Subject)
            .ThenByDescending(c => c.Number)
            .Take(20)
            .ToListAsync();
        Own = Versions.FirstOrDefault(v =>
            Wanted is null
                ? v.Subject == "figure" && Same(v.Canon, Course.SchoolOf("figure"))
                : v.Id.ToString(CultureInfo.InvariantCulture) == Wanted
        );
    }
}
