using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using System.Text.RegularExpressions;
using BrightTier.Core.Conditions;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Patterns;
using BrightTier.Core.Resolution;
using BrightTier.Core.Validation;
using BrightTier.Fuzz;

// Feeds mutated files, conditions, patterns, edits and translations to the core, and files to a service, for so many seconds. Whatever
// comes must be an answer: no exception, nothing slow. What it finds is printed with the seed that makes it again; a finding becomes a
// test.
var seconds = args.Length > 0 ? int.Parse(args[0], CultureInfo.InvariantCulture) : 60;
var seed = args.Length > 1 ? int.Parse(args[1], CultureInfo.InvariantCulture) : Environment.TickCount;
var demo = Path.Combine(args.Length > 2 ? args[2] : ".", "demo");
var files = Directory
    .EnumerateFiles(demo, "*.yaml", SearchOption.AllDirectories)
    .Where(file => Path.GetFileName(file) != "people.yaml")
    .Select(File.ReadAllText)
    .ToArray();

// Layouts with a fault each, and those without.
var forms = Directory
    .EnumerateFiles(Path.Combine(demo, "..", "tests", "broken"), "*.yaml")
    .Select(File.ReadAllText)
    .Concat(files)
    .Where(text => DocumentFile.Read(text).Document is Document.OfLayout)
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
var input = new Input(random);
await using var store = await Store.Open();
var clock = Stopwatch.StartNew();
var (count, merges, found) = (0L, 0L, 0);
var entries = new (string Name, Action<string> Run, Func<string> Source)[]
{
    (
        "file",
        text =>
        {
            if (DocumentFile.Read(text).Document is { } document)
            {
                Keep(document, text);
                if (document is Document.OfLayout { Layout: var layout })
                {
                    Use(layout);
                }
            }
        },
        () => input.Commented(files[random.Next(files.Length)])
    ),
    ("store", text => store.TakeAndReadBack(text).GetAwaiter().GetResult(), () => files[random.Next(files.Length)]),
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
    (
        "merge",
        text => Array.ForEach([.. Enumerable.Range(0, 10)], _ => Merge(text)),
        () => random.Next(2) == 0 ? files[random.Next(files.Length)] : Renamed(forms[random.Next(forms.Length)])
    ),
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
    var text = input.Mutated(source(), name is "merge" or "store" ? 1 : 4);
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
    $"{count} inputs in {clock.Elapsed.TotalSeconds:0} s from seed {seed}, {store.Taken} files stored and read back, {merges} merges: "
        + $"{(found == 0 ? "nothing found" : $"{found} found")}."
);
return found == 0 ? 0 : 1;

void Describe(string name, string text, string what)
{
    found++;
    var file = Path.Combine(Path.GetTempPath(), $"bright-tier-{name}-{seed}-{found}.txt");
    File.WriteAllText(file, text);
    Console.WriteLine($"{name}: {what}\n  input in {file}");
}

// What one file became in two hands, or three that have nothing to do with each other: whatever they did, what comes of it can be stored,
// compared and taken back, and no comment is lost unsaid.
void Merge(string text)
{
    if (DocumentFile.Read(text).Document is not { } mine)
    {
        return;
    }

    var (from, theirs) = (random.Next(5) == 0 ? null : Other(text), Other(text));
    if (theirs is null || !AreAlike(mine, theirs) || (from is not null && !AreAlike(mine, from)))
    {
        return;
    }

    foreach (var side in new[] { Side.Mine, Side.Theirs })
    {
        if (DocumentMerge.MergeFiles(from, mine, theirs, side).Document is not { } merged)
        {
            continue;
        }

        merges++;
        Keep(merged, text);
        if (merged is Document.OfLayout { Layout: var layout } && mine is Document.OfLayout { Layout: var start })
        {
            Use(layout);
            if (start.Apply(LayoutDiff.Edits(start, layout)) is not { Layout: { } led } || !led.Equals(layout))
            {
                throw new InvalidOperationException(
                    $"what comparing finds does not lead from\n{DocumentFile.Write(mine)}\nto\n{DocumentFile.Write(merged)}"
                );
            }
        }
    }
}

// What the text is with a little else in it, or, as if it were of the same name, any other there is.
Document? Other(string text) =>
    DocumentFile.Read(random.Next(3) > 0 ? input.Mutated(text, 1) : Renamed(forms[random.Next(forms.Length)])).Document;

static string Renamed(string form) =>
    Regex.Replace(
        Regex.Replace(form, "^key: .*", "key: any", RegexOptions.Multiline),
        "^entity: .*",
        "entity: vessel",
        RegexOptions.Multiline
    );

static bool AreAlike(Document one, Document other) =>
    (one, other) is (Document.OfLayout { Layout: var a }, Document.OfLayout { Layout: var b })
        ? (a.Kind, a.Key, a.Entity) == (b.Kind, b.Key, b.Entity)
        : (one.Kind, one.Key) == (other.Kind, other.Key);

// Written with its comments it is the same document, and each comment is there or told.
void Keep(Document document, string text)
{
    var kept = FileComments.Write(document, text);
    var again = DocumentFile.Read(kept.Text).Document;
    if (again is null || DocumentFile.Write(again) != DocumentFile.Write(document))
    {
        throw new InvalidOperationException("with its comments it is another document");
    }

    if (FileComments.Write(document, kept.Text).Text != kept.Text)
    {
        throw new InvalidOperationException("written again its comments stand elsewhere");
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

static string Written(IReadOnlyList<Edit> edits)
{
    using var stream = new MemoryStream();
    using (var writer = new Utf8JsonWriter(stream))
    {
        TreeJson.Write(writer, edits);
    }

    return System.Text.Encoding.UTF8.GetString(stream.ToArray());
}
