using MintHarbor.Core.Heads;

namespace MintHarbor.Core.Anatomy;

/// <summary>A check of anatomy, of the body or of the head: what is right, what is often drawn, and the named fault that it becomes.</summary>
public interface IAnatomyCheck
{
    string Id { get; }
    string Name { get; }

    /// <summary>The right sign and the wrong one, each half a sentence.</summary>
    string Right { get; }
    string Wrong { get; }

    /// <summary>The named fault of the library: why it matters, what to do, which drill trains it.</summary>
    string Fault { get; }

    /// <summary>The rule that measures it where its marks are placed; null where only the eye tells.</summary>
    string? Measure { get; }

    /// <summary>It lies on the middle line: neither left nor right is said of it.</summary>
    bool Middle { get; }
}

/// <summary>A check on one side of the one who is drawn.</summary>
/// <param name="Side">1 its own left, −1 its right.</param>
public readonly record struct CheckOn(IAnatomyCheck Check, int Side)
{
    /// <summary>As it is written down: "calf.L".</summary>
    public string Key => Check.Id + (Side < 0 ? ".R" : ".L");

    /// <summary>Which side of the one who is drawn, in words; empty on the middle line.</summary>
    public string SideSays =>
        Check.Middle ? ""
        : Side < 0 ? "the model's right"
        : "the model's left";

    /// <exception cref="InputException">No check of that name, or no side.</exception>
    public static CheckOn Read(string? key)
    {
        var stem = key is { Length: > 2 } ? key[..^2] : "";
        var check = All.FirstOrDefault(c => c.Id == stem);
        return check is not null && key![^2..] is ".L" or ".R"
            ? new(check, key[^1] == 'R' ? -1 : 1)
            : throw new InputException($"there is no check '{key}'", "check", string.Join(", ", All.Select(c => c.Id + ".L")));
    }

    public static IEnumerable<IAnatomyCheck> All => BodyChecks.All.Concat<IAnatomyCheck>(HeadChecks.All);
}
