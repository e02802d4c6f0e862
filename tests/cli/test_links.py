"""Nothing is written through a link that somebody planted, and files stay whose they are."""

import errno
import os
import shutil
import stat
from collections.abc import Callable
from pathlib import Path

import pytest

from olive_compass.desk.storage import saving
from tests.conftest import Ask, ask_in, contents

pytestmark = pytest.mark.skipif(os.name == "nt", reason="needs links, owners and modes")

MINE = "schemes/quillmap/mine.toml"
ASSIGN = ("assign", "quillmap", "Cairn", "Alt+F10", "--why", "x")
KILN = ("deliver", "reliefkiln", "--file-format", "kiln", "--yes", "--to")


@pytest.fixture
def theirs(tmp_path: Path) -> Path:
    """A file of the user's outside the desk, such as one that a shell reads at its start."""
    folder = tmp_path / "home"
    folder.mkdir()
    file = folder / "start.sh"
    file.write_text("# theirs\n")
    return file


def test_names_of_temporary_files_cannot_be_guessed(
    ask: Ask, desk: Path, theirs: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    # The names that were once used, and the very one that is drawn.
    monkeypatch.setattr(os, "urandom", lambda count: b"\x01" * count)
    for name in (f".mine.toml.{os.getpid()}.tmp", f".mine.toml.{'01' * 8}.tmp"):
        (desk / "schemes/quillmap" / name).symlink_to(theirs)
    for _ in range(2):
        ask(*ASSIGN)
    assert theirs.read_text() == "# theirs\n"
    assert not (desk / MINE).is_symlink()
    assert "starts Cairn" in ask("press", "quillmap", "Alt+F10").out


def link_history(desk: Path, outside: Path) -> None:
    (desk / ".history").rename(outside.parent / "kept")
    (desk / ".history").symlink_to(outside.parent / "kept")


def link_lock(desk: Path, outside: Path) -> None:
    (desk / ".history/lock").unlink(missing_ok=True)
    (desk / ".history/lock").symlink_to(outside)


def link_scheme_out(desk: Path, outside: Path) -> None:
    (desk / MINE).rename(outside.parent / "mine.toml")
    (desk / MINE).symlink_to(outside.parent / "mine.toml")


def link_folder_out(desk: Path, outside: Path) -> None:
    (desk / "schemes/quillmap").rename(outside.parent / "quillmap")
    (desk / "schemes/quillmap").symlink_to(outside.parent / "quillmap")


@pytest.mark.parametrize("plant", [link_history, link_lock, link_scheme_out, link_folder_out])
def test_a_planted_link_is_named_and_nothing_is_written(
    plant: Callable[[Path, Path], None], ask: Ask, desk: Path, theirs: Path
) -> None:
    ask("assign", "quillmap", "Cairn", "Alt+F9")
    plant(desk, theirs)
    before = {path: path.read_bytes() for path in theirs.parent.rglob("*") if path.is_file()}
    refused = ask(*ASSIGN)
    assert refused.status == 2
    assert "link" in refused.err
    assert "nothing was changed" in refused.err.lower()
    assert {p: p.read_bytes() for p in theirs.parent.rglob("*") if p.is_file()} == before


def test_a_link_that_comes_in_at_the_last_moment_is_not_followed(
    ask: Ask, desk: Path, theirs: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    away = theirs.parent / "away"
    write_in = saving.write_in

    def swapped(folder: saving.Folder, name: str, *more: object, **named: object) -> None:
        if name == "mine.toml" and not away.exists():
            # The folder is open: that its name now leads elsewhere makes no difference.
            (desk / "schemes/quillmap").rename(desk / "schemes/real")
            away.mkdir()
            (desk / "schemes/quillmap").symlink_to(away)
        write_in(folder, name, *more, **named)  # type: ignore[arg-type]

    monkeypatch.setattr(saving, "write_in", swapped)
    ask(*ASSIGN)
    assert list(away.iterdir()) == []
    # And one that is there between the look and the opening is refused.
    real = saving.written_place(str(desk), "schemes/real/mine.toml")
    (desk / "schemes/real").rename(desk / "schemes/other")
    (desk / "schemes/real").symlink_to(away)
    with pytest.raises(Exception, match="link"):
        saving.write(real, b"x")
    assert list(away.iterdir()) == []


def test_a_delivery_goes_through_no_link_of_the_desk(ask: Ask, desk: Path, theirs: Path) -> None:
    (desk / "keys.kiln").symlink_to(theirs)
    refused = ask(*KILN, "keys.kiln")
    assert (refused.status, "leads out of the desk" in refused.err) == (2, True)
    (desk / "keys.kiln").unlink()
    # The copy of what was there before is made new.
    (desk / "keys.kiln").write_bytes((desk / "kiln/keys.kiln").read_bytes())
    (desk / "keys.kiln.before-delivery").symlink_to(theirs)
    assert ask(*KILN, "keys.kiln").status == 0
    assert theirs.read_text() == "# theirs\n"
    for path in (".git/config", ".GIT/hooks/post-checkout", "schemes/x", "Seat.toml"):
        refused = ask(*KILN, path)
        assert (refused.status, "of the desk itself" in refused.err) == (2, True), path


@pytest.mark.parametrize(
    "words",
    [
        ("page", "--out"),
        ("sheet", "quillmap", "--as", "pdf", "--out"),
        ("export", "quillmap", "--as", "csv", "--out"),
        ("board", "quillmap", "--out"),
        ("pack",),
    ],
)
def test_what_is_given_out_is_written_through_no_link(
    words: tuple[str, ...], ask: Ask, desk: Path, theirs: Path
) -> None:
    ending = {"page": "html", "sheet": "pdf", "export": "csv", "board": "png", "pack": "zip"}
    (desk / "out").symlink_to(theirs.parent)
    nowhere = desk / f"new.{ending[words[0]]}"
    nowhere.symlink_to(theirs.parent / "not-there")
    for target in (nowhere.name, f"out/{nowhere.name}"):
        refused = ask(*words, target)
        assert (refused.status, refused.err.count("\n")) == (2, 1), refused.err
    assert os.listdir(theirs.parent) == [theirs.name]


def test_a_desk_that_takes_the_place_of_another_may_write_nothing_outside(
    ask: Ask, desk: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    outside = tmp_path / "kiln.keys"
    outside.write_bytes((desk / "kiln/keys.kiln").read_bytes())
    assert ask(*KILN, str(outside)).status == 0
    assert ask("scheme", "new", "reliefkiln/mine").status == 0
    assert ask("assign", "reliefkiln", "Harbour side", "Ctrl+Alt+F8").status == 0
    assert ask("deliver", "reliefkiln", "--yes").status == 0
    assert ask("assign", "reliefkiln", "Harbour side", "Ctrl+Alt+F6").status == 0
    # The same folder, the same files, and no history of this desk.
    for path in (desk / ".history").glob("*"):
        if path.is_file():
            path.unlink()
    refused = ask("deliver", "reliefkiln", "--yes")
    assert (refused.status, "not allowed this desk to write" in refused.err) == (2, True)


def test_owner_group_mode_and_attributes_stay(ask: Ask, desk: Path) -> None:
    mine = desk / MINE
    mine.chmod(0o664)
    if os.geteuid() == 0:
        os.chown(mine, 4242, 4343)
    if hasattr(os, "setxattr"):
        os.setxattr(mine, "user.colour", b"green")
    before = mine.stat()
    assert ask(*ASSIGN).status == 0
    after = mine.stat()
    assert after.st_ino != before.st_ino
    assert [getattr(after, name) for name in ("st_uid", "st_gid", "st_mode")] == [
        getattr(before, name) for name in ("st_uid", "st_gid", "st_mode")
    ]
    if hasattr(os, "getxattr"):
        assert os.getxattr(mine, "user.colour") == b"green"
    assert ask("undo").status == 0
    assert mine.stat().st_mode == before.st_mode


def test_a_file_of_somebody_else_is_not_taken_from_them(
    ask: Ask, desk: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    mine = desk / MINE
    before = contents(desk)

    def forbidden(handle: int, owner: int, group: int) -> None:
        raise PermissionError

    stated = saving.Folder.about

    def about(self: saving.Folder, name: str) -> os.stat_result | None:
        found = stated(self, name)
        if found is None or name != "mine.toml":
            return found
        values = list(found)
        values[stat.ST_UID] = 4242
        return os.stat_result(values)

    monkeypatch.setattr(os, "fchown", forbidden)
    monkeypatch.setattr(saving.Folder, "about", about)
    mine.chmod(0o644)
    refused = ask(*ASSIGN)
    assert (refused.status, "belongs to somebody else" in refused.err) == (2, True)
    assert contents(desk) == before
    # Where the group may do what the owner may, both go on as before.
    mine.chmod(0o664)
    assert ask(*ASSIGN).status == 0


def test_a_protected_file_is_refused_with_the_way_out(ask: Ask, desk: Path) -> None:
    (desk / MINE).chmod(0o444)
    before = contents(desk)
    refused = ask(*ASSIGN)
    assert (refused.status, "chmod u+w" in refused.err) == (2, True)
    assert contents(desk) == before
    assert not (desk / ".history/pending.json").exists()


def test_a_full_disk_is_named_by_the_file_that_was_full(
    ask: Ask, desk: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    before = contents(desk)
    calls: list[int] = []

    def full(handle: int) -> None:
        calls.append(handle)
        if len(calls) > 1:
            raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(saving, "_sync", full)
    refused = ask(*ASSIGN)
    assert (refused.status, f"{MINE}: No space left" in refused.err) == (2, True), refused.err
    assert contents(desk) == before


def test_a_session_of_the_simulator_is_written_through_no_link(
    ask: Ask, desk: Path, theirs: Path
) -> None:
    shutil.rmtree(desk / "logs")
    (desk / "logs").symlink_to(theirs.parent)
    (desk / "acts.txt").write_text("press S\n")
    refused = ask("try", "quillmap", "--script", "acts.txt")
    assert (refused.status, "leads out of the desk" in refused.err) in ((2, True), (0, False))
    assert os.listdir(theirs.parent) == [theirs.name]


def test_a_cache_folder_of_others_is_neither_believed_nor_written(
    desk: Path, tmp_path: Path
) -> None:
    shared = tmp_path / "shared"
    shared.mkdir()
    shared.chmod(0o777)
    before = contents(desk)
    for cache in (str(shared), str(desk), f"{desk}/inner", f"{desk}/."):
        assert ask_in(desk, "check", OLIVE_COMPASS_CACHE=cache).status in (0, 1)
    assert list(shared.iterdir()) == []
    assert contents(desk) == before
