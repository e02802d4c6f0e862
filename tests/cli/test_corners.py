"""Rarer ways through the commands of macros and sharing, each as a person would meet it."""

import shutil
import subprocess
from pathlib import Path

import pytest

from tests.conftest import Ask, ask_in, contents

LOG = "logs/quillmap-2026-10-12.jsonl"
LIGHT = "quillmap/light"
MINE = "schemes/quillmap/mine.toml"


@pytest.fixture(scope="module")
def light(laid_out: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A desk with a macro out of the harbour's log, which is looked at and not changed."""
    desk = Path(shutil.copytree(laid_out, tmp_path_factory.mktemp("light") / "desk"))
    assert ask_in(desk, "macro", "from-log", LOG, LIGHT, "--lines", "3..12").status == 0
    documents = desk / "documents/quillmap"
    shutil.copy(documents / "west-quay.json", desk.parent / "outside.json")
    return desk


def test_three_files_are_merged_to_the_screen_or_into_a_file(ask: Ask, desk: Path) -> None:
    base = (desk / MINE).read_text() + '\n[assign]\n"line.path" = "F1"\n'
    for name, text in (
        ("base.toml", base),
        ("ours.toml", base.replace("F1", "F2")),
        ("theirs.toml", base + '"line.lane" = "F3"\n'),
        ("clash.toml", base.replace("F1", "F9")),
    ):
        (desk / name).write_text(text)
    merged = ask("merge", "base.toml", "ours.toml", "theirs.toml")
    assert merged.status == 0
    assert '"line.path" = "F2"' in merged.out
    assert '"line.lane" = "F3"' in merged.out
    assert ask("merge", "base.toml", "ours.toml", "theirs.toml", "--out", "new.toml").status == 0
    assert (desk / "new.toml").read_text() == merged.out
    dry = ask("merge", "base.toml", "ours.toml", "clash.toml", "--dry-run")
    assert (dry.status, "both sides changed assign line.path" in dry.err) == (1, True)
    assert (
        '"F9"' in ask("merge", "base.toml", "ours.toml", "clash.toml", "--if-taken", "replace").out
    )
    assert ask("merge", "base.toml").status == 2
    assert "cannot be read" in ask("merge", "base.toml", "none.toml", "ours.toml").err


def test_preferring_the_house(ask: Ask, desk: Path, tmp_path: Path) -> None:
    base, theirs = tmp_path / "base", tmp_path / "theirs"
    for each in (base, theirs):
        shutil.copytree(desk, each)
    for folder, key in ((desk, "F10"), (theirs, "F11")):
        ask_in(folder, "assign", "quillmap", "Cairn", key)
        ask_in(folder, "assign", "quillmap", "Ford", f"Ctrl+{key}", "--scheme", "house")
        ask_in(folder, "purpose", "link", "count", "quillmap", "Grid" if key == "F10" else "Wall")
    done = ask("merge", str(base), str(desk), str(theirs), "--if-taken", "house")
    assert done.status == 0, done.out + done.err
    assert "F10" in (desk / MINE).read_text()
    assert "Ctrl+F11" in (desk / "schemes/quillmap/house.toml").read_text()
    assert "quillmap: line.wall" in ask("purpose", "list", "count").out
    assert "the same already" in ask("merge", str(base), str(desk), str(base)).out


def test_a_set_goes_where_it_is_told(ask: Ask, desk: Path) -> None:
    ask("keyset", "learn", "all", "--title", "All of them")
    assert "All of them" in ask("keyset", "list").out
    ask("scheme", "new", "quillmap/night", "--based-on", "mine")
    refused = ask("keyset", "apply", "all", "--scheme", "night", "--yes")
    assert (refused.status, "is not active" in refused.err) == (2, True)
    ask("keyset", "set", "all", "measure-area", "F11")
    done = ask("keyset", "apply", "all", "--app", "quillmap", "--scheme", "house", "--yes", "--all")
    assert "already so" in done.out
    assert "key set all" in (desk / "schemes/quillmap/house.toml").read_text()
    assert "absent" in ask("keyset", "apply", "all", "--dry-run", "--all").out
    for each in ("save", "save"):
        answer = ask("keyset", "clear", "all", each)
    assert "nothing was changed" in answer.out
    shown = ask("keyset", "show", "all", "--app", "foldpress", "--keys-as", "mac").out
    assert "⌃" in shown
    (desk / "purposes.csv").unlink()
    empty = ask("keyset", "learn", "none")
    assert (empty.status, "nothing to learn from" in empty.err) == (2, True)
    assert "(unknown)" not in ask("keyset", "show", "all").out
    assert ask("purpose", "link", "save", "quillmap", "Save sheet").status == 0
    assert (desk / "purposes.csv").exists()


def test_main_is_the_main_modifier_of_the_platform(ask: Ask, desk: Path) -> None:
    ask("keyset", "new", "one")
    ask("keyset", "set", "one", "measure-area", "Main+Shift+F9")
    ask("keyset", "apply", "one", "--app", "quillmap", "--yes")
    assert '"Ctrl+Shift+F9"' in (desk / MINE).read_text()
    ask("undo")
    ask("desk", "keyboard", "--platform", "mac")
    ask("keyset", "apply", "one", "--app", "quillmap", "--yes")
    assert '"Shift+Meta+F9"' in (desk / MINE).read_text()


def test_nothing_drifts_where_nothing_moved(ask: Ask) -> None:
    ask("keyset", "new", "small")
    ask("keyset", "set", "small", "save", "Ctrl+S")
    calm = ask("keyset", "drift", "small")
    assert (calm.status, "uses small; consistency 100 %" in calm.out) == (0, True)
    ask("macro", "setting", "quillmap", "Grid", "--name", "grid")
    ask("assign", "quillmap", "macro.grid", "Ctrl+S", "--if-taken", "replace", "--despite", "guard")
    moved = ask("keyset", "drift", "small")
    assert (moved.status, "Grid" in moved.out or "grid" in moved.out) == (1, True)


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("macro", "export", LIGHT, "--out", "new.toml", "--dry-run"), "write new.toml"),
        (("macro", "show", "quillmap/Light"), "Light with sectors"),
        (("macro", "note", LIGHT, "1", ""), "nothing was changed"),
        (("macro", "tidy", LIGHT, "--dry-run"), "nothing was written"),
        (("macro", "play", LIGHT, "--mode", "draw"), "Stopped at step 5"),
        (("macro", "play", LIGHT, "--mode", "draw", "--json"), '"what": "waits"'),
        (("macro", "from-log", LOG, "--lines", "4..5", "--json"), '"line": 4'),
        (("macro", "list", "quillmap"), "quillmap/light"),
        (
            ("try", "quillmap", "--script", "scripts/harbour.txt", "--dry-run"),
            "nothing was written",
        ),
        (("house", "from", ".", "--dry-run"), "set the source to the folder"),
        (("house", "show"), "Schemes of the house here"),
        (("house", "off"), "nothing was changed"),
        (("desk", "git", "--off", "--dry-run"), "remove the merge driver"),
        (("scheme", "import", "quillmap/n", "--from", MINE, "--dry-run"), "would import"),
        (("worklist", "tagwright"), "There is nothing to change by hand"),
        (("purpose", "list", "xyzzy"), "No purpose fits"),
        (("purpose", "link", "count", "quillmap", "--remove"), "nothing was changed"),
        (("compare", "quillmap", "reliefkiln"), "gone"),
        (("upgrade", "quillmap", "--from", "apps/quillmap/commands.csv"), "nothing was changed"),
        (("pack", "logs.zip", "--with", "logs", "--dry-run"), LOG),
        (("find", "--app", "quillmap", "abort"), "Drop the line"),
    ],
)
def test_what_is_said_where_nothing_is_changed(
    light: Path, words: tuple[str, ...], says: str
) -> None:
    before = contents(light)
    answer = ask_in(light, *words)
    assert answer.status in (0, 1), answer.err
    assert says in answer.out, answer.out
    assert contents(light) == before


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("macro", "show", "quillmap/nothing at all"), "See them: olive-compass macro list"),
        (("macro", "show", "foldpress/x"), "Record one: olive-compass macro record foldpress/NAME"),
        (("macro", "split", LIGHT, "1", "Rest"), "there is nothing to part from"),
        (("macro", "split", LIGHT, "3", "..."), "names no macro"),
        (("macro", "fix", LIGHT, "1", "at"), "no fixed value"),
        (("macro", "insert", LIGHT, "1", "macro.none"), "has no macro “none”"),
        (("macro", "insert", LIGHT, "99", "Wall"), "A step can become number 1 to 11"),
        (("macro", "export", LIGHT, "--out", "desk.toml"), "This file exists already"),
        (("macro", "export", LIGHT, "--out", "no/where.toml"), "cannot be written"),
        (("macro", "import", "none.toml", "--app", "quillmap"), "cannot be read"),
        (("macro", "from-log", "desk.toml"), "holds no list of commands"),
        (("macro", "play", LIGHT, "--document", "../outside.json"), "outside the desk"),
        (
            ("macro", "setting", "quillmap", "Halo", "--key", "Q"),
            "would no longer type its character in label",
        ),
        (
            ("macro", "setting", "quillmap", "Halo", "--key", "Ctrl+D"),
            "In label, Ctrl+D already starts Duplicate (factory; apps/quillmap/commands.csv:27)",
        ),
        (("try", "quillmap", "--document", "none.json"), "cannot be read"),
        (
            ("try", "quillmap", "--script", "scripts/harbour.txt", "--log", "no/x"),
            "cannot be written",
        ),
        (("keyset", "set", "none", "save", "F1"), "Make one: olive-compass keyset new"),
        (("keyset", "show", "none", "--app", "nothing"), "There is no key set"),
        (("purpose", "link", "zoom", "quillmap", "Grid"), "could be zoom-in"),
        (("purpose", "link", "sav", "quillmap", "Grid"), "could be"),
        (("house", "from", "nowhere"), "There is no folder “nowhere”"),
        (("compare", "quillmap/mine", "keyset:none"), "There is no key set"),
        (("compare", "quillmap/mine", "keyset:larkspur"), "There is no key set"),
        (("compare", "desk.toml", "quillmap/mine"), "compare it with the application"),
        (("compare", "none.zip", "."), "cannot be read"),
        (("upgrade", "quillmap", "--from", "none.csv"), "cannot be read"),
        (("worklist", "quillmap", "foldpress"), "Unrecognized arguments: foldpress"),
        (("worklist", "verify", "quillmap"), "Missing: --from"),
        (("export", "quillmap", "--template", "none.txt"), "There are lines, xml, json"),
        (("scheme", "import", "quillmap/mine", "--from", MINE), "already"),
        (("scheme", "import", "quillmap/a b", "--from", MINE), "cannot be the name"),
        (("scheme", "import", "foldpress/x", "--from", MINE), "This scheme is for “quillmap”"),
        (("scheme", "import", "quillmap/x", "--from", "none.csv"), "cannot be read"),
        (("pack", "no/where/x.zip", "--keyset", "none"), "There is no key set"),
        (("unpack", "none.zip"), "cannot be read"),
        (("merge", "--unsettled"), "is no git repository"),
        (("compare", ".", "../nowhere"), "There is no desk, bundle or list “../nowhere”"),
    ],
)
def test_what_cannot_be_is_said_with_the_way_out(
    light: Path, words: tuple[str, ...], says: str
) -> None:
    before = contents(light)
    answer = ask_in(light, *words)
    assert (answer.status, says in answer.err) == (2, True), answer.err
    assert contents(light) == before


def test_a_house_that_brings_an_application_its_first_scheme(
    ask: Ask, desk: Path, tmp_path: Path
) -> None:
    studio = tmp_path / "studio"
    shutil.copytree(desk, studio)
    ask_in(studio, "scheme", "new", "foldpress/house", "--layer", "house")
    ask_in(studio, "assign", "foldpress", "Guides", "Ctrl+U", "--scheme", "house")
    ask_in(studio, "scheme", "new", "quillmap/own", "--layer", "personal")
    ask("house", "from", str(studio))
    assert ask("house", "pull", "--yes").status == 0
    assert 'foldpress = ["house"]' in (desk / "desk.toml").read_text()
    assert "starts Guides" in ask("press", "foldpress", "Ctrl+U").out
    assert not (desk / "schemes/quillmap/own.toml").exists()
    assert "as they were" in ask("house", "pull", "--yes").out
    shutil.rmtree(studio)
    gone = ask("house", "pull")
    assert (gone.status, "is not there" in gone.err) == (2, True)


def test_three_desks_are_merged_into_a_new_one(ask: Ask, desk: Path, tmp_path: Path) -> None:
    base, theirs = tmp_path / "base", tmp_path / "theirs"
    shutil.copytree(desk, base)
    shutil.copytree(desk, theirs)
    ask("assign", "quillmap", "Cairn", "Alt+F10")
    ask_in(theirs, "assign", "quillmap", "Ford", "Alt+F9")
    before = contents(desk)
    sides = (str(base), str(desk), str(theirs))
    merged = ask("merge", *sides, "--out", str(tmp_path / "new"))
    assert (merged.status, contents(desk) == before) == (0, True), merged.err
    told = [ask_in(tmp_path / "new", "press", "quillmap", key).out for key in ("Alt+F10", "Alt+F9")]
    assert ["starts Cairn" in told[0], "starts Ford" in told[1]] == [True, True]
    again = ask("merge", *sides, "--out", str(tmp_path / "new"))
    assert (again.status, "is there already" in again.err) == (2, True)


def test_a_pull_never_touches_the_repository_that_the_desk_lies_in(
    ask: Ask, desk: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def git(folder: Path, *words: str) -> str:
        me = ("-c", "user.name=Toma", "-c", "user.email=toma@larkspur.example")
        words = ("git", "-C", str(folder), *me, *words)
        return subprocess.run(words, capture_output=True, check=True, text=True).stdout

    studio = tmp_path / "studio"
    shutil.copytree(desk, studio)
    ask_in(studio, "assign", "quillmap", "Cairn", "Alt+F10", "--scheme", "house")
    (studio / "keysets").mkdir(exist_ok=True)
    (studio / "keysets" / "readme.md").write_text("What these are for.")
    for folder in (studio, desk):
        git(folder, "init", "-q")
        git(folder, "add", "-A")
        git(folder, "commit", "-qm", "As it is")
    with (desk / MINE).open("a") as file:
        file.write("# written today, not committed\n")
    # What a clone that was killed leaves behind.
    (desk / ".house" / ".git").mkdir(parents=True)
    ask("house", "from", str(studio))
    before, at = contents(desk), git(desk, "rev-parse", "HEAD")
    dry = ask("house", "pull", "--dry-run")
    assert (dry.status, "Cairn" in dry.out) == (0, True), dry.err
    assert contents(desk) == before
    monkeypatch.setenv("GIT_DIR", str(desk / ".git"))
    monkeypatch.setenv("GIT_WORK_TREE", str(desk))
    assert ask("house", "pull", "--dry-run").status == 0
    assert contents(desk) == before
    pulled = ask("house", "pull", "--yes")
    assert (pulled.status, "Passed over: keysets/readme.md" in pulled.out) == (0, True), pulled
    monkeypatch.undo()
    assert git(desk, "rev-parse", "HEAD") == at
    assert "written today" in (desk / MINE).read_text()
    assert "Alt+F10" in (desk / "schemes/quillmap/house.toml").read_text()


def test_settings_travel_only_when_asked(ask: Ask, desk: Path, tmp_path: Path) -> None:
    ask("desk", "project", "harbour")
    ask("pack", "all.zip", "--with", "logs")
    assert ask_in(tmp_path, "desk", "new", "other").status == 0
    other, bundle = tmp_path / "other", str(desk / "all.zip")
    assert ask_in(other, "unpack", bundle, "--yes").status == 0
    assert "harbour" not in (other / "desk.toml").read_text()
    assert (other / LOG).exists()
    again = ask_in(other, "unpack", bundle, "--yes")
    assert "All of it is here already" in again.out
    taken = ask_in(other, "unpack", bundle, "--settings", "--if-taken", "replace", "--yes")
    assert taken.status == 0
    assert "harbour" in (other / "desk.toml").read_text()


def test_a_log_of_another_application_becomes_a_macro(ask: Ask, desk: Path) -> None:
    (desk / "theirs.csv").write_text(
        "Uhr;Befehl;Taste;Ergebnis;height\n"
        "9:00;Zoom to area;;;\n9:01;Spot height;Q;;412\n9:02;Last view;;;\n9:03;Nonsense;;;\n;;;;\n"
    )
    shown = ask("macro", "from-log", "theirs.csv", "--column", "time=Uhr", "--column", "key=Taste")
    assert "command: heading “Befehl”" in shown.out
    made = ask(
        "macro", "from-log", "theirs.csv", "quillmap/Theirs", "--column", "key=3", "--lines", "..5"
    )
    assert made.status == 0, made.err
    assert "Quillmap has no command “Nonsense”." in made.out
    steps = ask("macro", "show", "quillmap/theirs", "--json").json
    assert [s["command"] for s in steps["steps"]][:3] == [
        "view.area",
        "point.spot-height",
        "view.previous",
    ]
    assert {"height": "412"}.items() <= steps["steps"][1]["inputs"].items()
    assert "macro-command" in ask("check", "quillmap").out
    assert ask("macro", "cut", "quillmap/theirs", "4").status == 0
    assert "input-never-asked" in ask("check", "quillmap").out
    assert ask("macro", "ask", "quillmap/theirs", "2", "at").status == 0
    assert "input-never-asked" not in ask("check", "quillmap").out


def test_free_says_why_a_command_can_have_no_key(ask: Ask) -> None:
    licence = ask("free", "reliefkiln", "--for", "shade.sky-model")
    assert (licence.status, "it needs “sky”" in licence.out) == (1, True)
    ask("scheme", "new", "foldpress/mine")
    assert ask("assign", "foldpress", "view.grid", "F10").status == 0
    full = ask("free", "foldpress", "--for", "view.grid", "--json").json
    assert "allows a command 1 key" in full["why-none"][0]
    best = full["ranked"][0]["key"]
    assert ask("assign", "foldpress", "view.grid", best).status == 2
    assert ask("assign", "foldpress", "view.grid", best, "--instead").status == 0
    ask("keyless", "quillmap", "Cairn", "--why", "one is enough")
    keyless = ask("free", "quillmap", "--for", "Cairn")
    assert "without a key on purpose: one is enough" in keyless.out
