using System.Data.Common;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace MintHarbor.Store;

/// <summary>Who is at work in this flow of calls, as far as the store has to know: whose name a change is kept under, and when nobody waits
/// for what is being read any more.</summary>
public sealed class Visit
{
    private static readonly AsyncLocal<Visit?> Flow = new();

    /// <summary>Null where nobody is: at the start, in the demo's loading.</summary>
    public static Visit? Now
    {
        get => Flow.Value;
        set => Flow.Value = value;
    }

    public int? PersonId { get; set; }
    public string Name { get; set; } = "";

    /// <summary>The sign-in, so that two people of one name, and one person on two devices, are told apart.</summary>
    public Guid? SignIn { get; init; }
    public int? CourseId { get; set; }

    /// <summary>The reason that goes with what is written next.</summary>
    public string Why { get; set; } = "";

    /// <summary>The reader has gone: of a request that only reads. What is written is written to its end.</summary>
    public CancellationToken Gone { get; init; }
}

/// <summary>A statement that nobody waits for is ended, by construction: every one of a request that only reads is sent with its reader's own
/// token, where the caller has passed no other.</summary>
public sealed class ReadsEnd : DbCommandInterceptor
{
    public override async ValueTask<InterceptionResult<DbDataReader>> ReaderExecutingAsync(
        DbCommand command,
        CommandEventData eventData,
        InterceptionResult<DbDataReader> result,
        CancellationToken cancellationToken = default
    ) =>
        result.HasResult || cancellationToken.CanBeCanceled || Visit.Now is not { Gone: { CanBeCanceled: true } gone }
            ? result
            : InterceptionResult<DbDataReader>.SuppressWithResult(await command.ExecuteReaderAsync(gone));
}
