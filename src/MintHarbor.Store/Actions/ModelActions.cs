using Microsoft.EntityFrameworkCore;
using MintHarbor.Core;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Model;
using NodaTime;

namespace MintHarbor.Store.Actions;

/// <summary>What is said of a model: by the instructor all of it, by the model what is theirs to say.</summary>
public sealed record ModelWords(
    string? Name,
    IReadOnlyList<string> Gladly,
    IReadOnlyList<string> RatherNot,
    double Ease,
    string? Note,
    double? RatePerHour = null,
    double RatePerPosedHour = 0
);

/// <summary>What one model was paid for, meeting by meeting.</summary>
public sealed record ModelPaid(string Name, LocalDate Date, int Meeting, ModelPay Pay);

/// <summary>The book of those who pose for a course: who sits when, what they hold gladly and not, what they are paid.</summary>
public sealed class ModelActions(HarborContext db, IClock clock)
{
    public const int Most = 60,
        LongestNote = 300;

    /// <summary>Those in the book, by name.</summary>
    public Task<List<BookedModel>> Book(int course) =>
        db.BookedModels.AsNoTracking().Where(m => m.CourseId == course && m.LeftAt == null).OrderBy(m => m.Name).Take(Most).ToListAsync();

    /// <exception cref="InputException">Too many, a name that is there or none, or words that can't be kept.</exception>
    public async Task<BookedModel> Add(Course course, ModelWords words, string by)
    {
        if (await db.BookedModels.CountAsync(m => m.CourseId == course.Id && m.LeftAt == null) >= Most)
            throw new InputException($"the book holds {Most} models", "name", "one who is taken out first");
        var model = new BookedModel { CourseId = course.Id, Secret = Secrets.New() };
        await Say(model, words, by);
        db.BookedModels.Add(model);
        await db.SaveChangesAsync();
        return model;
    }

    /// <param name="version">The row as it was seen; null takes it as it is.</param>
    /// <exception cref="ClashException">Somebody changed it meanwhile.</exception>
    public async Task Change(BookedModel model, ModelWords words, string by, uint? version)
    {
        if (version is { } seen && seen != model.Version)
            throw new ClashException(
                $"{model.Name}'s page was changed meanwhile by {model.By}: look at it again, nothing of yours is lost."
            );
        await Say(model, words, by);
        await db.SaveChangesAsync();
    }

    /// <summary>What the model says on their own page: name and pay stay the instructor's.</summary>
    public Task Mend(BookedModel model, ModelWords words, uint? version) =>
        Change(
            model,
            words with
            {
                Name = model.Name,
                RatePerHour = model.RatePerHour,
                RatePerPosedHour = model.RatePerPosedHour,
            },
            "the model",
            version
        );

    private async Task Say(BookedModel model, ModelWords words, string by)
    {
        var name = Names.Checked(words.Name, "name", 60);
        if (await db.BookedModels.AnyAsync(m => m.CourseId == model.CourseId && m.Id != model.Id && m.LeftAt == null && m.Name == name))
            throw new InputException($"{name} is in the book already", "name", "another name");
        var known = ModelOfDay.Wishes.Select(w => w.Id).ToHashSet();
        if (words.Gladly.Concat(words.RatherNot).FirstOrDefault(w => !known.Contains(w)) is { } odd)
            throw new InputException($"'{odd}' is nothing that is asked of a model", "wish", string.Join(" | ", known));
        if (words.RatherNot.Intersect(words.Gladly).FirstOrDefault() is { } both)
            throw new InputException($"{ModelOfDay.Wishes.First(w => w.Id == both).Name} is said twice", "wish", "gladly, or rather not");
        if (words.RatherNot.Count == known.Count)
            throw new InputException("nothing is left to be held", "wish", "one way of posing at least");
        if (!(words.Ease is >= ModelOfDay.LeastEase and <= 1))
            throw new InputException($"lengths of {words.Ease} of the usual", "ease", $"{ModelOfDay.LeastEase} to 1");
        if (words.Note is { Length: > LongestNote })
            throw new InputException($"a note of {words.Note.Length} letters", "note", $"up to {LongestNote} letters");
        foreach (var (rate, field) in new[] { (words.RatePerHour ?? 0, "rate"), (words.RatePerPosedHour, "posedRate") })
            if (!(rate is >= 0 and <= 10_000))
                throw new InputException($"a pay of {rate}", field, "0 to 10000 an hour");
        (model.Name, model.Gladly, model.RatherNot) = (name, [.. words.Gladly.Distinct()], [.. words.RatherNot.Distinct()]);
        (model.Ease, model.Note) = (words.Ease, (words.Note ?? "").Trim());
        (model.RatePerHour, model.RatePerPosedHour) = (words.RatePerHour, words.RatePerPosedHour);
        (model.By, model.At) = (by, clock.GetCurrentInstant());
    }

    /// <summary>Out of the book: bookings to come are ended, and the link with them.</summary>
    public async Task TakeOut(BookedModel model, LocalDate today)
    {
        db.ModelBookings.RemoveRange(await db.ModelBookings.Where(b => b.ModelId == model.Id && b.Meeting.Date >= today).ToListAsync());
        (model.LeftAt, model.Secret) = (clock.GetCurrentInstant(), Secrets.New());
        await db.SaveChangesAsync();
    }

    public async Task RenewLink(BookedModel model)
    {
        model.Secret = Secrets.New();
        await db.SaveChangesAsync();
    }

    /// <summary>Who sits at a meeting: those before are let go. Its timetable stays, and is proved against what they hold.</summary>
    /// <exception cref="InputException">Nobody of the course's book, or more than pose.</exception>
    public async Task Sits(Meeting meeting, IReadOnlyCollection<int> models)
    {
        var most = meeting.Request.Wish.Model == ModelKind.Two ? 2 : 1;
        if (models.Count > most || !meeting.Request.Wish.HasLiveModel)
            throw new InputException(
                meeting.Request.Wish.HasLiveModel ? $"{models.Count} models" : "nobody poses in this meeting",
                "sits",
                meeting.Request.Wish.HasLiveModel ? $"up to {most}" : "a meeting with a model"
            );
        var chosen = await db
            .BookedModels.Where(m => m.CourseId == meeting.CourseId && m.LeftAt == null && models.Contains(m.Id))
            .ToListAsync();
        if (chosen.Count != models.Distinct().Count())
            throw new InputException("somebody chosen is not in this course's book", "sits", "models of this course");
        var before = await db.ModelBookings.Where(b => b.MeetingId == meeting.Id).ToListAsync();
        db.ModelBookings.RemoveRange(before.Where(b => chosen.All(m => m.Id != b.ModelId)));
        db.ModelBookings.AddRange(
            chosen
                .Where(m => before.All(b => b.ModelId != m.Id))
                .Select(m => new ModelBooking
                {
                    MeetingId = meeting.Id,
                    ModelId = m.Id,
                    At = clock.GetCurrentInstant(),
                })
        );
        if (!meeting.Begun)
            Fit(meeting, ModelOfDay.Together([.. chosen.Select(m => m.OfDay)]));
        await db.SaveChangesAsync();
    }

    /// <summary>A timetable that asks too much of whoever sits is planned anew, unless it was laid by hand: then what it breaks is said.</summary>
    private static void Fit(Meeting meeting, ModelOfDay? who)
    {
        var request = meeting.Request.Knowing(k => k with { Who = who });
        var facts = RestRules.Prove(meeting.Plan.Items, request);
        if (facts.Any(f => !f.Holds) && request.Laid.Count == 0 && Planner.Plan(request).Proposals is [var other, ..])
        {
            meeting.Undo = [.. meeting.Undo.TakeLast(PlanActions.MostUndo - 1), meeting.Request.With(meeting.Plan.Items)];
            (meeting.Request, meeting.Plan) = (request, other);
        }
        else
            (meeting.Request, meeting.Plan) = (request, meeting.Plan with { Rules = facts });
    }

    /// <summary>What a model says to a booking.</summary>
    public async Task Answer(BookedModel model, int meeting, BookingAnswer answer)
    {
        var booking = await db.ModelBookings.SingleOrDefaultAsync(b => b.ModelId == model.Id && b.MeetingId == meeting)
            ?? throw new InputException("there is no such booking", "meeting", "a booking of this page");
        (booking.Answer, booking.At) = (answer, clock.GetCurrentInstant());
        await db.SaveChangesAsync();
    }

    /// <summary>Bookings of a model with their meetings, the earliest first.</summary>
    public Task<List<ModelBooking>> Of(int model, LocalDate since) =>
        db
            .ModelBookings.AsNoTracking()
            .Include(b => b.Model)
            .Include(b => b.Meeting)
            .Where(b => b.ModelId == model && b.Meeting.Date >= since)
            .OrderBy(b => b.Meeting.Date)
            .ThenBy(b => b.Meeting.StartsAt)
            .Take(200)
            .ToListAsync();

    /// <summary>What a month's meetings are paid, model by model, at each one's own rates. Who could not come is not paid.</summary>
    public async Task<IReadOnlyList<ModelPaid>> Paid(Course course, YearMonth month)
    {
        var (first, next) = (month.OnDayOfMonth(1), month.PlusMonths(1).OnDayOfMonth(1));
        var bookings = await db
            .ModelBookings.AsNoTracking()
            .Include(b => b.Model)
            .Include(b => b.Meeting)
            .Where(b =>
                b.Model.CourseId == course.Id && b.Answer != BookingAnswer.CanNot && b.Meeting.Date >= first && b.Meeting.Date < next
            )
            .OrderBy(b => b.Meeting.Date)
            .ThenBy(b => b.Model.Name)
            .Take(500)
            .ToListAsync();
        return
        [
            .. bookings
                .Select(b => (b.Model.Name, b.Meeting.Date, b.Meeting.Number, Pay: Pay(course, b)))
                .Where(p => p.Pay is not null)
                .Select(p => new ModelPaid(p.Name, p.Date, p.Number, p.Pay!)),
        ];
    }

    /// <summary>What one model is paid for one meeting, whoever else poses in it.</summary>
    public static ModelPay? Pay(Course course, ModelBooking b) =>
        ModelPay.Of(b.Meeting.Plan.Items, b.Meeting.Request.Wish with { Model = ModelKind.Person }, b.Model.PayBy(course));

    /// <summary>Poses that a model has held, the last first.</summary>
    public static IReadOnlyList<(string PoseId, int Times, LocalDate Last)> Held(IEnumerable<ModelBooking> past) =>
        [
            .. past.SelectMany(b => b.Meeting.Plan.Items.SelectMany(i => i.PoseIds).Distinct().Select(p => (Pose: p, b.Meeting.Date)))
                .GroupBy(p => p.Pose)
                .Select(g => (g.Key, g.Count(), g.Max(p => p.Date)))
                .OrderByDescending(p => p.Item3)
                .ThenByDescending(p => p.Item2),
        ];
}
