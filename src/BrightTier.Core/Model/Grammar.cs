using System.Collections.Frozen;
using System.Collections.Immutable;
using BrightTier.Core.Patterns;

namespace BrightTier.Core.Model;

/// <summary>What sort of value a property takes.</summary>
public enum PropertyType
{
    /// <summary>A text for people, one for all languages or a map from language tag to text.</summary>
    Text,

    /// <summary>One of the names in <see cref="PropertyRule.Words"/>.</summary>
    Word,

    /// <summary>Several of the names in <see cref="PropertyRule.Words"/>, or any keys where that is empty.</summary>
    Words,

    /// <summary>Any texts, that a pattern is tried on.</summary>
    Samples,

    /// <summary>A key: of the layout, an entity, a field.</summary>
    Key,

    /// <summary>From key to key or expression.</summary>
    Pairs,

    /// <summary>An address, with values of the record in braces.</summary>
    Address,

    /// <summary>What a text must match, in RE2 syntax.</summary>
    Pattern,

    /// <summary>A CEL expression of type bool.</summary>
    Condition,

    /// <summary>True, false or a CEL expression of type bool.</summary>
    FlagOrCondition,

    Flag,

    /// <summary>A whole number.</summary>
    Number,

    Decimal,

    /// <summary>A node's id, <c>use/node</c> for one inside a piece.</summary>
    Target,

    /// <summary>Whatever the property named beside it takes.</summary>
    Any,
}

/// <summary>The groups in which a person meets properties.</summary>
public enum PropertyGroup
{
    Words,
    Place,
    Behaviour,
    Who,
}

/// <summary>
/// One property a node can have: its type, limits, default (left out when writing), where it inherits from, and a line that explains it.
/// </summary>
public sealed record PropertyRule(string Name, PropertyType Type, PropertyGroup Group, string Label, string About)
{
    public ImmutableArray<string> Words { get; init; } = [];

    public int Min { get; init; }

    public int Max { get; init; } = int.MaxValue;

    public Value? Default { get; init; }

    public bool Required { get; init; }

    /// <summary>Whether the value may span several lines.</summary>
    public bool Lines { get; init; }

    /// <summary>
    /// Whether a node without one takes the value of the nearest node around it that has one; the root's default is the last resort.
    /// </summary>
    public bool Inherits { get; init; }

    /// <summary>
    /// Whether a variant may set it: what concerns place, presentation, words and reading, never what decides which records are right.
    /// </summary>
    public bool InVariants { get; init; } = true;

    /// <summary>The unit a number counts, shown wherever it is.</summary>
    public string? Unit { get; init; }

    /// <summary>Whether it names fields of the entity the layout is for.</summary>
    public bool OfFields { get; init; }

    /// <summary>The types of fields it says anything of; of all where it is empty.</summary>
    public ImmutableArray<FieldType> Types { get; init; } = [];

    /// <summary>Of several words: whether a node without the property has all of them.</summary>
    public bool AllByDefault { get; init; }

    /// <summary>Whether it is one of those that are set first; the others are one press away.</summary>
    public bool IsOften => GrammarRules.Often.Contains(Name);
}

/// <summary>How children stand in a file.</summary>
public enum ChildShape
{
    /// <summary>One, under its own name.</summary>
    One,

    /// <summary>A list.</summary>
    Many,

    /// <summary>A map from a name to each.</summary>
    Named,
}

/// <summary>Children of some kinds, the word they stand under in a file, and how.</summary>
public sealed record ChildRule(string Word, ChildShape Shape, ImmutableArray<NodeKind> Kinds);

/// <summary>One kind of node: its name, which kinds may stand under it and how a file writes them, and its properties.</summary>
public sealed record NodeRule(
    NodeKind Kind,
    string Name,
    string About,
    ImmutableArray<ChildRule> Holds,
    ImmutableArray<PropertyRule> Properties
)
{
    private readonly FrozenDictionary<string, PropertyRule> byName = Properties.ToFrozenDictionary(
        rule => rule.Name,
        StringComparer.Ordinal
    );

    /// <summary>For items: the property that also says which kind it is, always written, and first.</summary>
    public string? Main { get; init; }

    /// <summary>For layouts: the word of <c>kind</c> this rule is for.</summary>
    public string? Root { get; init; }

    /// <summary>Every kind that may stand directly under it.</summary>
    public ImmutableArray<NodeKind> Children { get; } = [.. Holds.SelectMany(child => child.Kinds)];

    /// <summary>What people call it, in messages.</summary>
    public Message Noun => Message.Term(Name);

    public PropertyRule? Find(string property) => byName.GetValueOrDefault(property);

    /// <summary>Under which word a child of a kind stands.</summary>
    public ChildRule? HolderOf(NodeKind kind) => Holds.FirstOrDefault(child => child.Kinds.Contains(kind));
}

/// <summary>
/// The one statement of what a layout is made of. Reading, checking edits, the JSON Schema, the properties panel and the reference in docs
/// are driven by it, so that adding a property is one change, in <see cref="GrammarRules"/>.
/// </summary>
public static class Grammar
{
    /// <summary>Every kind of node, outermost first; of the layout itself the rule of a full one.</summary>
    public static ImmutableArray<NodeRule> Rules => GrammarRules.All;

    /// <summary>The rule of the root for each kind of layout.</summary>
    public static ImmutableArray<NodeRule> Roots => GrammarRules.Roots;

    private static readonly NodeRule[] ByKind = [.. Enum.GetValues<NodeKind>().Select(kind => Rules.Single(rule => rule.Kind == kind))];

    private static readonly FrozenDictionary<string, NodeRule> ByName = Rules.ToFrozenDictionary(rule => rule.Name, StringComparer.Ordinal);

    private static readonly FrozenDictionary<string, NodeRule> ByMain = Rules
        .Where(rule => rule.Main is not null)
        .ToFrozenDictionary(rule => rule.Main!, StringComparer.Ordinal);

    private static readonly FrozenDictionary<string, NodeRule> ByRoot = Roots.ToFrozenDictionary(
        rule => rule.Root!,
        StringComparer.Ordinal
    );

    private static readonly FrozenDictionary<string, PropertyRule> Properties = Rules
        .Concat(Roots)
        .SelectMany(rule => rule.Properties)
        .GroupBy(rule => rule.Name)
        .ToFrozenDictionary(group => group.Key, group => group.First(), StringComparer.Ordinal);

    /// <summary>Names of properties every node has beside those of its kind.</summary>
    public const string Id = "id";

    public static NodeRule Of(NodeKind kind) => ByKind[(int)kind];

    /// <summary>The rule of a node; of a layout that of its own kind.</summary>
    public static NodeRule Of(Node node) =>
        node.Kind is NodeKind.Layout ? Root(node.Word("kind") ?? "full") ?? Of(NodeKind.Layout) : Of(node.Kind);

    public static NodeRule? Named(string name) => ByName.GetValueOrDefault(name);

    /// <summary>The kind of item that a main property names.</summary>
    public static NodeRule? WithMain(string property) => ByMain.GetValueOrDefault(property);

    /// <summary>The rule of the root of a kind of layout: full, short, card, list, print or piece.</summary>
    public static NodeRule? Root(string kind) => ByRoot.GetValueOrDefault(kind);

    public static bool IsItem(NodeKind kind) => kind is >= NodeKind.Field and <= NodeKind.Piece;

    /// <summary>The rule of a property whatever node it is on: a name means one type of value throughout.</summary>
    public static PropertyRule? Property(string name) => Properties.GetValueOrDefault(name);

    /// <summary>
    /// Every CEL text a node holds, with the property it is for: its conditions, what an action sets fields to, and those a change sets on
    /// another
    /// node. A condition is of type bool; the others are of any type.
    /// </summary>
    public static IEnumerable<(string Property, string Text, bool IsCondition)> Expressions(Node node)
    {
        foreach (var (name, value) in node.Properties)
        {
            var property = node.Kind is NodeKind.Change && name == "value" ? node.Word("property") ?? "" : name;
            switch (Property(property)?.Type, value)
            {
                case (PropertyType.Condition or PropertyType.FlagOrCondition, Value.Word word):
                    yield return (property, word.Content, true);
                    break;
                case (PropertyType.Pairs, Value.Pairs pairs) when property is "values":
                    foreach (var text in pairs.Entries.Values)
                    {
                        yield return (property, text, false);
                    }

                    break;
            }
        }
    }

    /// <summary>What is wrong with a value for a property, in words that go behind the property's name; null when it is right.</summary>
    public static Message? Problem(PropertyRule rule, Value value) =>
        (rule.Type, value) switch
        {
            (PropertyType.Any, _) => null,
            (PropertyType.Text, Value.Text text) => text.Texts.ByLanguage.Values.Any(each => each.Length > Limits.TextLength)
                ? (Message)$"must be at most {Limits.TextLength} characters"
                : null,
            (PropertyType.Text, _) => $"must be a text, or a map from language to text",
            (PropertyType.Word, Value.Word word) => rule.Words.Contains(word.Content)
                ? null
                : (Message)$"has no value '{word.Content}'{Model.Suggestion.For(word.Content, rule.Words)}",
            (PropertyType.Word, _) => $"must be one of {string.Join(", ", rule.Words)}",
            (PropertyType.Words, Value.Words words) => words.Contents.Length > Limits.Entries
                ? $"must have at most {Limits.Entries}"
                : words
                    .Contents.Select(word =>
                        rule.Words.IsEmpty ? KeyProblem(word.TrimStart('-'))
                        : rule.Words.Contains(word) ? null
                        : (Message)$"has no value '{word}'{Model.Suggestion.For(word, rule.Words)}"
                    )
                    .FirstOrDefault(each => each is not null)
                    ?? (words.Contents.Distinct().Count() == words.Contents.Length ? null : (Message)$"names something twice"),
            (PropertyType.Words, _) => rule.Words.IsEmpty
                ? (Message)$"must be a list of keys"
                : $"must be a list of {string.Join(", ", rule.Words)}",
            (PropertyType.Samples, Value.Words samples) => samples.Contents.Length > Limits.Entries ? $"must have at most {Limits.Entries}"
            : samples.Contents.Any(each => each.Length > Limits.TextLength)
                ? (Message)$"must have texts of at most {Limits.TextLength} characters"
            : null,
            (PropertyType.Samples, _) => $"must be a list of texts",
            (PropertyType.Key, Value.Word word) => KeyProblem(word.Content),
            (PropertyType.Key, _) => $"must be a key",
            (PropertyType.Pairs, Value.Pairs pairs) => pairs.Entries.Count > Limits.Entries
                ? $"must have at most {Limits.Entries}"
                : pairs
                    .Entries.Select(pair =>
                        KeyProblem(pair.Key)
                        ?? (
                            pair.Value.Length > Limits.ConditionLength
                                ? (Message)$"must have values of at most {Limits.ConditionLength} characters"
                                : null
                        )
                    )
                    .FirstOrDefault(each => each is not null),
            (PropertyType.Pairs, _) => $"must be a map from key to value",
            (PropertyType.Address, Value.Word word) => AddressProblem(word.Content),
            (PropertyType.Address, _) => $"must be an address, such as https://quay.example/{{registration}}",
            (PropertyType.Pattern, Value.Word word) => word.Content.Length > Limits.ConditionLength
                ? (Message)$"must be at most {Limits.ConditionLength} characters"
                : WholePattern.Problem(word.Content),
            (PropertyType.Pattern, _) => $"must be a pattern, such as [A-Z]{{2}}[0-9]{{4}}",
            (PropertyType.Condition, Value.Word word) => ConditionProblem(word.Content),
            (PropertyType.Condition, _) => $"must be a condition, such as record.propulsion == 'sail'",
            (PropertyType.FlagOrCondition, Value.Flag) => null,
            (PropertyType.FlagOrCondition, Value.Word word) => ConditionProblem(word.Content),
            (PropertyType.FlagOrCondition, _) => $"must be true, false or a condition",
            (PropertyType.Flag, Value.Flag) => null,
            (PropertyType.Flag, _) => $"must be true or false",
            (PropertyType.Number, Value.Number number) => number.Amount != decimal.Truncate(number.Amount)
                ? $"must be a whole number"
                : InRange(rule, number.Amount),
            (PropertyType.Number, _) => $"must be a whole number",
            (PropertyType.Decimal, Value.Number number) => InRange(rule, number.Amount),
            (PropertyType.Decimal, _) => $"must be a number",
            (PropertyType.Target, Value.Word word) => word.Content.Split('/').All(NodeId.IsWellFormed)
                ? null
                : (Message)$"must be the id of a node; it is '{word.Content}'",
            (PropertyType.Target, _) => $"must be the id of a node",
            _ => throw new ArgumentOutOfRangeException(nameof(rule)),
        };

    private static Message? InRange(PropertyRule rule, decimal amount) =>
        amount >= rule.Min && amount <= rule.Max ? null
        : rule.Max == int.MaxValue ? (Message)$"must be at least {rule.Min}; it is {amount}"
        : $"must be from {rule.Min} to {rule.Max}; it is {amount}";

    private static Message? KeyProblem(string key) =>
        NodeId.IsWellFormed(key)
            ? null
            : (Message)$"must begin with a letter and have only letters, digits, '-' and '_', at most {Limits.IdLength}; it is '{key}'";

    /// <summary>Only addresses a browser can open without running anything.</summary>
    private static Message? AddressProblem(string address) =>
        address.Length > Limits.TextLength ? $"must be at most {Limits.TextLength} characters"
        : address.StartsWith("https://", StringComparison.Ordinal)
        || address.StartsWith("http://", StringComparison.Ordinal)
        || address.StartsWith("mailto:", StringComparison.Ordinal)
        || address.StartsWith("tel:", StringComparison.Ordinal)
        || (address.StartsWith('/') && !address.StartsWith("//", StringComparison.Ordinal))
        || address.StartsWith("file:", StringComparison.Ordinal) && address.Length > 5 && address[5] != '/'
            ? null
        : (Message)$"must begin with https://, http://, mailto:, tel: or /; it is '{address}'";

    private static Message? ConditionProblem(string condition) =>
        condition.Length switch
        {
            0 => (Message)$"must not be an empty condition; leave it out instead",
            > Limits.ConditionLength => $"must be at most {Limits.ConditionLength} characters",
            _ => null,
        };
}
