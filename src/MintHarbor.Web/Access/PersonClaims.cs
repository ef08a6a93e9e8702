using System.Security.Claims;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;
using MintHarbor.Store.Model;

namespace MintHarbor.Web.Access;

/// <summary>Puts the name and the right to open courses into the cookie, so that no page asks the database for them.</summary>
public sealed class PersonClaims(UserManager<Person> users, IOptions<IdentityOptions> options)
    : UserClaimsPrincipalFactory<Person>(users, options)
{
    public const string Teaches = "teaches";

    protected override async Task<ClaimsIdentity> GenerateClaimsAsync(Person user)
    {
        var identity = await base.GenerateClaimsAsync(user);
        identity.AddClaim(new("full-name", user.Name));
        if (user.Teaches)
            identity.AddClaim(new(Teaches, "yes"));
        return identity;
    }
}
