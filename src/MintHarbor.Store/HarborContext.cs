using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using MintHarbor.Core.Sessions;
using MintHarbor.Store.Model;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;

namespace MintHarbor.Store;

/// <summary>The database. Values that are always read whole (plans, landmark sets, remarks, drill rounds) are jsonb columns;
/// concurrent edits are told apart by PostgreSQL's xmin.</summary>
public sealed class HarborContext(DbContextOptions<HarborContext> options)
    : IdentityUserContext<Person, int>(options),
        IDataProtectionKeyContext
{
    public DbSet<SignedIn> SignedIns => Set<SignedIn>();
    public DbSet<LogEntry> Log => Set<LogEntry>();
    public DbSet<OnceKey> OnceKeys => Set<OnceKey>();
    public DbSet<Course> Courses => Set<Course>();
    public DbSet<Membership> Memberships => Set<Membership>();
    public DbSet<RungMove> RungMoves => Set<RungMove>();
    public DbSet<Invitation> Invitations => Set<Invitation>();
    public DbSet<OutboxMail> Outbox => Set<OutboxMail>();
    public DbSet<Meeting> Meetings => Set<Meeting>();
    public DbSet<ClockEntry> ClockActs => Set<ClockEntry>();
    public DbSet<PoseReading> PoseReadings => Set<PoseReading>();
    public DbSet<CoursePose> CoursePoses => Set<CoursePose>();
    public DbSet<HeldSheet> HeldSheets => Set<HeldSheet>();
    public DbSet<LookedSheet> LookedSheets => Set<LookedSheet>();
    public DbSet<CourseArrangement> CourseArrangements => Set<CourseArrangement>();
    public DbSet<Seating> Seatings => Set<Seating>();
    public DbSet<LongPose> LongPoses => Set<LongPose>();
    public DbSet<BookedModel> BookedModels => Set<BookedModel>();
    public DbSet<ModelBooking> ModelBookings => Set<ModelBooking>();
    public DbSet<MeetingTemplate> Templates => Set<MeetingTemplate>();
    public DbSet<Presence> Presences => Set<Presence>();
    public DbSet<RoomNote> RoomNotes => Set<RoomNote>();
    public DbSet<Assignment> Assignments => Set<Assignment>();
    public DbSet<DrillRound> DrillRounds => Set<DrillRound>();
    public DbSet<Sheet> Sheets => Set<Sheet>();
    public DbSet<DrawnAnswer> DrawnAnswers => Set<DrawnAnswer>();
    public DbSet<PracticeSitting> PracticeSittings => Set<PracticeSitting>();
    public DbSet<DailyLine> DailyLines => Set<DailyLine>();
    public DbSet<MeasurePoint> MeasurePoints => Set<MeasurePoint>();
    public DbSet<StageMove> StageMoves => Set<StageMove>();
    public DbSet<PaperSheet> PaperSheets => Set<PaperSheet>();
    public DbSet<PaperPhoto> PaperPhotos => Set<PaperPhoto>();
    public DbSet<Picture> Pictures => Set<Picture>();
    public DbSet<ProjectPlan> ProjectPlans => Set<ProjectPlan>();
    public DbSet<Project> Projects => Set<Project>();
    public DbSet<CourseCanon> CourseCanons => Set<CourseCanon>();
    public DbSet<ShelfVersion> ShelfVersions => Set<ShelfVersion>();
    public DbSet<ProjectWork> ProjectWorks => Set<ProjectWork>();
    public DbSet<DataProtectionKey> DataProtectionKeys => Set<DataProtectionKey>();

    /// <summary>How values are kept in jsonb: enums by name, instants as text; unknown fields of older rows are ignored. The database has its own order
    /// of fields, so that a value's kind may stand anywhere among them.</summary>
    public static readonly JsonSerializerOptions Json = new JsonSerializerOptions(JsonSerializerDefaults.Web)
    {
        AllowOutOfOrderMetadataProperties = true,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower) },
    }.ConfigureForNodaTime(DateTimeZoneProviders.Tzdb);

    protected override void OnModelCreating(ModelBuilder b)
    {
        base.OnModelCreating(b);
        b.Entity<Person>().ToTable("people");
        b.Entity<Person>().Property(p => p.Name).UseCollation("en-x-icu");
        b.Entity<IdentityUserClaim<int>>().ToTable("person_claims");
        b.Entity<IdentityUserLogin<int>>().ToTable("person_logins");
        b.Entity<IdentityUserToken<int>>().ToTable("person_tokens");

        b.Entity<SignedIn>().HasIndex(s => s.PersonId);
        b.Entity<SignedIn>().HasOne<Person>().WithMany().HasForeignKey(s => s.PersonId);
        b.Entity<SignedIn>().Property(s => s.Id).ValueGeneratedNever();

        b.Entity<LogEntry>(l =>
        {
            l.ToTable("log");
            l.Property(x => x.Kind).HasConversion<string>();
            l.HasIndex(x => new { x.CourseId, x.Id });
            l.HasIndex(x => x.WorkId);
        });
        b.Entity<Person>().Property(p => p.Minor).HasDefaultValue(false);
        b.Entity<Membership>().Property(m => m.ConsentFor).HasDefaultValue("");
        b.Entity<OnceKey>(o =>
        {
            o.HasKey(x => x.Key);
            o.Property(x => x.Key).ValueGeneratedNever();
            o.HasIndex(x => x.At);
            o.HasOne<Person>().WithMany().HasForeignKey(x => x.PersonId);
        });

        b.Entity<Membership>().HasKey(m => new { m.CourseId, m.PersonId });
        b.Entity<Membership>().HasIndex(m => m.PersonId);
        b.Entity<Membership>().Property(m => m.Role).HasConversion<string>();
        b.Entity<Course>().Property(c => c.Approach).HasConversion<string>();
        b.Entity<Course>().Property(c => c.HeadCanon).HasDefaultValue("classical-head");
        b.Entity<Course>().Property(c => c.Rung).HasDefaultValue("still-life");
        b.Entity<Course>(c =>
        {
            Optional(c.Property(x => x.Studio));
            Optional(c.Property(x => x.Pay));
            Optional(c.Property(x => x.Book));
            Optional(c.Property(x => x.OwnFigure));
            Optional(c.Property(x => x.OwnHead));
            Optional(c.Property(x => x.OwnShelf));
            c.Ignore(x => x.Shelf);
            Jsonb(c.Property(x => x.DaysOff)).HasDefaultValueSql("'[]'::jsonb");
            Jsonb(c.Property(x => x.Bookings)).HasDefaultValueSql("'[]'::jsonb");
            c.Property(x => x.Medium).HasDefaultValue("");
            c.Property(x => x.FeedSecret).HasDefaultValue("");
            c.HasIndex(x => x.FeedSecret);
        });
        b.Entity<Membership>().Property(m => m.Hand).HasConversion<string>().HasDefaultValue(Core.Rooms.Hand.Right);
        b.Entity<Membership>().Property(m => m.Eye).HasConversion<string>();
        Jsonb(b.Entity<Membership>().Property(m => m.Needs)).HasDefaultValueSql("'[]'::jsonb");
        b.Entity<RungMove>().HasIndex(m => new { m.CourseId, m.At });
        b.Entity<RungMove>().HasOne<Course>().WithMany().HasForeignKey(m => m.CourseId);
        b.Entity<Invitation>().HasIndex(i => i.Token).IsUnique();
        b.Entity<Invitation>().HasIndex(i => new { i.CourseId, i.Mail }).IsUnique();

        b.Entity<Meeting>(m =>
        {
            m.HasIndex(x => new { x.CourseId, x.Number }).IsUnique();
            m.HasIndex(x => x.RoomSecret).IsUnique();
            m.HasIndex(x => x.ModelSecret);
            m.Property(x => x.ModelSecret).HasDefaultValue("");
            Jsonb(m.Property(x => x.CautionsSeen)).HasDefaultValueSql("'[]'::jsonb");
            Jsonb(m.Property(x => x.Request), KeptJson.Request);
            Jsonb(m.Property(x => x.Plan), KeptJson.Plan);
            Jsonb(m.Property(x => x.Undo));
            m.Ignore(x => x.Clock);
            m.Ignore(x => x.Evening);
            m.Ignore(x => x.IsSeated);
            m.HasMany(x => x.Acts).WithOne().HasForeignKey(a => a.MeetingId);
            // A meeting read without its acts would look as if it had not begun.
            m.Navigation(x => x.Acts).AutoInclude();
            m.Property(x => x.Version).IsRowVersion();
        });
        b.Entity<ClockEntry>(a =>
        {
            a.ToTable("clock_acts");
            a.HasKey(x => new { x.MeetingId, x.Sequence });
            a.Property(x => x.Sequence).ValueGeneratedNever();
            a.Property(x => x.Act).HasConversion<string>();
            Optional(a.Property(x => x.Rest));
        });
        b.Entity<PoseReading>(r =>
        {
            r.HasIndex(x => new
                {
                    x.MeetingId,
                    x.Pose,
                    x.ReaderId,
                })
                .IsUnique();
            Jsonb(r.Property(x => x.Card));
        });
        b.Entity<CoursePose>().HasIndex(p => p.CourseId);
        b.Entity<CoursePose>().HasOne<Course>().WithMany().HasForeignKey(p => p.CourseId);
        b.Entity<HeldSheet>(h =>
        {
            h.HasKey(x => x.SheetId);
            h.HasOne<Sheet>().WithMany().HasForeignKey(x => x.SheetId);
            Jsonb(h.Property(x => x.Boxes));
            h.Property(x => x.Version).IsRowVersion();
        });
        b.Entity<LookedSheet>(l =>
        {
            l.HasKey(x => x.SheetId);
            l.HasOne<Sheet>().WithMany().HasForeignKey(x => x.SheetId);
            Jsonb(l.Property(x => x.Marks));
            Optional(l.Property(x => x.Over));
            l.HasIndex(x => x.PhotoHash);
            l.Property(x => x.Version).IsRowVersion();
        });
        b.Entity<CourseArrangement>().HasIndex(a => new { a.CourseId, a.Name }).IsUnique();
        b.Entity<CourseArrangement>().HasOne<Course>().WithMany().HasForeignKey(a => a.CourseId);
        b.Entity<OutboxMail>().HasIndex(m => new { m.CourseId, m.SentAt });
        b.Entity<Seating>().HasKey(s => new { s.MeetingId, s.PersonId });
        b.Entity<Seating>().HasOne<Person>().WithMany().HasForeignKey(s => s.PersonId);
        b.Entity<LongPose>().HasIndex(p => p.CourseId);
        b.Entity<LongPose>().HasOne<Course>().WithMany().HasForeignKey(p => p.CourseId);
        b.Entity<MeetingTemplate>().HasIndex(t => new { t.CourseId, t.Name }).IsUnique();
        b.Entity<MeetingTemplate>().HasOne<Course>().WithMany().HasForeignKey(t => t.CourseId);
        Jsonb(b.Entity<MeetingTemplate>().Property(t => t.Request));
        b.Entity<BookedModel>(m =>
        {
            m.HasIndex(x => x.CourseId);
            m.HasIndex(x => x.Secret).IsUnique();
            m.Property(x => x.Version).IsRowVersion();
            Jsonb(m.Property(x => x.Gladly));
            Jsonb(m.Property(x => x.RatherNot));
            m.Ignore(x => x.OfDay);
        });
        b.Entity<ModelBooking>(k =>
        {
            k.HasKey(x => new { x.MeetingId, x.ModelId });
            k.HasIndex(x => x.ModelId);
        });
        b.Entity<Presence>(p =>
        {
            p.HasKey(x => new { x.MeetingId, x.PersonId });
            p.HasOne<Person>().WithMany().HasForeignKey(x => x.PersonId);
            Jsonb(p.Property(x => x.Ticks));
            Optional(p.Property(x => x.SetUp));
        });
        b.Entity<RoomNote>(n =>
        {
            n.HasIndex(x => new { x.MeetingId, x.Key }).IsUnique();
            n.HasIndex(x => x.StudentId);
            n.Property(x => x.Shared).HasDefaultValue(false);
            n.HasOne<Person>().WithMany().HasForeignKey(x => x.AuthorId);
        });
        b.Entity<Assignment>()
            .HasIndex(a => new
            {
                a.CourseId,
                a.StudentId,
                a.Due,
            });
        b.Entity<DrillRound>(r =>
        {
            r.HasIndex(x => new
            {
                x.CourseId,
                x.StudentId,
                x.StartedAt,
            });
            r.Property(x => x.Kind).HasDefaultValue("clock-hand");
            Jsonb(r.Property(x => x.State));
            r.Property(x => x.Version).IsRowVersion();
        });
        b.Entity<DrawnAnswer>(a =>
        {
            a.HasKey(x => new { x.RoundId, x.Number });
            a.HasOne<DrillRound>().WithMany().HasForeignKey(x => x.RoundId);
            a.Property(x => x.Trace).HasColumnType("jsonb");
            Jsonb(a.Property(x => x.Reading));
        });
        b.Entity<PracticeSitting>(s =>
        {
            s.HasIndex(x => new { x.StudentId, x.Key }).IsUnique();
            s.HasIndex(x => new
            {
                x.CourseId,
                x.StudentId,
                x.EndedAt,
            });
            s.HasOne<Course>().WithMany().HasForeignKey(x => x.CourseId);
            s.HasOne<Assignment>().WithMany().HasForeignKey(x => x.AssignmentId).OnDelete(DeleteBehavior.SetNull);
            Jsonb(s.Property(x => x.Log));
        });
        b.Entity<DailyLine>(l =>
        {
            l.HasKey(x => new
            {
                x.CourseId,
                x.StudentId,
                x.Day,
            });
            l.HasOne<Course>().WithMany().HasForeignKey(x => x.CourseId);
            l.Property(x => x.Trace).HasColumnType("jsonb");
            l.Property(x => x.Second).HasColumnType("jsonb");
            l.Property(x => x.Version).IsRowVersion();
        });
        b.Entity<MeasurePoint>(p =>
        {
            p.HasIndex(x => new
            {
                x.CourseId,
                x.StudentId,
                x.Measure,
                x.At,
            });
            p.HasIndex(x => new
                {
                    x.From,
                    x.Of,
                    x.Measure,
                })
                .IsUnique();
            p.HasOne<Course>().WithMany().HasForeignKey(x => x.CourseId);
            p.Property(x => x.From).HasConversion<string>();
            p.Ignore(x => x.Point);
        });
        b.Entity<StageMove>(m =>
        {
            m.HasIndex(x => new
            {
                x.CourseId,
                x.StudentId,
                x.At,
            });
            m.HasOne<Course>().WithMany().HasForeignKey(x => x.CourseId);
            m.Property(x => x.From).HasConversion<string>();
            m.Property(x => x.To).HasConversion<string>();
            Optional(m.Property(x => x.Evidence));
        });
        b.Entity<Sheet>(s =>
        {
            s.HasIndex(x => new
            {
                x.CourseId,
                x.State,
                x.SubmittedAt,
            });
            s.HasIndex(x => new { x.CourseId, x.StudentId });
            s.HasIndex(x => new { x.CourseId, x.SubmittedAt });
            s.HasIndex(x => new { x.StudentId, x.UploadKey }).IsUnique();
            s.HasIndex(x => x.SetId);
            s.Property(x => x.Subject).HasDefaultValue("figure");
            s.Property(x => x.State).HasConversion<string>();
            s.HasOne(x => x.RedoOf).WithMany().HasForeignKey(x => x.RedoOfId);
            Jsonb(s.Property(x => x.Corners));
            Jsonb(s.Property(x => x.Landmarks));
            Jsonb(s.Property(x => x.ByStudent)).HasDefaultValueSql("'{}'::jsonb");
            Jsonb(s.Property(x => x.ByStaff)).HasDefaultValueSql("'{}'::jsonb");
            Jsonb(s.Property(x => x.LandmarkUndo));
            Optional(s.Property(x => x.Fit));
            Optional(s.Property(x => x.Technique));
            s.HasOne<ProjectWork>().WithMany().HasForeignKey(x => x.WorkId).OnDelete(DeleteBehavior.SetNull);
            s.HasIndex(x => x.FitSince).HasFilter("fit_since is not null");
            Jsonb(s.Property(x => x.Remarks));
            Optional(s.Property(x => x.JudgedBy));
            Jsonb(s.Property(x => x.Observed));
            Jsonb(s.Property(x => x.Checked)).HasDefaultValueSql("'{}'::jsonb");
            Optional(s.Property(x => x.Reference));
            s.Property(x => x.Observed).HasDefaultValueSql("'[]'::jsonb");
            s.Property(x => x.Version).IsRowVersion();
        });
        b.Entity<PaperSheet>(s =>
        {
            s.HasIndex(x => x.Number).IsUnique();
            s.HasIndex(x => new
            {
                x.CourseId,
                x.StudentId,
                x.GivenAt,
            });
            s.HasOne<Course>().WithMany().HasForeignKey(x => x.CourseId);
            s.HasOne<Sheet>().WithMany().HasForeignKey(x => x.SheetId).OnDelete(DeleteBehavior.SetNull);
            Jsonb(s.Property(x => x.Drills));
            Jsonb(s.Property(x => x.Printed));
            Optional(s.Property(x => x.Reading));
            Jsonb(s.Property(x => x.Looked));
            s.Ignore(x => x.Asks);
            s.Ignore(x => x.Scores);
            s.Property(x => x.Version).IsRowVersion();
        });
        b.Entity<PaperPhoto>(p =>
        {
            p.HasIndex(x => new { x.CourseId, x.At });
            p.HasIndex(x => x.At).HasFilter("outcome = 'Waiting'");
            p.HasIndex(x => new { x.PersonId, x.UploadKey }).IsUnique();
            p.HasOne<Course>().WithMany().HasForeignKey(x => x.CourseId);
            p.HasOne<Person>().WithMany().HasForeignKey(x => x.PersonId);
            p.HasOne<PaperSheet>().WithMany().HasForeignKey(x => x.PaperSheetId).OnDelete(DeleteBehavior.SetNull);
            p.Property(x => x.Outcome).HasConversion<string>();
        });
        b.Entity<Picture>().HasKey(p => p.Hash);
        // Pictures are never changed, only added: their bytes need not be compared at every save.
        b.Entity<Picture>()
            .Property(p => p.Bytes)
            .Metadata.SetValueComparer(new ValueComparer<byte[]>((x, y) => ReferenceEquals(x, y), x => x.Length, x => x));
        b.Entity<ProjectPlan>(p =>
        {
            p.HasIndex(x => new { x.CourseId, x.Name }).IsUnique();
            p.HasOne<Course>().WithMany().HasForeignKey(x => x.CourseId);
            Jsonb(p.Property(x => x.Plan));
            p.Property(x => x.Version).IsRowVersion();
        });
        b.Entity<CourseCanon>(c =>
        {
            c.HasIndex(x => new
                {
                    x.CourseId,
                    x.Subject,
                    x.Number,
                })
                .IsUnique();
            c.HasOne<Course>().WithMany().HasForeignKey(x => x.CourseId);
            Jsonb(c.Property(x => x.Canon));
        });
        b.Entity<ShelfVersion>(v =>
        {
            v.HasKey(x => new { x.CourseId, x.Number });
            v.HasOne<Course>().WithMany().HasForeignKey(x => x.CourseId);
            Jsonb(v.Property(x => x.Shelf));
        });
        b.Entity<Project>(p =>
        {
            Jsonb(p.Property(x => x.Stages));
            Jsonb(p.Property(x => x.Groups)).HasDefaultValueSql("'[]'::jsonb");
            Optional(p.Property(x => x.Plan));
            Optional(p.Property(x => x.Rules));
            p.Ignore(x => x.Shape);
            p.Ignore(x => x.GradedBy);
            p.Property(x => x.HomeMinutes).HasDefaultValue(0);
            p.HasOne<LongPose>().WithMany().HasForeignKey(x => x.LongPoseId).OnDelete(DeleteBehavior.SetNull);
        });
        b.Entity<ProjectWork>(w =>
        {
            w.HasIndex(x => new { x.ProjectId, x.StudentId }).IsUnique();
            Jsonb(w.Property(x => x.Gates));
            Jsonb(w.Property(x => x.Levels));
            Jsonb(w.Property(x => x.StagesDone));
            Jsonb(w.Property(x => x.Again)).HasDefaultValueSql("'{}'::jsonb");
            w.Property(x => x.ExtendedBecause).HasDefaultValue("");
            w.Property(x => x.Standing).HasConversion<string>().HasDefaultValue(Core.Projects.Standing.Graded);
            w.Property(x => x.StandingBecause).HasDefaultValue("");
            w.Property(x => x.Comment).HasDefaultValue("");
            Optional(w.Property(x => x.Graders));
            w.Ignore(x => x.Counted);
            w.Ignore(x => x.Due);
            w.Ignore(x => x.Group);
            w.Ignore(x => x.Current);
            w.Property(x => x.Version).IsRowVersion();
        });
    }

    /// <summary>A value that is read and written whole. It is replaced, never changed in place: whether it changed is asked of
    /// the reference, since comparing its text at every save would cost more than the save.</summary>
    private static PropertyBuilder<T> Jsonb<T>(PropertyBuilder<T> property, Func<string, T>? read = null)
        where T : class
    {
        read ??= s => JsonSerializer.Deserialize<T>(s, Json)!;
        return property
            .HasColumnType("jsonb")
            .HasConversion(
                v => JsonSerializer.Serialize(v, Json),
                s => read(s),
                new ValueComparer<T>((a, c) => ReferenceEquals(a, c), v => RuntimeHelpers.GetHashCode(v), v => v)
            );
    }

    /// <summary>The same where there may be none.</summary>
    private static void Optional<T>(PropertyBuilder<T?> property)
        where T : class =>
        property
            .HasColumnType("jsonb")
            .HasConversion(
                v => JsonSerializer.Serialize(v, Json),
                s => JsonSerializer.Deserialize<T>(s, Json),
                new ValueComparer<T?>((a, c) => ReferenceEquals(a, c), v => v == null ? 0 : RuntimeHelpers.GetHashCode(v), v => v)
            );
}
