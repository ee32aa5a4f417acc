namespace BrightTier.Service.Broadcast;

/// <summary>Knows how many clients are open.</summary>
public interface IOpenClients
{
    /// <summary>Of all processes together, where there are several.</summary>
    Task<int> Count(CancellationToken cancel);
}
