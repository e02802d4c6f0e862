"""The purposes to which a guess assigns commands, known ones and new ones."""

from collections.abc import Iterable

from msgspec import Struct

from olive_compass.core.apps.app import App
from olive_compass.core.sharing.candidates import Candidate
from olive_compass.core.sharing.proposals import Guess
from olive_compass.core.sharing.purposes import Purpose
from olive_compass.core.sharing.titles import essential, forms


class Found:
    """A purpose, known or found, with who serves it by now: links first, then guesses."""

    def __init__(self, purpose: Purpose | None, served: Iterable[Candidate] = ()) -> None:
        self.purpose = purpose
        self.served = list(served)
        self.guessed: list[Guess] = []
        if purpose and purpose.group:
            self.words = essential(forms(purpose.group))
        else:
            self.words = ()

    def members(self) -> list[Candidate]:
        """Who serves it."""
        return [*self.served, *(each.candidate for each in self.guessed)]

    def has(self, app: App) -> bool:
        """Whether an application has a command for it."""
        return any(each.app is app for each in self.members())

    def names(self) -> dict[str, None]:
        """The titles of the purpose and of the commands that serve it."""
        own = (self.purpose.title, *self.purpose.names) if self.purpose else ()
        return dict.fromkeys((*own, *(each.command.title for each in self.members())))


class FoundName(Struct, frozen=True):
    """A name of a group, with how far a form is from it."""

    far: int
    name: str
    group: Found
