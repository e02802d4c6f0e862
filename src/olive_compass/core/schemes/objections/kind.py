"""A kind of objection, and the request that it examines."""

from collections.abc import Callable, Iterable
from functools import cached_property
from typing import TYPE_CHECKING, Any, Final, Generic, Literal, TypeVar

from msgspec import Struct

from olive_compass.core.apps.app import Command
from olive_compass.core.effort.reach import Effort, run_effort
from olive_compass.core.keys.presses import Press
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.consequences import Holder, holders
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.view import View

if TYPE_CHECKING:
    from typing import Protocol

    from olive_compass.core.schemes.claims import Claim

    class Telling(Protocol):
        """What a sentence is written with: the view, what was judged, and how a front end names where a decision
        stands and where it comes from."""

        @property
        def view(self) -> View: ...
        @property
        def command(self) -> Command: ...
        @property
        def trigger(self) -> Run: ...
        def where(self, claim: Claim) -> str: ...
        def source(self, claim: Claim) -> str: ...
        def strong(self, text: str) -> str: ...


#: How much an objection weighs: it cannot be; a person must say yes; it is only said.
Weight = Literal["refused", "asked", "said"]
REFUSED: Final = "refused"
ASKED: Final = "asked"
SAID: Final = "said"

#: What a person can say yes to: each is asked at a terminal, and named by ``--despite`` in a script; and, beside
#: these, who gets a key that is taken.
Asks = Literal["guard", "keyless", "typing", "keyboard", "taken"]
GUARD: Final = "guard"
KEYLESS: Final = "keyless"
TYPING: Final = "typing"
KEYBOARD: Final = "keyboard"
TAKEN: Final = "taken"

#: What stands in the way: the command, so that no other trigger is better; the trigger, whatever the command; or
#: that just these two come together.
Concerns = Literal["command", "trigger", "both"]
OF_COMMAND: Final = "command"
OF_TRIGGER: Final = "trigger"
OF_BOTH: Final = "both"

#: What an objection is based on: a claim, a mode, a stroke, a text.
E = TypeVar("E")


class Request:
    """A trigger for a command in modes, held against what there is; ``scheme``: the one it would stand in."""

    def __init__(
        self,
        view: View,
        command: Command,
        trigger: Run,
        modes: tuple[str, ...],
        scheme: Scheme | None = None,
    ) -> None:
        self.view = view
        self.command = command
        self.trigger = trigger
        self.modes = modes
        self.scheme = scheme
        #: The modes, and those inside them.
        self.inside = view.app.modes.inside(modes)

    @cached_property
    def press(self) -> Press:
        return self.view.keymap.keyboard.press_of(self.trigger)

    @cached_property
    def effort(self) -> Effort | None:
        return run_effort(self.view.keymap.keyboard, self.trigger, self.view.weights)

    @cached_property
    def held(self) -> list[Holder]:
        """Who decides the press now. Those of the modes inside as well: a nearer mode may have it for itself."""
        return holders(self.view.keymap, self.trigger, self.modes, self.command.id)


def _nothing(_: Any) -> tuple[Any, ...]:
    return ()


class Kind(Struct, Generic[E], frozen=True, kw_only=True):
    """A kind of objection: how grave it is among all (``order``, the gravest first), and how it is found.

    ``find`` gives what it is based on, nothing where there is no objection; ``effects`` what only the edit itself
    shows. Those of a kind that is ``early`` do not depend on who else wants the press. ``asks`` is the question
    that one weighing ``ASKED`` puts.
    """

    id: str
    weight: Weight
    order: int
    says: "Callable[[Telling, tuple[E, ...]], str]"
    find: Callable[[Request], tuple[E, ...]] = _nothing
    effects: "Callable[[Edited], tuple[E, ...]] | None" = None
    early: bool = False
    of: Concerns = OF_BOTH
    asks: Asks | Literal[""] = ""
    #: Whether the application itself does not let the command have the trigger, whatever anybody decides.
    rules_out: bool = False


class Objection(Struct, frozen=True):
    """Something that stands against a trigger, and what that is based on."""

    kind: Kind[Any]
    evidence: tuple[Any, ...]

    @property
    def id(self) -> str:
        return self.kind.id


def evidence_of(objections: Iterable[Objection], kind: Kind[E]) -> tuple[E, ...]:
    """What the objection of that kind is based on, nothing where there is none."""
    return next((each.evidence for each in objections if each.kind is kind), ())


class Edited(Struct, frozen=True):
    """A request with the keys as they would be once it is carried out, and what was found before that."""

    request: Request
    objections: tuple[Objection, ...]
    after: Keymap

    def before(self, kind: Kind[E]) -> tuple[E, ...]:
        """What an objection was based on before the edit, nothing where there was none."""
        return evidence_of(self.objections, kind)
