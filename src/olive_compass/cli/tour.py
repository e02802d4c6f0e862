"""The tours of the demo, the ten first steps and the whole: a caption (``""``: it goes with the one before), and a command.

A command whose first word is ``git`` is one of real git; ``over-there`` is what somebody does in an
application (a file, a text in it, and what takes its place); the others are our own.
"""

#: A caption, and the words of a command.
Scene = tuple[str, tuple[str, ...]]

FIRST: tuple[Scene, ...] = (
    ("Larkspur Map Works draws walking maps. This is its desk.", ("desk", "show")),
    (
        "Your own keys go into a scheme, on top of the studio's and the factory's.",
        ("scheme", "new", "quillmap/mine"),
    ),
    ("Spot heights are placed all day, and have no key.", ("find", "spot height")),
    (
        "Which keys would be best? By reach, first letter, and keys nearby.",
        ("free", "quillmap", "--for", "Spot height"),
    ),
    (
        "S is taken. You see by what, and nothing is taken from it unless you say so.",
        ("assign", "quillmap", "Spot height", "S", "--if-taken", "stop"),
    ),
    (
        "So take Q. The reason stays with the decision.",
        ("assign", "quillmap", "Spot height", "Q", "--why", "beside the hand"),
    ),
    (
        "What does S do while you draw, and who decided that?",
        ("press", "quillmap", "S", "--mode", "draw"),
    ),
    ("What is wrong with its keys?", ("check", "quillmap")),
    ("Every change can be undone.", ("undo",)),
    (
        "A sheet for the wall. All keys of an application, on one page.",
        ("sheet", "quillmap", "--out", "for-the-wall.pdf"),
    ),
)

TOUR: tuple[Scene, ...] = (
    (
        "Larkspur Map Works draws walking maps. Three of its applications are on the desk already.",
        ("desk", "show"),
    ),
    (
        "Klara's spreadsheet of Tagwright's keys is a mess. It becomes a catalogue all the same.",
        (
            "app",
            "import",
            "Tagwright",
            "--version",
            "2.7",
            "--duplicates",
            "refuse",
            "--from",
            "listings/tagwright-keys.csv",
        ),
    ),
    (
        "Reliefkiln's handbook page is one long line, and writes C-n. What may that be?",
        ("app", "import", "Reliefkiln", "--from", "listings/reliefkiln-page.html", "--dry-run"),
    ),
    (
        "Told once how it writes, every later list of it is read whole,",
        (
            "app",
            "spelling",
            "reliefkiln",
            "--spell",
            "C-=Ctrl+",
            "--spell",
            "A-=Alt+",
            "--spell",
            "S-=Shift+",
            "--spell",
            "a=A",
        ),
    ),
    (
        "and keys are shown in its own words.",
        ("find", "--app", "reliefkiln", "light", "--keys-as", "app"),
    ),
    ("On top of the house's keys, a scheme of one's own.", ("scheme", "new", "quillmap/mine")),
    ("Spot heights are placed all day, and have no key.", ("find", "spot height")),
    ("Which letters are left while drawing?", ("free", "quillmap", "--mode", "draw")),
    (
        "S is taken, of course. Nothing is taken from it unless you say so.",
        ("assign", "quillmap", "Spot height", "S", "--if-taken", "stop"),
    ),
    (
        "Quillmap lets two commands share a key: it shows both by number.",
        ("assign", "quillmap", "Join", "F9", "--if-taken", "share"),
    ),
    (
        "So it is Q, beside the hand, and the reason stays with it.",
        (
            "assign",
            "quillmap",
            "Spot height",
            "q",
            "--why",
            "the letter S is Spline; Q is beside the hand",
        ),
    ),
    (
        "Smoothing goes next to simplifying. Any spelling of the key will do.",
        (
            "assign",
            "quillmap",
            "Smooth contour",
            "alt-m",
            "--why",
            "M: next to N, which simplifies",
        ),
    ),
    (
        "The parallel line takes the key of Duplicate, and we hear what that is left with.",
        ("assign", "quillmap", "Parallel line", "Ctrl+D", "--if-taken", "replace"),
    ),
    (
        "Try it: which command does the key start, who decided that, and what does it override?",
        ("press", "quillmap", "⌃D", "--mode", "draw"),
    ),
    (
        "One letter of a typed sequence waits for the next.",
        ("press", "quillmap", "S", "--mode", "draw"),
    ),
    (
        "Are Ctrl+Shift+= and Ctrl++ two keys? Not on this keyboard.",
        ("key", "Ctrl+Shift+="),
    ),
    (
        "The board while lettering, with Ctrl held.",
        ("board", "quillmap", "--mode", "label", "--with", "Ctrl"),
    ),
    ("Swipes, mode beside mode.", ("swipes", "quillmap")),
    (
        "Would all this work on the laptop with the German keyboard?",
        ("check", "quillmap", "--keyboard", "iso-laptop/german"),
    ),
    ("The scheme at a glance.", ("scheme", "show", "quillmap/mine")),
    (
        "The left foot is free, too. The desk gets a pedal,",
        (
            "desk",
            "device",
            "new",
            "pedal",
            "--controls",
            "left,middle,right",
            "--hand",
            "foot",
        ),
    ),
    (
        "Quillmap takes what it sends, and the wheel with a modifier,",
        ("app", "rules", "quillmap", "--set", "takes=device,wheel"),
    ),
    (
        "and they count like keys.",
        (
            "assign",
            "quillmap",
            "Back one point",
            "pedal:left",
            "--why",
            "the foot does nothing else",
        ),
    ),
    (
        "Is all in order? The house's key for the closure check reaches into the label mode.",
        ("check", "quillmap"),
    ),
    (
        "Many have no key. That was looked through, and is meant: no more notes about it.",
        ("accept", "quillmap", "unassigned", "--why", "looked through"),
    ),
    (
        "So it leaks. Narrowed in one step, without typing it all again.",
        ("modes", "quillmap", "Check closure", "--scheme", "house"),
    ),
    (
        "Foldpress says that F9 is unassigned. It is not.",
        ("press", "foldpress", "F9"),
    ),
    (
        "In Reliefkiln the space bar bakes the tints for good, and F6 shades for forty minutes.",
        ("check", "reliefkiln"),
    ),
    (
        "The space bar goes silent there, with the reason.",
        ("mute", "reliefkiln", "Space", "--why", "a habit from elsewhere", "--scheme", "house"),
    ),
    (
        "Some keys must never change.",
        ("assign", "reliefkiln", "Erode", "Ctrl+Z", "--if-taken", "replace", "--scheme", "house"),
    ),
    (
        "What would a visitor press wrongly?",
        ("surprises", "quillmap"),
    ),
    ("The last two back again.", ("undo", "2")),
    (
        "And second thoughts about Ctrl+D: back to factory, and nothing else moves.",
        ("reset", "quillmap", "--key", "Ctrl+D"),
    ),
    ("Every change is kept, with its reason.", ("history",)),
    (
        "Klara drew a light and its name on Monday. The log has it, a line an event.",
        ("macro", "from-log", "logs/quillmap-2026-10-12.jsonl"),
    ),
    (
        "Lines 3 to 12 become a macro. Which steps are accidental, and which belong to that one chart?",
        (
            "macro",
            "from-log",
            "logs/quillmap-2026-10-12.jsonl",
            "quillmap/Light with name",
            "--lines",
            "3..12",
        ),
    ),
    (
        "The chance steps go.",
        ("macro", "cut", "quillmap/light-with-name", "1", "3", "5", "6"),
    ),
    (
        "The point is asked for, with a question of one's own.",
        ("macro", "ask", "quillmap/light-with-name", "1", "at", "Where does the light stand?"),
    ),
    (
        "The name stands 12 above the light, wherever that is.",
        ("macro", "fix", "quillmap/light-with-name", "2", "at", "{step 1 at +0 +12}"),
    ),
    ("And what it says is asked.", ("macro", "ask", "quillmap/light-with-name", "2", "text")),
    (
        "On a key.",
        ("assign", "quillmap", "Light with name", "Alt+L", "--why", "L: light"),
    ),
    (
        "Played on another chart, dry: it works. But did that light blink like the first one?",
        (
            "macro",
            "play",
            "quillmap/light-with-name",
            "--document",
            "documents/quillmap/west-quay.json",
            "--answer",
            "at=90,60",
            "--answer",
            "text=Wick Head",
            "--dry-run",
        ),
    ),
    ("The check knows what was forgotten.", ("check", "quillmap")),
    (
        "So the light's character is asked for too, and the finding is gone.",
        ("macro", "ask", "quillmap/light-with-name", "1", "character", "Which character?"),
    ),
    (
        "On all three charts: where does it come out otherwise?",
        (
            "macro",
            "play",
            "quillmap/light-with-name",
            "--on-each",
            "documents/quillmap",
            "--answer",
            "at=90,60",
            "--answer",
            "text=Wick Head",
            "--answer",
            "character=Oc.R.4s",
        ),
    ),
    (
        "A long name, set ten times a day: two letters and the value.",
        ("macro", "setting", "quillmap", "Dim other layers", "--key", "D O"),
    ),
    (
        "Nine commands of the harbour charts are in five menus. On one tab of one's own, in first place,",
        (
            "tray",
            "new",
            "quillmap/Harbour day",
            "--kind",
            "tab",
            "--place",
            "first",
            "--why",
            "the harbour charts, from five menus",
        ),
    ),
    (
        "in groups.",
        (
            "tray",
            "add",
            "quillmap/harbour-day",
            "Sounding",
            "Depth contour",
            "Shoreline",
            "--group",
            "Depths",
        ),
    ),
    (
        "",
        (
            "tray",
            "add",
            "quillmap/harbour-day",
            "Buoy",
            "Wreck",
            "--group",
            "Lights",
        ),
    ),
    (
        "",
        (
            "tray",
            "add",
            "quillmap/harbour-day",
            "Smooth contour",
            "Measure",
            "Halo",
            "Preview plates",
            "--group",
            "On paper",
        ),
    ),
    ("What stands there, and which of it has a key besides.", ("tray", "show", "harbour-day")),
    (
        "Foldpress has a bar that is always in view. It does not take everything,",
        ("tray", "new", "foldpress/Everyday", "--kind", "bar"),
    ),
    ("", ("tray", "add", "foldpress/everyday", "Proof", "Make plates")),
    ("and wants an icon for each.", ("tray", "add", "foldpress/everyday", "Proof", "Turn over")),
    ("", ("tray", "add", "foldpress/everyday", "Proof", "Map fold", "Check job")),
    (
        "Reliefkiln opens what was used last, in a list that fills itself,",
        ("tray", "new", "reliefkiln/Lately", "--kind", "list", "--fill", "recent", "8"),
    ),
    (
        "on one key.",
        ("assign", "reliefkiln", "tray.lately", "F9", "--why", "what was just done, again"),
    ),
    ("", ("try", "reliefkiln", "--script", "scripts/lately.txt", "--no-log")),
    (
        "The tide gauge takes no key. The saved view that shows it does,",
        ("via", "reliefkiln", "Tide gauge", "--through", "Harbour side"),
    ),
    ("and whoever looks for the gauge finds the view's key.", ("find", "tide gauge")),
    (
        "Somebody puts a view in before it: every key says what it reaches now.",
        ("app", "slot", "reliefkiln", "View 2", "South face", "--inserted"),
    ),
    (
        "The gauge is seen through another one from now on, and the key goes with it.",
        ("via", "reliefkiln", "Tide gauge", "--through", "Harbour side"),
    ),
    (
        "",
        (
            "assign",
            "reliefkiln",
            "Harbour side",
            "Ctrl+H",
            "--if-taken",
            "replace",
            "--scheme",
            "house",
            "--why",
            "H: harbour",
        ),
    ),
    (
        "One set of keys for all four. First: which command is what, in Tagwright's words?",
        ("purpose", "guess", "tagwright", "--above", "0.7", "--yes"),
    ),
    ("What stops things, whatever each of them calls it?", ("find", "stop")),
    (
        "The set is learnt from the two that are used most. What they disagree on is said.",
        (
            "keyset",
            "learn",
            "larkspur",
            "--app",
            "quillmap",
            "tagwright",
            "--title",
            "Larkspur's keys",
        ),
    ),
    (
        "All four take it on, each by its own rules: what is adopted, blocked, and who loses what.",
        ("keyset", "apply", "larkspur", "--yes"),
    ),
    ("The picture of it: purposes down, applications across.", ("keyset", "show", "larkspur")),
    (
        "False friends: F6 trims in Quillmap, and shades for forty minutes here.",
        ("check", "reliefkiln"),
    ),
    (
        "Settled: that one is started from the menu, with the reason.",
        (
            "keyless",
            "reliefkiln",
            "Shade the whole sheet",
            "--why",
            "F6 trims in Quillmap",
            "--scheme",
            "house",
        ),
    ),
    (
        "Foldpress cannot import keys. Two of them are to be swapped.",
        ("assign", "foldpress", "Turn page", "Ctrl+D", "--if-taken", "replace"),
    ),
    (
        "The other way round as well.",
        ("assign", "foldpress", "Duplicate page", "Ctrl+R"),
    ),
    (
        "The work list: by hand, in an order that its rules allow at every step.",
        ("worklist", "foldpress"),
    ),
    (
        "Most of it is done by now, says Foldpress's own list. What did not take?",
        ("worklist", "verify", "foldpress", "--from", "listings/foldpress-now.csv"),
    ),
    (
        "Reliefkiln keeps its keys in a text file of its own. What would change there?",
        (
            "deliver",
            "reliefkiln",
            "--to",
            "kiln/keys.kiln",
            "--file-format",
            "kiln",
            "--dry-run",
        ),
    ),
    (
        "Written, and nothing else in that file moves. As it was before is kept beside it.",
        ("deliver", "reliefkiln", "--to", "kiln/keys.kiln", "--file-format", "kiln", "--yes"),
    ),
    (
        "Somebody gives a key over there, in Reliefkiln itself.",
        (
            "over-there",
            "kiln/keys.kiln",
            "edit.grow-selection <= nothing",
            "edit.grow-selection <= C-g",
        ),
    ),
    ("It is noticed,", ("deliver", "reliefkiln", "--check")),
    (
        "and imported as a decision.",
        ("deliver", "reliefkiln", "--import-changes", "--scheme", "house"),
    ),
    (
        "Quillmap 5 is out. Which keys moved, and which of our decisions still apply?",
        (
            "upgrade",
            "quillmap",
            "--from",
            "listings/quillmap-5.csv",
            "--version",
            "5.0",
            "--yes",
        ),
    ),
    (
        "The studio keeps its keys in a folder of its own,",
        ("house", "from", "elsewhere/studio"),
    ),
    ("and what is new there is imported.", ("house", "pull", "--yes")),
    ("The desk becomes a git repository of its own.", ("git", "init", "-q")),
    ("Its merges go by decision.", ("desk", "git")),
    ("As it is now.", ("git", "add", "-A")),
    ("", ("git", "commit", "-qm", "The desk")),
    ("Toma works on a branch.", ("git", "switch", "-qc", "toma")),
    ("", ("assign", "quillmap", "Cairn", "Alt+C", "--why", "C: cairn")),
    ("", ("git", "commit", "-qam", "Cairns")),
    ("Klara meanwhile, on hers.", ("git", "switch", "-q", "-")),
    ("", ("assign", "quillmap", "Ford", "Alt+F", "--why", "F: ford")),
    ("", ("git", "commit", "-qam", "Fords")),
    (
        "Real git merges the two; each keeps the other's decision.",
        ("git", "merge", "-q", "--no-edit", "toma"),
    ),
    ("", ("find", "--key", "Alt+C", "--app", "quillmap")),
    ("", ("find", "--key", "Alt+F", "--app", "quillmap")),
    ("All of it into one file, for the laptop.", ("pack", "larkspur.zip")),
    ("The laptop has a desk of its own,", ("desk", "new", "laptop", "--name", "Klara's laptop")),
    (
        "and a German keyboard without a numeric pad.",
        ("desk", "keyboard", "--form", "iso-laptop", "--layout", "german", "--desk", "laptop"),
    ),
    (
        "It is looked at, imported,",
        ("unpack", "larkspur.zip", "--desk", "laptop", "--yes", "--quiet"),
    ),
    (
        "and checked there: which of the keys does this keyboard lack, or hide behind AltGr?",
        ("check", "quillmap", "--desk", "laptop"),
    ),
    ("Not on the laptop after all: taken back as one.", ("undo", "--desk", "laptop")),
    (
        "Where does the time go? Six weeks of three people are counted, each log once.",
        ("usage", "take", "logs/studio/klara", "--seat", "Klara"),
    ),
    ("", ("usage", "take", "logs/studio/ivo", "--seat", "Ivo")),
    ("", ("usage", "take", "logs/studio/runa", "--seat", "Runa")),
    ("How much is pressed, and how much goes by the menus?", ("usage", "--trend")),
    ("What has a key, and is reached by menu all the same?", ("usage", "quillmap", "--by-menu")),
    (
        "Beside the preview sits the key that shades for forty minutes. How often was it hit?",
        ("usage", "reliefkiln", "--slips"),
    ),
    ("How much time do the keys save, and which others would save more?", ("savings", "quillmap")),
    (
        "Keys for the five that are used most without one: the cheapest together, as one change.",
        ("suggest", "quillmap", "--most", "5", "--yes"),
    ),
    ("A key saves nothing until the hand knows it.", ("practise", "quillmap", "--sheet")),
    ("The ten to learn, as a card.", ("practise", "quillmap", "--sheet", "--out", "to-learn.pdf")),
    (
        "A sheet for the wall, in letters as large as one page allows,",
        ("sheet", "quillmap", "tagwright", "--out", "for-the-wall.pdf"),
    ),
    (
        "one of the set for the wall of the studio,",
        ("sheet", "--keyset", "larkspur", "--paper", "a3", "--out", "studio-wall.pdf"),
    ),
    ("a card for the guest of tomorrow,", ("surprises", "quillmap", "--out", "for-the-guest.pdf")),
    (
        "and a page for the browser, on which the keyboard lights up.",
        ("page", "--out", "larkspur-keys.html"),
    ),
)
