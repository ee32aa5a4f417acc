using System.Text.Json;
using BrightTier.Core.Model;

namespace BrightTier.Core.Tests;

public sealed class EntityTests
{
    [Theory]
    [InlineData("nl", "Naam")]
    [InlineData("nl-BE", "Naam")]
    [InlineData("ar", "الاسم")]
    [InlineData("de", "Name")]
    public void A_text_falls_back_from_the_tag_to_its_language_to_english(string language, string expected) =>
        Demo.Vessel.Find("name")!.Label.In(language).ShouldBe(expected);

    [Fact]
    public void A_text_without_a_language_is_what_every_language_falls_back_to() =>
        Texts.Of([new("", "Berth"), new("nl", "Ligplaats")]).In("en").ShouldBe("Berth");

    [Theory]
    [InlineData("lenght", "length")]
    [InlineData("Registraton", "registration")]
    [InlineData("nmae", "name")]
    [InlineData("tonnage", null)]
    public void What_was_probably_meant_is_suggested_and_nothing_far_fetched(string word, string? expected) =>
        Suggestion.Nearest(word, Demo.Vessel.Fields.Select(field => field.Key)).ShouldBe(expected);

    [Theory]
    [InlineData("{name}, {registration}", "Curlew, SQ-0203")]
    [InlineData("{name}, {berth}", "Curlew")]
    [InlineData("{berth}, {name}", "Curlew")]
    [InlineData("{berth}", "")]
    [InlineData("Vessel {name, upper}", "Vessel Curlew")]
    [InlineData("{name", "{name")]
    public void A_text_with_values_leaves_no_stray_separator_behind(string text, string expected)
    {
        var values = new Dictionary<string, string> { ["name"] = "Curlew", ["registration"] = "SQ-0203" };
        Placeholders.Fill(text, values.GetValueOrDefault).ShouldBe(expected);
    }

    public static TheoryData<FieldType, string, object?> Values =>
        new()
        {
            { FieldType.Text, "\"Kittiwake\"", "Kittiwake" },
            { FieldType.Text, "\"\"", null },
            { FieldType.Integer, "12", 12L },
            { FieldType.Decimal, "9.75", 9.75m },
            { FieldType.Money, "28.50", 28.50m },
            { FieldType.Boolean, "false", false },
            { FieldType.Date, "\"2027-03-31\"", new DateOnly(2027, 3, 31) },
            { FieldType.Time, "\"09:30\"", new TimeOnly(9, 30) },
            { FieldType.DateTime, "\"2026-09-14T09:45:00+02:00\"", new DateTimeOffset(2026, 9, 14, 7, 45, 0, TimeSpan.Zero) },
            { FieldType.Reference, "3", 3L },
            { FieldType.Choices, "[]", null },
        };

    [Theory]
    [MemberData(nameof(Values))]
    public void A_value_is_read_from_json_and_written_back(FieldType type, string json, object? expected)
    {
        using var parsed = JsonDocument.Parse(json);
        FieldValues.Read(Of(type), parsed.RootElement, out var value).ShouldBeNull();
        value.ShouldBe(expected);

        var buffer = new MemoryStream();
        using (var writer = new Utf8JsonWriter(buffer))
        {
            FieldValues.Write(writer, value);
        }

        using var again = JsonDocument.Parse(buffer.ToArray());
        FieldValues.Read(Of(type), again.RootElement, out var second).ShouldBeNull();
        second.ShouldBe(value);
    }

    [Theory]
    [InlineData(FieldType.Integer, "1.5", "whole number")]
    [InlineData(FieldType.Integer, "\"1\"", "whole number")]
    [InlineData(FieldType.Money, "1.005", "more than 2 digits")]
    [InlineData(FieldType.Date, "\"2027-02-30\"", "must be a date")]
    [InlineData(FieldType.Time, "\"25:00\"", "must be a time")]
    [InlineData(FieldType.DateTime, "\"soon\"", "must be a date and time")]
    [InlineData(FieldType.Choices, "\"vhf\"", "must be a list")]
    [InlineData(FieldType.Choices, "[1]", "must be a list")]
    [InlineData(FieldType.Text, "{}", "must be a text")]
    [InlineData(FieldType.Reference, "\"1\"", "number of a record")]
    public void What_is_no_value_of_the_type_is_said_in_words(FieldType type, string json, string message)
    {
        using var parsed = JsonDocument.Parse(json);
        FieldValues.Read(Of(type), parsed.RootElement, out _).ShouldNotBeNull().English.ShouldContain(message);
    }

    [Theory]
    [InlineData(FieldType.Email, "ada@example.org", true)]
    [InlineData(FieldType.Email, "ada at example", false)]
    [InlineData(FieldType.Email, "@example.org", false)]
    [InlineData(FieldType.Url, "https://quay.example.org", true)]
    [InlineData(FieldType.Url, "javascript:alert(1)", false)]
    public void Addresses_must_look_like_addresses(FieldType type, string text, bool good) =>
        (FieldValues.Check(Of(type), text, Demo.Definitions, "en") is null).ShouldBe(good);

    [Fact]
    public void Every_type_has_an_editor_and_every_name_is_a_type()
    {
        foreach (var name in FieldTypes.All)
        {
            FieldTypes.TryParse(name, out var type).ShouldBeTrue();
            type.Name().ShouldBe(name);
            Editors.For(type).ShouldNotBeEmpty();
        }
    }

    [Fact]
    public void Who_may_not_read_may_not_write()
    {
        var sum = Demo.Vessel.Find("coverSum")!;
        (sum.MayRead(["quay-hand"]), sum.MayWrite(["quay-hand"])).ShouldBe((false, false));
        (sum.MayRead(["auditor"]), sum.MayWrite(["auditor"])).ShouldBe((true, false));
        (sum.MayRead(["quay-hand", "bookkeeper"]), sum.MayWrite(["quay-hand", "bookkeeper"])).ShouldBe((true, true));
    }

    private static Field Of(FieldType type) =>
        new()
        {
            Key = "trial",
            Label = Texts.Of("Trial"),
            Type = type,
        };
}
