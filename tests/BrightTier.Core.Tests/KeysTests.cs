using System.Text.Json;
using BrightTier.Core.Model;

namespace BrightTier.Core.Tests;

/// <summary>Keys made from what people call things, in any script.</summary>
public class KeysTests
{
    /// <summary>tests/vectors/keys.json: the console makes the same of them.</summary>
    [Fact]
    public void A_name_of_another_script_is_spelt_in_the_letters_keys_have()
    {
        using var vectors = JsonDocument.Parse(File.ReadAllText(Path.Combine(Demo.Folder, "..", "tests", "vectors", "keys.json")));
        var all = vectors.RootElement.EnumerateArray().ToArray();

        all.Length.ShouldBeGreaterThan(10);
        foreach (var vector in all)
        {
            var name = vector.GetProperty("name").GetString()!;
            Keys.Of(name, "unnamed").ShouldBe(vector.GetProperty("key").GetString(), name);
        }
    }

    [Fact]
    public void Whatever_the_letter_the_key_is_well_formed()
    {
        for (var letter = 1; letter < 0x10000; letter++)
        {
            if (!char.IsSurrogate((char)letter))
            {
                NodeId.IsWellFormed(Keys.Of($"{(char)letter}x", "field")).ShouldBeTrue($"U+{letter:X4}");
            }
        }
    }
}
