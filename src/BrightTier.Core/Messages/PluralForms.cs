namespace BrightTier.Core.Messages;

/// <summary>Which form of a plural goes with a whole number, by the rules of CLDR for the languages there are message files for.</summary>
public static class PluralForms
{
    /// <summary>The form's CLDR name: zero, one, two, few, many or other.</summary>
    public static string Of(string language, long number) =>
        (language, number, number % 100) switch
        {
            ("ar", 0, _) => "zero",
            (_, 1, _) => "one",
            ("ar", 2, _) => "two",
            ("ar", _, >= 3 and <= 10) => "few",
            ("ar", _, >= 11) => "many",
            _ => "other",
        };

    /// <summary>The forms a language has.</summary>
    public static IReadOnlyList<string> In(string language) =>
        language == "ar" ? ["zero", "one", "two", "few", "many", "other"] : ["one", "other"];
}
