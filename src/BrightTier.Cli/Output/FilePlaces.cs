using BrightTier.Core.Documents;
using BrightTier.Core.Model;

namespace BrightTier.Cli.Output;

/// <summary>Where in a file's text something stands.</summary>
internal static class FilePlaces
{
    /// <param name="place">A node's id in a layout, a JSON pointer (RFC 6901) in any other document, as findings name it.</param>
    public static Place Of(string text, string place) =>
        DocumentFile.Read(text).Document is Document.OfLayout { Places: var places }
            ? places.GetValueOrDefault(new NodeId(place))
            : At(text, place);

    /// <summary>Where a JSON pointer leads; as far as it does.</summary>
    public static Place At(string text, string pointer)
    {
        var node = YamlText.Read(text).Node;
        var place = node?.At ?? default;
        foreach (var step in pointer.Split('/').Skip(1))
        {
            node = node switch
            {
                FileNode.Map map => map[step],
                FileNode.List list when int.TryParse(step, out var index) && index < list.Elements.Length => list.Elements[index],
                _ => null,
            };
            place = node?.At ?? place;
        }

        return place;
    }
}
