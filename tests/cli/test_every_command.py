"""What every command that writes keeps to: undone byte for byte, dry where asked, quiet where told."""

import argparse
import json
import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest

from olive_compass.cli.registry import command_names
from tests.cli.conventions import breaches
from tests.cli.test_examples import takes
from tests.conftest import Ask, ask_in, completions, contents, parser_of

LOG = "logs/quillmap-2026-10-12.jsonl"
LIGHT = "quillmap/light"
QUAY = "documents/quillmap/west-quay.json"

#: Commands that write, each on the desk that ``ready`` lays out; all of them can be undone.
WRITING: list[tuple[str, ...]] = [
    ("macro", "from-log", LOG, "quillmap/New one", "--lines", "3..6"),
    ("macro", "ask", LIGHT, "2", "at", "Where?"),
    ("macro", "fix", LIGHT, "2", "sectors", "5"),
    ("macro", "cut", LIGHT, "1", "3"),
    ("macro", "move", LIGHT, "4", "1"),
    ("macro", "insert", LIGHT, "1", "Cairn", "--ask", "at"),
    ("macro", "note", LIGHT, "1", "why"),
    ("macro", "split", LIGHT, "4", "Rest"),
    ("macro", "join", LIGHT, "halo"),
    ("macro", "tidy", LIGHT, "--yes"),
    ("macro", "remove", LIGHT),
    ("macro", "setting", "quillmap", "Letter spacing", "--key", "Alt+S"),
    ("macro", "import", "halo.json", "--app", "quillmap", "--name", "Halo too"),
    ("macro", "play", "quillmap/halo", "--document", QUAY, "--answer", "value=2"),
    ("assign", "quillmap", "macro.halo", "swipe:N", "--mode", "draw", "--if-taken", "replace"),
    ("purpose", "guess", "tagwright", "--above", "0.7", "--yes"),
    ("purpose", "link", "count", "quillmap", "Measure area"),
    ("purpose", "link", "save", "quillmap", "--remove"),
    ("keyset", "new", "fresh"),
    ("keyset", "learn", "learnt"),
    ("keyset", "set", "all", "stop", "Escape", "F9", "--why", "x"),
    ("keyset", "clear", "all", "save"),
    ("keyset", "apply", "all", "--yes"),
    ("house", "from", "."),
    ("house", "off"),
    ("desk", "git"),
    ("upgrade", "quillmap", "--from", "listings/quillmap-5.csv", "--version", "5", "--yes"),
    ("scheme", "import", "quillmap/copy", "--from", "house.csv"),
    ("scheme", "rename", "quillmap/mine", "evenings"),
    ("desk", "device", "new", "pad", "--grid", "2x2"),
    ("fileformat", "new", "plain", "--pattern", r"(?P<id>\S+) (?P<keys>\S+)"),
    ("fileformat", "remove", "kiln"),
    ("deliver", "reliefkiln", "--to", "kiln/keys.kiln", "--file-format", "kiln", "--yes"),
    ("app", "mode", "add", "quillmap", "trace", "--inside", "draw"),
    ("app", "mode", "move", "quillmap", "vertex", "--inside", "canvas"),
    ("app", "mode", "rename", "quillmap", "label", "lettering"),
    ("app", "mode", "remove", "quillmap", "vertex", "--into", "draw"),
    ("app", "mark", "quillmap", "Cairn", "Ford", "--add", "often"),
    ("app", "kind", "quillmap", "Cairn", "slot"),
    ("app", "inputs", "quillmap", "Cairn", "at:point"),
    ("app", "slot", "reliefkiln", "View 3", "Quay", "--project", "harbour"),
    ("app", "rules", "foldpress", "--reserved", "F11=fills the screen"),
    ("app", "rules", "foldpress", "--unlisted", "F9="),
    ("app", "rename", "quillmap", "Quillmap Pro"),
    ("app", "remove", "quillmap", "--yes"),
    ("scheme", "remove", "quillmap/house", "--yes"),
    ("unpack", "all.zip", "--if-taken", "replace", "--yes"),
]


@pytest.fixture(scope="module")
def prepared(laid_out: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A desk with something for every one of these commands to work on."""
    desk = tmp_path_factory.mktemp("prepared") / "desk"
    shutil.copytree(laid_out, desk)
    for words in (
        ("macro", "from-log", LOG, LIGHT, "--lines", "3..12"),
        ("macro", "setting", "quillmap", "Halo", "--name", "halo"),
        ("keyset", "learn", "all"),
        ("keyset", "set", "all", "stop", "F9", "--why", "x"),
        ("house", "from", ".."),
        ("pack", "all.zip"),
        ("assign", "quillmap", "Cairn", "F10"),
    ):
        assert ask_in(desk, *words).status == 0, words
    exported = ask_in(desk, "macro", "export", "quillmap/halo", "--as", "json").out
    (desk / "halo.json").write_text(exported)
    (desk / "house.csv").write_text(ask_in(desk, "export", "quillmap", "--scheme", "house").out)
    document = json.loads((desk / QUAY).read_text())
    document["mode"] = "label"
    (desk / QUAY).write_text(json.dumps(document))
    return desk


@pytest.fixture
def desk(prepared: Path, tmp_path: Path) -> Path:
    """A copy of it of one's own."""
    return Path(shutil.copytree(prepared, tmp_path / "desk"))


@pytest.fixture
def ready(ask: Ask) -> Ask:
    """Runs the program on that copy."""
    return ask


#: What writes as well, beside files of the desk or in steps of the history.
ALSO = [
    ("undo",),
    ("app", "import", "Slatewriter", "--from", "listings/quillmap-5.csv"),
    ("scheme", "new", "tagwright/evenings"),
    ("scheme", "use", "quillmap/house"),
    ("desk", "project", "harbour"),
    ("pack", "more.zip"),
    ("merge", *(f"elsewhere/merge/{side}.toml" for side in ("before", "ours", "theirs"))),
]

#: What opens a conversation, makes a desk, or prints a form of its own.
NO_JSON = ("completion", "demo", "desk new", "help", "macro export", "macro record", "try")


def test_every_command_has_json() -> None:
    def leaves(parser: argparse.ArgumentParser, name: str) -> Iterator[tuple[str, set[str]]]:
        verbs = [a for a in parser._actions if isinstance(a, argparse._SubParsersAction)]
        for verb, inner in verbs[0].choices.items() if verbs else ():
            yield from leaves(inner, f"{name} {verb}")
        if not verbs:
            yield name, {option for a in parser._actions for option in a.option_strings}

    every = [leaf for name in command_names() for leaf in leaves(parser_of(name), name)]
    assert sorted(name for name, options in every if "--json" not in options) == sorted(NO_JSON)


@pytest.mark.parametrize("words", [w for w in WRITING if takes(w, "--json")] + ALSO, ids=" ".join)
def test_json_is_one_object_and_nothing_else(ask: Ask, desk: Path, words: tuple[str, ...]) -> None:
    for more in (["--json", "--dry-run"] if takes(words, "--dry-run") else ["--json"], ["--json"]):
        answer = ask(*words, *more)
        assert answer.status in (0, 1), answer.err
        printed = json.loads(answer.out)
        assert isinstance(printed, dict), answer.out[:300]
        assert breaches(printed) == set()


@pytest.mark.parametrize("words", WRITING, ids=" ".join)
def test_done_dry_quiet_and_undone(ready: Ask, desk: Path, words: tuple[str, ...]) -> None:
    before = contents(desk)
    dry = ready(*words, "--dry-run")
    assert dry.status == 0, dry.err
    assert dry.out
    assert {p: d for p, d in contents(desk).items() if not p.startswith(".git/")} == before
    done = ready(*words, "--quiet")
    assert (done.status, done.out, done.err) == (0, "", "")
    written = {p: d for p, d in contents(desk).items() if not p.startswith(".git/")}
    assert written != before
    last = ready("history", "--json").json["changes"][0]
    assert last["who"] == "tester"
    assert last["command"].startswith(words[0])
    assert ready("undo").status == 0
    assert {p: d for p, d in contents(desk).items() if not p.startswith(".git/")} == before
    assert ready("redo").status == 0
    assert {p: d for p, d in contents(desk).items() if not p.startswith(".git/")} == written


HOSTILE = "\x1b[31mred\x07\u202e"


def test_what_others_wrote_never_acts_on_the_terminal(ready: Ask, desk: Path) -> None:
    macro = json.loads((desk / "halo.json").read_text())
    macro["title"] = f"Halo {HOSTILE}"
    macro["steps"][0]["note"] = HOSTILE
    (desk / "evil.json").write_text(json.dumps(macro))
    purposes = (desk / "purposes.csv").read_text().replace("Save,files", f"Save{HOSTILE},files")
    (desk / "purposes.csv").write_text(purposes)
    keyset = (desk / "keysets/all.toml").read_text()
    evil = keyset.replace('title = "all"', f"title = {json.dumps(f'all {HOSTILE}')}")
    (desk / "keysets/all.toml").write_text(evil)
    document = json.loads((desk / QUAY).read_text())
    document["things"][0]["what"] = HOSTILE
    (desk / QUAY).write_text(json.dumps(document))
    (desk / "log.jsonl").write_text(json.dumps({"command": HOSTILE, "time": HOSTILE}) + "\n{}\n")
    (desk / "s.txt").write_text(f"menu {HOSTILE}\n{HOSTILE}\nrecord {HOSTILE}\n")
    for words in (
        ("macro", "import", "evil.json", "--app", "quillmap"),
        ("macro", "list"),
        ("macro", "from-log", "log.jsonl"),
        ("macro", "play", "quillmap/halo", "--document", QUAY, "--answer", f"value={HOSTILE}"),
        ("purpose", "list"),
        ("keyset", "show", "all"),
        ("keyset", "list"),
        ("try", "quillmap", "--script", "s.txt", "--document", QUAY, "--no-log"),
        ("compare", ".", "all.zip"),
        ("check",),
    ):
        answer = ready(*words)
        for char in "\x1b\x07\u202e":
            assert char not in answer.out, words
            assert char not in answer.err, words
        assert answer.status in (0, 1, 2)


def test_cells_that_a_spreadsheet_would_run_are_shielded(ask: Ask, desk: Path) -> None:
    ask("assign", "quillmap", "Cairn", "F10", "--why", "=cmd()")
    out = ask("export", "quillmap", "--scheme", "mine").out
    assert "'=cmd()" in out
    (desk / "mine.csv").write_text(out)
    assert ask("scheme", "import", "quillmap/again", "--from", "mine.csv").status == 0
    assert 'why = "=cmd()"' in (desk / "schemes/quillmap/again.toml").read_text()
    rows = (desk / "purposes.csv").read_text().replace("save,Save,", "save,'=Save(),")
    (desk / "purposes.csv").write_text(rows)
    assert "=Save()" in ask("purpose", "list", "--json").out
    ask("purpose", "link", "stop", "quillmap", "--remove")
    assert "save,'=Save()," in (desk / "purposes.csv").read_text()


@pytest.mark.parametrize(
    ("file", "content", "words", "says"),
    [
        ("purposes.csv", "id,title\n", ("purpose", "list"), "does not begin with"),
        (
            "purposes.csv",
            "# olive-compass-purposes/1\nid,x\n",
            ("find", "stop"),
            "“title” is missing",
        ),
        (
            "purposes.csv",
            "# olive-compass-purposes/1\nid,title,risk\na,A,\na,B,\n",
            ("purpose", "list"),
            "purposes.csv:4: The id “a” appears twice",
        ),
        (
            "purposes.csv",
            "# olive-compass-purposes/1\nid,title,risk\na,A,deadly\n",
            ("purpose", "list"),
            "A risk is one of harmless, changes work, irreversible",
        ),
        ("keysets/all.toml", 'format = "x"\n', ("keyset", "show", "all"), "does not begin with"),
        (
            "macros/quillmap/halo.toml",
            "[[steps]\n",
            ("find", "split"),
            "halo.toml:1: This is not TOML",
        ),
        (
            "desk.toml",
            'format = "olive-compass-desk/1"\n[house]\nform = "x"\n',
            ("house", "show"),
            "did you mean “from”",
        ),
        (
            "halo.json",
            "{",
            ("macro", "import", "halo.json", "--app", "quillmap"),
            "This is not JSON",
        ),
        (
            "a.toml",
            "x = [",
            ("macro", "play", LIGHT, "--answers", "a.toml"),
            "This is not TOML",
        ),
        ("a.json", "[1]", ("macro", "play", LIGHT, "--answers", "a.json"), "Answers are a table"),
        (
            "x.csv",
            "decision,subject\nassing,save\n",
            ("scheme", "import", "quillmap/x", "--from", "x.csv"),
            "row 1",
        ),
        (
            "x.csv",
            "what,keys\n",
            ("scheme", "import", "quillmap/x", "--from", "x.csv"),
            "no key for a command",
        ),
        ("x.json", "{}", ("scheme", "import", "quillmap/x", "--from", "x.json"), "does not have"),
        (
            "x.csv",
            "\n",
            ("upgrade", "quillmap", "--from", "x.csv"),
            "not clear which column is which",
        ),
        (
            "x.txt",
            "hello\n",
            ("worklist", "quillmap", "--from", "x.txt"),
            "Point at one line of it",
        ),
        (QUAY, "[]", ("try", "quillmap", "--document", QUAY), "does not have"),
    ],
)
def test_bad_files_are_named_with_their_place(
    ready: Ask, desk: Path, file: str, content: str, words: tuple[str, ...], says: str
) -> None:
    (desk / file).write_text(content)
    before = contents(desk)
    answer = ready(*words)
    assert (answer.status, says in answer.err) == (2, True), answer.err
    assert "Traceback" not in answer.err
    assert contents(desk) == before


@pytest.mark.parametrize(
    ("line", "offered"),
    [
        ("olive-compass macro show quillmap/li", LIGHT),
        ("olive-compass keyset show a", "all"),
        ("olive-compass purpose link sto", "stop"),
        ("olive-compass worklist fold", "foldpress"),
        ("olive-compass macro pl", "play"),
    ],
)
def test_the_shell_completes_what_is_shared(
    ready: Ask, desk: Path, line: str, offered: str
) -> None:
    assert offered in completions(desk, line)
