"""The application need not be named: the one in use, that of the folder, or the only one that has it."""

from pathlib import Path

from tests.conftest import Ask, ask_in


def test_what_is_in_use_is_meant_where_none_is_named(ask: Ask, desk: Path) -> None:
    lacking = ask("assign", "Cairn", "F8")
    assert (lacking.status, "No application is named" in lacking.err) == (2, True)
    assert "use" in lacking.err
    assert ask("use").status == 1
    assert ask("use", "quill").status == 0
    assert 'current = "quillmap"' in (desk / "seat.toml").read_text()
    assert ask("use", "--json").json == {"app": "quillmap"}
    given = ask("assign", "Cairn", "F12", "--mode", "draw", "--why", "C is taken")
    assert "Quillmap: Cairn got F12 in draw" in given.out
    assert "Quillmap" in ask("press", "F12", "--mode", "draw").out
    assert ask("free", "--mode", "draw", "--json").json["app"] == "quillmap"
    assert ask("board", "--with", "Ctrl", "--json").json["app"] == "quillmap"
    assert ask("app", "rules", "--json").json["app"] == "quillmap"
    # One that is named is meant, by its name, its title or its beginning.
    for name in ("foldpress", "Foldpress", "fold"):
        assert "Foldpress" in ask("press", name, "F9").out
    assert "Did you mean quillmap?" in ask("press", "quilmap", "S").err
    # Those that look at all applications go on to do so.
    assert len({f["app"] for f in ask("check", "--json").json["findings"]}) > 1
    assert ask("undo").status == 0
    assert "Nothing" not in ask("clear", "Cairn").out or ask("clear", "Cairn").status in (0, 2)
    assert ask("use", "--off").status == 0
    assert "No application is named" in ask("press", "S").err


def test_the_folder_says_which_application_is_meant(ask: Ask, desk: Path) -> None:
    ask("use", "foldpress")
    inside = ask_in(desk / "schemes" / "quillmap", "press", "Ctrl+D")
    assert "Quillmap" in inside.out
    assert "by the folder" in ask_in(desk / "schemes" / "quillmap", "use").out


def test_an_application_as_the_first_word_of_a_search(ask: Ask) -> None:
    alone = ask("find", "--app", "quillmap", "contour", "--json").json
    assert ask("find", "quillmap", "contour", "--json").json == alone
    assert ask("find", "Quillmap", "contour", "--json").json == alone


def test_names_that_stand_once_need_no_application(ask: Ask) -> None:
    assert "quillmap/mine" in ask("scheme", "show", "mine").out
    twice = ask("scheme", "show", "house")
    assert (twice.status, "2 applications have a scheme" in twice.err) == (2, True)
    ask("use", "reliefkiln")
    assert "reliefkiln/house" in ask("scheme", "show", "house").out
    assert ask("scheme", "new", "night").status == 0
    assert "reliefkiln/night" in ask("scheme", "list").out
    log = "logs/quillmap-2026-10-12.jsonl"
    assert ask("macro", "from-log", log, "quillmap/light", "--lines", "3..6").status == 0
    assert ask("macro", "show", "light").status == 0
    none = ask("keyset", "show")
    assert (none.status, "no key set yet" in none.err) == (2, True)
    ask("keyset", "learn", "larkspur")
    assert ask("keyset", "show").status == 0
    ask("keyset", "new", "other")
    assert "say which" in ask("keyset", "show").err


def test_the_only_application_of_a_desk_need_not_be_named(ask: Ask, desk: Path) -> None:
    for name in ("quillmap", "reliefkiln", "tagwright"):
        assert ask("app", "remove", name, "--yes").status == 0
    assert ask("scheme", "new", "foldpress/mine").status == 0
    assert "Foldpress" in ask("press", "Ctrl+S").out
    assert ask("assign", "Fold marks", "Ctrl+K").status == 0
    assert ask("check").status == 0
    assert "Fold marks" in ask("press", "Ctrl+K").out
