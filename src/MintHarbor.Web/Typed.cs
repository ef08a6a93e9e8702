using Microsoft.AspNetCore.Html;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.AspNetCore.Mvc.ViewFeatures;
using Microsoft.AspNetCore.Razor.TagHelpers;
using Microsoft.Extensions.Primitives;

namespace MintHarbor.Web;

/// <summary>What was typed into a form that the server refused. The page that comes back shows it in its fields, whichever page it is, with
/// script and without: the fields themselves look here.</summary>
public sealed class Typed
{
    /// <summary>Hidden fields that are new with every page, so tell nothing of which form it was.</summary>
    private static readonly string[] Fresh = ["key", "kept", Access.Once.Field, Access.Stood.Field, "__RequestVerificationToken"];

    private readonly IFormCollection? sent;

    private Typed(IFormCollection? sent) => this.sent = sent;

    /// <summary>Another form of the same address was sent: one beside it on the page, for another thing.</summary>
    private bool other;

    /// <param name="action">Where the form goes; empty for the page's own address.</param>
    public static Typed Into(HttpContext http, string action)
    {
        var request = http.Request;
        // Only a form that has been read: one that can't be shows nothing.
        var read = http.Features.Get<IFormFeature>()?.Form;
        var refused = http.Response.StatusCode >= StatusCodes.Status400BadRequest;
        var here = action.Length == 0 || string.Equals(action.Split('?')[0], request.Path, StringComparison.OrdinalIgnoreCase);
        return new(refused && here ? read : null);
    }

    /// <summary>A hidden field tells which of several like forms was sent.</summary>
    public void Hidden(string name, string value) =>
        other |= !Fresh.Contains(name) && sent is not null && sent.TryGetValue(name, out var was) && was.ToString() != value;

    /// <summary>What this field held; null where nothing was refused.</summary>
    public StringValues? Of(string name) => Was && sent!.TryGetValue(name, out var was) ? was : (StringValues?)null;

    /// <summary>This form is the one that was sent.</summary>
    public bool Was => sent is not null && !other;
}

/// <summary>Tells the fields of a form what was typed into it.</summary>
[HtmlTargetElement("form", Attributes = "method")]
public sealed class TypedForm : TagHelper
{
    [ViewContext, HtmlAttributeNotBound]
    public ViewContext ViewContext { get; set; } = null!;

    public override void Init(TagHelperContext context) =>
        context.Items[typeof(Typed)] = Typed.Into(ViewContext.HttpContext, $"{Value(context, "action")}");

    /// <summary>Every form that is sent as it stands carries a key, so that sending it twice does it once. One that a script sends file by file
    /// has a key for each.</summary>
    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        if (
            !string.Equals($"{Value(context, "method")}", "post", StringComparison.OrdinalIgnoreCase)
            || context.AllAttributes.ContainsName("data-upload")
        )
            return;
        var items = ViewContext.HttpContext.Items;
        items[typeof(Access.Once)] ??= Guid.NewGuid();
        output.PreContent.AppendHtml($"<input type=\"hidden\" name=\"{Access.Once.Field}\" value=\"{items[typeof(Access.Once)]}\">");
    }

    internal static object? Value(TagHelperContext context, string name) =>
        context.AllAttributes.TryGetAttribute(name, out var a) ? a.Value : null;

    /// <summary>The form round a field, where one was sent and refused.</summary>
    internal static Typed? Round(TagHelperContext context) =>
        context.Items.TryGetValue(typeof(Typed), out var typed) && typed is Typed { Was: true } t ? t : null;
}

/// <summary>A field shows what was typed into it; one that asp-for fills knows it already, and a password is typed again.</summary>
[HtmlTargetElement("input", Attributes = "name", TagStructure = TagStructure.WithoutEndTag)]
public sealed class TypedInput : TagHelper
{
    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        if (TypedForm.Round(context) is not { } typed)
            return;
        var (type, name) = ($"{TypedForm.Value(context, "type")}", $"{TypedForm.Value(context, "name")}");
        if (type == "hidden")
            typed.Hidden(name, $"{TypedForm.Value(context, "value")}");
        else if (type is "radio" or "checkbox")
        {
            output.Attributes.RemoveAll("checked");
            if (typed.Of(name) is { } chosen && chosen.Contains($"{TypedForm.Value(context, "value") ?? "on"}"))
                output.Attributes.SetAttribute("checked", "checked");
        }
        else if (type is not ("file" or "password" or "submit") && typed.Of(name) is { } was)
            output.Attributes.SetAttribute("value", was.ToString());
    }
}

[HtmlTargetElement("textarea", Attributes = "name")]
public sealed class TypedText : TagHelper
{
    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        if (TypedForm.Round(context)?.Of($"{TypedForm.Value(context, "name")}") is { } was)
            output.Content.SetContent(was.ToString());
    }
}

/// <summary>A list tells its options which of them was chosen.</summary>
[HtmlTargetElement("select", Attributes = "name")]
public sealed class TypedSelect : TagHelper
{
    public override void Init(TagHelperContext context) =>
        context.Items[typeof(TypedSelect)] = TypedForm.Round(context)?.Of($"{TypedForm.Value(context, "name")}")
            ?? (object)HtmlString.Empty;
}

[HtmlTargetElement("option", Attributes = "value", ParentTag = "select")]
public sealed class TypedOption : TagHelper
{
    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        if (!context.Items.TryGetValue(typeof(TypedSelect), out var kept) || kept is not StringValues chosen)
            return;
        output.Attributes.RemoveAll("selected");
        if (chosen.Contains($"{TypedForm.Value(context, "value")}"))
            output.Attributes.SetAttribute("selected", "selected");
    }
}
