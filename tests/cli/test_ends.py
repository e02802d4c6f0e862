"""However a process ends: its output closed, a signal, its helpers stopped; nothing stays behind."""

import os
import shutil
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal import parallel
from tests.conftest import PROGRAM, ask_in, contents, environ_of

termios = pytest.importorskip("termios")
pty = pytest.importorskip("pty")


def closed_after(desk: Path, count: int, *words: str) -> int:
    """Runs the program and closes what it prints to after so many bytes."""
    running = subprocess.Popen(
        [*PROGRAM, *words],
        cwd=desk,
        env=environ_of(),
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
    )
    assert running.stdout is not None
    if count:
        running.stdout.read(count)
    running.stdout.close()
    _, err = running.communicate(timeout=240)
    assert err == b"", err
    return running.returncode


@pytest.mark.parametrize(
    "words",
    [
        pytest.param("app add Large --from large.csv --yes", marks=pytest.mark.long),
        pytest.param("upgrade quillmap --from large.csv --yes", marks=pytest.mark.long),
        "deliver reliefkiln --to kiln/keys.kiln --file-format kiln --yes",
        "assign quillmap Cairn Alt+F10 --explain",
    ],
)
def test_a_change_is_made_whoever_reads_what_is_said_of_it(
    words: str, desk: Path, tmp_path: Path
) -> None:
    rows = "".join(f"Command {n},Menu {n % 9} > Part,,\n" for n in range(600))
    (desk / "large.csv").write_text(f"Title,Menu,Keys,Text\n{rows}")
    twin = tmp_path / "twin" / desk.name
    shutil.copytree(desk, twin)
    whole = ask_in(twin, *words.split())
    assert whole.status == 0, whole.err
    for count in (0, 500):
        copy = Path(shutil.copytree(desk, tmp_path / str(count) / desk.name))
        assert closed_after(copy, count, *words.split()) == 0
        assert contents(copy) == contents(twin)


def children(of: int) -> set[int]:
    found = set()
    for entry in Path("/proc").glob("[0-9]*/stat"):
        try:
            number, _, rest = entry.read_text().partition(" (")
            if rest.rpartition(")")[2].split()[1] == str(of):
                found.add(int(number))
        except OSError:
            continue
    return found


def alive(number: int) -> bool:
    try:
        return Path(f"/proc/{number}/stat").read_text().rpartition(")")[2].split()[0] != "Z"
    except OSError:
        return False


@pytest.fixture
def large(desk: Path) -> Path:
    """A desk whose schemes are so long that several processes look at it."""
    (desk / "purposes.csv").unlink()
    scheme = desk / "schemes/quillmap/mine.toml"
    scheme.write_text(scheme.read_text() + f"# {'A thought. ' * 40}\n" * 5_000)
    return desk


@pytest.mark.skipif(sys.platform != "linux", reason="looks at /proc")
@pytest.mark.skipif((os.cpu_count() or 1) < 2, reason="there is but one core")
@pytest.mark.parametrize("how", [signal.SIGTERM, signal.SIGKILL])
def test_processes_end_with_the_one_that_started_them(how: int, large: Path) -> None:
    running = subprocess.Popen(
        [*PROGRAM, "check", "--json"],
        cwd=large,
        env=environ_of(OLIVE_COMPASS_CACHE=""),
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
    )
    deadline = time.monotonic() + 30
    while not (workers := children(running.pid)) and time.monotonic() < deadline:
        time.sleep(0.01)
    assert workers, "it uses several processes"
    running.send_signal(how)
    # Whoever holds the stream would keep this from ending.
    running.communicate(timeout=10)
    deadline = time.monotonic() + 10
    while any(map(alive, workers)) and time.monotonic() < deadline:
        time.sleep(0.02)
    assert not [worker for worker in workers if alive(worker)]


def stop_at_once(name: str) -> str:
    os.kill(os.getpid(), signal.SIGSTOP)
    return name


def test_a_helper_that_is_stopped_is_not_waited_for(capsys: pytest.CaptureFixture[str]) -> None:
    context = Surroundings(interactive=False)
    assert parallel.each_of(context, "Working", stop_at_once, ["a", "b"], 2, patience=0.5) is None
    assert "goes on without them" in capsys.readouterr().err


@pytest.mark.parametrize(
    "how", [signal.SIGTERM, pytest.param(signal.SIGINT, marks=pytest.mark.long)]
)
@pytest.mark.parametrize(
    ("words", "ready"),
    [
        (["press", "quillmap", "--live"], "Press a key"),
        (["assign", "quillmap", "Cairn", "?"], "Press the key"),
        (["try", "quillmap"], "Quillmap"),
    ],
)
def test_the_terminal_is_as_it_was_whatever_ends_a_press(
    words: list[str], ready: str, how: signal.Signals, desk: Path
) -> None:
    import select

    process, handle = pty.fork()
    if process == 0:
        os.chdir(desk)
        os.environ.update({"TERM": "xterm"})
        os.execv(sys.executable, [sys.executable, "-m", "olive_compass", *words])
    shown = b""
    raw = sent = restored = False
    deadline = time.monotonic() + 20
    while time.monotonic() < deadline:
        if select.select([handle], [], [], 0.05)[0]:
            try:
                shown += os.read(handle, 65536)
            except OSError:
                break
        echoes = bool(termios.tcgetattr(handle)[3] & termios.ECHO)
        if ready.encode() in shown and not echoes and not sent:
            # It waits for a key by now.
            time.sleep(0.3)
            os.kill(process, how)
            raw = sent = True
        restored = restored or (sent and echoes)
    assert raw
    _, status = os.waitpid(process, 0)
    os.close(handle)
    assert os.waitstatus_to_exitcode(status) == (130 if how == signal.SIGINT else 143)
    assert b"nothing was changed" in shown
    assert restored


def test_ctrl_c_after_a_change_says_that_it_was_saved(
    desk: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    from olive_compass.desk.storage.history import History
    from tests.conftest import ask_in

    number = History._number

    def interrupted(self: History, folder: object, given: int) -> None:
        number(self, folder, given)  # type: ignore[arg-type]
        raise KeyboardInterrupt

    monkeypatch.setattr(History, "_number", interrupted)
    stopped = ask_in(desk, "assign", "quillmap", "Cairn", "Alt+F10")
    newest = max(int(path.stem) for path in (desk / ".history").glob("0*.json"))
    assert (stopped.status, f"change {newest} was saved" in stopped.err) == (130, True)
    assert "starts Cairn" in ask_in(desk, "press", "quillmap", "Alt+F10").out

    def at_once(self: History, *_: object) -> None:
        raise KeyboardInterrupt

    monkeypatch.setattr(History, "_write_pending", at_once)
    stopped = ask_in(desk, "assign", "quillmap", "Ford", "Alt+F9")
    assert (stopped.status, "nothing was changed" in stopped.err) == (130, True)
