using BrightTier.Core.Conditions;
using BrightTier.Core.Model;
using CsCheck;

namespace BrightTier.Core.Tests;

public sealed class AnalysisTests
{
    /// <summary>An entity small enough that every record there can be is looked at.</summary>
    private static readonly Entity Small = new()
    {
        Key = "dinghy",
        Label = Texts.Of("Dinghy"),
        Plural = Texts.Of("Dinghies"),
        Display = "{kind}",
        Fields =
        [
            new Field
            {
                Key = "kind",
                Label = Texts.Of("Kind"),
                Type = FieldType.Choice,
                ChoiceList = "kind",
            },
            new Field
            {
                Key = "other",
                Label = Texts.Of("Other"),
                Type = FieldType.Choice,
                ChoiceList = "kind",
            },
            new Field
            {
                Key = "oars",
                Label = Texts.Of("Oars"),
                Type = FieldType.Integer,
                Min = 0,
                Max = 3,
            },
            new Field
            {
                Key = "crew",
                Label = Texts.Of("Crew"),
                Type = FieldType.Integer,
                Min = 1,
                Max = 3,
            },
            new Field
            {
                Key = "beam",
                Label = Texts.Of("Beam"),
                Type = FieldType.Decimal,
                Scale = 1,
                Min = 0.8m,
                Max = 1.3m,
            },
            new Field
            {
                Key = "dry",
                Label = Texts.Of("Dry"),
                Type = FieldType.Boolean,
            },
            new Field
            {
                Key = "gear",
                Label = Texts.Of("Gear"),
                Type = FieldType.Choices,
                ChoiceList = "kind",
            },
            Reference("dock"),
            Reference("winter"),
        ],
    };

    private static Field Reference(string key) =>
        new()
        {
            Key = key,
            Label = Texts.Of(key),
            Type = FieldType.Reference,
            Target = "pier",
        };

    private static readonly Entity Pier = new()
    {
        Key = "pier",
        Label = Texts.Of("Pier"),
        Plural = Texts.Of("Piers"),
        Display = "{depth}",
        Fields =
        [
            new Field
            {
                Key = "depth",
                Label = Texts.Of("Depth"),
                Type = FieldType.Integer,
                Min = 1,
                Max = 2,
            },
        ],
    };

    private static readonly Definitions Around = Definitions.Empty with
    {
        Entities = Definitions.Empty.Entities.Add("dinghy", Small).Add("pier", Pier),
        ChoiceLists = Definitions.Empty.ChoiceLists.Add(
            "kind",
            new ChoiceList("kind", Texts.Of("Kind"), [.. new[] { "row", "sail" }.Select(key => new Choice(key, Texts.Of(key), false))])
        ),
    };

    private static Gen<T> One<T>(params T[] values) => Gen.Int[0, values.Length - 1].Select(i => values[i]);

    private static readonly Gen<string> Numbers = One(
        "record.oars",
        "record.crew",
        "record.beam",
        "record.dock",
        "record.winter",
        "record.dock.depth",
        "record.winter.depth",
        "0",
        "1",
        "2",
        "3",
        "0.9",
        "1.05",
        "1.5",
        "-1"
    );

    private static Gen<string> Truth(int depth) =>
        depth == 0
            ? Gen.OneOf(
                One(
                    "record.dry",
                    "has(record.oars)",
                    "record.kind == null",
                    "record.beam != null",
                    "mode == 'create'",
                    "mode in ['edit', 'view']",
                    "record.dock == record.winter",
                    "record.dock == null",
                    "record.dock.depth == record.winter.depth"
                ),
                Gen.Select(Numbers, One("<", "<=", ">", ">=", "==", "!="), Numbers, (a, op, b) => $"{a} {op} {b}"),
                Gen.Select(
                    One("record.kind", "record.other"),
                    One("==", "!="),
                    One("'row'", "'sail'", "record.kind", "record.other"),
                    (a, op, b) => $"{a} {op} {b}"
                ),
                Gen.Select(One("record.kind", "record.other"), One("['row']", "['row', 'sail']"), (a, list) => $"{a} in {list}"),
                Gen.Select(One("'row'", "'sail'"), a => $"{a} in record.gear"),
                Gen.Select(One("record.oars", "record.crew"), a => $"{a} in [0, 2]")
            )
            : Gen.OneOf(
                Gen.Select(Truth(depth - 1), One("&&", "||"), Truth(depth - 1), (a, op, b) => $"({a}) {op} ({b})"),
                Gen.Select(Truth(depth - 1), a => $"!({a})"),
                Gen.Select(Truth(0), Truth(depth - 1), Truth(0), (a, b, c) => $"({a}) ? ({b}) : ({c})")
            );

    [Fact]
    public void The_analysis_finds_what_looking_at_every_record_finds_and_never_gives_up() =>
        Gen.OneOf(Truth(0), Truth(1), Truth(2))
            .Sample(
                text =>
                {
                    var condition = Compiled(text);
                    var found = Everything(condition)
                        .Select(outcome =>
                            outcome switch
                            {
                                true => Outcome.Holds,
                                false => Outcome.DoesNotHold,
                                null => Outcome.Errs,
                            }
                        )
                        .ToHashSet();
                    foreach (var outcome in Enum.GetValues<Outcome>())
                    {
                        var answer = Analysis.Can(outcome, condition, Small, Around);
                        answer.Verdict.ShouldBe(found.Contains(outcome) ? Verdict.Yes : Verdict.No, $"{text} {outcome} {answer.Why}");
                        if (answer.Witness is { } witness)
                        {
                            (
                                Evaluator.Holds(condition, witness.Surroundings(Small, condition.Reads())) switch
                                {
                                    true => Outcome.Holds,
                                    false => Outcome.DoesNotHold,
                                    null => Outcome.Errs,
                                }
                            ).ShouldBe(outcome, $"{text} with {witness.Describe(Small)}");
                        }
                    }
                },
                iter: 1_500
            );

    /// <summary>The outcome on every record and mode; only what the condition reads is varied.</summary>
    private static IEnumerable<bool?> Everything(Expression condition)
    {
        var domains = new Dictionary<string, object?[]>
        {
            ["kind"] = [null, "row", "sail"],
            ["other"] = [null, "row", "sail"],
            ["oars"] = [null, 0L, 1L, 2L, 3L],
            ["crew"] = [null, 1L, 2L, 3L],
            ["beam"] = [null, 0.8, 0.9, 1.0, 1.1, 1.2, 1.3],
            ["dry"] = [null, true, false],
            ["gear"] = [null, new object?[] { "row" }, new object?[] { "sail" }, new object?[] { "row", "sail" }],
            ["dock"] = [null, 1L, 2L, 3L, 4L, 5L],
            ["winter"] = [null, 1L, 2L, 3L, 4L, 5L],
            ["dock.depth"] = [null, 1L, 2L],
            ["winter.depth"] = [null, 1L, 2L],
        };
        var reads = condition.Reads().Concat(condition.FieldsRead()).Distinct().ToArray();
        IEnumerable<Dictionary<string, object?>> records = [Small.Fields.ToDictionary(field => field.Key, _ => (object?)null)];
        foreach (var read in reads)
        {
            records = records.SelectMany(record =>
                domains[read].Select(value => new Dictionary<string, object?>(record) { [read] = value })
            );
        }

        return from record in records
            where IsPossible(record)
            from mode in new[] { "create", "edit", "view" }
            select Evaluator.Holds(condition, EvaluationContext.Of(record, "", [], mode, "en", default, default));
    }

    /// <summary>An empty reference leads to nothing, two that lead to one record find the same there.</summary>
    private static bool IsPossible(Dictionary<string, object?> record) =>
        new[] { "dock", "winter" }.All(key => record[key] is not null || record.GetValueOrDefault($"{key}.depth") is null)
        && !(
            record["dock"] is { } one
            && one.Equals(record["winter"])
            && record.TryGetValue("dock.depth", out var here)
            && record.TryGetValue("winter.depth", out var there)
            && !Equals(here, there)
        );

    /// <summary>As many fields as one likes are compared with one another.</summary>
    [Theory]
    [InlineData(3)]
    [InlineData(8)]
    [InlineData(25)]
    public void A_chain_of_comparisons_is_decided_however_long_it_is(int fields)
    {
        var wide = Small with
        {
            Fields =
            [
                .. Enumerable
                    .Range(0, fields)
                    .Select(i => new Field
                    {
                        Key = $"f{i}",
                        Label = Texts.Of($"F{i}"),
                        Type = FieldType.Integer,
                    }),
            ],
        };
        var chain = string.Join(" && ", Enumerable.Range(0, fields - 1).Select(i => $"record.f{i} < record.f{i + 1}"));

        Decided(chain).ShouldBe([Verdict.Yes, Verdict.Yes, Verdict.Yes]);
        Decided($"{chain} && record.f{fields - 1} < record.f0")[0].ShouldBe(Verdict.No);
        var dead = Enumerable
            .Range(0, Math.Min(fields, 1_900 / (chain.Length + 50)))
            .Select(i => $"(record.f{i} > 5 && record.f{i} < {i % 5} && ({chain}))");
        Decided(string.Join(" || ", dead))[0].ShouldBe(Verdict.No);

        Verdict[] Decided(string text)
        {
            var (expression, problem) = Parser.Parse(text);
            problem.ShouldBeNull();
            return [.. Analysis.All(expression!, wide, Around).Select(answer => answer.Verdict)];
        }
    }

    /// <summary>What lies at the edge of what a type holds is compared like anything else.</summary>
    [Theory]
    [InlineData("record.surveyDue > timestamp('9999-12-31T00:00:00Z')", Verdict.No)]
    [InlineData("record.surveyDue >= timestamp('9999-12-31T00:00:00Z')", Verdict.Yes)]
    [InlineData("record.surveyDue < timestamp('0001-01-01T00:00:00Z')", Verdict.No)]
    [InlineData("record.surveyDue <= timestamp('0001-01-01T00:00:00Z')", Verdict.Yes)]
    [InlineData("record.surveyDue < timestamp('9999-12-31T23:59:59.999999999Z')", Verdict.Yes)]
    [InlineData("today >= timestamp('9999-12-31T23:59:59Z')", Verdict.No)]
    [InlineData("record.engineHours > 9223372036854775807", Verdict.No)]
    [InlineData("record.engineHours < -9223372036854775808", Verdict.No)]
    [InlineData("record.engineHours < 9223372036854775807", Verdict.Yes)]
    [InlineData("record.length < 1e300", Verdict.Yes)]
    [InlineData("record.length > -1e300", Verdict.Yes)]
    [InlineData("record.length > 1e18", Verdict.No)]
    [InlineData("record.berth > 5", Verdict.Yes)]
    [InlineData("record.berth < 1", Verdict.No)]
    [InlineData("record.berth >= 9007199254740991", Verdict.Yes)]
    public void What_lies_at_the_edge_of_a_type_is_decided(string text, Verdict verdict)
    {
        var (expression, problems) = Condition.Compile(text, Demo.Vessel, Demo.Definitions);
        problems.ShouldBeEmpty();
        foreach (var answer in Analysis.All(expression!, Demo.Vessel, Demo.Definitions))
        {
            answer.Witness?.Describe(Demo.Vessel).English.ShouldNotBeEmpty();
            answer.Why.ShouldBeNull();
        }

        Analysis.Can(Outcome.Holds, expression!, Demo.Vessel, Demo.Definitions).Verdict.ShouldBe(verdict);
    }

    [Theory]
    [InlineData("record.length > 5.0 && record.length < 4.0", Verdict.No)]
    [InlineData("record.length < 0.0", Verdict.No)]
    [InlineData("record.name == 'Kittiwake' && record.name != 'Kittiwake'", Verdict.No)]
    [InlineData("record.keeper != null && record.keeper == null", Verdict.No)]
    [InlineData(
        "record.surveyDue < today && record.surveyDue > timestamp('2030-01-01T00:00:00Z') && today < timestamp('2029-01-01T00:00:00Z')",
        Verdict.No
    )]
    [InlineData("record.surveyDue > timestamp('2030-01-01T00:00:00Z') && record.surveyDue < timestamp('2030-01-02T00:00:00Z')", Verdict.No)]
    [InlineData(
        "record.surveyDue > timestamp('2030-01-01T00:00:00Z') && record.surveyDue < timestamp('2030-01-03T00:00:00Z')",
        Verdict.Yes
    )]
    [InlineData("record.berth.zone == 'outer' && record.berth == null", Verdict.No)]
    [InlineData("'quay-hand' in user.roles && 'auditor' in user.roles", Verdict.Yes)]
    [InlineData("record.name.startsWith('K') && record.name == 'Kittiwake'", Verdict.Yes)]
    [InlineData("record.name.startsWith('K') && record.name == 'Sandpiper'", Verdict.CannotTell)]
    [InlineData("record.length + record.beam > 3.0", Verdict.Yes)]
    [InlineData("record.name < 'a'", Verdict.CannotTell)]
    public void A_condition_can_hold_cannot_or_one_cannot_tell(string text, Verdict verdict)
    {
        var (expression, problems) = Condition.Compile(text, Demo.Vessel, Demo.Definitions);
        problems.ShouldBeEmpty();

        Analysis.Can(Outcome.Holds, expression!, Demo.Vessel, Demo.Definitions).Verdict.ShouldBe(verdict);
    }

    [Fact]
    public void Two_conditions_that_exclude_one_another_are_found_to()
    {
        Analysis.Together(Compiled("record.oars > 1"), Compiled("record.oars < 2"), Small, Around).Verdict.ShouldBe(Verdict.No);
        Analysis
            .Together(Compiled("record.oars > 1"), Compiled("record.crew < 2"), Small, Around)
            .Witness!.Describe(Small)
            .English.ShouldBe("Crew 1, Oars 2");
    }

    private static Expression Compiled(string text)
    {
        var (expression, problems) = Condition.Compile(text, Small, Around);
        problems.ShouldBeEmpty(text);
        return expression!;
    }
}
