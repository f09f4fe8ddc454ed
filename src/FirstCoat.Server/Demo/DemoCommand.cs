namespace FirstCoat.Server.Demo;

/// <summary>Loads the demo shop into an empty database.</summary>
public static class DemoCommand
{
    public static Task<int> Run(WebApplication app) => throw new NotImplementedException();
}
