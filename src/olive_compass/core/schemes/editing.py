"""Edits a scheme: gives a trigger to a command, takes it away. Value to value."""

from collections.abc import Iterable, Mapping
from typing import TypeVar

from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.structs import replace

_Value = TypeVar("_Value")


def without(decisions: Mapping[str, _Value], command: str) -> dict[str, _Value]:
    """The decisions of a table without those on a command."""
    return {key: value for key, value in decisions.items() if key != command}


def give(
    scheme: Scheme,
    command: str,
    trigger: Run,
    modes: tuple[str, ...],
    why: str = "",
    slot: str = "",
    instead: bool = False,
) -> Scheme:
    """The scheme in which ``command`` also has ``trigger`` in ``modes``.

    It joins an assignment of the command with the same modes and the same reason, or takes
    the place of one of the very same trigger. A note that the command is keyless goes. ``instead``
    takes away its other keys in those modes, and lets those of lower layers count no longer.
    """
    if instead:
        scheme = _without_others(scheme, command, trigger, modes)
    before = [
        each
        for each in scheme.assign.get(command, ())
        if not (each.keys == (trigger,) and each.modes == modes)
    ]
    after: list[Assignment] = []
    joined = False
    for each in before:
        # One reason for several keys is one line of the file, as a person would write it.
        if not joined and each == Assignment(
            keys=each.keys, modes=modes, why=why, slot=slot, instead=instead
        ):
            keys = tuple(dict.fromkeys((*each.keys, trigger)))
            each, joined = replace(each, keys=keys), True
        after.append(each)
    if not joined:
        after.append(Assignment(keys=(trigger,), modes=modes, why=why, slot=slot, instead=instead))
    # Who gives a key no longer means that there is to be none.
    keyless = without(scheme.keyless, command)
    return replace(scheme, assign={**scheme.assign, command: tuple(after)}, keyless=keyless)


def _without_others(scheme: Scheme, command: str, trigger: Run, modes: tuple[str, ...]) -> Scheme:
    """The scheme in which ``command`` has no other key than ``trigger`` in ``modes``."""
    after = []
    for each in scheme.assign.get(command, ()):
        rest = tuple(mode for mode in each.modes if mode not in modes)
        if each.keys == (trigger,):
            after.append(each)
        elif rest:
            after.append(replace(each, modes=rest))
    return replace(scheme, assign={**scheme.assign, command: tuple(after)})


def take(
    scheme: Scheme, command: str, trigger: Run, modes: Iterable[str], keyboard: Keyboard
) -> Scheme:
    """The scheme in which ``command`` no longer has the press of ``trigger`` in ``modes``.

    In its other modes it keeps it. A command without any trigger left is no longer named.
    """
    gone = set(modes)
    press = keyboard.press_of(trigger)
    after: list[Assignment] = []
    for each in scheme.assign.get(command, ()):
        # By press and not by name: `Ctrl++` and `Ctrl+Shift+=` are one key here.
        lost = tuple(key for key in each.keys if keyboard.press_of(key) == press)
        if not lost or not gone & set(each.modes):
            after.append(each)
            continue
        kept = tuple(key for key in each.keys if key not in lost)
        rest = tuple(mode for mode in each.modes if mode not in gone)
        if kept:
            after.append(replace(each, keys=kept))
        # Its other modes keep it, as an assignment of their own beside the keys that stay everywhere.
        if rest:
            after.append(replace(each, keys=lost, modes=rest))
    if not after:
        return replace(scheme, assign=without(scheme.assign, command))
    return replace(scheme, assign={**scheme.assign, command: tuple(after)})


def take_from_others(
    scheme: Scheme, keymap: Keymap, command: str, trigger: Run, modes: tuple[str, ...]
) -> Scheme:
    """The scheme without what would stand beside a new assignment of ``trigger``.

    Other layers and other modes need no edit: the nearer one wins. Only claims and mutes of
    this very scheme in the very same modes would be doubles.
    """
    press = keymap.keyboard.press_of(trigger)
    for claim in keymap.buckets.get(press, ()):
        if claim.origin != scheme.name or claim.mode not in modes:
            continue
        if claim.mutes:
            scheme = unmute(scheme, claim.trigger, modes)
        elif claim.command != command:
            scheme = take(scheme, claim.command, trigger, modes, keymap.keyboard)
    return scheme


def unmute(scheme: Scheme, trigger: Run, modes: tuple[str, ...]) -> Scheme:
    """The scheme in which ``trigger`` is no longer muted in ``modes``."""
    mute = dict(scheme.mute)
    if trigger in mute:
        rest = tuple(mode for mode in mute[trigger].modes if mode not in modes)
        if rest:
            mute[trigger] = replace(mute[trigger], modes=rest)
        else:
            del mute[trigger]
    return replace(scheme, mute=mute)


def make_keyless(
    scheme: Scheme, command: str, why: str, modes: tuple[str, ...] = (ROOT,)
) -> Scheme:
    """The scheme that says that ``command`` is without a key on purpose in ``modes``."""
    kept = tuple(
        replace(each, modes=rest)
        for each in (() if ROOT in modes else scheme.assign.get(command, ()))
        if (rest := tuple(mode for mode in each.modes if mode not in modes))
    )
    assign = without(scheme.assign, command)
    if kept:
        assign[command] = kept
    return replace(
        scheme, assign=assign, keyless={**scheme.keyless, command: Decision(why=why, modes=modes)}
    )


def make_mute(
    scheme: Scheme,
    trigger: Run,
    modes: tuple[str, ...],
    why: str,
    never: str = "",
    away: Run | None = None,
) -> Scheme:
    """The scheme in which ``trigger`` does nothing in ``modes``, by a trick where one is named."""
    decision = Decision(why=why, modes=modes, never=never, away=away)
    return replace(scheme, mute={**scheme.mute, trigger: decision})


def make_guard(
    scheme: Scheme, trigger: Run, modes: tuple[str, ...], why: str, keeps: str = ""
) -> Scheme:
    """The scheme that says that ``trigger`` must keep its meaning in ``modes``."""
    return replace(
        scheme, guard={**scheme.guard, trigger: Decision(why=why, modes=modes, keeps=keeps)}
    )


def set_modes(
    scheme: Scheme, command: str, modes: tuple[str, ...], trigger: Run | None = None
) -> Scheme:
    """The scheme in which the assignments of ``command`` count in ``modes``: all, or one trigger's.

    Keys, reasons and all else of the assignments stay as they are.
    """
    after: list[Assignment] = []
    for each in scheme.assign.get(command, ()):
        if trigger is None:
            moved = each.keys
        else:
            moved = tuple(k for k in each.keys if k == trigger)
        rest = tuple(key for key in each.keys if key not in moved)
        if rest:
            after.append(replace(each, keys=rest))
        if moved:
            after.append(replace(each, keys=moved, modes=modes))
    return replace(scheme, assign={**scheme.assign, command: tuple(after)})


def clear_command(scheme: Scheme, command: str) -> Scheme:
    """The scheme without any decision on ``command``."""
    return replace(
        scheme,
        assign=without(scheme.assign, command),
        keyless=without(scheme.keyless, command),
    )


def clear_trigger(scheme: Scheme, trigger: Run, keyboard: Keyboard) -> Scheme:
    """The scheme without any decision on the press of ``trigger``."""
    press = keyboard.press_of(trigger)
    for command, assignments in tuple(scheme.assign.items()):
        for each in assignments:
            if any(keyboard.press_of(key) == press for key in each.keys):
                scheme = take(scheme, command, trigger, each.modes, keyboard)
    return replace(
        scheme,
        mute={key: value for key, value in scheme.mute.items() if keyboard.press_of(key) != press},
        guard={
            key: value for key, value in scheme.guard.items() if keyboard.press_of(key) != press
        },
    )
