"""Learns a key set from the schemes at hand: what most applications agree on."""

from collections.abc import Iterable, Mapping
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.keys.keyboards import MAIN
from olive_compass.core.keys.kinds import kind_of
from olive_compass.core.keys.presses import Press
from olive_compass.core.keys.triggers import Run, stroke
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.sharing.keysets import Entry, KeySet
from olive_compass.core.sharing.purposes import Purposes


class Unsettled(Struct, frozen=True):
    """A purpose for which no trigger was settled, and why."""

    purpose: str
    why: str


class Learnt(Struct, frozen=True):
    """A set that was learnt, and what could not be settled."""

    keyset: KeySet
    unsettled: tuple[Unsettled, ...]


class _Votes(Struct, frozen=True):
    """What speaks for each press of a purpose: the weight, the applications, a trigger for it,
    and its place among equals: keys before swipes, short runs before long ones."""

    weight: dict[Press, float]
    apps: dict[Press, list[str]]
    run: dict[Press, Run]
    place: dict[Press, tuple[bool, int, str]]


def learn(
    name: str,
    keymaps: Iterable[Keymap],
    purposes: Purposes,
    uses: Mapping[tuple[str, str], int] = MappingProxyType({}),
) -> Learnt:
    """The set that the applications of ``keymaps`` agree on most.

    Each application votes for the keys that its command has; a vote weighs 1 and one more for each
    time that the command was used (``uses``, by application and command). The press with the most
    wins, the others follow as alternatives. Nothing is settled where two weigh the same, where
    a weightier purpose has the key, or where the purpose is one that lasts.
    """
    keymaps = list(keymaps)
    platform = keymaps[0].keyboard.platform if keymaps else "pc"
    votes = {p.id: v for p in purposes.all if (v := _votes(p.id, keymaps, purposes, uses)).weight}
    unsettled: list[Unsettled] = []
    wanted: dict[str, list[Press]] = {}
    for id_, each in votes.items():
        if purposes.by_id[id_].risk == "lasting":
            why = "it lasts and cannot be taken back: give it a key by hand, if any"
            unsettled.append(Unsettled(id_, why))
            continue
        ranked = sorted(each.weight, key=lambda press: (-each.weight[press], each.place[press]))
        # Two keys of the very same applications are no disagreement: both are in the set.
        others = [press for press in ranked[1:] if each.apps[press] != each.apps[ranked[0]]]
        if others and each.weight[ranked[0]] == each.weight[others[0]]:
            ranked = [ranked[0], others[0]]
            sides = " or ".join(f"{each.run[p]} ({', '.join(each.apps[p])})" for p in ranked[:2])
            unsettled.append(Unsettled(id_, f"as much speaks for {sides}"))
            continue
        wanted[id_] = ranked
    taken: dict[Press, str] = {}
    # The weightier purpose chooses first; a set gives no key twice.
    strongest = sorted(wanted, key=lambda id_: -votes[id_].weight[wanted[id_][0]])
    keys: dict[str, Entry] = {}
    for id_ in strongest:
        free = [press for press in wanted[id_] if press not in taken]
        # Its second choice would be a guess: two purposes that both want a key are for a person to part.
        if not free or free[0] != wanted[id_][0]:
            first = wanted[id_][0]
            why = f"{votes[id_].run[first]} goes to {taken[first]}, for which more speaks"
            unsettled.append(Unsettled(id_, why))
            continue
        taken[free[0]] = id_
        keys[id_] = Entry(tuple(with_main(votes[id_].run[press], platform) for press in free))
    ordered = {p.id: keys[p.id] for p in purposes.all if p.id in keys}
    order = {p.id: n for n, p in enumerate(purposes.all)}
    unsettled.sort(key=lambda each: order[each.purpose])
    return Learnt(KeySet(name, name, ordered), tuple(unsettled))


def with_main(run: Run, platform: str) -> Run:
    """The trigger with the platform's main modifier as ``Main``, as a set for all platforms has it.

    >>> from olive_compass.core.keys.reading import read_trigger
    >>> str(with_main(read_trigger("Shift+Meta+S"), "mac"))
    'Main+Shift+S'
    """
    strokes = []
    for each in run.strokes:
        held = ["Main" if name == MAIN[platform] else name for name in each.modifiers]
        strokes.append(stroke(each.key, *held, by_place=each.by_place))
    return Run(tuple(strokes))


def _votes(
    id_: str,
    keymaps: list[Keymap],
    purposes: Purposes,
    uses: Mapping[tuple[str, str], int],
) -> _Votes:
    votes = _Votes({}, {}, {}, {})
    for keymap in keymaps:
        app = keymap.app
        for command in purposes.by_id[id_].commands(app.name):
            if command not in app.catalogue.by_id:
                continue
            for run in live_triggers(keymap, command):
                press = keymap.keyboard.press_of(run)
                weight = 1 + uses.get((app.name, command), 0)
                votes.weight[press] = votes.weight.get(press, 0) + weight
                votes.apps.setdefault(press, []).append(app.name)
                votes.run.setdefault(press, run)
                swipe = not kind_of(run.strokes[-1]).on_form
                votes.place.setdefault(press, (swipe, len(run.strokes), str(run)))
    return votes
