using System.Xml;
using System.Xml.Linq;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>What became of translations read: the document with them, how many were taken, and what was wrong.</summary>
public sealed record TranslationOutcome(Document Document, int Taken, IReadOnlyList<string> Problems);

/// <summary>
/// Texts out to translators and back, as XLIFF 2.1 (OASIS): one file element for a document, one unit for a text. Placeholders in braces
/// stay as
/// they are and are checked on the way back; a note says where a text stands, and what whoever wrote it noted. Ids follow from what is
/// in the
/// documents: where one is another by now, the text is found by what it says.
/// </summary>
public static class Xliff
{
    private static readonly XNamespace Core = "urn:oasis:names:tc:xliff:document:2.0";

    /// <summary>The texts of documents in one language, with what there is of their translation into another.</summary>
    public static string Export(IEnumerable<Document> documents, string from, string to)
    {
        var root = new XElement(
            Core + "xliff",
            new XAttribute("version", "2.1"),
            new XAttribute("srcLang", from),
            new XAttribute("trgLang", to)
        );
        foreach (var document in documents)
        {
            var notes = DocumentTexts.Notes(document, from);
            var units = DocumentTexts
                .Of(document)
                .Where(each => HasWords(each.Texts.In(from)))
                .Select(each => Unit(each.Id, each.Texts, notes.GetValueOrDefault(each.Id, []), from, to))
                .ToArray();
            if (units.Length > 0)
            {
                root.Add(
                    new XElement(
                        Core + "file",
                        new XAttribute("id", $"{document.Kind.Name()}.{document.Key}"),
                        new XAttribute("original", DocumentFile.PathOf(document.Kind, document.Key)),
                        units
                    )
                );
            }
        }

        return new XDocument(new XDeclaration("1.0", "utf-8", null), root) is var whole ? $"{whole.Declaration}\n{whole}\n" : "";
    }

    /// <summary>Outside of placeholders there is something to translate.</summary>
    private static bool HasWords(string text) => Placeholders.Fill(text, _ => "").Any(char.IsLetter);

    private static XElement Unit(string id, Texts texts, IReadOnlyList<string> notes, string from, string to)
    {
        var translated = texts.ByLanguage.GetValueOrDefault(to);
        return new XElement(
            Core + "unit",
            new XAttribute("id", id),
            notes.Count == 0 ? null : new XElement(Core + "notes", notes.Select(note => new XElement(Core + "note", note))),
            new XElement(
                Core + "segment",
                new XAttribute("state", translated is null ? "initial" : "translated"),
                new XElement(Core + "source", new XAttribute(XNamespace.Xml + "space", "preserve"), texts.In(from)),
                translated is null ? null : new XElement(Core + "target", new XAttribute(XNamespace.Xml + "space", "preserve"), translated)
            )
        );
    }

    /// <summary>Reads translations: for every document named, the document with them.</summary>
    /// <param name="find">Finds a document by kind and key.</param>
    public static (IReadOnlyList<TranslationOutcome> Documents, Message? Problem) Import(
        string text,
        Func<DocumentKind, string, Document?> find
    )
    {
        XElement root;
        try
        {
            // No document type is taken, so nothing can be fetched or unfolded.
            var settings = new XmlReaderSettings
            {
                DtdProcessing = DtdProcessing.Prohibit,
                XmlResolver = null,
                MaxCharactersInDocument = Limits.FileLength,
            };
            // Looked through before a tree is made of it: what lies very deep costs as much again at every level.
            using (var depth = XmlReader.Create(new StringReader(text), settings))
            {
                while (depth.Read())
                {
                    if (depth.Depth > Limits.FileDepth)
                    {
                        var (line, column) = depth is IXmlLineInfo at ? (at.LineNumber, at.LinePosition) : (0, 0);
                        return ([], $"nests deeper than {Limits.FileDepth} levels at line {line}, column {column}");
                    }
                }
            }

            using var reader = XmlReader.Create(new StringReader(text), settings);
            root = XDocument.Load(reader).Root!;
        }
        catch (XmlException error)
        {
            return ([], $"is not XML: {error.Message}");
        }

        if (root.Name != Core + "xliff" || root.Attribute("version")?.Value is not ("2.0" or "2.1"))
        {
            return (
                [],
                $"is not XLIFF 2.0 or 2.1: it must begin with <xliff version=\"2.1\" xmlns=\"urn:oasis:names:tc:xliff:document:2.0\">"
            );
        }

        if (root.Attribute("trgLang")?.Value is not { Length: > 0 } to || root.Attribute("srcLang")?.Value is not { Length: > 0 } from)
        {
            return ([], $"needs srcLang and trgLang");
        }

        if (Array.Find([from, to], tag => !LanguageTags.IsTag(tag)) is { } odd)
        {
            return ([], $"is for '{Suggestion.Short(odd)}', which is no language tag (RFC 5646) such as nl or pt-BR");
        }

        var done = new List<TranslationOutcome>();
        foreach (var file in root.Elements(Core + "file"))
        {
            var id = file.Attribute("id")?.Value ?? "";
            var dot = id.IndexOf('.', StringComparison.Ordinal);
            if (dot < 0 || DocumentFile.KindNamed(id[..dot]) is not { } kind || find(kind, id[(dot + 1)..]) is not { } document)
            {
                return ([], $"has a file '{id}', which is no document there is");
            }

            done.Add(Into(document, file, from, to));
        }

        return (done, null);
    }

    private static TranslationOutcome Into(Document document, XElement file, string from, string to)
    {
        var problems = new List<string>();
        var targets = new Dictionary<string, (string Source, string Target)>(StringComparer.Ordinal);
        foreach (var unit in file.Descendants(Core + "unit"))
        {
            var segments = unit.Elements(Core + "segment").ToArray();
            if (segments.Length > 0 && segments.All(segment => segment.Element(Core + "target") is not null))
            {
                targets[unit.Attribute("id")?.Value ?? ""] = (
                    string.Concat(segments.Select(segment => segment.Element(Core + "source")?.Value)),
                    string.Concat(segments.Select(segment => segment.Element(Core + "target")!.Value))
                );
            }
        }

        Rename(targets, document, from);
        var taken = 0;
        var changed = DocumentTexts.With(document, (id, texts) =>
        {
            if (!targets.Remove(id, out var translation) || translation.Target.Length == 0)
            {
                return texts;
            }

            if (translation.Source != texts.In(from))
            {
                problems.Add(
                    $"{id}: the text has changed since it was sent out; it is '{texts.In(from)}' now. Its translation was left out."
                );
                return texts;
            }

            if (
                !Placeholders
                    .In(translation.Source)
                    .Order(StringComparer.Ordinal)
                    .SequenceEqual(Placeholders.In(translation.Target).Order(StringComparer.Ordinal))
            )
            {
                problems.Add($"{id}: the translation names other values in braces than '{translation.Source}'. It was left out.");
                return texts;
            }

            if (translation.Target.Length > Limits.TextLength || TextCharacters.Problem(translation.Target) is not null)
            {
                problems.Add($"{id}: the translation is too long or has characters that are none. It was left out.");
                return texts;
            }

            taken += texts.ByLanguage.GetValueOrDefault(to) == translation.Target ? 0 : 1;
            // A text for any language has one from now on.
            var named =
                texts.ByLanguage.TryGetValue(Texts.AnyLanguage, out var any) && !texts.ByLanguage.ContainsKey(from)
                    ? texts.ByLanguage.Remove(Texts.AnyLanguage).SetItem(from, any)
                    : texts.ByLanguage;
            return new Texts(named.SetItem(to, translation.Target));
        });
        problems.AddRange(targets.Keys.Select(id => $"{id}: there is no such text any more."));
        return new TranslationOutcome(changed, taken, problems);
    }

    /// <summary>
    /// Translations whose ids are gone are given to the one text of the same property that says the same and has none: what it stands
    /// in was
    /// called otherwise then.
    /// </summary>
    private static void Rename(Dictionary<string, (string Source, string Target)> targets, Document document, string from)
    {
        var texts = DocumentTexts.Of(document).ToDictionary(each => each.Id, each => each.Texts.In(from));
        var free = texts.Where(each => !targets.ContainsKey(each.Key)).ToLookup(each => (Property(each.Key), each.Value), each => each.Key);
        foreach (var (id, translation) in targets.Where(target => !texts.ContainsKey(target.Key)).ToArray())
        {
            if (free[(Property(id), translation.Source)].ToArray() is [var now] && targets.TryAdd(now, translation))
            {
                targets.Remove(id);
            }
        }

        static string Property(string id) => id[(id.LastIndexOf('.') + 1)..];
    }
}
