// What the load of live plans is measured against: a server that writes one row for each request and commits it, and nothing more.
using Npgsql;

var builder = WebApplication.CreateBuilder(args);
builder.Logging.ClearProviders();
await using var database = NpgsqlDataSource.Create(Environment.GetEnvironmentVariable("BARE_DB")!);
await using (
    var make = database.CreateCommand(
        "create table if not exists bare (id bigint generated always as identity primary key, content text not null)"
    )
)
    await make.ExecuteNonQueryAsync();
var app = builder.Build();
app.MapPost("/write", async (HttpRequest request) =>
{
    using var reader = new StreamReader(request.Body);
    await using var write = database.CreateCommand("insert into bare (content) values ($1) returning id");
    write.Parameters.AddWithValue(await reader.ReadToEndAsync());
    return Results.Ok(await write.ExecuteScalarAsync());
});
app.MapGet("/", () => "bare");
app.Run();
