using Microsoft.EntityFrameworkCore;

namespace BrightTier.Storage;

/// <summary>What people keep for themselves, each under a name.</summary>
public sealed class PreferenceStore(IDbContextFactory<StorageContext> contexts)
{
    public async Task<string?> Find(string person, string name, CancellationToken cancel) =>
        await contexts.Read(
            "SELECT \"Content\" FROM preference WHERE \"Person\" = @person AND \"Name\" = @name",
            row => row.GetString(0),
            cancel,
            ("person", person),
            ("name", name)
        )
            is [var content]
            ? content
            : null;

    public async Task Save(string person, string name, string content, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        if (await context.Preferences.FirstOrDefaultAsync(row => row.Person == person && row.Name == name, cancel) is { } present)
        {
            present.Content = content;
        }
        else
        {
            context.Preferences.Add(
                new PreferenceRow
                {
                    Person = person,
                    Name = name,
                    Content = content,
                }
            );
        }

        await context.SaveChangesAsync(cancel);
    }

    public async Task Remove(string person, string name, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        await context.Preferences.Where(row => row.Person == person && row.Name == name).ExecuteDeleteAsync(cancel);
    }

    /// <summary>Under which names somebody keeps something.</summary>
    public Task<IReadOnlyList<string>> Names(string person, CancellationToken cancel) =>
        contexts.Read("SELECT \"Name\" FROM preference WHERE \"Person\" = @person", row => row.GetString(0), cancel, ("person", person));

    /// <summary>Under how many names somebody keeps something.</summary>
    public async Task<int> Count(string person, CancellationToken cancel)
    {
        await using var context = await contexts.CreateDbContextAsync(cancel);
        return await context.Preferences.CountAsync(preference => preference.Person == person, cancel);
    }
}
