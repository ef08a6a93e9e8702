namespace MintHarbor.Core.Measuring;

/// <summary>The working order of a critique: what must be right before the next is worth correcting.</summary>
public enum Family
{
    LineAndHand,
    Placement,
    Proportion,
    Construction,
    Anatomy,
    Tone,
    Edges,
}
