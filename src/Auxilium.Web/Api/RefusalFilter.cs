using Auxilium.Exchange.PlanDocuments;
using Auxilium.Planning.Editing;
using Auxilium.Storage.Tracking;

namespace Auxilium.Web.Api;

/// <summary>
/// Answers what cannot be read or makes no sense with a sentence that says so. It stands before the whole API, so that a route says only
/// what it does when all is well.
/// </summary>
public sealed class RefusalFilter : IEndpointFilter
{
    public async ValueTask<object?> InvokeAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        try
        {
            return await next(context);
        }
        catch (UnreadableDocumentException unreadable)
        {
            return Problems.Unreadable(unreadable);
        }
        catch (FolderRefusedException refused)
        {
            return Problems.Bad(refused.Message, "folder");
        }
        catch (EditRefusedException refused)
        {
            return Problems.Refused(refused);
        }
    }
}
