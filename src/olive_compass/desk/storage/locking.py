"""The lock of a desk: one process writes at a time."""

import contextlib
import os
import sys
import time
from collections.abc import Iterator

from olive_compass.desk.storage.folders import HISTORY, Folder
from olive_compass.errors import UserError

#: How long a writer waits for another, in seconds.
PATIENCE = 30.0

#: The desks that this process holds: who has the turn may save without waiting for itself.
_held: set[str] = set()


@contextlib.contextmanager
def locked(root: str, patience: float = PATIENCE) -> Iterator[Folder]:
    """Holds the lock of the desk in ``root``, and gives the folder of its history, opened.

    Raises ``UserError`` where another keeps it too long (s), or where a link lies in its place.
    """
    path = os.path.realpath(root)
    with Folder(path, (HISTORY,), make=True) as folder:
        if path in _held:
            yield folder
            return
        with _lock(path, folder, patience):
            yield folder


@contextlib.contextmanager
def _lock(path: str, folder: Folder, patience: float) -> Iterator[None]:
    handle = folder.lock_file("lock")
    try:
        if not _try_lock(handle) and not (patience and _wait_for(handle, patience)):
            raise UserError(
                f"Another program has been writing to this desk for {patience:.0f} seconds; "
                "nothing was changed.",
                hint="Try again when it has ended.",
            )
        _held.add(path)
        yield
    finally:
        _held.discard(path)
        os.close(handle)


def _wait_for(handle: int, patience: float) -> bool:
    """Waits in the system's own queue, where it has one, so that nobody is passed by for ever."""
    if sys.platform == "win32":
        return _poll(handle, patience)
    import fcntl
    import signal

    def late(*_: object) -> None:
        raise TimeoutError

    try:
        before = signal.signal(signal.SIGALRM, late)
    except ValueError:
        # Only the main thread can be woken so.
        return _poll(handle, patience)
    try:
        signal.setitimer(signal.ITIMER_REAL, patience)
        fcntl.flock(handle, fcntl.LOCK_EX)
    except TimeoutError:
        return False
    finally:
        signal.setitimer(signal.ITIMER_REAL, 0)
        signal.signal(signal.SIGALRM, before)
    return True


def _poll(handle: int, patience: float) -> bool:
    deadline = time.monotonic() + patience
    while time.monotonic() < deadline:
        if _try_lock(handle):
            return True
        time.sleep(0.01)
    return False


def _try_lock(handle: int) -> bool:
    # The system lets go of the lock when the process ends, however it ends. A package for this
    # exists; loading it takes longer than a whole assignment, hence these few lines.
    try:
        if sys.platform == "win32":
            import msvcrt

            msvcrt.locking(handle, msvcrt.LK_NBLCK, 1)
        else:
            import fcntl

            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return False
    return True
