"""The events of a play: a question, a step that was done, the stop; and the record of the whole play."""

from collections.abc import Mapping

from msgspec import Struct

from olive_compass.core.macros.document import Document
from olive_compass.core.macros.inputs import Input


class Question(Struct, frozen=True, kw_only=True):
    """Something that a play asks. ``path`` is the step, ``2.1`` in a macro that step 2 plays."""

    path: str
    command: str
    input: Input
    text: str
    default: str = ""


class Done(Struct, frozen=True, kw_only=True):
    """A step that was carried out: its inputs, what came of it, the document after it."""

    path: str
    command: str
    inputs: Mapping[str, str]
    outcome: str
    says: str
    made: tuple[str, ...] = ()
    mode: str = ""
    depth: int = 0
    document: Document = Document()


class Stop(Struct, frozen=True, kw_only=True):
    """Where a play stopped and why: ``what`` is ``failed`` or ``waits``."""

    path: str
    command: str
    what: str
    says: str


class Played(Struct, frozen=True):
    """A play: what was done, the document after it, and where it stopped (None: at its end)."""

    document: Document
    done: tuple[Done, ...]
    stopped: Stop | None = None
