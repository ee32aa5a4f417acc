using System.Net;
using BrightTier.Client;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>The client in front of a service that was upgraded before it: what the service says more is passed over.</summary>
public sealed class NewerServiceTests
{
    private static BrightTierClient Before(HttpStatusCode status, string answer) =>
        new(new Uri("http://quay.example/"), null, new StubHandler(status, answer));

    [Fact]
    public async Task Answers_with_more_in_them_are_read()
    {
        using var client = Before(HttpStatusCode.OK, """[{"id":"ada","name":"Ada Wader","roles":[],"language":"en","since":"2031"}]""");
        (await client.People(TestContext.Current.CancellationToken)).Single().Name.ShouldBe("Ada Wader");
    }

    [Fact]
    public async Task Refusals_with_more_in_them_keep_their_code()
    {
        using var client = Before(
            HttpStatusCode.UnprocessableEntity,
            """{"type":"about:blank","title":"Not so","status":422,"detail":"Not like that.","code":"odd","instance":"/x"}"""
        );
        (await Wire.Refused(() => client.People(TestContext.Current.CancellationToken))).Code.ShouldBe("odd");
    }

    private sealed class StubHandler(HttpStatusCode status, string answer) : HttpMessageHandler
    {
        protected override Task<HttpResponseMessage> SendAsync(HttpRequestMessage request, CancellationToken cancel) =>
            Task.FromResult(new HttpResponseMessage(status) { Content = RunningService.Json(answer) });
    }
}
