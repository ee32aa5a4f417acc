using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>A place in a document as it is said to people: the property, and the field, choice or entry it is of.</summary>
/// <param name="Element">The innermost thing with a name it is in; null for the document.</param>
/// <param name="Properties">The properties that lead on from there.</param>
internal sealed record DocumentPlace(Message? Element, string Properties)
{
    public static DocumentPlace Whole { get; } = new(null, "");

    public Message Words =>
        Element is null ? Message.Verbatim(Properties)
        : Properties.Length == 0 ? Element
        : (Message)$"{Properties} of {Element}";

    public DocumentPlace Property(string key) => this with { Properties = Properties.Length == 0 ? key : $"{Properties} {key}" };

    /// <summary>An element of the list that is here, by its title; by its key where it has none, or another one has the same.</summary>
    /// <param name="called">All elements, by their titles.</param>
    public DocumentPlace Of(FileNode? element, string key, ILookup<Texts?, KeyValuePair<string, FileNode>> called)
    {
        var name = Title(element) is { } title && called[title].Count() == 1 ? title : Texts.Of(key);
        Message words = Properties switch
        {
            "fields" => $"the field ‘{name}’",
            "choices" => $"the choice ‘{name}’",
            "roles" => $"the role ‘{name}’",
            "entries" => $"the entry ‘{name}’",
            _ => $"‘{name}’",
        };
        return new DocumentPlace(Element is { } outer ? $"{words} of {outer}" : words, "");
    }

    /// <summary>What an element is called; null where nothing says so.</summary>
    public static Texts? Title(FileNode? element) =>
        element is FileNode.Map map
            ? (map["label"] ?? map["title"]) switch
            {
                FileNode.Scalar text => Texts.Of(text.Content),
                FileNode.Map texts => Texts.Of(
                    texts
                        .Entries.Where(each => each.Value is FileNode.Scalar)
                        .Select(each => new KeyValuePair<string, string>(each.Key, ((FileNode.Scalar)each.Value).Content))
                ),
                _ => null,
            }
            : null;
}
