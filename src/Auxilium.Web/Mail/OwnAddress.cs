using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;

namespace Auxilium.Web.Mail;

/// <summary>
/// The address of this installation, for links in mails. <c>AUXILIUM_ADDRESS</c> says it; otherwise it is where the server listens. It is
/// never taken from a request, which could name any host.
/// </summary>
public sealed class OwnAddress(IConfiguration configuration, IServer server)
{
    public string Of(string path)
    {
        var address = configuration["ADDRESS"]
            ?? server.Features.Get<IServerAddressesFeature>()?.Addresses.FirstOrDefault()
            ?? "http://localhost";
        return address.TrimEnd('/') + path;
    }
}
