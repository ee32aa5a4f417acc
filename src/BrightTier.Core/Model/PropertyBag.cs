using System.Collections;

namespace BrightTier.Core.Model;

/// <summary>
/// A node's properties by name, in ordinal order. Immutable. A sorted array, because nodes have few properties and there are many nodes:
/// looking
/// one up, going over them and comparing two cost next to nothing.
/// </summary>
public sealed class PropertyBag : IEnumerable<KeyValuePair<string, Value>>, IEquatable<PropertyBag>
{
    private readonly KeyValuePair<string, Value>[] entries;

    private PropertyBag(KeyValuePair<string, Value>[] entries) => this.entries = entries;

    public static PropertyBag Empty { get; } = new([]);

    public int Count => entries.Length;

    public bool IsEmpty => entries.Length == 0;

    public IEnumerable<string> Keys => entries.Select(entry => entry.Key);

    public Value? GetValueOrDefault(string name)
    {
        foreach (var entry in entries)
        {
            if (string.Equals(entry.Key, name, StringComparison.Ordinal))
            {
                return entry.Value;
            }
        }

        return null;
    }

    /// <summary>With one more; the name must be new.</summary>
    public PropertyBag Add(string name, Value value) =>
        IndexOf(name) < 0 ? SetItem(name, value) : throw new ArgumentException($"There is a '{name}' already.", nameof(name));

    public PropertyBag SetItem(string name, Value value)
    {
        var at = IndexOf(name);
        if (at >= 0)
        {
            if (entries[at].Value == value)
            {
                return this;
            }

            var changed = (KeyValuePair<string, Value>[])entries.Clone();
            changed[at] = new(name, value);
            return new PropertyBag(changed);
        }

        var more = new KeyValuePair<string, Value>[entries.Length + 1];
        Array.Copy(entries, more, ~at);
        more[~at] = new(name, value);
        Array.Copy(entries, ~at, more, ~at + 1, entries.Length - ~at);
        return new PropertyBag(more);
    }

    public PropertyBag SetItems(IEnumerable<KeyValuePair<string, Value>> items) =>
        items.Aggregate(this, (bag, item) => bag.SetItem(item.Key, item.Value));

    public PropertyBag Remove(string name)
    {
        var at = IndexOf(name);
        if (at < 0)
        {
            return this;
        }

        var fewer = new KeyValuePair<string, Value>[entries.Length - 1];
        Array.Copy(entries, fewer, at);
        Array.Copy(entries, at + 1, fewer, at, fewer.Length - at);
        return fewer.Length == 0 ? Empty : new PropertyBag(fewer);
    }

    /// <summary>The place of a name, or the complement of where it belongs.</summary>
    private int IndexOf(string name)
    {
        for (var i = 0; i < entries.Length; i++)
        {
            var order = string.CompareOrdinal(entries[i].Key, name);
            if (order >= 0)
            {
                return order == 0 ? i : ~i;
            }
        }

        return ~entries.Length;
    }

    /// <summary>The names at which two differ, in order.</summary>
    public IEnumerable<string> DifferingFrom(PropertyBag other)
    {
        if (ReferenceEquals(this, other))
        {
            yield break;
        }

        var (i, j) = (0, 0);
        while (i < entries.Length || j < other.entries.Length)
        {
            var order =
                i == entries.Length ? 1
                : j == other.entries.Length ? -1
                : string.CompareOrdinal(entries[i].Key, other.entries[j].Key);
            if (order != 0)
            {
                yield return order < 0 ? entries[i++].Key : other.entries[j++].Key;
                continue;
            }

            if (entries[i].Value != other.entries[j].Value)
            {
                yield return entries[i].Key;
            }

            i++;
            j++;
        }
    }

    public bool Equals(PropertyBag? other)
    {
        if (ReferenceEquals(this, other))
        {
            return true;
        }

        if (other is null || entries.Length != other.entries.Length)
        {
            return false;
        }

        for (var i = 0; i < entries.Length; i++)
        {
            if (
                !string.Equals(entries[i].Key, other.entries[i].Key, StringComparison.Ordinal)
                || entries[i].Value != other.entries[i].Value
            )
            {
                return false;
            }
        }

        return true;
    }

    public override bool Equals(object? obj) => Equals(obj as PropertyBag);

    public override int GetHashCode() => entries.Length;

    public IEnumerator<KeyValuePair<string, Value>> GetEnumerator() => ((IEnumerable<KeyValuePair<string, Value>>)entries).GetEnumerator();

    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();
}
