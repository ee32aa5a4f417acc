using System.Collections.Immutable;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Places;

namespace BrightTier.Core.Proposals;

/// <summary>
/// What would make a form shorter, or tidier: edits with a reason each. The same form always gives the same proposals; nobody gets less
/// room than they need, nothing goes, and who sees what stays as it is.
/// </summary>
public static class FormProposals
{
    /// <summary>More than this in one go nobody reads.</summary>
    public const int Most = 100;

    private static readonly Dictionary<Aim, IProposalRule[]> Rules = new()
    {
        [Aim.Shorter] = [new RowUnion(), new PagesOfTabs(), new SectionFold()],
        [Aim.Tidier] = [new FieldToItsLike(), new TopicOfItsOwn(), new LongTextLast(), new RowBalance()],
    };

    /// <summary>What is proposed, and the form with all of it but what is left out.</summary>
    /// <param name="layout">As it is seen: with what it extends.</param>
    /// <param name="within">What may be touched, with all below it; null for the whole form.</param>
    /// <param name="without">Keys of proposals that are not taken.</param>
    public static ProposedForm Of(
        Layout layout,
        Entity entity,
        Definitions definitions,
        Aim aim,
        IReadOnlySet<NodeId>? within = null,
        IReadOnlySet<string>? without = null
    )
    {
        var now = layout;
        var offered = ImmutableArray.CreateBuilder<Proposal>();
        var edits = ImmutableArray.CreateBuilder<Edit>();
        var seen = new HashSet<string>(StringComparer.Ordinal);
        if (layout.Kind is not ("full" or "short" or "print"))
        {
            return new ProposedForm(layout, [], []);
        }

        foreach (var rule in Rules[aim])
        {
            // Each is found on the form as those before it leave it, so that all together are one change.
            while (offered.Count < Most && Found(rule) is { Length: > 0 } found)
            {
                Array.ForEach(found, Offer);
            }
        }

        return new ProposedForm(now, offered.ToImmutable(), edits.ToImmutable());

        Proposal[] Found(IProposalRule rule) =>
            [
                .. rule.Find(new FormInQuestion(now, entity, definitions, within))
                    .Where(each => !seen.Contains(each.Key))
                    .Take(rule.IsApart ? Most - offered.Count : 1),
            ];

        void Offer(Proposal proposal)
        {
            seen.Add(proposal.Key);
            if (without?.Contains(proposal.Key) == true)
            {
                offered.Add(proposal with { Edits = [] });
                return;
            }

            var outcome = now.Apply(proposal.Edits);
            if (outcome.Layout is { } next && (aim is not Aim.Shorter || IsShorter(next, now)))
            {
                now = next;
                offered.Add(proposal with { Edits = [.. outcome.Edits] });
                edits.AddRange(outcome.Edits);
            }
        }

        // On the whole, or where one scrolls longest.
        bool IsShorter(Layout next, Layout than) => Rem(next) < Rem(than) || Rem(InOneStack(next)) < Rem(InOneStack(than));

        double Rem(Layout form) => Length.Measure(form, entity, definitions, Rooms.Form).Rem;
    }

    /// <summary>A form with its pages one under another.</summary>
    private static Layout InOneStack(Layout form) =>
        form.Body is { } body
            ? Layout.Of(form.Root with { Children = form.Root.Children.Replace(body, body.With("arrangement", null)) })
            : form;
}
