using System.Collections.Immutable;
using BrightTier.Core.Patterns;

namespace BrightTier.Core.Conditions;

/// <summary>A stretch of a condition's text: offset of its first character and length, in UTF-16 units.</summary>
public readonly record struct Span(int Start, int Length)
{
    public int End => Start + Length;

    public Span To(Span other) => new(Start, other.End - Start);
}

/// <summary>What is wrong with a condition, and where in its text.</summary>
/// <param name="Right">What would be right in that place, where it is known for sure enough to be put there.</param>
public sealed record ConditionProblem(Span At, Message Message, string? Right = null)
{
    /// <summary>The condition with what is right in its place; null where that is not known.</summary>
    public string? Mended(string text) =>
        Right is null || At.End > text.Length ? null : string.Concat(text.AsSpan(0, At.Start), Right, text.AsSpan(At.End));
}

/// <summary>The syntax tree of a condition. Immutable; every part knows where it stood.</summary>
public abstract record Expression(Span At)
{
    /// <summary>null, <see cref="bool"/>, <see cref="long"/>, <see cref="double"/> or <see cref="string"/>.</summary>
    public sealed record Literal(object? Value, Span At) : Expression(At);

    public sealed record Name(string Identifier, Span At) : Expression(At);

    public sealed record Select(Expression Target, string Field, Span FieldAt, Span At) : Expression(At);

    /// <summary>The macro <c>has(record.field)</c>: whether there is a value.</summary>
    public sealed record Has(Select Operand, Span At) : Expression(At);

    public sealed record Index(Expression Target, Expression Key, Span At) : Expression(At);

    /// <summary>A function of the standard library; a member call has its receiver as first argument.</summary>
    public sealed record Call(string Function, ImmutableArray<Expression> Arguments, bool Member, Span NameAt, Span At) : Expression(At);

    public sealed record Unary(string Operator, Expression Operand, Span At) : Expression(At);

    public sealed record Binary(string Operator, Expression Left, Expression Right, Span OperatorAt, Span At) : Expression(At);

    public sealed record Conditional(Expression Test, Expression Then, Expression Otherwise, Span At) : Expression(At);

    public sealed record ListOf(ImmutableArray<Expression> Elements, Span At) : Expression(At);

    public sealed record MapOf(ImmutableArray<(Expression Key, Expression Value)> Entries, Span At) : Expression(At);

    /// <summary>
    /// A macro that goes over a list's elements or a map's keys: all, exists, exists_one, filter, map. <paramref name="Body"/> is the test,
    /// or for map what each becomes, then with <paramref name="Only"/> as the test where there is one.
    /// </summary>
    public sealed record Over(string Macro, Expression Target, string Variable, Expression? Only, Expression Body, Span At)
        : Expression(At);

    /// <summary>A test of a text against a pattern that is written out, compiled once.</summary>
    public sealed record Matches(Expression Target, PatternProgram Pattern, Span PatternAt, Span At) : Expression(At);

    /// <summary>The parts directly below this one.</summary>
    public IEnumerable<Expression> Parts =>
        this switch
        {
            Select select => [select.Target],
            Has has => [has.Operand],
            Index index => [index.Target, index.Key],
            Call call => call.Arguments,
            Unary unary => [unary.Operand],
            Binary binary => [binary.Left, binary.Right],
            Conditional conditional => [conditional.Test, conditional.Then, conditional.Otherwise],
            ListOf list => list.Elements,
            MapOf map => map.Entries.SelectMany(entry => new[] { entry.Key, entry.Value }),
            Over { Only: { } only } over => [over.Target, only, over.Body],
            Over over => [over.Target, over.Body],
            Matches matches => [matches.Target],
            _ => [],
        };

    /// <summary>
    /// The tree with parts replaced, outer ones first: where <paramref name="replace"/> gives something, that stands there and is not
    /// looked into.
    /// </summary>
    public Expression Rewrite(Func<Expression, Expression?> replace) =>
        replace(this)
        ?? this switch
        {
            Select select => select with { Target = select.Target.Rewrite(replace) },
            Has has => has.Operand.Rewrite(replace) is Select operand ? has with { Operand = operand } : new Literal(false, has.At),
            Index index => index with { Target = index.Target.Rewrite(replace), Key = index.Key.Rewrite(replace) },
            Call call => call with { Arguments = [.. call.Arguments.Select(argument => argument.Rewrite(replace))] },
            Unary unary => unary with { Operand = unary.Operand.Rewrite(replace) },
            Binary binary => binary with { Left = binary.Left.Rewrite(replace), Right = binary.Right.Rewrite(replace) },
            Conditional conditional => conditional with
            {
                Test = conditional.Test.Rewrite(replace),
                Then = conditional.Then.Rewrite(replace),
                Otherwise = conditional.Otherwise.Rewrite(replace),
            },
            ListOf list => list with { Elements = [.. list.Elements.Select(element => element.Rewrite(replace))] },
            MapOf map => map with
            {
                Entries = [.. map.Entries.Select(entry => (entry.Key.Rewrite(replace), entry.Value.Rewrite(replace)))],
            },
            Over over => over with
            {
                Target = over.Target.Rewrite(replace),
                Only = over.Only?.Rewrite(replace),
                Body = over.Body.Rewrite(replace),
            },
            Matches matches => matches with { Target = matches.Target.Rewrite(replace) },
            _ => this,
        };

    /// <summary>
    /// The condition as it is for somebody who may not read all of the record: what she may not read is empty, so that it decides nothing.
    /// A
    /// value that is given away by an outcome is read as surely as one that is shown.
    /// </summary>
    /// <param name="mayRead">Says of something read, a field or <c>berth.zone</c>, whether she may.</param>
    public Expression WithoutHidden(Func<string, bool> mayRead) =>
        Reads().All(mayRead)
            ? this
            : Rewrite(part =>
                part is Select { Target: Name { Identifier: "record" }, Field: var read, At: var place } && !mayRead(read)
                    ? new Literal(null, place)
                    : null
            );

    /// <summary>What this reads of the record, each once: fields, and <c>berth.zone</c> for a step through a reference.</summary>
    public IReadOnlyList<string> Reads() => reads ??= [.. OfRecord().Select(select => select.Field).Distinct()];

    private IReadOnlyList<string>? reads;

    /// <summary>The record's own fields this reads, each once; a step through a reference reads the reference.</summary>
    public IReadOnlyList<string> FieldsRead() =>
        Reads() is var all && all.Any(read => read.Contains('.', StringComparison.Ordinal)) ? [.. all.Select(Own).Distinct()] : all;

    /// <summary>The record's own field in something read: berth of berth.zone.</summary>
    public static string Own(string read) => read.IndexOf('.', StringComparison.Ordinal) is var dot and > 0 ? read[..dot] : read;

    /// <summary>The reads of the record as they stand in the text, <c>record.length</c>, each with its place.</summary>
    public IEnumerable<Select> OfRecord() => Walk().OfType<Select>().Where(select => select.Target is Name { Identifier: "record" });

    /// <summary>This part and all below it, outer ones first, in the order they are written.</summary>
    public IReadOnlyList<Expression> Walk()
    {
        var all = new List<Expression>();
        Gather(this, all);
        return all;
    }

    private static void Gather(Expression part, List<Expression> into)
    {
        into.Add(part);
        switch (part)
        {
            case Literal or Name:
                break;
            case Select select:
                Gather(select.Target, into);
                break;
            case Unary unary:
                Gather(unary.Operand, into);
                break;
            case Binary binary:
                Gather(binary.Left, into);
                Gather(binary.Right, into);
                break;
            default:
                foreach (var below in part.Parts)
                {
                    Gather(below, into);
                }

                break;
        }
    }

    /// <summary>Whether a name stands anywhere in it.</summary>
    internal bool HasNames =>
        this switch
        {
            Literal => false,
            Name => true,
            Select select => select.Target.HasNames,
            Unary unary => unary.Operand.HasNames,
            Binary binary => binary.Left.HasNames || binary.Right.HasNames,
            _ => Parts.Any(part => part.HasNames),
        };
}
