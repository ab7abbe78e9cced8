using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.StaticAssets;

namespace Auxilium.Web;

/// <summary>
/// Where script modules lie under names that change with their content, so that a browser keeps them for good and asks for none of
/// them again. Pages carry it as an import map; the policy for scripts allows that one by its hash.
/// </summary>
public sealed class ScriptMap(EndpointDataSource endpoints)
{
    /// <summary>Modules that are fetched when they are wanted.</summary>
    private static readonly string[] Later = ["lanes", "month", "chains", "chains-layout", "paste", "repeat", "day-turns"];

    private readonly Lazy<(string Json, string Hash, IReadOnlyList<string> Plan)> _map = new(() => Make(endpoints));

    /// <summary>The import map.</summary>
    public string Json => _map.Value.Json;

    /// <summary>Its hash as a source of the policy for scripts.</summary>
    public string Source => _map.Value.Hash;

    /// <summary>Addresses of the modules of the Plan screen, to be fetched at once and not one after another as they are named.</summary>
    public IReadOnlyList<string> Plan => _map.Value.Plan;

    private static (string, string, IReadOnlyList<string>) Make(EndpointDataSource endpoints)
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
        var plan = imports
            .Where(i =>
                (i.Key.StartsWith("/js/plan/", StringComparison.Ordinal) || i.Key.StartsWith("/js/shared/", StringComparison.Ordinal))
                && !Later.Contains(Path.GetFileNameWithoutExtension(i.Key))
            )
            .Select(i => i.Value);
        return (json, hash, [.. plan]);
    }
}
