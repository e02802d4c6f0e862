"""What people and applications wrote stays: in bundles, in listings read again, at the simulator, in logs."""

import json
import shutil
import subprocess
import zipfile
from pathlib import Path

import pytest

from olive_compass.core.wording import conditional
from tests.conftest import Ask, ask_in, contents, environ_of

FORM = "keyboards/forms/bench.toml"


@pytest.fixture
def other(tmp_path: Path) -> Path:
    """A new, empty desk."""
    assert ask_in(tmp_path, "desk", "new", "other").status == 0
    return tmp_path / "other"


def bundled(ask: Ask, desk: Path, *words: str) -> str:
    assert ask("pack", "x.zip", *words).status == 0
    return str(desk / "x.zip")


def test_a_bundle_has_the_desks_own_keyboard_and_names_what_it_leaves_out(
    ask: Ask, desk: Path, other: Path
) -> None:
    shipped = Path(__file__).parents[2] / "src/olive_compass/data/forms/ansi-104.toml"
    (desk / FORM).parent.mkdir(parents=True)
    shutil.copy(shipped, desk / FORM)
    (desk / "schemes/quillmap/link.toml").symlink_to("mine.toml")
    (desk / "logs/aux.jsonl").write_text("x")
    packed = ask("pack", "x.zip", "--with", "logs")
    assert "Left out: schemes/quillmap/link.toml (a link)" in packed.out
    assert "Left out: logs/aux.jsonl (a name that not every system can store)" in packed.out
    assert ask_in(other, "unpack", str(desk / "x.zip"), "--yes").status == 0
    assert (other / FORM).read_bytes() == (desk / FORM).read_bytes()
    assert ask_in(other, "desk", "keyboard", "--form", "bench").status == 0


def test_the_stack_comes_along_and_a_second_personal_scheme_never_counts(
    ask: Ask, desk: Path, other: Path
) -> None:
    assert ask("scheme", "new", "quillmap/spare").status == 0
    bundle = bundled(ask, desk)
    unpacked = ask_in(other, "unpack", bundle, "--yes")
    assert "Quillmap uses mine over house over factory." in unpacked.out
    assert "spare" not in ask_in(other, "scheme", "stack", "quillmap").out
    # Where a personal scheme counts already, theirs waits to be chosen.
    ask_in(other, "scheme", "new", "quillmap/own")
    ask_in(other, "scheme", "use", "quillmap/own")
    (other / "schemes/quillmap/mine.toml").unlink()
    (desk / "x.zip").unlink()
    bundle = bundled(ask, desk, "--scheme", "quillmap/mine")
    unpacked = ask_in(other, "unpack", bundle, "--yes")
    assert "Quillmap uses own over house over factory." in unpacked.out, unpacked.err


def test_a_bundle_whose_files_do_not_read_is_refused_whole(
    ask: Ask, desk: Path, other: Path
) -> None:
    from olive_compass.desk.bundles import Bundle, pack

    for path, data, words in (
        ("desk.toml", b"name = [", ("--settings", "--if-taken", "replace")),
        ("schemes/quillmap/odd.toml", b"x", ()),
        (FORM, b'format = "olive-compass-form/1"\nrows = "?"\n', ()),
        ("keysets/odd.toml", b'format = "olive-compass-keyset/1"\nkeys = 3\n', ()),
    ):
        (desk / "odd.zip").write_bytes(
            pack(Bundle(scope="desk", name="x", made="now", files={path: data}))
        )
        before = contents(desk)
        refused = ask("unpack", "odd.zip", "--yes", *words)
        assert (refused.status, path in refused.err) == (2, True), refused.err
        assert contents(desk) == before


def test_only_what_will_change_is_announced(ask: Ask, desk: Path) -> None:
    bundle = bundled(ask, desk)
    ask("assign", "quillmap", "Cairn", "Alt+F10")
    told = ask("unpack", bundle, "--if-taken", "keep", "--dry-run")
    assert "Alt+F10" not in told.out
    told = ask("unpack", bundle, "--if-taken", "replace", "--dry-run", "--json").json
    assert [d["subject"] for d in told["differences"]] == ["point.cairn"]


def test_names_that_some_system_cannot_store_are_refused_when_they_are_made(ask: Ask) -> None:
    for name in ("aux", "COM1", "com²", "e\u0301t\u00e9", "Mine"):
        for words in (
            ("scheme", "new", f"quillmap/{name}"),
            ("keyset", "new", name),
            ("macro", "setting", "quillmap", "Grid", "--name", name),
        ):
            if name in ("Mine", "e\u0301t\u00e9") and words[0] != "scheme":
                continue
            assert ask(*words).status == 2, (name, words)


def test_a_listing_read_again_takes_nothing_away_unasked(ask: Ask, desk: Path) -> None:
    before = (desk / "apps/tagwright/commands.csv").read_text()
    rows = [
        line.split(";")
        for line in (desk / "listings/tagwright-keys.csv").read_text("cp1252").split("\n")
    ]
    short = "\n".join(f"{row[0]};{row[2]}" for row in rows[2:] if len(row) > 2)
    (desk / "short.csv").write_text(short)
    said = ask("app", "import", "Tagwright", "--from", "short.csv", "--yes", "--groups", "no")
    assert "Kept, because the listing says nothing about them: menus of" in said.out
    after = (desk / "apps/tagwright/commands.csv").read_text()
    modes = [line.count(",text,") for line in before.split("\n")]
    assert sum(line.count(",text,") for line in after.split("\n")) == sum(modes)
    said = ask(
        "app",
        "import",
        "Tagwright",
        "--from",
        "short.csv",
        "--yes",
        "--groups",
        "no",
        "--forget",
        "modes",
    )
    assert said.status == 0
    assert ",text," not in (desk / "apps/tagwright/commands.csv").read_text()


def test_an_upgrade_says_the_same_before_and_when_it_is_done(ask: Ask) -> None:
    words = ("upgrade", "quillmap", "--from", "listings/quillmap-5.csv", "--version", "5.0")
    looked = ask(*words, "--dry-run").out.split("\n")
    done = ask(*words, "--yes").out.split("\n")
    assert looked[:-3] == done[:-3]
    assert looked[-3] == conditional(done[-3])


def test_what_was_recorded_is_kept_while_a_question_is_open(ask: Ask, desk: Path) -> None:
    (desk / "s.txt").write_text("menu Hatch\nmenu Cairn\n")
    said = ask("macro", "record", "quillmap/Half", "--script", "s.txt", "--no-log")
    assert (said.status, "still asked" in said.err) == (2, True)
    assert "point.cairn" in (desk / "macros/quillmap/half.toml").read_text()


def test_a_log_is_parted_at_line_feeds_and_read_no_further_than_asked(ask: Ask, desk: Path) -> None:
    head = (desk / "logs/quillmap-2026-10-12.jsonl").read_text().split("\n")[0]
    event = {"time": "t", "app": "quillmap", "mode": "draw", "command": "point.cairn"}
    lines = [{**event, "inputs": {"text": f"a\u2028b {n}"}} for n in range(5)]
    text = "\n".join([head, *(json.dumps(line, ensure_ascii=False) for line in lines)])
    (desk / "odd.jsonl").write_text(text + "\n")
    events = ask("macro", "from-log", "odd.jsonl", "--json").json["events"]
    assert [each["inputs"]["text"][-1] for each in events] == ["0", "1", "2", "3", "4"]
    endless = (desk / "odd.jsonl").read_bytes() + b"x" * 3_000_000
    (desk / "odd.jsonl").write_bytes(endless)
    made = ask("macro", "from-log", "odd.jsonl", "quillmap/Some", "--lines", "3..4")
    assert (made.status, "2 steps" in made.out, made.err) == (0, True, "")


def test_a_merge_that_was_never_settled_can_be(desk: Path, ask: Ask) -> None:
    def git(*words: str) -> int:
        environ = environ_of(
            GIT_CONFIG_GLOBAL="/dev/null", GIT_AUTHOR_NAME="a", GIT_COMMITTER_NAME="a"
        )
        environ |= {"GIT_AUTHOR_EMAIL": "a@b", "GIT_COMMITTER_EMAIL": "a@b"}
        return subprocess.run(
            ["git", *words], cwd=desk, env=environ, capture_output=True, check=False
        ).returncode

    assert git("init", "-q") == 0
    git("add", "-A")
    git("commit", "-qm", "one")
    path = desk / "purposes.csv"
    line = path.read_text().split("\n")[4]
    for branch, title in (("theirs", "Theirs"), ("ours", "Ours")):
        git("checkout", "-q", "-b", branch, "HEAD" if branch == "theirs" else "HEAD~1")
        path.write_text(path.read_text().replace(line, line.replace(line.split(",")[1], title)))
        git("commit", "-qam", branch)
    assert git("merge", "-q", "theirs") != 0
    refused = ask("purpose", "list")
    assert (refused.status, "purposes.csv:5" in refused.err) == (2, True), refused.err
    assert ask("merge", "--unsettled", "--if-taken", "keep").status == 0
    assert "Ours" in ask("purpose", "list").out


def test_a_bundle_has_its_stack_in_the_manifest(ask: Ask, desk: Path) -> None:
    bundle = bundled(ask, desk, "--app", "quillmap")
    manifest = json.loads(zipfile.ZipFile(bundle).read("manifest.json"))
    assert manifest["stacks"] == {"quillmap": ["mine", "house"]}


def test_a_scheme_keeps_its_place_under_another_name_and_goes_whole(ask: Ask, desk: Path) -> None:
    ask("assign", "quillmap", "Cairn", "Alt+F10")
    ask("scheme", "new", "quillmap/late", "--based-on", "mine")
    assert ask("scheme", "rename", "quillmap/mine", "evenings").status == 0
    assert 'quillmap = ["evenings", "house"]' in (desk / "desk.toml").read_text()
    assert 'based-on = "evenings"' in (desk / "schemes/quillmap/late.toml").read_text()
    assert "starts Cairn" in ask("press", "quillmap", "Alt+F10").out
    for name in ("house", "factory", "aux"):
        assert ask("scheme", "rename", "quillmap/evenings", name).status == 2
    assert ask("scheme", "remove", "quillmap/evenings", "--yes").status == 0
    assert "starts Cairn" not in ask("press", "quillmap", "Alt+F10").out
    assert "evenings" not in (desk / "desk.toml").read_text()
    assert ask("scheme", "remove", "quillmap/house").status == 2, "it asks first"
    assert ask("undo").status == 0
    assert (desk / "schemes/quillmap/evenings.toml").exists()
