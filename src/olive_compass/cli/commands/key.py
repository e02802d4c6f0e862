"""``key``: everything about one trigger: spellings, presses, effort, and what it does."""

import argparse
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.options import Common, json_option
from olive_compass.cli.pick import trigger_of_any
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_fields, print_table
from olive_compass.core.keys.notations import NOTATIONS
from olive_compass.core.keys.triggers import Run, stroke
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.free import modifier_groups
from olive_compass.core.schemes.meanings import meaning_or_muted
from olive_compass.desk.desk import Desk
from olive_compass.desk.reported.trigger import TriggerReport, trigger_report

GROUP = "look, check"
ORDER = 10
SUMMARY = "Show one key in full: spellings, effort, use in every application"
EXAMPLES = """olive-compass key Ctrl+Shift+=
olive-compass key Ctrl+@KeyY --layouts all
olive-compass key "Control+Plus" --read-as aria
olive-compass key C --held"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "trigger",
        metavar="KEY",
        help="a key, a sequence or a swipe; ? to press it, @? by its place",
    )
    parser.add_argument("--read-as", choices=NOTATIONS, help="the notation of KEY")
    parser.add_argument(
        "--layouts",
        metavar="NAMES",
        default="",
        help="also show these layouts, comma-separated, or all",
    )
    parser.add_argument(
        "--held",
        action="store_true",
        help="show what the key does with every modifier, in every application",
    )
    json_option(parser)


class KeyOptions(Common, kw_only=True):
    """The options of ``key``."""

    trigger: str
    read_as: str | None
    layouts: str
    held: bool
    json: bool


def run(args: KeyOptions, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    run_ = trigger_of_any(args.read_as, args.trigger, desk)
    if args.held:
        return _held(args.json, context, desk, run_)
    about = trigger_report(desk, run_, args.layouts)
    if args.json:
        context.json(about)
        return 0
    _print(about, context)
    return 0


def _held_json(key: str, does: dict[str, str]) -> dict[str, Any]:
    return {"key": key, "means": [{"app": app, "says": says} for app, says in does.items()]}


def _held(as_json: bool, context: Surroundings, desk: Desk, run_: Run) -> int:
    """What a key does under each group of modifiers, an application a column."""
    last = run_.strokes[-1]
    rows = []
    apps = [Keymap(desk.stack(name), desk.keyboard) for name in desk.app_names()]
    for held in modifier_groups(desk.keyboard):
        each = stroke(last.key, *held, by_place=last.by_place)
        trigger = Run((*run_.strokes[:-1], each))
        does = {keymap.app.name: _does(keymap, trigger) for keymap in apps}
        rows.append((str(trigger), does))
    if as_json:
        context.json({"key": str(run_), "held": [_held_json(*row) for row in rows]})
        return 0
    head = ("key", *(keymap.app.title for keymap in apps))
    print_table(
        context, head, [(key, *(text or "-" for text in does.values())) for key, does in rows]
    )
    return 0


def _does(keymap: Keymap, trigger: Run) -> str:
    """What a trigger does, in the modes in which it does something; ``""``: nothing anywhere."""
    found: dict[str, list[str]] = {}
    for mode in keymap.app.modes.names:
        outcome = keymap.decide(trigger, mode)
        texts = [meaning_or_muted(keymap, each.does) for each in outcome.winners]
        text = " or ".join(dict.fromkeys(texts)) or ("..." if outcome.longer else "")
        if text:
            found.setdefault(text, []).append(mode)
    whole = len(keymap.app.modes.names)
    return "; ".join(
        text if len(modes) == whole else f"{text} ({', '.join(keymap.app.modes.outermost(modes))})"
        for text, modes in found.items()
    )


def _effort_text(about: TriggerReport) -> str:
    """How hard the key is to press, ``""``: nobody can say."""
    if about.effort is None:
        return ""
    finger = about.device or f"{about.finger} finger"
    says = f"{about.effort:.1f} home strokes (1: the strongest finger on its home key), {finger}"
    if hands := " or ".join(about.one_hand):
        says += f"; the {hands} hand can do it alone"
    else:
        says += "; takes both hands"
    if about.hard:
        says += "; hard to press"
    return says


def _print(about: TriggerReport, context: Surroundings) -> None:
    context.say(f"{BOLD}{about.key}{OFF}")
    print_fields(
        context,
        [
            ("written", "   ".join(f"{name} {text}" for name, text in about.notations.items())),
            ("keyboard", about.keyboard),
            ("keys", " or ".join(about.presses)),
            ("types", about.types.strip() or ("a space" if about.types else "nothing")),
            ("effort", _effort_text(about)),
            ("laptop", "" if about.on_a_laptop else "a laptop's form lacks a key that it takes"),
            ("note", "\n".join(about.remarks)),
        ],
    )
    if about.layouts:
        print_table(
            context,
            ("layout", "keys", "note"),
            [
                (row.layout, " or ".join(row.presses), "; ".join(row.remarks))
                for row in about.layouts
            ],
        )
    print_table(
        context,
        ("app", "where", "outcome", "command", "from", "keyless"),
        [
            (
                row.app,
                row.where,
                "" if row.fixed else row.outcome,
                " or ".join(row.commands),
                row.source,
                row.keyless,
            )
            for row in about.means
        ],
    )
