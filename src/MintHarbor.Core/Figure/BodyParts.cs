namespace MintHarbor.Core.Figure;

/// <summary>Parts that draw a crease where they meet: arm, forearm and hand, each finger, thigh, shank and foot, each toe, head, hair,
/// each buttock, cloth; everything else is trunk.</summary>
internal static class BodyParts
{
    public const int Cloth = 99,
        Hair = 8;

    public static int Of(Form f)
    {
        var right = f.GroupId.EndsWith(".R", StringComparison.Ordinal);
        var digits = right ? 20 : 0;
        if (f.Id.Length > 3 && f.Id[0] == 'f' && char.IsDigit(f.Id[1]))
            return 30 + (f.Id[1] - '0') + digits;
        if (f.Id.StartsWith("thumb", StringComparison.Ordinal) && !IsWeb(f))
            return 35 + digits;
        if (f.Id.StartsWith("toe", StringComparison.Ordinal) && !IsWeb(f))
            return 39 + (f.Id[3] - '0') + digits;
        return Sides.Stem(f.GroupId) switch
        {
            "arm" => right ? 11 : 1,
            "fore" or "hand" => right ? 12 : 2,
            "thigh" => right ? 13 : 3,
            "shank" or "foot" => right ? 14 : 4,
            "head" => f.Id.StartsWith("hair", StringComparison.Ordinal) ? Hair : 5,
            "glute" => right ? 16 : 6,
            _ => 0,
        };
    }

    /// <summary>What stretches between digits belongs to the hand or foot.</summary>
    private static bool IsWeb(Form f) => f.Id.Contains("web", StringComparison.Ordinal);
}
