using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;

namespace Auxilium.Web.Tests;

/// <summary>The real application on a real PostgreSQL, on Thursday 13 May 2027.</summary>
public sealed class TestApp(string connection, bool empty = false, string today = "2027-05-13") : WebApplicationFactory<Program>
{
    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        builder.UseSetting("DB", connection);
        builder.UseSetting("TODAY", today);
        builder.UseSetting("EMPTY", empty ? "1" : "0");
        builder.UseEnvironment("Production");
    }
}

/// <summary>One application with the demo organisation for a class of tests.</summary>
public sealed class DemoApp : IDisposable
{
    private readonly TestDatabase _database = new();

    public DemoApp()
    {
        App = new TestApp(_database.Connection);
        Api = new ApiClient(App.CreateClient());
    }

    public TestApp App { get; }

    public ApiClient Api { get; }

    public string Connection => _database.Connection;

    public void Dispose()
    {
        App.Dispose();
        _database.Dispose();
    }
}
