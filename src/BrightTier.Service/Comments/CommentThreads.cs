using System.Globalization;
using System.Text.RegularExpressions;
using BrightTier.Contracts;
using BrightTier.Service.Http;
using BrightTier.Storage;

namespace BrightTier.Service.Comments;

/// <summary>What people say about something, whatever it is: records and drafts alike.</summary>
public sealed partial class CommentThreads(CommentStore comments, PeopleStore people)
{
    private const int Longest = 4_000;

    /// <summary>All about a subject, oldest first; from then on the reader has seen it.</summary>
    public async Task<IReadOnlyList<CommentInfo>> About(string subject, string reader, CancellationToken cancel)
    {
        var rows = await comments.About(subject, cancel);
        await comments.See(reader, subject, cancel);
        return await Infos(rows, cancel);
    }

    /// <summary>Says something; whoever is named is told.</summary>
    public async Task<CommentInfo> Add(string subject, CommentRequest request, string by, CancellationToken cancel)
    {
        var text = request.Text?.Trim() ?? "";
        if (text.Length is 0 or > Longest)
        {
            throw Problems.Invalid(
                $"A comment has from 1 to {Longest} characters; this one has {text.Length}.",
                Problems.Part("/text", text.Length == 0 ? (Message)$"must not be empty" : $"must have at most {Longest} characters")
            );
        }

        var everyone = await people.List(cancel);
        var named = Named(text).Where(each => everyone.Any(person => person.Id == each) && each != by).ToArray();
        return (await Infos([await comments.Add(subject, request.Item, by, text, named, cancel)], cancel))[0];
    }

    public async Task<IReadOnlyList<CommentInfo>> Unseen(string person, CancellationToken cancel) =>
        await Infos(await comments.Unseen(person, cancel), cancel);

    /// <summary>A comment, with what it is about.</summary>
    public async Task<(CommentInfo Info, string Subject)> Find(long id, CancellationToken cancel)
    {
        var row = await comments.Find(id, cancel) ?? throw Problems.NotFound($"comment", id.ToString(CultureInfo.InvariantCulture));
        return ((await Infos([row], cancel))[0], row.Subject);
    }

    /// <summary>Says that what a comment asks for is done, or open again.</summary>
    public async Task<CommentInfo> Resolve(long id, bool resolved, string by, CancellationToken cancel)
    {
        await comments.Resolve(id, resolved ? by : null, cancel);
        return (await Find(id, cancel)).Info;
    }

    private async Task<IReadOnlyList<CommentInfo>> Infos(IReadOnlyList<CommentRow> rows, CancellationToken cancel)
    {
        var names = (await people.List(cancel)).ToDictionary(person => person.Id, person => person.Name);
        return [.. rows.Select(Info)];

        CommentInfo Info(CommentRow row)
        {
            var (entity, record, draft) = row.Subject.Split('/') switch
            {
                ["record", var name, var id] => (name, long.Parse(id, CultureInfo.InvariantCulture), null),
                ["draft", var kind, var key] => (default(string), default(long?), new DocumentName(kind, key)),
                _ => throw new InvalidDataException($"Comment {row.Id} is about '{row.Subject}'."),
            };
            return new CommentInfo(
                row.Id,
                entity,
                record,
                draft,
                row.Item,
                row.By,
                names.GetValueOrDefault(row.By, row.By),
                Moment(row.At)!.Value,
                row.Text,
                [.. Named(row.Text).Where(names.ContainsKey)],
                Moment(row.ResolvedAt),
                row.ResolvedBy
            );
        }
    }

    private static DateTimeOffset? Moment(long? at) =>
        at is { } milliseconds ? DateTimeOffset.FromUnixTimeMilliseconds(milliseconds) : null;

    private static IEnumerable<string> Named(string text) => Mention().Matches(text).Select(match => match.Groups[1].Value).Distinct();

    [GeneratedRegex(@"(?<![\w@])@([A-Za-z][\w-]*)")]
    private static partial Regex Mention();
}
