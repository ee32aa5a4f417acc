namespace BrightTier.Core.Documents;

/// <summary>
/// Compares and merges texts as trees: maps entry by entry, lists whose elements have keys element by element. For documents that have no
/// edits of
/// their own: entities, choice lists, the application, the menu, routing.
/// </summary>
internal static class NodeMerge
{
    private static readonly string[] Naming = ["key", "name"];

    /// <summary>
    /// Puts what both sides did over what they began with. Where they did different things to one place, mine stands and the place is told.
    /// </summary>
    /// <param name="conflict">
    /// Told of each place where both changed the same, as steps with '/' between, and what each has there; says whether theirs stands.
    /// </param>
    public static FileNode? Merge(
        FileNode? from,
        FileNode? mine,
        FileNode? theirs,
        Func<string, FileNode?, FileNode?, bool> conflict,
        string at = ""
    )
    {
        if (Same(mine, theirs) || Same(from, theirs))
        {
            return mine;
        }

        if (Same(from, mine))
        {
            return theirs;
        }

        switch (mine, theirs)
        {
            case (FileNode.Map one, FileNode.Map other):
                var whole = from as FileNode.Map;
                var entries = Together(Keys(whole), Keys(one), Keys(other))
                    .Select(key => (key, value: Merge(whole?[key], one[key], other[key], conflict, $"{at}/{key}")))
                    .Where(entry => entry.value is not null)
                    .Select(entry => new FileNode.Entry(entry.key, default, entry.value!));
                return one with { Entries = [.. entries] };
            case (FileNode.List one, FileNode.List other)
                when Named(one) is { } my
                    && Named(other) is { } their
                    && (from is null or FileNode.List)
                    && Named(from as FileNode.List ?? one with { Elements = [] }) is { } old:
                var elements = Together([.. old.Keys], [.. my.Keys], [.. their.Keys])
                    .Select(key =>
                        Merge(old.GetValueOrDefault(key), my.GetValueOrDefault(key), their.GetValueOrDefault(key), conflict, $"{at}/{key}")
                    )
                    .OfType<FileNode>();
                return one with { Elements = [.. elements] };
            default:
                return conflict(at.Length == 0 ? "/" : at, mine, theirs) ? theirs : mine;
        }
    }

    /// <summary>One sentence for each place that differs.</summary>
    public static IEnumerable<Message> Describe(FileNode? from, FileNode? to) => Describe(from, to, DocumentPlace.Whole);

    private static IEnumerable<Message> Describe(FileNode? from, FileNode? to, DocumentPlace at)
    {
        if (Same(from, to))
        {
            yield break;
        }

        switch (from, to)
        {
            case (FileNode.Map old, FileNode.Map next):
                foreach (
                    var sentence in Together(Keys(old), Keys(old), Keys(next))
                        .SelectMany(key => Describe(old[key], next[key], at.Property(key)))
                )
                {
                    yield return sentence;
                }

                break;
            case (FileNode.List one, FileNode.List other) when Named(one) is { } old && Named(other) is { } next:
                var called = old.Concat(next.Where(each => !old.ContainsKey(each.Key))).ToLookup(each => DocumentPlace.Title(each.Value));
                foreach (
                    var sentence in Together([.. old.Keys], [.. old.Keys], [.. next.Keys])
                        .Select(key => (Was: old.GetValueOrDefault(key), Is: next.GetValueOrDefault(key), Key: key))
                        .SelectMany(each => Describe(each.Was, each.Is, at.Of(each.Was ?? each.Is, each.Key, called)))
                )
                {
                    yield return sentence;
                }

                if (old.Keys.Where(next.ContainsKey).SequenceEqual(next.Keys.Where(old.ContainsKey)) is false)
                {
                    yield return $"Orders {at.Words} anew.";
                }

                break;
            case (null, _):
                yield return to is FileNode.Map ? (Message)$"Adds {at.Words}." : $"Sets {at.Words} to {Short(to!)}.";
                break;
            case (_, null):
                yield return $"Removes {at.Words}.";
                break;
            default:
                yield return $"Changes {at.Words} from {Short(from)} to {Short(to)}.";
                break;
        }
    }

    /// <summary>What stands in a place, short.</summary>
    public static Message Short(FileNode? node)
    {
        if (node is null)
        {
            return $"nothing";
        }

        var text = node is FileNode.Scalar scalar ? $"‘{scalar.Content}’" : JsonText.WriteLine(node);
        return Message.Verbatim(text.Length > 80 ? text[..79] + "…" : text);
    }

    private static bool Same(FileNode? one, FileNode? other) =>
        ReferenceEquals(one, other) || (one is not null && other is not null && FileNode.Difference(one, other) is null);

    private static string[] Keys(FileNode.Map? map) => map is null ? [] : [.. map.Entries.Select(entry => entry.Key)];

    /// <summary>The elements of a list by their names; null where they have none, or two have the same.</summary>
    private static Dictionary<string, FileNode>? Named(FileNode.List list)
    {
        var named = new Dictionary<string, FileNode>(StringComparer.Ordinal);
        foreach (var element in list.Elements)
        {
            if (
                element is not FileNode.Map map
                || Naming.Select(name => map[name]).OfType<FileNode.Scalar>().FirstOrDefault() is not { } key
                || !named.TryAdd(key.Content, element)
            )
            {
                return null;
            }
        }

        return named;
    }

    /// <summary>All keys, in my order; what only they have stands behind what it stands behind with them.</summary>
    private static LinkedList<string> Together(IReadOnlyList<string> from, IReadOnlyList<string> mine, IReadOnlyList<string> theirs)
    {
        var all = new LinkedList<string>();
        var places = mine.ToDictionary(key => key, key => all.AddLast(key), StringComparer.Ordinal);
        foreach (var (i, key) in theirs.Index())
        {
            if (!places.ContainsKey(key))
            {
                // What stands before it with them is there by now.
                places[key] = i == 0 ? all.AddFirst(key) : all.AddAfter(places[theirs[i - 1]], key);
            }
        }

        foreach (var key in from.Where(key => !places.ContainsKey(key)))
        {
            all.AddLast(key);
        }

        return all;
    }
}
