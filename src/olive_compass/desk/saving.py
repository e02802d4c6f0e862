"""Writes files so that a killed process, or two at once, never leave half of anything.

A change of the desk is a handful of files. Its record (``history.py``) is written first,
then each file in turn through a temporary file and a rename, then the record takes its
number. A record without a number is a change that was interrupted: the next writer
finishes it or takes it back.
"""

import contextlib
import os
import stat
import sys
import time
from collections.abc import Callable, Iterator

from olive_compass.errors import Refused

#: How long a writer waits for another, in seconds.
PATIENCE = 30.0

#: The locks that this process holds: who has the turn may save without waiting for itself.
_held: set[str] = set()


def write_atomically(path: str, data: bytes, still_good: Callable[[], None] = lambda: None) -> None:
    """Puts ``data`` into the file at ``path``: all of it, or nothing changes.

    The file keeps its mode. ``still_good`` is asked at the last moment, and raises where the file
    is to stay as it is.
    """
    folder = os.path.dirname(path)
    os.makedirs(folder, exist_ok=True)
    beside = os.path.join(folder, f".{os.path.basename(path)}.{os.getpid()}.tmp")
    try:
        with open(beside, "wb") as file:
            file.write(data)
            file.flush()
            _sync(file.fileno())
        with contextlib.suppress(OSError):
            os.chmod(beside, stat.S_IMODE(os.stat(path).st_mode))
        still_good()
        os.replace(beside, path)
    except BaseException:
        with contextlib.suppress(OSError):
            os.unlink(beside)
        raise


def _sync(handle: int) -> None:
    """Lets the system write what it has of a file: to the disk, and not only to the disk's own memory."""
    os.fsync(handle)
    if sys.platform == "darwin":
        import fcntl

        # There, fsync leaves it in the memory of the disk. Not every file system knows the call.
        with contextlib.suppress(OSError, AttributeError):
            fcntl.fcntl(handle, fcntl.F_FULLFSYNC)


def written_place(root: str, path: str) -> str:
    """Where a file of the desk in ``root`` is really written: a link stays one, its target changes.

    Raises ``Refused`` where a link leads out of the desk, and for a file outside that this seat does
    not let it write.
    """
    if os.path.isabs(path):
        return _outside(root, path)
    whole = os.path.join(root, path)
    real = os.path.realpath(whole)
    inside = os.path.realpath(root)
    if real != os.path.join(inside, path) and not real.startswith(inside + os.sep):
        raise Refused(
            f"A link leads out of the desk, to {real}; it is read, but not written. "
            "Nothing was changed.",
            file=path,
            hint="Put a file in its place.",
        )
    return real


def _outside(root: str, path: str) -> str:
    """A file outside the desk, where this seat lets the desk write it."""
    # Loaded here: most changes stay on the desk.
    from olive_compass.desk.places import allowed

    if os.path.realpath(path) not in allowed(root):
        raise Refused(
            "This file lies outside the desk, and this seat has not let the desk write it; nothing "
            "was changed.",
            file=path,
            hint="Deliver into it once yourself: olive-compass deliver APP --to FILE.",
        )
    return os.path.realpath(path)


def remove_leftovers(path: str) -> None:
    """Removes the temporary files that killed writers of ``path`` left beside it."""
    folder, name = os.path.split(path)
    with contextlib.suppress(FileNotFoundError):
        for other in os.listdir(folder):
            if other.startswith(f".{name}.") and other.endswith(".tmp"):
                os.unlink(os.path.join(folder, other))


@contextlib.contextmanager
def locked(path: str, patience: float = PATIENCE) -> Iterator[None]:
    """Holds the lock file at ``path``; raises ``Refused`` where another keeps it too long (s)."""
    if path in _held:
        yield
        return
    os.makedirs(os.path.dirname(path), exist_ok=True)
    handle = os.open(path, os.O_RDWR | os.O_CREAT, 0o644)
    try:
        if not _try_lock(handle) and not (patience and _wait_for(handle, patience)):
            raise Refused(
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
