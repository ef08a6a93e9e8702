using MintHarbor.Core.Simulation;

namespace MintHarbor.Store.Demo;

/// <summary>The invented studio: Saltmarsh Loft in Haverlock Quay. All names, places and histories are made up.</summary>
public static class DemoStudio
{
    public const string Password = "harbour-demo";
    public const string Room = "Saltmarsh Loft";
    public static readonly (string Name, string Mail) Instructor = ("Edda Quill", "edda@saltmarsh.example");
    public static readonly (string Name, string Mail) Assistant = ("Lorne Fisk", "lorne@saltmarsh.example");

    public static readonly IReadOnlyList<(string Mail, string Name, string Part)> SignIns =
    [
        (Instructor.Mail, Instructor.Name, "instructor"),
        ("maren.holt@saltmarsh.example", "Maren Holt", "student"),
        ("bram.sedge@saltmarsh.example", "Bram Sedge", "student"),
        (Assistant.Mail, Assistant.Name, "assistant"),
        ("pim.daly@saltmarsh.example", "Pim Daly", "student under 18"),
    ];

    public static readonly IReadOnlyList<string> Evening =
    [
        "Odile Marsh",
        "Bram Sedge",
        "Perrin Gale",
        "Maren Holt",
        "Tove Arkle",
        "Sunniva Reed",
        "Casper Lowe",
        "Nell Orchard",
        "Wick Thorne",
        "Dara Quist",
        "Hollis Brae",
        "Jun Averill",
        "Greta Sands",
        "Rafe Tolley",
    ];

    public static readonly IReadOnlyList<string> Young =
    [
        "Pim Daly",
        "Ines Cole",
        "Otto Wren",
        "Lise Farrow",
        "Kit Osprey",
        "Anke Moor",
        "Timo Shaw",
        "Bea Lund",
    ];

    public static readonly IReadOnlyList<string> Foundation =
    [
        "Arlo Finch",
        "Mette Rowan",
        "Silas Crewe",
        "Ylva Dunn",
        "Cormac Bell",
        "Tamsin Lodge",
        "Emre Vale",
        "Noor Strand",
        "Piet Haven",
        "Willa Frost",
        "Jory Pell",
        "Asta Quayle",
    ];

    public static readonly IReadOnlyList<(string Name, NamedFault[] Faults, string Question, string Review)> Heads =
    [
        ("Dara Quist", [new("eyes high", 0.055)], "Why does the forehead look so low?", "Ears and mouth are measured. The eyes are not."),
        (
            "Rafe Tolley",
            [new("mouth low", 0.03), new("neck thin", 0.22)],
            "Does the neck carry the head?",
            "I like the brow. The neck came last."
        ),
    ];

    public static string Mail(string name) => name.ToLowerInvariant().Replace(' ', '.') + "@saltmarsh.example";

    /// <summary>A student who looks at every mark.</summary>
    public const int ByHand = 99;

    /// <summary>Whose head is marked all by hand, as its portrait's gate is opened by its measures.</summary>
    public const string ByHandHead = "Dara Quist";

    /// <param name="Week">Meeting it comes from, counted from the first.</param>
    /// <param name="Until">How far it has come: waiting, drafted, released, answered or redone.</param>
    /// <param name="Named">Faults that the critique names.</param>
    /// <param name="Answers">How many marks the student places of those that are asked for.</param>
    public sealed record DemoSheet(
        string Student,
        int Week,
        string Pose,
        NamedFault[] Faults,
        double Height,
        string Question,
        string Review,
        string Until,
        IReadOnlyList<string> Named,
        string Answer = "",
        int Answers = 4
    );

    public static readonly IReadOnlyList<DemoSheet> Sheets =
    [
        new(
            "Tove Arkle",
            3,
            "standing",
            [],
            470,
            "Is the weight on both feet?",
            "The head is right for once. The feet are quick.",
            "released",
            ["hands-small"]
        ),
        new(
            "Odile Marsh",
            3,
            "standing",
            [new("head large", 0.09)],
            485,
            "Are the legs long enough?",
            "I measured the height in heads. The shoulders came late.",
            "released",
            ["head-large", "hairy-line"]
        ),
        new(
            "Sunniva Reed",
            3,
            "standing",
            [new("legs short", 0.08)],
            490,
            "Where did the legs go?",
            "The upper half holds. I ran out of paper and squeezed.",
            "waiting",
            [],
            Answers: ByHand
        ),
        new(
            "Casper Lowe",
            4,
            "contrapposto",
            [new("head large", 0.09), new("shoulders level", 0.9)],
            505,
            "Why is he so stiff?",
            "I like the arm. The hips look like a table.",
            "redone",
            ["level-tilts", "head-large"],
            "I drew the head first and hung the rest on it. This time the heads are marked off before."
        ),
        new(
            "Bram Sedge",
            4,
            "contrapposto",
            [new("head large", 0.04), new("figure leaning", 3)],
            485,
            "Does the standing leg carry him?",
            "Better tilt than last week. He may lean.",
            "answered",
            ["leaning", "head-large"],
            "I hung the plumb only at the end. It goes first from now on."
        ),
        new(
            "Maren Holt",
            4,
            "contrapposto",
            [new("head large", 0.11), new("shoulders level", 0.9), new("figure leaning", 4)],
            500,
            "Why does he look as if he is tipping over?",
            "The arm is one line from shoulder to wrist. The hips worry me.",
            "drafted",
            ["leaning", "level-tilts", "head-large"]
        ),
        new(
            "Perrin Gale",
            4,
            "contrapposto",
            [new("head large", 0.1)],
            515,
            "Is he too thin?",
            "I filled the page. The outline is darker than I wanted.",
            "waiting",
            [],
            Answers: 1
        ),
    ];

    public static readonly DemoSheet YoungSheet = new(
        "Pim Daly",
        4,
        "standing",
        [new("head large", 0.14)],
        330,
        "Does the head fit the coat?",
        "I like the folds. The hands are hidden.",
        "waiting",
        []
    );
}
