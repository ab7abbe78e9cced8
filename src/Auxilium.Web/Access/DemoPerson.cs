using Auxilium.Planning.Plans;

namespace Auxilium.Web.Access;

/// <summary>Who every request is signed in as, until there is real sign-in.</summary>
public sealed class DemoPerson
{
    /// <summary>In an organisation without demo data.</summary>
    public static Person Anybody { get; } = new("coordinator", "Coordinator", "CO");

    public Person Person { get; set; } = Anybody;
}
