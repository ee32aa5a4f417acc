using BrightTier.Core.Model;

namespace BrightTier.Core.Conditions;

// What a condition reads: names, fields, steps to other records; values no field of theirs can hold.
public sealed partial class TypeChecker
{
    private ConditionType UnknownName(Expression.Name name) =>
        Problem(
            name.At,
            entity.Find(name.Identifier) is not null
                    ? (Message)$"no name '{name.Identifier}'; for the field write 'record.{name.Identifier}'"
                : (Habits.Name(name.Identifier) ?? (name.Identifier == entity.Key ? "record" : null)) is { } code
                    ? (Message)$"no name '{name.Identifier}'{Habits.Instead(code)}"
                : $"no name '{name.Identifier}'{Suggestion.For(name.Identifier, Names.Keys)}",
            entity.Find(name.Identifier) is not null ? $"record.{name.Identifier}"
                : name.Identifier == entity.Key ? "record"
                : Habits.Name(name.Identifier) is { } word
                    ? Names.ContainsKey(word.Split('.')[0]) ? word
                        : null
                : Suggestion.Nearest(name.Identifier, Names.Keys)
        );

    private ConditionType Selected(Expression.Select select)
    {
        var target = TypeOf(select.Target);
        if (target == ConditionType.Record)
        {
            return entity.Find(select.Field) is { } field
                ? ConditionType.Of(field.Type)
                : Problem(
                    select.FieldAt,
                    $"no field '{select.Field}'{Suggestion.For(select.Field, [.. entity.Current.Select(each => each.Key)])}",
                    Suggestion.Nearest(select.Field, entity.Current.Select(each => each.Key))
                );
        }

        if (target == ConditionType.User)
        {
            return select.Field switch
            {
                "roles" => ConditionType.ListOf(ConditionType.String),
                "id" => ConditionType.String,
                _ => Problem(select.FieldAt, $"a user has no '{select.Field}'; there are: roles, id"),
            };
        }

        if (target == ConditionType.Unknown)
        {
            return target;
        }

        if (target.Name == "map")
        {
            return target.Element!;
        }

        return select.Target is Expression.Select { Target: Expression.Name { Identifier: "record" } } step
            && entity.Find(step.Field) is { Type: FieldType.Reference } reference
                ? Stepped(select, reference)
            : select.Target is Expression.Select { Target: Expression.Select { Target: Expression.Name { Identifier: "record" } } }
                ? Problem(select.FieldAt, $"conditions take one step through a reference, no more")
            : Problem(
                select.FieldAt,
                Habits.Member(target.Name, select.Field) is { } call
                    ? (Message)$"{target.One} has no '{select.Field}'{Habits.Instead($".{call}")}"
                    : $"{target.One} has no '{select.Field}'"
            );
    }

    /// <summary>What to write where a list is compared with one of what it holds; null where that is not so.</summary>
    private string? InList(Expression.Binary binary, ConditionType left, ConditionType right)
    {
        var held =
            left.Name is "list" && left.Element == right ? $"{Part(binary.Right)} in {Part(binary.Left)}"
            : right.Name is "list" && right.Element == left ? $"{Part(binary.Left)} in {Part(binary.Right)}"
            : null;
        return held is not null && binary.Operator == "!=" ? $"!({held})" : held;
    }

    /// <summary>
    /// What is wrong with two sides that are written as elsewhere: 1 &lt; x &lt; 5, and a text without quotation marks.
    /// </summary>
    private ConditionProblem? Instead(Expression.Binary binary)
    {
        if (
            binary is { Operator: "<" or "<=" or ">" or ">=", Left: Expression.Binary { Operator: "<" or "<=" or ">" or ">=" } first }
            && string.IsNullOrWhiteSpace(text[first.At.End..binary.OperatorAt.Start])
        )
        {
            var right = $"{Part(first)} && {Part(first.Right)} {binary.Operator} {Part(binary.Right)}";
            return new ConditionProblem(binary.At, $"'{binary.Operator}' compares two values, not three{Habits.Instead(right)}", right);
        }

        return binary.Operator is "==" or "!=" or "in" or "<" or "<=" or ">" or ">="
            ? Unquoted(binary.Left, binary.Right) ?? Unquoted(binary.Right, binary.Left)
            : null;
    }

    private string Part(Expression part) => text[part.At.Start..part.At.End];

    /// <summary>A name that is none of ours, compared with a text, is that text.</summary>
    private ConditionProblem? Unquoted(Expression word, Expression beside) =>
        word is Expression.Name { Identifier: var name }
        && !Names.ContainsKey(name)
        && Habits.Name(name) is null
        && entity.Find(name) is null
        && !locals.Exists(local => local.Name == name)
        && beside is Expression.Select or Expression.Name
        && (beside is Expression.Select read ? FieldOf(read)?.Type : null) is var type
        && (
            beside is Expression.Name { Identifier: "mode" or "locale" }
            || (
                type is not null
                && ConditionType.Of(type.Value) is var of
                && (of == ConditionType.String || of.Element == ConditionType.String)
            )
        )
            ? new ConditionProblem(word.At, $"no name '{name}'; a text stands in quotation marks{Habits.Instead($"'{name}'")}", $"'{name}'")
            : null;

    private ConditionType Stepped(Expression.Select select, Field reference)
    {
        if (!definitions.Entities.TryGetValue(reference.Target ?? "", out var target))
        {
            return Problem(select.FieldAt, $"'{reference.Key}' points at '{reference.Target}', which is not known");
        }

        return target.Find(select.Field) is { } field
            ? ConditionType.Of(field.Type)
            : Problem(
                select.FieldAt,
                $"'{target.Key}' has no field '{select.Field}'{Suggestion.For(select.Field, [.. target.Current.Select(each => each.Key)])}",
                Suggestion.Nearest(select.Field, target.Current.Select(each => each.Key))
            );
    }

    private void NeverMatches(Expression.Call call)
    {
        if (
            call.Arguments[0] is Expression.Select select
            && ChoicesOf(select) is { } choices
            && Literal(call.Arguments[1]) is string part
            && !choices.Choices.Any(choice => choice.Key.Contains(part, StringComparison.Ordinal))
        )
        {
            Problem(call.Arguments[1].At, $"no choice of '{select.Field}' has '{part}' in it");
        }
    }

    private static string? Quoted(string? word) => word is null ? null : $"'{word}'";

    /// <summary>A choice or mode compared with a word that is none of its values is a slip of the keyboard.</summary>
    private void KnownValue(Expression subject, Expression value)
    {
        if (Literal(value) is not string word)
        {
            return;
        }

        var (what, words) = subject switch
        {
            Expression.Name { Identifier: "mode" } => ("mode", ["create", "edit", "view"]),
            Expression.Select select when ChoicesOf(select) is { } choices => (
                $"choice of '{select.Field}'",
                [.. choices.Choices.Select(choice => choice.Key)]
            ),
            _ => ("", Array.Empty<string>()),
        };
        if (words.Length > 0 && !words.Contains(word))
        {
            Problem(value.At, $"'{word}' is no {what}{Suggestion.For(word, words)}", Quoted(Suggestion.Nearest(word, words)));
        }
    }

    private void KnownMember(Expression value, Expression list)
    {
        if (Literal(value) is not string word || list is not Expression.Select select)
        {
            return;
        }

        if (select is { Field: "roles", Target: Expression.Name { Identifier: "user" } })
        {
            var roles = definitions.Application.Roles.Select(role => role.Key).ToArray();
            if (roles.Length > 0 && !roles.Contains(word))
            {
                Problem(value.At, $"there is no role '{word}'{Suggestion.For(word, roles)}", Quoted(Suggestion.Nearest(word, roles)));
            }
        }
        else if (ChoicesOf(select) is { } choices && choices.Find(word) is null)
        {
            Problem(
                value.At,
                $"'{word}' is no choice of '{select.Field}'{Suggestion.For(word, [.. choices.Choices.Select(choice => choice.Key)])}",
                Quoted(Suggestion.Nearest(word, choices.Choices.Select(choice => choice.Key)))
            );
        }
    }

    private ChoiceList? ChoicesOf(Expression.Select select) =>
        FieldOf(select)?.ChoiceList is { } list ? definitions.ChoiceLists.GetValueOrDefault(list) : null;

    /// <summary>The field read, of the record or one step through a reference.</summary>
    private Field? FieldOf(Expression.Select select) =>
        select.Target switch
        {
            Expression.Name { Identifier: "record" } => entity.Find(select.Field),
            Expression.Select { Target: Expression.Name { Identifier: "record" } } step => definitions.FieldRead(
                entity,
                step.Field,
                select.Field
            ),
            _ => null,
        };
}
