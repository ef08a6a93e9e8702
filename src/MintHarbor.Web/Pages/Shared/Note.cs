using System.Net;
using Microsoft.AspNetCore.Html;

namespace MintHarbor.Web.Pages.Shared;

/// <summary>One note in the margin.</summary>
/// <param name="Shape">holds, near, outside, blocked, unknown or person.</param>
/// <param name="Says">One plain sentence; what stands between asterisks is the key figure.</param>
/// <param name="For">Id of the element it speaks of.</param>
/// <param name="Why">Formula with its values, and the source.</param>
public sealed record Note(
    string Shape,
    string Says,
    string? For = null,
    string? Why = null,
    string? By = null,
    string? Href = null,
    string? Link = null
)
{
    /// <summary>The sentence with its key figures set off; everything in it is encoded.</summary>
    public HtmlString Sentence =>
        new(
            string.Concat(
                Says.Split('*')
                    .Select(
                        (part, i) =>
                            i % 2 == 0
                                ? WebUtility.HtmlEncode(part)
                                : $"<b{(Shape == "outside" ? " class=\"chalk\"" : "")}>{WebUtility.HtmlEncode(part)}</b>"
                    )
            )
        );
}
