using BrightTier.Core.Conditions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Validation.Rules;

/// <summary>Two sections of one page, or two pages of one panel, under one title.</summary>
public sealed class TitleTwice : IRule
{
    public string Code => "title-twice";

    public string About => "Two sections side by side, or two tabs, have one title; users cannot tell them apart.";

    public IEnumerable<Finding> Check(CheckContext subject) =>
        from node in subject.Nodes
        from alike in node
            .Children.Where(child => child.Kind is NodeKind.Page or NodeKind.Section && child.Text("title") is not null)
            .GroupBy(child => child.Text("title")!.ToString().Trim(), StringComparer.OrdinalIgnoreCase)
        where alike.Key.Length > 0
        from again in alike.Skip(1)
        where !Excludes(subject, alike.First(), again)
        select new Finding(
            Code,
            Severity.Advice,
            again.Id,
            "title",
            $"'{subject.NameOf(again)}' is the title of {alike.Count()} parts here; users cannot tell them apart."
        );

    /// <summary>Of two that are never seen at once, each may well have the title.</summary>
    private static bool Excludes(CheckContext subject, Node one, Node other) =>
        subject.WhenSeen(one) is { } first
        && subject.WhenSeen(other) is { } second
        && Analysis.Together(first, second, subject.Entity, subject.Definitions).Verdict is Verdict.No;
}
