using System.Globalization;

namespace BrightTier.Storage;

/// <summary>What comments are about, as the table has it.</summary>
public static class CommentSubject
{
    public static string Draft(string kind, string key) => $"draft/{kind}/{key}";

    public static string Record(string entity, long id) => string.Create(CultureInfo.InvariantCulture, $"record/{entity}/{id}");
}
