using System.Collections.Immutable;
using Auxilium.Storage.Rows;

namespace Auxilium.Web.Pages;

/// <summary>How a page of a project is drawn.</summary>
public enum PageKind
{
    /// <summary>One of the screens of the plan, which all are drawn by its script.</summary>
    Screen,

    /// <summary>A sheet that a script of its own fills, named as its address ends.</summary>
    Sheet,

    /// <summary>A Razor page of its own.</summary>
    Own,
}

/// <summary>A page of a project.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Path">How its address ends; empty for the first.</param>
/// <param name="Role">Who at least may see it.</param>
/// <param name="IsShared">Whether a link shows it to those without an account.</param>
/// <param name="HasStyles">Whether a sheet brings styles of its own.</param>
/// <param name="NeedsMoney">Whether it is only for those who may have the project's money.</param>
/// <param name="IsOffered">Whether it is offered to all who may see it, and not only once it is open.</param>
public sealed record ProjectPage(
    string Name,
    string Path,
    PageKind Kind,
    ProjectRole Role = ProjectRole.Viewer,
    bool IsShared = false,
    bool IsOffered = true,
    bool HasStyles = false,
    bool NeedsMoney = false
)
{
    /// <summary>Its address in a project or below a link.</summary>
    public string At(string root) => Path.Length == 0 ? root : $"{root}/{Path}";
}

/// <summary>The pages of one project, of which one is open.</summary>
/// <param name="Project">Its id.</param>
/// <param name="Open">Which is open.</param>
/// <param name="Rights">What whoever looks may do: <c>edit</c>, <c>report</c>, <c>look</c> or <c>shared</c>.</param>
/// <param name="Secret">Of the link, where it is seen by one.</param>
public sealed record ProjectPages(Guid Project, string Open, string Rights = "edit", string? Secret = null)
{
    /// <summary>
    /// Every page that a project has, as its navigation shows them. The navigation, the routes of screens and sheets, who may see them,
    /// the palette and the tests go by this list.
    /// </summary>
    public static ImmutableArray<ProjectPage> All { get; } =
    [
        new("Plan", "", PageKind.Screen, IsShared: true),
        new("Lanes", "lanes", PageKind.Screen, IsShared: true),
        new("Month", "month", PageKind.Screen, IsShared: true),
        new("Chains", "chains", PageKind.Screen, IsShared: true),
        new("Outline", "outline", PageKind.Screen, IsShared: true),
        new("Load", "load", PageKind.Sheet, HasStyles: true),
        new("Money", "money", PageKind.Sheet, HasStyles: true, NeedsMoney: true),
        new("Report", "report", PageKind.Own, IsShared: true, IsOffered: false),
        new("Compare", "compare", PageKind.Sheet),
        new("Journal", "journal", PageKind.Sheet),
        new("Check-up", "check-up", PageKind.Sheet),
        new("Forecast", "forecast", PageKind.Sheet),
        new("Settings", "settings", PageKind.Sheet),
        new("Sharing", "sharing", PageKind.Own, ProjectRole.Coordinator),
    ];

    /// <summary>Those that are shown to whoever looks.</summary>
    /// <param name="hasMoney">Whether whoever looks may have the project's money.</param>
    public IEnumerable<(string Name, string Address)> Shown(bool hasMoney) =>
        All.Where(page =>
                Secret is not null
                    ? page.IsShared
                    : page.Role <= Role && (page.IsOffered || page.Name == Open) && (hasMoney || !page.NeedsMoney)
            )
            .Select(page => (page.Name, page.At(Secret is null ? $"/projects/{Project}" : $"/shared/{Secret}")));

    private ProjectRole Role =>
        Rights switch
        {
            "edit" => ProjectRole.Coordinator,
            "report" => ProjectRole.Member,
            _ => ProjectRole.Viewer,
        };
}

/// <summary>In a route: a path of one of the pages of a project.</summary>
internal abstract class PagePath(Func<ProjectPage, bool> isMeant) : IRouteConstraint
{
    public bool Match(
        HttpContext? httpContext,
        IRouter? route,
        string routeKey,
        RouteValueDictionary values,
        RouteDirection routeDirection
    ) => values[routeKey] is string { Length: > 0 } path && ProjectPages.All.Any(page => page.Path == path && isMeant(page));
}

/// <summary><c>{name:screen}</c></summary>
internal sealed class ScreenPath() : PagePath(page => page.Kind == PageKind.Screen);

/// <summary><c>{name:sheet}</c></summary>
internal sealed class SheetPath() : PagePath(page => page.Kind == PageKind.Sheet);

/// <summary><c>{name:shared}</c></summary>
internal sealed class SharedPath() : PagePath(page => page.IsShared);
