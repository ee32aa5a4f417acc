using System.Text;
using BrightTier.Core.Model;

namespace BrightTier.Core.Documents;

/// <summary>
/// Layouts kept as their texts: some twelfth of what their trees are. A tree is read when somebody asks for it, and held until so many
/// others were read after it.
/// </summary>
/// <param name="most">How many characters of text the trees that are held have together; a tree is some twelve times its text.</param>
public sealed class KeptLayouts(int most = KeptLayouts.Most)
{
    /// <summary>What is held where nobody says how much.</summary>
    public const int Most = 2_000_000;

    private readonly Lock turn = new();
    private readonly Queue<(Layout Layout, int Length)> held = new();
    private int length;

    /// <summary>A layout of a text that can be read, which is known.</summary>
    public Layout Of(string text, LayoutHead head) => Layout.Of(head, new Text(this, text));

    /// <summary>Reads a stored text, which must be of the kind and key it is stored under; a layout is kept as the text.</summary>
    public (Document? Document, IReadOnlyList<FileProblem> Problems) Read(string text, string kind, string key)
    {
        var (document, problems) = DocumentFile.Read(text, kind, key);
        return (document is null ? null : Of(text, document), problems);
    }

    /// <summary>A document as it is written; a layout is kept as the text.</summary>
    public Document Of(Document document) => Of(DocumentFile.Write(document), document);

    /// <summary>A document that was read of a text; a layout is kept as the text.</summary>
    public Document Of(string text, Document document)
    {
        if (document is not Document.OfLayout { Layout: { IsKept: false } whole })
        {
            return document;
        }

        Hold(whole, text.Length);
        return new Document.OfLayout(Layout.Of(whole.Head, new Text(this, text), whole));
    }

    private void Hold(Layout layout, int its)
    {
        lock (turn)
        {
            held.Enqueue((layout, its));
            length += its;
            while (length > most && held.Count > 1)
            {
                length -= held.Dequeue().Length;
            }
        }
    }

    private sealed class Text(KeptLayouts kept, string text) : LayoutSource
    {
        private readonly byte[] bytes = Encoding.UTF8.GetBytes(text);

        public override Layout Read()
        {
            var (document, problems) = DocumentFile.Read(Encoding.UTF8.GetString(bytes));
            if (document is not Document.OfLayout { Layout: var layout })
            {
                throw new FormatException($"A text that was read before cannot be: {problems[0].At}: {problems[0].Message}");
            }

            kept.Hold(layout, bytes.Length);
            return layout;
        }

        public override bool Has(string word) => bytes.AsSpan().IndexOf(Encoding.UTF8.GetBytes(word)) >= 0;
    }
}
