using BrightTier.Core.Documents;
using BrightTier.Core.Generation;
using BrightTier.Core.Model;
using BrightTier.Core.Places;
using BrightTier.Core.Validation;

namespace BrightTier.Core.Tests;

/// <summary>
/// Need A2 under other people's entities: twelve trades, each with the best arrangement a hand made beside it (tests/fixtures/trades). What
/// is generated passes every check, is not much longer, and is few moves away.
/// </summary>
public sealed class TradeTests(ITestOutputHelper output)
{
    private static readonly string Folder = Path.Combine(Demo.Folder, "..", "tests", "fixtures", "trades");

    internal static Catalogue Catalogue { get; } =
        DocumentFile.Of(
            Directory
                .EnumerateFiles(Folder, "*.yaml", SearchOption.AllDirectories)
                .Where(file => Path.GetFileName(file) != "by-hand.yaml")
                .Order(StringComparer.Ordinal)
                .Select(file => DocumentFile.Read(File.ReadAllText(file)).Document!)
        );

    public static TheoryData<string> Trades =>
        [.. Directory.EnumerateDirectories(Folder).Select(Path.GetFileName).OfType<string>().Where(name => name != "lists").Order()];

    internal static Layout ByHand(string trade) => Demo.ReadLayout(File.ReadAllText(Path.Combine(Folder, trade, "by-hand.yaml")));

    internal static Entity EntityOf(string trade) => Catalogue.Definitions.Entities[trade];

    private static Layout Generated(string trade) => GeneratedLayout.Full(EntityOf(trade), Catalogue.Definitions);

    [Theory]
    [MemberData(nameof(Trades))]
    public void What_is_generated_passes_every_check_and_so_does_what_a_hand_made(string trade)
    {
        EntityOf(trade).Fields.Length.ShouldBeInRange(30, 60);
        foreach (var layout in new[] { Generated(trade), ByHand(trade) })
        {
            Checker.Check(layout, Catalogue).Select(finding => $"{finding.Node}: {finding.Message.English}").ShouldBeEmpty();
            Fields(layout).Order().ShouldBe(EntityOf(trade).Fields.Select(field => field.Key).Order());
        }
    }

    [Theory]
    [MemberData(nameof(Trades))]
    public void What_is_generated_is_at_most_a_quarter_longer_than_what_a_hand_made(string trade)
    {
        var (made, best) = (Rem(trade, Generated(trade)), Rem(trade, ByHand(trade)));
        var moves = Moves(Generated(trade), ByHand(trade));
        var fields = EntityOf(trade).Fields.Length;
        output.WriteLine($"{trade}: {fields} fields, {made / best:0.00} as long ({made / Length.Screen:0.0} screens), {moves} moves");
        (made / best).ShouldBeLessThanOrEqualTo(1.25);
        moves.ShouldBeLessThanOrEqualTo(fields * 3 / 5);
    }

    [Theory]
    [MemberData(nameof(Trades))]
    public void No_row_of_what_is_generated_is_a_lone_quarter_beside_nothing(string trade) =>
        Generated(trade)
            .Walk()
            .Where(node => node.Kind is NodeKind.Section && node.Children.Length > 1)
            .SelectMany(section => section.Children)
            .Where(row => Spans.Share([.. row.Children.Select(cell => cell.Number("span"))]).Sum() <= 3)
            .ShouldBeEmpty();

    /// <summary>All pages one under another, so that more tabs do not make it shorter.</summary>
    private static double Rem(string trade, Layout layout)
    {
        var body = layout.Body! with { Properties = Node.NoProperties };
        var root = layout.Root with { Children = layout.Root.Children.Replace(layout.Body!, body) };
        return Length.Measure(Layout.Of(root), EntityOf(trade), Catalogue.Definitions, Rooms.Form).Rem;
    }

    private static IEnumerable<string> Fields(Layout layout) =>
        layout.Walk().Where(node => node.Kind is NodeKind.Field).Select(node => node.Word("field")!);

    /// <summary>
    /// How many fields must be put elsewhere to come from one to the other: all but those that stand in the section that has most of its
    /// fields, in their order.
    /// </summary>
    private static int Moves(Layout from, Layout to)
    {
        static string[][] Sections(Layout layout) =>
            [
                .. layout
                    .Walk()
                    .Where(node => node.Kind is NodeKind.Section)
                    .Select(section =>
                        section.Walk().Where(node => node.Kind is NodeKind.Field).Select(node => node.Word("field")!).ToArray()
                    ),
            ];

        var left = Sections(to).ToList();
        var matched = new HashSet<string[]>();
        var stay = 0;
        foreach (
            var (section, home) in Sections(from)
                .SelectMany(section => left.Select(home => (section, home)))
                .OrderByDescending(pair => pair.section.Intersect(pair.home).Count())
                .ToArray()
        )
        {
            if (left.Contains(home) && matched.Add(section))
            {
                left.Remove(home);
                stay += InOrder([.. section.Where(home.Contains).Select(field => Array.IndexOf(home, field))]);
            }
        }

        return Fields(to).Count() - stay;
    }

    /// <summary>The most of these numbers that rise from one to the next.</summary>
    private static int InOrder(int[] places)
    {
        var most = new int[places.Length];
        for (var i = 0; i < places.Length; i++)
        {
            most[i] = 1 + places.Take(i).Select((place, j) => place < places[i] ? most[j] : 0).DefaultIfEmpty().Max();
        }

        return most.DefaultIfEmpty().Max();
    }
}
