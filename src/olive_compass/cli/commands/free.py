"""``free``: which keys nobody has taken, as a compact map."""

import argparse
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.parsing import app_argument, command_argument, json_option
from olive_compass.cli.surroundings import BOLD, DIM, OFF, Surroundings
from olive_compass.cli.tables import print_table
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.free import BANKS, Slot, free_map
from olive_compass.core.schemes.ranking import rank

GROUP = "look"
ORDER = 30
SUMMARY = "Show which keys are still free, by the modifiers held"
EXAMPLES = """olive-compass free quillmap
olive-compass free quillmap --mode draw
olive-compass free quillmap --for "Spot height\""""

TAKEN = "·"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument("--mode", help="free in this mode (in every mode)")
    command_argument(
        parser,
        "--for",
        dest="command",
        metavar="COMMAND",
        help="rank the free keys for this command",
    )
    parser.add_argument(
        "--limit", type=int, default=12, metavar="N", help="rank at most N keys (12)"
    )
    json_option(parser)


def run(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    stack = at.stack(at.app_name(args.app))
    keymap = Keymap(stack, at.keyboard)
    command = pick.command(stack.app, args.command, around) if args.command else None
    modes = stack.app.modes.names
    if args.mode:
        modes = (pick.mode(stack.app, args.mode),)
    elif command and command.modes:
        modes = stack.app.modes.inside(command.modes)
    found = free_map(keymap, modes)
    slots = [slot for banks in found.values() for bank in banks.values() for slot in bank]
    strokes = [slot.stroke for slot in slots if slot.free]
    if not command:
        # The easiest keys of all never take two modifiers.
        strokes = [stroke for stroke in strokes if len(stroke.modifiers) < 2]
    ranked = rank(keymap, strokes, at.settings.weights, at.settings.hand, command)[: args.limit]
    if args.json:
        free = {
            "+".join(held): [str(s.stroke) for bank in banks.values() for s in bank if s.free]
            for held, banks in found.items()
        }
        best = [
            {
                "key": str(each.stroke),
                "effort": each.strokes,
                "score": each.score,
                "reasons": list(each.reasons),
            }
            for each in ranked
        ]
        around.json(
            {
                "app": stack.app.name,
                "modes": list(modes),
                "for": command and command.id,
                "free": free,
                "ranked": best,
            }
        )
        return 0 if any(free.values()) else 1
    where = stack.app.modes.phrase(modes) if args.mode or command else "in every mode"
    count = sum(slot.free for slot in slots)
    around.say(f"{BOLD}{stack.app.title}{OFF}: {count} of {len(slots)} keys are free {where}.")
    if command:
        around.say(f"For {BOLD}{command.title}{OFF}, the best first:")
        print_table(
            around,
            ("key", "home strokes", "why"),
            [(str(each.stroke), f"{each.strokes:.1f}", ", ".join(each.reasons)) for each in ranked],
        )
    else:
        _print_map(found, around)
        easiest = "   ".join(
            f"{each.stroke}{'*' if 'alone' in ' '.join(each.reasons) else ''}" for each in ranked
        )
        around.say(f"easiest: {easiest}")
        hand = at.settings.hand
        if hand != "both":
            around.say(f"{DIM}* the {hand} hand alone; for one command: --for COMMAND{OFF}")
    return 0 if count else 1


def _print_map(found: dict[tuple[str, ...], dict[str, list[Slot]]], around: Surroundings) -> None:
    narrow = [bank for bank in ("letters", "digits", "signs") if bank in BANKS]
    widths = {bank: max(len(BANKS[bank]), len(bank)) for bank in narrow}
    head = "  ".join(bank.ljust(widths[bank]) for bank in narrow)
    around.say(f"{DIM}{'':<15}{head.rstrip()}{OFF}")
    for held, banks in found.items():
        cells = ["".join(map(_mark, banks[bank])).ljust(widths[bank]) for bank in narrow]
        around.say(f"{_name(held):<15}{'  '.join(cells)}".rstrip())
    wide = [bank for bank in BANKS if bank not in narrow]
    around.say()
    around.say(f"{DIM}{'':<15}{wide[0]:<24}{wide[1]}{OFF}")
    for held, banks in found.items():
        parts = [_listed(banks[bank]) for bank in wide]
        around.say(f"{_name(held):<15}{parts[0]:<24}{parts[1] or 'no others'}")
    legend = f"{TAKEN} taken"
    if any(
        s.begins and not s.taken
        for banks in found.values()
        for bank in banks.values()
        for s in bank
    ):
        legend += "   small letter: it starts nothing by itself, but typed runs begin with it"
    around.say(f"{DIM}{legend}{OFF}")


def _mark(slot: Slot) -> str:
    if slot.free:
        return slot.stroke.key
    key = slot.stroke.key.lower()
    return TAKEN if slot.taken or key == slot.stroke.key else key


def _listed(slots: list[Slot]) -> str:
    """The free keys with a name: ``F3-F6 F9``; or ``all`` of them, or all but a few."""
    taken = [slot.stroke.key for slot in slots if not slot.free]
    if not slots[0].stroke.key.startswith("F") and len(taken) < 6:
        return "all others" + (f" but {' '.join(taken)}" if taken else "")
    parts: list[list[str]] = []
    for slot in slots:
        if not slot.free:
            parts.append([])
        elif parts and parts[-1] and slot.stroke.key.startswith("F"):
            parts[-1].append(slot.stroke.key)
        else:
            parts.append([slot.stroke.key])
    return " ".join(map(_stretch, filter(None, parts)))


def _stretch(keys: list[str]) -> str:
    """``F3``, ``F3 F4`` or ``F3-F6``."""
    return " ".join(keys) if len(keys) < 3 else f"{keys[0]}-{keys[-1]}"


def _name(held: tuple[str, ...]) -> str:
    return "+".join(held) or "plain"
