"""What a finding is, and what a module that looks for one can see."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from functools import cached_property
from types import MappingProxyType
from typing import TYPE_CHECKING, NamedTuple

from olive_compass.core.apps.app import App, Command
from olive_compass.core.effort.reach import Weights
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.core.schemes.claims import Claim, Does, Stack
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.layers import FACTORY

if TYPE_CHECKING:
    from olive_compass.core.macros.macro import Macro
    from olive_compass.core.sharing.friends import Across

#: The severities, the worst first.
SEVERITIES = ("error", "warning", "note")


class Place(NamedTuple):
    """Where a decision stands: in a table of a scheme, or (``scheme`` empty) of a layer's own file."""

    scheme: str
    table: str
    key: str


def catalogue_place(command: str) -> Place:
    """Where a command stands in the catalogue."""
    return Place("", FACTORY.table, command)


def step_place(macro: str, number: int = 0) -> Place:
    """Where a macro stands, or a step of it."""
    return Place("", "macro", f"{macro}#{number}" if number else macro)


class Fix(NamedTuple):
    """A safe repair: let a trigger of a command in a scheme count in ``modes`` only."""

    scheme: str
    command: str
    key: str
    modes: tuple[str, ...]


class Finding(NamedTuple):
    """Something that ``check`` reports.

    ``says`` is one sentence on what is wrong; ``advice`` what to do, a command that can be
    pasted where there is one. ``places`` are where it stands, the one to look at first.
    """

    id: str
    severity: str
    app: str
    says: str
    advice: str
    places: tuple[Place, ...] = ()
    commands: tuple[str, ...] = ()
    keys: tuple[str, ...] = ()
    modes: tuple[str, ...] = ()
    fix: Fix | None = None
    accepted: str | None = None

    @property
    def subject(self) -> str:
        """What it is accepted by: its id, and the first command or key that it names."""
        return f"{self.id} {(*self.commands, *self.keys, '')[0]}".strip()

    @property
    def order(self) -> tuple[object, ...]:
        return (self.app, self.keys, self.commands, self.says)


class View:
    """A stack with its keymap, its macros, and the same application with its factory keys alone.

    ``across`` is what presses mean in all applications, where the desk has purposes.
    """

    def __init__(
        self,
        stack: Stack,
        keyboard: Keyboard,
        weights: Weights | None = None,
        macros: "Mapping[str, Macro]" = MappingProxyType({}),
        across: "Across | None" = None,
    ) -> None:
        self.stack = stack
        self.macros = macros
        self.across = across
        self.weights = weights or Weights()
        self.keyboard = keyboard
        self.keymap = Keymap(stack, keyboard)

    @property
    def app(self) -> App:
        return self.stack.app

    @cached_property
    def factory(self) -> Keymap:
        return Keymap(Stack(self.app), self.keyboard)

    @cached_property
    def decisions(self) -> list[Claim]:
        """The claims of schemes, a decision that counts in several modes once."""
        return of_schemes(self.keymap.claims)

    def title(self, command: str) -> str:
        """The title of a command, or its id where the catalogue has none."""
        known: Command | None = self.app.catalogue.by_id.get(command)
        return known.title if known else command

    def meaning(self, does: Does) -> str:
        """What a claim does: a command's title or the wired meaning, ``""`` where it mutes."""
        return does.wired or self.title(does.command)


def place(claim: Claim) -> Place:
    """Where a claim stands."""
    return Place(claim.origin, claim.table, claim.key)


def of_schemes(claims: Iterable[Claim]) -> list[Claim]:
    """The claims that a person can change, a command that has several modes once."""
    seen: dict[tuple[str, str, Run], Claim] = {}
    for claim in claims:
        if claim.origin:
            seen.setdefault((claim.origin, claim.command, claim.trigger), claim)
    return list(seen.values())


def factory_note(view: View, id_: str, says: str, claims: Iterable[Claim]) -> Iterator[Finding]:
    """One note on all the factory keys that share a trait: ``says`` has ``{keys}`` in it."""
    keys = sorted({str(claim.trigger) for claim in claims if claim.layer == FACTORY})
    if keys:
        some = ", ".join(keys[:12]) + (f" and {len(keys) - 12} more" if keys[12:] else "")
        advice = f"give what you use another key: olive-compass press {view.app.name} '{keys[0]}'"
        yield Finding(id_, "note", view.app.name, says.format(keys=some), advice, keys=tuple(keys))


def stroke_findings(
    view: View,
    id_: str,
    severity: str,
    trait: Callable[[Stroke], str],
    says: str,
    note: str,
) -> Iterator[Finding]:
    """Findings on every stroke for which ``trait`` gives a text: one a decision of a scheme.

    ``says`` may name ``{key}``, ``{stroke}``, ``{title}`` and ``{trait}``; ``note`` is the
    sentence on all factory keys that share the trait, with ``{keys}`` in it.
    """
    # There are few strokes and many claims: the strokes are looked at first.
    traits = {
        stroke: text for stroke in view.keymap.keyboard.strokes_met() if (text := trait(stroke))
    }
    if not traits:
        return
    concerned = [
        claim for claim in view.keymap.claims if not traits.keys().isdisjoint(claim.trigger.strokes)
    ]
    for claim in of_schemes(concerned):
        title = view.title(claim.command)
        for stroke in dict.fromkeys(claim.trigger.strokes):
            if stroke in traits:
                yield Finding(
                    id_,
                    severity,
                    view.app.name,
                    says.format(
                        key=claim.trigger, stroke=stroke.key, title=title, trait=traits[stroke]
                    ),
                    f"olive-compass free {view.app.name} --for {claim.command}",
                    (place(claim),),
                    (claim.command,),
                    (str(claim.trigger),),
                )
    yield from factory_note(view, id_, note, concerned)
