using System.Collections.Immutable;
using BrightTier.Core.Model;
using BrightTier.Core.Patterns;

namespace BrightTier.Core.Conditions;

/// <summary>
/// Parses conditions by the grammar of the CEL language definition: conditional, or, and, relation, addition, multiplication, unary,
/// member, primary, and the macros. Messages, bytes and unsigned numbers are not part of conditions here and said to be so.
/// </summary>
public sealed class Parser
{
    private static readonly string[] Reserved =
    [
        "as",
        "break",
        "const",
        "continue",
        "else",
        "for",
        "function",
        "if",
        "import",
        "let",
        "loop",
        "package",
        "namespace",
        "return",
        "var",
        "void",
        "while",
    ];

    private static readonly ImmutableArray<string>[] Levels =
    [
        ["||"],
        ["&&"],
        ["==", "!=", "<", "<=", ">", ">=", "in"],
        ["+", "-"],
        ["*", "/", "%"],
    ];

    private readonly List<Token> tokens;
    private int next;
    private int depth;

    private Parser(List<Token> tokens) => this.tokens = tokens;

    public static (Expression? Expression, ConditionProblem? Problem) Parse(string text)
    {
        if (text.Length > Limits.ConditionLength)
        {
            return (
                null,
                new ConditionProblem(
                    new Span(0, text.Length),
                    $"a condition has at most {Limits.ConditionLength} characters; this one has {text.Length}"
                )
            );
        }

        var (tokens, problem) = Lexer.Read(text);
        if (problem is not null)
        {
            return (null, problem);
        }

        try
        {
            var parser = new Parser(tokens);
            var expression = parser.Whole();
            return parser.Peek.Kind is TokenKind.End ? (expression, null) : (null, parser.Beyond());
        }
        catch (Stop stop)
        {
            return (null, stop.Problem);
        }
    }

    /// <summary>What is wrong with something that follows a whole condition.</summary>
    private ConditionProblem Beyond()
    {
        // The word before may be none of ours: not x, if x then y.
        var before = tokens[next - 1];
        return before.Kind is TokenKind.Name && Habits.Join(before.Text) is { English.Length: > 0 } word
                ? new ConditionProblem(before.At, $"'{before.Text}' is no operator{word}")
            : Is(",") && before.Kind is TokenKind.Int && tokens[next + 1].Kind is TokenKind.Int
                ? new ConditionProblem(
                    before.At.To(tokens[next + 1].At),
                    $"a decimal number is written with a point{Habits.Instead($"{before.Text}.{tokens[next + 1].Text}")}"
                )
            : Unexpected(Peek, $"an operator or the end");
    }

    private Token Peek => tokens[next];

    private Token Next() => tokens[next++];

    private bool Is(string symbol) => Peek.Kind is TokenKind.Symbol && Peek.Text == symbol;

    private bool Accept(string symbol)
    {
        if (!Is(symbol))
        {
            return false;
        }

        next++;
        return true;
    }

    private Span Expect(string symbol)
    {
        if (!Is(symbol))
        {
            throw new Stop(Unexpected(Peek, $"'{symbol}'"));
        }

        return Next().At;
    }

    private Expression Whole()
    {
        if (++depth > Limits.ConditionDepth)
        {
            throw new Stop(new ConditionProblem(Peek.At, $"the condition nests deeper than {Limits.ConditionDepth} levels here"));
        }

        var test = Level(0);
        if (Accept("?"))
        {
            var then = Level(0);
            Expect(":");
            var otherwise = Whole();
            test = new Expression.Conditional(test, then, otherwise, test.At.To(otherwise.At));
        }

        depth--;
        return test;
    }

    private Expression Level(int level)
    {
        if (level == Levels.Length)
        {
            return Unary();
        }

        var left = Level(level + 1);
        for (var count = 0; Peek.Kind is TokenKind.Symbol or TokenKind.Name && Levels[level].Contains(Peek.Text); count++)
        {
            if (count > 200)
            {
                throw new Stop(new ConditionProblem(Peek.At, $"too many operators in one chain"));
            }

            var op = Next();
            var right = Level(level + 1);
            left = new Expression.Binary(op.Text, left, right, op.At, left.At.To(right.At));
        }

        return left;
    }

    private Expression Unary()
    {
        if (!Is("!") && !Is("-"))
        {
            return Member();
        }

        if (++depth > Limits.ConditionDepth)
        {
            throw new Stop(new ConditionProblem(Peek.At, $"the condition nests deeper than {Limits.ConditionDepth} levels here"));
        }

        var op = Next();
        Expression result;
        if (op.Text == "-" && Peek.Kind is TokenKind.Int or TokenKind.Double)
        {
            var number = Next();
            var at = op.At.To(number.At);
            result = Suffixes(
                new Expression.Literal(number.Value is long whole ? unchecked(-whole) : (object)(-(double)number.Value!), at)
            );
        }
        else
        {
            var operand = Unary();
            result = new Expression.Unary(op.Text, operand, op.At.To(operand.At));
        }

        depth--;
        return result;
    }

    private Expression Member() => Suffixes(Primary());

    private Expression Suffixes(Expression target)
    {
        while (true)
        {
            if (Accept("."))
            {
                var name = TakeSelector();
                if (name.Kind is TokenKind.Name && Accept("("))
                {
                    var (arguments, end) = Arguments(")");
                    target = Call(name, [target, .. arguments], true, target.At.To(end));
                }
                else
                {
                    target = new Expression.Select(target, name.Text, name.At, target.At.To(name.At));
                }
            }
            else if (Accept("["))
            {
                var key = Whole();
                target = new Expression.Index(target, key, target.At.To(Expect("]")));
            }
            else
            {
                return target;
            }
        }
    }

    private Expression Primary()
    {
        var token = Peek;
        switch (token.Kind)
        {
            case TokenKind.Int when token.Value is long.MinValue:
                throw new Stop(new ConditionProblem(token.At, $"{token.Text} is too large; whole numbers have 64 bits"));
            case TokenKind.Int or TokenKind.Double or TokenKind.String:
                next++;
                return new Expression.Literal(token.Value, token.At);
            case TokenKind.Name when token.Text is "true" or "false" or "null":
                next++;
                return new Expression.Literal(
                    token.Text switch
                    {
                        "true" => true,
                        "false" => false,
                        _ => null,
                    },
                    token.At
                );
            case TokenKind.Name:
                var name = TakeName($"a value");
                if (!Accept("("))
                {
                    return new Expression.Name(name.Text, name.At);
                }

                var (arguments, end) = Arguments(")");
                return name.Text == "has" ? Has(arguments, token.At.To(end)) : Call(name, [.. arguments], false, token.At.To(end));
            case TokenKind.Symbol when token.Text == "(":
                next++;
                var inner = Whole();
                Expect(")");
                return inner;
            case TokenKind.Symbol when token.Text == "[":
                next++;
                var (elements, close) = Arguments("]");
                return new Expression.ListOf([.. elements], token.At.To(close));
            case TokenKind.Symbol when token.Text == "{":
                next++;
                return Map(token.At);
            default:
                throw new Stop(Unexpected(token, $"a value"));
        }
    }

    private static Expression.Has Has(List<Expression> arguments, Span at) =>
        arguments is [Expression.Select select]
            ? new Expression.Has(select, at)
            : throw new Stop(new ConditionProblem(at, $"has() takes one field, such as has(record.keeper)"));

    private static readonly string[] Macros = ["all", "exists", "exists_one", "existsOne", "filter", "map"];

    /// <summary>A macro where the call is one, a test against a pattern where that is written out, a call otherwise.</summary>
    private static Expression Call(Token name, ImmutableArray<Expression> arguments, bool member, Span at)
    {
        if (member && Macros.Contains(name.Text) && (arguments.Length == 3 || (name.Text == "map" && arguments.Length == 4)))
        {
            if (arguments[1] is not Expression.Name { Identifier: var variable })
            {
                throw new Stop(
                    new ConditionProblem(
                        arguments[1].At,
                        $"the first thing in {name.Text}() names each element, such as {name.Text}(each, …)"
                    )
                );
            }

            var macro = name.Text == "existsOne" ? "exists_one" : name.Text;
            return new Expression.Over(macro, arguments[0], variable, arguments.Length == 4 ? arguments[2] : null, arguments[^1], at);
        }

        if (name.Text == "matches" && arguments is [var target, Expression.Literal { Value: string pattern } literal])
        {
            var (program, problem) = PatternParser.Parse(pattern);
            return program is null
                ? throw new Stop(new ConditionProblem(literal.At, $"the pattern {problem}"))
                : new Expression.Matches(target, program, literal.At, at);
        }

        return new Expression.Call(name.Text, arguments, member, name.At, at);
    }

    private Expression.MapOf Map(Span open)
    {
        var entries = ImmutableArray.CreateBuilder<(Expression, Expression)>();
        while (!Is("}"))
        {
            var key = Whole();
            Expect(":");
            entries.Add((key, Whole()));
            if (!Is("}"))
            {
                Expect(",");
            }
        }

        return new Expression.MapOf(entries.ToImmutable(), open.To(Next().At));
    }

    /// <summary>Behind a dot any word may stand, and anything between backticks.</summary>
    private Token TakeSelector() =>
        Peek.Kind is TokenKind.Quoted || (Peek.Kind is TokenKind.Name && Peek.Text is not ("in" or "true" or "false" or "null"))
            ? Next()
            : throw new Stop(Unexpected(Peek, $"a field or function"));

    private Token TakeName(Message what)
    {
        if (Peek.Kind is not TokenKind.Name || Peek.Text is "in" or "true" or "false" or "null")
        {
            throw new Stop(Unexpected(Peek, what));
        }

        return Reserved.Contains(Peek.Text)
            ? throw new Stop(
                new ConditionProblem(
                    Peek.At,
                    $"'{Peek.Text}' is a reserved word{(Habits.Function(Peek.Text) is { } code ? Habits.Instead(code) : (Message)$"")}"
                )
            )
            : Next();
    }

    private (List<Expression> Arguments, Span End) Arguments(string close)
    {
        var arguments = new List<Expression>();
        while (!Is(close))
        {
            arguments.Add(Whole());
            if (!Is(close))
            {
                Expect(",");
            }
        }

        return (arguments, Next().At);
    }

    private static ConditionProblem Unexpected(Token token, Message wanted)
    {
        Message found =
            token.Kind is TokenKind.End ? $"the condition ends"
            : token.Kind is TokenKind.String ? (Message)$"there is the text '{token.Value}'"
            : $"there is '{token.Text}'";
        Message hint =
            token.Kind is TokenKind.Name ? Habits.Join(token.Text)
            : token is { Kind: TokenKind.Symbol, Text: "." } ? Habits.Instead("record.name")
            : (Message)$"";
        return new ConditionProblem(token.At, $"{found} where {wanted} is expected{hint}");
    }

    /// <summary>Leaves the recursive descent at the first problem; never seen outside.</summary>
    private sealed class Stop(ConditionProblem problem) : Exception
    {
        public ConditionProblem Problem { get; } = problem;
    }
}
