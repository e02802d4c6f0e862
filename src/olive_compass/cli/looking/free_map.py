"""The map of free keys by the modifiers held, as wide as the terminal allows."""

from collections.abc import Sequence, Set

from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF
from olive_compass.core.apps.modes import joined
from olive_compass.core.schemes import traits
from olive_compass.core.schemes.free import BANKS, BARRED, BEGINS, TYPED, Slot, StrokeState
from olive_compass.core.schemes.free import TAKEN as TAKEN_STATE
from olive_compass.core.schemes.view import View
from olive_compass.core.wording import clause

#: The keys of each bank, by the modifiers held.
Map = dict[tuple[str, ...], dict[str, list[Slot]]]


def print_map(
    view: View,
    found: Map,
    modes: tuple[str, ...],
    context: Surroundings,
) -> None:
    narrow = [bank for bank in ("letters", "digits", "signs") if bank in BANKS]
    if 0 < context.width < _MAP_WIDTH:
        _print_map_narrow(found, narrow, context)
        return
    _print_signs(found, narrow, context)
    _print_named(found, [bank for bank in BANKS if bank not in narrow], context)
    _print_beside(found, context)
    states = {s.state for banks in found.values() for bank in banks.values() for s in bank}
    context.say(
        f"{DIM}{f'{TAKEN} taken':<12}{'   '.join(_legend(view, modes, states))}{OFF}".rstrip()
    )


def _print_signs(found: Map, narrow: Sequence[str], context: Surroundings) -> None:
    """The keys of one sign, each in its column: what is free stands there, what is not is a dot."""
    widths = {bank: max(len(BANKS[bank]), len(bank)) for bank in narrow}
    head = "  ".join(bank.ljust(widths[bank]) for bank in narrow)
    context.say(f"{DIM}{'':<15}{head.rstrip()}{OFF}")
    for held, banks in found.items():
        cells = ["".join(map(_mark, banks[bank])).ljust(widths[bank]) for bank in narrow]
        context.say(f"{_name(held):<15}{'  '.join(cells)}".rstrip())


def _print_named(found: Map, wide: Sequence[str], context: Surroundings) -> None:
    """The free keys among those with a name, in two columns."""
    context.say()
    context.say(f"{DIM}{'':<15}{wide[0]:<24}{wide[1]}{OFF}")
    for held, banks in found.items():
        parts = [_listed(banks[bank]) for bank in wide]
        context.say(f"{_name(held):<15}{parts[0]:<24}{parts[1] or 'no others'}")


def _print_beside(found: Map, context: Surroundings) -> None:
    """What the application takes beside the keyboard, a part for each kind."""
    beside = [bank for banks in found.values() for bank in banks if bank not in BANKS]
    for bank in dict.fromkeys(beside):
        context.say()
        context.say(f"{DIM}{'':<15}{bank}{OFF}")
        for text, groups in _alike({held: banks[bank] for held, banks in found.items()}).items():
            context.say(f"{groups:<15}{text}")


#: Signs of the map: something has the key; it writes text; it is not allowed.
TAKEN, WRITES, NOT_ALLOWED = "·", "∙", " "

#: The columns that the map takes.
_MAP_WIDTH = 64


def _print_map_narrow(
    found: Map,
    narrow: Sequence[str],
    context: Surroundings,
) -> None:
    """The same map for a narrow terminal: the banks of each modifier group under each other."""
    for held, banks in found.items():
        context.say(f"{BOLD}{_name(held)}{OFF}")
        for bank, slots in banks.items():
            if bank in narrow:
                free = "".join(map(_mark, slots))
            else:
                free = _listed(slots)
            context.say(f"  {free or 'none of the others'}")
    context.say(f"{DIM}{TAKEN} taken; a small letter: typed sequences begin with it{OFF}")


def _legend(view: View, modes: tuple[str, ...], states: Set[StrokeState]) -> list[str]:
    """What the other signs of the map mean, those that occur."""
    texts = [mode for mode in view.app.modes.outermost(traits.typing_modes(view.app, modes))]
    meant = {
        BEGINS: "small letter: it starts nothing by itself, but typed sequences begin with it",
        TYPED: f"{WRITES} writes text in {joined(texts)}; to leave that mode out: --mode",
        BARRED: f"{NOT_ALLOWED} the rules or the keyboard do not allow it",
    }
    return [text for state, text in meant.items() if state in states]


def _mark(slot: Slot) -> str:
    signs = {TYPED: WRITES, BARRED: NOT_ALLOWED, TAKEN_STATE: TAKEN}
    if slot.free:
        return slot.stroke.key
    key = slot.stroke.key.lower()
    return signs.get(slot.state, TAKEN if key == slot.stroke.key else key)


def _listed(slots: Sequence[Slot]) -> str:
    """The free keys with a name: ``F3-F6 F9``; or ``all`` of them, or all but a few."""
    taken = [slot.stroke.key for slot in slots if not slot.free]
    if not slots[0].stroke.key.startswith("F") and len(taken) < 6:
        return "all others" + clause(" but {}", " ".join(taken))
    parts: list[list[str]] = []
    for slot in slots:
        if not slot.free:
            parts.append([])
        elif _continues_function_keys(parts, slot):
            parts[-1].append(slot.stroke.key)
        else:
            parts.append([slot.stroke.key])
    return " ".join(map(_stretch, filter(None, parts)))


def _continues_function_keys(parts: list[list[str]], slot: Slot) -> bool:
    return bool(parts and parts[-1] and slot.stroke.key.startswith("F"))


def _alike(rows: dict[tuple[str, ...], list[Slot]]) -> dict[str, str]:
    """What is free of one thing beside the keyboard, and with which modifiers; none where nothing is."""
    found: dict[str, list[str]] = {}
    for held, slots in rows.items():
        free = [slot.stroke.key.partition(":")[2] for slot in slots if slot.free]
        if free:
            found.setdefault(" ".join(free), []).append(_name(held))
    if not found:
        return {"none": ""}
    every = len(rows)
    return {
        text: "with any"
        if len(names) == every
        else names[0]
        if len(names) == 1
        else f"{names[0]}, {names[1]}" + (f" +{len(names) - 2}" if names[2:] else "")
        for text, names in found.items()
    }


def _stretch(keys: list[str]) -> str:
    """``F3``, ``F3 F4`` or ``F3-F6``."""
    if len(keys) < 3:
        return " ".join(keys)
    return f"{keys[0]}-{keys[-1]}"


def _name(held: tuple[str, ...]) -> str:
    return "+".join(held) or "plain"
