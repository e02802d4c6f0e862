"""Gives work out to several processes of this machine, where it is long."""

import contextlib
import os
from collections.abc import Callable, Iterator, Sequence
from signal import SIG_IGN, SIGINT, signal
from typing import TYPE_CHECKING, Any

from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.progress import along

if TYPE_CHECKING:
    from concurrent.futures import Future, ProcessPoolExecutor
    from typing import TypeVar

    T = TypeVar("T")
    S = TypeVar("S")

#: Into how many shares the work of one process is cut, so that none waits long for the others.
SHARES = 4

#: For how many seconds no process may give a result, before the work is done without them.
PATIENCE = 10.0


def parallel(
    context: Surroundings,
    label: str,
    work: "Callable[[list[str]], list[T] | None]",
    items: Sequence[str],
) -> "list[T] | None":
    """What ``work`` gives for shares of the items, in no order that is promised.

    ``work`` is a function of a module, or a part of one, which knows nothing but its arguments. None
    where it gave None for a share, or where there are no processes to be had: then it is to be done here.
    """
    count = processes_for(len(items))
    if count < 2:
        return None
    shares = [list(items[n :: count * SHARES]) for n in range(min(count * SHARES, len(items)))]
    found = each_of(context, label, work, shares, count)
    if found is None or None in found:
        return None
    return [each for result in found for each in result or ()]


def each_of(
    context: Surroundings,
    label: str,
    work: "Callable[[S], T]",
    items: "Sequence[S]",
    count: int,
    patience: float = PATIENCE,
) -> "list[T] | None":
    """What ``work`` gives for each item, in their order, by so many processes; None: they cannot do it,
    or none of them has ended anything for ``patience`` seconds."""
    from concurrent.futures import ProcessPoolExecutor
    from concurrent.futures.process import BrokenProcessPool

    try:
        with _ended_with_us(ProcessPoolExecutor(count, initializer=_serve)) as pool:
            futures = [pool.submit(work, item) for item in items]
            ended = _as_they_end(futures, patience)
            for _ in zip(along(context, label, futures), ended, strict=True):
                pass
            return [future.result() for future in futures]
    except TimeoutError:
        context.warn(
            f"olive-compass: Other processes of this program have not answered for {patience:.0f} s; it goes "
            "on without them."
        )
        return None
    except (BrokenProcessPool, OSError):
        # A system that allows no further processes, or has no room for them.
        return None


def _as_they_end(futures: "Sequence[Future[T]]", patience: float) -> "Iterator[Future[T]]":
    """The futures as they are done; raises ``TimeoutError`` where none is for ``patience`` seconds."""
    from concurrent.futures import FIRST_COMPLETED, wait

    left = set(futures)
    while left:
        done, left = wait(left, timeout=patience, return_when=FIRST_COMPLETED)
        if not done:
            raise TimeoutError
        yield from done


def processes_for(items: int) -> int:
    """How many processes are of use for so many items."""
    usable = getattr(os, "sched_getaffinity", None)
    return min(len(usable(0)) if usable else os.cpu_count() or 1, items)


@contextlib.contextmanager
def _ended_with_us(pool: "ProcessPoolExecutor") -> "Iterator[ProcessPoolExecutor]":
    """Ends the processes at the end: at once where nobody waits for what they are at."""
    from multiprocessing import active_children

    try:
        yield pool
    except BaseException:
        for process in active_children():
            # One that was stopped hears of nothing less.
            process.kill()
        raise
    finally:
        # It is waited for: a pool that is left to the end of the interpreter may find its own pipes closed.
        pool.shutdown(cancel_futures=True)


def _serve() -> None:
    """What each process does first.

    Ctrl-C reaches all processes of a terminal: only the one that gave out the work is to tell of it. And
    where that one ends in whatever way, nobody is left to take the results: they end as well.
    """
    from threading import Thread

    signal(SIGINT, SIG_IGN)
    Thread(target=_end_with_the_first, daemon=True).start()


def _end_with_the_first() -> None:
    from multiprocessing import connection, parent_process

    parent: Any = parent_process()
    connection.wait([parent.sentinel])
    os._exit(1)
