"""Options that people reach for once in a while: columns, groups, runs, platforms, folders."""

from pathlib import Path

import pytest

from tests.conftest import Ask, ask_in

LISTING = """Was;Wohin;Knopf Win;Knopf Mac
EDIT;;;
Undo;Edit;Ctrl+Z;Cmd+Z
Split;Edit;SP;SP
Plain;;;
"""


@pytest.fixture
def empty(tmp_path: Path) -> Path:
    (tmp_path / "keys.csv").write_text(LISTING)
    assert ask_in(tmp_path, "desk", "new", ".", "--name", "Mine").status == 0
    return tmp_path


def listed(desk: Path) -> list[tuple[str, list[str], list[str]]]:
    shown = ask_in(desk, "app", "show", "app", "--json").json["commands"]
    return [(c["title"], c["menu"], c["factory-keys"]) for c in shown]


def test_columns_groups_and_runs_are_named(empty: Path) -> None:
    words = [
        "app",
        "import",
        "App",
        "--from",
        "keys.csv",
        "--column",
        "title=Was",
        "--column",
        "menu=2",
        "--column",
        "keys=Knopf Mac",
    ]
    done = ask_in(empty, *words, "--longest-sequence", "2", "--groups", "yes")
    assert "title from column 1 (named)" in done.out
    assert listed(empty) == [("Undo", ["Edit"], ["Meta+Z"]), ("Split", ["Edit"], ["S P"])]
    rules = ask_in(empty, "app", "rules", "app", "--json").json
    assert (rules["typed-sequences"], rules["longest-sequence"]) == (True, 2)
    again = ask_in(empty, *words, "--groups", "no", "--yes")
    assert again.status == 0
    assert [row[0] for row in listed(empty)] == ["EDIT", "Undo", "Split", "Plain"]
    wrong = ask_in(empty, "app", "import", "Other", "--from", "keys.csv", "--column", "keys=Taste")
    assert (wrong.status, "there is no column “Taste”" in wrong.err) == (2, True)
    assert "gives no name" in ask_in(empty, "app", "import", "!!!", "--from", "keys.csv").err


def test_the_version_of_an_application_is_kept_and_changed(empty: Path) -> None:
    words = (
        "app",
        "import",
        "App",
        "--from",
        "keys.csv",
        "--column",
        "title=1",
        "--column",
        "keys=3",
    )
    ask_in(empty, *words, "--version", "1.0", "--duplicates", "first-wins")
    assert ask_in(empty, "app", "list", "--json").json["apps"][0]["version"] == "1.0"
    assert "nothing was changed" in ask_in(empty, *words).out
    assert ask_in(empty, *words, "--version", "1.1", "--yes").status == 0
    assert ask_in(empty, "app", "show", "app", "--json").json["version"] == "1.1"
    assert ask_in(empty, "app", "rules", "app", "--json").json["duplicates"] == "first-wins"


def test_a_desk_on_a_mac(empty: Path) -> None:
    ask_in(empty, "desk", "keyboard", "--platform", "mac")
    ask_in(
        empty,
        "app",
        "import",
        "App",
        "--from",
        "keys.csv",
        "--column",
        "title=Was",
        "--column",
        "keys=4",
    )
    ask_in(empty, "scheme", "new", "app/mine")
    taken = ask_in(empty, "assign", "app", "Plain", "Main+Z")
    assert "Everywhere, Main+Z already starts Undo" in taken.out
    assert "⌘Z" in ask_in(empty, "sheet", "app", "--keys-as", "mac").out
    free = ask_in(empty, "free", "app", "--json").json["free"]
    assert "Meta+Z" not in free["Meta"]
    assert "Meta+Y" in free["Meta"]


def test_the_desk_is_named_by_option_and_by_the_environment(
    empty: Path, tmp_path_factory: pytest.TempPathFactory
) -> None:
    elsewhere = tmp_path_factory.mktemp("elsewhere")
    for words in (
        ["--desk", str(empty), "desk", "show", "--json"],
        ["desk", "show", "--json", "--desk", str(empty)],
    ):
        assert ask_in(elsewhere, *words).json["name"] == "Mine"
    import os
    import subprocess
    import sys

    environ = {**os.environ, "OLIVE_COMPASS_DESK": str(empty)}
    done = subprocess.run(
        [sys.executable, "-m", "olive_compass", "desk", "show"],
        cwd=elsewhere,
        env=environ,
        capture_output=True,
        text=True,
    )
    assert "Mine" in done.stdout


@pytest.mark.parametrize("shell", ["bash", "zsh", "fish"])
def test_each_shell_gets_its_script(tmp_path: Path, shell: str) -> None:
    script = ask_in(tmp_path, "completion", shell).out
    assert "olive-compass" in script
    assert ask_in(tmp_path, "completion", "other").status == 2


def test_an_odd_folder_for_the_demo(tmp_path: Path) -> None:
    (tmp_path / "empty").mkdir()
    assert ask_in(tmp_path, "demo", "empty", "--quiet").status == 0
    assert (tmp_path / "empty" / "desk.toml").exists()
    (tmp_path / "file").write_text("x")
    refused = ask_in(tmp_path, "demo", "file")
    assert (refused.status, (tmp_path / "file").read_text()) == (2, "x")


def test_limits_and_long_lists(ask: Ask) -> None:
    few = ask("find", "--app", "quillmap", "--limit", "3")
    assert "3 of 134 shown; --limit 134 shows all." in few.out
    assert len(ask("find", "--app", "quillmap", "--limit", "3", "--json").json["hits"]) == 3
    assert len(ask("find", "--json").json["hits"]) > 400
    assert len(ask("history", "--limit", "1", "--json").json["changes"]) == 1
    assert (
        len(ask("free", "quillmap", "--for", "Split", "--limit", "4", "--json").json["ranked"]) == 4
    )
