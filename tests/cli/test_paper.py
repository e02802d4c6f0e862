"""What goes to paper and into workbooks, as those meet it who open the file."""

import io
from pathlib import Path
from typing import Any

import pypdfium2
import pytest
from openpyxl import load_workbook

from tests.conftest import Answer, Ask, ask_in

A4 = (595, 842)


def opened(path: Path) -> Any:
    return pypdfium2.PdfDocument(path.read_bytes())


def words_of(path: Path) -> str:
    """All that a PDF says, page after page, in the order in which it was written."""
    return "\n".join(page.get_textpage().get_text_bounded() for page in opened(path))


def sizes(path: Path) -> list[tuple[int, int]]:
    return [(round(page.get_width()), round(page.get_height())) for page in opened(path)]


def added(ask: Ask, desk: Path, name: str, text: str) -> Answer:
    (desk / "listing.csv").write_text(text, encoding="utf-8")
    return ask("app", "import", name, "--from", "listing.csv")


def test_a_sheet_for_the_wall_says_what_the_sheet_says(ask: Ask, desk: Path) -> None:
    log = "logs/quillmap-2026-10-12.jsonl"
    made = ask("macro", "from-log", log, "quillmap/Light", "--lines", "3..12")
    assert made.status == 0, made.err
    assert ask("macro", "ask", "light", "2", "at").status == 0
    assert ask("assign", "quillmap", "macro.light", "Alt+L").status == 0
    done = ask("sheet", "quillmap", "--as", "pdf", "--out", "wall.pdf")
    assert (done.status, done.out) == (0, "Written: wall.pdf (1 page).\n")
    assert sizes(desk / "wall.pdf") == [A4]
    said = words_of(desk / "wall.pdf")
    for group in ask("sheet", "quillmap", "--json").json["groups"]:
        assert group["name"] in said
        for line in group["lines"]:
            assert line["title"].split()[0] in said, line
    assert "asks at" in said
    assert "D draw" in said
    assert "− but not in" in said
    assert "Alt+L" in said
    assert "swipe" not in said
    assert ask("sheet", "quillmap", "--as", "pdf", "--out", "wall.pdf").status == 2


@pytest.mark.parametrize(
    ("paper", "size"),
    [("A3", (842, 1191)), ("Letter", (612, 792)), ("tabloid", (792, 1224)), ("a6", (298, 420))],
)
def test_each_paper_has_its_size_upright_and_lying(
    ask: Ask, desk: Path, paper: str, size: tuple[int, int]
) -> None:
    words = ("sheet", "quillmap", "tagwright", "--as", "pdf", "--paper", paper)
    assert ask(*words, "--out", "up.pdf").status == 0
    assert ask(*words, "--landscape", "--out", "lying.pdf").status == 0
    assert set(sizes(desk / "up.pdf")) == {size}
    assert set(sizes(desk / "lying.pdf")) == {size[::-1]}
    assert "Quillmap" in words_of(desk / "up.pdf")
    assert "Tagwright" in words_of(desk / "lying.pdf")


def test_titles_and_keys_of_other_scripts_can_be_read(ask: Ask, desk: Path) -> None:
    titles = ["Σημείο ύψους", "Отметка высоты", "Höhenpunkt", "海図を開く", "Tiefe \U000f0000"]
    rows = "\n".join(f"{title},Karte,Ctrl+{n}" for n, title in enumerate(titles, 1))
    assert added(ask, desk, "Polyglot", f"Title,Menu,Keys\n{rows}\n").status == 0
    done = ask("sheet", "polyglot", "--as", "pdf", "--keys-as", "mac", "--out", "p.pdf")
    assert done.status == 0
    said = words_of(desk / "p.pdf")
    for title in titles[:3]:
        assert title in said
    assert "⌃1" in said
    assert "[U+F0000]" in said
    assert "No font on this machine has U+F0000" in done.err
    # Every letter is drawn with a font that has it, or one that each reader brings.
    data = (desk / "p.pdf").read_bytes()
    assert b"DejaVuSans" in data


def test_a_key_set_goes_to_the_wall_of_the_studio(ask: Ask, desk: Path) -> None:
    learnt = ask("keyset", "learn", "larkspur", "--title", "Larkspur's keys")
    assert learnt.status == 0, learnt.err
    shown = ask("keyset", "show", "larkspur", "--json").json
    done = ask("sheet", "--keyset", "larkspur", "--as", "pdf", "--out", "set.pdf")
    assert done.status == 0, done.err
    said = words_of(desk / "set.pdf")
    for title in ("Quillmap", "Tagwright", "purpose", "Paste in place"):
        assert title in said
    assert said.count("Larkspur's keys") == len(sizes(desk / "set.pdf"))
    table = ask("sheet", "--keyset", "larkspur", "--as", "csv").out.splitlines()
    assert len(table) == len(shown["purposes"]) + 1
    told = ask("sheet", "--keyset", "larkspur", "--keys-as", "aria", "--as", "csv").out
    assert "Control+S" in told
    assert "Ctrl+S" not in told
    few = ask("sheet", "quillmap", "--keyset", "larkspur", "--as", "markdown").out
    assert "Tagwright" not in few
    assert ask("sheet", "--keyset", "larkspur").out == ask("keyset", "show", "larkspur").out
    assert ask("sheet", "--keyset", "larkspur", "--json").json == shown


def test_a_workbook_has_filters_and_runs_nothing(ask: Ask, desk: Path) -> None:
    listing = 'Title,Menu,Keys\n"=HYPERLINK(""x"")",Sheet,Ctrl+1\n-2,Sheet,=\n'
    assert added(ask, desk, "Sums [of] a/very long name of 40", listing).status == 0
    name = "sums"
    done = ask("sheet", "quillmap", name, "--as", "xlsx", "--out", "keys.xlsx")
    assert done.status == 0, done.err
    book = load_workbook(io.BytesIO((desk / "keys.xlsx").read_bytes()))
    assert book.sheetnames[0] == "Quillmap"
    sheet = book["Quillmap"]
    assert sheet.freeze_panes == "A2"
    assert sheet.auto_filter.ref == f"A1:G{sheet.max_row}"
    shown = ask("sheet", "quillmap", "--json").json
    assert sheet.max_row == 1 + sum(len(group["lines"]) for group in shown["groups"])
    other = book[book.sheetnames[1]]
    cells = {cell.value: cell for row in other for cell in row}
    assert cells['=HYPERLINK("x")'].data_type != "f"
    assert cells["="].data_type != "f"
    assert ask("worklist", name, "--help").status == 0
    again = ask("app", "import", "Again", "--from", "keys.xlsx", "--dry-run")
    assert again.status in (0, 2)


def test_cards_for_the_guest_and_of_what_is_to_be_learnt(ask: Ask, desk: Path) -> None:
    assert ask("assign", "quillmap", "line.hedge", "Ctrl+W", "--if-taken", "replace").status == 0
    assert ask("guard", "quillmap", "Ctrl+S", "--why", "everybody").status == 0
    done = ask("surprises", "quillmap", "--as", "pdf", "--out", "guest.pdf")
    assert done.status == 0, done.err
    said = words_of(desk / "guest.pdf")
    assert "At this desk: Quillmap" in said
    assert "Ctrl+W" in said
    assert "Close sheet" in said
    assert "Leave these as they are" in said
    assert ask("usage", "take", "logs").status == 0
    due = ask("practise", "quillmap", "--sheet", "--json").json["cards"]
    done = ask("practise", "quillmap", "--sheet", "--as", "pdf", "--out", "learn.pdf")
    assert done.status == 0, done.err
    said = words_of(desk / "learn.pdf")
    assert sizes(desk / "learn.pdf") == [(420, 298)]
    for card in due:
        assert card["title"] in said


def test_nothing_to_print_is_no_file_and_no_surprise_is_said(ask: Ask, desk: Path) -> None:
    assert added(ask, desk, "Keyless", "Title,Keys\nDraw,\nErase,\n").status == 0
    done = ask("sheet", "keyless", "--out", "none.pdf")
    assert (done.status, done.out) == (1, "No command has a key here; nothing was written.\n")
    assert not (desk / "none.pdf").exists()
    assert ask("sheet", "keyless", "--all", "--out", "all.pdf").status == 0
    assert "Erase" in words_of(desk / "all.pdf")
    assert ask("surprises", "tagwright", "--out", "guest.pdf").status == 0
    said = words_of(desk / "guest.pdf")
    assert "100.0% of the presses" in said
    assert "is expected to be" not in said


def test_several_applications_in_one_document(ask: Ask, desk: Path) -> None:
    page = ask("sheet", "quillmap", "tagwright", "--as", "html").out
    assert page.count("<h1>") == 2
    rows = ask("sheet", "quillmap", "tagwright", "--as", "csv").out.splitlines()
    assert rows[0] == "application,menu,title,keys,modes,command"
    assert {row.split(",")[0] for row in rows[1:]} == {"Quillmap", "Tagwright"}
    both = ask("sheet", "quillmap", "tagwright", "--json").json["sheets"]
    assert [each["app"] for each in both] == ["quillmap", "tagwright"]
    assert both[0] == ask("sheet", "quillmap", "--json").json
    assert ask("sheet", "quillmap", "quillmap", "--json").json == both[0]
    assert ask("sheet", "quillmap", "--as", "html", "--out", "q.html").status == 0
    assert "<h1>Quillmap" in (desk / "q.html").read_text(encoding="utf-8")
    assert ask("use", "tagwright").status == 0
    assert ask("sheet", "--json").json["app"] == "tagwright"


@pytest.mark.parametrize(
    ("words", "begins"),
    [
        (("sheet", "quillmap", "--out", "a.pdf"), b"%PDF"),
        (("sheet", "quillmap", "--out", "a.md"), b"# Quillmap"),
        (("sheet", "quillmap", "--out", "a.HTML"), b"<!doctype html>"),
        (("sheet", "quillmap", "--out", "a.json"), b"{"),
        (("sheet", "quillmap", "--out", "a.csv"), b"menu,title,keys"),
        (("sheet", "quillmap", "--as", "csv", "--out", "a.txt"), b"menu,title,keys"),
        (("surprises", "quillmap", "--out", "a.xlsx"), b"PK"),
        (("board", "quillmap", "--out", "a.svg"), b"<?xml"),
        (("swipes", "quillmap", "--out", "a.png"), b"\x89PNG"),
    ],
)
def test_the_ending_of_the_file_says_its_form(
    ask: Ask, desk: Path, words: tuple[str, ...], begins: bytes
) -> None:
    done = ask(*words)
    assert done.status == 0, done.err
    assert done.out == f"Written: {words[-1]}{' (1 page)' if begins == b'%PDF' else ''}.\n"
    assert (desk / words[-1]).read_bytes().startswith(begins)


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("sheet", "quillmap", "--as", "pdf"), "This goes into a file."),
        (("sheet", "quillmap", "--as", "xlsx"), "This goes into a file."),
        (("sheet", "quillmap", "--paper", "a3"), "--paper is for paper."),
        (("sheet", "quillmap", "--columns", "2"), "--columns is for paper."),
        (("sheet", "quillmap", "--as", "pdf", "--out", "x.pdf", "--size", "90"), "in points"),
        (("sheet", "quillmap", "--as", "pdf", "--out", "x.pdf", "--size", "nan"), "in points"),
        (("sheet", "quillmap", "--as", "pdf", "--out", "x.pdf", "--columns", "0"), "1 to 12"),
        (("sheet", "quillmap", "--as", "pdf", "--out", "x.pdf", "--columns", "9"), "do not fit"),
        (("sheet", "quillmap", "--as", "pdf", "--out", "no/x.pdf"), "cannot be written"),
        (("sheet", "quillmap", "--as", "pdf", "--out", "desk.toml"), "exists already"),
        (("sheet", "quillmap", "--out", "x.txt"), "Text is for the terminal."),
        (("sheet", "--keyset", "larkspur", "--mode", "draw"), "--mode is for the sheet"),
        (("sheet", "--keyset", "none", "--as", "csv"), "There is no key set"),
        (("sheet", "quillmap", "--paper", "legal"), "--paper cannot be"),
        (("sheet",), "No application is named"),
        (("surprises", "quillmap", "--json", "--as", "csv"), "--json is a form of its own."),
        (("practise", "quillmap", "--as", "csv"), "Use --sheet with it."),
    ],
)
def test_odd_requests_are_refused_and_change_nothing(
    untouched: Path, words: tuple[str, ...], says: str
) -> None:
    done = ask_in(untouched, *words)
    assert done.status == 2
    assert says in done.err
