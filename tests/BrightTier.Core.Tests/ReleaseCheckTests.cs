using System.Collections.Immutable;
using BrightTier.Core.Model;
using BrightTier.Core.Validation;

namespace BrightTier.Core.Tests;

/// <summary>What stands against a release, and what it would change in who may do what.</summary>
public sealed class ReleaseCheckTests
{
    private static Definitions With(Func<Entity, Entity> change) => With(Demo.Definitions, change);

    private static Definitions With(Definitions definitions, Func<Entity, Entity> change) =>
        definitions with
        {
            Entities = definitions.Entities.SetItem("vessel", change(definitions.Entities["vessel"])),
        };

    private static Entity Field(Entity entity, string key, Func<Field, Field> change) =>
        entity with
        {
            Fields = [.. entity.Fields.Select(field => field.Key == key ? change(field) : field)],
        };

    private static ReleaseProblem[] Problems(Definitions next) =>
        [.. ReleaseCheck.Between(Demo.Catalogue, Demo.Catalogue with { Definitions = next })];

    [Fact]
    public void Nothing_stands_against_what_everyone_has() => Problems(Demo.Definitions).ShouldBeEmpty();

    [Fact]
    public void A_field_that_goes_or_changes_its_type_loses_data_and_one_that_is_retired_does_not()
    {
        var gone = Problems(With(entity => entity with { Fields = [.. entity.Fields.Where(field => field.Key != "beam")] }));
        gone.Single(problem => problem.Code == "field-removed")
            .ShouldSatisfyAllConditions(
                problem => problem.LosesData.ShouldBeTrue(),
                problem => problem.At.ShouldBe("entity/vessel"),
                problem => problem.Message.English.ShouldContain("'beam'")
            );

        var other = Problems(With(entity => Field(entity, "beam", field => field with { Type = FieldType.Text })));
        other.ShouldContain(problem => problem.Code == "type-changed" && problem.LosesData);
        var elsewhere = Problems(With(entity => Field(entity, "berth", field => field with { Target = "keeper" })));
        elsewhere.ShouldContain(problem => problem.Code == "type-changed" && problem.LosesData);

        var retired = Problems(With(entity => Field(entity, "beam", field => field with { Retired = true })));
        retired.ShouldNotContain(problem => problem.LosesData);
    }

    [Fact]
    public void A_field_that_names_what_is_not_there_is_told_with_the_nearest_name()
    {
        var target = Problems(With(entity => Field(entity, "berth", field => field with { Target = "berht" })));
        target.ShouldContain(problem => problem.Code == "unknown" && problem.Message.English.Contains("did you mean 'berth'?"));
        var list = Problems(With(entity => Field(entity, "hullType", field => field with { ChoiceList = "hulltype" })));
        list.ShouldContain(problem => problem.Code == "unknown" && problem.Message.English.Contains("did you mean 'hullType'?"));
    }

    [Fact]
    public void An_error_in_a_layout_or_in_the_menu_stands_at_its_place()
    {
        var layout = Demo.VesselRows("beem");
        var next = Demo.Catalogue with
        {
            Layouts = Demo.Catalogue.Layouts.SetItem(layout.Key, layout),
            Navigation = Demo.Catalogue.Navigation with
            {
                Entries = [new MenuEntry("stray", Texts.Of("Stray"), null, "vesel", null, [], []), .. Demo.Catalogue.Navigation.Entries],
            },
        };
        var problems = ReleaseCheck.Between(Demo.Catalogue, next);
        problems.ShouldContain(problem => problem.At.StartsWith("layout/trial/") && problem.Code == "field-unknown" && !problem.LosesData);
        problems.ShouldContain(problem => problem.At == "navigation/navigation/entries/0/entity" && problem.Code == "navigation-unknown");
    }

    [Fact]
    public void Who_may_do_what_is_told_where_it_changes_and_nowhere_else()
    {
        var now = Demo.Definitions;
        RightsChange.Between(now, now).ShouldBeEmpty();
        RightsChange.Between(now, With(entity => Field(entity, "beam", field => field with { Required = true }))).ShouldBeEmpty();

        var approved = now with { Application = now.Application with { Approval = !now.Application.Approval } };
        RightsChange.Between(now, approved).Single().English.ShouldContain("second person");
        RightsChange.Between(approved, now).Single().English.ShouldContain("second person");

        var role = now.Application.Roles.First(each => !each.May.IsEmpty);
        Definitions As(Role? next) =>
            now with
            {
                Application = now.Application with
                {
                    Roles = [.. now.Application.Roles.Select(each => each.Key == role.Key ? next : each).OfType<Role>()],
                },
            };
        RightsChange.Between(now, As(null)).Single().English.ShouldContain("would be allowed nothing");
        RightsChange.Between(As(null), now).Single().English.ShouldContain("may nothing");
        var narrower = role with { Entities = role.Entities.IsEmpty ? ["vessel"] : [] };
        RightsChange.Between(now, As(narrower)).Single().English.ShouldContain("would configure");
        RightsChange.Between(now, As(role with { May = [.. role.May.Reverse()] })).ShouldBeEmpty();
    }

    [Fact]
    public void Nobody_and_everybody_are_two_things()
    {
        ImmutableArray<string>? nobody = [];
        var hidden = With(entity => Field(entity, "beam", field => field with { Read = nobody, Write = null }));
        RightsChange.Between(Demo.Definitions, hidden).Single().English.ShouldContain("read by nobody");
        RightsChange.Between(hidden, Demo.Definitions).Single().English.ShouldContain("read by everybody");
        var office = With(entity => Field(entity, "beam", field => field with { Read = ["harbour-office"] }));
        RightsChange.Between(Demo.Definitions, office).Single().English.ShouldContain("read by harbour-office");
    }
}
