namespace BrightTier.Core.Messages;

/// <summary>What reads differently in different languages; in a message it is written in the message's.</summary>
public interface ITranslation
{
    /// <summary>In a language, or in the nearest there is.</summary>
    string In(string language);
}
