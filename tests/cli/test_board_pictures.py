"""``board`` as a picture, as a user meets it: what stands on which key, and what is refused."""

from pathlib import Path

import pytest

from olive_compass.core.keys.roses import bearing_name
from olive_compass.drawing import board_picture, rose_picture
from olive_compass.drawing.board_picture import BoardPage, Box
from tests.conftest import Ask, ask_in


@pytest.fixture
def pages(monkeypatch: pytest.MonkeyPatch) -> list[BoardPage]:
    """The pages that the program draws, instead of drawn ones."""
    found: list[BoardPage] = []

    def kept(page: BoardPage, form: str) -> bytes:
        found.append(page)
        return form.encode()

    monkeypatch.setattr(board_picture, "drawn", kept)
    return found


def on(page: BoardPage, label: str) -> list[Box]:
    return [box for box in page.boxes if box.key.label == label]


def test_a_picture_says_what_the_board_says(ask: Ask, desk: Path, pages: list[BoardPage]) -> None:
    done = ask("board", "quillmap", "--mode", "draw", "--as", "png", "--out", "draw.png")
    assert (done.status, done.out) == (0, "Written: draw.png.\n")
    assert (desk / "draw.png").read_bytes() == b"png"
    page = pages[0]
    said = ask("board", "quillmap", "--mode", "draw", "--json").json["keys"]
    assert [box.key.state for box in page.boxes[: len(said)]] == [key["state"] for key in said]
    for box, key in zip(page.boxes, said, strict=False):
        assert bool(box.key.text) == bool(key["commands"] or key["keyless"])
    assert on(page, "T")[0].key.text == "Track"
    assert on(page, "T")[0].does.lines == ("Track",)
    assert on(page, "T")[0].key.group == "Draw"
    notes = [text.line for text in page.notes]
    assert "Draw" in notes
    assert "… typed sequences begin with it" in notes
    assert page.titles[0].line == "Quillmap 4.2"


def test_each_group_of_modifiers_that_does_anything_has_its_board(
    ask: Ask, pages: list[BoardPage]
) -> None:
    assert ask("desk", "keyboard", "--form", "iso-laptop", "--layout", "german").status == 0
    done = ask("board", "foldpress", "--all-held", "--as", "pdf", "--out", "all.pdf")
    assert done.status == 0
    titles = [text.line for text in pages[0].titles]
    assert "with Ctrl" in titles
    assert "with Ctrl+Alt+Shift" not in titles
    redo = [box.does.lines for box in on(pages[0], "Y") if box.key.text == "Redo"]
    assert redo == [("Redo",)]
    assert "ISO laptop" in titles[1]
    assert "german" in titles[1]


def test_an_application_with_four_hundred_keys_has_room_on_its_boards(
    ask: Ask, desk: Path, pages: list[BoardPage]
) -> None:
    keys = [*"abcdefghijklmnopqrstuvwxyz0123456789", *(f"F{n}" for n in range(1, 13))]
    held = ["", "Shift+", "Ctrl+", "Alt+", "Ctrl+Shift+", "Ctrl+Alt+", "Alt+Shift+"]
    held += ["Ctrl+Alt+Shift+"]
    rows = [f"{each}{key}" for each in held for key in keys if each or key.startswith("F")]
    lines = ["Title,Menu,Keys"]
    lines += [f"Raise the quay wall {n},Menu {n % 11},{key}" for n, key in enumerate(rows)]
    lines += [f"Sounding line {n},Tools,{key}" for n, key in enumerate("abcdefghijklmnop")]
    (desk / "many.csv").write_text("\n".join(lines))
    added = ask("app", "import", "Quaywall", "--from", "many.csv")
    assert added.status == 0, added.err
    done = ask("board", "quaywall", "--all-held", "--as", "svg", "--out", "many.svg")
    assert done.status == 0, done.err
    used = [box for box in pages[0].boxes if box.key.text.startswith(("Raise", "Sounding"))]
    assert len(used) >= 350
    assert all(box.does.lines for box in used)
    # What has a key at all can be told from its neighbours, number and all.
    assert sum(" ".join(box.does.lines) == box.key.text for box in used) == len(used)


def test_what_no_font_has_is_said(ask: Ask, desk: Path, pages: list[BoardPage]) -> None:
    (desk / "odd.csv").write_text("Title,Keys\nQuay \U0001f9ff\u6d77,Ctrl+Q\n", encoding="utf-8")
    assert ask("app", "import", "Oddment", "--from", "odd.csv").status == 0
    done = ask("board", "oddment", "--with", "Ctrl", "--as", "png", "--out", "odd.png")
    assert done.status == 0
    assert "No font on this machine has" in done.err
    assert "\U0001f9ff" in done.err
    # Never a row of empty boxes: the code point can be looked up.
    (key,) = on(pages[0], "Q")
    assert "[U+1F9FF]" in key.key.text
    assert "\U0001f9ff" not in "".join(pages[0].lines)


def test_roses_are_drawn_as_they_are_listed(
    ask: Ask, desk: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    found = []
    monkeypatch.setattr(rose_picture, "drawn", lambda page, form: found.append(page) or b"svg")
    done = ask("swipes", "quillmap", "--as", "svg", "--out", "r.svg")
    assert (done.status, done.out) == (0, "Written: r.svg.\n")
    listed = ask("swipes", "quillmap", "--json").json["swipes"]
    ways = [point.way for point in found[0].points]
    assert [way.title or None for way in ways] == [
        place["title"] for rose in listed.values() for place in rose
    ]
    differ = {
        line.split()[0] for line in ask("swipes", "quillmap").out.splitlines() if "differs" in line
    }
    assert {bearing_name(way.bearing) for way in ways if way.differs} == differ
    done = ask("swipes", "quillmap", "--mode", "draw", "--as", "pdf", "--out", "draw.pdf")
    assert done.status == 0
    assert len(found[1].points) == 6
    assert ask("swipes", "quillmap", "--as", "svg").status == 2
    assert ask("swipes", "copy", "quillmap", "draw", "label", "--as", "svg").status == 2


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("--as", "png"), "A picture goes into a file."),
        (("--all-held",), "A picture goes into a file."),
        (("--as", "png", "--out", "b.png", "--json"), "A picture is not JSON."),
        (("--as", "png", "--out", "desk.toml"), "This file exists already"),
        (("--as", "png", "--out", "none/b.png"), "This file cannot be written"),
        (("--out", "b.gif"), "A picture goes into a file."),
        (("--by", "purpose"), "--by is for the colours of a picture."),
    ],
)
def test_odd_requests_are_refused_and_change_nothing(
    untouched: Path, words: tuple[str, ...], says: str
) -> None:
    done = ask_in(untouched, "board", "quillmap", *words)
    assert done.status == 2
    assert says in done.err


def test_what_differs_from_a_scheme_is_marked_in_every_form(
    ask: Ask, desk: Path, pages: list[BoardPage]
) -> None:
    assert ask("board", "quillmap", "--mode", "draw", "--against", "factory").status == 0
    before = ask("board", "quillmap", "--mode", "draw", "--against", "mine", "--json").json["keys"]
    assert all(key["before"] is None for key in before)
    assert ask("assign", "quillmap", "line.hedge", "T", "--if-taken", "replace").status == 0
    assert ask("mute", "quillmap", "F9", "--why", "too near").status == 0
    words = ("board", "quillmap", "--mode", "draw", "--against", "factory")
    told = {key["code"]: key["before"] for key in ask(*words, "--json").json["keys"]}
    assert told["KeyT"] == "Track"
    assert told["F9"] == "Preview plates"
    assert told["KeyS"] is None
    text = ask(*words).out
    assert "was Track" in text
    assert "do something else than in factory." in text
    assert ask(*words, "--as", "png", "--out", "a.png").status == 0
    (key,) = on(pages[0], "T")
    assert key.key.was == "Track"
    assert "≠" in key.key.sign
    assert " ".join(key.does.lines) == "Hedge, was Track"
    assert any("in the other scheme" in note.line for note in pages[0].notes)
    # The marks are where a comparison finds presses that differ, and nowhere else.
    changes = ask("compare", "quillmap/factory", "quillmap/mine", "--json").json["presses"]
    there = {each["key"] for each in changes if "draw" in each["modes"] and len(each["key"]) < 3}
    marked = {box.key.label for box in pages[0].boxes if box.key.was}
    assert {key for key in there if key in marked} == there


def test_heat_is_what_was_counted_and_reach_what_free_says(
    ask: Ask, desk: Path, pages: list[BoardPage]
) -> None:
    refused = ask("board", "quillmap", "--heat", "--as", "png", "--out", "h.png")
    assert refused.status == 2
    assert "usage take" in refused.err
    assert ask("usage", "take", "logs").status == 0
    counted = {
        row["command"]: row["times"] for row in ask("usage", "quillmap", "--json").json["commands"]
    }
    told = ask("board", "quillmap", "--with", "Ctrl", "--heat", "--json").json["keys"]
    for key in told:
        expected = sum(counted.get(command, 0) for command in set(key["commands"]) - {None})
        assert key["times"] == expected
    cost = next(key["effort"] for key in told if key["code"] == "KeyS")
    assert cost > next(key["effort"] for key in told if key["code"] == "KeyF") - 5
    assert (
        ask("board", "quillmap", "--with", "Ctrl", "--heat", "--as", "pdf", "--out", "h.pdf").status
        == 0
    )
    notes = [note.line for note in pages[0].notes]
    assert any(line.startswith("used ") for line in notes)
    (save,) = on(pages[0], "S")
    assert save.note.lines[0].startswith(f"{counted.get('sheet.save', 0)} · ")
    most = max((box for box in pages[0].boxes), key=lambda box: box.key.uses or 0)
    assert most.paint[0] == board_picture.HEAT[-1]


def test_colours_by_purpose_several_groups_and_signs_of_their_own(
    ask: Ask, desk: Path, pages: list[BoardPage]
) -> None:
    assert ask("keyless", "quillmap", "sheet.close", "--why", "by the menu").status == 0
    assert ask("assign", "quillmap", "line.hedge", "Ctrl+D", "--if-taken", "share").status == 0
    words = ("board", "quillmap", "--with", "Ctrl", "--with", "Alt", "--with", "Ctrl")
    assert ask(*words, "--by", "purpose", "--as", "svg", "--out", "p.svg").status == 0
    titles = [text.line for text in pages[0].titles]
    assert titles[2:] == ["with Ctrl", "with Alt"]
    (close, _) = on(pages[0], "W")
    assert (close.key.state, close.key.sign) == ("keyless", "–")
    (shared, _) = on(pages[0], "D")
    assert (shared.key.state, shared.key.sign) == ("shared", "&")
    notes = [note.line for note in pages[0].notes]
    assert "files" in notes
    assert "– free: keyless on purpose" in notes
    assert "& several commands share it" in notes
    text = ask(*words).out
    assert text.count("with Ctrl") == 1
    assert "& shared by several" in text
    assert ask(*words, "--json").status == 2
    assert (
        ask(
            "board", "quillmap", "--with", "Alt", "--all-held", "--as", "png", "--out", "x.png"
        ).status
        == 2
    )
