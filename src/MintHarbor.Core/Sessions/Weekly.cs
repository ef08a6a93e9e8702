using NodaTime;

namespace MintHarbor.Core.Sessions;

/// <summary>Days on which nothing meets, both ends included.</summary>
/// <param name="Name">Why, as the calendar says it.</param>
public sealed record DaysOff(LocalDate From, LocalDate To, string Name)
{
    public bool Covers(LocalDate d) => d >= From && d <= To;
}

/// <summary>A time at which the room is somebody else's.</summary>
public sealed record Booking(LocalDateTime From, LocalDateTime To, string Name);

/// <param name="Date">A date of the rule.</param>
/// <param name="Why">Why there is no meeting on it; null where there is one.</param>
public sealed record TermDate(LocalDate Date, string? Why);

/// <summary>Meetings by a weekly rule, less holidays and bookings.</summary>
/// <param name="Every">Weeks from one to the next.</param>
/// <param name="Count">Meetings wanted; dates that fall out are made up at the end.</param>
public sealed record WeeklyRule(LocalDate First, LocalTime At, int Minutes, int Every, int Count)
{
    public const int MostCount = 60,
        MostLooks = 200;

    /// <summary>The rule's dates in order until the count is full: those with a meeting, and between them those that fall out, with why.</summary>
    /// <returns>Fewer meetings than wanted when two hundred dates of the rule don't hold that many.</returns>
    /// <exception cref="InputException">A count or interval that can't be.</exception>
    public IReadOnlyList<TermDate> Dates(IReadOnlyList<DaysOff> off, IReadOnlyList<Booking> bookings)
    {
        if (Count is < 1 or > MostCount)
            throw new InputException($"{Count} meetings", "count", $"1 to {MostCount}");
        if (Every is < 1 or > 8)
            throw new InputException($"every {Every} weeks", "every", "1 to 8 weeks");
        if (Minutes is < Planner.LeastMinutes or > Planner.MostMinutes)
            throw new InputException($"a meeting of {Minutes} min", "minutes", $"{Planner.LeastMinutes} to {Planner.MostMinutes}");
        var dates = new List<TermDate>();
        var met = 0;
        for (var n = 0; n < MostLooks && met < Count; n++)
        {
            var date = First.PlusWeeks(n * Every);
            var why = Taken(date + At, Minutes, off, bookings);
            dates.Add(new(date, why));
            if (why is null)
                met++;
        }
        return dates;
    }

    /// <summary>What takes a time: the holiday it falls on, or whose the room is; null where it is free.</summary>
    public static string? Taken(LocalDateTime from, int minutes, IReadOnlyList<DaysOff> off, IReadOnlyList<Booking> bookings)
    {
        var to = from.PlusMinutes(minutes);
        return off.FirstOrDefault(o => o.Covers(from.Date))?.Name
            ?? bookings.FirstOrDefault(b => b.From < to && b.To > from) switch
            {
                { } b => $"the room is taken: {b.Name}",
                _ => null,
            };
    }
}
