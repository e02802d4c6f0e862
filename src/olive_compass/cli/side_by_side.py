"""Gives work out to several processes of this machine, where it is long."""

import os
from collections.abc import Callable, Sequence
from signal import SIG_IGN, SIGINT, signal
from typing import TYPE_CHECKING

from olive_compass.cli.progress import along
from olive_compass.cli.surroundings import Surroundings

if TYPE_CHECKING:
    from typing import TypeVar

    T = TypeVar("T")

#: Into how many shares the work of one process is cut, so that none waits long for the others.
SHARES = 4


def side_by_side(
    around: Surroundings,
    label: str,
    work: "Callable[[list[str]], list[T] | None]",
    items: Sequence[str],
) -> "list[T] | None":
    """What ``work`` gives for shares of the items, in no order that is promised.

    ``work`` is a function of a module, or a part of one, which knows nothing but its arguments. None
    where it gave None for a share, or where there are no processes to be had: then it is to be done here.
    """
    from concurrent.futures import ProcessPoolExecutor
    from concurrent.futures.process import BrokenProcessPool
    from multiprocessing import active_children

    usable = getattr(os, "sched_getaffinity", None)
    cores = min(len(usable(0)) if usable else os.cpu_count() or 1, len(items))
    if cores < 2:
        return None
    shares = [list(items[n :: cores * SHARES]) for n in range(min(cores * SHARES, len(items)))]
    try:
        pool = ProcessPoolExecutor(cores, initializer=_leave_stopping_to_the_first)
        try:
            results = pool.map(work, shares)
            found = [
                result for _, result in zip(along(around, label, shares), results, strict=True)
            ]
        except KeyboardInterrupt:
            # Nobody waits for the rest.
            for process in active_children():
                process.terminate()
            raise
        finally:
            pool.shutdown(wait=False, cancel_futures=True)
    except (BrokenProcessPool, OSError):
        # A system that allows no further processes, or has no room for them.
        return None
    return None if None in found else [each for result in found for each in result or ()]


def _leave_stopping_to_the_first() -> None:
    """Ctrl-C reaches all processes of a terminal: only the one that gave out the work is to tell of it."""
    signal(SIGINT, SIG_IGN)
