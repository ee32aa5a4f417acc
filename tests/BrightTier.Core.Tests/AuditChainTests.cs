using System.Security.Cryptography;
using BrightTier.Core.Audit;

namespace BrightTier.Core.Tests;

/// <summary>The formula of the audit log, as docs/security.md gives it.</summary>
public sealed class AuditChainTests
{
    [Fact]
    public void The_example_of_the_docs_is_what_the_formula_gives()
    {
        var hash = AuditChain.HashOf("", 1, 1_795_824_000_000, "greta", "person.made", "person/joris", "{}");

        File.ReadAllText(Path.Combine(Demo.Folder, "..", "docs", "security.md")).ShouldContain($"    hash {hash}\n");
    }

    [Fact]
    public void No_two_entries_are_written_alike()
    {
        // What stands at the end of one part and at the beginning of the next is told apart by the lengths.
        AuditChain.HashOf("", 1, 1, "ab", "c", "d", "{}").ShouldNotBe(AuditChain.HashOf("", 1, 1, "a", "bc", "d", "{}"));
        AuditChain.HashOf("", 11, 1, "a", "b", "c", "{}").ShouldNotBe(AuditChain.HashOf("", 1, 11, "a", "b", "c", "{}"));
        AuditChain.HashOf("1", 1, 1, "a", "b", "c", "{}").ShouldNotBe(AuditChain.HashOf("", 1, 1, "a", "b", "c", "{}"));
    }

    [Fact]
    public void A_head_is_what_was_signed_and_nothing_else()
    {
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var at = DateTimeOffset.FromUnixTimeMilliseconds(1_795_824_000_000);
        var (open, signature) = (
            Convert.ToBase64String(key.ExportSubjectPublicKeyInfo()),
            Convert.ToBase64String(key.SignData(AuditChain.HeadText(7, "abc", at), HashAlgorithmName.SHA256))
        );

        AuditChain.IsSigned(7, "abc", at, open, signature).ShouldBeTrue();
        AuditChain.IsSigned(6, "abc", at, open, signature).ShouldBeFalse();
        AuditChain.IsSigned(7, "abd", at, open, signature).ShouldBeFalse();
        AuditChain.IsSigned(7, "abc", at.AddDays(1), open, signature).ShouldBeFalse();
        AuditChain.IsSigned(7, "abc", at, open, "nonsense").ShouldBeFalse();
        AuditChain.IsSigned(7, "abc", at, "", signature).ShouldBeFalse();
    }
}
