"""Listings in the shapes that people have: every row is a command, a heading, set aside or a repeat."""

import pytest

from benchmarks.listings import documents_shown
from olive_compass.core.apps.listing import read_listing
from olive_compass.core.apps.listing_result import Listing, ListingRequest
from olive_compass.desk.importing import read_rows


def read(name: str, text: str) -> Listing:
    return read_listing(read_rows(name, text.encode())[1].rows, ListingRequest())


def told(listing: Listing) -> list[str]:
    return [
        f"{' > '.join(c.menu)}: {c.title} = {' | '.join(map(str, c.keys))}"
        for c in listing.catalogue.commands
    ]


FOUR = [
    "File: Save = Ctrl+S",
    "File: Close = ",
    "Edit: Undo = Ctrl+Z | Alt+Backspace",
    "Edit: Smooth = M",
]
HEAD = "<tr><th>Command</th><th>Shortcut</th></tr>"
MINIFIED = (
    f"<h2>File</h2><table>{HEAD}<tr><td>Save</td><td>Ctrl+S</td></tr><tr><td>Close</td>"
    f"<td>&nbsp;</td></tr></table><h2>Edit</h2><table>{HEAD}<tr><td>Undo</td><td>Ctrl+Z<br>"
    "Alt+Backspace</td></tr><tr><td>Smooth</td><td><kbd>M</kbd></td></tr></table>"
)
SPANNED = (
    f"<table>{HEAD}<tr><td colspan=2>File</td></tr><tr><td>Save</td><td>Ctrl+S</td></tr><tr><td>"
    "Close</td><td></td></tr><tr><td colspan='2'>Edit</td></tr><tr><td>Undo</td><td>Ctrl+Z, "
    "Alt+Backspace</td></tr><tr><td>Smooth</td><td>M</td></tr></table>"
)
NESTED = (
    f"<table>{HEAD}<tr><td colspan=2>File</td></tr><tr><td>Save<table><tr><td>a note</td></tr>"
    "</table></td><td>Ctrl+S</td></tr><tr><td>Close</td><td>-</td></tr><tr><td colspan=2>Edit</td>"
    "</tr><tr><td>Undo</td><td>Ctrl+Z or Alt+Backspace</td></tr><tr><td>Smooth</td><td>M</td></tr>"
    "</table>"
)
MARKDOWN = """# Keys

## File

| Command | Shortcut |
|---|:-:|
| Save | `Ctrl+S` |
| Close | |

## Edit

| Command | Shortcut |
|---|---|
| Undo | <kbd>Ctrl</kbd>+<kbd>Z</kbd> or Alt+Backspace |
| Smooth | **M** |
"""
INDENTED = """File
    Save ......... Ctrl+S
    Close
Edit
    Undo ......... Ctrl+Z or Alt+Backspace
    Smooth ....... M
"""
RULED = """Command    Menu    Key
-------    ----    ---
Save       File    Ctrl+S
Close      File
Undo       Edit    Ctrl+Z, Alt+Backspace
Smooth     Edit    M
"""
GERMAN = """Befehl;Menü;Tastenkürzel;Seit
Save;File;Strg+S;1.0
Close;File;;1.0
Undo;Edit;Strg+Z, Alt+Backspace;2.1
Smooth;Edit;M;2.1
"""
SECTIONS = """# Comments come first: a file of settings, whatever its ending.
[File]
Save=<Control>s
Close=

[Edit]
Undo=<Control>z, <Alt>BackSpace
Smooth=m
"""
BULLETS = """# Keys

## File

- `Ctrl+S`: Save
- [Ctrl]+[W] Close the sheet

## Edit

* Undo — <kbd>Ctrl</kbd>+<kbd>Z</kbd>
* **M** - Smooth

| Key | Action |
| --- | --- |
| `F2` | Rename |
"""
COMMENTED = """// What this computer has otherwise.
[
  {"command": "Save", "menu": "File", "key": "ctrl+s"}, /* no // comment in it */
  {"command": "Close", "menu": "File", "key": ""},
  // {"command": "Gone", "key": "ctrl+g"},
  {"command": "Undo", "menu": "Edit", "key": "ctrl+z or alt+backspace"},
  {"command": "Smooth", "menu": "Edit", "key": "m",},
]
"""
DUMP = """[File]
Save=['<Primary>s']
Close=@as []

[Edit]
Undo=['<Control>z', '<Alt>BackSpace']
Smooth='m'
"""
PARTS = """<h1>Keys</h1><h2>File</h2><table><tr><th>Command</th><th>Ctrl</th><th>Key</th><th>Key 2</th></tr>
<tr><td>Save</td><td>x</td><td>S</td><td></td></tr><tr><td>Close</td><td></td><td></td><td></td></tr></table>
<h2>Edit</h2><table><tr><th>Command</th><th>Modifier</th><th>Key</th><th>Alternate key</th></tr>
<tr><td>Undo</td><td>Ctrl</td><td>Z</td><td>Alt+Backspace</td></tr>
<tr><td>Smooth</td><td></td><td>M</td><td></td></tr></table><p>Zoom: Ctrl+1</p>"""
FRENCH = "Commande\tChemin\tRaccourci clavier\nSave\tFile\tCtrl+S\nClose\tFile\t\n"
RUSSIAN = "Команда,Меню,Горячая клавиша\nSave,File,Ctrl+S\nClose,File,\n"


@pytest.mark.parametrize(
    ("name", "text", "commands"),
    [
        ("minified.html", MINIFIED, FOUR),
        ("spanned.html", SPANNED, FOUR),
        ("nested.html", NESTED, FOUR),
        ("table.md", MARKDOWN, FOUR),
        ("indented.txt", INDENTED, FOUR),
        ("ruled.txt", RULED, FOUR),
        ("settings.def", SECTIONS, FOUR),
        (
            "bullets.md",
            BULLETS,
            [
                "File: Save = Ctrl+S",
                "File: Close the sheet = Ctrl+W",
                "Edit: Undo = Ctrl+Z",
                "Edit: Smooth = M",
                "Edit: Rename = F2",
            ],
        ),
        ("pasted", MARKDOWN, FOUR),
        ("keys.json", COMMENTED, FOUR),
        ("dump.ini", DUMP, ["File: Save = Main+S", *FOUR[1:]]),
        ("parts.html", PARTS, [*FOUR, "Edit: Zoom = Ctrl+1"]),
        ("german.csv", GERMAN, FOUR),
        ("french.tsv", FRENCH, FOUR[:2]),
        ("russian.csv", RUSSIAN, FOUR[:2]),
    ],
)
def test_no_command_is_lost(name: str, text: str, commands: list[str]) -> None:
    listing = read(name, text)
    assert told(listing) == commands
    parts = (listing.groups, listing.heads, listing.repeated, listing.rows_aside)
    assert len(listing.catalogue.commands) + sum(parts) == listing.rows


def test_what_markdown_leaves_aside_is_named_by_its_line() -> None:
    more = "Some words on it.\n\n```\ncode\nof two lines\n```\n\n## Edit\n\nMore words."
    text = BULLETS.replace("## Edit", more)
    _, rows = read_rows("readme.md", text.encode())
    aside = {each.text: each.line for each in rows.set_aside}
    for words in ("Some words on it.", "More words."):
        assert text.splitlines()[aside[words] - 1] == words


def test_lines_of_a_page_end_with_their_keys() -> None:
    text = (
        "File menu\nSave Ctrl+S\nSave a copy Ctrl+Shift+S\nEdit menu\nUndo Ctrl+Z\nFind next F3\n"
    )
    assert told(read("page.txt", text)) == [
        "File menu: Save = Ctrl+S",
        "File menu: Save a copy = Ctrl+Shift+S",
        "Edit menu: Undo = Ctrl+Z",
        "Edit menu: Find next = F3",
    ]
    signed = "Speichern: Strg+S\nVollbild: F11\nRückgängig: Strg+Z\n"
    assert told(read("x.txt", signed))[1] == ": Vollbild = F11"


def test_terms_and_what_is_said_of_them_are_rows() -> None:
    text = (
        "<dl><dt>Ctrl+S<dd>Save the sheet<dt>Ctrl+O<dt>F3<dd>Open a sheet<dt>Ctrl+P<dd>Print</dl>"
    )
    assert told(read("terms.html", text)) == [
        ": Save the sheet = Ctrl+S",
        ": Open a sheet = Ctrl+O | F3",
        ": Print = Ctrl+P",
    ]


def test_brackets_of_a_program_are_no_keys() -> None:
    listed = "<p>Save: Ctrl+S</p><p>Close: Ctrl+W</p><pre>{}</pre>"
    script = "function print(str){ // as it is\ncursor.insertText(str)\n}\nvar rest=def.split()"
    for program in (script, '{\n"Version" : "1.1",\n"Files" : "a;b"\n}'):
        assert told(read("manual.html", listed.format(program))) == [
            ": Save = Ctrl+S",
            ": Close = Ctrl+W",
        ]
    keys = "F3\nFind again\n{\nPrevious paragraph\n}\nNext paragraph"
    for name, text in (("keys.txt", keys), ("keys.html", f"<html><pre>{keys}</pre></html>")):
        assert told(read(name, text)) == [
            ": Find again = F3",
            ": Previous paragraph = {",
            ": Next paragraph = }",
        ]


def test_columns_that_are_not_used_are_named_and_versions_are_no_ids() -> None:
    listing = read("german.csv", GERMAN)
    assert listing.unused == (("Seit", "1.0"),)
    keyless = read("a.csv", "Save,Ctrl+S,x-1\nClose,Ctrl+W,x-1\nUndo,Ctrl+Z,x-2\n")
    assert len(keyless.catalogue.commands) == 3
    assert keyless.unused == (("column 3", "x-1"),)
    same = read("b.csv", "Code,Command,Key\nA1,Save,Ctrl+S\nA1,Close,Ctrl+W\nA1,Save,F2\n")
    assert told(same) == [": Save = Ctrl+S | F2", ": Close = Ctrl+W"], "one id for two commands"
    assert same.repeated == 1


#: A program takes seconds to write each of these, and another one of its kind is read: benchmarks.listings has them.
ANOTHER_IS_READ = (
    "office, open workbook",
    "office, lists as ODT",
    "office, lists printed",
    "browser, lists saved",
    "browser, two columns",
)
DOCUMENTS = {
    name: shows for name, shows in documents_shown().items() if name not in ANOTHER_IS_READ
}


@pytest.mark.long
@pytest.mark.parametrize("name", DOCUMENTS)
def test_documents_in_seven_languages_are_read_as_they_were_written(name: str) -> None:
    assert DOCUMENTS[name]() is not False
