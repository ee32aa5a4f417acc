using System.Diagnostics;
using System.Globalization;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using BrightTier.Core.Composition;
using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Resolution;
using BrightTier.Core.Validation;

namespace BrightTier.Bench;

/// <summary>P2 to P5: what the core computes, in one process, each beside its reference.</summary>
internal static class CoreBench
{
    public static IEnumerable<Result> Run()
    {
        Console.WriteLine("P2 to P5: the core");
        yield return P2();
        foreach (var result in P3().Concat([P4()]).Concat(P5()))
        {
            yield return result;
        }
    }

    /// <summary>
    /// Resolving anew each time: conditions compiled, the layout put together, 3 variants; against serialising the finished form.
    /// </summary>
    private static Result P2()
    {
        var text = Form(200, 40, variants: true);
        var layout = Layout(text);
        var viewer = new Viewer(["keeper"], "en");
        var catalogue = Catalogue(200);
        var finished = JsonNode.Parse(
            ResolvedFormJson.Write(Resolver.Resolve(layout, catalogue, viewer, Modes.Edit), catalogue.Definitions)
        )!;
        var (ours, theirs) = Pair(
            100,
            () => Catalogue(200),
            fresh => Resolver.Resolve(layout, fresh, viewer, Modes.Edit),
            () => finished,
            node => JsonSerializer.SerializeToUtf8Bytes(node)
        );
        if (Environment.GetEnvironmentVariable("BRIGHTTIER_BENCH_PARTS") is not null)
        {
            var known = Catalogue(200);
            var assembled = LayoutComposer.Assemble(layout, known);
            var texts = layout
                .Walk()
                .SelectMany(node => node.Properties)
                .Select(pair => pair.Value)
                .OfType<Value.Word>()
                .Select(word => word.Content)
                .Where(text => text.Contains("record.", StringComparison.Ordinal) || text.Contains("user.", StringComparison.Ordinal))
                .ToArray();
            int Compiled(Definitions all) =>
                texts.Count(text => Core.Conditions.Condition.Compile(text, all.Entities["survey"], all).Expression is not null);
            var anew = Median(60, () => Catalogue(200), all => Compiled(all.Definitions));
            var parsed = Median(60, () => 0, _ => texts.Count(text => Core.Conditions.Parser.Parse(text).Expression is not null));
            var again = Median(60, () => known.Definitions with { }, Compiled);
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"  of P2: {texts.Length} conditions compiled {anew:0} µs, parsed {parsed:0} µs, "
                        + $"compiled with the entity known {again:0} µs"
                )
            );
            var resolved = Median(
                60,
                () => assembled,
                each => Resolver.Resolve(each, known.Definitions.Entities["survey"], known.Definitions, viewer, Modes.Edit)
            );
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"  of P2: put together {Median(60, () => known, all => LayoutComposer.Assemble(layout, all)):0} µs, "
                        + $"resolved with conditions known "
                        + $"{resolved:0} µs"
                )
            );
        }

        return Result.Of("P2 resolve 200 fields, 3 variants, 40 conditions", ours, "µs", theirs, 3, "lower");
    }

    private static IEnumerable<Result> P3()
    {
        var (small, large) = (Layout(Form(332, 0)), Layout(Form(3_330, 0)));
        var (b, a) = Pair(200, () => 0, _ => Edit(large, "f1000"), () => 0, _ => Edit(small, "f100"));
        (a, b) = (a / 100, b / 100);
        yield return Result.Of($"P3 one edit, {large.Count} nodes against {small.Count}", b, "µs", a, 1.5, "lower");
        yield return Result.Of("P3 one edit against 20 µs", b, "µs", 20, 1, "lower");
        (b, a) = Pair(200, () => 0, _ => Insert(large), () => 0, _ => Insert(small));
        yield return Result.Of("P3 one insertion without an id, the same two", b / 100, "µs", a / 100, 1.5, "lower");
        // Both are beyond what the collector keeps young: against 1,000 rows, which are not, it is its work that is measured.
        var (few, many) = (EqualRows(3_000), EqualRows(6_000));
        (b, a) = Pair(20, () => many, ReadAndWrite, () => few, ReadAndWrite);
        yield return Result.Of("P3 6,000 rows of one derived name read and written, against 3,000", b, "µs", a, 2.5, "lower");

        static int Insert(Layout layout)
        {
            var edit = new Edit.Insert(
                Node.Of(NodeKind.Heading, default).With("heading", new Value.Text(Texts.Of("Rig"))),
                layout.ParentOf(new NodeId("f2"))!.Value,
                new Anchor.Last()
            );
            for (var i = 0; i < 100; i++)
            {
                layout.Apply([edit]);
            }

            return 100;
        }

        static string EqualRows(int rows) =>
            "kind: full\nkey: trial\nentity: vessel\nbody:\n  pages:\n    - id: page\n      sections:\n"
            + "        - id: main\n          rows:\n"
            + string.Concat(Enumerable.Repeat("            - [{ heading: Rig }]\n", rows));

        static int ReadAndWrite(string text) => DocumentFile.Write(DocumentFile.Read(text).Document!).Length;

        // A hundred edits, so that the clock's grain does not count.
        static int Edit(Layout layout, string field)
        {
            Edit[] edits =
            [
                new Edit.Set(new NodeId(field), "emphasis", new Value.Flag(true)),
                new Edit.Move(new NodeId(field), layout.ParentOf(new NodeId("f2"))!.Value, new Anchor.Last()),
                new Edit.Remove(new NodeId(field)),
            ];
            for (var i = 0; i < 100; i++)
            {
                layout.Apply(edits[i % 3]);
            }

            return 100;
        }
    }

    private static Result P4()
    {
        var text = Form(330, 200);
        var layout = Layout(text);
        // Nothing known from before: conditions are compiled and analysed anew.
        var (ours, theirs) = Pair(
            40,
            () => Catalogue(330),
            catalogue => Checker.Check(layout, catalogue),
            () => text,
            each => DocumentFile.Read(each)
        );
        if (Environment.GetEnvironmentVariable("BRIGHTTIER_BENCH_PARTS") is not null)
        {
            foreach (var rule in Checker.Rules)
            {
                var time = Median(
                    9,
                    () =>
                        Catalogue(330) is var catalogue
                            ? new CheckContext(
                                LayoutComposer.Assemble(layout, catalogue),
                                catalogue.Definitions.Entities["survey"],
                                catalogue
                            )
                            : null!,
                    subject => rule.Check(subject).Count()
                );
                Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  of P4: {rule.Code} {time:0} µs"));
            }

            var subject = Median(
                9,
                () => Catalogue(330),
                catalogue => new CheckContext(
                    LayoutComposer.Assemble(layout, catalogue),
                    catalogue.Definitions.Entities["survey"],
                    catalogue
                )
            );
            Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  of P4: subject {subject:0} µs"));
        }

        return Result.Of($"P4 all checks, {layout.Count} nodes, 200 conditions, against parsing", ours, "µs", theirs, 3, "lower");
    }

    private static IEnumerable<Result> P5()
    {
        var (small, large) = (Layout(Form(332, 0)), Layout(Form(3_330, 0)));
        var (one, other) = (Changed(small, 1), Changed(small, 2));
        var (great, greater) = (Changed(large, 1), Changed(large, 2));
        var (b, a) = Pair(
            60,
            () => large,
            each => LayoutDiff.Edits(each, great).Count,
            () => small,
            each => LayoutDiff.Edits(each, one).Count
        );
        yield return Result.Of($"P5 compare, {large.Count} nodes against {small.Count}", b, "µs", a, 12, "lower");
        (b, a) = Pair(
            60,
            () => large,
            each => LayoutMerge.Merge(each, great, greater).Conflicts.Count,
            () => small,
            each => LayoutMerge.Merge(each, one, other).Conflicts.Count
        );
        yield return Result.Of($"P5 three-way merge, {large.Count} nodes against {small.Count}", b, "µs", a, 12, "lower");
    }

    /// <summary>
    /// A layout with every twentieth field changed, moved or removed, in proportion to its size, written and read so that nothing is
    /// shared.
    /// </summary>
    private static Layout Changed(Layout layout, int offset)
    {
        var edits = new List<Edit>();
        var fields = layout.Walk().Where(node => node.Kind is NodeKind.Field).Select(node => node.Id).ToArray();
        for (var i = offset; i < fields.Length - 1; i += 20)
        {
            edits.Add(
                (i / 20 % 3) switch
                {
                    0 => new Edit.Set(fields[i], "emphasis", new Value.Flag(true)),
                    1 => new Edit.Move(fields[i], layout.ParentOf(fields[i + 1])!.Value, new Anchor.Last()),
                    _ => new Edit.Remove(fields[i]),
                }
            );
        }

        return Layout(DocumentFile.Write(new Document.OfLayout(layout.Apply(edits).Layout!)));
    }

    /// <summary>The medians of two, their rounds taken in turn so that whatever else the machine does falls on both.</summary>
    private static (double Ours, double Theirs) Pair<TGiven, TMade, TOther, TTheirs>(
        int rounds,
        Func<TGiven> prepare,
        Func<TGiven, TMade> run,
        Func<TOther> prepareOther,
        Func<TOther, TTheirs> runOther
    )
    {
        // Seconds of warming up, so that all of it is compiled as a long-running service has it.
        for (var warm = Stopwatch.StartNew(); warm.ElapsedMilliseconds < 5_000; )
        {
            GC.KeepAlive(run(prepare()));
            GC.KeepAlive(runOther(prepareOther()));
        }

        var (ours, theirs) = (new List<double>(), new List<double>());
        for (var round = 0; round < rounds; round++)
        {
            ours.Add(Round(prepare, run));
            theirs.Add(Round(prepareOther, runOther));
        }

        return (Middle(ours), Middle(theirs));
    }

    private static double Median<TGiven, TMade>(int rounds, Func<TGiven> prepare, Func<TGiven, TMade> run)
    {
        for (var warm = Stopwatch.StartNew(); warm.ElapsedMilliseconds < 2_000; )
        {
            GC.KeepAlive(run(prepare()));
        }

        return Middle([.. Enumerable.Range(0, rounds).Select(_ => Round(prepare, run))]);
    }

    private static double Middle(IReadOnlyCollection<double> times) => times.Order().ElementAt(times.Count / 2);

    /// <summary>Microseconds of one run. What preparing leaves behind is not the measured work's to clear away.</summary>
    private static double Round<TGiven, TMade>(Func<TGiven> prepare, Func<TGiven, TMade> run)
    {
        var given = prepare();
        GC.Collect();
        var clock = Stopwatch.GetTimestamp();
        GC.KeepAlive(run(given));
        return Stopwatch.GetElapsedTime(clock).TotalMicroseconds;
    }

    private static Layout Layout(string text) =>
        (
            (Document.OfLayout)(
                DocumentFile.Read(text) is { Document: { } document }
                    ? document
                    : throw new InvalidOperationException(DocumentFile.Read(text).Problems[0].ToString())
            )
        ).Layout;

    private static Catalogue Catalogue(int fields)
    {
        var entity = new StringBuilder("kind: entity\nkey: survey\nlabel: Hull survey\ndisplay: \"{f1}\"\nfields:\n");
        for (var i = 1; i <= fields; i++)
        {
            entity.Append(
                CultureInfo.InvariantCulture,
                $"  - {{ key: f{i}, label: Frame {i}, type: {(i % 3 == 0 ? "text" : i % 3 == 1 ? "integer" : "boolean")} }}\n"
            );
        }

        return DocumentFile.Of([DocumentFile.Read(entity.ToString()).Document!]);
    }

    /// <summary>Sections of twelve fields in rows of three; every so many fields carry a condition.</summary>
    private static string Form(int fields, int conditions, bool variants = false)
    {
        var text = new StringBuilder("kind: full\nkey: survey\nentity: survey\nbody:\n  arrangement: tabs\n  pages:\n");
        for (var i = 1; i <= fields; i++)
        {
            if (i % 120 == 1)
            {
                text.Append(CultureInfo.InvariantCulture, $"    - id: page{i}\n      title: Frames from {i}\n      sections:\n");
            }

            if (i % 12 == 1)
            {
                text.Append(CultureInfo.InvariantCulture, $"        - id: section{i}\n          title: From frame {i}\n          rows:\n");
            }

            var every = conditions == 0 ? int.MaxValue : Math.Max(1, fields / conditions);
            var condition =
                i % every == 0 && i > 3
                    ? (i % 4) switch
                    {
                        0 => $", visible: record.f{NumberBefore(i)} > {i} && record.f{NumberBefore(i)} < {i + 50}",
                        1 => $", readOnly: \"'keeper' in user.roles && mode == 'edit'\"",
                        2 => $", visible: record.f{NumberBefore(i)} != null || mode == 'create'",
                        _ => $", required: \"record.f{NumberBefore(i)} == {i} && !('guest' in user.roles)\"",
                    }
                    : "";
            text.Append(i % 3 == 1 ? "            - - " : "              - ")
                .Append(CultureInfo.InvariantCulture, $"{{ field: f{i}{condition} }}\n");
        }

        if (variants)
        {
            text.Append("variants:\n");
            foreach (var name in new[] { "narrow", "medium", "wide" })
            {
                text.Append(CultureInfo.InvariantCulture, $"  {name}:\n");
                for (var i = 5; i < fields; i += 25)
                {
                    text.Append(CultureInfo.InvariantCulture, $"    - set: {{ f{i}: {{ hidden: true }} }}\n");
                }
            }
        }

        return text.ToString();

        static int NumberBefore(int i) => ((i - 2) / 3 * 3) + 1;
    }
}
