"""The readers of listings and of our own TOML, and the printing of text, on their own."""

import io
from typing import Annotated, Literal

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec import Meta

from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF, RED, width_of, wrapped
from olive_compass.cli.terminal.tables import print_fields, print_table
from olive_compass.core.apps.command_ids import slug
from olive_compass.core.apps.listing import read_listing
from olive_compass.core.apps.listing_result import ListingRequest
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.findings import kinds
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.plain import plain_text
from olive_compass.core.schemes.sheet import SheetGroup, SheetKey, SheetLine
from olive_compass.desk.importing import formats, read_rows
from olive_compass.desk.importing.source import decoded
from olive_compass.desk.reported.finding import FindingReport
from olive_compass.desk.source_lines import FilePlace
from olive_compass.desk.texts.schemas import Format, fitted, saying
from olive_compass.desk.texts.toml_text import key_lines, load, parsed
from olive_compass.drawing import reports
from olive_compass.drawing.documents import About, Sheet, SheetDocument
from olive_compass.drawing.forms import form_called
from olive_compass.errors import UserError
from olive_compass.structs import replace


def rows_of(name: str, text: str, pattern: str = "") -> list[tuple[str, ...]]:
    _, read = read_rows(name, text.encode(), pattern)
    return [row.cells for row in read.rows]


def test_formats_are_found_by_their_being_there() -> None:
    known = {"delimited", "json_rows", "lines", "page", "ruled", "workbook", "structured"}
    known |= {"binding_lines", "paper", "text_document", "open_document", "text_lines", "markdown"}
    assert set(formats()) == known
    for module in formats().values():
        assert module.__doc__
        assert callable(module.read)  # type: ignore[attr-defined]


@pytest.mark.parametrize(
    ("text", "rows"),
    [
        ('{"save": "Ctrl+S", "open": null}', [("id", "keys"), ("save", "Ctrl+S"), ("open", "")]),
        (
            '{"Edit": {"Undo": "Ctrl+Z", "Redo": ""}, "View": {"Zoom": "Z"}}',
            [
                ("title", "keys", "menu"),
                ("Undo", "Ctrl+Z", "Edit"),
                ("Redo", "", "Edit"),
                ("Zoom", "Z", "View"),
            ],
        ),
        (
            '[{"group": "Edit", "items": [{"title": "Undo", "keys": ["Ctrl+Z", "Alt+U"]}]}]',
            [("menu", "title", "keys"), ("Edit", "Undo", "Ctrl+Z or Alt+U")],
        ),
        (
            '{"x.undo": {"title": "Undo", "key": {"mod": "Ctrl", "k": "Z"}}}',
            [("id", "title", "key"), ("x.undo", "Undo", "Ctrl Z")],
        ),
    ],
)
def test_shapes_of_json(text: str, rows: list[tuple[str, ...]]) -> None:
    assert rows_of("a.json", text) == rows


def test_json_lines_set_aside_what_is_none() -> None:
    _, read = read_rows("a.jsonl", b'{"title": "A"}\nnot json\n{"title": "B"}\n[1]\n')
    assert [row.cells[0] for row in read.rows] == ["title", "A", "B"]
    assert [(each.line, each.text) for each in read.set_aside] == [(2, "not json"), (4, "[1]")]


def test_a_quotation_mark_that_is_never_closed_loses_nothing() -> None:
    lines = ["Title,Keys"] + [f"Command {n},Ctrl+{n}" for n in range(1, 20)]
    lines[3] = 'Command "3,Ctrl+3'
    lines[5] = '"Command 5,Ctrl+5'
    listing = read_listing(read_rows("a.csv", "\n".join(lines).encode())[1].rows, ListingRequest())
    assert len(listing.catalogue.commands) == 19


@pytest.mark.parametrize(
    ("cell", "text"),
    [
        ("<kbd>Ctrl</kbd>+<kbd>B</kbd>", "Ctrl+B"),
        ("<kbd>Ctrl</kbd> <kbd>B</kbd>", "Ctrl+B"),
        ("<kbd>Ctrl</kbd><kbd>Shift</kbd><kbd>B</kbd>", "Ctrl+Shift+B"),
        ("<kbd>A</kbd> or <kbd>B</kbd>", "A or B"),
        ("<kbd>A</kbd><br><kbd>B</kbd>", "A\nB"),
        ("<ul><li>A<li>B</ul>", "A\nB"),
        ("&lt;b&gt; <b>x</b><script>y</script>", "<b> x"),
        ("a\n  b", "a b"),
    ],
)
def test_cells_of_pages(cell: str, text: str) -> None:
    page = f"<table><tr><th>Name<th>Keys</tr><tr><td>One<td>{cell}</tr></table>"
    assert rows_of("a.html", page)[1] == ("One", text)


@given(st.text(max_size=300))
def test_no_text_breaks_a_reader(text: str) -> None:
    for name in ("a.csv", "a.json", "a.jsonl", "a.html", "a.txt"):
        try:
            _, read = read_rows(name, text.encode("utf-8", "surrogatepass"))
            read_listing(read.rows, ListingRequest())
        except (UserError, LookupError):
            pass


@given(st.binary(max_size=300))
def test_no_bytes_break_a_reader(data: bytes) -> None:
    for name in ("a.csv", "a.xlsx", "a.html", "a"):
        try:
            read_rows(name, data)
        except UserError:
            pass


@pytest.mark.parametrize(
    ("codec", "name"),
    [
        ("utf-8", "UTF-8"),
        ("utf-8-sig", "UTF-8"),
        ("utf-16", "UTF-16"),
        ("utf-16-be", "UTF-16"),
        ("utf-16-le", "UTF-16"),
        ("cp1252", "Windows-1252"),
    ],
)
def test_encodings_are_told(codec: str, name: str) -> None:
    text = "Title;Keys\nNäher – größer;Ctrl+B\n"
    assert decoded(text.encode(codec)) == (text, name)


def test_terminal_sequences_are_taken_out_of_titles() -> None:
    assert plain_text("a\x1b[31;1mb\x1b]0;title\x07c\u200bd\u202ee\x9bf") == "abcdef"
    assert slug("Größer & weiter…") == "großer-weiter" or slug("Größer & weiter…").isprintable()


def test_lines_of_toml_are_found_whatever_stands_between() -> None:
    text = (
        'a = """\n[no]\nb = 1\n"""\n[t]\n"x.y" = [\n  "[",\n  "z = 1",\n]  # ]\n\'q\' = "#"\n'
        '"w" = { k = "}" }\n[[list]]\nlast = 1\n[[list]]\n[list.in]\nlast = 2\n'
    )
    assert key_lines(text) == {
        ("", "a"): 1,
        ("t", ""): 5,
        ("t", "x.y"): 6,
        ("t", "q"): 10,
        ("t", "w"): 11,
        ("list.0", ""): 12,
        ("list.0", "last"): 13,
        ("list.1", ""): 14,
        ("list.1.in", ""): 15,
        ("list.1.in", "last"): 16,
    }
    # A long text that ends right before the end of its list.
    assert key_lines('a = ["""x"""]\nb = 1\n') == {("", "a"): 1, ("", "b"): 2}


def test_our_toml_is_refused_with_place_and_reason() -> None:
    for data, line, says in (
        (b'format = "x/1"\na = \n', 2, "not TOML"),
        (b'format = "x/2"\n', 1, "reads version 1"),
        (b"\xff", 1, "not UTF-8"),
        (b"y = 1\n", 1, "does not begin with"),
    ):
        with pytest.raises(UserError) as refused:
            load(data, "f.toml", "x/1")
        assert (refused.value.line, refused.value.file) == (line, "f.toml")
        assert says in str(refused.value)


class Thing(Format, frozen=True, kw_only=True):
    color: str = ""
    top_size: int = 0
    n: int = 1
    of: tuple["Thing", ...] = ()
    hand: Literal["left", "right"] | Literal[""] = ""
    keys: Annotated[
        str | Annotated[tuple[str, ...], Meta(min_length=1)], saying("“{key}” needs a key.")
    ] = "x"


def test_what_does_not_fit_a_format_is_left_out_and_said_with_its_place() -> None:
    said = {"colour": 1, "top-size": "x", "n": True, "of": [{"n": 2}, {"n": "x"}, 3]}
    thing, mistakes = fitted(said, Thing, "a thing")
    assert thing == Thing(of=(Thing(n=2), Thing()))
    places = {each.path: each.says for each in mistakes}
    assert places.keys() == {("colour",), ("top-size",), ("n",), ("of", 1, "n"), ("of", 2)}
    assert places["colour",] == "“colour” is no key of a thing; did you mean “color”?"
    assert fitted({"n": 3}, Thing, "a thing") == (Thing(n=3), [])
    _, (wrong,) = fitted({"hand": "nose"}, Thing, "a thing")
    assert wrong.says == "“hand” is one of left, right."
    for nothing in ([], 3):
        _, (wrong,) = fitted({"keys": nothing}, Thing, "a thing")
        assert wrong.says == "“keys” needs a key."


def told(width: int = 0, colour: bool = False) -> tuple[Surroundings, io.StringIO]:
    out = io.StringIO()
    return Surroundings(out, out, environ={}, interactive=False, colour=colour, width=width), out


def test_tables_leave_out_empty_columns_and_wrap_at_a_width() -> None:
    context, out = told()
    print_table(context, ("a", "b", "c"), [("1", "", "x"), ("22", "", "yy")])
    assert out.getvalue() == "a   c\n1   x\n22  yy\n"
    context, out = told(width=40)
    print_table(context, ("name", "text"), [("long " * 6, "words and words and more words")])
    assert max(map(len, out.getvalue().splitlines())) <= 40
    context, out = told()
    print_fields(context, [("one", "1"), ("none", ""), ("three", "3")])
    assert out.getvalue() == "  one    1\n  three  3\n"


def test_marks_become_colours_only_where_wanted_and_nothing_else_passes() -> None:
    for colour, shown in ((True, "\x1b[1mx\x1b[0m�[31my"), (False, "x�[31my")):
        context, out = told(colour=colour)
        context.say(f"{BOLD}x{OFF}\x1b[31my")
        assert out.getvalue() == shown + "\n"
    context, out = told()
    context.quiet = True
    context.report("hidden")
    context.warn(f"{RED}seen\u202e")
    assert out.getvalue() == "seen�\n"


@given(st.text(max_size=60), st.integers(8, 40))
def test_wrapping_keeps_every_word_within_its_width(text: str, width: int) -> None:
    plain = "".join(
        char for char in text if char.isascii() and (char.isprintable() or char == "\n")
    )
    lines = wrapped(plain, width)
    assert all(width_of(line) <= width for line in lines)
    assert "".join("".join(lines).split()) == "".join(plain.split())


ABOUT = About(
    title="App | 1",
    version="<2>",
    desk="Desk",
    mode="",
    schemes="mine over factory",
    date="2026-01-01",
)
GROUPS = [
    SheetGroup(
        "=Menu",
        (
            SheetLine(
                keys=tuple(
                    SheetKey(trigger=read_trigger(text), text=text, modes=("draw",), where="draw")
                    for text in ("Ctrl++", "Num+", "G D", "Ctrl+Num+")
                ),
                title="<b>Zoom|in</b>",
                id="view.in",
                where="draw",
                does="",
            ),
            SheetLine(keys=(), title="`Plain`", id="x", where="", does=""),
        ),
    )
]


SHEETS = SheetDocument(
    sheets=(Sheet(about=ABOUT, groups=tuple(GROUPS), modes=ModeTree({})),), show=str
)


def sheet_as(form: str) -> str:
    return form_called(form).sheets(SHEETS).data.decode()


def test_sheets_of_any_title_are_safe() -> None:
    page = sheet_as("html").replace("<wbr>", "")
    assert "&lt;b&gt;Zoom|in&lt;/b&gt;" in page
    assert "<b>" not in page
    for keys in (
        "<kbd>Ctrl</kbd>+<kbd>+</kbd>",
        "<kbd>Num+</kbd>",
        "<kbd>Ctrl</kbd>+<kbd>Num+</kbd>",
    ):
        assert keys in page
    text = sheet_as("markdown")
    assert "\\<b\\>Zoom\\|in" in text
    assert text.count("\n| `") == 1
    assert sheet_as("csv").splitlines()[1].startswith("'=Menu,")


def test_reports_hold_what_xml_and_json_cannot() -> None:
    finding = FindingReport(
        id="slip",
        accepted=None,
        severity="warning",
        app="a&b",
        says="<x> \x1b & y",
        to_do="z",
        instead=(),
        to_look=None,
        actions={},
        places=(FilePlace("apps/a/app.toml", 0),),
        commands=(),
        keys=("F<",),
        modes=(),
    )
    from xml.etree import ElementTree

    accepted = replace(finding, accepted="yes")
    text = reports.as_junit([finding, accepted])
    suites = ElementTree.fromstring(text)
    assert (suites[0].get("name"), suites[0].get("tests"), suites[0].get("failures")) == (
        "a&b",
        "2",
        "1",
    )
    assert suites[0][1].find("skipped") is not None
    assert "apps/a/app.toml To do: z" in text, "a file without a line has none"
    assert '"suppressions"' in reports.as_sarif([accepted], dict.fromkeys(kinds(), "Do."))


def test_a_name_of_very_many_parts_is_refused_with_its_line() -> None:
    text = "x = 1\n\n" + ".".join(["a"] * 3_000) + " = 1\n"
    with pytest.raises(UserError, match="parts") as refused:
        parsed(text.encode(), "x.toml")
    assert refused.value.line == 3
