"""Listings in every format that people have, through ``app import``."""

import csv
import json
import re
import shlex
from pathlib import Path

import openpyxl
import pytest

from tests.conftest import Ask, ask_in

ROWS = [
    ("Command", "Menu", "Shortcut"),
    ("Smooth contour", "Edit > Lines", "Ctrl+M, F6"),
    ("Näher – größer", "View", "Ctrl++"),
    ("Grid", "View", "None"),
]
EXPECTED = [("Smooth contour", ["Ctrl+M", "F6"]), ("Näher – größer", ["Ctrl++"]), ("Grid", [])]


@pytest.fixture
def empty(tmp_path: Path) -> Path:
    assert ask_in(tmp_path, "desk", "new", ".").status == 0
    return tmp_path


def catalogue(desk: Path, app: str = "app") -> list[tuple[str, list[str]]]:
    shown = ask_in(desk, "app", "show", app, "--json").json
    return [(command["title"], command["factory-keys"]) for command in shown["commands"]]


def parted(sign: str, end: str = "\n") -> str:
    return end.join(sign.join(f'"{cell}"' for cell in row) for row in ROWS) + end


@pytest.mark.parametrize(
    ("name", "data"),
    [
        ("a.csv", parted(",").encode()),
        ("a.csv", parted(";", "\r\n").encode("utf-8-sig")),
        ("a.tsv", parted("\t").encode("utf-16")),
        ("a.txt", parted(";").encode("utf-16-le")),
        ("a.csv", parted(",", "\r\n").encode("cp1252")),
        ("a.json", json.dumps([dict(zip(ROWS[0], row, strict=True)) for row in ROWS[1:]]).encode()),
        (
            "a.json",
            json.dumps(
                {
                    "version": 1,
                    "commands": [
                        {
                            "name": t,
                            "menu": m.split(" > "),
                            "keys": k.replace("None", "").split(", "),
                        }
                        for t, m, k in ROWS[1:]
                    ],
                }
            ).encode(),
        ),
        (
            "a.jsonl",
            "\n".join(
                json.dumps(dict(zip(ROWS[0], row, strict=True)), ensure_ascii=False)
                for row in ROWS[1:]
            ).encode(),
        ),
        (
            "a.html",
            (
                "<h1>x</h1><table><tr><th>other</th></tr></table><table>"
                + "".join(
                    "<tr>"
                    + "".join(f"<td>{cell.replace('>', '&gt;')}</td>" for cell in row)
                    + "</tr>"
                    for row in ROWS
                )
                + "</table>"
            ).encode(),
        ),
    ],
)
def test_formats_and_encodings(empty: Path, name: str, data: bytes) -> None:
    (empty / name).write_bytes(data)
    added = ask_in(empty, "app", "import", "App", "--from", name)
    assert added.status == 0, added.err
    assert catalogue(empty) == EXPECTED


def test_a_workbook(empty: Path) -> None:
    from openpyxl import Workbook

    book = Workbook()
    book.create_sheet("Notes").append(["nothing"])
    for row in ROWS:
        book.active.append([None if cell == "None" else cell for cell in row])
    book.save(empty / "a.xlsx")
    assert ask_in(empty, "app", "import", "App", "--from", "a.xlsx").status == 0
    assert catalogue(empty) == EXPECTED


def test_a_page_with_a_table_for_each_group(empty: Path) -> None:
    (empty / "keys.html").write_text("""<html><body><style>td{}</style>
<h2>Lines</h2><table><tr><th>Action</th><th>Keys</th></tr>
<tr><td>Split</td><td><kbd>Ctrl</kbd> <kbd>K</kbd><br><kbd>F6</kbd></td></tr>
<tr><td>Join<script>x</script></td><td><kbd>Shift</kbd>+<kbd>J</kbd></td></tr></table>
<h2>View</h2><table><tr><th>Action</th><th>Keys</th></tr>
<tr><th colspan="2">Zooming</th></tr>
<tr><td>Zoom in</td><td><kbd>+</kbd> or <kbd>Num +</kbd></td></tr></table></body></html>""")
    assert ask_in(empty, "app", "import", "App", "--from", "keys.html").status == 0
    assert catalogue(empty) == [
        ("Split", ["Ctrl+K", "F6"]),
        ("Join", ["Shift+J"]),
        ("Zoom in", ["+", "Num+"]),
    ]
    shown = ask_in(empty, "app", "show", "app", "--json").json["commands"]
    assert [command["menu"] for command in shown] == [["Lines"], ["Lines"], ["Zooming"]]


def test_plain_text_needs_a_pattern_and_keeps_what_it_does_not_fit(empty: Path) -> None:
    (empty / "keys.txt").write_text("Split ..... Ctrl+K\n***\nJoin ..... none\nZoom ..... Crtl+Z\n")
    refused = ask_in(empty, "app", "import", "App", "--from", "keys.txt")
    assert (refused.status, "--pattern" in refused.err) == (2, True)
    pattern = r"^(?P<title>\w+) \.+ (?P<keys>\S+)$"
    added = ask_in(empty, "app", "import", "App", "--from", "keys.txt", "--pattern", pattern)
    assert "line 2, row “***”" in added.out
    assert "line 4, keys “Crtl+Z”" in added.out
    assert catalogue(empty) == [("Split", ["Ctrl+K"]), ("Join", []), ("Zoom", [])]
    aside = (empty / "apps/app/set-aside.csv").read_text()
    assert "4,keys," in aside
    assert "***" in aside
    for wrong in ("(", "(?P<what>.)"):
        assert (
            ask_in(empty, "app", "import", "B", "--from", "keys.txt", "--pattern", wrong).status
            == 2
        )


@pytest.mark.parametrize(
    ("name", "data"),
    [
        ("a.json", b'[{"name": "x",'),
        ("a.json", b"[" * 100_000),
        ("a.xlsx", b"PK\x03\x04 broken"),
        ("a.html", b"<html>no table</html>"),
        ("a.csv", b""),
        ("missing.csv", None),
        ("a.json", b"3"),
    ],
)
def test_what_cannot_be_read_is_refused_in_a_sentence(
    empty: Path, name: str, data: bytes | None
) -> None:
    if data is not None:
        (empty / name).write_bytes(data)
    refused = ask_in(empty, "app", "import", "App", "--from", name)
    assert (refused.status, refused.out) == (2, ""), refused.out
    assert len(refused.err.strip().splitlines()) == 1
    assert name in refused.err
    assert not (empty / "apps").exists()


def test_an_updated_listing_is_shown_first_and_keeps_decisions(empty: Path) -> None:
    old = "Title,Menu,Keys\nSplit,Edit,S\nJoin,Edit,J\nTrim,Edit,T\n"
    (empty / "keys.csv").write_text(old)
    ask_in(empty, "app", "import", "App", "--from", "keys.csv")
    ask_in(empty, "scheme", "new", "app/mine")
    ask_in(empty, "assign", "app", "Trim", "F6")
    (empty / "keys.csv").write_text("Title,Menu,Keys\nSplit,Lines,S\nJoin,Edit,K\n")
    dry = ask_in(empty, "app", "import", "App", "--from", "keys.csv", "--dry-run")
    assert "menu changed in 1, keys changed in 1, 1 gone" in dry.out
    assert "mine decides about edit.trim" in dry.out
    assert ask_in(empty, "app", "import", "App", "--from", "keys.csv").status == 2
    assert len(catalogue(empty)) == 3
    assert ask_in(empty, "app", "import", "App", "--from", "keys.csv", "--yes").status == 0
    assert catalogue(empty) == [("Split", ["S"]), ("Join", ["K"])]
    assert ask_in(empty, "find", "split", "--json").json["hits"][0]["command"] == "edit.split"
    assert ask_in(empty, "undo").status == 0
    assert len(catalogue(empty)) == 3


def test_a_catalogue_survives_a_spreadsheet(empty: Path) -> None:
    (empty / "a.csv").write_text(
        "Title,Keys\n=1+1,Ctrl+B\nMinus,-\nPlus,+\nPlace,@KeyC\n'quoted,F3\n"
    )
    assert (
        ask_in(empty, "app", "import", "App", "--from", "a.csv", "--column", "title=Title").status
        == 0
    )
    first = catalogue(empty)
    assert first == [
        ("=1+1", ["Ctrl+B"]),
        ("Minus", ["-"]),
        ("Plus", ["+"]),
        ("Place", ["@KeyC"]),
        ("'quoted", ["F3"]),
    ]
    path = empty / "apps/app/commands.csv"
    text = path.read_text()
    assert not any(
        cell.startswith(("=", "+", "@", "-"))
        for line in text.splitlines()
        for cell in line.split(",")
    )
    import csv

    rows = list(csv.reader(text.splitlines()))
    with path.open("w", encoding="cp1252", newline="") as file:
        csv.writer(file, delimiter=";").writerows([[*rows[0], "", ""], *rows[1:]])
    assert catalogue(empty) == first


def test_how_an_application_writes_keys_is_learnt_kept_and_used(empty: Path) -> None:
    (empty / "odd.csv").write_text("Command,Key\nSave,C-s\nFind,C-f\nDrop,Sft+Q\nOdd,F36\n")
    first = ask_in(empty, "app", "import", "Odd", "--from", "odd.csv")
    assert re.search(
        r"unknown +C- 2 times \(Ctrl\?\), Sft 1 time \(Shift\?\), F36 1 time", first.out
    )
    assert "--spell 'C-=Ctrl+' --spell 'Sft=Shift'" in first.out
    words = ("--spell", "C-=Ctrl+", "--spell", "Sft=Shift", "--spell", "a=A")
    told = ask_in(empty, "app", "import", "Odd", "--from", "odd.csv", "--yes", *words)
    assert told.status == 0
    shown = ask_in(empty, "find", "--app", "odd", "--keys-as", "app").out
    assert re.search(r"Save +C-s \(factory\)", shown)
    assert "Sft+q" in shown
    # Kept: a later listing of the application is read with it.
    (empty / "new.csv").write_text("Command,Key\nSave,C-w\nFind,C-f\nDrop,Sft+Q\nOdd,\n")
    again = ask_in(empty, "app", "import", "Odd", "--from", "new.csv", "--yes")
    assert ("unknown" in again.out, "Ctrl+W" in again.out) == (False, True)
    assert not (empty / "apps/odd/set-aside.csv").exists(), "it is renewed at each reading"
    assert ask_in(empty, "app", "spelling", "odd", "--json").json["spelling"]["C-"] == "Ctrl+"
    assert ask_in(empty, "app", "spelling", "odd", "--remove", "C-").status == 0
    assert "C-" not in ask_in(empty, "app", "spelling", "odd", "--json").json["spelling"]
    assert ask_in(empty, "app", "spelling", "odd", "--remove", "C-").status == 2
    assert ask_in(empty, "app", "spelling", "odd", "--spell", "C=Ctrl").status == 2
    assert ask_in(empty, "find", "save", "--keys-as", "app").status == 2


def test_every_row_is_accounted_for(empty: Path) -> None:
    rows = "Title;Key;Since\nFile;;\nSave;Ctrl+S;1.0\nSave;F2;1.0\nClose;;1.1\n;F9;\n"
    (empty / "a.csv").write_text(rows)
    said = ask_in(empty, "app", "import", "A", "--from", "a.csv", "--groups", "yes").out
    assert re.search(r"read +6 rows = 2 commands .*1 row of headings", said), said
    assert re.search(r"not used +“Since” \(such as “1.0”\)", said)


def test_how_a_listing_was_read_is_kept_and_used_again(empty: Path) -> None:
    (empty / "a.csv").write_text("Vorgang;Nr;Griff\nSave;1;Ctrl+S\nFile;;\nClose;2;Ctrl+W\n")
    words = ("--column", "title=Vorgang", "--column", "keys=3", "--groups", "no")
    assert ask_in(empty, "app", "import", "A", "--from", "a.csv", *words).status == 0
    about = (empty / "apps/a/app.toml").read_text()
    assert '[reading]\ncolumns = {title = "Vorgang", keys = "3"}\ngroups = "no"' in about
    (empty / "b.csv").write_text("Vorgang;Nr;Griff\nSave;1;Ctrl+S\nFile;;\nClose;2;F4\n")
    again = ask_in(empty, "app", "import", "A", "--from", "b.csv", "--yes")
    assert catalogue(empty, "a") == [("Save", ["Ctrl+S"]), ("File", []), ("Close", ["F4"])], (
        again.out
    )
    looked = ask_in(empty, "upgrade", "a", "--from", "a.csv", "--version", "2", "--dry-run")
    assert "File" not in looked.out, "it is no heading here, and so not withdrawn"
    assert ask_in(empty, "compare", "a", "a.csv").status in (0, 1)
    told = ask_in(empty, "app", "import", "A", "--from", "b.csv", "--yes", "--column", "keys=Griff")
    assert (told.status, 'keys = "Griff"' in (empty / "apps/a/app.toml").read_text()) == (0, True)


def test_modes_that_a_listing_names_are_registered(empty: Path) -> None:
    (empty / "a.csv").write_text("Command,Key,Mode\nSave,Ctrl+S,Any window\nJoin,J,Draw\n")
    assert ask_in(empty, "app", "import", "A", "--from", "a.csv").status == 0
    (empty / "a.csv").write_text(
        "Command,Key,Mode\nSave,Ctrl+S,überall\nJoin,J,Draw\nBold,B,Text\n"
    )
    assert ask_in(empty, "app", "import", "A", "--from", "a.csv", "--yes").status == 0
    about = (empty / "apps/a/app.toml").read_text()
    assert ('"draw" = "everywhere"' in about, 'text = "everywhere"' in about) == (True, True)
    shown = ask_in(empty, "find", "--app", "a", "--json").json["hits"]
    assert [hit["modes"] for hit in shown] == [[], ["draw"], ["text"]]


def test_a_page_of_controls_that_say_their_keys(empty: Path) -> None:
    (empty / "app.html").write_text(
        "<!doctype html><html><body><h1>Loom</h1>"
        '<button aria-keyshortcuts="Control+K Alt+Shift+J" aria-label="Join lines">J</button>'
        '<a href="#" aria-keyshortcuts="Shift+Space">Pan the view</a><p>Some text</p>'
        '<li role="menuitem" aria-keyshortcuts="Meta+Plus">Zoom in</li>'
        '<input aria-keyshortcuts="F" title="Find"></body></html>'
    )
    added = ask_in(empty, "app", "import", "App", "--from", "app.html", "--yes")
    assert added.status == 0, added.err
    found = {c["title"]: c["keys"] for c in ask_in(empty, "find", "--json").json["hits"]}
    keys = {title: [each["key"] for each in some] for title, some in found.items()}
    assert keys == {
        "Join lines": ["Ctrl+K", "Alt+Shift+J"],
        "Pan the view": ["Shift+Space"],
        "Zoom in": ["Meta++"],
        "Find": ["F"],
    }


@pytest.mark.parametrize(
    ("name", "text"),
    [
        ("keys.csv", "Command;Key\nFind;f\nFind all;F\nGo there;g or Alt+G\nUp;k\nCopy;Ctrl+C\n"),
        (
            "keys.html",
            "<table><tr><th>Command<th>Key<tr><td>Find<td>f<tr><td>Find all<td>F<tr><td>Go there<td>g or Alt+G"
            "<tr><td>Up<td>k<tr><td>Copy<td>Ctrl+C</table>",
        ),
        ("keys.md", "- Find: f\n- Find all: F\n- Go there: g or Alt+G\n- Up: k\n- Copy: Ctrl+C\n"),
    ],
)
def test_a_capital_is_shift_where_letters_stand_both_ways(
    empty: Path, name: str, text: str
) -> None:
    (empty / name).write_text(text)
    added = ask_in(empty, "app", "import", "kiln", "--from", name, "--yes")
    assert added.status == 0, added.err
    assert "a capital letter means Shift and that letter" in added.out
    commands = ask_in(empty, "app", "show", "kiln", "--json").json["commands"]
    keys = {each["command"]: each["factory-keys"] for each in commands}
    assert keys["find"] == ["F"]
    assert keys["find-all"] == ["Shift+F"]
    assert keys["go-there"] == ["G", "Alt+Shift+G"]
    assert keys["copy"] == ["Ctrl+C"]
    # It is kept, so that the same listing changes nothing, and what is written is written so.
    again = ask_in(empty, "app", "import", "kiln", "--from", name, "--yes")
    assert "nothing was changed" in again.out
    found = ask_in(empty, "find", "go there", "--app", "kiln", "--keys-as", "app")
    assert "g (factory), Alt+G (factory)" in found.out


def test_a_spreadsheet_of_ones_own_keys_becomes_a_scheme(ask: Ask, desk: Path) -> None:
    """Ticked modifiers, a command in other words, one that there is not, and one without a key."""
    rows = "Command;Ctrl;Shift;Key\nSpline;;;L\nSounding;x;;Q\nUndo;x;;Z\nSound things;;;F8\nCairn;;;\nRake;x;x;R\n"
    (desk / "mine.csv").write_text(rows)
    book = openpyxl.Workbook()
    sheet = book.active
    assert sheet is not None
    for row in rows.splitlines():
        sheet.append(row.split(";"))
    book.save(desk / "mine.xlsx")
    listed = list(csv.DictReader(rows.splitlines(), delimiter=";"))
    (desk / "mine.json").write_text(json.dumps({"shortcuts": listed}))
    for file in ("mine.csv", "mine.xlsx", "mine.json"):
        name = file.replace(".", "-")
        said = ask("scheme", "import", f"quillmap/{name}", "--from", file)
        assert said.status == 0, said.err
        assert "2 decisions" in said.out, "Undo has its key from the factory"
        assert "Left out: Quillmap has no command “Rake”." in said.out
        text = (desk / f"schemes/quillmap/{name}.toml").read_text()
        assert '"line.spline" = { keys = ["L"], modes = ["draw"], instead = true }' in text
        assert '"point.sounding" = { keys = ["Ctrl+Q"], modes = ["draw"] }' in text
        assert "cairn" not in text
    again = ask("scheme", "import", "quillmap/more", "--from", "mine.csv", "-n", "--json").json
    assert again["left-out"] == ["Sound things", "Rake"]
    assert not (desk / "schemes/quillmap/more.toml").exists()


def test_the_column_of_ones_own_keys_can_be_named(ask: Ask, desk: Path) -> None:
    (desk / "both.csv").write_text("Command,Shortcut,My shortcut\nSpline,S,L\nUndo,Ctrl+Z,\n")
    new = ask("app", "import", "Loom", "--from", "both.csv")
    says = "olive-compass scheme import loom/mine --from both.csv --column 'keys=My shortcut'"
    assert f"Next, your own keys: {says}" in new.out
    assert "modes='My shortcut'" not in new.out
    assert ask(*shlex.split(says)[1:]).status == 0
    assert (
        '"spline" = { keys = ["L"], instead = true }'
        in (desk / "schemes/loom/mine.toml").read_text()
    )
    words = ("scheme", "import", "quillmap/own", "--from", "both.csv")
    assert "0 decisions" in ask(*words, "-n").out
    assert ask(*words, "--column", "keys=My shortcut").status == 0
    assert 'keys = ["L"]' in (desk / "schemes/quillmap/own.toml").read_text()


MIXED = """\
Quarrymark 3 reference card

Keys marked * need the big tablet.

File

=========== ============
Command     Key
=========== ============
New sheet   Ctrl+N
Save a copy Ctrl+Shift+S
Close       Ctrl+W
=========== ============

Draw

  Command              Key
  -------------------- ---------
  Line                 L
  Offset by distance   Alt+O
  Undo last point      Backspace

View

-   **Zoom in** — Ctrl + ``+``
-   Fit all — Ctrl+0
-   Previous view — Page Up

Notes

1.  Measure: F8
2.  The pedal does Finish.
"""


def test_tables_and_lists_in_one_text_are_each_read_in_their_own_way(empty: Path) -> None:
    """Rules say where the columns of a table are; the signs before the items of a list are no cells."""
    (empty / "card.txt").write_text(MIXED)
    answer = ask_in(empty, "app", "import", "App", "--from", "card.txt")
    assert answer.status == 0, answer.err
    assert catalogue(empty) == [
        ("New sheet", ["Ctrl+N"]),
        ("Save a copy", ["Ctrl+Shift+S"]),
        ("Close", ["Ctrl+W"]),
        ("Line", ["L"]),
        ("Offset by distance", ["Alt+O"]),
        ("Undo last point", ["Backspace"]),
        ("Zoom in", ["Ctrl++"]),
        ("Fit all", ["Ctrl+0"]),
        ("Previous view", ["PageUp"]),
        ("Measure", ["F8"]),
        ("The pedal does Finish", []),
    ]


def test_the_signs_before_the_items_of_a_printed_list_are_no_cells(empty: Path) -> None:
    from reportlab.pdfgen.canvas import Canvas

    canvas = Canvas(str(empty / "card.pdf"))
    for n, (sign, text) in enumerate(
        [
            ("•", "Zoom in — Ctrl + +"),
            ("•", "Fit all — Ctrl+0"),
            ("•", "Previous view — Page Up"),
            ("1.", "Measure: F8"),
            ("2.", "Mark: F9"),
        ]
    ):
        canvas.drawString(60, 700 - 20 * n, sign)
        canvas.drawString(80, 700 - 20 * n, text)
    canvas.drawString(300, 40, "1")  # the number of the page is no key
    canvas.save()
    answer = ask_in(empty, "app", "import", "App", "--from", "card.pdf")
    assert answer.status == 0, answer.err
    assert catalogue(empty) == [
        ("Zoom in", ["Ctrl++"]),
        ("Fit all", ["Ctrl+0"]),
        ("Previous view", ["PageUp"]),
        ("Measure", ["F8"]),
        ("Mark", ["F9"]),
    ]


@pytest.mark.parametrize(
    ("name", "data", "says"),
    [
        ("card.doc", b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1" + bytes(600), "older binary kind"),
        ("card.rtf", b"{\\rtf1\\ansi {\\b Save} Ctrl+S\\par}", "rich text"),
        ("card.epub", b"PK\x03\x04" + bytes(600), "packed document"),
        ("card.png", b"\x89PNG\r\n\x1a\n" + bytes(600), "no text"),
        ("card.bin", bytes(range(256)) * 8, "no text"),
    ],
)
def test_a_document_that_is_no_text_says_what_to_save_it_as(
    empty: Path, name: str, data: bytes, says: str
) -> None:
    (empty / name).write_bytes(data)
    refused = ask_in(empty, "app", "import", "App", "--from", name)
    assert (refused.status, refused.out) == (2, "")
    assert says in refused.err
    assert "--pattern" not in refused.err
    assert "Save" in refused.err


def test_the_heading_of_a_whole_document_is_no_menu(empty: Path) -> None:
    """Many write it as a heading of the first level, with those of the menus below it."""
    from docx import Document

    document = Document()
    document.add_heading("Quarrymark 3 reference card", 1)
    for menu, title, keys in (("File", "Save", "Ctrl+S"), ("Draw", "Ramp", "Shift+R")):
        document.add_heading(menu, 2)
        document.add_paragraph(f"{title}: {keys}")
    document.save(str(empty / "card.docx"))
    assert ask_in(empty, "app", "import", "App", "--from", "card.docx").status == 0
    shown = ask_in(empty, "app", "show", "app", "--json").json
    assert [command["menu"] for command in shown["commands"]] == [["File"], ["Draw"]]


def test_keys_that_the_mark_up_of_a_list_shows_are_keys_however_short(empty: Path) -> None:
    items = "<li>Zoom in <kbd>+</kbd><li><kbd>0</kbd> Whole board<li>Dim others <kbd>D</kbd> (hold)<li>A word in <kbd>x</kbd> the middle"
    (empty / "card.html").write_text(f"<html><h2>View</h2><ul>{items}<li>Grid: F7</ul></html>")
    assert ask_in(empty, "app", "import", "App", "--from", "card.html").status == 0
    assert catalogue(empty) == [
        ("Zoom in", ["+"]),
        ("Whole board", ["0"]),
        ("Dim others (hold)", ["D"]),
        ("Grid", ["F7"]),
    ]


def test_a_printed_card_in_columns_with_frames_around_its_keys(empty: Path) -> None:
    """The frame of a key is no table, and letters of one width after a title are its key."""
    from reportlab.pdfgen.canvas import Canvas

    canvas = Canvas(str(empty / "card.pdf"))

    def key(x: float, y: float, text: str) -> float:
        canvas.setFont("Courier", 10)
        canvas.rect(x - 2, y - 3, 6 * len(text) + 4, 12)
        canvas.drawString(x, y, text)
        canvas.setFont("Helvetica", 10)
        return x + 6 * len(text) + 5

    canvas.setFont("Helvetica", 10)
    left = [("New board", "Ctrl", "N"), ("Open", "Ctrl", "O"), ("Save", "Ctrl", "S")]
    left += [("Export picture", "Shift", "E"), ("Close", "Ctrl", "W")]
    for n, (title, held, sign) in enumerate(left):
        y = 700 - 14 * n
        canvas.drawString(60, y, title)
        at = key(180, y, held)
        canvas.drawString(at, y, "+")
        key(at + 9, y, sign)
    for n, (title, sign) in enumerate(
        [("Zoom in", "+"), ("Zoom out", "-"), ("All", "0"), ("Tide line", "F6"), ("Grid", "G")]
    ):
        y = 700 - 14 * n
        canvas.drawString(340, y, title)
        key(344 + canvas.stringWidth(title, "Helvetica", 10), y, sign)
    canvas.save()
    answer = ask_in(empty, "app", "import", "App", "--from", "card.pdf")
    assert answer.status == 0, answer.err
    assert catalogue(empty) == [
        ("New board", ["Ctrl+N"]),
        ("Open", ["Ctrl+O"]),
        ("Save", ["Ctrl+S"]),
        ("Export picture", ["Shift+E"]),
        ("Close", ["Ctrl+W"]),
        ("Zoom in", ["+"]),
        ("Zoom out", ["-"]),
        ("All", ["0"]),
        ("Tide line", ["F6"]),
        ("Grid", ["G"]),
    ]


def test_of_what_has_no_columns_the_parts_are_told(empty: Path) -> None:
    (empty / "keys.html").write_text("<h2>File</h2><ul><li>Save: Ctrl+S<li>Close: Ctrl+W</ul>")
    (empty / "keys.conf").write_text("map ctrl+c copy\nmap ctrl+v paste\nmap ctrl+x cut\n")
    (empty / "keys.csv").write_text("Command,Shortcut\nSave,Ctrl+S\nClose,Ctrl+W\n")
    (empty / "keys.json").write_text('[{"command": "Save", "key": "Ctrl+S"}]')
    of_json = ask_in(empty, "app", "import", "App", "--from", "keys.json", "--dry-run").out
    assert of_json.startswith("Read keys.json as JSON.")
    for file, told in (
        ("keys.html", "parts  title, menu and keys"),
        ("keys.conf", "parts  title and keys"),
        ("keys.csv", "columns  title from column 1 (heading “Command”)"),
    ):
        said = ask_in(empty, "app", "import", "App", "--from", file, "--dry-run").out
        assert told in said, said
        assert ("columns" in said) == file.endswith(".csv")
