using System.Diagnostics;
using BrightTier.Testing;

namespace BrightTier.EndToEnd.Tests;

/// <summary>A team's documents in git, merged by what they mean.</summary>
public sealed class GitTests : IAsyncLifetime
{
    private const string Form = "quay/layouts/berth.yaml";

    private readonly string folder = RunningService.NewFolder();

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync()
    {
        CopyFolder(Path.Combine(RunningService.Checkout, "demo"), Path.Combine(folder, "quay"));
        await Git("init", "-q", "-b", "main");
        await Git("config", "user.name", "Ada");
        await Git("config", "user.email", "ada@saltmarsh.example");
        (await Client("git", "setup", Path.Combine(folder, "quay"))).ShouldSatisfyAllConditions(
            run => run.Exit.ShouldBe(0),
            run => run.Out.ShouldContain(".gitattributes")
        );
        await Change(Form, text => "# Ask the harbour office first.\n" + text);
        await Commit("begin");
    }

    public ValueTask DisposeAsync()
    {
        Directory.Delete(folder, recursive: true);
        return ValueTask.CompletedTask;
    }

    [Fact]
    public async Task Two_who_change_one_section_by_hand_both_have_their_way_comments_and_all()
    {
        await Branch("theirs", text =>
            text.Replace("- [code/3, pontoon/5, zone/4]", "- [zone/4, code/3, pontoon/5] # as painted", StringComparison.Ordinal)
        );
        await Change(Form, text => Retitled(text, "Limits"));
        await Commit("mine");

        var (exit, _, error) = await Git("merge", "-q", "theirs");

        exit.ShouldBe(0, error);
        (await Read(Form)).ShouldSatisfyAllConditions(
            text => text.ShouldStartWith("# Ask the harbour office first.\n"),
            text => text.ShouldContain("Limits"),
            text => text.ShouldContain("- [zone/4, code/3, pontoon/5]  # as painted"),
            text => text.ShouldNotContain("<<<<")
        );
        (await Client("check", Path.Combine(folder, "quay"))).Out.ShouldContain("nothing found");
    }

    [Fact]
    public async Task Where_both_changed_the_same_both_stand_between_marks_and_the_check_says_so()
    {
        await Branch("theirs", text => Retitled(text, "Bounds"));
        await Change(Form, text => Retitled(text, "Limits"));
        await Commit("mine");

        var (exit, output, error) = await Git("merge", "theirs");

        exit.ShouldBe(1);
        (output + error).ShouldContain($"{Form}: 1 conflict");
        var text = await Read(Form);
        text.ShouldMatch("(?s)<<<<<<< mine\n[^=]*Limits[^=]*\n=======\n[^=]*Bounds[^=]*\n>>>>>>> theirs\n");
        text.Split('\n').Count(line => line.Contains("Bounds", StringComparison.Ordinal)).ShouldBe(1);
        var checking = await Client("check", Path.Combine(folder, Form));
        (checking.Exit, checking.Out.Contains("A merge left both sides here", StringComparison.Ordinal)).ShouldBe((1, true));
    }

    [Fact]
    public async Task What_is_no_document_is_merged_line_by_line()
    {
        await Put("quay/other.yaml", "a: 1\nb: 2\nc: 3\nd: 4\ne: 5\n");
        await Commit("other");
        await Git("checkout", "-q", "-b", "theirs");
        await Change("quay/other.yaml", text => text.Replace("a: 1", "a: 10", StringComparison.Ordinal));
        await Commit("theirs");
        await Git("checkout", "-q", "main");
        await Change("quay/other.yaml", text => text.Replace("e: 5", "e: 50", StringComparison.Ordinal));
        await Commit("mine");

        (await Git("merge", "-q", "theirs")).Exit.ShouldBe(0);
        (await Read("quay/other.yaml")).ShouldBe("a: 10\nb: 2\nc: 3\nd: 4\ne: 50\n");
    }

    [Fact]
    public async Task Setting_up_outside_of_a_repository_says_what_is_missing()
    {
        var elsewhere = RunningService.NewFolder();
        Directory.CreateDirectory(elsewhere);
        var run = await Client("git", "setup", elsewhere);
        (run.Exit, run.Error.Contains("is in no git repository", StringComparison.Ordinal)).ShouldBe((2, true));
        File.Exists(Path.Combine(elsewhere, ".gitattributes")).ShouldBeFalse();
    }

    /// <summary>The section's title written anew, its id left out as many do.</summary>
    private static string Retitled(string text, string title) => text.Replace("What fits", title, StringComparison.Ordinal);

    private async Task Branch(string name, Func<string, string> change)
    {
        await Git("checkout", "-q", "-b", name);
        await Change(Form, change);
        await Commit(name);
        await Git("checkout", "-q", "main");
    }

    private async Task Change(string file, Func<string, string> change)
    {
        var text = await Read(file);
        var changed = change(text);
        changed.ShouldNotBe(text);
        await Put(file, changed);
    }

    private Task<string> Read(string file) => File.ReadAllTextAsync(Path.Combine(folder, file), Cancel);

    private Task Put(string file, string text) => File.WriteAllTextAsync(Path.Combine(folder, file), text, Cancel);

    private async Task Commit(string note)
    {
        await Git("add", "-A");
        (await Git("commit", "-q", "-m", note)).Exit.ShouldBe(0);
    }

    private Task<TerminalOutput> Client(params string[] arguments) =>
        Terminal.Run("http://127.0.0.1:9", Path.Combine(folder, ".config"), arguments);

    private async Task<(int Exit, string Out, string Error)> Git(params string[] arguments)
    {
        using var process = Process.Start(
            new ProcessStartInfo("git", arguments)
            {
                WorkingDirectory = folder,
                RedirectStandardOutput = true,
                RedirectStandardError = true,
                UseShellExecute = false,
            }
        )!;
        var (output, error) = (process.StandardOutput.ReadToEndAsync(Cancel), process.StandardError.ReadToEndAsync(Cancel));
        await process.WaitForExitAsync(Cancel);
        return (process.ExitCode, await output, await error);
    }

    private static void CopyFolder(string from, string to)
    {
        foreach (var file in Directory.EnumerateFiles(from, "*", SearchOption.AllDirectories))
        {
            var target = Path.Combine(to, Path.GetRelativePath(from, file));
            Directory.CreateDirectory(Path.GetDirectoryName(target)!);
            File.Copy(file, target);
        }
    }
}
