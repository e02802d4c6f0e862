"""Whatever a person has in hand: each kind of document gives the same commands, keys and menus."""

import io
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from olive_compass.core.apps.listing import read_listing
from olive_compass.core.apps.listing_result import Listing, ListingRequest
from olive_compass.core.apps.listing_row import Row
from olive_compass.core.keys.cells import read_cell
from olive_compass.desk.importing import read_rows
from olive_compass.desk.importing.blocks import Heading, Line, read_blocks
from olive_compass.desk.importing.side_by_side import Table
from olive_compass.errors import UserError
from olive_compass.structs import replace
from tests.core.documents import DOCUMENTS, NOTES, TRUTH


def read(name: str, data: bytes) -> Listing:
    _, found = read_rows(name, data)
    listing = read_listing(found.rows, ListingRequest())
    return replace(listing, set_aside=(*found.set_aside, *listing.set_aside))


@pytest.mark.parametrize("name", sorted(DOCUMENTS))
def test_every_document_gives_the_same(name: str) -> None:
    make, whole = DOCUMENTS[name]
    listing = read(name, make())
    found = {
        command.title: (" > ".join(command.menu), {str(run) for run in command.keys})
        for command in listing.catalogue.commands
    }
    wanted = {
        title: (menu, {str(run) for run in read_cell(keys).triggers})
        for menu, commands in TRUTH.items()
        for title, keys in commands.items()
        if keys or whole
    }
    assert found == wanted
    said = " ".join(each.text for each in listing.set_aside)
    if name.endswith((".html", ".docx", ".odt")) and name != "lists.docx":
        assert NOTES in said, "what is seen and is no command is set aside"
    assert "Ctrl+Q" not in said
    assert "Ctrl+H" not in said


TEXTS = st.sampled_from(
    [
        "Save sheet",
        "Ctrl+S",
        "Zoom in",
        "F6",
        "S",
        "Up one level",
        "Alt+Drag",
        "Note 3",
        "none",
        "",
        "Ctrl+K Ctrl+S",
        "Home",
    ]
)
ROWS = st.lists(st.lists(TEXTS, min_size=1, max_size=4), min_size=1, max_size=5)
BLOCKS = st.lists(
    st.one_of(
        st.tuples(TEXTS, st.integers(1, 3)).map(lambda p: Heading(1, p[0], p[1])),
        TEXTS.map(lambda text: Line(1, text)),
        st.tuples(TEXTS, st.sampled_from([": ", " – ", "  ", " ("]), TEXTS).map(
            lambda p: Line(1, "".join(p))
        ),
        st.tuples(st.booleans(), ROWS).map(
            lambda p: Table(
                tuple(
                    Row(line=n, cells=tuple(cells))
                    for n, cells in enumerate([["Title", "Keys"], *p[1]] if p[0] else p[1], 1)
                )
            )
        ),
    ),
    max_size=6,
)


@given(BLOCKS)
def test_nothing_visible_is_lost_and_nothing_invented(blocks: list[Heading | Line | Table]) -> None:
    read_ = read_blocks(blocks, "blocks")
    cells_ = [cell for row in read_.rows for cell in row.cells]
    aside = [each.text for each in read_.set_aside]
    told = " ".join([*cells_, *aside, *(b.text for b in blocks if isinstance(b, Heading))])
    there = set(re.findall(r"\w+", told))
    seen = " ".join(
        " ".join(cell for row in block.rows for cell in row.cells)
        if isinstance(block, Table)
        else block.text
        for block in blocks
    )
    assert set(re.findall(r"\w+", seen)) <= there | {"Title", "Keys"}
    try:
        listing = read_listing(read_.rows, ListingRequest())
    except LookupError:
        return
    for command in listing.catalogue.commands:
        # A title is never keys beyond doubt, and keys are what stood there as keys.
        assert (
            not any("+" in part for part in [command.title])
            or not read_cell(command.title).triggers
        )
        assert command.title in " ".join(told.split())


def test_a_page_that_shows_one_of_two_platforms_has_both() -> None:
    cell = '<span class="a"><span hidden="true">Command</span><span hidden="true">Ctrl</span></span>+Shift+F9'
    page = f"<html><table><tr><th>Keys<th>Effect<tr><td>{cell}<td>Update fields<tr><td>F5<td>Go on</table>"
    for platform, keys in (("pc", "Ctrl+Shift+F9"), ("mac", "Shift+Meta+F9")):
        _, found = read_rows("page.html", page.encode())
        listing = read_listing(found.rows, ListingRequest(platform=platform))
        command = listing.catalogue.commands[0]
        assert [str(run) for run in command.keys] == [keys]
        assert command.keys_elsewhere
        assert {str(command.keys[0]), str(command.keys_elsewhere[0])} == {
            "Ctrl+Shift+F9",
            "Shift+Meta+F9",
        }


@pytest.mark.parametrize(
    ("cell", "pc", "mac"),
    [
        ("⌘/Ctrl+S", "Ctrl+S", "Meta+S"),
        ("Ctrl+S / ⌘S", "Ctrl+S", "Meta+S"),
        ("Ctrl+Shift+S or Shift+Cmd+S", "Ctrl+Shift+S", "Shift+Meta+S"),
        ("Ctrl+Y (Mac: ⇧⌘Z)", "Ctrl+Y", "Shift+Meta+Z"),
        ("⌘S", "Meta+S", "Meta+S"),
        ("Win+S or Ctrl+S", "Meta+S, Ctrl+S", "Meta+S, Ctrl+S"),
        ("⌘S or F2", "Meta+S, F2", "Meta+S, F2"),
    ],
)
def test_two_platforms_in_one_cell(cell: str, pc: str, mac: str) -> None:
    rows = [
        Row(line=1, cells=("Title", "Keys"), heading=True),
        Row(line=2, cells=("Save", cell)),
        Row(line=3, cells=("Move", "M")),
    ]
    for platform, own, other in (("pc", pc, mac), ("linux", pc, mac), ("mac", mac, pc)):
        command = read_listing(rows, ListingRequest(platform=platform)).catalogue.commands[0]
        assert ", ".join(map(str, command.keys)) == own
        elsewhere = command.keys if command.keys_elsewhere is None else command.keys_elsewhere
        assert ", ".join(map(str, elsewhere)) == other


def test_each_part_of_a_document_with_the_platforms_that_it_has() -> None:
    page = (
        "<h2>Sheet</h2><table><tr><th>Command<th>Windows<th>Mac<tr><td>Save<td>Ctrl+S<td>⌘S"
        "<tr><td>Hide<td><td>⌘H</table><h2>View</h2><table><tr><th>Action<th>Key<tr><td>Whole"
        "<td>Home</table>"
    )
    _, found = read_rows("page.html", f"<html>{page}".encode())
    for platform, own, other in (
        ("pc", ["Ctrl+S", "", "Home"], ["Meta+S", "Meta+H", "Home"]),
        ("mac", ["Meta+S", "Meta+H", "Home"], ["Ctrl+S", "", "Home"]),
    ):
        listing = read_listing(found.rows, ListingRequest(platform=platform))
        commands = listing.catalogue.commands
        assert [" ".join(map(str, c.keys)) for c in commands] == own
        assert [" ".join(map(str, c.keys_elsewhere or ())) for c in commands] == other


def test_keys_and_titles_in_turn_and_when_they_do_so() -> None:
    page = "<h2>Moving</h2><h3>Tab</h3><p>Select the next thing</p><h3>Shift+Tab</h3><p>Select the one before</p>"
    listing = read("page.html", f"<html>{page}".encode())
    assert [(c.title, c.menu) for c in listing.catalogue.commands] == [
        ("Select the next thing", ("Moving",)),
        ("Select the one before", ("Moving",)),
    ]
    rows = b"Title,Keys\nStart,Enter (if a thing or a text is chosen)\nStop,Escape\n"
    start = read("card.csv", rows).catalogue.commands[0]
    assert ([str(run) for run in start.keys], start.does) == (
        ["Enter"],
        "if a thing or a text is chosen",
    )


@pytest.mark.parametrize(
    ("name", "data", "says"),
    [
        ("page.html", b"<html><p>Nothing of the kind.</p>", "no keys in a table, a list or a line"),
        ("names.yaml", b"a: [b\nc: d", "This is not YAML"),
        ("names.ini", b"\x00\x01", "This is no text"),
        ("names.xml", b"<?xml version='1.0'?><a><b>", "This is not XML"),
        ("card.pdf", b"%PDF-1.4 broken", "This PDF"),
        ("card.docx", b"PK\x03\x04 word/ broken", "This document cannot be read"),
        (
            "card.odt",
            b"PK\x03\x04mimetypeapplication/vnd.oasis broken",
            "This document cannot be read",
        ),
    ],
)
def test_what_cannot_be_read_is_refused_for_the_right_reason(
    name: str, data: bytes, says: str
) -> None:
    with pytest.raises(UserError, match=says):
        read(name, data)


MANUAL = (
    "<h1>Keys</h1><h2>Shortcut keys for the sheet</h2><table><tr><th>Keys<th>Effect"
    "<tr><td>Esc<td>Drops the line.<tr><td>Enter<td>Ends the line.<tr><td>F5<td>Draws anew</table>"
    "<h2>While typing a name</h2><table><tr><th>Keys<th>Effect"
    "<tr><td>Esc<td>Leaves the name<tr><td>Enter<td>Takes the name"
    "<tr><td>Tab<td>Goes to the next name</table>"
    "<h2>View</h2><table><tr><th>Keys<th>Effect<tr><td>F6<td>Shows all</table>"
)


def test_headings_that_part_keys_are_modes() -> None:
    _, found = read_rows("manual.html", f"<html>{MANUAL}".encode())
    request = ListingRequest(headed=found.headed)
    listing = read_listing(found.rows, request)
    by_title = {c.title: (c.menu, c.modes) for c in listing.catalogue.commands}
    assert by_title == {
        "Drops the line": (("Sheet",), ()),
        "Ends the line": (("Sheet",), ()),
        "Draws anew": (("Sheet",), ()),
        "Leaves the name": ((), ("while-typing-a-name",)),
        "Takes the name": ((), ("while-typing-a-name",)),
        "Goes to the next name": ((), ("while-typing-a-name",)),
        "Shows all": (("View",), ()),
    }
    assert listing.as_modes
    assert {str(each.key) for each in listing.situations.splits} == {"Escape", "Enter"}
    # The ids are the same whichever way it is read: decisions stay where they are.
    menus = read_listing(found.rows, replace(request, headings="menu"))
    assert list(menus.catalogue.by_id) == list(listing.catalogue.by_id)
    assert not any(command.modes for command in menus.catalogue.commands)
    # One key twice may be a slip of the document: nothing is taken for a mode unasked.
    rows = [row for row in found.rows if "Takes the name" not in row.cells]
    once = read_listing(rows, request)
    assert (once.as_modes, len(once.situations.headings)) == (False, 1)
    assert read_listing(rows, replace(request, headings="mode")).as_modes


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        (
            "File                       Edit\nSave    Ctrl+S             Undo    Ctrl+Z\n"
            "Close   Ctrl+W             Drop    Ctrl+Delete\n",
            {"Save": "File", "Close": "File", "Undo": "Edit", "Drop": "Edit"},
        ),
        (
            "- Save: Ctrl+S\n- Close: Ctrl+W\n- Zoom out: -\n",
            dict.fromkeys(["Save", "Close", "Zoom out"], ""),
        ),
        (
            "NAME(1)\n\nFILE\n       C\bCt\btr\brl\bl+\b+S\bS Save\n\n       Ctrl+Shift+S\n              Save a copy\n"
            "\nEDIT\n       F3     Find next\n",
            {"Save": "FILE", "Save a copy": "FILE", "Find next": "EDIT"},
        ),
        (
            "Ctrl+S\nSave\nCtrl+W\nClose\nF3\nFind next\n",
            dict.fromkeys(["Save", "Close", "Find next"], ""),
        ),
        (
            "You can save (Ctrl+S) or close it (Ctrl+W).\nUndo (Ctrl+Z)\nFind next (F3)\nWhole (Home)\n",
            dict.fromkeys(["Undo", "Find next", "Whole"], ""),
        ),
    ],
)
def test_text_as_it_is_pasted(text: str, wanted: dict[str, str]) -> None:
    commands = read("pasted", text.encode()).catalogue.commands
    assert {
        c.title: " > ".join(c.menu) for c in commands if c.keys or c.title == "Zoom out"
    } == wanted


def test_a_sheet_of_ours_is_read_back_whole_and_hidden_rows_are_named() -> None:
    from openpyxl import Workbook

    book = Workbook()
    for row in (("Command", "Keys"), ("Save", "Ctrl+S"), ("Old", "Ctrl+H"), ("Close", "Ctrl+W")):
        book.active.append(row)
    book.active.row_dimensions[3].hidden = True
    out = io.BytesIO()
    book.save(out)
    listing = read("a.xlsx", out.getvalue())
    assert [command.title for command in listing.catalogue.commands] == ["Save", "Close"]
    assert [(a.line, a.why) for a in listing.set_aside] == [(3, "it is hidden in the workbook")]


def test_menus_that_stand_in_each_row_are_no_titles() -> None:
    rows = [
        Row(line=n, cells=("Edit", f"Thing {n}", f"Ctrl+{'ABCDE'[n]}"), heading=False)
        for n in range(5)
    ]
    commands = read_listing(rows, ListingRequest()).catalogue.commands
    assert [(c.title, c.menu) for c in commands] == [(f"Thing {n}", ("Edit",)) for n in range(5)]
