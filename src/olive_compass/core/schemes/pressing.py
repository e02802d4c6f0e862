"""Compares two stacks by what presses do in them, whatever their decisions say."""

from msgspec import Struct

from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.keys.presses import Press
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import NOTHING, Keymap, Outcome

_NOTHING = Outcome(what=NOTHING)


class PressChange(Struct, frozen=True, kw_only=True):
    """In ``modes``, typing ``trigger`` does ``before`` in the one stack and ``after`` in the other."""

    trigger: Run
    modes: tuple[str, ...]
    before: Outcome
    after: Outcome

    @property
    def what(self) -> str:
        """``new`` where it did nothing, ``gone`` where it does nothing now, else ``other``."""
        if self.before.what == NOTHING:
            return "new"
        if self.after.what == NOTHING:
            return "gone"
        return "other"


def press_changes(before: Keymap, after: Keymap) -> list[PressChange]:
    """What presses do differently, modes together; empty exactly where every press does the same.

    Both stacks may be of different versions of an application: a mode that one of them lacks is one
    in which nothing happens there.
    """
    modes = tuple(dict.fromkeys((*before.app.modes.names, *after.app.modes.names)))
    presses = dict.fromkeys((*_presses(before), *_presses(after)))
    found: dict[tuple[Run, Outcome, Outcome], list[str]] = {}
    for press in presses:
        for mode in modes:
            old, new = _decided(before, press, mode), _decided(after, press, mode)
            if old.told != new.told:
                trigger = _trigger(before, after, press)
                found.setdefault((trigger, old, new), []).append(mode)
    changes = [
        PressChange(trigger=key[0], modes=tuple(where), before=key[1], after=key[2])
        for key, where in found.items()
    ]
    return sorted(changes, key=lambda each: (str(each.trigger), each.modes))


def phrase_of(one: ModeTree, other: ModeTree, modes: tuple[str, ...]) -> str:
    """The modes in words, by the tree that has all of them."""
    tree = other
    if all(mode in one for mode in modes):
        tree = one
    return tree.phrase(mode for mode in modes if mode in tree)


def _presses(keymap: Keymap) -> list[Press]:
    return [*keymap.buckets, *keymap.beginnings]


def _decided(keymap: Keymap, press: Press, mode: str) -> Outcome:
    if mode in keymap.app.modes:
        return keymap.decide_press(press, mode)
    return _NOTHING


def _trigger(before: Keymap, after: Keymap, press: Press) -> Run:
    """A trigger that is this press, as one of the stacks writes it."""
    for keymap in (after, before):
        for claim in keymap.buckets.get(press, ()):
            return claim.trigger
        for longer in keymap.beginnings.get(press, ()):
            return Run(keymap.buckets[longer][0].trigger.strokes[: len(press)])
    raise KeyError(press)
