using System.Diagnostics;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.EndToEnd.Tests;

/// <summary>
/// A client whose types are generated from docs/openapi.json does a whole job against a service: it is
/// web/console/tests/generated-client.test.ts.
/// </summary>
public sealed class GeneratedClientTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_client_generated_from_the_description_does_a_whole_job()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var token = await ada.CreateToken(new TokenRequest("job", 1), Cancel);
        var start = new ProcessStartInfo("npx", ["vitest", "run", "console/tests/generated-client.test.ts"])
        {
            WorkingDirectory = Path.Combine(RunningService.Checkout, "web"),
            UseShellExecute = false,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            Environment = { ["BRIGHTTIER_JOB_SERVICE"] = service.Address.ToString(), ["BRIGHTTIER_JOB_TOKEN"] = token.Secret },
        };
        using var job = Process.Start(start)!;
        var said = await Task.WhenAll(job.StandardOutput.ReadToEndAsync(Cancel), job.StandardError.ReadToEndAsync(Cancel));
        await job.WaitForExitAsync(Cancel);
        job.ExitCode.ShouldBe(0, string.Concat(said));
        said[0].ShouldContain("1 passed");
    }
}
