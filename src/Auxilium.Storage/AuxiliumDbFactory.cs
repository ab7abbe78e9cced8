using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;

namespace Auxilium.Storage;

/// <summary>For <c>dotnet ef migrations add</c>, which needs the model and no server.</summary>
internal sealed class AuxiliumDbFactory : IDesignTimeDbContextFactory<AuxiliumDb>
{
    public AuxiliumDb CreateDbContext(string[] args)
    {
        var options = new DbContextOptionsBuilder<AuxiliumDb>();
        AuxiliumDb.Configure(options, "Host=127.0.0.1");
        return new AuxiliumDb(options.Options);
    }
}
