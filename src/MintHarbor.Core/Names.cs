namespace MintHarbor.Core;

/// <summary>Names stand on one line: in a list, on paper, in a mail's subject.</summary>
public static class Names
{
    /// <param name="name">What was typed.</param>
    /// <param name="field">The field that it was typed into.</param>
    /// <param name="longest">Letters at most.</param>
    /// <returns>The name without blanks round it.</returns>
    /// <exception cref="InputException">Empty, too long, or with a line break or another control character in it.</exception>
    public static string Checked(string? name, string field, int longest)
    {
        name = (name ?? "").Trim();
        if (name.Length == 0)
            throw new InputException("the name is missing", field, $"1 to {longest} letters");
        if (name.Length > longest)
            throw new InputException($"a name of {name.Length} letters", field, $"1 to {longest} letters");
        return name.Any(char.IsControl)
            ? throw new InputException("a name with a line break or another control character", field, "letters on one line")
            : name;
    }
}
