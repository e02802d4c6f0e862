"""Whole logs on a cluster: the installed program against a real scheduler and real workers."""

import contextlib
import json
import os
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from functools import partial
from importlib.util import find_spec
from pathlib import Path

import pytest

from olive_compass.cli.usage.cluster import _workers_at
from olive_compass.errors import UserError
from tests.conftest import PROGRAM, Ask, ask_process, environ_of

pytestmark = pytest.mark.skipif(not find_spec("distributed"), reason="there is no scheduler here")

#: How a scheduler and its workers are started.
SCHEDULER = ("distributed.cli.dask_scheduler", "--no-dashboard", "--host", "127.0.0.1", "--port")
WORKER = ("distributed.cli.dask_worker", "--no-dashboard", "--no-nanny", "--nthreads", "1")


@contextlib.contextmanager
def started(*words: str) -> Iterator[subprocess.Popen[bytes]]:
    quiet = subprocess.DEVNULL
    with subprocess.Popen([sys.executable, "-m", *words], stdout=quiet, stderr=quiet) as process:
        try:
            yield process
        finally:
            process.kill()


@contextlib.contextmanager
def cluster(workers: int) -> Iterator[tuple[str, list[subprocess.Popen[bytes]]]]:
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    address = f"tcp://127.0.0.1:{port}"
    with contextlib.ExitStack() as stack:
        stack.enter_context(started(*SCHEDULER, str(port)))
        processes = [stack.enter_context(started(*WORKER, address)) for _ in range(workers)]
        deadline = time.monotonic() + 90
        while time.monotonic() < deadline:
            with contextlib.suppress(UserError):
                if _workers_at(address, 1) == workers:
                    break
            time.sleep(0.2)
        yield address, processes


def many(folder: Path, desk: Path, copies: int) -> Path:
    """A folder of large logs, each of another session."""
    folder.mkdir()
    (own,) = (desk / "logs").glob("quillmap-2026-10-12.jsonl")
    head, *events = own.read_text().splitlines(keepends=True)
    for n in range(copies):
        changed = json.loads(events[0]) | {"mode": f"m{n}"}
        first = json.dumps(changed) + "\n"
        (folder / f"{n:02}.jsonl").write_text(head + first + "".join(events * 100))
    return folder


@pytest.mark.long
def test_a_cluster_counts_what_one_machine_counts_though_a_worker_dies(
    ask: Ask, desk: Path, tmp_path: Path
) -> None:
    folder = many(tmp_path / "house", desk, 12)
    take = ("usage", "take", str(folder), "--seat", "house")
    with cluster(2) as (address, workers):
        # Stopped, it has logs in hand for as long as it lives.
        workers[0].send_signal(signal.SIGSTOP)
        running = subprocess.Popen(
            [*PROGRAM, *take, "--cluster", address, "--json"],
            cwd=desk,
            env=environ_of(),
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            text=True,
        )
        time.sleep(3)
        assert running.poll() is None, "all was counted before the worker died"
        workers[0].kill()
        out, err = running.communicate(timeout=240)
    assert (running.returncode, err) == (0, "")
    there = json.loads(out)
    tallies = {path.name: path.read_bytes() for path in (desk / "tallies").iterdir()}
    assert ask("undo").status == 0
    for how in ((), ("--cluster", "here")):
        here = ask(*take, "--json", *how).json
        assert here["logs"] == there["logs"]
        assert here["what"] == there["what"]
        assert {p.name: p.read_bytes() for p in (desk / "tallies").iterdir()} == tallies
        assert ask("undo").status == 0


def refused(desk: Path, address: str) -> str:
    begun = time.monotonic()
    answer = ask_process(
        desk, "usage", "take", "logs", "--cluster", address, "--cluster-timeout", "2"
    )
    assert time.monotonic() - begun < 20
    assert (answer.status, answer.err.count("\n")) == (2, 1), answer.err
    return answer.err


@pytest.mark.long
def test_a_cluster_that_is_none_is_named_soon(desk: Path) -> None:
    with socket.socket() as silent, socket.socket() as free:
        for each in (silent, free):
            each.bind(("127.0.0.1", 0))
        silent.listen()
        port = free.getsockname()[1]
        free.close()
        with (
            started("http.server", str(port), "--bind", "127.0.0.1"),
            cluster(0) as (idle, _),
            ThreadPoolExecutor() as together,
        ):
            deadline = time.monotonic() + 10
            while time.monotonic() < deadline:
                with contextlib.suppress(OSError), socket.create_connection(("127.0.0.1", port), 1):
                    break
                time.sleep(0.1)
            # Each is waited for 2 s.
            wrong = (
                f"tcp://127.0.0.1:{silent.getsockname()[1]}",
                f"tcp://127.0.0.1:{port}",
                "nowhere",
            )
            *others, idle_says = together.map(partial(refused, desk), (*wrong, idle))
    assert all("No cluster answers" in says for says in others), others
    assert "has had no worker" in idle_says


@pytest.mark.long
@pytest.mark.skipif(os.name == "nt", reason="needs signals")
def test_ctrl_c_on_a_cluster_leaves_no_traceback(desk: Path, tmp_path: Path) -> None:
    with cluster(0) as (address, _):
        running = subprocess.Popen(
            [*PROGRAM, "usage", "take", "logs", "--cluster", address],
            cwd=desk,
            env=environ_of(),
            stderr=subprocess.PIPE,
            text=True,
        )
        time.sleep(2)
        running.send_signal(signal.SIGINT)
        _, err = running.communicate(timeout=20)
    assert (running.returncode, err) == (130, "olive-compass: stopped; nothing was changed.\n")


@pytest.mark.skipif(os.name == "nt", reason="needs pipes")
def test_a_pipe_among_the_logs_is_left_out(ask: Ask, desk: Path) -> None:
    for path in (desk / "logs/studio").rglob("*.jsonl"):
        path.unlink()
    os.mkfifo(desk / "logs/pipe.jsonl")
    (desk / "logs/ours.csv").write_bytes((desk / "apps/quillmap/commands.csv").read_bytes())
    for how in ((), ("--cluster", "here")):
        taken = ask("usage", "take", "logs", "-n", *how)
        assert taken.status == 0, taken.err
        assert "of 3 logs" in taken.out
        assert "Left out, for they are no logs: logs/ours.csv and logs/pipe.jsonl" in taken.out
