using System.Buffers;
using System.Net;
using System.Net.Sockets;
using Auxilium.Storage.Notices;
using MimeKit;
using SmtpServer;
using SmtpServer.ComponentModel;
using SmtpServer.Mail;
using SmtpServer.Protocol;
using SmtpServer.Storage;

namespace Auxilium.Web.Mail;

/// <summary>Stands in for a mail server where none is set up: takes every mail on loopback and puts it into the Post tray.</summary>
internal sealed class MailStandIn(MailServer server, Mails mails) : BackgroundService
{
    public override Task StartAsync(CancellationToken cancellationToken)
    {
        if (server.IsStandIn)
            server.StandInPort = FreePort();
        return base.StartAsync(cancellationToken);
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        if (!server.IsStandIn)
            return;
        var options = new SmtpServerOptionsBuilder()
            .ServerName("localhost")
            .Endpoint(endpoint =>
                endpoint.Endpoint(new IPEndPoint(IPAddress.Loopback, server.StandInPort)).AllowUnsecureAuthentication(false)
            )
            .Build();
        var services = new SmtpServer.ComponentModel.ServiceProvider();
        services.Add(new Tray(mails));
        await new SmtpServer.SmtpServer(options, services).StartAsync(stoppingToken);
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    private sealed class Tray(Mails mails) : MessageStore
    {
        public override async Task<SmtpResponse> SaveAsync(
            ISessionContext context,
            IMessageTransaction transaction,
            ReadOnlySequence<byte> buffer,
            CancellationToken cancellationToken
        )
        {
            using var stream = new MemoryStream(buffer.ToArray());
            using var message = await MimeMessage.LoadAsync(stream, cancellationToken);
            await mails.KeepPostAsync(
                string.Join(", ", transaction.To.Select(t => t.AsAddress())),
                message.Subject ?? "",
                (message.TextBody ?? "") + string.Concat(message.Attachments.Select(file => $"\n[{file.ContentDisposition?.FileName}]\n")),
                cancellationToken
            );
            return SmtpResponse.Ok;
        }
    }
}
