"""What is kept in the user's own cache folder makes an answer come sooner, and never another one."""

import json
import os
import shutil
import sys
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

from olive_compass.cli.looking import checked
from olive_compass.core.sharing.cross_app import AppReport
from olive_compass.desk.checking import Checked
from olive_compass.desk.desk import Desk
from olive_compass.desk.storage import kept
from olive_compass.desk.storage.neighbour_cache import Memory
from olive_compass.desk.views import across
from tests.conftest import Answer, ask_in, contents

Look = Callable[..., Answer]

#: The files that are read by whoever opens a file while this is a list.
_read: list[str] | None = None


def _note(event: str, args: tuple[object, ...]) -> None:
    if event == "open" and _read is not None:
        _read.append(str(args[0]))


sys.addaudithook(_note)


@pytest.fixture
def everything(desk: Path) -> Path:
    """A desk with files of every kind, with a keyboard of its own."""
    form = desk / "keyboards/forms/bench.toml"
    form.parent.mkdir(parents=True, exist_ok=True)
    shutil.copy(Path(checked.__file__).parents[2] / "data/forms/ansi-104.toml", form)
    for words in (
        "desk keyboard --form bench",
        "desk device new pedal --controls left,right",
        "usage take logs/quillmap-2026-10-12.jsonl",
        "macro record quillmap/lights --script scripts/harbour.txt --no-log",
        "tray new quillmap/day --kind tab",
        "tray add quillmap/day sheet.trim",
    ):
        answer = ask_in(desk, *words.split())
        assert answer.status == 0, answer.err
    return desk


@pytest.fixture
def look(tmp_path: Path) -> Look:
    """Asks with a cache folder of one's own, and again without one: both say the same."""

    def look(desk: Path, *words: str) -> Answer:
        with_cache = ask_in(desk, *words, OLIVE_COMPASS_CACHE=str(tmp_path / "cache"))
        without = ask_in(desk, *words, OLIVE_COMPASS_CACHE="")
        assert vars(with_cache) == vars(without)
        return with_cache

    return look


@pytest.fixture
def searches(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """The applications whose findings were looked for anew."""
    found: list[str] = []
    original = checked.looked_for

    def looked_for(at: object, apps: list[str], *more: object) -> list[Checked]:
        found.extend(apps)
        return original(at, apps, *more)  # type: ignore[arg-type]

    monkeypatch.setattr(checked, "looked_for", looked_for)
    return found


def state(desk: Path, *apps: str | list[str]) -> str:
    """What tells the files of applications from others."""
    names = [name for each in apps for name in ([each] if isinstance(each, str) else each)]
    return kept.State(Desk(str(desk))).of(kept.files_of(names))


def test_findings_are_looked_for_again_only_where_something_changed(
    desk: Path, tmp_path: Path, searches: list[str]
) -> None:
    cache = str(tmp_path / "cache")

    def check(*words: str) -> list[str]:
        searches.clear()
        answer = ask_in(desk, "check", *words, OLIVE_COMPASS_CACHE=cache)
        assert answer.status in (0, 1), answer.err
        return list(searches)

    apps = ["foldpress", "quillmap", "reliefkiln", "tagwright"]
    before = contents(desk)
    assert check() == apps
    assert check() == check("--json") == check("quillmap", "--strict") == []
    assert contents(desk) == before
    # On another keyboard, or against another scheme, it is another question.
    ask_in(desk, "check", "--since", "factory", OLIVE_COMPASS_CACHE=cache)
    assert check() == []
    # With purposes every application is held against the others.
    scheme = desk / "schemes/quillmap/mine.toml"
    scheme.write_text(scheme.read_text() + "\n# a thought\n")
    assert check() == apps
    assert check() == []
    (desk / "purposes.csv").unlink()
    assert check() == apps
    scheme.write_text(scheme.read_text() + "\n# another\n")
    assert check() == ["quillmap"]
    assert check() == []


def test_whatever_is_changed_a_check_says_what_it_would_without_a_cache(
    everything: Path, look: Look
) -> None:
    desk = everything
    before = {name: (desk / name).read_bytes() for name in ("desk.toml", "seat.toml")}
    look(desk, "check")
    for words in (
        "assign quillmap sheet.trim F10 --if-taken replace --why x",
        "undo",
        "mute quillmap Ctrl+Shift+F9 --why x",
        "desk system add Ctrl+Z --does nothing",
        "purpose link save quillmap sheet.trim",
        "desk keyboard --platform mac",
        "tray new quillmap/spare --kind tab",
    ):
        assert ask_in(desk, *words.split()).status == 0, words
        assert look(desk, "check", "--json").json["findings"]
    for path, change in {
        "schemes/quillmap/mine.toml": lambda text: text.replace("[assign]", "[assign]\n", 1),
        "apps/reliefkiln/commands.csv": lambda text: text.replace("Ctrl+", "Alt+", 9),
        "seat.toml": lambda text: "",
        "desk.toml": lambda text: text + "\n[[\n",
    }.items():
        file = desk / path
        file.write_text(change(file.read_text()))
        look(desk, "check")
    shutil.rmtree(desk / "tallies")
    shutil.rmtree(desk / "macros")
    look(desk, "check")
    for name, data in before.items():
        (desk / name).write_bytes(data)
    assert look(desk, "check").status in (0, 1)
    (desk / "apps/reliefkiln/commands.csv").unlink()
    gone = look(desk, "check", "reliefkiln")
    assert (gone.status, "apps/reliefkiln/commands.csv" in gone.err) == (2, True)


def test_all_that_a_check_reads_belongs_to_what_it_is_kept_by(
    everything: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    global _read
    desk, apps = everything, ["foldpress", "quillmap", "reliefkiln", "tagwright"]
    for app in apps:
        _read = []
        assert ask_in(desk, "check", app, OLIVE_COMPASS_CACHE="").status in (0, 1)
        read, _read = sorted({*_read}), None
        inside = [Path(path) for path in read if os.path.realpath(path).startswith(f"{desk}/")]
        own = [str(path.relative_to(desk)) for path in inside]
        # Files of every kind that there is to read.
        for each in ("desk.toml", "seat.toml", "purposes.csv", "keyboards", "devices", "tallies"):
            assert any(path.startswith(each) for path in own), each
        before = state(desk, app, apps)
        for path in inside:
            if ".history" not in path.parts:
                text = path.read_bytes()
                path.write_bytes(text + b"\n")
                assert state(desk, app, apps) != before, path
                path.write_bytes(text)
        assert state(desk, app, apps) == before


def test_another_program_does_not_trust_what_this_one_kept(
    desk: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    here = state(desk, "quillmap")
    assert state(desk, "quillmap") == here
    assert state(desk, "foldpress") != here
    kept._program.cache_clear()
    monkeypatch.setattr(kept, "__version__", "99")
    assert state(desk, "quillmap") != here
    kept._program.cache_clear()


def test_what_is_written_while_findings_are_looked_for_is_not_missed(
    desk: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    original = checked.looked_for
    scheme = desk / "schemes/quillmap/mine.toml"

    def while_somebody_writes(*words: object) -> list[Checked]:
        found = original(*words)  # type: ignore[arg-type]
        scheme.write_text(scheme.read_text() + '[mute]\n"Ctrl+Shift+F11" = "x"\n')
        return found

    monkeypatch.setattr(checked, "looked_for", while_somebody_writes)
    ask_in(desk, "check", OLIVE_COMPASS_CACHE=str(tmp_path / "cache"))
    assert not list((tmp_path / "cache").glob("*.kept/found/*"))


def damages(path: Path) -> Iterator[None]:
    """Makes of a file of the cache, one after the other, what accidents make of it."""
    whole = path.read_bytes()
    head, _, body = whole.partition(b"\n")
    middle = len(whole) // 2
    for damaged in (
        b"",
        whole[:middle],
        whole[:-1],
        whole[:middle] + bytes([whole[middle] ^ 1]) + whole[middle + 1 :],
        head,
        head + b"\n[]",
        head + b"\n" + b"[" * 100_000,
        head + b'\n{"app": "quillmap"}',
        body,
        os.urandom(2000),
        head + b"\n\xff\xfe",
    ):
        path.write_bytes(damaged)
        yield
    path.unlink()
    path.mkdir()
    yield
    path.rmdir()
    path.symlink_to(path)
    yield
    path.unlink()


@pytest.mark.long
def test_a_damaged_cache_does_no_harm(desk: Path, tmp_path: Path, look: Look) -> None:
    lasting = "assign reliefkiln shade.bake-tints Ctrl+Shift+F9 -n"
    for words in ("check", lasting):
        look(desk, *words.split())
    cache = tmp_path / "cache"
    for pattern, words in (
        ("*.kept/found/quillmap", "check quillmap"),
        ("*.kept/told/quillmap", lasting),
    ):
        (path,) = cache.glob(pattern)
        for _ in damages(path):
            look(desk, *words.split())
        assert not path.exists() or path.is_file()


@pytest.mark.parametrize(
    "damaged", ["1", "[1]", "{}", "[{}]", '[{"press": 1}]', '[{"press": [], "claim": {}}]']
)
def test_what_is_whole_but_no_list_of_presses_is_not_taken_for_one(
    damaged: str, desk: Path
) -> None:
    at = Desk(str(desk))
    at.cache = str(desk.parent / "cache")
    at.kept.note("told", "quillmap", kept.files_of(["quillmap"]), json.loads(damaged))
    at.keep()
    assert (desk.parent / "cache/told/quillmap").exists()
    at.kept.note("told", "tagwright", kept.files_of(["tagwright"]), "\udcff")
    at.keep()
    assert not (desk.parent / "cache/told/tagwright").exists()
    assert Memory(at.kept, ()).find("quillmap", at.purposes) in (None, [])


def test_what_an_application_tells_the_others_is_kept_as_it_was(everything: Path) -> None:
    def told(cache: str, altered: tuple[str, ...] = ()) -> dict[str, list[AppReport]]:
        at = Desk(str(everything))
        at.cache = cache
        found = across(at, {}, at.keyboard, altered)
        assert found
        told = {app: found.told(app) for app in at.app_names()}
        at.keep()
        return told

    cache = str(everything.parent / "kept")
    plain = told("")
    assert told(cache) == plain == told(cache)
    assert all(plain[app] for app in ("foldpress", "quillmap", "reliefkiln"))
    restored = Memory(kept.Kept(Desk(str(everything)), cache), ())
    purposes = Desk(str(everything)).purposes
    for app, each in plain.items():
        again = restored.find(app, purposes)
        assert again == each
        assert [m.claim.layer.by_scheme for _, m in again or ()] == [
            m.claim.layer.by_scheme for _, m in each
        ]
    # What is looked at in another way than the desk has it is neither taken from there nor kept.
    assert (
        Memory(kept.Kept(Desk(str(everything)), cache), ("quillmap",)).find("quillmap", purposes)
        is None
    )
    ask_in(everything, "clear", "quillmap", "file.save", "--yes")
    ask_in(everything, "mute", "quillmap", "Ctrl+S", "--why", "x", "--despite", "guard")
    now = told("")
    assert now["quillmap"] != plain["quillmap"]
    assert told(cache, ("quillmap",)) == now == told(cache)


def test_a_cache_folder_that_cannot_be_written_or_lies_in_the_desk_keeps_nothing(
    desk: Path, tmp_path: Path
) -> None:
    plain = ask_in(desk, "check", OLIVE_COMPASS_CACHE="")
    before = contents(desk)
    (tmp_path / "file").write_text("x")
    for folder in (tmp_path / "file", tmp_path / "file/below", desk / "cache", Path("/proc/none")):
        assert vars(ask_in(desk, "check", OLIVE_COMPASS_CACHE=str(folder))) == vars(plain)
    assert contents(desk) == before
