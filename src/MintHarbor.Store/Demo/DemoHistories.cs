using MintHarbor.Core.Simulation;

namespace MintHarbor.Store.Demo;

/// <summary>What the invented students drew before: one who improves, one whose hand is the root of it, one who squeezes every figure into
/// what paper is left, two who have been away, and the rest.</summary>
public static class DemoHistories
{
    /// <param name="Week">Meeting it comes from, counted from the first.</param>
    /// <param name="Pose">Pose of the catalogue and the side it was seen from.</param>
    /// <param name="Until">How far it has come: waiting, drafted, released, answered.</param>
    public sealed record Past(
        string Student, int Week, string Pose, double Azimuth, NamedFault[] Faults, double Height, string Question, string Review, string Until, string[] Named, string Answer = "",
        double Care = 0.5, Tool Tool = Tool.Charcoal, string Body = "male");

    /// <summary>Who was there once and has been away since.</summary>
    public static readonly IReadOnlyList<string> Away = ["Greta Sands", "Rafe Tolley"];

    private static NamedFault F(string name, double size) => new(name, size);

    public static readonly IReadOnlyList<Past> Evening =
    [
        // Hollis improves: the head shrinks to its size, the hand grows calm.
        new("Hollis Brae", 1, "stand", 0, [F("head large", 0.2), F("legs short", 0.12)], 430, "Why does he look like a child?", "I began with the face. There was no paper for the legs.", "answered", ["head-large", "legs-short"], "The crown and the sole come first from now on.", 0.15),
        new("Hollis Brae", 2, "stand", 20, [F("head large", 0.14), F("shoulders level", 0.8)], 455, "Is the head smaller now?", "Seven heads at last. The shoulders are a shelf.", "released", ["head-large"], "", 0.35),
        new("Hollis Brae", 3, "stand", 0, [F("head large", 0.08)], 475, "Does he stand?", "The plumb hung first. The head may still be large.", "released", ["head-large"], "", 0.6),
        new("Hollis Brae", 4, "contrapposto", -9, [F("hand small", 0.12)], 490, "Which line would you leave out?", "The tilt is there without thinking. The hand is a mitten.", "released", ["hands-small"], "", 0.85),
        // Jun draws with the wrist: every sheet is short strokes side by side, and whatever else is off follows from it.
        new("Jun Averill", 1, "stand", -25, [F(SimulatedStudent.BrokenStrokes, 1), F("figure leaning", 5)], 400, "Why does it look like fur?", "I corrected each line as I went.", "released", ["hairy-line", "cramped-grip"], "", 0.2, Tool.Pencil),
        new("Jun Averill", 2, "handonhip", 15, [F(SimulatedStudent.BrokenStrokes, 0.9)], 410, "Is one line enough?", "I hold the pencil as I write. The arm never moved.", "answered", ["hairy-line", "cramped-grip"], "I drew circles from the shoulder for ten minutes. They are eggs.", 0.25, Tool.Pencil),
        new("Jun Averill", 3, "stand", 10, [F(SimulatedStudent.BrokenStrokes, 0.7), F("head large", 0.1)], 420, "Are the legs one line each?", "Longer strokes on the legs, short ones on the face.", "released", ["hairy-line", "head-large"], "", 0.35, Tool.Pencil),
        new("Jun Averill", 4, "contrapposto", 28, [F(SimulatedStudent.BrokenStrokes, 0.5)], 430, "Where does the line still break?", "The back leg is one stroke. I counted.", "released", ["hairy-line"], "", 0.45, Tool.Pencil),
        // Wick runs out of paper.
        new("Wick Thorne", 1, "stand", 0, [F("squeezed at the end", 0.18)], 540, "What happened to the feet?", "It began so well. Then the paper ended.", "released", ["squeezed-end"]),
        new("Wick Thorne", 2, "armraised", 20, [F(SimulatedStudent.OffThePage, 0.1)], 520, "May the feet be off the page?", "I let it run off rather than squeeze it.", "answered", ["off-the-page"], "Three marks before the first line: crown, half, sole."),
        new("Wick Thorne", 3, "stand", -20, [F("squeezed at the end", 0.1)], 520, "Is it still squeezed?", "I marked the half. The knees came too high.", "released", ["squeezed-end", "legs-short"]),
        new("Wick Thorne", 4, "contrapposto", -30, [], 455, "Does it fit at last?", "All of him, and a thumb of margin.", "released", ["outline-only"]),
        // Greta and Rafe were there once and have been away since.
        new("Greta Sands", 1, "stand", 35, [F("head large", 0.1), F("feet small", 0.25)], 450, "Why does he hover?", "The feet are tiny. I know.", "released", ["feet-small", "head-large"]),
        new("Rafe Tolley", 1, "stand", -40, [F("figure leaning", 6)], 460, "Is he walking or falling?", "The lean is mine, not his.", "released", ["leaning"]),
        new("Odile Marsh", 1, "stand", 0, [F("head large", 0.12)], 470, "How many heads did you count?", "I counted seven and drew six.", "released", ["head-large"]),
        new("Odile Marsh", 2, "seated", 30, [F("forearm at full length", 1)], 380, "Is the forearm too long?", "It comes at me and I drew all of it.", "answered", ["known-length"], "I measured it: hardly longer than the hand."),
        new("Odile Marsh", 4, "contrapposto", 36, [F("shoulders level", 0.6)], 480, "Do the tilts answer one another?", "The pelvis tilts. The shoulders forgot.", "released", ["level-tilts"]),
        new("Tove Arkle", 1, "stand", 20, [F(SimulatedStudent.FlatTone, 1)], 465, "Why is it so grey?", "I shaded everything that was not paper.", "released", ["flat-tone"], "", 0.6),
        new("Tove Arkle", 4, "contrapposto", -35, [F("hand small", 0.2)], 485, "Are the darks one shape now?", "Two values only. The hand got lost in one of them.", "released", ["hands-small"], "", 0.7),
        new("Sunniva Reed", 1, "stand", 0, [F("legs short", 0.14)], 480, "Are the legs short?", "I drew down from the head until it ended.", "released", ["legs-short"]),
        new("Sunniva Reed", 2, "kneel", 25, [F("one limb longer", 0.15)], 400, "Why does one leg reach further?", "The near leg grew while I looked.", "released", ["limb-unequal"], "", 0.5, Tool.Charcoal, "female"),
        new("Sunniva Reed", 4, "contrapposto", 12, [F("legs short", 0.08)], 485, "Better in the legs?", "Half the height is the pubic bone. Nearly.", "released", ["legs-short"]),
        new("Perrin Gale", 1, "stand", -15, [F("head large", 0.1)], 500, "Is he slim enough?", "I like the outline. It is one darkness all round.", "released", ["head-large"], "", 0.7),
        new("Perrin Gale", 2, "chinonhand", -30, [F(SimulatedStudent.WhitesLeft, 0.5)], 390, "Is the shadow finished?", "I left some paper in the dark to let it breathe.", "released", ["whites-left"], "", 0.6, Tool.Charcoal, "female"),
        new("Casper Lowe", 1, "stand", 0, [F("head large", 0.16), F("shoulders level", 1)], 490, "Does he look alive?", "He looks like a door.", "released", ["head-large"]),
        new("Casper Lowe", 2, "lunge", 35, [F("figure leaning", 4)], 420, "Is there any movement?", "The line of action was first this time.", "answered", ["leaning"], "The line was right; I straightened it afterwards."),
        new("Bram Sedge", 1, "stand", 0, [F("head large", 0.12), F("figure leaning", 5)], 470, "Why does he tip to the right?", "I sit askew.", "released", ["leaning", "head-large"]),
        new("Bram Sedge", 2, "handonhip", -20, [F("figure leaning", 4)], 475, "Is he upright?", "Less than before.", "released", ["leaning"]),
        new("Bram Sedge", 3, "stand", 9, [F("head large", 0.07)], 480, "Does the plumb help?", "It helps when I look at it.", "answered", ["head-large"], "The head is the next thing I count.", 0.6),
        new("Maren Holt", 1, "stand", 0, [F("head large", 0.14)], 460, "How large is the head?", "I measured nothing.", "released", ["head-large"], "", 0.4),
        new("Maren Holt", 2, "seated", 10, [F("feet small", 0.2)], 370, "Do the feet carry her?", "They are under the stool somewhere.", "released", ["feet-small"], "", 0.5, Tool.Charcoal, "female"),
        new("Maren Holt", 3, "stand", 25, [F("head large", 0.1), F("shoulders level", 0.7)], 480, "Are the shoulders level in truth?", "They were not. I drew them so.", "answered", ["head-large"], "I write the hours of both tilts beside the sheet now.", 0.5),
        new("Dara Quist", 2, "stand", -30, [F("one limb longer", 0.12)], 465, "Which leg is right?", "The far one, I think.", "released", ["limb-unequal"], "", 0.6),
        new("Dara Quist", 4, "contrapposto", 20, [F("head large", 0.06)], 480, "Is the neck long enough?", "The head sits well. It may be a size too large.", "released", ["head-large"], "", 0.7),
        new("Nell Orchard", 1, "stand", 15, [F("head large", 0.09)], 470, "Where do I start?", "At the eyes, as always.", "released", ["head-large"]),
        new("Nell Orchard", 3, "stand", -9, [F("hand small", 0.25)], 485, "Are the hands hands?", "They are hidden behind him in my mind.", "released", ["hands-small"]),
    ];

    public static readonly IReadOnlyList<Past> Young =
    [
        new("Ines Cole", 2, "stand", 0, [F("head large", 0.15)], 250, "Is the coat too big?", "I like the pockets.", "released", ["head-large"], "", 0.3, Tool.Pencil, "female"),
        new("Otto Wren", 2, "stand", 20, [F("legs short", 0.15)], 260, "Why is he short?", "The paper is small.", "released", ["legs-short"], "", 0.3, Tool.Pencil),
        new("Lise Farrow", 3, "seated", 25, [F("feet small", 0.3)], 220, "Does she sit on it?", "The chair is good.", "released", ["feet-small"], "", 0.4, Tool.Pencil, "female"),
        new("Kit Osprey", 3, "stand", -20, [F("shoulders level", 1)], 265, "Is it stiff?", "Yes.", "released", ["level-tilts"], "", 0.4, Tool.Pencil),
        new("Anke Moor", 4, "stand", 10, [], 270, "What comes next?", "I measured the head twice.", "released", ["outline-only"], "", 0.7, Tool.Pencil, "female"),
        new("Pim Daly", 2, "stand", 0, [F("head large", 0.2)], 255, "Is the head too large?", "It has a hat in my mind.", "released", ["head-large"], "", 0.3, Tool.Pencil),
    ];

    /// <summary>The foundation year draws the cast of a muscle figure.</summary>
    public static readonly IReadOnlyList<Past> Foundation =
    [
        new("Arlo Finch", 2, "stand", 0, [F("head large", 0.06)], 470, "Are the darks joined?", "The thigh holds together.", "released", ["head-large"], "", 0.8, Tool.Pencil, "academic"),
        new("Mette Rowan", 3, "contrapposto", 20, [], 480, "Where is the cast flatter than I drew it?", "The chest, perhaps.", "released", ["all-hard"], "", 0.9, Tool.Pencil, "academic"),
        new("Silas Crewe", 3, "contrapposto", -25, [F("one limb longer", 0.1)], 475, "Do both legs reach the ground?", "They reach it at different times.", "released", ["limb-unequal"], "", 0.8, Tool.Pencil, "academic"),
        new("Ylva Dunn", 4, "stand", 25, [F(SimulatedStudent.WhitesLeft, 0.4)], 470, "Is it finished?", "There is paper in every shadow.", "waiting", [], "", 0.8, Tool.Pencil, "academic"),
    ];
}
