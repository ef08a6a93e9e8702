using MintHarbor.Core.Critiques;
using MintHarbor.Core.Measuring;

namespace MintHarbor.Core.Sessions;

/// <summary>One rung of the Long-first ladder.</summary>
/// <param name="Model">Who sits at most: "still-life", "cast" or "person"; a rung of persons opens the earlier ones too.</param>
/// <param name="PoseHours">How long one pose is worked on over its meetings, in hours; 0 where the rung sets none.</param>
/// <param name="LeastMinutes">Least minutes that one pose or subject is drawn in a meeting; anything shorter lies under the rung.</param>
/// <param name="Measures">Rules whose sheets are the evidence; none means that nothing here is measured and the instructor's
/// word moves it.</param>
public sealed record Rung(string Id, string Name, string Model, double PoseHours, double LeastMinutes, IReadOnlyList<string> Measures)
{
    public bool Live => Model == "person";
}

/// <summary>What one student's last sheets say about a rung.</summary>
/// <param name="Inside">Sheets, from the newest back without a gap, in which every judged measure of the rung lies inside.</param>
public sealed record RungEvidence(int Student, int Inside);

/// <summary>Whether the next rung is open, and why.</summary>
public sealed record RungReading(Rung Rung, Rung? Next, bool Open, int Ready, int Students, string Says, string Because);

/// <summary>The Long-first ladder: speed is the fruit of mastery, so short poses come last. A rung is left by evidence, or by
/// the instructor's word with a reason; which of the two is kept.</summary>
/// <param name="SheetsInside">How many sheets in a row must lie inside.</param>
/// <param name="ShareOfStudents">Share of the course that must have them, 0 to 1; our default.</param>
public sealed record Ladder(string Source, int SheetsInside, double ShareOfStudents, IReadOnlyList<Rung> Rungs)
{
    public static Ladder Default { get; } = CoreData.Read<Ladder>("ladder");

    public string Ids => string.Join(" | ", Rungs.Select(r => r.Id));

    /// <exception cref="InputException">No rung of that id.</exception>
    public Rung Get(string id, string field = "rung") =>
        Rungs.FirstOrDefault(r => r.Id == id) ?? throw new InputException($"unknown rung '{id}'", field, Ids);

    public Rung? After(Rung rung) => Rungs.SkipWhile(r => r.Id != rung.Id).Skip(1).FirstOrDefault();

    /// <summary>Sheets inside, from the newest back without a gap. A sheet counts as inside when at least one measure of the
    /// rung was judged on it and none of them lies outside; too close to call is not inside.</summary>
    /// <param name="newestFirst">Findings of each sheet, the newest sheet first.</param>
    public static int Run(Rung rung, IEnumerable<IReadOnlyList<Finding>> newestFirst) =>
        newestFirst
            .TakeWhile(findings =>
            {
                var judged = findings
                    .Where(f => rung.Measures.Contains(f.Rule.Id) && f.Verdict is Verdict.Inside or Verdict.Outside or Verdict.TooClose)
                    .ToList();
                return judged.Count > 0 && judged.All(f => f.Verdict == Verdict.Inside);
            })
            .Count();

    public RungReading Read(string rungId, IReadOnlyList<RungEvidence> students)
    {
        var rung = Get(rungId);
        var next = After(rung);
        var ready = students.Count(s => s.Inside >= SheetsInside);
        var wanted = Math.Max(1, (int)Math.Ceiling(ShareOfStudents * students.Count));
        var open = rung.Measures.Count > 0 && students.Count > 0 && ready >= wanted;
        var says =
            next is null ? "The last rung: every length is open."
            : rung.Measures.Count == 0 ? $"Nothing on '{rung.Name}' is measured on a sheet; your word opens '{next.Name}'."
            : open
                ? $"'{next.Name}' is open: {ready} of {Say.Plural(students.Count, "student")} have their last {SheetsInside} sheets inside."
            : $"{ready} of {Say.Plural(students.Count, "student")} have their last {SheetsInside} sheets inside; '{next.Name}' opens at {wanted}.";
        var because =
            rung.Measures.Count == 0
                ? Source
                : $"measures: {Rules.Named(rung.Measures)}; {Say.Number(100 * ShareOfStudents)} % of {students.Count} = {wanted}; {Source}";
        return new(rung, next, open, ready, students.Count, says, because);
    }
}
