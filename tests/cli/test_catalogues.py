"""All about an application by command: modes, marks, kinds, slots, wired keys, its name."""

import shutil
from pathlib import Path

import pytest

from tests.conftest import Ask


def test_a_mode_is_renamed_wherever_it_is_named(ask: Ask, desk: Path) -> None:
    assert (
        ask("assign", "quillmap", "Halo", "F9", "--mode", "label", "--if-taken", "replace").status
        == 0
    )
    before = ask("find", "--app", "quillmap", "--mode", "label", "--json").json
    assert ask("app", "mode", "rename", "quillmap", "label", "lettering").status == 0
    about = (desk / "apps/quillmap/app.toml").read_text()
    assert 'lettering = "canvas"' in about
    assert 'text-modes = ["lettering"]' in about
    assert "label" not in about
    assert 'modes = ["lettering"]' in (desk / "schemes/quillmap/mine.toml").read_text()
    after = ask("find", "--app", "quillmap", "--mode", "lettering", "--json").json
    assert [each["command"] for each in after["hits"]] == [
        each["command"] for each in before["hits"]
    ]
    assert ask("check", "quillmap", "--json").status in (0, 1)


def test_a_mode_is_added_moved_and_dropped(ask: Ask, desk: Path) -> None:
    assert ask("app", "mode", "add", "quillmap", "Trace", "--inside", "draw").status == 0
    assert ask("app", "show", "quillmap", "--json").json["parents"]["trace"] == "draw"
    assert ask("app", "mode", "move", "quillmap", "trace", "--inside", "label").status == 0
    assert ask("app", "show", "quillmap", "--json").json["parents"]["trace"] == "label"
    in_use = ask("app", "mode", "remove", "quillmap", "vertex")
    assert (in_use.status, "commands of Quillmap name the mode" in in_use.err) == (2, True)
    assert ask("app", "mode", "remove", "quillmap", "vertex", "--into", "draw").status == 0
    assert ask("app", "mode", "remove", "quillmap", "trace").status == 0
    modes = ask("app", "show", "quillmap", "--json").json["parents"]
    assert list(modes) == ["canvas", "draw", "label"]
    for words, says in (
        (("add", "quillmap", "draw"), "already"),
        (("rename", "quillmap", "draw", "label"), "already"),
        (("rename", "quillmap", "draw"), "New name missing"),
        (("move", "quillmap", "canvas", "--inside", "draw"), "lies in itself"),
        (("remove", "quillmap", "everywhere"), "root of all modes"),
        (("remove", "quillmap", "drow"), "Did you mean draw?"),
    ):
        refused = ask("app", "mode", *words)
        assert (refused.status, says in refused.err) == (2, True), refused.err


def test_what_is_known_of_commands(ask: Ask) -> None:
    done = ask(
        "app", "mark", "quillmap", "Cairn", "Ford", "--add", "often", "--add", "needs:sky", "--json"
    )
    assert done.json["commands"] == ["point.cairn", "point.ford"]
    assert "it needs “sky”" in ask("assign", "quillmap", "Cairn", "F9").err
    assert ask("app", "mark", "quillmap", "Cairn", "--remove", "needs:sky").status == 0
    assert "needs" not in ask("assign", "quillmap", "Cairn", "F9", "--mode", "draw").err
    assert ask("app", "kind", "quillmap", "Cairn", "slot").status == 0
    assert ask("app", "slot", "quillmap", "Cairn", "The big one").status == 0
    assert "The big one" in ask("find", "the big one").out
    assert ask("app", "inputs", "quillmap", "Ford", "at:point depth:number").status == 0
    for words, says in (
        (("mark", "quillmap", "Cairn", "--add", "oftn"), "Did you mean often?"),
        (("mark", "quillmap", "Cairn"), "Marks missing"),
        (("kind", "quillmap", "Cairn", "knob"), "There are command"),
        (("inputs", "quillmap", "Cairn", "at:nowhere"), "one of point"),
        (("slot", "quillmap", "Ford", "x"), "is no slot"),
    ):
        refused = ask("app", *words)
        assert (refused.status, says in refused.err) == (2, True), refused.err


def test_a_slot_of_one_project_and_its_shift_is_noticed(ask: Ask) -> None:
    moved = ask("app", "slot", "reliefkiln", "View 3", "Harbour mouth")
    assert "was given to" in moved.out
    assert "1 thing to look at" in moved.out
    assert "Ctrl+H and Ctrl+3 reach View 3: Harbour mouth now." in moved.out
    assert ask("undo").status == 0
    here = ask("app", "slot", "reliefkiln", "View 1", "Quay", "--project", "harbour")
    assert "to look at" not in here.out
    assert "Whole massif" in ask("app", "slot", "reliefkiln", "View 1").out
    assert ask("desk", "project", "harbour").status == 0
    assert "Quay" in ask("app", "slot", "reliefkiln", "View 1").out
    assert ask("app", "slot", "reliefkiln", "View 1", "--empty", "--project", "harbour").status == 0
    assert "Whole massif" in ask("app", "slot", "reliefkiln", "View 1").out


def test_keys_that_no_scheme_decides(ask: Ask) -> None:
    kept = ask("app", "rules", "foldpress", "--reserved", "ctrl+s=sends the job")
    assert "Save job does not get Ctrl+S any more" in kept.out
    assert "sends the job" in ask("press", "foldpress", "Ctrl+S").out
    assert ask("app", "rules", "foldpress", "--reserved", "Ctrl+S=").status == 0
    assert "Save job" in ask("press", "foldpress", "Ctrl+S").out
    assert ask("app", "rules", "foldpress", "--unlisted", "F9=").status == 0
    assert "is free in Foldpress" in ask("press", "foldpress", "F9").out
    gone = ask("app", "rules", "foldpress", "--unlisted", "F9=")
    assert (gone.status, "It has F12" in gone.err) == (2, True)
    assert "has no “=”" in ask("app", "rules", "foldpress", "--unlisted", "F9").err


def test_an_application_is_renamed_and_dropped(ask: Ask, desk: Path) -> None:
    def titles(app: str) -> list[str]:
        outcomes = ask("press", app, "Ctrl+D", "--json").json["outcomes"]
        return [c["title"] for each in outcomes for c in each["decided-by"]]

    pressed = titles("quillmap")
    assert ask("app", "rename", "quillmap", "Quillmap Pro").status == 0
    assert not (desk / "apps/quillmap").exists()
    assert titles("quillmap-pro") == pressed
    assert "quillmap-pro" in (desk / "desk.toml").read_text()
    assert "quillmap-pro" in (desk / "purposes.csv").read_text().splitlines()[1]
    assert ask("check", "quillmap-pro").status in (0, 1)
    asked = ask("app", "remove", "quillmap-pro")
    assert (asked.status, "--yes" in asked.err) == (2, True)
    dropped = ask("app", "remove", "quillmap-pro", "--yes")
    assert "decision" in dropped.out
    assert not (desk / "schemes/quillmap-pro").exists()
    assert "quillmap" not in (desk / "desk.toml").read_text()
    assert ask("undo", "2").status == 0
    assert titles("quillmap") == pressed


@pytest.mark.parametrize("mode", ["text", "typing"])
def test_what_a_new_application_does_is_guessed_and_said(
    ask: Ask, tmp_path: Path, desk: Path, mode: str
) -> None:
    listing = tmp_path / "list.csv"
    listing.write_text(f"Command,Keys,Mode\nBold,Ctrl+B,{mode}\nSave,Ctrl+S,\nMove,M,arrange\n")
    added = ask("app", "import", "Fresh", "--from", str(listing))
    assert f"typing writes text in {mode}" in added.out
    assert f'text-modes = ["{mode}"]' in (desk / "apps/fresh/app.toml").read_text()


def test_a_catalogue_has_the_keys_of_both_platforms(ask: Ask, desk: Path) -> None:
    both = "Command,Windows,macOS\nSave,Ctrl+S,⌘S\nRedo,Ctrl+Y,⇧⌘Z\nHide,,⌘H\n"
    cells = "Command,Key\nSave,Ctrl+S / ⌘S\nRedo,Ctrl+Y (Mac: ⇧⌘Z)\nHide,\n"
    (desk / "both.csv").write_text(both)
    (desk / "cells.csv").write_text(cells)
    files = {}
    for platform in ("pc", "mac", "linux"):
        assert ask("desk", "keyboard", "--platform", platform).status == 0
        for name in ("both", "cells"):
            added = ask("app", "import", name, "--from", f"{name}.csv", "--yes")
            assert added.status == 0, added.err
            file = (desk / f"apps/{name}/commands.csv").read_text()
            assert files.setdefault(name, file) == file, "it is the same wherever it was read"
            ask("app", "remove", name, "--yes")
        ask("app", "import", "Both", "--from", "both.csv", "--yes")
    assert "hide,Hide,,,,command,,,,Meta+H" in files["both"]
    assert "redo,Redo,,Ctrl+Y,,command,,,,Shift+Meta+Z" in files["cells"]

    def keys(app: str = "both") -> dict[str, list[str]]:
        hits = ask("find", "--app", app, "--json").json["hits"]
        return {hit["title"]: [each["key"] for each in hit["keys"]] for hit in hits}

    assert keys() == {"Save": ["Ctrl+S"], "Redo": ["Ctrl+Y"], "Hide": []}
    ask("scheme", "new", "both/mine")
    ask("assign", "both", "Hide", "Main+J")
    there = desk.parent / "colleague"
    shutil.copytree(desk, there)
    bundle = desk.parent / "both.zip"
    assert ask("pack", str(bundle)).status == 0
    # A colleague with a Mac has theirs from the same files.
    ask("desk", "keyboard", "--platform", "mac")
    assert keys() == {"Save": ["Meta+S"], "Redo": ["Shift+Meta+Z"], "Hide": ["Main+J", "Meta+H"]}
    assert ask("check", "both").status == 0
    for other in (str(there), str(bundle)):
        assert ask("compare", ".", other, "--json").json == {
            "before": ".",
            "after": other,
            "presses": [],
            "differences": [],
        }
    # A listing of the other platform alone changes nothing that it does not have.
    (desk / "windows.csv").write_text("Command,Key\nSave,Ctrl+S\nRedo,Ctrl+Shift+Y\nHide,\n")
    ask("app", "import", "Both", "--from", "windows.csv", "--yes")
    assert keys()["Redo"] == ["Shift+Meta+Z"]
    ask("desk", "keyboard", "--platform", "pc")
    assert keys()["Redo"] == ["Ctrl+Shift+Y"]


def test_what_the_keys_tell_is_named_where_it_decides_and_is_corrected(
    ask: Ask, desk: Path
) -> None:
    rows = [f"Thing {n},Ctrl+{letter}" for n, letter in enumerate("BCDEFGHIJKLMNOPQRSTUV")]
    (desk / "words.csv").write_text("Title,Keys\n" + "\n".join([*rows, "Lonely,"]) + "\n")
    added = ask("app", "import", "Words", "--from", "words.csv", "--yes").out
    evidence = "none of 21 keys is a plain letter or digit"
    assert f"typing writes text everywhere ({evidence})" in added
    assert "[guessed]" in (desk / "apps/words/app.toml").read_text()
    ask("scheme", "new", "words/mine")
    offers = ask("free", "words", "--for", "Lonely", "--json").json["ranked"]
    assert offers
    assert not any(len(each["key"]) == 1 for each in offers), "letters are typed there"
    free = ask("free", "words", "--for", "Lonely").out
    assert f"Guessed: typing writes text everywhere, because {evidence}." in free
    plan = ask("suggest", "words", "Lonely").out
    assert "To change: olive-compass app rules words --set text-modes=none" in plan
    refused = ask("assign", "words", "Lonely", "L")
    assert f"would no longer type its character everywhere (guessed: {evidence})" in refused.err
    refused = ask("assign", "words", "Lonely", "Alt+L")
    assert "olive-compass app rules words --set modifiers=all" in refused.err
    ask("assign", "words", "Lonely", "L", "--despite", "typing")
    (typed,) = [
        each
        for each in ask("check", "words", "--json").json["findings"]
        if each["id"] == "blocks-typing"
    ]
    assert typed["says"].endswith(f"(guessed: {evidence}).")
    # What somebody says is no guess any more, and the next listing does not bring it back.
    assert ask("app", "rules", "words", "--set", "text-modes=none").status == 0
    assert ask("assign", "words", "Lonely", "N", "--instead").status == 0
    ask("app", "import", "Words", "--from", "words.csv", "--yes")
    rules = ask("app", "rules", "words", "--json").json
    assert rules["text-modes"] == []
    assert rules["guessed"] == ["duplicates", "longest-sequence", "modifiers", "most-keys"]


def test_what_is_told_on_one_platform_holds_on_the_other(ask: Ask, desk: Path) -> None:
    rows = "".join(f"Thing {k},Ctrl+{k},⌘{k}\n" for k in "ABCDEFGHIJKLMNOPQRSTUVW")
    (desk / "both.csv").write_text(f"Command,Windows,macOS\n{rows}Lonely,,\n")
    files = []
    for platform in ("mac", "pc"):
        ask("desk", "keyboard", "--platform", platform)
        added = ask("app", "import", "Both", "--from", "both.csv", "--yes").out
        assert "only the main modifier as modifiers" in added
        files.append((desk / "apps/both/app.toml").read_text())
        ask("app", "remove", "both", "--yes")
    assert files[0] == files[1]
    ask("app", "import", "Both", "--from", "both.csv", "--yes")
    ask("scheme", "new", "both/mine")
    for platform, main in (("pc", "Ctrl"), ("mac", "Meta")):
        ask("desk", "keyboard", "--platform", platform)
        offers = ask("free", "both", "--for", "Lonely", "--json").json["ranked"]
        assert {offer["key"].rpartition("+")[0] for offer in offers} <= {main, "Main", ""}
