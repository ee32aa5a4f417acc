using System.CommandLine;
using System.Text.Json;
using BrightTier.Cli.Invocation;
using BrightTier.Cli.Output;
using BrightTier.Contracts;

namespace BrightTier.Cli.Commands;

/// <summary>Records: list, show, create, change.</summary>
internal static class RecordCommands
{
    public static Command Make(CommandLine line) =>
        new("record", "Records of an entity.") { List(line), Show(line), Create(line), Change(line) };

    private static Argument<string> Entity() => new("entity") { Description = "The entity's key." };

    private static Argument<long> Id() => new("id") { Description = "The record's number." };

    private static Argument<string[]> Values() =>
        new("value")
        {
            Description = "field=value; JSON where it reads as such, else a text; field= empties it.",
            Arity = ArgumentArity.OneOrMore,
        };

    private static Command List(CommandLine line)
    {
        var entity = Entity();
        var search = new Option<string?>("--search") { Description = "Only records with this text." };
        var sort = new Option<string?>("--sort") { Description = "Fields with commas between; -field for descending." };
        var filter = new Option<string?>("--filter")
        {
            Description = "Only records that fulfil this condition in CEL, such as \"record.length > 12.0\".",
        };
        var limit = new Option<int>("--limit") { Description = "How many, up to 200.", DefaultValueFactory = _ => 50 };
        var slow = new Option<bool>("--slow") { Description = "Though a large table of an attached database is read whole for it." };
        var list = new Command(
            "list",
            "Lists records.\n\nExample:\n  brighttier record list vessel --filter \"record.propulsion == 'sail'\" --sort -length --limit 5"
        )
        {
            entity,
            search,
            sort,
            filter,
            limit,
            slow,
        };
        line.Do(list, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var key = result.GetRequiredValue(entity);
            var page = await client.Records(
                key,
                result.GetValue(search),
                result.GetValue(sort),
                result.GetValue(filter),
                null,
                result.GetValue(limit),
                cancel,
                result.GetValue(slow)
            );
            if (context.Printer.Json)
            {
                context.Printer.Write(page, WireJson.Default.RecordPage);
                return Exit.Done;
            }

            var info = await client.Entity(key, cancel);
            context.Printer.Table(
                ["#", .. info.ListColumns.Select(column => info.Fields.First(field => field.Key == column).Label)],
                page.Records.Select(record => (string[])[$"{record.Id}", .. info.ListColumns.Select(column => Text(info, record, column))])
            );
            if (page.Total > page.Records.Count)
            {
                context.Printer.Line($"{page.Records.Count} of {page.Total}{(page.Exact ? "" : " or more")}; --limit shows more.");
            }

            return Exit.Done;
        });
        return list;
    }

    private static Command Show(CommandLine line)
    {
        var (entity, id) = (Entity(), Id());
        var show = new Command("show", "Shows a record.\n\nExample:\n  brighttier record show vessel 1") { entity, id };
        line.Do(show, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var info = await client.Entity(result.GetRequiredValue(entity), cancel);
            Print(context, info, await client.Record(info.Key, result.GetValue(id), cancel));
            return Exit.Done;
        });
        return show;
    }

    private static Command Create(CommandLine line)
    {
        var (entity, values) = (Entity(), Values());
        var create = new Command(
            "create",
            "Creates a record.\n\nExample:\n  brighttier record create berth code=E1 pontoon=\"East pontoon\" zone=outer maxLength=14"
        )
        {
            entity,
            values,
        };
        line.Change(create, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var info = await client.Entity(result.GetRequiredValue(entity), cancel);
            Print(
                context,
                info,
                await client.CreateRecord(info.Key, new RecordSave(Values(info, result.GetRequiredValue(values))), cancel)
            );
            return Exit.Done;
        });
        return create;
    }

    private static Command Change(CommandLine line)
    {
        var (entity, id, values) = (Entity(), Id(), Values());
        var version = new Option<long?>("--version-read") { Description = "The version the change is made for; default: the newest." };
        var change = new Command(
            "change",
            "Changes fields of a record.\n\nExample:\n  brighttier record change vessel 1 homePort=\"Eel Creek\" condition=5"
        )
        {
            entity,
            id,
            values,
            version,
        };
        line.Change(change, async (result, context, cancel) =>
        {
            using var client = context.Client();
            var info = await client.Entity(result.GetRequiredValue(entity), cancel);
            var number = result.GetValue(id);
            var read = result.GetValue(version) ?? (await client.Record(info.Key, number, cancel)).Version;
            Print(
                context,
                info,
                await client.ChangeRecord(info.Key, number, read, new RecordSave(Values(info, result.GetRequiredValue(values))), cancel)
            );
            return Exit.Done;
        });
        return change;
    }

    /// <summary>
    /// field=value pairs as a JSON object. Whether a value is a text is decided by the field's type, so that a registration of digits stays
    /// one.
    /// </summary>
    private static JsonElement Values(EntityInfo entity, string[] pairs)
    {
        var buffer = new System.Buffers.ArrayBufferWriter<byte>();
        using (var writer = new Utf8JsonWriter(buffer))
        {
            writer.WriteStartObject();
            foreach (var pair in pairs)
            {
                var equals = pair.IndexOf('=', StringComparison.Ordinal);
                if (equals <= 0)
                {
                    throw new UsageException($"'{pair}' is not field=value.");
                }

                var (key, value) = (pair[..equals], pair[(equals + 1)..]);
                writer.WritePropertyName(key);
                var type = entity.Fields.FirstOrDefault(field => field.Key == key)?.Type;
                if (value.Length == 0)
                {
                    writer.WriteNullValue();
                }
                else if (type is "choices")
                {
                    writer.WriteStartArray();
                    foreach (var choice in value.Split(','))
                    {
                        writer.WriteStringValue(choice.Trim());
                    }

                    writer.WriteEndArray();
                }
                else if (type is "boolean" or "integer" or "decimal" or "money" or "rating" or "reference" && IsJson(value))
                {
                    writer.WriteRawValue(value);
                }
                else
                {
                    writer.WriteStringValue(value);
                }
            }

            writer.WriteEndObject();
        }

        return JsonDocument.Parse(buffer.WrittenMemory).RootElement;
    }

    private static bool IsJson(string text)
    {
        try
        {
            using var parsed = JsonDocument.Parse(text);
            return true;
        }
        catch (JsonException)
        {
            return false;
        }
    }

    private static void Print(CommandContext context, EntityInfo entity, RecordInfo record)
    {
        if (context.Printer.Json)
        {
            context.Printer.Write(record, WireJson.Default.RecordInfo);
            return;
        }

        // Who changed a row of an attached table is not always known.
        var changed = record.ChangedBy is { } by
            ? $", version {record.Version}, changed by {by} {record.ChangedAt:yyyy-MM-dd HH:mm} UTC"
            : "";
        context.Printer.Line($"{record.Title}  (#{record.Id}{changed})");
        context.Printer.Table(
            ["Field", "Value"],
            entity
                .Fields.Where(field => record.Values.TryGetProperty(field.Key, out _))
                .Select(field => new[] { field.Label, Text(entity, record, field.Key) })
        );
    }

    private static string Text(EntityInfo entity, RecordInfo record, string key)
    {
        if (!record.Values.TryGetProperty(key, out var value))
        {
            return "";
        }

        var field = entity.Fields.First(each => each.Key == key);
        string Label(JsonElement choice) =>
            field.Choices?.FirstOrDefault(each => each.Key == choice.GetString())?.Label ?? choice.GetString()!;
        return field.Type switch
        {
            "reference" => record.References.TryGetValue(key, out var name) ? name.Title : value.GetRawText(),
            "choice" => Label(value),
            "choices" => string.Join(", ", value.EnumerateArray().Select(Label)),
            "boolean" => value.GetBoolean() ? "yes" : "no",
            _ => (value.ValueKind is JsonValueKind.String ? value.GetString()! : value.GetRawText())
                + (field.Unit is null ? "" : $" {field.Unit}"),
        };
    }
}
