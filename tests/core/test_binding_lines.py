"""Settings that programs keep themselves: lines that bind keys, names and values, preformatted text on pages."""

import pytest

from olive_compass.core.apps.listing import read_listing
from olive_compass.core.apps.listing_result import Listing, ListingRequest
from olive_compass.desk.importing import read_rows


def read(name: str, text: str, **spelling: str) -> tuple[str, Listing]:
    form, found = read_rows(name, text.encode())
    return form, read_listing(found.rows, ListingRequest(spelling=spelling, headed=found.headed))


def told(listing: Listing) -> list[str]:
    return [
        f"{', '.join(command.modes)}: {command.title} = {' | '.join(map(str, command.keys))}"
        for command in listing.catalogue.commands
    ]


#: One word before the key; settings and remarks between; letters typed one after another, some of them capitals.
MAPPED = """# How it starts
set autosave true
map ctrl+f4 save_copy     # Keep the old sheet
map f11 toggle full_screen
# Contours
map n contour.smooth
map N contour.simplify
map cs contour.split
map ce contour.end
map cj contour.join
map cS contour.split_all
map <C-d> contour.drop
unmap q
"""
BOUND = """bind draw F6 trim
bind draw,label C-l light
bind vertex Insert add_vertex
"""
OPTIONS = """bind F6 trim
bind C-l light
bind -r q quit
bind -T vertex Insert add_vertex
"""


def test_lines_that_bind_keys_are_read_by_their_first_word() -> None:
    form, listing = read("keys.conf", MAPPED)
    assert form == "binding_lines"
    assert told(listing)[:5] == [
        ": save_copy = Ctrl+F4",
        ": toggle full_screen = F11",
        ": contour.smooth = N",
        ": contour.simplify = Shift+N",
        ": contour.split = C S",
    ]
    assert told(listing)[7] == ": contour.split_all = C Shift+S"
    assert listing.catalogue.commands[0].does == "Keep the old sheet"
    # How the program writes Ctrl is proposed, and read once it is said.
    assert [(each.word, each.proposal) for each in listing.unknown] == [("C-", "Ctrl+")]
    _, again = read("keys.conf", MAPPED, **{"C-": "Ctrl+"})
    assert told(again)[8] == ": contour.drop = Ctrl+D"
    assert again.set_aside == ()


def test_a_table_whose_first_column_only_sounds_like_it_is_a_table() -> None:
    rows = [("Save", "Ctrl+S"), ("Split", "S"), ("Trim", "F6"), ("Join", "J")]
    for sign in (",", "\t"):
        text = "\n".join(sign.join(("quillmap", title, keys)) for title, keys in rows)
        form, listing = read("keys.txt", text)
        assert form == "delimited"
        assert len(listing.catalogue.commands) == 4


def test_what_stands_between_the_word_and_the_key_is_a_mode() -> None:
    _, listing = read("keys.rc", BOUND, **{"C-": "Ctrl+"})
    assert told(listing) == [
        "draw: trim = F6",
        "draw, label: light = Ctrl+L",
        "vertex: add_vertex = Insert",
    ]
    _, listing = read("keys.rc", OPTIONS, **{"C-": "Ctrl+"})
    assert told(listing) == [
        ": trim = F6",
        ": light = Ctrl+L",
        ": quit = Q",
        "vertex: add_vertex = Insert",
    ]


@pytest.mark.parametrize(
    ("name", "text"),
    [
        ("keys.ini", "Save sheet=Ctrl+S\nSplit=S\n[draw]\nTrim=F6\n"),
        # The other way round: a key, and what it does.
        ("keys.conf", "Ctrl+S = Save sheet\nS = Split\n[draw]\nF6 = Trim\n"),
    ],
)
def test_values_before_the_first_section_are_in_none(name: str, text: str) -> None:
    form, listing = read(name, text)
    assert form == "structured"
    assert [(c.title, c.menu, list(map(str, c.keys))) for c in listing.catalogue.commands] == [
        ("Save sheet", (), ["Ctrl+S"]),
        ("Split", (), ["S"]),
        ("Trim", ("draw",), ["F6"]),
    ]


INTERFACE = """<?xml version="1.0"?>
<ui><widget name="Sheet">
<action name="actionSave"><property name="text"><string>Save sheet</string></property>
<property name="shortcut"><string>Ctrl+S</string></property></action>
<action name="actionTrim"><property name="text"><string>Trim</string></property>
<property name="shortcut"><string>F6</string></property></action>
</widget></ui>"""
WINDOW = """<?xml version="1.0"?>
<interface><object class="Group"><property name="title">Sheet</property>
<child><object class="Item"><property name="visible">true</property>
<property name="title" translatable="yes">Save sheet</property>
<property name="accelerator">&lt;Ctrl&gt;s</property></object></child>
<child><object class="Item"><property name="visible">true</property>
<property name="title" translatable="yes">Trim</property>
<property name="accelerator">F6</property></object></child></object></interface>"""


@pytest.mark.parametrize("text", [INTERFACE, WINDOW])
def test_properties_of_user_interfaces_are_fields(text: str) -> None:
    _, listing = read("window.ui", text)
    keyed = [c for c in listing.catalogue.commands if c.keys]
    assert [(c.title, c.menu[-1:], list(map(str, c.keys))) for c in keyed] == [
        ("Save sheet", ("Sheet",), ["Ctrl+S"]),
        ("Trim", ("Sheet",), ["F6"]),
    ]


def test_lines_of_preformatted_text_are_lines() -> None:
    page = (
        "<html><h2>Sheet</h2><pre>\n+        - Zoom in (Ctrl+Up)\n*        - Toggle the <b>grid</b>\n"
        "CTRL-S   - Save\n-        - Zoom out\n</pre><p>Close: F4</p></html>"
    )
    _, listing = read("keys.html", page)
    assert [(c.title, c.menu, list(map(str, c.keys))) for c in listing.catalogue.commands] == [
        ("Zoom in", ("Sheet",), ["+", "Ctrl+Up"]),
        ("Toggle the grid", ("Sheet",), ["*"]),
        ("Save", ("Sheet",), ["Ctrl+S"]),
        ("Zoom out", ("Sheet",), ["-"]),
        ("Close", ("Sheet",), ["F4"]),
    ]


def test_remarks_head_what_follows_and_are_no_keys() -> None:
    _, listing = read("keys.txt", "# Sheet\nSave: Ctrl+S\nClose: F4\n# Draw\nTrim: F6\nSplit: S\n")
    assert [(c.title, c.menu) for c in listing.catalogue.commands] == [
        ("Save", ("Sheet",)),
        ("Close", ("Sheet",)),
        ("Trim", ("Draw",)),
        ("Split", ("Draw",)),
    ]


def test_fields_that_lines_name_are_put_together() -> None:
    page = (
        "<h2>Sheet</h2><p><b>Operation:</b> Save sheet<br><b>Default key:</b> ENTER</p><p>Saves it.</p>"
        "<p><b>Operation:</b> Burn plates<br><b>Default key:</b> Ctrl+B</p>"
    )
    _, listing = read("manual.html", f"<html>{page}</html>")
    assert [(c.title, c.menu, list(map(str, c.keys))) for c in listing.catalogue.commands] == [
        ("Save sheet", ("Sheet",), ["Enter"]),
        ("Burn plates", ("Sheet",), ["Ctrl+B"]),
    ]


def test_keys_that_are_names_in_json_are_keys() -> None:
    text = '{"Ctrl+S": "Save sheet", "S": "Split", "F6": "Trim"}'
    _, listing = read("keys.json", text)
    assert told(listing) == [": Save sheet = Ctrl+S", ": Split = S", ": Trim = F6"]


def test_a_key_is_given_twice_where_its_commands_meet() -> None:
    _, alone = read("a.csv", "Title,Keys\nSave,Ctrl+S\nPrint,Ctrl+S\nOpen,F2\n")
    assert [(str(run), titles) for run, titles in alone.twice] == [("Ctrl+S", ("Save", "Print"))]
    _, apart = read(
        "b.csv", "Title,Keys,Mode\nSave,Ctrl+S,draw\nPrint,Ctrl+S,label\nOpen,F2,draw\n"
    )
    assert apart.twice == []
