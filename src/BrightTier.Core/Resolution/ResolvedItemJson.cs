using System.Collections.Immutable;
using BrightTier.Core.Conditions;
using BrightTier.Core.Icons;

namespace BrightTier.Core.Resolution;

/// <summary>The items of a form as JSON.</summary>
public static partial class ResolvedFormJson
{
    private readonly partial struct ContentWriter
    {
        private void Items(ImmutableArray<ResolvedItem> items)
        {
            writer.WriteStartArray("items");
            foreach (var item in items)
            {
                if (!IsShared(item, item.Id))
                {
                    Item(item);
                }
            }

            writer.WriteEndArray();
        }

        private void Item(ResolvedItem item)
        {
            Open(writer, item.Id, item.Visible, item.Ghost);
            switch (item)
            {
                case ResolvedField field:
                    Field(field);
                    break;
                case ResolvedMark mark:
                    writer.WriteString("kind", mark.Kind);
                    writer.WriteString("content", mark.Content);
                    Text(writer, "style", mark.Style ?? "");
                    if (mark.Kind == "text")
                    {
                        Blocks(mark.Content);
                    }

                    break;
                case ResolvedImage image:
                    writer.WriteString("kind", "image");
                    writer.WriteString("address", image.Address);
                    writer.WriteString("alt", image.Alt);
                    Number(writer, "lines", image.Lines);
                    break;
                case ResolvedLink link:
                    writer.WriteString("kind", "link");
                    writer.WriteString("address", link.Address);
                    writer.WriteString("label", link.Label);
                    break;
                case ResolvedAction action:
                    Action(action);
                    break;
                case ResolvedRelatedRecords related:
                    writer.WriteString("kind", "related");
                    writer.WriteString("entity", related.Entity);
                    writer.WriteString("through", related.Through);
                    writer.WriteString("label", related.Label);
                    Words("shows", related.Shows);
                    Words("totals", related.Totals);
                    Words("sort", related.Sort);
                    Text(writer, "order", related.Order ?? "");
                    writer.WriteString("as", related.As);
                    WriteDecision(writer, "readOnly", related.ReadOnly);
                    Fields(writer, related.Fields, definitions, language);
                    break;
                case ResolvedPanel panel:
                    writer.WriteString("kind", "panel");
                    writer.WriteString("arrangement", panel.Arrangement);
                    Flag(writer, "guarded", panel.Guarded);
                    Pages(panel.Pages);
                    break;
            }

            writer.WriteEndObject();
        }

        private void Field(ResolvedField field)
        {
            writer.WriteString("kind", "field");
            writer.WriteString("field", field.Field);
            writer.WriteString("label", field.Label);
            Text(writer, "help", field.Help);
            Text(writer, "hint", field.Hint);
            Text(writer, "prefix", field.Prefix);
            writer.WriteString("editor", field.Editor);
            writer.WriteNumber("lines", field.Lines);
            WriteDecision(writer, "required", field.Required);
            WriteDecision(writer, "readOnly", field.ReadOnly);
            Flag(writer, "emphasis", field.Emphasis);
            Text(writer, "labels", field.Labels ?? "");
            Text(writer, "punctuation", field.Punctuation ?? "");
            Flag(writer, "stretches", field.Stretches);
            if (field.SpellCheck is { } spelling)
            {
                writer.WriteBoolean("spellCheck", spelling);
            }

            Text(writer, "style", field.Style ?? "");
            Text(writer, "default", field.Default ?? "");
            if (field.Constraints is var constraints && !ReferenceEquals(constraints, Constraints.None))
            {
                Number(writer, "min", constraints.Min);
                Number(writer, "max", constraints.Max);
                Number(writer, "step", constraints.Step);
                Number(writer, "maxLength", constraints.MaxLength);
                Pattern(writer, constraints.Pattern, constraints.PatternMessage);
            }

            if (field.Reference is { } reference)
            {
                Text(writer, "display", reference.Display);
                Pairs("filterBy", reference.FilterBy);
                Pairs("copies", reference.Copies);
                Flag(writer, "creates", reference.Creates);
            }
        }

        private void Action(ResolvedAction action)
        {
            writer.WriteString("kind", "action");
            writer.WriteString("does", action.Does);
            writer.WriteString("label", action.Label);
            Text(writer, "icon", Icon.Path(action.Icon));
            Text(writer, "address", action.Address ?? "");
            if (action.Values.Count > 0)
            {
                writer.WriteStartObject("values");
                foreach (var (key, value) in action.Values)
                {
                    writer.WritePropertyName(key);
                    CompiledCondition.Write(writer, value);
                }

                writer.WriteEndObject();
            }

            Text(writer, "begins", action.Begins ?? "");
            Text(writer, "through", action.Through ?? "");
            Unless("side", action.Side, "start");
            Unless("weight", action.Weight, "normal");
        }

        private void Blocks(string content)
        {
            writer.WriteStartArray("blocks");
            foreach (var block in Markdown.Parse(content))
            {
                writer.WriteStartObject();
                writer.WriteString("kind", block.Kind);
                writer.WriteStartArray("lines");
                foreach (var line in block.Lines)
                {
                    writer.WriteStartArray();
                    foreach (var run in line)
                    {
                        writer.WriteStartObject();
                        Unless("kind", run.Kind, "plain");
                        writer.WriteString("text", run.Text);
                        Text(writer, "to", run.To ?? "");
                        writer.WriteEndObject();
                    }

                    writer.WriteEndArray();
                }

                writer.WriteEndArray();
                writer.WriteEndObject();
            }

            writer.WriteEndArray();
        }
    }
}
