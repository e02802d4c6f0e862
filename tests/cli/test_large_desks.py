"""A large desk is checked by several processes at once, which say what one would."""

import os
import signal
import subprocess
import time
from pathlib import Path

import pytest

from tests.conftest import PROGRAM, ask_in, ask_process, environ_of


@pytest.fixture(params=["with purposes", "without"])
def large(desk: Path, request: pytest.FixtureRequest) -> Path:
    """A desk whose schemes are long, for people wrote much beside the decisions."""
    if request.param == "without":
        (desk / "purposes.csv").unlink()
    scheme = desk / "schemes/quillmap/mine.toml"
    scheme.write_text(scheme.read_text() + f"# {'A thought. ' * 40}\n" * 5_000)
    return desk


@pytest.mark.long
@pytest.mark.skipif((os.cpu_count() or 1) < 2, reason="there is but one core")
def test_several_processes_say_what_one_says(
    large: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    said = {}
    cache = str(tmp_path / "cache")
    for words in ("check --json", "check --keyboard iso-laptop/german --since factory"):
        answer = ask_process(large, *words.split(), OLIVE_COMPASS_CACHE=cache)
        assert answer.status in (0, 1), answer.err
        said[words] = answer
    monkeypatch.setattr("olive_compass.desk.checking.LARGE", 10**9)
    for words, answer in said.items():
        assert vars(ask_in(large, *words.split(), OLIVE_COMPASS_CACHE="")) == vars(answer)
    # What cannot be read is said once, by the first of them.
    (large / "apps/tagwright/app.toml").write_text("x")
    alone = ask_in(large, "check", OLIVE_COMPASS_CACHE="")
    assert alone.status == 2
    assert "apps/tagwright/app.toml" in alone.err
    assert vars(ask_process(large, "check", OLIVE_COMPASS_CACHE=cache)) == vars(alone)


@pytest.mark.parametrize("large", ["with purposes"], indirect=True)
def test_where_no_process_can_be_had_one_does_it(
    large: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    plain = ask_in(large, "check", OLIVE_COMPASS_CACHE="")

    class NoPool:
        def __init__(self, *_: object, **more: object) -> None:
            raise OSError("no room")

    monkeypatch.setattr("concurrent.futures.ProcessPoolExecutor", NoPool)
    assert vars(ask_in(large, "check", OLIVE_COMPASS_CACHE="")) == vars(plain)


@pytest.mark.long
@pytest.mark.skipif(os.name == "nt", reason="there is no such signal")
@pytest.mark.parametrize("large", ["without"], indirect=True)
def test_ctrl_c_ends_all_of_them_with_one_sentence(large: Path) -> None:
    scheme = large / "schemes/quillmap/mine.toml"
    for name in ("foldpress", "reliefkiln", "tagwright"):
        (large / f"schemes/{name}").mkdir(exist_ok=True)
        (large / f"schemes/{name}/long.toml").write_text(
            f'format = "olive-compass-scheme/1"\napp = "{name}"\n' + "# x\n" * 3_000_000
        )
    scheme.write_text(scheme.read_text() + "# A thought.\n" * 2_000_000)
    process = subprocess.Popen(
        [*PROGRAM, "check"],
        cwd=large,
        env=environ_of(OLIVE_COMPASS_CACHE=""),
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        text=True,
        start_new_session=True,
    )
    time.sleep(1.5)
    begun = time.monotonic()
    os.killpg(process.pid, signal.SIGINT)
    _, err = process.communicate(timeout=30)
    assert time.monotonic() - begun < 5
    assert (process.returncode, err) == (130, "olive-compass: stopped; nothing was changed.\n")
