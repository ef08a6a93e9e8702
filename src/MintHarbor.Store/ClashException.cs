namespace MintHarbor.Store;

/// <summary>What somebody is about to write would go over what another has written since they looked.</summary>
/// <param name="message">What the other did, as a sentence.</param>
public sealed class ClashException(string message) : Exception(message);
