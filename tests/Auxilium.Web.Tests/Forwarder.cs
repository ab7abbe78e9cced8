using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;
using Npgsql;

namespace Auxilium.Web.Tests;

/// <summary>Stands before the test server's database, so that a test can take it away from an application and give it back.</summary>
public sealed class Forwarder : IDisposable
{
    private readonly NpgsqlConnectionStringBuilder _target;
    private readonly ConcurrentBag<TcpClient> _open = [];
    private TcpListener _listener = new(IPAddress.Loopback, 0);

    public Forwarder(string connection)
    {
        _target = new NpgsqlConnectionStringBuilder(connection);
        _listener.Start();
        Port = ((IPEndPoint)_listener.LocalEndpoint).Port;
        _ = ForwardAsync(_listener);
    }

    public int Port { get; }

    public string Connection =>
        new NpgsqlConnectionStringBuilder(_target.ConnectionString)
        {
            Host = "127.0.0.1",
            Port = Port,
            Timeout = 3,
        }.ConnectionString;

    public void TakeAway()
    {
        _listener.Stop();
        foreach (var client in _open)
            client.Dispose();
        _open.Clear();
    }

    public void GiveBack()
    {
        _listener = new TcpListener(IPAddress.Loopback, Port);
        _listener.Start();
        _ = ForwardAsync(_listener);
    }

    public void Dispose() => TakeAway();

    private async Task ForwardAsync(TcpListener listener)
    {
        try
        {
            while (true)
            {
                var inside = await listener.AcceptTcpClientAsync();
                var outside = new TcpClient();
                _open.Add(inside);
                _open.Add(outside);
                await outside.ConnectAsync(_target.Host!, _target.Port);
                _ = PumpAsync(inside, outside);
                _ = PumpAsync(outside, inside);
            }
        }
        catch (Exception e) when (e is SocketException or ObjectDisposedException or InvalidOperationException)
        {
            // Taken away.
        }
    }

    private static async Task PumpAsync(TcpClient from, TcpClient to)
    {
        try
        {
            await from.GetStream().CopyToAsync(to.GetStream());
        }
        catch (Exception e) when (e is IOException or ObjectDisposedException or InvalidOperationException)
        {
            // One end is gone.
        }
        from.Dispose();
        to.Dispose();
    }
}
