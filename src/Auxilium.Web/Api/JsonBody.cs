using System.Text.Json;
using System.Text.Json.Serialization;

namespace Auxilium.Web.Api;

/// <summary>Bodies of requests that are read as they are declared.</summary>
internal static class JsonBody
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
    };

    /// <summary>The body as what it should be; <c>null</c> where it has other fields, or other types.</summary>
    public static T? Read<T>(JsonElement body)
        where T : class
    {
        try
        {
            return body.Deserialize<T>(Json);
        }
        catch (JsonException)
        {
            return null;
        }
    }
}
