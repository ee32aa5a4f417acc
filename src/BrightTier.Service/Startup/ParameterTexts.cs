namespace BrightTier.Service.Startup;

/// <summary>
/// What parameters of calls are for, by their names; of one that means something else in a call, by the call's name and it.
/// </summary>
internal static class ParameterTexts
{
    private static readonly Dictionary<string, string> Texts = new(StringComparer.Ordinal)
    {
        ["action"] = "Only entries of this action, such as draft.changed.",
        ["after"] = "What the page before ended with; the page begins behind it.",
        ["followEvents.after"] = "The id of the last event one has; what came since is sent first.",
        ["listChanges.after"] = "The revision behind which they begin.",
        ["archived"] = "Whether those that are archived are listed, instead of those in use.",
        ["before"] = "The revision before which they lie.",
        ["listReleases.before"] = "The number below which they begin: the last of the page before.",
        ["by"] = "Only what this person did, by id.",
        ["columns"] = "Which field each column goes to: column=field, several with commas between; a column that is not named is left out.",
        ["conflictResolution"] = "Whose word counts where both sides changed the same: mine (what is sent) or theirs (the draft).",
        ["dateOrder"] = "The order of a day's parts: ymd, dmy or mdy.",
        ["decimalSeparator"] = "The sign before fractions: a point or a comma.",
        ["display"] = "Whether records are found by what they are called alone.",
        ["document"] = "A document as kind/key, such as layout/vessel. Can be given several times.",
        ["draft"] = "Whether it is as it is in the drafts, instead of as everyone has it.",
        ["dryRun"] = "Whether it is only told what would happen.",
        ["entity"] = "The key of an entity.",
        ["filter"] = "A CEL expression of type bool over record; only records for which it holds.",
        ["format"] = "ndjson or csv.",
        ["from"] = "What it is compared with.",
        ["listAuditEntries.from"] = "The moment from which they are (RFC 3339).",
        ["diffReleases.from"] = "A release's number, current, or drafts.",
        ["diffLayout.from"] = "released, generated, revision:N, release:N, or the key of another layout.",
        ["drawBeginning.from"] = "What a new layout begins with, as when one is created.",
        ["hash"] = "The SHA-256 of the file's content, in lower-case hexadecimal.",
        ["id"] = "The id of it.",
        ["ids"] = "Only records with these ids, with commas between.",
        ["key"] = "The key of it.",
        ["kind"] = "The kind of document, such as layout or entity.",
        ["getForm.kind"] = "full, short, card, list or print; without one, full.",
        ["language"] = "A language tag (RFC 5646); without one, the language of whoever asks.",
        ["limit"] = "How many at most.",
        ["listed"] = "Whether only the columns of the list are answered.",
        ["listHolders.offset"] = "How many come before those that are answered.",
        ["listHolders.search"] = "Words in the name or the id of those that are looked for.",
        ["match"] = "The field by which records that are there already are found, and changed instead of made.",
        ["merge"] = "Whether what was changed here since is kept, and both sides are put together.",
        ["mode"] = "create, edit or view.",
        ["name"] = "The name of it.",
        ["node"] = "The id of a node of the layout.",
        ["nodes"] = "The ids of nodes of the layout, with commas between.",
        ["number"] = "The number of the release.",
        ["only"] = "Only this document of what is sent, as kind/key. Can be given several times.",
        ["person"] = "The id of a person.",
        ["prefix"] = "Only preferences whose names begin so.",
        ["q"] = "Words that must occur.",
        ["record"] = "The id of a record, for rules and conditions that look at one.",
        ["release"] = "The number of a release, instead of what everyone has.",
        ["released"] = "Whether it is of what is published, instead of the draft.",
        ["rename"] = "Takes a document in under another key: kind/key:other. Can be given several times.",
        ["reverse"] = "Whether the edits lead back, from now to then.",
        ["role"] = "The key of a role; without one, all roles together.",
        ["roles"] = "The keys of roles, with commas between.",
        ["showHidden"] = "Whether what is never shown is there too, marked as hidden.",
        ["slow"] = "Whether it is done although no index serves it and it may take long.",
        ["sort"] = "Fields, with commas between, the first first; '-' before one sorts it downwards.",
        ["subject"] = "What it is about.",
        ["impact.subject"] = "What is used: field, choice, piece, role and the like.",
        ["to"] = "What it is compared with: a release's number, current, or drafts.",
        ["until"] = "The moment until which they are (RFC 3339).",
        ["width"] = "The name of a width; without one, the base.",
        ["withoutDependencies"] = "Whether the documents come alone, without those they depend on.",
    };

    /// <summary>The names that have a text, of calls left out.</summary>
    public static string? Of(string? operation, string parameter) =>
        Texts.GetValueOrDefault($"{operation}.{parameter}") ?? Texts.GetValueOrDefault(parameter);
}
