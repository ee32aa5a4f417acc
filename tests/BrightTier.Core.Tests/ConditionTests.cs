using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using BrightTier.Core.Conditions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Tests;

/// <summary>
/// The vectors in tests/vectors are the contract between this evaluator and the browser's: both give the results written there by hand.
/// </summary>
public sealed class ConditionTests
{
    private static readonly string File = Path.Combine(Demo.Folder, "..", "tests", "vectors", "conditions.json");

    private static readonly DateTimeOffset Today = new(2026, 11, 23, 0, 0, 0, TimeSpan.Zero);

    public static TheoryData<string, string, string> Vectors =>
        [
            .. JsonNode
                .Parse(System.IO.File.ReadAllText(File))!
                .AsArray()
                .Select(each => new TheoryDataRow<string, string, string>(
                    each!["expression"]!.GetValue<string>(),
                    each["record"]!.ToJsonString(),
                    each["result"]!.ToJsonString()
                )),
        ];

    [Theory]
    [MemberData(nameof(Vectors))]
    public void A_condition_comes_out_as_the_vectors_say(string text, string record, string result)
    {
        var outcome = Evaluator.Holds(Compiled(text), Around(record));

        (
            outcome switch
            {
                true => "true",
                false => "false",
                _ => "\"fails\"",
            }
        ).ShouldBe(result);
    }

    [Theory]
    [MemberData(nameof(Vectors))]
    public void What_is_known_early_changes_nothing(string text, string record, string result)
    {
        var reduced = Reducer.Reduce(Compiled(text), Reducer.Viewer(["quay-hand"], "edit", "nl"));

        reduced
            .Walk()
            .OfType<Expression.Name>()
            .ShouldAllBe(name => name.Identifier == "record" || name.Identifier == "user" || name.Identifier == "today");
        (
            Evaluator.Holds(reduced, Around(record)) switch
            {
                true => "true",
                false => "false",
                _ => "\"fails\"",
            }
        ).ShouldBe(result);
    }

    /// <summary>
    /// The compiled trees the browser's tests evaluate. BRIGHTTIER_WRITE_VECTORS=1 writes them anew after a change to the form they travel
    /// in.
    /// </summary>
    [Fact]
    public void The_vectors_carry_the_trees_that_travel_to_the_browser()
    {
        var vectors = JsonNode.Parse(System.IO.File.ReadAllText(File))!.AsArray();
        foreach (var vector in vectors)
        {
            var compiled = Compiled(Compiled(vector!["expression"]!.GetValue<string>()));
            if (Environment.GetEnvironmentVariable("BRIGHTTIER_WRITE_VECTORS") == "1")
            {
                vector["compiled"] = compiled;
            }

            JsonNode.DeepEquals(vector["compiled"], compiled).ShouldBeTrue(vector["expression"]!.GetValue<string>());
        }

        if (Environment.GetEnvironmentVariable("BRIGHTTIER_WRITE_VECTORS") == "1")
        {
            System.IO.File.WriteAllText(
                File,
                "[\n"
                    + string.Join(
                        ",\n",
                        vectors.Select(each => each!.ToJsonString(new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping }))
                    )
                    + "\n]\n"
            );
        }
    }

    [Theory]
    [InlineData("record.lenght > 3", 7, "no field 'lenght'; did you mean 'length'?")]
    [InlineData("length > 3", 0, "for the field write 'record.length'")]
    [InlineData("record.propulsion = 'sail'", 18, "to compare write '=='")]
    [InlineData("record.propulsion == 'sial'", 21, "did you mean 'sail'?")]
    [InlineData("record.propulsion == sail", 21, "no name 'sail'")]
    [InlineData("record.length > '3'", 0, "cannot compare a double with a string")]
    [InlineData("record.length * 2 > 3.0", 0, "write 2.0 for 2")]
    [InlineData("record.surveyDue < '2027-01-01'", 0, "timestamp(")]
    [InlineData("'quayhand' in user.roles", 0, "did you mean 'quay-hand'?")]
    [InlineData("record.name.startswith('K')", 12, "did you mean 'startsWith'?")]
    [InlineData("record.livesAboard and true", 19, "write a && b")]
    [InlineData("record.livesAboard OR true", 19, "write a || b")]
    [InlineData("not record.livesAboard", 0, "'not' is no operator; write !(a)")]
    [InlineData("record.equipment == 'radar'", 0, "a list of string is never equal to a string; write 'radar' in record.equipment")]
    [InlineData("'radar' != record.equipment", 0, "a string is never equal to a list of string; write !('radar' in record.equipment)")]
    [InlineData("record.length <> 5.0", 14, "'<>' is no operator; write a != b")]
    [InlineData("record.length === 5.0", 14, "'===' is no operator; write a == b")]
    [InlineData("record.length ≤ 5.0", 14, "'≤' is no operator; write a <= b")]
    [InlineData("record.name is null", 12, "write a == null")]
    [InlineData("record.name like 'K%'", 12, "write a.matches('text')")]
    [InlineData("1.0 < record.length < 5.0", 0, "not three; write 1.0 < record.length && record.length < 5.0")]
    [InlineData("record.length > 1,5", 16, "a decimal number is written with a point; write 1.5")]
    [InlineData("record.propulsion == sail", 21, "no name 'sail'; a text stands in quotation marks; write 'sail'")]
    [InlineData("mode == create", 8, "write 'create'")]
    [InlineData("vhf in record.equipment", 0, "write 'vhf'")]
    [InlineData("'quay-hand' in roles", 15, "no name 'roles'; write user.roles")]
    [InlineData("vessel.length > 5.0", 0, "no name 'vessel'; write record")]
    [InlineData(".propulsion == 'sail'", 0, "there is '.' where a value is expected; write record.name")]
    [InlineData("record.surveyDue < today()", 19, "no function 'today'; write today")]
    [InlineData("record.surveyDue.year == 2026", 17, "a timestamp has no 'year'; write .getFullYear()")]
    [InlineData("record.name.length > 3", 12, "a string has no 'length'; write .size()")]
    [InlineData("record.name.toLower() == 'x'", 12, "no function 'toLower'; write record.name.matches('(?i)text')")]
    [InlineData("isEmpty(record.name)", 0, "no function 'isEmpty'; write record.name == null")]
    [InlineData("if(record.livesAboard, true, false)", 0, "'if' is a reserved word; write a ? b : c")]
    [InlineData("record.surveyDue.getHours('Europe/Nowhere') == 1", 26, "no time zone 'Europe/Nowhere'")]
    [InlineData("record.engineHours == -0x8000000000000001", 23, "is no whole number of 64 bits")]
    [InlineData("record.name", 0, "must be true or false; this is of type string")]
    [InlineData("mode == 'edti'", 8, "did you mean 'edit'?")]
    [InlineData("record.name == 'K", 15, "no closing '")]
    [InlineData("(record.livesAboard", 19, "the condition ends where ')' is expected")]
    [InlineData("record.keeper.givenNam == 'Marit'", 14, "did you mean 'givenName'?")]
    [InlineData("record.name.first == 'M'", 12, "a string has no 'first'")]
    [InlineData("record.name.matches('(')", 20, "has a '(' that is not closed")]
    [InlineData("record.name.matches('(?=a)b')", 20, "looks around")]
    [InlineData("record.name.matches(record.registration)", 20, "must be written out")]
    [InlineData("record.equipment.all('x', true)", 21, "names each element")]
    [InlineData("record.name.exists(c, c == 'x')", 0, "goes over a list or a map")]
    [InlineData("record.equipment.exists(each, each > 3)", 30, "cannot compare a string with an int")]
    [InlineData("today - record.surveyDue > 30", 0, "cannot compare a duration with an int")]
    [InlineData("today + 30 > now", 0, "duration('48h')")]
    [InlineData("today > now + duration('2 days')", 23, "no length of time")]
    [InlineData("b'x' == b'x'", 0, "bytes are not part")]
    [InlineData("3u > 2u", 0, "without 'u'")]
    [InlineData("", 0, "the condition ends")]
    [InlineData("9223372036854775808 > 1", 0, "too large")]
    [InlineData("{'a': 1} == 1", 0, "never equal")]
    [InlineData("if == 1", 0, "reserved word")]
    public void A_wrong_condition_is_answered_with_the_place_and_what_would_be_right(string text, int at, string message)
    {
        var (expression, problems) = Condition.Compile(text, Demo.Vessel, Demo.Definitions);

        expression.ShouldBeNull();
        problems[0].Message.English.ShouldContain(message);
        problems[0].At.Start.ShouldBe(at);
    }

    /// <summary>Lists of numbers of either kind, empty lists, the smallest number in either writing.</summary>
    [Theory]
    [InlineData("[1, 2] == [1.0, 2.0]", true)]
    [InlineData("[[1], [2]] == [[1.0], [2.0]]", true)]
    [InlineData("{'a': 1} == {'a': 1.0}", true)]
    [InlineData("[] + ['vhf'] == ['vhf']", true)]
    [InlineData("['vhf'] + [] == ['vhf']", true)]
    [InlineData("'vhf' in ([] + record.equipment)", true)]
    [InlineData("(mode == 'edit' ? [] : ['vhf']) == []", true)]
    [InlineData("-0x8000000000000000 == -9223372036854775808", true)]
    [InlineData("-0x8000000000000000 < 0", true)]
    [InlineData("record.surveyDue.getHours('+02:00') == 2", true)]
    public void What_the_language_allows_is_allowed(string text, bool holds)
    {
        var (expression, problems) = Condition.Compile(text, Demo.Vessel, Demo.Definitions);
        problems.ShouldBeEmpty();
        var record = Demo.Vessel.Fields.ToDictionary(field => field.Key, _ => (object?)null);
        record["equipment"] = new object?[] { "vhf" };
        record["surveyDue"] = new Moment(0);
        Evaluator.Holds(expression!, EvaluationContext.Of(record, "", [], "edit", "en", default, default)).ShouldBe(holds);
    }

    [Fact]
    public void Nothing_makes_conditions_deep_or_slow()
    {
        Condition
            .Compile(new string('(', 500) + "true" + new string(')', 500), Demo.Vessel, Demo.Definitions)
            .Problems[0]
            .Message.English.ShouldContain("nests deeper");
        Condition
            .Compile(new string('!', 1_500) + "true", Demo.Vessel, Demo.Definitions)
            .Problems[0]
            .Message.English.ShouldContain("nests deeper");
        Condition
            .Compile("true" + string.Concat(Enumerable.Repeat(" || true", 600)), Demo.Vessel, Demo.Definitions)
            .Problems.ShouldNotBeEmpty();
    }

    [Fact]
    public void Any_text_gives_a_tree_or_a_problem_and_never_an_exception() =>
        CsCheck.Check.Sample(
            CsCheck.Gen.OneOf(
                CsCheck.Gen.String[CsCheck.Gen.Char["record.length><=!&|()[]{}'\"\\0123456789eExX +-*/%?:,in "], 0, 40],
                CsCheck.Gen.String[0, 30]
            ),
            text =>
            {
                var (expression, problems) = Condition.Compile(text, Demo.Vessel, Demo.Definitions);
                (expression is null).ShouldBe(problems.Count > 0);
                problems.EachShould(problem => problem.At.Start >= 0 && problem.At.End <= text.Length);
            },
            iter: 20_000
        );

    /// <summary>The tree in the form in which it travels.</summary>
    internal static JsonNode? Compiled(Expression expression)
    {
        var buffer = new MemoryStream();
        using (var writer = new Utf8JsonWriter(buffer))
        {
            CompiledCondition.Write(writer, expression);
        }

        return JsonNode.Parse(buffer.ToArray());
    }

    private static Expression Compiled(string text)
    {
        var (expression, problems) = Condition.Compile(text, Demo.Vessel, Demo.Definitions);
        problems.ShouldBeEmpty(text);
        return expression!;
    }

    private static EvaluationContext Around(string record)
    {
        using var json = JsonDocument.Parse(record);
        var values = json
            .RootElement.EnumerateObject()
            .ToDictionary(
                property => property.Name,
                property =>
                {
                    FieldValues.Read(Demo.Vessel.Find(property.Name)!, property.Value, out var value).ShouldBeNull();
                    return value;
                }
            );
        return EvaluationContext.Of(Condition.Values(Demo.Vessel, values), "bram", ["quay-hand"], "edit", "nl", Today, Today.AddHours(9));
    }
}
