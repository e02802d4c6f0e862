"""The one judge: everything that can be said about giving a trigger to a command, before it is done."""

from typing import Any

from msgspec import Struct

from olive_compass.core.apps.app import Command
from olive_compass.core.effort.reach import Effort
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.consequences import Holder, Loss, losses
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme, to_write
from olive_compass.core.schemes.editing import give, take_from_others
from olive_compass.core.schemes.objections import (
    delays,
    holders,
    keyless,
    kinds,
    too_many,
    unlisted,
)
from olive_compass.core.schemes.objections.kind import (
    ASKED,
    OF_COMMAND,
    OF_TRIGGER,
    REFUSED,
    SAID,
    E,
    Edited,
    Kind,
    Objection,
    Request,
    evidence_of,
)
from olive_compass.core.schemes.view import View
from olive_compass.structs import replace

__all__ = ["ASKED", "REFUSED", "SAID", "Verdict", "edited", "in_itself", "verdict"]


class Verdict(Struct, frozen=True, kw_only=True):
    """The objections to a trigger for a command in modes (``objections``), the gravest first.

    ``inside`` are the modes, and those inside them; ``lost`` says what each holder is left with, and ``gives_up`` which
    keys of its own the command loses by it. For it speaks its ``effort``; letters and siblings are the matter of
    ``offers``.
    """

    command: Command
    trigger: Run
    modes: tuple[str, ...]
    inside: tuple[str, ...]
    objections: tuple[Objection, ...] = ()
    lost: tuple[Loss, ...] = ()
    effort: Effort | None = None
    gives_up: tuple[Run, ...] = ()

    def against(self, *weights: str) -> tuple[Objection, ...]:
        """The objections of these weights, or all, gravest first."""
        return tuple(each for each in self.objections if not weights or each.kind.weight in weights)

    def evidence(self, kind: Kind[E]) -> tuple[E, ...]:
        """What an objection of that kind is based on, nothing where there is none."""
        return evidence_of(self.objections, kind)

    def has(self, id_: str) -> bool:
        """Whether there is an objection of that kind."""
        return any(each.id == id_ for each in self.objections)

    def but(self, kind: Kind[E], evidence: tuple[E, ...]) -> "Verdict":
        """The verdict with other evidence for a kind of objection; without any, there is none."""
        changed = (
            Objection(each.kind, evidence) if each.kind is kind else each
            for each in self.objections
        )
        return replace(self, objections=tuple(each for each in changed if each.evidence))

    @property
    def takers(self) -> tuple[Holder, ...]:
        """Who would be asked about the press: its holders, and what no list shows."""
        return (*self.evidence(holders.KIND), *self.evidence(unlisted.KIND))

    @property
    def own(self) -> tuple[Objection, ...]:
        """The objections for the command's own sake, whatever the trigger: no other is better."""
        return tuple(each for each in self.objections if each.kind.of == OF_COMMAND)

    @property
    def hopeless(self) -> bool:
        """Whether the command itself is the objection, so that no other trigger is better."""
        return bool(self.own)

    @property
    def of_trigger(self) -> bool:
        """Whether something stands against the trigger itself, whatever the command."""
        return any(each.kind.of == OF_TRIGGER for each in self.objections)

    @property
    def is_ruled_out(self) -> bool:
        """Whether the application itself does not let the command have this trigger, whatever anybody decides."""
        return any(each.kind.rules_out for each in self.objections)

    @property
    def clean(self) -> bool:
        """Whether nothing at all stands against it."""
        return not self.objections


def verdict(
    view: View,
    command: Command,
    trigger: Run,
    modes: tuple[str, ...],
    scheme: Scheme | None = None,
    share: bool = False,
    effects: bool = True,
) -> Verdict:
    """All that can be said about giving ``trigger`` to ``command`` in ``modes`` of ``scheme``.

    Without a scheme it is asked of the one that a person would write into; ``share`` lets the holders keep it.
    What follows from the edit itself (guards, losses, what comes first) is worked out with
    ``effects``, where there is anything that it could touch.
    """
    scheme = scheme or to_write(view.stack.schemes)
    request = Request(view, command, trigger, modes, scheme)
    found = _found(request, *kinds().values())
    if scheme is None or not effects or not _touches(view, found, scheme):
        return found
    return _with_effects(request, found, scheme, share)


def in_itself(view: View, command: Command, trigger: Run, modes: tuple[str, ...]) -> Verdict:
    """The objections that do not depend on who else wants the press."""
    early = (kind for kind in kinds().values() if kind.early)
    return _found(Request(view, command, trigger, modes), *early)


def _found(request: Request, *wanted: Kind[Any]) -> Verdict:
    found = ((kind, kind.find(request)) for kind in wanted)
    return Verdict(
        command=request.command,
        trigger=request.trigger,
        modes=request.modes,
        inside=request.inside,
        objections=tuple(Objection(kind, evidence) for kind, evidence in found if evidence),
        effort=request.effort,
    )


def edited(
    view: View,
    scheme: Scheme,
    found: Verdict,
    share: bool,
    why: str = "",
    slot: str = "",
    instead: bool = False,
) -> Scheme:
    """The scheme in which the command of a verdict has its trigger; ``share`` leaves the holders it."""
    command, trigger, modes = found.command.id, found.trigger, found.modes
    if not share:
        scheme = take_from_others(scheme, view.keymap, command, trigger, modes)
        return give(scheme, command, trigger, modes, why, slot, instead)
    scheme = give(scheme, command, trigger, modes, why, slot, instead)
    names = []
    # A nearer layer hides the others: to be offered too, they must stand beside it.
    for holder in found.evidence(holders.KIND):
        where = tuple(mode for mode in modes if mode in holder.modes)
        if holder.claim.command in view.app.catalogue.by_id and where:
            names.append(holder.claim.command)
            scheme = give(scheme, holder.claim.command, trigger, where)
    order = tuple(dict.fromkeys((*names, command)))
    return replace(scheme, order={**scheme.order, trigger: order})


def _touches(view: View, found: Verdict, scheme: Scheme) -> bool:
    """Whether the edit could do anything to others."""
    if found.takers or any(each.kind in (delays.KIND, keyless.KIND) for each in found.objections):
        return True
    if view.app.rules.most_keys or view.stack.has_guards:
        return True
    # Below another scheme, that one may come first: what was given might never count.
    return view.stack.schemes[:1] != (scheme,)


def _with_effects(request: Request, found: Verdict, scheme: Scheme, share: bool) -> Verdict:
    """The verdict with what the edit does to others."""
    view, id_ = request.view, request.command.id
    after = Keymap(view.stack.with_scheme(edited(view, scheme, found, share)), view.keyboard)
    edit = Edited(request, found.objections, after)
    # Where commands may have so many keys only, a new one pushes another out.
    had = {claim.trigger for claim in view.keymap.by_command.get(id_, ())}
    has = {claim.trigger for claim in after.by_command.get(id_, ())}
    objections = (
        (kind, kind.effects(edit) if kind.effects else found.evidence(kind))
        for kind in kinds().values()
    )
    return replace(
        found,
        objections=tuple(Objection(kind, evidence) for kind, evidence in objections if evidence),
        lost=tuple(losses(view.keymap, after, request.trigger)),
        gives_up=tuple(sorted(had - has, key=str)),
    )


def without_full(found: Verdict, scheme: Scheme | None) -> Verdict:
    """The verdict where the key takes the place of those that the command has in ``scheme`` and below."""
    return found.but(too_many.KIND, too_many.left_of(found.evidence(too_many.KIND), scheme))
