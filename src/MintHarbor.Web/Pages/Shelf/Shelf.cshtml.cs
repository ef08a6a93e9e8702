using Microsoft.AspNetCore.Mvc;
using MintHarbor.Core.Canons;
using MintHarbor.Web.Access;

namespace MintHarbor.Web.Pages.Shelf;

public sealed class ShelfModel(CourseScope scope) : CoursePage(scope)
{
    [FromQuery(Name = "canon")]
    public string? Wanted { get; set; }
    public Canon Canon => CanonTable.All.FirstOrDefault(c => c.Id == Wanted) ?? CanonTable.Get(Course.Canon);

    public void OnGet() { }
}
