using Microsoft.AspNetCore.Identity;
using MintHarbor.Store.Model;

namespace MintHarbor.Web.Access;

/// <summary>Refuses passwords that are tried first: those on the lists that ship with the estimator, runs of keys, one's own name and mail.</summary>
public sealed class GuessedPasswords : IPasswordValidator<Person>
{
    /// <summary>Of 0 to 4; below 2 a million tries find it.</summary>
    private const int LeastScore = 2;

    /// <summary>What is weighed of a long one: the estimate takes the square of the length.</summary>
    private const int Weighed = 64;

    public Task<IdentityResult> ValidateAsync(UserManager<Person> manager, Person user, string? password) =>
        Task.FromResult(
            Guessed(password ?? "", user)
                ? IdentityResult.Failed(
                    new IdentityError
                    {
                        Code = "Guessed",
                        Description =
                            "That password is among those that are tried first. Three or four words that don't belong together hold.",
                    }
                )
                : IdentityResult.Success
        );

    public static bool Guessed(string password, Person user) =>
        new Zxcvbn.Zxcvbn()
            .EvaluatePassword(
                password[..Math.Min(password.Length, Weighed)],
                [.. user.Name.Split(' '), .. (user.Email ?? "").Split('@', '.'), "mint", "harbor"]
            )
            .Score < LeastScore;
}
