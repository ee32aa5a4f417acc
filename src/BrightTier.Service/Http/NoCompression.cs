namespace BrightTier.Service.Http;

/// <summary>
/// Marks an endpoint whose answers hold a secret, or are compressed already, or are told bit by bit: they are not compressed (BREACH).
/// </summary>
public sealed record NoCompression;
