using System.Globalization;
using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using MintHarbor.Core.Figure;
using MintHarbor.Store;
using MintHarbor.Store.Actions;

namespace MintHarbor.Web.Access;

/// <summary>Who may see the studio figure for a course, and how it is dressed there. A turning figure asks twelve times a second, so a
/// membership is remembered for some seconds; the figure is nobody's work.</summary>
public sealed class FigureGate(IMemoryCache cache, IServiceScopeFactory scopes)
{
    public static readonly TimeSpan Remembered = TimeSpan.FromSeconds(20);

    private sealed record Known(bool Member, bool Minors);

    /// <summary>How the figure is dressed for this person in this course; null for somebody who isn't a member.</summary>
    public async Task<Drapery?> Dress(ClaimsPrincipal user, int course, bool wanted)
    {
        if (!int.TryParse(user.FindFirstValue(ClaimTypes.NameIdentifier), NumberStyles.None, CultureInfo.InvariantCulture, out var person))
            return null;
        var known = await cache.GetOrCreateAsync((typeof(FigureGate), person, course), async entry =>
        {
            entry.AbsoluteExpirationRelativeToNow = Remembered;
            entry.Size = 1;
            await using var scope = scopes.CreateAsyncScope();
            var db = scope.ServiceProvider.GetRequiredService<HarborContext>();
            var minors = await db
                .Memberships.Where(m => m.CourseId == course && m.PersonId == person)
                .Select(m => (bool?)(m.Course.Minors || m.Person.Minor))
                .SingleOrDefaultAsync();
            return new Known(minors is not null, minors ?? true);
        });
        return known is { Member: true } ? Drapery.For(known.Minors, wanted) : null;
    }

    /// <summary>A pose of the catalogue, or one of the course's own.</summary>
    public async Task<Pose?> Find(int course, string id)
    {
        if (!id.StartsWith(PoseActions.OwnPrefix, StringComparison.Ordinal))
            return FigureCatalogue.Poses.FirstOrDefault(p => p.Id == id);
        return await cache.GetOrCreateAsync((typeof(FigureGate), course, id), async entry =>
        {
            entry.AbsoluteExpirationRelativeToNow = Remembered;
            entry.Size = 1;
            await using var scope = scopes.CreateAsyncScope();
            return await scope.ServiceProvider.GetRequiredService<PoseActions>().Find(course, id);
        });
    }
}
