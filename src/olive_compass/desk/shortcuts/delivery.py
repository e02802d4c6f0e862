"""What was delivered into an application's shortcuts file, as ``.history/delivered`` keeps it."""

import json
from collections.abc import Iterable, Mapping
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.apps.app import App
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run
from olive_compass.core.sharing.delivering import ByMode, Delta, Deltas
from olive_compass.desk.desk import Desk
from olive_compass.desk.importing.source import decoded
from olive_compass.desk.storage.records import digest
from olive_compass.desk.texts.json_text import loads

FORMAT = "olive-compass-delivered/1"


class Delivered(Struct, frozen=True, kw_only=True):
    """The last delivery: the file, its digest at the time, the date, the keys in it, and what of them
    was decided here."""

    file: str
    digest: str
    when: str
    keys: ByMode
    deltas: Deltas = MappingProxyType({})


#: Where deliveries are kept, by application.
DELIVERED = ".history/delivered/"


def state_path(app: str) -> str:
    return f"{DELIVERED}{app}.json"


def write_state(file: str, data: bytes, when: str, keys: ByMode, deltas: Deltas) -> bytes:
    """The record of a delivery."""
    value = {
        "format": FORMAT,
        "file": file,
        "digest": digest(data),
        "when": when,
        "keys": {
            command: {mode: list(map(str, runs)) for mode, runs in by_mode.items()}
            for command, by_mode in keys.items()
        },
        "decided": {
            command: {
                mode: {"added": _texts(each.added), "removed": _texts(each.removed)}
                for mode, each in by_mode.items()
            }
            for command, by_mode in deltas.items()
        },
    }
    return (json.dumps(value, ensure_ascii=False, indent=1) + "\n").encode()


def read_state(data: bytes) -> Delivered | None:
    """The record in a file; None where it cannot be read, which is as if nothing was delivered."""
    try:
        value = loads(data.decode())
        if value["format"] != FORMAT:
            return None
        keys = {
            str(command): {str(mode): _runs(texts) for mode, texts in by_mode.items()}
            for command, by_mode in value["keys"].items()
        }
        deltas = {
            str(command): {
                str(mode): Delta(_runs(each["added"]), _runs(each["removed"]))
                for mode, each in by_mode.items()
            }
            for command, by_mode in value.get("decided", {}).items()
        }
        return Delivered(
            file=str(value["file"]),
            digest=str(value["digest"]),
            when=str(value["when"]),
            keys=keys,
            deltas=deltas,
        )
    # A damaged record costs a question too many at the next delivery, and nothing else.
    except (ValueError, KeyError, TypeError, AttributeError, TriggerError):
        return None


def _texts(runs: Iterable[Run]) -> list[str]:
    return list(map(str, runs))


def _runs(texts: Iterable[object]) -> tuple[Run, ...]:
    return tuple(read_trigger(str(text)) for text in texts)


class Text(Struct, frozen=True, kw_only=True):
    """A file's text with one sign at the ends of its lines, and what it takes to write it again."""

    text: str
    encoding: str
    newline: str
    mark: bytes

    def encode(self, text: str) -> bytes:
        """``text`` as bytes of the same kind. Raises ``UnicodeEncodeError``."""
        return self.mark + text.replace("\n", self.newline).encode(self.encoding, "surrogateescape")


_MARKS: Mapping[bytes, str] = {
    b"\xef\xbb\xbf": "utf-8",
    b"\xff\xfe": "utf-16-le",
    b"\xfe\xff": "utf-16-be",
}


def opened(data: bytes) -> Text:
    """The text of a file. Where its lines end in two ways, they are left as they are."""
    mark, encoding = next(((m, e) for m, e in _MARKS.items() if data.startswith(m)), (b"", ""))
    if not encoding:
        try:
            data.decode()
            encoding = "utf-8"
        except UnicodeDecodeError:
            encoding = "utf-16-le"
            if decoded(data)[1] == "Windows-1252":
                encoding = "cp1252"
    # Bytes that are no text in this encoding come back as they were: the file is not ours.
    text = data[len(mark) :].decode(encoding, "surrogateescape")
    # Where both ends of line stand in one file, either answer would change lines that nobody touched.
    whole = text.count("\r\n")
    if whole and whole == text.count("\n"):
        return Text(text=text.replace("\r\n", "\n"), encoding=encoding, newline="\r\n", mark=mark)
    return Text(text=text, encoding=encoding, newline="\n", mark=mark)


def last_delivery(desk: Desk, app: App, path: str) -> Delivered | None:
    """The last delivery into this file, None: there was none."""
    state = state_path(app.name)
    if not desk.has(state):
        return None
    last = read_state(desk.bytes(state))
    if last is None or last.file != path:
        return None
    return last
