using Microsoft.EntityFrameworkCore;
using MintHarbor.Store.Model;

namespace MintHarbor.Store;

/// <summary>Who is in a course.</summary>
public static class Roll
{
    /// <summary>Its students by name, to be chosen from.</summary>
    public static async Task<IReadOnlyList<(int Id, string Name)>> StudentsOf(this HarborContext db, int course) =>
        [
            .. (
                await db
                    .Memberships.Where(m => m.CourseId == course && m.Role == CourseRole.Student)
                    .OrderBy(m => m.Person.Name)
                    .Select(m => new { m.PersonId, m.Person.Name })
                    .ToListAsync()
            ).Select(m => (m.PersonId, m.Name)),
        ];
}
