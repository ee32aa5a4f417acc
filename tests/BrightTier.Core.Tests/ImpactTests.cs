using BrightTier.Core.Composition;
using BrightTier.Core.Model;

namespace BrightTier.Core.Tests;

/// <summary>Where things are used, and what would notice.</summary>
public sealed class ImpactTests
{
    [Theory]
    [InlineData("field", "vessel.coverPolicy", "hullCover")]
    [InlineData("field", "berth.zone", "text")]
    [InlineData("choice", "propulsion.sail", "rig")]
    [InlineData("role", "yard-foreman", "/rules/0/roles")]
    [InlineData("pattern", "berthCode", "/fields/0")]
    [InlineData("entity", "liftOut", "/fields/0")]
    [InlineData("layout", "vessel", "layout")]
    public void Everything_that_would_notice_a_change_is_found(string subject, string name, string place) =>
        Impact.Of(subject, name, Demo.Catalogue).Select(use => use.Place).ShouldContain(place);

    /// <summary>Whatever there is can be asked about by the name it is listed under.</summary>
    [Theory]
    [InlineData("field", "vessel.coverPolicy")]
    [InlineData("choice", "propulsion.sail")]
    [InlineData("choice-list", "propulsion")]
    [InlineData("entity", "liftOut")]
    [InlineData("piece", "cover")]
    [InlineData("role", "yard-foreman")]
    [InlineData("pattern", "berthCode")]
    [InlineData("layout", "vessel")]
    [InlineData("style", "caution")]
    public void Names_are_known_and_some_of_them_are_used(string subject, string name)
    {
        var names = Impact.Names(subject, Demo.Catalogue);
        names.ShouldContain(name);
        names.ShouldContain(each => Impact.Of(subject, each, Demo.Catalogue).Count > 0);
        Impact.Subjects.ShouldContain(subject);
    }

    /// <summary>Conditions stand in more places than on nodes: in routing rules, in changes, and in what actions set.</summary>
    [Theory]
    [InlineData("field", "vessel.propulsion", "routing")]
    [InlineData("choice", "propulsion.sail", "routing")]
    [InlineData("choice", "propulsion.petrol", "derived")]
    [InlineData("role", "quay-hand", "derived")]
    [InlineData("role", "bookkeeper", "trial")]
    [InlineData("field", "berth.zone", "trial")]
    public void Expressions_are_found_wherever_they_stand(string subject, string name, string document)
    {
        var trial = Demo.VesselRows(
            "[name, { action: set, id: stamp, label: Stamp, values: { notes: \"'bookkeeper' in user.roles ? record.berth.zone : ''\" } }]"
        );
        var derived = Demo.ReadLayout(
            """
            kind: full
            key: derived
            entity: vessel
            extends: trial
            changes:
              - set: { name: { visible: "record.propulsion == 'petrol' || 'quay-hand' in user.roles" } }
            """
        );
        var catalogue = Demo.Catalogue with
        {
            Layouts = Demo.Catalogue.Layouts.Clear().Add("trial", trial).Add("derived", derived),
            Routing = Demo.Catalogue.Routing with
            {
                Rules = [new RoutingRule("vessel", "full", "derived", [], "record.propulsion == 'sail'")],
            },
        };

        Impact.Of(subject, name, catalogue).Select(use => use.Key).ShouldContain(document);
    }
}
