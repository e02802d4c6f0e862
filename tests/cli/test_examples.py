"""Every example of every command's help runs; what only looks or is a dry run changes nothing."""

import os
import re
import shlex
import shutil
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from olive_compass.cli.registry import command_module, command_names
from tests.cli.conventions import breaches
from tests.conftest import Answer, Ask, ask_in, files_of, parser_of

DOCS = Path(__file__).parents[2] / "docs"

#: Commands that make folders or print for a shell: tried elsewhere.
ELSEWHERE = ("demo", "completion", "desk new")


def examples() -> list[tuple[str, ...]]:
    found = []
    for name in command_names():
        for line in command_module(name).EXAMPLES.split("\n"):
            if "--one-by-one" in line or "--session" in line:
                # They need a person at a terminal, or what one decided there: tests/cli/test_terminal.py.
                continue
            if line.startswith(("eval", *(f"olive-compass {each}" for each in ELSEWHERE))):
                continue
            words = shlex.split(line)
            found.append(tuple(words[1 : words.index(">") if ">" in words else None]))
    return found


def by_verb() -> Iterator[tuple[str, ...]]:
    """The first example of each command and its verb."""
    known = set()
    for words in examples():
        verb = words[:2] if takes_verbs(words[0]) else words[:1]
        if verb not in known:
            yield words
        known.add(verb)


def takes_verbs(name: str) -> bool:
    actions = parser_of(name)._actions
    return any(isinstance(action.choices, dict) for action in actions)


def takes(words: tuple[str, ...], option: str) -> bool:
    parser = parser_of(words[0])
    actions: list[Any] = list(parser._actions)
    for action in parser._actions:
        if isinstance(action.choices, dict):
            inner = [action.choices[word] for word in words[1:2] if word in action.choices]
            actions += [each for parser in inner for each in parser._actions]
    return any(option in action.option_strings for action in actions)


@pytest.fixture(scope="module")
def prepared(laid_out: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A desk with what the examples speak of, but for the macro of one of them: nobody changes it."""
    desk = Path(shutil.copytree(laid_out, tmp_path_factory.mktemp("examples") / "desk"))
    for name in ("quillmap-commands.csv", "newer.html", "keys.txt"):
        (desk / name).write_text("<table><tr><td>Title<td>Keys<tr><td>Split<td>S</table>")
    ask_in(desk, "scheme", "new", "foldpress/mine")
    ask_in(desk, "scheme", "new", "quillmap/night", "--based-on", "mine")
    shutil.copytree(desk, desk.parent / "recorded")
    log = ("macro", "from-log", "logs/quillmap-2026-10-12.jsonl", "quillmap/Light with name")
    ask_in(desk.parent / "recorded", *log, "--lines", "3..12")
    return desk.parent


Stamps = dict[str, tuple[int, int]]


class Copies:
    """A copy of a desk to run a command on, in which all is put back that the last command changed."""

    def __init__(self, original: Path, folder: Path) -> None:
        self.original, self.desk = original, folder
        shutil.copytree(original, folder)
        self.before = self.stamps()

    def fresh(self) -> Path:
        now = self.stamps()
        for path in {**now, **self.before}:
            if now.get(path) != self.before.get(path):
                (self.desk / path).unlink(missing_ok=True)
                if path in self.before:
                    (self.desk / path).parent.mkdir(parents=True, exist_ok=True)
                    shutil.copy2(self.original / path, self.desk / path)
        return self.desk

    def stamps(self) -> Stamps:
        """When each file was written, and how long it is."""
        found = files_of(self.desk)
        return {path: (stat.st_mtime_ns, stat.st_size) for path, stat in found.items()}

    def changed(self) -> bool:
        """Whether anything is other than it was, but for what undo needs."""
        return seen(self.stamps()) != seen(self.before)


def seen(stamps: Stamps) -> Stamps:
    return {path: stamp for path, stamp in stamps.items() if not path.startswith(".history")}


@pytest.fixture(scope="module")
def copies(prepared: Path, tmp_path_factory: pytest.TempPathFactory) -> dict[str, Copies]:
    folder = tmp_path_factory.mktemp("copies")
    return {name: Copies(prepared / name, folder / name) for name in ("desk", "recorded")}


@pytest.mark.parametrize("words", list(by_verb()), ids=" ".join)
def test_an_example_runs_and_changes_nothing_in_a_dry_run(
    copies: dict[str, Copies], words: tuple[str, ...]
) -> None:
    own = copies["desk" if "quillmap/Light with name" in words else "recorded"]
    desk = own.fresh()
    dry = takes(words, "--dry-run")
    answer = ask_in(desk, *words, *(["--dry-run"] if dry and "--dry-run" not in words else []))
    assert answer.status in (0, 1, 2), answer.err
    assert "fault of the program" not in answer.err
    assert "Traceback" not in answer.err
    if answer.status == 2:
        assert answer.err.startswith("olive-compass: ")
    if dry or answer.status == 2:
        assert not own.changed()


#: All examples take a worker some ten seconds: in so many shares others take a part of them.
SHARES = 4


@pytest.mark.long
@pytest.mark.parametrize("share", range(SHARES))
def test_every_example_does_what_it_says_where_the_demo_ends(
    toured: tuple[Path, Answer], tmp_path: Path, share: int
) -> None:
    wrong = {}
    copies = Copies(toured[0], tmp_path / "desk")
    for words in examples()[share::SHARES]:
        answer = ask_in(copies.fresh(), *words)
        if answer.status not in (0, 1):
            wrong[" ".join(words)] = answer.err or answer.out
    assert wrong == {}, wrong


def test_the_readme_is_walked_as_one_shell_would(tmp_path: Path) -> None:
    """Its lines in their order, from a folder in which nothing is yet, in a real shell."""
    bash = shutil.which("bash")
    if not bash:
        pytest.skip("bash is not on this machine")
    text = (DOCS.parent / "README.md").read_text()
    blocks = re.findall(r"^```sh\n(.*?)^```", text, re.MULTILINE | re.DOTALL)
    # What installs is done already, and what a person puts into the files of the shell is not for this one.
    lines = [
        line.rpartition("&& ")[2]
        for block in blocks
        for line in block.splitlines()
        if "completion" not in line and "pytest" not in line
    ]
    assert lines[0] == "olive-compass demo"
    assert len(lines) > 15
    script = "\n".join(f'{line}\necho "status $?"' for line in lines)
    folder = Path(sys.executable).parent
    done = subprocess.run(
        [bash, "-c", script],
        cwd=tmp_path,
        env={**os.environ, "PATH": f"{folder}:{os.environ['PATH']}"},
        capture_output=True,
        text=True,
    )
    assert set(re.findall(r"^status (\d+)$", done.stdout, re.MULTILINE)) == {"0"}, done.stderr
    assert len(text.splitlines()) <= 120
    links = re.findall(r"\]\(([^)#]+)", text)
    assert [link for link in links if not (DOCS.parent / link).exists()] == []


def test_every_command_that_writes_has_a_dry_run() -> None:
    reading = {
        "board",
        "check",
        "completion",
        "demo",
        "explain",
        "find",
        "compare",
        "export",
        "free",
        "help",
        "history",
        "key",
        "page",
        "press",
        "sheet",
        "surprises",
        "worklist",
        "savings",
    }
    for name in command_names():
        if name not in reading:
            module = command_module(name)
            verbs = {(*line.split(), "", "")[2] for line in module.EXAMPLES.split("\n")}
            assert takes((name,), "--dry-run") or any(
                takes((name, verb), "--dry-run") for verb in verbs
            ), name


def test_quiet_says_nothing_where_all_went_well(ask: Ask) -> None:
    for words in (
        ("assign", "quillmap", "Join", "F10", "--why", "x"),
        ("keyless", "quillmap", "Split", "--why", "x"),
        ("clear", "quillmap", "Split"),
        ("scheme", "new", "tagwright/mine"),
        ("undo",),
        ("redo",),
        ("desk", "keyboard", "--layout", "german"),
        ("reset", "quillmap", "--all", "--yes"),
    ):
        answer = ask(*words, "--quiet")
        assert (answer.status, answer.out, answer.err) == (0, "", ""), words


def keys_of(value: Any) -> set[str]:
    """Every key anywhere in a JSON value."""
    if isinstance(value, dict):
        return {str(key) for key in value} | {k for each in value.values() for k in keys_of(each)}
    if isinstance(value, list):
        return {key for each in value for key in keys_of(each)}
    return set()


LOG = "logs/quillmap-2026-10-12.jsonl"
KILN = ("--to", "kiln/keys.kiln", "--file-format", "kiln")
COMMANDS = {
    "find": ("find", "closure"),
    "press": ("press", "quillmap", "S"),
    "free": ("free", "quillmap", "--for", "Sounding"),
    "key": ("key", "Ctrl+C", "--layouts", "us"),
    "board": ("board", "quillmap"),
    "swipes": ("swipes", "quillmap"),
    "page": ("page", "quillmap", "--out", "page.html"),
    "check": ("check",),
    "explain": ("explain",),
    "sheet": ("sheet", "quillmap"),
    "history": ("history",),
    "surprises": ("surprises", "quillmap"),
    "choice": ("choice", "quillmap"),
    "desk show": ("desk", "show"),
    "desk keyboard": ("desk", "keyboard"),
    "app list": ("app", "list"),
    "app show": ("app", "show", "quillmap"),
    "app rules": ("app", "rules", "quillmap"),
    "app spelling": ("app", "spelling", "quillmap", "--spell", "C-=Ctrl+", "--dry-run"),
    "scheme list": ("scheme", "list"),
    "scheme show": ("scheme", "show", "quillmap/house"),
    "scheme stack": ("scheme", "stack", "quillmap"),
    "purpose list": ("purpose", "list"),
    "purpose guess": ("purpose", "guess", "tagwright"),
    "keyset learn": ("keyset", "learn", "evening", "--dry-run"),
    "keyset list": ("keyset", "list"),
    "keyset show": ("keyset", "show", "larkspur"),
    "keyset apply": ("keyset", "apply", "larkspur", "--dry-run"),
    "keyset drift": ("keyset", "drift", "larkspur"),
    "compare": ("compare", "quillmap/factory", "quillmap/house", "--decisions"),
    "upgrade": ("upgrade", "quillmap", "--from", "listings/quillmap-5.csv", "--dry-run"),
    "worklist": ("worklist", "foldpress"),
    "export": ("export", "quillmap"),
    "house show": ("house", "show"),
    "house pull": ("house", "pull", "--dry-run"),
    "unpack": ("unpack", "all.zip", "--dry-run"),
    "app trays": ("app", "trays", "quillmap"),
    "tray list": ("tray", "list"),
    "tray show": ("tray", "show", "harbour"),
    "via": ("via", "reliefkiln"),
    "usage": ("usage", "quillmap"),
    "savings": ("savings", "quillmap"),
    "suggest": ("suggest", "quillmap", "Wreck", "Save sheet"),
    "practise": ("practise", "quillmap"),
    "macro list": ("macro", "list"),
    "macro show": ("macro", "show", "quillmap/light"),
    "desk system": ("desk", "system"),
    "macro play": ("macro", "play", "quillmap/light"),
    "macro from-log": ("macro", "from-log", LOG),
    "desk seat": ("desk", "seat"),
    "use": ("use",),
    "app slot": ("app", "slot", "reliefkiln", "View 3"),
    "desk device": ("desk", "device"),
    "fileformat list": ("fileformat", "list"),
    "fileformat try": ("fileformat", "try", "kiln", "strange.kiln"),
    "deliver": ("deliver", "reliefkiln", *KILN, "--dry-run"),
    "deliver --check": ("deliver", "reliefkiln", *KILN, "--check"),
}


def documented() -> dict[str, set[str]]:
    """The keys that docs/json.md names for each command, words for values left out."""
    text = (DOCS / "json.md").read_text().split("## Commands that write")[0]
    rows = re.findall(r"^\| `([a-z -]+)` \| (.+) \|$", text, re.MULTILINE)
    values = {
        "starts",
        "choice",
        "waits",
        "muted",
        "nothing",
        "used",
        "begins",
        "reserved",
        "guarded",
        "app.toml",
        "compare",
        "withdrawn",
        "licence",
    }
    return {name: set(re.findall(r"`([a-z][a-z-]*)`", text)) - values for name, text in rows}


#: What is on a desk beside what every one has, and the commands that need it.
BESIDE = {
    "nothing": (),
    "trays": ("tray list", "tray show", "export", "via"),
    "a tray and a key": ("worklist",),
    "tallies": ("usage", "savings", "suggest", "practise", "scheme show"),
    "what others have": ("house pull", "unpack", "keyset apply"),
}


@pytest.fixture(scope="module")
def with_all(laid_out: Path, tmp_path_factory: pytest.TempPathFactory) -> dict[str, Copies]:
    """Desks on which every command has something to say, by what is beside it."""
    folder = tmp_path_factory.mktemp("with-all")
    plain = Path(shutil.copytree(laid_out, folder / "nothing"))
    ask_in(plain, "assign", "quillmap", "Join", "Ctrl+D", "--if-taken", "share")
    ask_in(plain, "macro", "from-log", LOG, "quillmap/light", "--lines", "3..")
    ask_in(plain, "keyset", "learn", "larkspur")
    ask_in(plain, "desk", "device", "new", "pad", "--grid", "2x2")
    keys = (plain / "kiln/keys.kiln").read_text()
    (plain / "strange.kiln").write_text(keys.replace("<= C-z", "<= Q-z"))
    for beside in (*BESIDE,)[1:]:
        desk = Path(shutil.copytree(plain, folder / beside))
        if beside in ("trays", "a tray and a key"):
            app, kind = ("quillmap", "tab") if beside == "trays" else ("foldpress", "menu")
            ask_in(desk, "tray", "new", f"{app}/Harbour", "--kind", kind, "--fill", "most", "3")
            ask_in(desk, "tray", "add", "harbour", "Undo", "--group", "Always")
            ask_in(desk, "via", "reliefkiln", "Gauge", "--through", "View 3")
        if beside == "a tray and a key":
            ask_in(desk, "scheme", "new", "foldpress/mine")
            ask_in(desk, "assign", "foldpress", "Map fold", "F2", "--if-taken", "replace")
        if beside == "tallies":
            ask_in(desk, "usage", "take", "logs/*.jsonl")
        if beside == "what others have":
            ask_in(desk, "pack", "all.zip")
            ask_in(desk, "house", "from", str(shutil.copytree(plain, folder / "studio")))
            ask_in(desk, "assign", "quillmap", "Cairn", "F10", "--scheme", "house")
            ask_in(desk, "keyset", "set", "larkspur", "quick-render", "F1", "--why", "x")
    return {name: Copies(folder / name, folder / f"copy of {name}") for name in BESIDE}


@pytest.mark.parametrize("name", sorted(COMMANDS))
def test_json_is_as_documented(with_all: dict[str, Copies], name: str) -> None:
    beside = next((each for each, names in BESIDE.items() if name in names), "nothing")
    desk = with_all[beside].fresh()
    printed = ask_in(desk, *COMMANDS[name], "--json").json
    assert breaches(printed) == set()
    found = keys_of(printed)
    if name == "compare":
        other = ask_in(desk, "compare", "quillmap/factory", "quillmap/house", "--json")
        found |= keys_of(other.json)
    more = {"free": ("--after", "S"), "key": ("--held",)}.get(name)
    if more:
        found |= keys_of(ask_in(desk, *COMMANDS[name][:2], *more, "--json").json)
    missing = documented()[name] - found
    assert missing <= {"free"}, missing
    assert set(documented()) == set(COMMANDS)


def test_documents_name_only_commands_that_exist(tmp_path: Path) -> None:
    text = "\n".join(path.read_text() for path in (*DOCS.rglob("*.md"), DOCS.parent / "README.md"))
    named = set(re.findall(r"olive-compass ([a-z]+)", text))
    assert named <= set(command_names())
    assert "examples:" in ask_in(tmp_path, "find", "--help").out


def anchors(page: Path) -> set[str]:
    """The places of a page to which a link may lead."""
    text = page.read_text()
    heads = re.findall(r"^#+ (.+)$", text, re.MULTILINE)
    slugs = {re.sub(r"[^\w -]", "", head.lower()).replace(" ", "-") for head in heads}
    return slugs | set(re.findall(r'<a id="([^"]+)">', text))


def test_no_link_of_the_docs_is_dead() -> None:
    links = []
    for page in (*DOCS.rglob("*.md"), DOCS.parent / "README.md"):
        for link in re.findall(r"\]\(([^)#]*)(?:#([^)]*))?\)", page.read_text()):
            links.append((page, *link))
    dead = []
    for page, file, anchor in links:
        if file.startswith("http"):
            continue
        target = page.parent / file if file else page
        if not target.exists() or (anchor and anchor not in anchors(target)):
            dead.append((page.name, file, anchor))
    assert len(links) > 150
    assert dead == []


def test_the_list_of_commands_says_what_each_does(tmp_path: Path) -> None:
    from importlib import import_module

    page = ask_in(tmp_path, "--help").out
    assert page == ask_in(tmp_path, "help").out
    assert len(page.splitlines()) <= 25
    assert max(map(len, page.splitlines())) <= 80
    shown = " ".join(ask_in(tmp_path, "help", "--all").out.split())
    for name in command_names():
        summary = import_module(f"olive_compass.cli.commands.{name}").SUMMARY
        assert f"{name} {summary}" in shown
        # Everything but what is about help itself stands on the first page as well.
        assert name in ("help", "completion") or name in page
    for option in ("--desk", "--quiet", "--verbose", "--color"):
        assert option in ask_in(tmp_path, "help", "options").out


def test_a_word_of_the_same_meaning_leads_to_the_command(tmp_path: Path) -> None:
    from olive_compass.cli.synonyms import SYNONYMS

    assert not set(SYNONYMS) & set(command_names())
    assert {meant.split()[0] for meant in SYNONYMS.values()} <= set(command_names())
    wanted = {
        **dict.fromkeys(("unassign", "remove", "delete"), "clear"),
        **dict.fromkeys(("bind", "set"), "assign"),
        **dict.fromkeys(("list", "search", "shortcuts"), "find"),
        "import": "app import",
        "conflicts": "check",
        "init": "desk new",
        "print": "sheet",
        "keyboard": "board",
    }
    for word, command in wanted.items():
        refused = ask_in(tmp_path, word, "x")
        assert refused.status == 2
        assert f"Try: olive-compass {command}\n" in refused.err


#: Commands that are of all applications where none is named, or of two of them.
OF_ALL = ("check", "compare", "find", "keyset", "purpose", "tray", "usage", "savings")


def named_apps(desk: Path, words: tuple[str, ...]) -> list[int]:
    """The places of words that are applications of the desk."""
    names = {each.name for each in (desk / "apps").iterdir()}
    return [
        n for n, word in enumerate(words) if word in names and not words[n - 1].startswith("--")
    ]


@pytest.mark.long
def test_an_example_says_the_same_wherever_the_application_is_meant(
    toured: tuple[Path, Answer], tmp_path: Path
) -> None:
    """With and without ``use``, with and without the application named, from the desk's folder and below it."""
    copies = Copies(toured[0], tmp_path / "desk")
    below = "notes/of mine"
    (copies.desk / below).mkdir(parents=True)
    seen_: set[str] = set()
    wrong = {}
    for words in examples():
        at = named_apps(copies.desk, words)
        # One example a verb is enough, and one that names one application.
        verb = " ".join(words[: at[0]]) if at else ""
        if len(at) != 1 or verb in seen_ or words[0] in ("use", "help"):
            continue
        seen_.add(verb)
        desk = copies.fresh()
        line = (*words, *(["--dry-run"] if takes(words, "--dry-run") else []))
        plain = ask_in(desk, *line)
        if plain.status not in (0, 1) or copies.changed():
            continue
        told = {}
        files = any((desk / word).exists() for word in words if word != words[at[0]])
        if not files:
            told["below"] = ask_in(desk / below, *line)
        ask_in(desk, "use", words[at[0]])
        told["with use"] = ask_in(desk, *line)
        if words[0] not in OF_ALL:
            told["not named"] = ask_in(desk, *(word for n, word in enumerate(line) if n != at[0]))
        for how, answer in told.items():
            if (answer.status, answer.out) != (plain.status, plain.out):
                wrong[how, words] = (plain.out[:300], answer.out[:300], answer.err[:300])
    assert len(seen_) > 30
    assert wrong == {}, wrong


@pytest.mark.long
def test_every_picture_is_made_by_a_command_that_works(
    toured: tuple[Path, Answer], tmp_path: Path
) -> None:
    import tomllib

    folder = DOCS / "screenshots"
    made = tomllib.loads((folder / "made-by.toml").read_text())
    assert sorted(made) == sorted(path.stem for path in folder.glob("*.png"))
    assert ask_in(tmp_path, "demo", "first").status == 0
    desks = {"first": tmp_path / "first", "toured": shutil.copytree(toured[0], tmp_path / "toured")}
    wrong = {}
    for name, about in made.items():
        desk = desks[about["desk"]]
        if before := about.get("before"):
            assert ask_in(desk, *shlex.split(before)[1:]).status == 0
        answer = ask_in(desk, *shlex.split(about["command"])[1:])
        if answer.status != 0:
            wrong[name] = answer.err
    assert wrong == {}


@pytest.mark.long
def test_the_lines_of_the_docs_run_in_their_order_where_the_demo_ends(
    toured: tuple[Path, Answer], tmp_path: Path
) -> None:
    wrong = {}
    copies = Copies(toured[0], tmp_path / "desk")
    run = 0
    for page in sorted(DOCS.rglob("*.md")):
        desk = copies.fresh()
        blocks = re.findall(
            r"^```(?:sh|console)\n(.*?)^```", page.read_text(), re.MULTILINE | re.DOTALL
        )
        for line in (line for block in blocks for line in block.splitlines()):
            if not line.startswith("olive-compass "):
                continue
            words, into, file = shlex.split(line, comments=True)[1:], "", ""
            if ">" in words:
                words, into, file = words[:-2], *words[-2:]
            answer = ask_in(desk, *words)
            run += 1
            if answer.status not in (0, 1):
                wrong[f"{page.name}: {line}"] = answer.err
            elif into:
                (desk / file).write_text(answer.out)
    assert wrong == {}
    assert run > 60
