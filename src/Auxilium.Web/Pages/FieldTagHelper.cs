using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.AspNetCore.Mvc.ViewFeatures;
using Microsoft.AspNetCore.Razor.TagHelpers;

namespace Auxilium.Web.Pages;

/// <summary>
/// A field of a form: its label, what is typed into it, help, and what is wrong with it, each told to a screen reader.
/// <c>&lt;text-field for="Name" label="Name" hint="…" /&gt;</c>; other attributes go to the input.
/// </summary>
[HtmlTargetElement("text-field", TagStructure = TagStructure.WithoutEndTag)]
public sealed class FieldTagHelper : TagHelper
{
    [HtmlAttributeName("for")]
    public required ModelExpression For { get; set; }

    public required string Label { get; set; }

    public string? Hint { get; set; }

    [ViewContext]
    public required ViewContext View { get; set; }

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        var name = For.Name;
        View.ModelState.TryGetValue(name, out var entry);
        var wrong = entry?.Errors.Count > 0 ? entry.Errors[0].ErrorMessage : null;
        var input = new TagBuilder("input") { TagRenderMode = TagRenderMode.SelfClosing };
        foreach (var attribute in context.AllAttributes.Where(a => a.Name is not ("for" or "label" or "hint")))
            input.Attributes[attribute.Name] = attribute.Value?.ToString();
        input.AddCssClass("input");
        input.MergeAttribute("type", "text");
        (input.Attributes["id"], input.Attributes["name"]) = (name, name);
        input.Attributes["value"] = entry?.AttemptedValue ?? For.Model?.ToString();
        input.Attributes["autocomplete"] = "off";
        input.Attributes["aria-invalid"] = wrong is null ? "false" : "true";
        input.Attributes["aria-describedby"] = Hint is null ? $"{name}-problem" : $"{name}-hint {name}-problem";

        output.TagName = "div";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.Clear();
        output.Attributes.SetAttribute("class", "field");
        var label = new TagBuilder("label");
        label.Attributes["for"] = name;
        label.InnerHtml.Append(Label);
        output.Content.AppendHtml(label).AppendHtml(input);
        if (Hint is not null)
            output.Content.AppendHtml(Paragraph("hint", $"{name}-hint", Hint));
        output.Content.AppendHtml(Paragraph("problem", $"{name}-problem", wrong));
    }

    private static TagBuilder Paragraph(string kind, string id, string? text)
    {
        var paragraph = new TagBuilder("p");
        paragraph.Attributes["id"] = id;
        paragraph.AddCssClass(kind);
        paragraph.InnerHtml.Append(text ?? "");
        return paragraph;
    }
}
