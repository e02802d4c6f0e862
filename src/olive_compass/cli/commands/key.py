"""``key``: everything about one trigger: spellings, presses, effort, and what it does."""

import argparse
from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.options import Common, json_option
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_fields, print_table
from olive_compass.core.effort.reach import BESIDE, Effort, run_effort
from olive_compass.core.keys.forms import Form
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.notations import NOTATIONS, InexpressibleError, read_as, show
from olive_compass.core.keys.presses import physical_text
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run, stroke
from olive_compass.core.schemes.board import keyless_presses
from olive_compass.core.schemes.deciding import NOTHING, Keymap, Outcome
from olive_compass.core.schemes.free import modifier_groups
from olive_compass.desk import keyboards
from olive_compass.desk.desk import Desk

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
    run_ = _read(args.read_as, args.trigger, desk)
    if args.held:
        return _held(args.json, context, desk, run_)
    about = _about(desk, run_)
    about["layouts"] = _on_layouts(desk, args.layouts, run_)
    about["means"] = _meanings(desk, run_)
    if args.json:
        context.json(about)
        return 0
    _print(about, context)
    return 0


def _read(notation: str | None, text: str, desk: Desk) -> Run:
    """The trigger; typed letters are a run where any application of the desk takes them."""
    if notation:
        return read_as(text, notation)[0]
    try:
        return read_trigger(text)
    # No application is named: letters are a run where any of them would take them so.
    except TriggerError:
        typed = max([desk.app(name).rules.typed for name in desk.app_names()], default=0)
        return read_trigger(text, typed)


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
        texts = [words.meaning_or_muted(keymap, each.does) for each in outcome.winners]
        text = " or ".join(dict.fromkeys(texts)) or ("..." if outcome.longer else "")
        if text:
            found.setdefault(text, []).append(mode)
    whole = len(keymap.app.modes.names)
    return "; ".join(
        text if len(modes) == whole else f"{text} ({', '.join(keymap.app.modes.outermost(modes))})"
        for text, modes in found.items()
    )


def _about(desk: Desk, run_: Run) -> dict[str, Any]:
    board = desk.keyboard
    notations = {}
    for notation in NOTATIONS:
        try:
            notations[notation] = show(run_, notation, board)
        except InexpressibleError as error:
            notations[notation] = f"({error})"
    return {
        "key": str(run_),
        "notations": notations,
        "keyboard": f"{desk.settings.form}/{desk.settings.layout}",
        "presses": [" ".join(map(physical_text, press)) for press in board.presses_of(run_)],
        "types": "".join(map(board.typed_by, board.press_of(run_))),
        "remarks": _remarks(board, run_),
        **_effort(run_effort(board, run_, desk.settings.weights), desk.settings.weights.hard),
        "on-a-laptop": _is_on_a_laptop(desk, run_),
    }


def _effort(effort: Effort | None, hard: float) -> dict[str, Any]:
    """What a press takes, as JSON; of one that the keyboard cannot make nothing can be said."""
    if effort is None:
        return {"effort": None, "finger": None, "device": None, "one-hand": [], "hard": False}
    is_beside = effort.row == BESIDE
    return {
        "effort": effort.strokes,
        "finger": None if is_beside else effort.finger,
        "device": effort.finger if is_beside else None,
        "one-hand": sorted(effort.alone),
        "hard": effort.strokes >= hard,
    }


def _is_on_a_laptop(desk: Desk, run_: Run) -> bool:
    """Whether a laptop of the same build has the keys, so that only what laptops lack is missed."""
    board = desk.keyboard
    is_iso = board.form is not None and "IntlBackslash" in board.form.seats
    laptop = keyboards.load_form(desk.root, "iso-laptop" if is_iso else "ansi-laptop")
    return all(_is_there(code, laptop) for _, code in board.press_of(run_))


def _is_there(code: str, laptop: Form) -> bool:
    return code in laptop.seats or ":" in code or code.startswith("?")


def _remarks(board: Keyboard, run_: Run) -> list[str]:
    """What is to be said of a trigger on a keyboard: missing, AltGr, dead, borrowed, swallowed."""
    said = []
    for pressed in run_.strokes:
        made = board.made(pressed)
        if made.missing:
            said.append(f"{pressed} cannot be made here: {made.missing}")
        if made.borrowed:
            said.append(
                f"this layout has no “{pressed.key}”; the place that it has on a Latin board counts"
            )
        if made.level >= 2:
            said.append(f"“{pressed.key}” is typed only with AltGr here")
        if made.dead:
            said.append(f"“{pressed.key}” is a dead key here")
        if len(made.presses) > 1:
            said.append(f"“{pressed.key}” is on {len(made.presses)} keys")
        if char := board.swallows(pressed):
            said.append(f"as a shortcut it makes “{char}” untypable")
    return said


def _on_layouts(desk: Desk, names: str, run_: Run) -> list[dict[str, Any]]:
    if not names:
        return []
    form = desk.keyboard.form
    if names == "all":
        wanted = keyboards.names(desk.root, "layouts")
    else:
        wanted = names.split(",")
    rows = []
    for name in wanted:
        board = Keyboard(
            desk.settings.platform,
            keyboards.load_layout(desk.root, name.strip()),
            form,
            devices=desk.devices,
        )
        rows.append(
            {
                "layout": name.strip(),
                "presses": [
                    " ".join(map(physical_text, press)) for press in board.presses_of(run_)
                ],
                "remarks": _remarks(board, run_),
            }
        )
    return rows


def _meanings(desk: Desk, run_: Run) -> list[dict[str, Any]]:
    rows = []
    for name in desk.app_names():
        stack = desk.stack(name)
        keymap = Keymap(stack, desk.keyboard)
        together: dict[Outcome, list[str]] = {}
        for mode in stack.app.modes.names:
            together.setdefault(keymap.decide(run_, mode), []).append(mode)
        for outcome, modes in together.items():
            # That it does nothing in some modes is not worth a line, but in all of them it is.
            if outcome.what != NOTHING or len(together) == 1:
                titles = [words.meaning_or_muted(keymap, c.does) for c in outcome.winners]
                rows.append(
                    {
                        "app": stack.app.title,
                        "where": stack.app.modes.phrase(modes),
                        "outcome": outcome.what,
                        "fixed": any(claim.wired for claim in outcome.winners),
                        "commands": titles,
                        "from": words.source(outcome.winners[0]) if outcome.winners else "",
                        "keyless": keyless_note(keymap, run_),
                    }
                )
    return rows


def keyless_note(keymap: Keymap, run: Run) -> str:
    """The commands that would have a trigger, were they not left without a key, and why."""
    found = keyless_presses(keymap).get(keymap.keyboard.press_of(run), ())
    return "; ".join(f"{words.title(keymap, command)}: {why}" for command, why in found)


def _effort_text(about: dict[str, Any]) -> str:
    """How hard the key is to press, ``""``: nobody can say."""
    if about["effort"] is None:
        return ""
    finger = about["device"] or f"{about['finger']} finger"
    says = f"{about['effort']:.1f} home strokes (1: the strongest finger on its home key), {finger}"
    if hands := " or ".join(about["one-hand"]):
        says += f"; the {hands} hand can do it alone"
    else:
        says += "; takes both hands"
    if about["hard"]:
        says += "; hard to press"
    return says


def _print(about: dict[str, Any], context: Surroundings) -> None:
    context.say(f"{BOLD}{about['key']}{OFF}")
    print_fields(
        context,
        [
            ("written", "   ".join(f"{name} {text}" for name, text in about["notations"].items())),
            ("keyboard", about["keyboard"]),
            ("keys", " or ".join(about["presses"])),
            ("types", about["types"].strip() or ("a space" if about["types"] else "nothing")),
            ("effort", _effort_text(about)),
            ("laptop", "" if about["on-a-laptop"] else "a laptop's form lacks a key that it takes"),
            ("note", "\n".join(about["remarks"])),
        ],
    )
    if about["layouts"]:
        print_table(
            context,
            ("layout", "keys", "note"),
            [
                (row["layout"], " or ".join(row["presses"]), "; ".join(row["remarks"]))
                for row in about["layouts"]
            ],
        )
    print_table(
        context,
        ("app", "where", "outcome", "command", "from", "keyless"),
        [
            (
                row["app"],
                row["where"],
                "" if row["fixed"] else row["outcome"],
                " or ".join(row["commands"]),
                row["from"],
                row["keyless"],
            )
            for row in about["means"]
        ],
    )
