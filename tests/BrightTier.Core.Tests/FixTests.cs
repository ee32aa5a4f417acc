using BrightTier.Core.Documents;
using BrightTier.Core.Edits;
using BrightTier.Core.Model;
using BrightTier.Core.Validation;

namespace BrightTier.Core.Tests;

/// <summary>What the fixes of findings do.</summary>
public sealed class FixTests
{
    /// <summary>A name that is misspelt is corrected by its fix, and then nothing of it is found.</summary>
    [Theory]
    [InlineData("[beem]", "[beam]")]
    [InlineData("[{ field: beam, visible: record.lenght > 3.0 }]", "[{ field: beam, visible: record.length > 3.0 }]")]
    [InlineData("[{ field: beam, visible: length > 3.0 }]", "[{ field: beam, visible: record.length > 3.0 }]")]
    [InlineData("[{ field: beam, visible: record.propulsion == sail }]", "[{ field: beam, visible: record.propulsion == 'sail' }]")]
    [InlineData("[{ field: beam, visible: record.propulsion == 'sial' }]", "[{ field: beam, visible: record.propulsion == 'sail' }]")]
    [InlineData("[{ field: beam, visible: \"'quayhand' in roles\" }]", "[{ field: beam, visible: \"'quay-hand' in user.roles\" }]")]
    [InlineData(
        "[{ field: beam, visible: record.keeper.givenNam != null }]",
        "[{ field: beam, visible: record.keeper.givenName != null }]"
    )]
    [InlineData("[{ field: beam, visible: record.name.startswith('K') }]", "[{ field: beam, visible: record.name.startsWith('K') }]")]
    [InlineData("[{ text: 'Called {nam}' }]", "[{ text: 'Called {name}' }]")]
    [InlineData(
        "[{ link: 'https://q.example/{registratio}', label: Papers }]",
        "[{ link: 'https://q.example/{registration}', label: Papers }]"
    )]
    [InlineData("[{ related: liftout, through: vesel }]", "[{ related: liftOut, through: vessel }]")]
    [InlineData("[{ field: berth, copies: { draugt: maxDraugt } }]", "[{ field: berth, copies: { draught: maxDraught } }]")]
    public void A_misspelt_name_is_corrected_by_its_fix(string written, string meant)
    {
        var read = (Document.OfLayout)DocumentFile.Read(Text(Demo.VesselRows(written))).Document!;
        var layout = read.Layout;
        for (var round = 0; round < 4; round++)
        {
            var fixes = Checker
                .Check(layout, Demo.Catalogue)
                .Where(finding => finding.Severity is Severity.Error)
                .Select(finding => finding.Fix);
            foreach (var fix in fixes.OfType<Fix>().Where(fix => fix.Label.English.StartsWith("Write ", StringComparison.Ordinal)))
            {
                layout = layout.Apply(fix.Edits).Layout!;
            }
        }

        Text(DerivedIds.Anew(layout, read.Derived)).ShouldBe(Text(Demo.VesselRows(meant)), "ids that are not written follow the name");

        static string Text(Layout layout) => DocumentFile.Write(new Document.OfLayout(layout));
    }

    /// <summary>Whatever is wrong, what users enter stays on the form.</summary>
    [Fact]
    public void No_fix_takes_a_field_off()
    {
        foreach (var file in Directory.EnumerateFiles(Path.Combine(Demo.Folder, "..", "tests", "broken"), "*.yaml"))
        {
            if (DocumentFile.Read(File.ReadAllText(file)).Document is not Document.OfLayout { Layout: var layout })
            {
                continue;
            }

            foreach (var finding in Checker.Check(layout, Demo.Catalogue).Where(finding => finding.Fix is not null))
            {
                var after = layout.Apply(finding.Fix!.Edits).Layout!;
                Placed(layout)
                    .Except(Placed(after))
                    .Where(field => Demo.Vessel.Find(field) is not null)
                    .ShouldBeEmpty($"{file} {finding.Code}");
            }
        }

        static IEnumerable<string> Placed(Layout layout) =>
            layout.Walk().Where(node => node.Kind is NodeKind.Field).Select(node => node.Word("field")!);
    }
}
