namespace BrightTier.Core.Messages;

/// <summary>Several messages at once.</summary>
public static class MessageLists
{
    /// <summary>Each in the language of the current request.</summary>
    public static IReadOnlyList<string> Texts(this IEnumerable<Message> messages) => [.. messages.Select(message => message.ToString())];
}
