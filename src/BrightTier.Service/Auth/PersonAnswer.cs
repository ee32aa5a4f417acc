using BrightTier.Contracts;
using BrightTier.Storage;

namespace BrightTier.Service.Auth;

/// <summary>What is answered about a person.</summary>
internal static class PersonAnswer
{
    public static Person Of(PersonRow row) =>
        new(
            row.Id,
            row.Name,
            row.Roles.Split(' ', StringSplitOptions.RemoveEmptyEntries),
            row.Language,
            row.Provider is not null,
            row.Region
        );
}
