"""The record of a finding, and helpers for the modules that look for findings."""

from collections.abc import Callable, Iterable, Iterator
from typing import TYPE_CHECKING

from msgspec import Struct

from olive_compass.core.actions import Action, ShowPress
from olive_compass.core.apps.modes import joined
from olive_compass.core.changes.fix import Fix
from olive_compass.core.changes.view import AppView as View
from olive_compass.core.findings.advice import accepting, better_key
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.triggers import Stroke
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.core.schemes.places import Place, catalogue_place, place, step_place, tray_place
from olive_compass.core.schemes.view import once_each as of_schemes
from olive_compass.core.severities import Severity

__all__ = [
    "Fix",
    "Place",
    "View",
    "catalogue_place",
    "of_schemes",
    "place",
    "step_place",
    "tray_place",
]

#: How many commands a finding names before it only counts them.
MOST_NAMED = 12


class Finding(Struct, frozen=True, kw_only=True):
    """Something that ``check`` reports.

    ``says`` is one sentence on what is wrong; ``advice`` what to do about it, which takes the finding
    away. ``instead`` are actions that do the same in another way, ``look`` is one that only shows more. ``places`` are where it stands, the one to look
    at first.
    """

    id: str
    severity: Severity
    app: str
    says: str
    advice: Action
    places: tuple[Place, ...] = ()
    commands: tuple[str, ...] = ()
    keys: tuple[str, ...] = ()
    modes: tuple[str, ...] = ()
    fix: Fix | None = None
    accepted: str | None = None
    instead: tuple[Action, ...] = ()
    look: Action | None = None

    @property
    def subject(self) -> str:
        """What it is accepted by: its id, and the first command or key that it names."""
        return subject(self.id, self.commands, self.keys)

    @property
    def order(self) -> tuple[object, ...]:
        return (self.app, self.keys, self.commands, self.says)


if TYPE_CHECKING:
    from typing import Protocol

    class Finder(Protocol):
        """A module of a finding: see ``findings``."""

        ID: str
        SEVERITY: str
        SAYS: str
        ADVICE: str

        def find(self, view: View) -> Iterator[Finding]: ...


def subject(id_: str, commands: Iterable[str], keys: Iterable[str]) -> str:
    """The words by which a finding is accepted."""
    return f"{id_} {next(filter(None, (*commands, *keys)), '')}".strip()


def of_command(view: View, claim: Claim) -> str:
    """Whose key it is, in the middle of a sentence: ``of “Merge” ``, ``""`` where it mutes."""
    if claim.command:
        return f"of “{view.title(claim.command)}” "
    return ""


def factory_note(view: View, id_: str, says: str, claims: Iterable[Claim]) -> Iterator[Finding]:
    """One note on all the factory keys that share a trait: ``says`` has ``{keys}`` in it."""
    keys = sorted({str(claim.trigger) for claim in claims if claim.layer == FACTORY})
    if keys:
        yield Finding(
            id=id_,
            severity="note",
            app=view.app.name,
            says=says.format(keys=joined(keys, MOST_NAMED)),
            advice=accepting(view, id_, keys[0]),
            keys=tuple(keys),
            look=ShowPress(app=view.app.name, key=keys[0]),
        )


def stroke_findings(
    view: View,
    id_: str,
    severity: Severity,
    trait: Callable[[Keyboard, Stroke], str],
    says: str,
    note: str,
) -> Iterator[Finding]:
    """Findings on every stroke for which ``trait`` gives a text: one a decision of a scheme.

    ``says`` may name ``{key}``, ``{stroke}``, ``{title}`` and ``{trait}``; ``note`` is the
    sentence on all factory keys that share the trait, with ``{keys}`` in it.
    """
    keyboard = view.keymap.keyboard
    # There are few strokes and many claims: the strokes are looked at first.
    traits = {stroke: text for stroke in view.strokes if (text := trait(keyboard, stroke))}
    if not traits:
        return
    concerned = [
        claim for claim in view.keymap.claims if not traits.keys().isdisjoint(claim.trigger.strokes)
    ]
    for claim in of_schemes(concerned):
        title = view.title(claim.command) or "a mute"
        for stroke in dict.fromkeys(claim.trigger.strokes):
            if stroke in traits and not (claim.mutes and id_ != "not-on-keyboard"):
                yield Finding(
                    id=id_,
                    severity=severity,
                    app=view.app.name,
                    says=says.format(
                        key=claim.trigger, stroke=stroke.key, title=title, trait=traits[stroke]
                    ),
                    advice=better_key(view, claim),
                    places=(place(claim),),
                    commands=(claim.command,),
                    keys=(str(claim.trigger),),
                )
    yield from factory_note(view, id_, note, concerned)
