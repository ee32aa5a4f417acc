using System.Net;
using System.Net.Sockets;
using BrightTier.Client;

namespace BrightTier.Service.Tests;

/// <summary>What doctor says of an installation, and of one that something stands before.</summary>
public sealed class ExaminingTests(DemoService service)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task An_installation_as_it_should_be_has_nothing_bad_and_a_strange_token_is_named()
    {
        using var client = new BrightTierClient(service.Running.Address, null);
        var token = (await client.PickPerson("ada", "doctor", Cancel)).Secret;
        var found = await Diagnostics.Examine(service.Running.Address, token, Cancel);
        found.Where(each => each.Verdict == "bad").ShouldBeEmpty();
        found
            .Select(each => each.What)
            .ShouldBe([
                "answers",
                "clock",
                "encryption",
                "ready",
                "current",
                "headers",
                "console",
                "token",
                "compression",
                "forms",
                "events",
            ]);
        (await Diagnostics.Examine(service.Running.Address, "bt_nobody", Cancel))
            .Single(each => each.Verdict == "bad")
            .What.ShouldBe("token");
        (await Diagnostics.Examine(service.Running.Address, null, Cancel))[^1].Message.ShouldContain("--token");
        await Should.ThrowAsync<UnreachableException>(() => Diagnostics.Examine(new Uri("http://127.0.0.1:1/"), null, Cancel));
    }

    [Fact]
    public async Task Something_else_at_the_address_is_told_from_the_service()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        var answering = Task.Run(
            async () =>
            {
                while (true)
                {
                    using var caller = await listener.AcceptTcpClientAsync(Cancel);
                    await caller
                        .GetStream()
                        .WriteAsync("HTTP/1.1 404 Not Found\r\nContent-Length: 0\r\nConnection: close\r\n\r\n"u8.ToArray(), Cancel);
                }
            },
            Cancel
        );
        var found = await Diagnostics.Examine(new Uri($"http://127.0.0.1:{((IPEndPoint)listener.LocalEndpoint).Port}/"), null, Cancel);
        found.Where(each => each.Verdict == "bad").Select(each => each.What).ShouldBe(["answers", "ready", "current", "headers"]);
        answering.IsCompleted.ShouldBeFalse();
    }
}
