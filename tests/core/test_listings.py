"""Listings as people have them become catalogues, and nothing in them is lost."""

import pytest

from olive_compass.core.apps.app import Catalogue
from olive_compass.core.apps.changes import take_in
from olive_compass.core.apps.listing import read_listing
from olive_compass.core.apps.listing_cleaning import LONGEST_CELL
from olive_compass.core.apps.listing_result import Listing, ListingRequest
from olive_compass.core.apps.listing_row import Row
from olive_compass.core.apps.marks import Marks
from olive_compass.core.apps.naming import command_named
from olive_compass.core.apps.search import search
from olive_compass.structs import replace


def read(text: str, **wishes: object) -> Listing:
    lines = text.strip("\n").splitlines()
    rows = [Row(line=n, cells=tuple(line.split(";"))) for n, line in enumerate(lines, 1)]
    return read_listing(rows, ListingRequest(**wishes))  # type: ignore[arg-type]


def as_lines(listing: Listing) -> list[str]:
    return [
        f"{' > '.join(c.menu)}: {c.title} = {' | '.join(map(str, c.keys))}"
        for c in listing.catalogue.commands
    ]


MESSY = """
Keys of Quillmap, printed by Klara
Command;Location;Shortcut;Context
DRAWING;;;
Smooth contour ;Edit → Lines; Ctrl+M, F6 ;Draw
Smooth contour;Edit → Lines;Ctrl+Num +;Draw
Drop the line;Edit → Lines;⌘.;Draw, Vertex
Split;Edit → Lines;None;All
ZOOM;;;
Zoom in;View;Ctrl++;
Zoom\x1b[31m out;View;Ctrl+-;
Pan;View;Middle mouse, Tilted ball;
;;F9;
"""


FILLED = """
Menu;Command;Shortcut
File;New job;Ctrl+N
;Save;Ctrl+S
;Bounce;
Track;Mute;M
;Solo;S
Transport;Play;Space
;Record;Ctrl+R
"""


def test_a_menu_that_stands_at_the_first_of_its_rows_is_that_of_the_others() -> None:
    listing = read(FILLED)
    assert as_lines(listing) == [
        "File: New job = Ctrl+N",
        "File: Save = Ctrl+S",
        "File: Bounce = ",
        "Track: Mute = M",
        "Track: Solo = S",
        "Transport: Play = Space",
        "Transport: Record = Ctrl+R",
    ]
    # A title alone is no heading then: the menus have a column of their own.
    assert (listing.filled, listing.groups) == (4, 0)
    assert as_lines(read(FILLED, groups="no"))[1] == ": Save = Ctrl+S"
    # Where a menu comes twice, a row without one has none.
    assert read(FILLED.replace("Transport", "File")).filled == 0


def test_a_messy_listing() -> None:
    listing = read(MESSY)
    assert as_lines(listing) == [
        "Edit > Lines: Smooth contour = Ctrl+M | F6 | Ctrl+Num+",
        "Edit > Lines: Drop the line = Meta+.",
        "Edit > Lines: Split = ",
        "View: Zoom in = Ctrl++",
        "View: Zoom out = Ctrl+-",
        "View: Pan = ",
    ]
    assert [(a.line, a.text) for a in listing.set_aside] == [
        (1, "Keys of Quillmap, printed by Klara"),
        (10, r"Zoom\u001b[31m out"),
        (11, "Middle mouse, Tilted ball"),
        (12, "F9"),
    ]
    assert (listing.groups, listing.repeated, listing.cleaned) == (2, 1, 1)
    assert listing.modes == ("draw", "vertex")
    assert listing.catalogue.by_id["lines.split"].line == 7


def test_columns_are_told_by_their_cells_where_there_are_no_headings() -> None:
    listing = read("""
Edit > Undo;edit.undo;Ctrl+Z;Undo
Edit > Redo;edit.redo;Ctrl+Y;Redo
View > Grid;view.grid;-;Grid
""")
    assert as_lines(listing) == ["Edit: Undo = Ctrl+Z", "Edit: Redo = Ctrl+Y", "View: Grid = "]
    assert list(listing.catalogue.by_id) == ["edit.undo", "edit.redo", "view.grid"]


def test_named_columns_win_and_a_wrong_name_says_what_there_is() -> None:
    text = "What;Knopf\nUndo;Ctrl+Z\nRedo;Ctrl+Y"
    assert as_lines(read(text, columns={"keys": "Knopf", "title": "1"})) == [
        ": Undo = Ctrl+Z",
        ": Redo = Ctrl+Y",
    ]
    with pytest.raises(LookupError, match=r"no column “Taste”.*“Knopf”"):
        read(text, columns={"keys": "Taste"})


SAVE = [": Save = Ctrl+S", ": Save as = Ctrl+Shift+S", ": Rename = F2", ": Close = Alt+F4"]
BOTH = ["File: Save = Ctrl+S | F12", "File: Open = Ctrl+O", "Edit: Undo = Ctrl+Z | Alt+Backspace"]


@pytest.mark.parametrize(
    ("text", "lines"),
    [
        (
            "Action;Modifier;Key\nSave;Ctrl;S\nSave as;Ctrl + Shift;S\nRename;;F2\nClose;Alt;F4",
            SAVE,
        ),
        (
            "Action;Ctrl;Shift;Alt;Key\nSave;x;;;S\nSave as;x;x;;S\nRename;;;;F2\nClose;;-;x;F4",
            SAVE,
        ),
        ("Befehl;Strg;Umschalt;Taste\nSave;✓;;S\nSave as;✓;✓;S\nRename;;;F2", SAVE[:3]),
        (
            "Command;Menu;Primary;Secondary\nSave;File;Ctrl+S;F12\nOpen;File;Ctrl+O;\n"
            "Undo;Edit;Ctrl+Z;Alt+Backspace",
            BOTH,
        ),
        (
            "Description;Default shortcut;Alternate shortcut;Category\nSave;Ctrl+S;F12;File\n"
            "Open;Ctrl+O;;File\nUndo;Ctrl+Z;Alt+Backspace;Edit",
            BOTH,
        ),
        (
            "Action;⌘;⇧;Key\nSave;x;;S\nSave as;x;x;S",
            [": Save = Meta+S", ": Save as = Shift+Meta+S"],
        ),
        (
            "Taste;ohne;⌘;⇧⌘\nS;Spline;Save;Save as",
            [": Spline = S", ": Save = Meta+S", ": Save as = Shift+Meta+S"],
        ),
        ("Command;Shortcut 1;Shortcut 2\nSave;Ctrl+S;F12", [": Save = Ctrl+S | F12"]),
        # One's own keys are a scheme, and no keys of the factory.
        ("Command;Shortcut;My shortcut\nSave;Ctrl+S;F12", [": Save = Ctrl+S"]),
        ("Command;Windows;macOS;Alternate\nSave;Ctrl+S;⌘S;F12", [": Save = Ctrl+S"]),
        # A heading that is also a modifier heads titles or notes here: there is nothing to tick.
        (
            "Command;Key;Option\nSave;Ctrl+S;quick\nOpen;Ctrl+O;",
            [": Save = Ctrl+S", ": Open = Ctrl+O"],
        ),
    ],
)
def test_keys_in_several_columns_are_put_together(text: str, lines: list[str]) -> None:
    assert as_lines(read(text)) == lines


def test_a_map_of_the_keyboard_is_read_as_the_list_that_it_holds() -> None:
    text = (
        "Keys of the office;;;;\nKey;alone;Ctrl;Ctrl + Shift;Alt\nA;Arc;Select all;;\nS;Spline;Save;Save as;-\n"
        "Letters end here;;;;\n;;;;\nF5;Refresh;;;Arc\n,;;Preferences;;\n"
    )
    listing = read(text)
    assert as_lines(listing) == [
        ": Arc = A | Alt+F5",
        ": Select all = Ctrl+A",
        ": Spline = S",
        ": Save = Ctrl+S",
        ": Save as = Ctrl+Shift+S",
        ": Refresh = F5",
        ": Preferences = Ctrl+,",
    ]
    assert ("Letters end here", "it begins with no key") in {
        (each.text, each.why) for each in listing.set_aside
    }
    # The file has seven rows, and no column with commands.
    assert (listing.mapped, listing.unused) == (7, ())
    assert len(listing.set_aside) == 2
    # A short map with a remark is one, too.
    assert as_lines(read("Key;Plain;Ctrl\nA;Arc;Select all\nHints;see below;")) == [
        ": Arc = A",
        ": Select all = Ctrl+A",
    ]
    # Columns to tick are no map, though a key comes first.
    ticked = "Key;Ctrl;Shift;Command\nS;x;;Save\nS;x;x;Save as"
    assert as_lines(read(ticked)) == [": Save = Ctrl+S", ": Save as = Ctrl+Shift+S"]


def test_modifiers_go_to_the_column_that_a_person_names_and_nothing_else_does() -> None:
    text = "Action;Modifier;Taken;Key 2\nSave;Ctrl;S;F12\nOpen;Ctrl;O;F11"
    listing = read(text, columns={"keys": "Taken"})
    assert as_lines(listing) == [": Save = Ctrl+S", ": Open = Ctrl+O"]
    assert listing.columns.why["keys"] == "named, with “Modifier”"
    assert listing.unused == (("Key 2", "F12"),)


def test_the_platform_chooses_among_key_columns() -> None:
    text = "Command;Windows;Mac\nUndo;Ctrl+Z;⌘Z\nRedo;Ctrl+Y;⇧⌘Z"
    assert as_lines(read(text, platform="pc"))[0] == ": Undo = Ctrl+Z"
    assert as_lines(read(text, platform="mac"))[1] == ": Redo = Shift+Meta+Z"


def test_menu_signs_group_rows_and_paths_as_titles() -> None:
    slashes = "Title;Menu;Keys\nExport/Import;File/Data;F3\nOpen;File/Disk;F4"
    assert as_lines(read(slashes))[0] == "File > Data: Export/Import = F3"
    paths = "Command;Keys\nEdit | Lines | Split;S\nEdit | Lines | Join;J"
    assert as_lines(read(paths.replace("|", "->"))) == [
        "Edit > Lines: Split = S",
        "Edit > Lines: Join = J",
    ]
    grouped = "Title;Keys\nEdit:;\nUndo;Ctrl+Z\nRevert;\nGrid;\nView:;\nZoom;Z"
    assert as_lines(read(grouped)) == [
        "Edit: Undo = Ctrl+Z",
        "Edit: Revert = ",
        "Edit: Grid = ",
        "View: Zoom = Z",
    ]
    # A path heads the rows below it, but not where every title is one.
    headed = "Title;Keys\nEdit > Lines;\nSplit;S\nLane;\nHedge;\nView > Zoom;\nNearer;N\nAll;A"
    assert as_lines(read(headed))[:2] == ["Edit > Lines: Split = S", "Edit > Lines: Lane = "]
    whole = "Title;Keys\nEdit > Split;S\nEdit > Lane;\nEdit > Hedge;\nView > Nearer;N\nView > All;A"
    assert as_lines(read(whole))[:2] == ["Edit: Split = S", "Edit: Lane = "]


def test_typed_runs_are_noticed_and_a_lone_minus_is_a_key_beside_a_plus() -> None:
    listing = read(
        "Title;Keys\nSplit;SP\nStream;st\nSpline;S\nWood;WD\nZoom in;+\nZoom out;-\nGrid;none"
    )
    keys = {c.title: " ".join(map(str, c.keys)) for c in listing.catalogue.commands}
    assert keys["Split"] == "S P"
    assert keys["Stream"] == "S T"
    assert keys["Zoom out"] == "-"
    assert (listing.typed, listing.longest_sequence) == (2, 2)


def test_twins_keep_ids_of_their_own() -> None:
    listing = read("Title;Menu;Keys;Help\nFit;View;F3;the sheet\nFit;View;F4;the selection")
    assert list(listing.catalogue.by_id) == ["view.fit", "view.fit-2"]


def test_a_new_listing_keeps_the_ids_of_commands_that_only_moved() -> None:
    old = read("Title;Menu;Keys\nSplit;Edit;S\nJoin;Edit;J\nTrim;Edit;T").catalogue
    new = read("Title;Menu;Keys\nSplit;Lines;S\nJoin;Edit;K\nHatch;Edit;H").catalogue
    found = take_in(old, new)
    taken, changes = found.catalogue, found.changes
    assert "edit.split" in taken.by_id
    assert [(c.what, (c.after or c.before).title) for c in changes] == [  # type: ignore[union-attr]
        ("menu", "Split"),
        ("keys", "Join"),
        ("new", "Hatch"),
        ("gone", "Trim"),
    ]
    assert take_in(taken, new).catalogue.by_id.keys() == taken.by_id.keys()


def test_what_a_listing_leaves_out_stays_until_it_is_to_go() -> None:
    old = read("Title;Menu;Keys;Mode;Kind\nSplit;Edit;S;draw;part\nJoin;Edit;J;draw;").catalogue
    marked = replace(old.commands[0], marks=Marks(long_running=True), inputs="at=point")
    old = Catalogue((marked, old.commands[1]))
    new = read("Title;Keys\nSplit;X\nJoin;J").catalogue
    taken = take_in(old, new)
    split = taken.catalogue.by_id["edit.split"]
    assert replace(split, line=0) == replace(marked, keys=split.keys, line=0)
    assert [c.what for c in taken.changes] == ["keys"]
    assert taken.stayed == {"menu": 2, "modes": 2, "kind": 1, "marks": 1, "inputs": 1}
    keyless = take_in(old, new, ("modes", "marks")).catalogue.by_id["edit.split"]
    assert (keyless.modes, keyless.marks.disruptive, keyless.kind) == ((), False, "part")


def test_commands_are_named_and_searched_as_people_do() -> None:
    commands = read(MESSY).catalogue.commands
    for name in ("lines.split", "split", "Edit > Lines > Split", "lines/split", "SPLI"):
        assert [c.title for c in command_named(commands, name).exact] == ["Split"]
    twins = command_named(commands, "zoom")
    assert [c.title for c in twins.exact] == ["Zoom in", "Zoom out"]
    assert command_named(commands, "smoth contur").near[0].title == "Smooth contour"
    assert [c.title for c in search(commands, "line")] == [
        "Drop the line",
        "Smooth contour",
        "Split",
    ]
    assert search(commands, "xyz") == ()


def test_what_it_does_is_the_title_where_the_menu_names_no_command() -> None:
    listing = read("""
What it does;Menu;Key
New relief;Relief;Ctrl+N
Open relief;Relief;Ctrl+O
Undo;Edit;Ctrl+Z
Redo;Edit;Ctrl+Y
""")
    assert as_lines(listing)[:2] == ["Relief: New relief = Ctrl+N", "Relief: Open relief = Ctrl+O"]
    paths = read("""
What it does;Menu;Key
Makes a relief;Relief > New;Ctrl+N
Opens a relief;Relief > Open;Ctrl+O
Takes a step back;Edit > Undo;Ctrl+Z
""")
    assert as_lines(paths)[0] == "Relief: New = Ctrl+N"


def test_a_comma_parts_the_strokes_of_a_run_where_several_commands_share_the_first() -> None:
    text = """
Command;Keys
Save all;Ctrl+K, Ctrl+S
Close all;Ctrl+K, W
Fold;Ctrl+M, F6
Zoom;Ctrl+K then Z
"""
    assert as_lines(read(text)) == [
        ": Save all = Ctrl+K Ctrl+S",
        ": Close all = Ctrl+K W",
        ": Fold = Ctrl+M | F6",
        ": Zoom = Ctrl+K Z",
    ]
    plain = as_lines(read(text, longest=1))
    assert plain[0] == ": Save all = Ctrl+K | Ctrl+S"


def test_a_cell_that_is_far_too_long_is_set_aside_with_its_row_and_none_shorter() -> None:
    text = "Command;Menu;Keys;Description\nSplit;Edit;F2;{}\nJoin;Edit;F3;{}"
    kept = read(text.format("x" * LONGEST_CELL, "y"))
    assert as_lines(kept) == ["Edit: Split = F2", "Edit: Join = F3"]
    long = read(text.format("x" * (LONGEST_CELL + 1), "y"))
    assert as_lines(long) == ["Edit: Join = F3"]
    (aside,) = long.set_aside
    assert (aside.line, len(aside.text)) == (2, 200)
    assert f"a cell has {LONGEST_CELL + 1} characters" in aside.why


def test_access_letters_are_read_where_enough_cells_have_one() -> None:
    rows = "Menu;Command;Key\n&File;&Save;Ctrl+S\n&File;&Open;Ctrl+O\n&File;&Print;Ctrl+P\n"
    commands = read(rows).catalogue.commands
    assert [(each.title, each.access) for each in commands] == [
        ("Save", ("F", "S")),
        ("Open", ("F", "O")),
        ("Print", ("F", "P")),
    ]
    # One ampersand is part of a name.
    (names, _) = read("Command;Key\nCut & paste;Ctrl+X\nSave;Ctrl+S\n").catalogue.commands
    assert (names.title, names.access) == ("Cut & paste", ())


TWO_ROWS = """
Moorfield 12, checked by Klara;;;;;
Menu;What;Windows;;Mac;
Menu;What;Key;Alt. key;Key;Alt. key
Levels;Raise water;Ctrl+Up;;Cmd+Up;
Levels;Lower water;Ctrl+Down;F4;Cmd+Down;F4
Levels;Level 0;0;Num 0;0;
Sluices;Close all;Shift+Esc;n/a;Shift+Esc;–
"""


def test_headings_in_two_rows_are_read_together_and_no_key_is_none() -> None:
    listing = read(TWO_ROWS)
    assert as_lines(listing) == [
        "Levels: Raise water = Ctrl+Up",
        "Levels: Lower water = Ctrl+Down | F4",
        "Levels: Level 0 = 0 | Num0",
        "Sluices: Close all = Shift+Escape",
    ]
    elsewhere = [list(map(str, c.keys_elsewhere or ())) for c in listing.catalogue.commands]
    assert elsewhere == [["Meta+Up"], ["Meta+Down", "F4"], ["0"], ["Shift+Escape"]]
