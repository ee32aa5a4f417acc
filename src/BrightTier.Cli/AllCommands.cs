using System.CommandLine;
using BrightTier.Cli.Commands;
using BrightTier.Cli.Invocation;

namespace BrightTier.Cli;

/// <summary>Every command: the daily ones first, then one for each noun.</summary>
internal static class AllCommands
{
    public static IReadOnlyList<Func<CommandLine, Command>> List { get; } =
    [
        FileCommands.Pull,
        DiffCommand.Make,
        CheckCommand.Make,
        FileCommands.Apply,
        MergeCommand.Make,
        line => PublishCommand.Make(line, "publish"),
        StatusCommand.Make,
        SessionCommands.SignIn,
        SessionCommands.SignOut,
        ProfileCommands.Make,
        LayoutCommands.Make,
        EntityCommands.Make,
        RecordCommands.Make,
        ReleaseCommands.Make,
        ScheduledReleaseCommands.Make,
        ApprovalCommands.Make,
        CommentCommands.Make,
        PersonCommands.Make,
        TokenCommands.Make,
        TextCommands.Make,
        BundleCommands.Make,
        ImpactCommand.Make,
        HistoryCommand.Make,
        AuditCommands.Make,
        GitCommands.Make,
        BackupCommands.Make,
        SetupCommand.Make,
        ExampleCommand.Make,
        AttachCommands.Make,
        ServiceCommands.Serve,
        ServiceCommands.Demo,
        DiagnoseCommand.Make,
        SchemaCommand.Make,
        CompletionCommands.Make,
        ReferenceCommand.Make,
    ];
}
