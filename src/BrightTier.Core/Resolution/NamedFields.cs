using BrightTier.Core.Conditions;
using BrightTier.Core.Model;

namespace BrightTier.Core.Resolution;

/// <summary>
/// The fields that contents show, name in a text, or read in a condition. A part that several contents share is looked at once.
/// </summary>
internal sealed class NamedFields
{
    private readonly HashSet<string> keys = new(StringComparer.Ordinal);
    private readonly SortedSet<string> steps = new(StringComparer.Ordinal);
    private readonly HashSet<object> seen = new(ReferenceEqualityComparer.Instance);

    private NamedFields() { }

    /// <summary>The record's own fields.</summary>
    public IReadOnlySet<string> Keys => keys;

    /// <summary>Steps through references that conditions and expressions take, such as berth.zone.</summary>
    public IEnumerable<string> Steps => steps;

    public static NamedFields In(IEnumerable<ResolvedContent> contents)
    {
        var named = new NamedFields();
        foreach (var content in contents)
        {
            named.Content(content);
        }

        return named;
    }

    private void Content(ResolvedContent content)
    {
        Band(content.Top);
        Band(content.Bottom);
        Side(content.Start);
        Side(content.End);
        Pages(content.Body);
        Picture(content.Picture);
        keys.UnionWith(content.Columns.Select(column => column.Field));
        keys.UnionWith(content.Filters);
        Reads(content.Filter);
    }

    private void Picture(string? field)
    {
        if (field is not null)
        {
            keys.Add(field);
        }
    }

    private void Band(ResolvedBand? band)
    {
        if (band is null)
        {
            return;
        }

        Text(band.Text);
        Picture(band.Picture);
        foreach (var item in band.Items)
        {
            Item(item);
        }
    }

    private void Side(ResolvedSide? side)
    {
        if (side is null)
        {
            return;
        }

        Reads(side.Visible);
        foreach (var section in side.Sections)
        {
            Section(section);
        }
    }

    private void Pages(ResolvedPanel panel)
    {
        foreach (var page in panel.Pages)
        {
            if (!seen.Add(page))
            {
                continue;
            }

            Reads(page.Visible);
            foreach (var section in page.Sections)
            {
                Section(section);
            }
        }
    }

    private void Section(ResolvedSection section)
    {
        if (!seen.Add(section))
        {
            return;
        }

        Reads(section.Visible);
        foreach (var row in section.Rows)
        {
            if (!seen.Add(row))
            {
                continue;
            }

            foreach (var cell in row.Cells)
            {
                foreach (var item in cell.Items)
                {
                    Item(item);
                }
            }
        }
    }

    private void Item(ResolvedItem item)
    {
        Reads(item.Visible);
        switch (item)
        {
            case ResolvedField field:
                keys.Add(field.Field);
                Reads(field.Required);
                Reads(field.ReadOnly);
                keys.UnionWith(field.Reference?.FilterBy.Values ?? []);
                break;
            case ResolvedMark { Kind: "text" } mark:
                Text(mark.Content);
                break;
            case ResolvedLink link:
                Text(link.Address);
                break;
            case ResolvedAction action:
                Text(action.Address ?? "");
                keys.UnionWith(action.Values.Keys);
                foreach (var value in action.Values.Values)
                {
                    Reads(value);
                }

                break;
            case ResolvedRelatedRecords related:
                Reads(related.ReadOnly);
                break;
            case ResolvedPanel panel:
                Pages(panel);
                break;
        }
    }

    private void Text(string text) => keys.UnionWith(Placeholders.In(text));

    private void Reads(Decision decision)
    {
        if (decision.When is { } condition)
        {
            Reads(condition);
        }
    }

    private void Reads(Expression expression)
    {
        foreach (var read in expression.Reads())
        {
            var own = Expression.Own(read);
            keys.Add(own);
            if (own != read)
            {
                steps.Add(read);
            }
        }
    }
}
