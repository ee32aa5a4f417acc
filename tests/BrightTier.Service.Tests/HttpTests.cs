using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;

namespace BrightTier.Service.Tests;

/// <summary>HTTP as RFC 9110 has it, and a description that leaves nothing without a word.</summary>
public sealed class HttpTests(DemoService service) : IClassFixture<DemoService>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static Task<HttpResponseMessage> Send(HttpClient http, string method, string path, Action<HttpRequestMessage>? prepare = null)
    {
        var request = new HttpRequestMessage(new HttpMethod(method), path);
        prepare?.Invoke(request);
        return http.SendAsync(request, Cancel);
    }

    [Theory]
    [InlineData("api/layouts/vessel")]
    [InlineData("api/layouts")]
    [InlineData("api/forms/vessel")]
    [InlineData("api/records/vessel/1")]
    [InlineData("api/documents/entity/vessel")]
    [InlineData("api/nothing")]
    [InlineData("openapi/v1.json")]
    [InlineData("health/ready")]
    [InlineData("")]
    public async Task What_can_be_read_has_its_head(string path)
    {
        using var http = await service.Http("greta");
        using var whole = await Send(http, "GET", path);
        using var head = await Send(http, "HEAD", path);
        head.StatusCode.ShouldBe(whole.StatusCode);
        head.Content.Headers.ContentType.ShouldBe(whole.Content.Headers.ContentType);
        head.Headers.ETag.ShouldBe(whole.Headers.ETag);
        (await head.Content.ReadAsByteArrayAsync(Cancel)).ShouldBeEmpty();
        (
            head.Content.Headers.ContentLength is null or 0 || head.Content.Headers.ContentLength == whole.Content.Headers.ContentLength
        ).ShouldBeTrue();
    }

    [Fact]
    public async Task What_can_be_done_with_a_resource_is_told()
    {
        using var http = await service.Http("ada");
        using var options = await Send(http, "OPTIONS", "api/layouts/vessel");
        options.StatusCode.ShouldBe(HttpStatusCode.NoContent);
        options.Content.Headers.Allow.Order().ShouldBe(["GET", "HEAD", "OPTIONS", "PUT"]);
        using var wrong = await Send(http, "DELETE", "api/layouts/vessel");
        wrong.StatusCode.ShouldBe(HttpStatusCode.MethodNotAllowed);
        wrong.Content.Headers.Allow.Order().ShouldBe(["GET", "HEAD", "OPTIONS", "PUT"]);
        // A stream has no end, and so no head.
        using var events = await Send(http, "HEAD", "api/events");
        events.StatusCode.ShouldBe(HttpStatusCode.MethodNotAllowed);
    }

    [Fact]
    public async Task Whoever_is_not_signed_in_is_told_how()
    {
        using var http = await service.Http();
        using var answer = await http.GetAsync("api/layouts", Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        answer.Headers.WwwAuthenticate.Single().Scheme.ShouldBe("Bearer");
    }

    /// <summary>A proxy that compresses weakens tags; who sends one back means the same.</summary>
    [Theory]
    [InlineData("api/forms/berth")]
    [InlineData("api/entities")]
    public async Task What_one_has_already_is_not_sent_again(string path)
    {
        using var http = await service.Http("greta");
        using var first = await http.GetAsync(path, Cancel);
        var tag = first.Headers.ETag!.Tag;
        foreach (var known in new[] { tag, $"W/{tag}", $"\"other\", {tag}", "*" })
        {
            using var again = await Send(http, "GET", path, request => request.Headers.TryAddWithoutValidation("If-None-Match", known));
            again.StatusCode.ShouldBe(HttpStatusCode.NotModified, known);
        }

        using var other = await Send(http, "GET", path, request => request.Headers.TryAddWithoutValidation("If-None-Match", "\"other\""));
        other.StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    /// <summary>A browser that has the tree must not take it for the file.</summary>
    [Fact]
    public async Task A_draft_as_a_tree_does_not_answer_for_its_file()
    {
        using var http = await service.Http("ada");
        using var tree = await http.GetAsync("api/layouts/berth", Cancel);
        tree.Headers.Vary.ShouldContain("Accept");
        using var file = await Send(http, "GET", "api/layouts/berth", request =>
        {
            request.Headers.Accept.ParseAdd("application/yaml");
            request.Headers.TryAddWithoutValidation("If-None-Match", tree.Headers.ETag!.Tag);
        });
        file.StatusCode.ShouldBe(HttpStatusCode.OK);
        (await file.Content.ReadAsStringAsync(Cancel)).ShouldStartWith("kind: full");
    }

    [Fact]
    public async Task A_weakened_tag_names_the_revision_it_was()
    {
        using var http = await service.Http("ada");
        using var file = await Send(http, "GET", "api/layouts/keeper", request => request.Headers.Accept.ParseAdd("application/yaml"));
        var text = (await file.Content.ReadAsStringAsync(Cancel)).Replace("columns: 2", "columns: 1", StringComparison.Ordinal);
        using var put = await Send(http, "PUT", "api/layouts/keeper", request =>
        {
            request.Content = new StringContent(text, Encoding.UTF8, "application/yaml");
            request.Headers.TryAddWithoutValidation("If-Match", $"W/{file.Headers.ETag!.Tag}");
        });
        put.StatusCode.ShouldBe(HttpStatusCode.OK, await put.Content.ReadAsStringAsync(Cancel));
    }

    [Theory]
    [InlineData("api/layouts", """{"key":"headed","entity":"berth"}""")]
    [InlineData("api/drafts/layout/vessel/comments", """{"text":"Is this in order?"}""")]
    [InlineData("api/records/vessel/1/comments", """{"text":"Seen today"}""")]
    [InlineData("api/tokens", """{"name":"probe","days":1}""")]
    public async Task What_is_made_is_read_where_the_answer_says(string path, string body)
    {
        using var http = await service.Http("ada");
        using var content = new StringContent(body, Encoding.UTF8, new MediaTypeHeaderValue("application/json"));
        using var made = await http.PostAsync(path, content, Cancel);
        made.StatusCode.ShouldBe(HttpStatusCode.Created, await made.Content.ReadAsStringAsync(Cancel));
        using var read = await http.GetAsync(made.Headers.Location!, Cancel);
        read.StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    /// <summary>The linters of <c>npm run check</c> look at its form; that every part has words is looked at here.</summary>
    [Fact]
    public async Task Every_call_parameter_and_refusal_is_described()
    {
        using var http = await service.Http();
        using var described = JsonDocument.Parse(await http.GetStringAsync("openapi/v1.json", Cancel));
        var silent = new List<string>();
        foreach (var path in described.RootElement.GetProperty("paths").EnumerateObject())
        {
            foreach (var call in path.Value.EnumerateObject())
            {
                var name = $"{call.Name} {path.Name}";
                Words(call.Value, "summary", name);
                foreach (var parameter in call.Value.TryGetProperty("parameters", out var all) ? all.EnumerateArray() : default)
                {
                    Words(parameter, "description", $"{name} {parameter.GetProperty("name")}");
                }

                var answers = call.Value.GetProperty("responses");
                if (answers.EnumerateObject().Select(answer => answer.Name).Except(["200", "201", "202", "204", "304"]).Count() < 3)
                {
                    silent.Add($"{name} says too little of how it is refused");
                }
            }
        }

        foreach (var tag in described.RootElement.GetProperty("tags").EnumerateArray())
        {
            Words(tag, "description", $"tag {tag.GetProperty("name")}");
        }

        silent.ShouldBeEmpty();

        void Words(JsonElement element, string property, string name)
        {
            if (!element.TryGetProperty(property, out var words) || string.IsNullOrWhiteSpace(words.GetString()))
            {
                silent.Add(name);
            }
        }
    }
}
