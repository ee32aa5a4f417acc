using System.Reflection;
using BrightTier.Service.Startup;

// The tool that writes the OpenAPI document at build time runs this program, and must touch no data.
var (service, problem) = ServiceApplication.Build(args, describing: Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider");
if (service is null)
{
    Console.Error.WriteLine($"The service cannot begin: {problem}");
    return 2;
}

if (service.OnlyMakesCode)
{
    return await service.MakeCode() ? 0 : 2;
}

if (!await service.Begin())
{
    return 2;
}

await service.HasEnded();
return 0;
