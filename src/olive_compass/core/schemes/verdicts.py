"""The one judge: everything that can be said about giving a trigger to a command, before it is done."""

from collections.abc import Iterable
from typing import TYPE_CHECKING

from msgspec import Struct

from olive_compass.core.apps.app import App, Command
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.effort.reach import Effort, run_effort
from olive_compass.core.keys.kinds import Broken
from olive_compass.core.keys.presses import Press
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes import objections
from olive_compass.core.schemes.claims import Claim, Does
from olive_compass.core.schemes.consequences import Holder, Loss, holders, losses
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme, to_write
from olive_compass.core.schemes.editing import give, take_from_others
from olive_compass.core.schemes.guards import Guarded, broken_guards
from olive_compass.core.schemes.holdings import letter_route
from olive_compass.core.schemes.layers import BUILT_IN, MENUS
from olive_compass.core.schemes.objections import Locked, Slip, Trait
from olive_compass.core.schemes.view import View
from olive_compass.structs import replace

if TYPE_CHECKING:
    from olive_compass.core.schemes.view import FalseFriend

#: How much an objection weighs: it cannot be; a person must say yes; it is only said.
REFUSED, ASKED, SAID = "refused", "asked", "said"

#: The parts of a verdict that stand against a trigger, the gravest first.
WEIGHTS = {
    "locked": REFUSED,
    "unavailable": REFUSED,
    "rules": REFUSED,
    "too_many": REFUSED,
    "guards": ASKED,
    "keyless": ASKED,
    "holders": ASKED,
    "unlisted": ASKED,
    "lacking": ASKED,
    "typing": ASKED,
    "outside": SAID,
    "untypable": SAID,
    "altgr": SAID,
    "waits": SAID,
    "delays": SAID,
    "twins": SAID,
    "menus": SAID,
    "habit_key": SAID,
    "slips": SAID,
    "false_friends": SAID,
    "hard": SAID,
    "first": SAID,
    "unreached": SAID,
}


class Keyless(Struct, frozen=True):
    """A scheme leaves the command without a key on purpose."""

    scheme: Scheme
    why: str


class TooMany(Struct, frozen=True):
    """The command has as many keys as it may, in layers that do not make room: key and scheme."""

    most: int
    have: tuple[tuple[Run, str], ...]

    def instead(self, scheme: Scheme | None) -> "TooMany | None":
        """What is left of it where the key takes the place of those of ``scheme`` and below: a nearer scheme
        still makes it too many by itself."""
        nearer = tuple((run, name) for run, name in self.have if scheme and name != scheme.name)
        return TooMany(self.most, nearer) if len(nearer) >= self.most else None


class Verdict(Struct, frozen=True, kw_only=True):
    """What stands against a trigger for a command in modes, and what for it.

    Against it, empty where there is nothing (``WEIGHTS`` has them in their order): ``locked`` layers;
    why the command is ``unavailable``; ``rules`` of the application; ``too_many`` keys; ``guards``
    that would break; schemes that leave it ``keyless``; ``holders`` of the press, mutes among them;
    ``unlisted`` meanings; strokes that the keyboard is ``lacking``; modes in which
    it would swallow ``typing``; modes ``outside`` the command's own; characters made
    ``untypable``; labels behind ``altgr``; longer runs for which it ``waits``, and shorter ones
    that it ``delays``; ``twins``, which the same finger starts with the same key or button by holding
    it or pressing it twice; ``menus`` that its access letter no longer opens; whether it is a ``habit_key``
    that starts what costs much by mistake; ``slips``; ``false_friends``; that it is ``hard`` to press; what still
    comes ``first`` in some mode; and modes in which it is ``unreached``, because a nearer scheme
    lets its lower keys count no longer. ``lost`` says what each holder is left with.

    For it: its ``effort``, ``letter`` and ``siblings`` are the matter of ``offers``.
    """

    command: Command
    trigger: Run
    modes: tuple[str, ...]
    inside: tuple[str, ...]
    locked: tuple[Locked, ...] = ()
    unavailable: str = ""
    rules: tuple[Broken, ...] = ()
    too_many: TooMany | None = None
    guards: tuple[Guarded, ...] = ()
    keyless: tuple[Keyless, ...] = ()
    holders: tuple[Holder, ...] = ()
    unlisted: tuple[Holder, ...] = ()
    lacking: tuple[Trait, ...] = ()
    typing: tuple[str, ...] = ()
    outside: tuple[str, ...] = ()
    untypable: tuple[Trait, ...] = ()
    altgr: tuple[Trait, ...] = ()
    waits: tuple[Claim, ...] = ()
    delays: tuple[Claim, ...] = ()
    twins: tuple[Claim, ...] = ()
    menus: tuple[Holder, ...] = ()
    habit_key: bool = False
    slips: tuple[Slip, ...] = ()
    false_friends: "tuple[FalseFriend, ...]" = ()
    hard: Effort | None = None
    first: tuple[Holder, ...] = ()
    unreached: tuple[str, ...] = ()
    lost: tuple[Loss, ...] = ()
    effort: Effort | None = None
    gives_up: tuple[Run, ...] = ()

    def against(self, *weights: str) -> tuple[str, ...]:
        """The names of the parts that stand against it, of these weights or of all, gravest first."""
        wanted = weights or (REFUSED, ASKED, SAID)
        return tuple(n for n, weight in WEIGHTS.items() if weight in wanted and getattr(self, n))

    @property
    def hopeless(self) -> bool:
        """Whether what stands against it is the command itself, so that no other trigger is better."""
        return bool(self.own)

    @property
    def own(self) -> tuple[str, ...]:
        """The parts that stand against it for the command's own sake, whatever the trigger."""
        parts = ("unavailable", "keyless", "too_many", "outside")
        return tuple(part for part in parts if getattr(self, part))

    @property
    def of_trigger(self) -> bool:
        """Whether something stands against the trigger itself, whatever the command."""
        parts = ("locked", "lacking", "untypable", "altgr", "hard")
        return any(getattr(self, part) for part in parts)

    @property
    def is_ruled_out(self) -> bool:
        """Whether the application itself does not let the command have this trigger, whatever anybody decides."""
        return bool(self.locked or self.unavailable or self.rules)

    @property
    def clean(self) -> bool:
        """Whether nothing at all stands against it."""
        return not self.against()


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
    held = in_itself(view, command, trigger, modes)
    held = _with_others(view, held, scheme)
    if scheme is None or not effects:
        return held
    return _with_effects(view, held, scheme, share)


def in_itself(view: View, command: Command, trigger: Run, modes: tuple[str, ...]) -> Verdict:
    """The parts that do not depend on who else wants the press."""
    app, keyboard, keymap = view.app, view.keymap.keyboard, view.keymap
    unavailable = objections.not_assignable(app, command)
    effort = run_effort(keyboard, trigger, view.weights)
    disruptive = command.marks.disruptive
    return Verdict(
        command=command,
        trigger=trigger,
        modes=modes,
        inside=app.modes.inside(modes),
        locked=tuple(objections.firm_on(keymap, trigger)),
        unavailable=unavailable,
        rules=tuple(objections.broken_rules(app, keyboard, trigger, modes)),
        keyless=tuple(
            Keyless(each, each.keyless[command.id].why)
            for each in view.stack.schemes
            if command.id in each.keyless and _meets(app, each.keyless[command.id].modes, modes)
        ),
        lacking=objections.traits(keyboard, trigger, objections.lacking),
        typing=objections.typing_modes(app, modes)
        if objections.types_text(keyboard, trigger)
        else (),
        outside=objections.outside(app, command, modes),
        untypable=objections.traits(keyboard, trigger, objections.makes_untypable),
        altgr=objections.traits(keyboard, trigger, objections.behind_altgr),
        habit_key=disruptive and objections.is_reflex(keyboard, trigger),
        hard=effort if effort and effort.strokes >= view.weights.hard else None,
        effort=effort,
    )


def _meets(app: App, one: Iterable[str], other: Iterable[str]) -> bool:
    return bool(set(app.modes.inside(one)) & set(app.modes.inside(other)))


def _with_others(view: View, found: Verdict, scheme: Scheme | None) -> Verdict:
    """The verdict with who else wants the press, what waits, and what other presses and
    applications have to say."""
    command, trigger, inside = found.command, found.trigger, found.inside
    keymap = view.keymap
    # Those of the modes inside as well: a nearer mode may have the press for itself.
    held = holders(keymap, trigger, found.modes, command.id)
    press = keymap.keyboard.press_of(trigger)
    worse = view.across.worse_with(keymap, command.id, trigger) if view.across else ()
    wired = (BUILT_IN, MENUS)
    return replace(
        found,
        holders=tuple(h for h in held if not (h.claim.layer in wired or h.claim.layer.locked)),
        unlisted=tuple(h for h in held if h.claim.layer == BUILT_IN),
        menus=tuple(h for h in held if h.claim.layer == MENUS),
        too_many=_too_many(view, command, trigger, scheme) if scheme else None,
        waits=_waits(keymap, press, inside),
        delays=_delays(keymap, press, inside),
        twins=objections.twins(keymap, press, inside, command.id),
        slips=_slips(keymap, press, inside, command, trigger),
        false_friends=worse,
    )


def _too_many(view: View, command: Command, trigger: Run, scheme: Scheme) -> TooMany | None:
    """Whether the command has too many keys that no lower layer can make room for."""
    most = view.app.rules.most_keys
    if not most:
        return None
    # Keys of lower layers are pushed out by nearer ones, so only those above and this one count.
    names = [each.name for each in view.stack.schemes]
    at = names.index(scheme.name) if scheme.name in names else len(names)
    press = view.keymap.keyboard.press_of
    have = {
        press(run): (run, each.name)
        for each in (*view.stack.schemes[:at], scheme)
        for assignment in each.assign.get(command.id, ())
        for run in assignment.keys
        if press(run) != press(trigger)
    }
    return TooMany(most, tuple(have.values())) if len(have) >= most else None


def _waits(keymap: Keymap, press: Press, inside: tuple[str, ...]) -> tuple[Claim, ...]:
    """The longer runs that begin with the press, so that it starts only after a wait."""
    if press not in keymap.beginnings:
        return ()
    return tuple(
        dict.fromkeys(c for mode in inside for c in keymap.decide_press(press, mode).longer)
    )


def _delays(keymap: Keymap, press: Press, inside: tuple[str, ...]) -> tuple[Claim, ...]:
    """The shorter triggers that would start only after a wait, because this begins with them."""
    return tuple(
        dict.fromkeys(
            claim
            for length in range(1, len(press))
            for mode in inside
            for claim in keymap.winners(press[:length], mode)
            if not claim.mutes and not claim.layer.locked
        )
    )


def _slips(
    keymap: Keymap, press: Press, inside: tuple[str, ...], command: Command, trigger: Run
) -> tuple[Slip, ...]:
    """Slips of the finger between this press and its neighbours, in modes that both count in."""
    # It is not given yet: a claim that stands for it, whose layer and rank nobody looks at.
    own = Claim(trigger=trigger, does=Does(command.id), mode=ROOT, layer=MENUS, rank=0)
    found: list[Slip] = []
    if command.marks.disruptive:
        found += [Slip(own, c) for c in objections.neighbours(keymap, press, inside, "often")]
    if command.marks.often:
        found += [Slip(c, own) for c in objections.neighbours(keymap, press, inside, "disruptive")]
    # Two keys of one command beside each other do the same: no slip.
    return tuple(each for each in found if each.disruptive.command != each.often.command)


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
    for holder in found.holders:
        where = tuple(mode for mode in modes if mode in holder.modes)
        if holder.claim.command in view.app.catalogue.by_id and where:
            names.append(holder.claim.command)
            scheme = give(scheme, holder.claim.command, trigger, where)
    order = tuple(dict.fromkeys((*names, command)))
    return replace(scheme, order={**scheme.order, trigger: order})


def _with_effects(view: View, found: Verdict, scheme: Scheme, share: bool) -> Verdict:
    """The verdict with what the edit does to others, where it could do anything."""
    touches = (
        found.holders
        or found.unlisted
        or found.delays
        or found.keyless
        or view.app.rules.most_keys
        or any(each.guard for each in view.stack.schemes)
        # Below another scheme, that one may come first: what was given might never count.
        or view.stack.schemes[:1] != (scheme,)
    )
    if not touches:
        return found
    after = Keymap(view.stack.with_scheme(edited(view, scheme, found, share)), view.keyboard)
    id_ = found.command.id
    first = holders(after, found.trigger, found.modes, id_)
    # Where commands may have so many keys only, a new one pushes another out.
    had = {claim.trigger for claim in view.keymap.by_command.get(id_, ())}
    has = {claim.trigger for claim in after.by_command.get(id_, ())}
    press = after.keyboard.press_of(found.trigger)
    # A command that was keyless gets back what it had besides, and that may make something wait.
    waits = (*found.waits, *_waits(after, press, found.inside)) if found.keyless else found.waits
    delays = (
        (*found.delays, *_delays(after, press, found.inside)) if found.keyless else found.delays
    )
    return replace(
        found,
        waits=tuple(dict.fromkeys(waits)),
        delays=tuple(dict.fromkeys(delays)),
        guards=tuple(broken_guards(view.keymap, after)),
        lost=tuple(losses(view.keymap, after, found.trigger)),
        first=() if found.locked else tuple(h for h in first if _beats(after, h, found)),
        unreached=() if found.locked else _unreached(after, found),
        gives_up=tuple(sorted(had - has, key=str)),
    )


def _unreached(after: Keymap, found: Verdict) -> tuple[str, ...]:
    """The modes in which nothing at all decides the press, though the command was given it."""
    press = after.keyboard.press_of(found.trigger)
    return tuple(mode for mode in found.inside if not after.winners(press, mode))


def _beats(after: Keymap, holder: Holder, found: Verdict) -> bool:
    """Whether a holder decides the press alone in some mode, the command not being offered there."""
    press = after.keyboard.press_of(found.trigger)
    return any(
        all(claim.command != found.command.id for claim in after.winners(press, mode))
        for mode in holder.modes
    )


def routes_by(view: View, trigger: Run) -> tuple[str, ...]:
    """The titles of commands whose keyboard route begins with ``trigger``."""
    letter = trigger.strokes[0].key
    return tuple(
        each.title
        for each in view.app.catalogue.commands
        if each.access[:1] == (letter,) and letter_route(view.keymap, each.id)
    )
