using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.StaticAssets;

namespace Auxilium.Web;

/// <summary>
/// Where scripts lie under names that change with their content, so that a browser keeps them for good and asks for none of them
/// again. Pages carry it as an import map; the policy for scripts allows that one by its hash.
/// </summary>
public sealed class ScriptMap(EndpointDataSource endpoints, IWebHostEnvironment environment)
{
    private readonly Lazy<(string Json, string Hash, IReadOnlyList<string> Plan)> _map = new(() => Make(endpoints, environment));

    /// <summary>The import map.</summary>
    public string Json => _map.Value.Json;

    /// <summary>Its hash as a source of the policy for scripts.</summary>
    public string Source => _map.Value.Hash;

    /// <summary>Addresses of what the Plan screen cannot start without, to be fetched at once.</summary>
    public IReadOnlyList<string> Plan => _map.Value.Plan;

    private static (string, string, IReadOnlyList<string>) Make(EndpointDataSource endpoints, IWebHostEnvironment environment)
    {
        var imports = new SortedDictionary<string, string>(StringComparer.Ordinal);
        foreach (var asset in endpoints.Endpoints.Select(e => e.Metadata.GetMetadata<StaticAssetDescriptor>()))
            if (
                asset?.Properties.FirstOrDefault(p => p.Name == "label")?.Value is { } label
                && label.EndsWith(".js", StringComparison.Ordinal)
            )
                imports["/" + label] = "/" + asset.Route;
        var json = JsonSerializer.Serialize(new { imports });
        var hash = $"'sha256-{Convert.ToBase64String(SHA256.HashData(Encoding.UTF8.GetBytes(json)))}'";
        using var file = environment.WebRootFileProvider.GetFileInfo("js/plan.json").CreateReadStream();
        var plan = JsonSerializer.Deserialize<string[]>(file)!.Select(name => $"/js/{name}");
        return (json, hash, [.. plan.Select(name => imports.GetValueOrDefault(name, name))]);
    }
}
