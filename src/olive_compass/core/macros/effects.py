"""The effect of a command on a document, and the ways it can end."""

from collections.abc import Mapping
from typing import Final, Literal

from msgspec import Struct

from olive_compass.core.apps.app import App, Command
from olive_compass.core.macros.acts import Act
from olive_compass.core.macros.document import Document
from olive_compass.core.macros.inputs import declared

#: How a command can end.
Ending = Literal["done", "failed", "cancelled", "started"]
DONE: Final = "done"
FAILED: Final = "failed"
CANCELLED: Final = "cancelled"
STARTED: Final = "started"


class Effect(Struct, frozen=True, kw_only=True):
    """What came of a command: the document after it, how it ended, a sentence, what it made."""

    document: Document
    outcome: Ending
    says: str
    made: tuple[str, ...] = ()


class Task(Struct, frozen=True, kw_only=True):
    """A command that is done on a document: what it does (``act``), with which inputs."""

    app: App
    command: Command
    values: Mapping[str, str]
    document: Document
    act: Act

    def value(self, kind: str) -> str:
        """The value of the first input of a kind, ``""`` where there is none."""
        names = [each.name for each in declared(self.command) if each.kind == kind]
        return next((self.values[name] for name in names if name in self.values), "")

    @property
    def others(self) -> dict[str, str]:
        """The values that say what a thing is like: not where it is, nor which are meant."""
        kinds = {each.name: each.kind for each in declared(self.command)}
        return {
            name: value
            for name, value in self.values.items()
            if kinds.get(name, "text") not in ("point", "selection")
        }
