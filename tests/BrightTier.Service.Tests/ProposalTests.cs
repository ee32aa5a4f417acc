using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Testing;

namespace BrightTier.Service.Tests;

/// <summary>Proposals through the API: nothing is changed by asking, and what is taken is one change that can be undone.</summary>
public sealed class ProposalTests(DemoService shared)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task What_is_proposed_can_be_taken_in_part_and_undone()
    {
        await using var service = await HostedService.WithDemo();
        using var ada = await service.As("ada");
        var before = await ada.Layout("keeper", Cancel);

        var all = await ada.Propose("keeper", new ProposalRequest("shorter"), Cancel);
        var some = await ada.Propose("keeper", new ProposalRequest("shorter", Without: [all.Offered[0].Key]), Cancel);

        all.Offered.ShouldNotBeEmpty();
        all.After.Sum(each => each.Screens).ShouldBeLessThan(all.Before.Sum(each => each.Screens));
        some.Offered[0].ShouldBe(all.Offered[0] with { Taken = false, Nodes = some.Offered[0].Nodes });
        (await ada.Layout("keeper", Cancel)).Revision.ShouldBe(before.Revision);
        var taken = await ada.Edit("keeper", new EditRequest(all.Revision, all.Edits), Cancel);
        (await ada.Propose("keeper", new ProposalRequest("shorter"), Cancel)).Offered.ShouldBeEmpty();
        await ada.Edit("keeper", new EditRequest(taken.Revision, taken.Inverse), Cancel);
        (await ada.Layout("keeper", Cancel)).Tree.GetRawText().ShouldBe(before.Tree.GetRawText());
    }

    [Fact]
    public async Task Reasons_are_in_the_language_of_whoever_reads_them()
    {
        using var ada = await shared.Http("ada");
        using var request = new HttpRequestMessage(HttpMethod.Post, "api/layouts/keeper/proposals")
        {
            Content = RunningService.Json("""{"aim":"shorter"}"""),
        };
        request.Headers.AcceptLanguage.ParseAdd("nl");
        using var answer = await ada.SendAsync(request, Cancel);
        using var body = JsonDocument.Parse(await answer.Content.ReadAsStringAsync(Cancel));
        body.RootElement.GetProperty("offered")[0].GetProperty("reason").GetString()!.ShouldMatch("naast|rijen");
    }

    [Theory]
    [InlineData("""{}""", "", "aim")]
    [InlineData("""{"aim":"shortest"}""", "/aim", "did you mean 'shorter'?")]
    [InlineData("""{"aim":"tidier","within":["nobody"]}""", "/within/0", "There is no 'nobody'")]
    [InlineData("""{"aim":"tidier","within":["no body"]}""", "/within/0", "There is no 'no body'")]
    public async Task What_cannot_be_asked_is_told_where(string body, string pointer, string message)
    {
        using var ada = await shared.Http("ada");
        using var answer = await ada.PostAsync("api/layouts/vessel/proposals", RunningService.Json(body), Cancel);
        ((int)answer.StatusCode).ShouldBe(400);
        var problem = await answer.Problem();
        (problem.Detail + problem.Problems?[0].Message).ShouldContain(message);
        problem.Problems![0].Pointer.ShouldBe(pointer);
    }
}
