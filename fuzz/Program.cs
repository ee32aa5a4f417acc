using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using BrightTier.Core.Conditions;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Patterns;
using BrightTier.Core.Resolution;
using BrightTier.Core.Validation;

// Feeds mutated files, conditions, patterns, edits and translations to the core for so many seconds. Whatever comes must be an answer: no
// exception, nothing slow. What it finds is printed with the seed that makes it again; a finding becomes a test.
var seconds = args.Length > 0 ? int.Parse(args[0], CultureInfo.InvariantCulture) : 60;
var seed = args.Length > 1 ? int.Parse(args[1], CultureInfo.InvariantCulture) : Environment.TickCount;
var demo = Path.Combine(args.Length > 2 ? args[2] : ".", "demo");
var files = Directory
    .EnumerateFiles(demo, "*.yaml", SearchOption.AllDirectories)
    .Where(file => Path.GetFileName(file) != "people.yaml")
    .Select(File.ReadAllText)
    .ToArray();
var catalogue = DocumentFile.Of(files.Select(file => DocumentFile.Read(file).Document!));
var layouts = catalogue.Layouts.Values.ToArray();
var vessel = catalogue.Definitions.Entities["vessel"];
var conditions = layouts
    .SelectMany(layout => layout.Walk())
    .SelectMany(node => node.Properties)
    .Select(pair => pair.Value)
    .OfType<Value.Word>()
    .Select(word => word.Content)
    .Where(text => text.Contains('.', StringComparison.Ordinal))
    .Distinct()
    .ToArray();
var edits = layouts
    .SelectMany(layout => layouts, (a, b) => (a, b))
    .Where(pair => pair.a.Kind == pair.b.Kind)
    .Select(pair => (pair.a, Json: Written(LayoutDiff.Edits(pair.a, pair.b))))
    .Take(40)
    .ToArray();
var translations = Xliff.Export(layouts.Select(layout => new Document.OfLayout(layout)), "en", "nl");
string[] patterns = ["[A-Z]{2}-[0-9]{4}", "(?i)^a+b*|c?$", @"\pL\d{2,3}[^x-z]", "(?:a|b){2,}"];
var random = new Random(seed);
var clock = Stopwatch.StartNew();
var (count, found) = (0L, 0);
var entries = new (string Name, Action<string> Run, Func<string> Source)[]
{
    (
        "file",
        text =>
        {
            if (DocumentFile.Read(text).Document is Document.OfLayout { Layout: var layout })
            {
                Use(layout);
            }
        },
        () => files[random.Next(files.Length)]
    ),
    (
        "condition",
        text =>
        {
            if (Condition.Compile(text, vessel, catalogue.Definitions).Expression is { } expression)
            {
                Evaluator.Evaluate(expression, Reducer.Nothing);
                Analysis.All(expression, vessel, catalogue.Definitions);
            }
        },
        () => conditions[random.Next(conditions.Length)]
    ),
    ("pattern", text => PatternParser.Parse(text).Program?.IsMatch(new string('a', 2_000)), () => patterns[random.Next(patterns.Length)]),
    ("edits", Apply, () => edits[random.Next(edits.Length)].Json),
    ("merge", Merge, () => DocumentFile.Write(new Document.OfLayout(layouts[random.Next(layouts.Length)]))),
    (
        "xliff",
        text =>
            Xliff.Import(text, (_, key) => catalogue.Layouts.GetValueOrDefault(key) is { } layout ? new Document.OfLayout(layout) : null),
        () => translations
    ),
};
while (clock.Elapsed.TotalSeconds < seconds)
{
    var (name, run, source) = entries[random.Next(entries.Length)];
    var text = Mutated(source());
    var one = Stopwatch.StartNew();
    try
    {
        run(text);
    }
    catch (Exception error)
    {
        Describe(name, text, error.GetType().Name + ": " + error.Message + "\n" + error.StackTrace);
    }

    if (one.ElapsedMilliseconds > 3_000)
    {
        Describe(name, text, $"took {one.ElapsedMilliseconds} ms");
    }

    count++;
}

Console.WriteLine(
    $"{count} inputs in {clock.Elapsed.TotalSeconds:0} s from seed {seed}: {(found == 0 ? "nothing found" : $"{found} found")}."
);
return found == 0 ? 0 : 1;

void Describe(string name, string text, string what)
{
    found++;
    var file = Path.Combine(Path.GetTempPath(), $"bright-tier-{name}-{seed}-{found}.txt");
    File.WriteAllText(file, text);
    Console.WriteLine($"{name}: {what}\n  input in {file}");
}

// What one file became in two hands: whatever they did, what comes of it can be stored, compared and taken back.
void Merge(string text)
{
    if (
        DocumentFile.Read(text).Document is not Document.OfLayout { Layout: var mine }
        || catalogue.Layouts.GetValueOrDefault(mine.Key) is not { } from
        || DocumentFile.Read(Mutated(DocumentFile.Write(new Document.OfLayout(from)))).Document
            is not Document.OfLayout { Layout: var theirs }
        || mine.Kind != from.Kind
        || theirs.Kind != from.Kind
    )
    {
        return;
    }

    foreach (var side in new[] { Side.Mine, Side.Theirs })
    {
        var merged = LayoutMerge.Merge(from, mine, theirs, _ => side).Layout;
        Use(merged);
        if (from.Apply(LayoutDiff.Edits(from, merged)) is not { Layout: { } led } || !led.Equals(merged))
        {
            throw new InvalidOperationException("what comparing finds does not lead to what was merged");
        }
    }
}

void Use(Layout layout)
{
    Checker.Check(layout, catalogue);
    var text = DocumentFile.Write(new Document.OfLayout(layout));
    if (DocumentFile.Read(text).Document is not Document.OfLayout { Layout: var again } || !again.Equals(layout))
    {
        throw new InvalidOperationException("what is written is not read back");
    }

    if (layout.Kind != "piece" && catalogue.Definitions.Entities.ContainsKey(layout.Entity))
    {
        ResolvedFormJson.Write(Resolver.Resolve(layout, catalogue, new Viewer(["quay-hand"], "nl"), Modes.Edit), catalogue.Definitions);
    }
}

void Apply(string text)
{
    var layout = layouts[random.Next(layouts.Length)];
    try
    {
        using var json = JsonDocument.Parse(text, new JsonDocumentOptions { MaxDepth = Limits.FileDepth });
        var (read, problems) = TreeJson.ReadEdits(json.RootElement, layout.Find);
        if (problems.Count == 0 && layout.Apply(read) is { Layout: { } next } applied)
        {
            if (!next.Apply(applied.Inverse).Layout!.Equals(layout))
            {
                throw new InvalidOperationException("the inverse does not lead back");
            }

            Use(next);
        }
    }
    catch (JsonException)
    {
        // What is no JSON is answered before it gets here.
    }
}

string Mutated(string text)
{
    const string Marks = "{}[]():,-#'\"\\/|&!*?+.<>=~^$%@ \n\t0123456789abcxyzNULL";
    for (var i = random.Next(1, 5); i > 0 && text.Length > 0; i--)
    {
        var at = random.Next(text.Length);
        var length = Math.Min(text.Length - at, random.Next(1, 30));
        text = random.Next(6) switch
        {
            0 => text.Remove(at, length),
            1 => text.Insert(at, Marks[random.Next(Marks.Length)].ToString()),
            2 => text.Insert(at, text.Substring(random.Next(text.Length - length + 1), length)),
            3 => text[..at] + (char)random.Next(1, 0x3000) + text[(at + 1)..],
            4 => text.Insert(at, string.Concat(Enumerable.Repeat(Marks[random.Next(Marks.Length)], random.Next(1, 200)))),
            _ => text[..at] + Marks[random.Next(Marks.Length)] + text[(at + 1)..],
        };
    }

    return text;
}

static string Written(IReadOnlyList<Edit> edits)
{
    using var stream = new MemoryStream();
    using (var writer = new Utf8JsonWriter(stream))
    {
        TreeJson.Write(writer, edits);
    }

    return System.Text.Encoding.UTF8.GetString(stream.ToArray());
}
