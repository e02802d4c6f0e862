"""One set of keys for every application and every colleague, by the installed program."""

import json
import re
import shutil
import subprocess
import zipfile
from pathlib import Path

import pytest

from tests.conftest import Ask, ask_in, ask_process, become, contents, prepared

MINE = "schemes/quillmap/mine.toml"


@pytest.fixture(scope="module")
def with_links(laid_out: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A desk with Tagwright linked to purposes, and a set learnt from two applications."""
    guess = ("purpose", "guess", "tagwright", "--above", "0.7", "--yes")
    learn = ("keyset", "learn", "larkspur", "--app", "quillmap", "tagwright")
    return prepared(laid_out, tmp_path_factory.mktemp("linked"), guess, learn)


@pytest.fixture
def linked(with_links: Path, ask: Ask, desk: Path) -> Ask:
    """Runs the program on a copy of that desk."""
    become(desk, with_links)
    return ask


def test_a_command_is_found_under_another_name(ask: Ask) -> None:
    found = ask("find", "stop").out
    assert "Drop the line" in found
    assert "stop: “stop”" in found
    ask("purpose", "guess", "tagwright", "--above", "0.7", "--yes")
    hits = {h["title"]: h["purpose"] for h in ask("find", "stop", "--json").json["hits"]}
    assert hits["Abandon"] == "stop: “stop”"
    assert hits["Stop shading"] is None


def test_purposes_are_linked_listed_and_unlinked(ask: Ask, desk: Path) -> None:
    before = (desk / "purposes.csv").read_bytes()
    done = ask("purpose", "link", "count", "quillmap", "Grid")
    assert "It no longer serves “Grid”." in done.out
    assert "quillmap: view.grid" in ask("purpose", "list", "count").out
    assert ask("purpose", "link", "count", "quillmap", "--remove").status == 0
    ask("undo", "2")
    assert (desk / "purposes.csv").read_bytes() == before
    guessed = ask("purpose", "guess", "tagwright", "--json").json["proposals"]
    (stop,) = [each for each in guessed if each["purpose"] == "stop"]
    assert [(c["app"], c["command"]) for c in stop["commands"]] == [("tagwright", "edit.abandon")]
    unlinked = ask("purpose", "list", "--app", "quillmap", "--unlinked", "--json").json["purposes"]
    assert "render" in {p["purpose"] for p in unlinked}


def test_one_set_for_all_and_back_by_one_undo(linked: Ask, desk: Path) -> None:
    before = contents(desk)
    shown = linked("keyset", "show", "larkspur")
    assert "Consistency" in shown.out
    assert linked("keyset", "apply", "larkspur", "--dry-run").status == 0
    refused = linked("keyset", "apply", "larkspur")
    assert (refused.status, "Use --yes" in refused.err) == (2, True)
    assert contents(desk) == before
    first = linked("keyset", "show", "larkspur", "--json").json["consistency"]
    done = linked("keyset", "apply", "larkspur", "--yes")
    assert "Show creases loses it and keeps the menu Fold > Show creases" in done.out
    assert "X M: it takes no sequences" in done.out
    assert (desk / "schemes/foldpress/mine.toml").exists()
    assert 'foldpress = ["mine"]' in (desk / "desk.toml").read_text()
    assert linked("keyset", "show", "larkspur", "--json").json["consistency"] > first
    again = linked("keyset", "apply", "larkspur", "--yes")
    assert "nothing was changed" in again.out
    assert linked("undo").status == 0
    assert contents(desk) == before


def test_drift_tells_what_moved_where_and_since_when(linked: Ask) -> None:
    linked("keyset", "apply", "larkspur", "--yes")
    resolved = {
        r["purpose"] for r in linked("keyset", "drift", "larkspur", "--json").json["drifted"]
    }
    linked("assign", "quillmap", "Join", "Ctrl+O", "--mode", "everywhere", "--if-taken", "replace")
    found = linked("keyset", "drift", "larkspur", "--json")
    assert found.status == 1
    (moved,) = [r for r in found.json["drifted"] if r["purpose"] not in resolved]
    assert (moved["purpose"], moved["holder"], moved["app"]) == ("open-file", "Join", "quillmap")
    assert moved["where"].startswith(MINE)
    assert "by tester, change" in moved["since"]
    assert "  Open  " in linked("keyset", "drift", "larkspur").out


def test_a_set_is_edited_by_hand_and_by_command(linked: Ask, desk: Path) -> None:
    assert linked("keyset", "new", "night", "--title", "Night").status == 0
    assert linked("keyset", "set", "night", "stop", "esc", "Pause", "--why", "w").status == 0
    text = (desk / "keysets/night.toml").read_text()
    assert 'stop = { keys = ["Escape", "Pause"], why = "w" }' in text
    assert "Note that stop has Escape" in linked("keyset", "set", "night", "undo", "Escape").out
    assert linked("keyset", "clear", "night", "stop").status == 0
    assert {s["name"] for s in linked("keyset", "list", "--json").json["keysets"]} == {
        "larkspur",
        "night",
    }
    assert "gone" in linked("compare", "keyset:larkspur", "keyset:night").out
    for words, says in (
        (("keyset", "show", "nigth"), "Did you mean night?"),
        (("keyset", "set", "night", "xyzzy", "F1"), "There is no purpose"),
        (("keyset", "set", "night", "undo", "Crtl+Z"), "Cannot read"),
        (("keyset", "new", "night"), "already"),
        (("keyset", "new", "../x"), "cannot be the name"),
    ):
        answer = linked(*words)
        assert (answer.status, says in answer.err) == (2, True), answer.err


def test_a_false_friend_is_found_and_settled(linked: Ask) -> None:
    found = linked("check", "reliefkiln").out
    assert "F6 is “Trim to neat line” in Quillmap; here it starts “Shade the whole sheet”" in found
    linked(
        "keyless", "reliefkiln", "Shade the whole sheet", "--why", "F6 trims", "--scheme", "house"
    )
    assert "Shade the whole sheet” here" not in linked("check", "reliefkiln").out
    what_if = linked(
        "assign",
        "reliefkiln",
        "Shade all sheets",
        "F4",
        "--explain",
        "--dry-run",
        "--scheme",
        "house",
    )
    assert "A false friend: F4 is “Saved view 2” in Quillmap" in what_if.out


def test_comparing_says_what_presses_do(ask: Ask) -> None:
    """A layer is compared with all that lies below it: an example of its own help."""
    assert "They are alike" not in ask("compare", "quillmap/factory", "quillmap/mine").out
    found = ask("compare", "quillmap/factory", "quillmap/mine", "--json").json["presses"]
    assert {(p["what"], p["key"], *p["after"]) for p in found} == {
        ("other", "Ctrl+Shift+E", None),
        ("other", "Ctrl+Shift+K", "survey.check-closure"),
        ("new", "Ctrl+Shift+K", "survey.check-closure"),
        ("new", "Home", "view.whole-sheet"),
        ("new", "S H", "line.shoreline"),
    }
    same = ask("compare", "quillmap/mine", "quillmap")
    assert same.out == "Every press does the same in both.\n"
    there = ask("surprises", "quillmap", "--at", "factory").out
    here = ask("surprises", "quillmap", "--knows", "mine").out
    assert "Home" in there
    assert "100.0% as expected, 0 surprises" in here


def test_comparing_says_decisions(ask: Ask, desk: Path, tmp_path: Path) -> None:
    ask("assign", "quillmap", "Spot height", "Q", "--why", "beside the hand")
    answer = ask("compare", "quillmap/house", "quillmap/mine", "--decisions", "--json").json
    assert {"what": "new", "subject": "point.spot-height", "after": "Q in draw"}.items() <= next(
        d for d in answer["differences"] if d["subject"] == "point.spot-height"
    ).items()
    alike = ask("compare", "quillmap/mine", "quillmap/mine", "--decisions").out
    assert "They are alike." in alike
    words = ("compare", "quillmap/factory", "quillmap/mine", "--decisions", "--as", "html")
    page = ask(*words).out
    assert "<td>Spot height</td>" in page
    other = tmp_path / "other"
    shutil.copytree(desk, other)
    ask_in(other, "assign", "quillmap", "Spot height", "F10")
    ask_in(other, "macro", "setting", "quillmap", "Grid")
    said = ask("compare", ".", str(other), "--decisions").out
    assert "schemes/quillmap/mine" in said
    pressed = ask("compare", ".", str(other)).out
    assert re.search(r"new +F10 +in draw +nothing +Spot height", pressed)
    assert "macros/quillmap" in said
    refused = ask("compare", "quillmap", "keyset:none")
    assert refused.status == 2


def test_an_upgrade_is_looked_at_taken_and_undone(ask: Ask, desk: Path) -> None:
    ask("assign", "quillmap", "Spot height", "Q", "--why", "x")
    ask("assign", "quillmap", "Hatch", "F10")
    before = contents(desk)
    words = ("upgrade", "quillmap", "--from", "listings/quillmap-5.csv", "--version", "5.0")
    looked = ask(*words, "--dry-run")
    assert "Quillmap 4.2 -> 5.0" in looked.out
    assert "the new version has it from the factory" in looked.out
    assert contents(desk) == before
    told = ask(*words, "--dry-run", "--json").json
    verdicts = {(d["scheme"], d["subject"]): d["what"] for d in told["decisions"]}
    assert verdicts["mine", "point.spot-height"] == "redundant"
    assert verdicts["mine", "area.hatch"] == "command gone"
    assert verdicts["house", "line.shoreline"] == "holds"
    assert ask(*words).status == 2
    assert ask(*words, "--keep-keys", "--yes").status == 0
    assert 'version = "5.0"' in (desk / "apps/quillmap/app.toml").read_text()
    assert 'based-on = "factory 5.0"' in (desk / MINE).read_text()
    assert '"edit.duplicate" = { keys = ["Ctrl+D"]' in (desk / MINE).read_text()
    assert "often" in (desk / "apps/quillmap/commands.csv").read_text()
    assert "not-available" in ask("check", "quillmap").out
    assert ask("undo").status == 0
    assert contents(desk) == before


@pytest.fixture
def folded(ask: Ask) -> Ask:
    """Foldpress with two keys swapped, one moved on, and one that must go."""
    ask("scheme", "new", "foldpress/mine")
    for command, key in (("Turn page", "Ctrl+D"), ("Duplicate page", "Ctrl+R"), ("Map fold", "F2")):
        done = ask("assign", "foldpress", command, key, "--if-taken", "replace")
        assert done.status == 0, done.err
    return ask


def test_a_work_list_swaps_through_a_spare(folded: Ask, desk: Path) -> None:
    shown = folded("worklist", "foldpress").out
    assert "[ ] 3  Change Ctrl+D of Duplicate page to Ctrl+Shift+F12, for a while." in shown
    assert "Pages > Turn page (Alt P T)" in shown
    assert "Four pages, F2: it cannot be taken away" in shown
    steps = folded("worklist", "foldpress", "--json").json["steps"]
    assert len(steps) == 5
    assert "- [ ] 1." in folded("worklist", "foldpress", "--as", "markdown").out
    assert 'type="checkbox"' in folded("worklist", "foldpress", "--as", "html").out
    wrong = folded("worklist", "verify", "foldpress", "--from", "apps/foldpress/commands.csv")
    assert (wrong.status, "3 commands" in wrong.out or "4 commands" in wrong.out) == (1, True)
    # What the application has after the list was worked off, as its own listing would say it.
    by_id = {step["command"]: step["gets"] for step in steps}
    lines = ["id,title,keys"]
    listed = folded("app", "show", "foldpress", "--json").json["commands"]
    for each in listed:
        keys = by_id.get(each["command"], " or ".join(each["factory-keys"]))
        lines.append(f'{each["command"]},{each["title"]},"{keys}"')
    (desk / "now.csv").write_text("\n".join(lines))
    verified = folded("worklist", "verify", "foldpress", "--from", "now.csv")
    assert (verified.status, "All took" in verified.out) == (0, True), verified.out
    assert (
        "There is nothing to change by hand"
        in folded("worklist", "foldpress", "--from", "now.csv").out
    )


def test_what_is_exported_comes_in_as_it_was(ask: Ask, desk: Path) -> None:
    for form in ("csv", "json", "toml"):
        out = ask("export", "quillmap", "--scheme", "house", "--as", form).out
        (desk / f"h.{form}").write_text(out)
        taken = ask(
            "scheme", "import", f"quillmap/copy-{form}", "--from", f"h.{form}", "--layer", "house"
        )
        assert taken.status == 0, taken.err
        assert (
            "They are alike."
            in ask("compare", "quillmap/house", f"quillmap/copy-{form}", "--decisions").out
        )
    whole = ask("export", "quillmap", "--as", "json").json
    assert {"decision": "assign", "subject": "view.whole-sheet", "keys": "Home"}.items() <= next(
        d for d in whole["decisions"] if d["subject"] == "view.whole-sheet"
    ).items()
    page = ask("export", "quillmap", "--as", "html").out
    assert 'aria-keyshortcuts="Control+N"' in page
    assert "<kbd>Ctrl</kbd>+<kbd>N</kbd>" in page


def test_templates_are_a_persons_own_and_cannot_run_code(ask: Ask, desk: Path) -> None:
    assert "⌃⇧S" in ask("export", "quillmap", "--template", "lines", "--keys-as", "mac").out
    assert json.loads(ask("export", "foldpress", "--template", "json").out)["app"] == "Foldpress"
    assert ask("export", "quillmap", "--template", "xml").out.startswith("<?xml")
    own = ask("export", "quillmap", "--template", "lines", "--show-template").out
    (desk / "own.txt").write_text(own.replace("{{ each.key }}", "KEY {{ each.aria }}"))
    assert "KEY Control+N" in ask("export", "quillmap", "--template", "own.txt").out
    for source, says in (
        ("{{ nothing }}", "is undefined"),
        ("{% for %}", "cannot be read"),
        ("{{ ''.__class__.__mro__ }}", "cannot be carried out"),
        ("{{ commands.append(1) }}", "cannot be carried out"),
        ("{% include 'desk.toml' %}", "cannot be carried out"),
        ("{{ 1 / 0 }}", "cannot be carried out"),
        ("{% for a in range(999999999) %}x{% endfor %}", "cannot be carried out"),
    ):
        (desk / "own.txt").write_text(source)
        answer = ask("export", "quillmap", "--template", "own.txt")
        assert (answer.status, says in answer.err) == (2, True), answer.err


def test_a_bundle_is_carried_looked_at_checked_and_undone(
    linked: Ask, desk: Path, tmp_path: Path
) -> None:
    linked("assign", "quillmap", "Spot height", "Ctrl+Alt+Q", "--why", "x")
    linked("keyset", "apply", "larkspur", "--yes")
    assert linked("pack", "all.zip", "--dry-run").status == 0
    assert linked("pack", "all.zip").status == 0
    assert linked("pack", "all.zip").status == 2
    laptop = tmp_path / "laptop"
    ask_in(tmp_path, "demo", "laptop", "--quiet")
    ask_in(laptop, "desk", "keyboard", "--form", "iso-laptop", "--layout", "german")
    before = contents(laptop)
    bundle = str(desk / "all.zip")
    looked = ask_in(laptop, "unpack", bundle, "--dry-run")
    assert "new here: " in looked.out
    assert "Spot height" in looked.out
    refused = ask_in(laptop, "unpack", bundle, "--yes")
    assert (refused.status, "differ from ours" in refused.err) == (2, True)
    assert contents(laptop) == before
    assert ask_in(laptop, "unpack", bundle, "--if-taken", "replace", "--yes").status == 0
    assert "/german" in (laptop / "seat.toml").read_text()
    assert "blocks-character" in ask_in(laptop, "check", "quillmap").out
    assert ask_in(laptop, "undo").status == 0
    assert contents(laptop) == before
    for words in (("--app", "quillmap"), ("--scheme", "quillmap/mine"), ("--keyset", "larkspur")):
        name = f"{words[0][2:]}.zip"
        assert linked("pack", name, *words).status == 0
        with zipfile.ZipFile(desk / name) as archive:
            assert "desk.toml" not in archive.namelist()
        assert linked("compare", ".", name).status == 0
    (desk / "bad.zip").write_bytes(b"PK nonsense")
    assert "This is no bundle" in linked("unpack", "bad.zip").err


def git(folder: Path, *words: str) -> "subprocess.CompletedProcess[str]":
    return subprocess.run(
        ["git", "-c", "user.name=T", "-c", "user.email=t@larkspur.example", *words],
        cwd=folder,
        capture_output=True,
        text=True,
    )


@pytest.fixture
def clones(ask: Ask, desk: Path, tmp_path: Path) -> tuple[Path, Path]:
    """Two real clones of the desk, each with the merge driver."""
    if shutil.which("git") is None:
        pytest.skip("git is not installed")
    assert ask("desk", "git").status == 0
    git(desk, "add", "-A")
    git(desk, "commit", "-qm", "The desk")
    other = tmp_path / "other"
    git(tmp_path, "clone", "-q", str(desk), str(other))
    assert ask_in(other, "desk", "git").status == 0
    return desk, other


def change(folder: Path, *words: str) -> None:
    done = ask_in(folder, *words)
    assert done.status == 0, done.err
    git(folder, "commit", "-qam", " ".join(words[:4]))


def pull(folder: Path, source: Path) -> "subprocess.CompletedProcess[str]":
    branch = git(source, "branch", "--show-current").stdout.strip()
    return git(folder, "pull", "-q", "--no-rebase", "--no-edit", str(source), branch)


def test_two_real_clones_merge_by_decision(clones: tuple[Path, Path]) -> None:
    desk, other = clones
    change(desk, "assign", "quillmap", "Spot height", "Q", "--why", "Klara")
    change(other, "assign", "quillmap", "Cairn", "F10", "--why", "Toma")
    clean = pull(other, desk)
    assert clean.returncode == 0, clean.stderr
    text = (other / MINE).read_text()
    assert "Klara" in text
    assert "Toma" in text
    pull(desk, other)
    change(desk, "assign", "quillmap", "Ford", "F12", "--why", "Klara")
    change(other, "assign", "quillmap", "Ford", "F11", "--why", "Toma")
    conflict = pull(other, desk)
    assert conflict.returncode != 0
    assert "both sides changed assign point.ford" in conflict.stderr
    left = ask_in(other, "merge", "--unsettled")
    assert (left.status, "1 decision not settled" in left.out) == (1, True)
    resolved = ask_in(other, "merge", "--unsettled", "--if-taken", "replace")
    assert resolved.status == 0, resolved.err
    assert git(other, "commit", "-qm", "Merged").returncode == 0
    assert "F12" in (other / MINE).read_text()
    assert "nothing unmerged" in ask_in(other, "merge", "--unsettled").out


def test_a_clean_merge_that_makes_a_new_conflict_says_so(clones: tuple[Path, Path]) -> None:
    desk, other = clones
    change(desk, "assign", "quillmap", "Ford", "F12")
    change(other, "assign", "quillmap", "Join", "F12")
    merged = pull(other, desk)
    assert merged.returncode == 0
    assert "after the merge: F12 is given to" in merged.stderr
    assert ask_in(other, "desk", "git", "--off").status == 0
    assert not (other / ".gitattributes").exists()
    assert "olive-compass" not in git(other, "config", "--local", "--list").stdout


def test_three_desks_are_merged_as_one_change(ask: Ask, desk: Path, tmp_path: Path) -> None:
    base, theirs = tmp_path / "base", tmp_path / "theirs"
    shutil.copytree(desk, base)
    shutil.copytree(desk, theirs)
    ask("assign", "quillmap", "Ford", "F12")
    ask("macro", "setting", "quillmap", "Halo")
    ask_in(theirs, "assign", "quillmap", "Cairn", "F11")
    ask_in(theirs, "mute", "quillmap", "F9", "--why", "x", "--scheme", "house")
    words = ("merge", str(base), str(desk), str(theirs))
    before = contents(desk)
    assert "schemes/quillmap/house.toml" in ask(*words, "--dry-run").out
    assert contents(desk) == before
    assert ask(*words).status == 0
    text = (desk / MINE).read_text()
    assert "F12" in text
    assert "F11" in text
    assert ask("undo").status == 0
    assert contents(desk) == before
    ask_in(theirs, "assign", "quillmap", "Ford", "F10")
    ask_in(theirs, "clear", "quillmap", "Ford")
    ask_in(theirs, "assign", "quillmap", "Ford", "F10")
    conflict = ask(*words)
    assert (conflict.status, contents(desk)) == (1, before)
    assert ask(*words, "--if-taken", "house").status == 0
    assert "F12" in (desk / MINE).read_text()


@pytest.mark.parametrize("kind", ["folder", "repository"])
def test_the_house_keys_are_pulled(ask: Ask, desk: Path, tmp_path: Path, kind: str) -> None:
    studio = tmp_path / "studio"
    shutil.copytree(desk, studio)
    shutil.rmtree(studio / ".history")
    if kind == "repository":
        if shutil.which("git") is None:
            pytest.skip("git is not installed")
        git(studio, "init", "-q")
        git(studio, "add", "-A")
        git(studio, "commit", "-qm", "The studio")
    ask("assign", "quillmap", "Whole sheet", "F12")
    assert ask("house", "pull").status == 2
    assert ask("house", "from", str(studio)).status == 0
    assert "as they were" in ask("house", "pull", "--yes").out
    ask_in(studio, "assign", "quillmap", "Whole sheet", "F11", "--scheme", "house")
    ask_in(studio, "keyset", "new", "studio")
    git(studio, "add", "-A")
    git(studio, "commit", "-qm", "Moved")
    looked = ask("house", "pull", "--dry-run")
    assert "Quillmap: F11 everywhere: was nothing, now Whole sheet (house)." in looked.out
    assert "mine has another key and comes first for Whole sheet" in looked.out
    assert not (desk / "keysets/studio.toml").exists()
    assert ask("house", "pull").status == 2
    assert ask("house", "pull", "--yes").status == 0
    assert "F11" in (desk / "schemes/quillmap/house.toml").read_text()
    assert (desk / "keysets/studio.toml").exists()
    assert ask("house", "show", "--json").json["schemes"] == ["quillmap/house", "reliefkiln/house"]
    assert ask("undo").status == 0
    assert not (desk / "keysets/studio.toml").exists()
    assert ask("house", "off").status == 0


def test_a_pull_takes_the_place_of_no_scheme_of_ones_own(
    ask: Ask, desk: Path, tmp_path: Path
) -> None:
    studio = tmp_path / "studio"
    shutil.copytree(desk, studio)
    ours = desk / MINE
    before = ours.read_bytes()
    house = (studio / "schemes/quillmap/house.toml").read_text()
    for name in ("mine", "Larkspur", "factory"):
        (studio / f"schemes/quillmap/{name}.toml").write_text(house)
    (studio / "schemes/quillmap/linked.toml").symlink_to("house.toml")
    assert ask("scheme", "new", "quillmap/larkspur").status == 0
    assert ask("house", "from", str(studio)).status == 0
    looked = ask("house", "pull", "--dry-run").out
    for name in ("mine", "Larkspur"):
        assert f"Not taken: The house has quillmap/{name}" in looked
        assert f"--rename quillmap/{name}=house-{name}" in looked
    assert "schemes/quillmap/linked.toml of the house is a link" in looked
    assert "schemes/quillmap/factory.toml of the house has the name of the factory" in looked
    refused = ask("house", "pull", "--yes")
    assert (refused.status, "--rename quillmap/" in refused.err) == (2, True)
    assert ours.read_bytes() == before
    renames = [
        word
        for name in ("mine", "Larkspur")
        for word in ("--rename", f"quillmap/{name}=house-{name}")
    ]
    pulled = ask("house", "pull", "--yes", *renames)
    assert pulled.status == 0, pulled.err
    assert ours.read_bytes() == before
    assert (desk / "schemes/quillmap/house-mine.toml").read_text() == house
    # What it is called here is known from then on.
    (studio / MINE).write_text(house.replace("layer", "# anew\nlayer", 1))
    assert ask("house", "pull", "--yes").status == 0
    assert "# anew" in (desk / "schemes/quillmap/house-mine.toml").read_text()
    assert ours.read_bytes() == before


def test_a_bundle_brings_no_twin_of_a_file(ask: Ask, desk: Path, tmp_path: Path) -> None:
    other = tmp_path / "other"
    shutil.copytree(desk, other)
    (other / MINE).rename(other / "schemes/quillmap/Mine.toml")
    text = (other / "desk.toml").read_text()
    (other / "desk.toml").write_text(text.replace('"mine"', '"Mine"'))
    packed = ask_in(other, "pack", str(tmp_path / "twin.zip"))
    assert packed.status == 0, packed.err
    refused = ask("unpack", str(tmp_path / "twin.zip"), "--yes", "--if-taken", "replace")
    assert (refused.status, "on some systems they are one file" in refused.err) == (2, True)


def test_a_missing_git_is_said_plainly(ask: Ask, desk: Path) -> None:
    answer = ask_process(desk, "desk", "git", PATH="/nowhere")
    assert (answer.status, "git is not installed" in answer.err) == (2, True)
    ask("house", "from", "https://studio.example/keys.git")
    answer = ask_process(desk, "house", "pull", PATH="/nowhere")
    assert (answer.status, "name a folder instead" in answer.err) == (2, True)


@pytest.mark.long
def test_purposes_are_guessed_alike_in_every_process(desk: Path) -> None:
    """Texts are hashed anew in each: what is proposed does not hang on their order in a set."""
    said = {
        ask_process(desk, "purpose", "guess", PYTHONHASHSEED=str(seed)).out for seed in range(4)
    }
    assert len(said) == 1


def test_purposes_are_found_from_no_list_at_all_and_taken_as_one_change(
    ask: Ask, desk: Path
) -> None:
    """What docs/keysets.md tells: from no purposes to one set for all."""
    ask("app", "import", "Tagwright", "--from", "listings/tagwright-keys.csv")
    (desk / "purposes.csv").unlink()
    before = contents(desk)
    shown = ask("purpose", "guess")
    assert (shown.status, contents(desk) == before) == (0, True)
    assert "To take those marked +: olive-compass purpose guess --yes" in shown.out
    found = ask("purpose", "guess", "--json").json["proposals"]
    (whole,) = [each for each in found if each["purpose"] == "zoom-all"]
    assert {c["app"] for c in whole["commands"]} == {
        "foldpress",
        "quillmap",
        "reliefkiln",
        "tagwright",
    }
    assert all(c["reasons"] for each in found for c in each["commands"])
    assert "Would link" in ask("purpose", "guess", "--yes", "--dry-run").out
    assert contents(desk) == before
    done = ask("purpose", "guess", "--yes")
    assert re.search(r"Linked \d+ commands to \d+ purposes \(purposes.csv\)", done.out)
    again = ask("purpose", "guess", "--above", "0.8")
    assert "0 commands marked +" in again.out or again.status == 1
    assert ask("undo").status == 0
    assert contents(desk) == before
    learnt = ask("keyset", "learn", "studio", "--find-purposes")
    assert "Found: " in learnt.out
    assert "did the same in all of them" in learnt.out
    sure = ask("keyset", "show", "studio", "--json").json
    assert len(sure["purposes"]) > 60
    plan = ask("keyset", "apply", "studio", "--dry-run", "--json").json
    assert plan["sameness"]["same"] <= plan["sameness"]["after"] <= plan["sameness"]["of"]
    assert ask("undo").status == 0
    assert contents(desk) == before


def test_purposes_are_put_together_and_apart(ask: Ask) -> None:
    links = {p["purpose"]: p["links"] for p in ask("purpose", "list", "--json").json["purposes"]}
    done = ask("purpose", "split", "save", "Save a job", "--app", "foldpress")
    assert "Created purpose “Save a job” for foldpress" in done.out
    after = {p["purpose"]: p["links"] for p in ask("purpose", "list", "--json").json["purposes"]}
    assert after["save-a-job"] == {"foldpress": ["job.save-job"]}
    assert "foldpress" not in after["save"]
    done = ask("purpose", "merge", "save", "save-a-job")
    assert "Merged “Save a job” into “Save”" in done.out
    again = {p["purpose"]: p for p in ask("purpose", "list", "--json").json["purposes"]}
    assert again["save"]["links"] == links["save"]
    assert "Save a job" in again["save"]["names"]
    for words, says in (
        (("merge", "save", "save"), "is one purpose already"),
        (("merge", "save", "nosuch"), "There is no purpose"),
        (("split", "save", "Undo", "--app", "foldpress"), "There is a purpose “Undo” already"),
        (("split", "save", "X", "--app", *links["save"]), "Nothing would be left"),
        (("split", "measure", "X", "--app", "foldpress"), "No command of foldpress serves"),
        (("guess", "--above", "7"), "A score is from 0 to 1"),
    ):
        answer = ask("purpose", *words)
        assert (answer.status, says in answer.err) == (2, True), answer.err


def test_a_set_of_eight_applications_fits_a_screen(ask: Ask, desk: Path) -> None:
    for n in range(5):
        (desk / "more.csv").write_text(f"Title,Keys\nSave,Ctrl+S\nOpen,Ctrl+O\nZoom in,Ctrl+{n}\n")
        ask("app", "import", f"Maker{'abcde'[n]}", "--from", "more.csv")
    ask("keyset", "learn", "all", "--find-purposes")
    shown = ask_in(desk, "keyset", "show", "all", width=80)
    assert max(map(len, shown.out.splitlines())) <= 80
    assert "1 Foldpress, 2 Makera" in shown.out
    assert len(shown.out.splitlines()) < 60
