"""Keeps what TOML files say in the user's own cache folder, so that no parser need be loaded.

An entry is the very bytes of a file and what was read from them: it counts only where the bytes are
the same, so it cannot go stale. It is plain text in a form of its own (a letter for the kind, a
length, the value) that holds nothing but texts, numbers, lists and tables: reading it can run no
code. It is never inside a desk, and where it is missing, damaged or read-only the files are parsed.
"""

from collections.abc import Mapping

from olive_compass.annotations import Any
from olive_compass.desk.cache import put

FORMAT = b"olive-compass-parsed/1\n"

#: The most bytes of files that are kept for one desk: what is more is parsed each time.
MOST_KEPT = 2_000_000


class Parsed:
    """What was read from files of one desk: by their bytes."""

    def __init__(self, path: str) -> None:
        self.path = path
        self._known = _entries(path)
        self._used: dict[bytes, bytes] = {}
        self._new = False

    def find(self, data: bytes) -> dict[str, Any] | None:
        """What was read from a file with these bytes before, None: nothing that can be told."""
        kept = self._known.get(data)
        if kept is None:
            return None
        try:
            value, end = _decoded(kept, 0)
        except (ValueError, IndexError, RecursionError):
            return None
        if end != len(kept) or not isinstance(value, dict):
            return None
        self._used[data] = kept
        return value

    def add(self, data: bytes, content: Mapping[str, Any]) -> None:
        """Notes what was read from a file, where it can be kept."""
        try:
            self._used[data] = b"".join(_encoded(content))
        except (TypeError, RecursionError):
            return
        self._new = True

    def keep(self) -> None:
        """Writes what was used, where something is new; nothing happens where that cannot be."""
        if not self._new or not self.path:
            return
        parts = [FORMAT]
        size = 0
        # What this run did not use may be of use to the next: it stays as long as there is room.
        for data, kept in {
            **self._used,
            **{k: v for k, v in self._known.items() if k not in self._used},
        }.items():
            size += len(data) + len(kept)
            if size > MOST_KEPT:
                break
            parts += [b"%d %d\n" % (len(data), len(kept)), data, kept]
        put(self.path, b"".join(parts))


def _entries(path: str) -> dict[bytes, bytes]:
    """The entries of a cache file, none where it is missing or damaged."""
    if not path:
        return {}
    try:
        with open(path, "rb") as file:
            # Whatever lies there in its place is not read to its end.
            whole = file.read(2 * MOST_KEPT + 1)
    except (OSError, ValueError):
        return {}
    if not whole.startswith(FORMAT):
        return {}
    found: dict[bytes, bytes] = {}
    at = len(FORMAT)
    while at < len(whole):
        end = whole.find(b"\n", at)
        sizes = whole[at:end].split(b" ") if end > 0 else []
        if len(sizes) != 2 or not (sizes[0].isdigit() and sizes[1].isdigit()):
            return {}
        middle = end + 1 + int(sizes[0])
        at = middle + int(sizes[1])
        # Cut short while it was written: none of it is trusted.
        if at > len(whole):
            return {}
        found[whole[end + 1 : middle]] = whole[middle:at]
    return found


def _encoded(value: Any) -> list[bytes]:
    """A value as pieces: ``s5:hello``, ``i2:42``, ``b1:1``, ``f3:1.5``, ``l2:`` and its items, ``d1:``
    and its keys and values. Raises ``TypeError`` where it is anything else."""
    if isinstance(value, str):
        data = value.encode()
        return [b"s%d:" % len(data), data]
    if isinstance(value, bool):
        return [b"b1:1" if value else b"b1:0"]
    if isinstance(value, (int, float)):
        data = repr(value).encode()
        return [b"%s%d:" % (b"i" if isinstance(value, int) else b"f", len(data)), data]
    if isinstance(value, list):
        return [b"l%d:" % len(value), *(piece for item in value for piece in _encoded(item))]
    if isinstance(value, dict):
        pieces = [b"d%d:" % len(value)]
        for key, item in value.items():
            pieces += [*_encoded(key), *_encoded(item)]
        return pieces
    raise TypeError(type(value).__name__)


def _decoded(data: bytes, at: int) -> tuple[Any, int]:
    """The value that begins there, and where it ends. Raises ``ValueError`` where it is none."""
    end = data.index(b":", at)
    kind, size = data[at : at + 1], int(data[at + 1 : end])
    at = end + 1
    if kind in b"ld" and kind:
        # A damaged count must not make a list longer than the file could hold.
        if size > len(data):
            raise ValueError(size)
        if kind == b"l":
            items = []
            for _ in range(size):
                item, at = _decoded(data, at)
                items.append(item)
            return items, at
        table: dict[str, Any] = {}
        for _ in range(size):
            key, at = _decoded(data, at)
            table[str(key)], at = _decoded(data, at)
        return table, at
    text = data[at : at + size]
    if len(text) != size:
        raise ValueError(size)
    at += size
    if kind == b"s":
        return text.decode(), at
    if kind == b"b":
        return text == b"1", at
    if kind == b"i":
        return int(text), at
    if kind == b"f":
        return float(text), at
    raise ValueError(kind)
