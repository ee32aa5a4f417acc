using BrightTier.Core.Documents;
using BrightTier.Core.Edits;

namespace BrightTier.Service.Import;

/// <summary>One document on its way into its draft.</summary>
/// <param name="Document">What the draft is to hold.</param>
/// <param name="Now">What it holds; null where it cannot be read, or there is none.</param>
/// <param name="Change">made, changed, merged, unchanged or conflict.</param>
internal sealed record IncomingDocument(Document Document, Document? Now, long Revision, string Change, IReadOnlyList<Message> Conflicts)
{
    public bool Changes => Change is "made" or "changed" or "merged";

    /// <summary>As it was sent, with the ids it has here.</summary>
    public Document Sent { get; init; } = Document;

    /// <summary>Whether only the draft was changed since.</summary>
    public bool IsAhead { get; init; }

    /// <summary>What it was made from, in words, where that was found here.</summary>
    public Message? Where { get; init; }

    /// <summary>What comes of one document over what its draft holds by now.</summary>
    public static IncomingDocument Reconcile(
        Document sent,
        Document? from,
        (Document? Document, long Revision, string By)? draft,
        bool merge,
        Side? take
    )
    {
        var (now, revision) = (draft?.Document, draft?.Revision ?? 0);
        if (draft is null)
        {
            return new IncomingDocument(sent, null, 0, "made", []);
        }

        if (now is null)
        {
            return !merge && take is Side.Mine
                ? new IncomingDocument(sent, null, revision, "changed", [])
                : Stopped(
                    $"The draft of the {sent.Kind.Noun()} '{sent.Key}' cannot be read here, so that nothing is merged with "
                        + $"it; recover it first, or put this in its place."
                );
        }

        if (
            now is Document.OfLayout { Layout.Entity: var entity }
            && sent is Document.OfLayout { Layout.Entity: var other }
            && entity != other
        )
        {
            return Stopped($"The layout '{sent.Key}' is for '{entity}' here, not for '{other}'; a layout's entity stays what it is.");
        }

        var (theirs, mine) = (DocumentFile.Write(now), DocumentFile.Write(sent));
        if (theirs == mine)
        {
            return new IncomingDocument(sent, now, revision, "unchanged", []);
        }

        // Without merging one side counts whole, if anybody says which.
        if ((!merge && take is Side.Mine) || (from is not null && DocumentFile.Write(from) == theirs))
        {
            return new IncomingDocument(sent, now, revision, "changed", []);
        }

        // Whatever was done here since is in it already.
        if (from is not null && DocumentMerge.Merge(from, sent, now, Side.Theirs) is { Conflicts.Count: 0, Document: { } both })
        {
            if (DocumentFile.Write(both) == mine)
            {
                return new IncomingDocument(sent, now, revision, "changed", []);
            }
        }

        if (from is not null && DocumentFile.Write(from) == mine)
        {
            // Only here was it changed since: nothing of it is to be taken back.
            return new IncomingDocument(now, now, revision, "unchanged", []) { IsAhead = true };
        }

        if (!merge)
        {
            return take is Side.Theirs
                ? new IncomingDocument(now, now, revision, "unchanged", []) { IsAhead = true }
                : Stopped(MovedOn(sent, from is null, draft!.Value.By));
        }

        return Merged(sent, from, now, revision, take);

        IncomingDocument Stopped(Message message) => new(sent, now, revision, "conflict", [message]);
    }

    private static Message MovedOn(Document sent, bool isNew, string by)
    {
        var (noun, key) = (sent.Kind.Noun(), sent.Key);
        return isNew
            ? (Message)$"The draft of the {noun} '{key}' is there already, changed by {by}. Pull it again, merge, or say which side counts."
            : $"The draft of the {noun} '{key}' moved on since, changed by {by}. Pull it again, merge, or say which side counts.";
    }

    private static IncomingDocument Merged(Document sent, Document? from, Document now, long revision, Side? take)
    {
        var merged = DocumentMerge.Merge(from, sent, now, take ?? Side.Mine);
        var conflicts = merged.Conflicts.Select(each => each.Message).ToArray();
        return merged.Document is null
                ? Stopped(
                    merged.Problems.Count > 0
                        ? (Message)$"The {sent.Kind.Noun()} '{sent.Key}' cannot be merged: {merged.Problems[0].Message}."
                        : $"The {sent.Kind.Noun()} '{sent.Key}' cannot be merged: one side did away with it."
                )
            : conflicts.Length > 0 && take is null ? new IncomingDocument(merged.Document, now, revision, "conflict", conflicts)
            : new IncomingDocument(
                merged.Document,
                now,
                revision,
                DocumentFile.Write(merged.Document) == DocumentFile.Write(now) ? "unchanged" : "merged",
                conflicts
            );

        IncomingDocument Stopped(Message message) => new(sent, now, revision, "conflict", [message]);
    }
}
