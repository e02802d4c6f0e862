"""``press``: what a key does here, and why."""

import argparse
from collections.abc import Iterable
from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.parsing import app_argument, factory_option, json_option, keys_as_option
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.command_lines import line
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_fields
from olive_compass.core.apps.modes import joined
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.core.schemes.board import keyless_presses
from olive_compass.core.schemes.claims import Claim, absent_claims
from olive_compass.core.schemes.deciding import CHOICE, MUTED, NOTHING, STARTS, Keymap, Outcome
from olive_compass.core.schemes.holdings import by_letters, letter_route
from olive_compass.core.schemes.layers import MENUS, RESERVED, SYSTEM
from olive_compass.core.schemes.traits import (
    broken_rules,
    lacking,
    not_assignable_says,
    typing_modes,
)
from olive_compass.desk.desk import Desk
from olive_compass.errors import UserError

GROUP = "first steps"
ORDER = 60
SUMMARY = "Show what a key does in an application, and why"
EXAMPLES = """olive-compass press quillmap Ctrl+M --mode draw
olive-compass press quillmap "S M\""""


#: Why a press comes to nothing, where it is simply free.
UNUSED = "neither a scheme nor the application uses it"


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    keys = parser.add_argument(
        "keys",
        metavar="KEYS",
        nargs="?",
        help="a key or a sequence, in any spelling; ? to press it, @? by the place of its key",
    )
    # Without --live it is needed, so that a single word is the key and not the application.
    vars(keys)["least"] = 1
    parser.add_argument(
        "--live",
        action="store_true",
        help="at a terminal: answer press after press, until Escape twice",
    )
    parser.add_argument("--mode", help="show this mode (default: all modes)")
    factory_option(parser)
    keys_as_option(parser)
    json_option(parser)


def run(args: Any, context: Surroundings) -> int:
    at = pick.desk(args, context)
    pick.show_keys(args, context, at)
    stack = pick.only(at.stack(at.app_name(args.app)), args.only)
    modes = (pick.mode(stack.app, args.mode),) if args.mode else stack.app.modes.names
    keymap = Keymap(stack, at.keyboard)
    if args.live:
        return _live(args.keys, args.json, args.mode, context, at, keymap, modes)
    if not args.keys:
        raise UserError(
            "Key missing.",
            hint=f"For example: olive-compass press {stack.app.name} Ctrl+M",
        )
    trigger = pick.trigger(stack.app, args.keys)
    together = _decided(keymap, trigger, modes)
    if args.json:
        context.json(_answer_json(at, keymap, trigger, together))
    else:
        _answer(at, keymap, trigger, together, context, args.mode)
    does = any(outcome.what != NOTHING for outcome in together) or by_letters(keymap, trigger)
    return 0 if does else 1


def _live(
    keys: list[str],
    as_json: bool,
    asked_mode: str | None,
    context: Surroundings,
    at: Desk,
    keymap: Keymap,
    modes: tuple[str, ...],
) -> int:
    """Answers press after press; where a longer run begins with one, the next stroke is waited for."""
    from olive_compass.cli.terminal import pressing

    if keys or as_json:
        raise UserError(
            f"--live reads presses; {'KEYS' if keys else '--json'} cannot be used with it."
        )
    if not context.interactive:
        raise UserError(
            "--live reads presses at a terminal, and this is none.",
            hint=f"Name the key: olive-compass press {keymap.app.name} Ctrl+M",
        )

    def goes_on(strokes: tuple[Stroke, ...]) -> float:
        waits = any(keymap.decide(Run(strokes), mode).longer for mode in modes)
        return pressing.wait_of(keymap.app) if waits else 0.0

    context.say("Press a key; each is answered. Escape twice ends.")
    while strokes := pressing.read(context, goes_on):
        trigger = Run(strokes)
        context.say()
        _answer(at, keymap, trigger, _decided(keymap, trigger, modes), context, asked_mode)
        for each in strokes:
            pressing.one_to_it(context, each)
    return 0


def _decided(keymap: Keymap, trigger: Run, modes: tuple[str, ...]) -> dict[Outcome, list[str]]:
    """What the press does, with the modes in which it does that."""
    together: dict[Outcome, list[str]] = {}
    for mode in modes:
        together.setdefault(keymap.decide(trigger, mode), []).append(mode)
    return together


def _answer_json(
    at: Desk, keymap: Keymap, trigger: Run, together: dict[Outcome, list[str]]
) -> dict[str, Any]:
    outcomes = [_as_json(at, keymap, *each) for each in together.items()]
    app = keymap.app
    return {
        "app": app.name,
        "key": str(trigger),
        "outcomes": outcomes,
        "by-letters": by_letters(keymap, trigger),
        "not-there": [
            {"command": claim.command, "why": app.why_absent(app.catalogue.by_id[claim.command])}
            for claim in _absent(keymap, trigger, app.modes.names)
        ],
    }


def _answer(
    at: Desk,
    keymap: Keymap,
    trigger: Run,
    together: dict[Outcome, list[str]],
    context: Surroundings,
    mode: str | None,
) -> None:
    if len(trigger.strokes) > 1 and mode:
        _stroke_by_stroke(keymap, trigger, mode, context)
    brief = len(together) > 1
    for outcome, where in together.items():
        if outcome.what == NOTHING and not by_letters(keymap, trigger):
            # It may be free in one mode and be typed in another.
            reasons: dict[str, list[str]] = {}
            for each in where:
                reasons.setdefault(_why_nothing(keymap, trigger, each), []).append(each)
            for why, modes in reasons.items():
                _print_nothing(keymap, trigger, modes, why, context, brief)
        else:
            _print(at, keymap, trigger, where, outcome, context, brief)


def _as_json(at: Desk, keymap: Keymap, outcome: Outcome, modes: list[str]) -> dict[str, Any]:
    return {
        "modes": modes,
        "outcome": outcome.what,
        "decided-by": [words.claim_json(at, keymap, claim) for claim in outcome.winners],
        "overridden": [words.claim_json(at, keymap, claim) for claim in outcome.overridden],
        "longer": [words.claim_json(at, keymap, claim) for claim in outcome.longer],
    }


def _print(
    at: Desk,
    keymap: Keymap,
    trigger: Run,
    modes: list[str],
    outcome: Outcome,
    context: Surroundings,
    brief: bool,
) -> None:
    where = _where(keymap, modes, brief)
    titles = [words.meaning(keymap, each.does) for each in outcome.winners if not each.mutes]
    if outcome.what == NOTHING:
        routes = by_letters(keymap, trigger)
        names = [f"{keymap.app.shown(each)} ({_menu(keymap, each)})" for each in routes]
        says = f"goes through the menus, letter by letter, to {BOLD}{joined(names)}{OFF}"
    else:
        says = _says(outcome, titles)
    context.say(f"{BOLD}{context.key(trigger)}{OFF} {says} ({keymap.app.title}, {where}).")
    fields = _what_decided(at, keymap, outcome, titles)
    print_fields(context, _once([*fields, *_not_started(keymap, trigger, modes)]))


def _print_nothing(
    keymap: Keymap,
    trigger: Run,
    modes: list[str],
    why: str,
    context: Surroundings,
    brief: bool,
) -> None:
    """That a press does nothing in these modes, and why, or that it is free."""
    where = _where(keymap, modes, brief)
    key = f"{BOLD}{context.key(trigger)}{OFF}"
    others = _not_started(keymap, trigger, modes)
    if why == UNUSED and not others:
        context.say(f"{key} is free in {keymap.app.title}, {where}: {UNUSED}.")
        return
    context.say(f"{key} does nothing ({keymap.app.title}, {where}).")
    print_fields(context, _once([*([] if brief else [("why", why)]), *others]))


def _where(keymap: Keymap, modes: list[str], brief: bool) -> str:
    several = brief or len(modes) > 1
    return keymap.app.modes.phrase(modes) if several else words.in_modes(modes)


def _what_decided(
    at: Desk, keymap: Keymap, outcome: Outcome, titles: list[str]
) -> list[tuple[str, str]]:
    """Who decided what a press does, and what that overrides."""
    fields = []
    if outcome.longer:
        alone = " or ".join(titles) or ("nothing, it is muted" if outcome.winners else "nothing")
        fields.append(("alone", f"{alone}, {_once_ended(keymap)}"))
        fields += [("goes on", _claim(at, keymap, claim)) for claim in outcome.longer[:12]]
    for claim in outcome.winners:
        label = f"{words.source(claim)}, {words.in_modes([claim.mode])}"
        name = f"{claim.command}: " if claim.command and len(outcome.winners) > 1 else ""
        fields.append(("decided by", f"{name}{label}; {words.where(at, keymap, claim)}"))
        fields.append(("why", claim.why))
    fields += _about(keymap, outcome, titles)
    fields += [("by a trick", text) for text in _tricks(keymap, outcome)]
    fields += [("guessed", text) for text in _guess(keymap, outcome)]
    fields += [("overrides", _claim(at, keymap, claim)) for claim in outcome.overridden]
    return fields


def _not_started(keymap: Keymap, trigger: Run, modes: list[str]) -> list[tuple[str, str]]:
    """The commands that would have the press, were they not keyless on purpose or not there."""
    fields = []
    for command, why in keyless_presses(keymap).get(keymap.keyboard.press_of(trigger), ()):
        title = words.title(keymap, command)
        fields.append(("keyless", f"{title} would have it, and is left without a key: {why}"))
    for claim in _absent(keymap, trigger, modes):
        known = keymap.app.catalogue.by_id[claim.command]
        why = not_assignable_says(known, keymap.app.why_absent(known))
        fields.append(("not there", f"{words.title(keymap, known.id)} has it, but {why}"))
    return fields


def _guess(keymap: Keymap, outcome: Outcome) -> list[str]:
    """That it is a guess which of several commands a key starts, and how to confirm it."""
    first = outcome.winners[0] if outcome.winners else None
    if first is None or "duplicates" not in keymap.app.rules.guessed:
        return []
    # Loaded here: the finding that says so afterwards decides who wants the press at one place.
    from olive_compass.core.findings.same_press import contenders

    claims = (*outcome.winners, *outcome.overridden)
    here = [c for c in claims if (c.rank, c.mode) == (first.rank, first.mode)]
    wants = contenders(here)
    if len(wants) < 2 or any(claim.mutes for claim in wants):
        return []
    starts, *others = (words.meaning(keymap, claim.does) for claim in wants)
    say = line(
        "app", "rules", keymap.app.name, "--set", f"duplicates={keymap.app.rules.duplicates}"
    )
    does = f"starts {starts}, not {' or '.join(others)}"
    if outcome.what == CHOICE:
        does = f"offers {joined([starts, *others])}"
    return [f"that it {does}; to confirm: {say}"]


def _absent(keymap: Keymap, trigger: Run, modes: Iterable[str]) -> list[Claim]:
    """What would start a command with the press in one of the modes, were the command there."""
    press = keymap.keyboard.press_of(trigger)
    inside = {path for mode in modes for path in keymap.app.modes.path(mode)}
    found = {
        claim.command: claim
        for claim in absent_claims(keymap.stack)
        if claim.mode in inside and keymap.keyboard.press_of(claim.trigger) == press
    }
    return list(found.values())


def _menu(keymap: Keymap, command: str) -> str:
    return " > ".join(keymap.app.catalogue.by_id[command].menu)


def _says(outcome: Outcome, titles: list[str]) -> str:
    """What the press does, in a few words."""
    if outcome.winners and outcome.winners[0].wired:
        return f"{BOLD}{outcome.winners[0].wired}{OFF}"
    says = {
        STARTS: f"starts {BOLD}{titles[0] if titles else ''}{OFF}",
        CHOICE: f"offers a choice: {', '.join(titles)}",
        MUTED: "does nothing, on purpose",
    }
    return says.get(outcome.what, f"waits: {_waits_for(outcome)}")


def _about(keymap: Keymap, outcome: Outcome, titles: list[str]) -> list[tuple[str, str]]:
    """What there is to know of the one command that is started, or of what is wired in."""
    if outcome.winners and outcome.winners[0].wired:
        return [("", _of_wired(outcome.winners[0]))]
    if len(titles) != 1:
        return []
    id_ = outcome.winners[0].command
    known = keymap.app.catalogue.by_id.get(id_)
    if known is None:
        return [("command", id_), ("", "the catalogue does not have this command")]
    letters = letter_route(keymap, id_)
    route = f"{known.route} ({letters})" if letters else known.route
    fields = [("command", id_), ("menu", route), ("does", known.does)]
    fields += [("shows", thing) for thing in keymap.app.stands_for(id_)]
    fields += [
        ("on", f"the {tray.kind} {tray.title}" + (f", in {group}" if group else ""))
        for tray in keymap.app.trays_with(id_)
        for group in [tray.group_of(id_)]
    ]
    opened = next((tray for tray in keymap.app.trays if tray.id == id_), None)
    if opened is not None:
        fields.append(("holds", joined(map(keymap.app.shown, opened.items), 12)))
        fills = f"itself: olive-compass tray show {keymap.app.name}/{opened.name}"
        fields.append(("fills", fills if opened.fill else ""))
    return fields


def _tricks(keymap: Keymap, outcome: Outcome) -> list[str]:
    """How a mute comes about where the application cannot switch a key off."""
    texts = []
    for claim in (*outcome.winners, *outcome.overridden):
        for scheme in keymap.stack.schemes:
            decision = scheme.mute.get(claim.trigger)
            if not claim.mutes or scheme.name != claim.origin or decision is None:
                continue
            if decision.never:
                title = words.title(keymap, decision.never)
                texts.append(f"{title} has it, which is never enabled: nothing starts")
            if decision.away:
                texts.append(f"its command is moved to {decision.away} in the application")
    return texts


def _once_ended(keymap: Keymap) -> str:
    """When the application takes a run for ended, by its rules."""
    rules = keymap.app.rules
    parts = [f"after {rules.wait:g} s"] if rules.wait else []
    parts += [f"at once with {rules.closing_key}"] if rules.closing_key else []
    return ", or ".join(parts) or "once no more is typed"


def _of_wired(claim: Claim) -> str:
    """What it means that a layer without commands decides."""
    return {
        SYSTEM: "the operating system takes it before the application sees it",
        RESERVED: "the application keeps it; no scheme can change it",
        MENUS: "the menus have it as an access letter",
    }.get(claim.layer, "it is unlisted: the application does it, and its own list does not show it")


def _stroke_by_stroke(keymap: Keymap, trigger: Run, mode: str, context: Surroundings) -> None:
    """What each beginning of a run does, until something starts or nothing goes on."""
    for length in range(1, len(trigger.strokes)):
        short = Run(trigger.strokes[:length])
        outcome = keymap.decide(short, mode)
        text = words.outcome_text(keymap, outcome)
        if outcome.longer:
            text = f"waits; alone it is {text}" if outcome.winners else "waits"
        context.say(f"  {context.key(short)}: {text}")
        if outcome.what in (STARTS, CHOICE, MUTED):
            break


def _claim(at: Desk, keymap: Keymap, claim: Claim) -> str:
    name = words.meaning(keymap, claim.does) or "muted"
    return (
        f"{claim.trigger} {name} ({words.source(claim)}, {words.in_modes([claim.mode])}; "
        f"{words.where(at, keymap, claim)})"
    )


def _waits_for(outcome: Outcome) -> str:
    count = len(outcome.longer)
    return (
        "a longer sequence begins with it"
        if count == 1
        else f"{count} longer sequences begin with it"
    )


def _why_nothing(keymap: Keymap, trigger: Run, mode: str) -> str:
    """Why a press comes to nothing: nobody wants it, the application does not take it, or its first strokes fire
    before it ends."""
    for length in range(1, len(trigger.strokes)):
        short = Run(trigger.strokes[:length])
        outcome = keymap.decide(short, mode)
        name = " or ".join(words.meaning(keymap, claim.does) for claim in outcome.winners)
        if outcome.what in (STARTS, CHOICE, MUTED):
            # The run never gets further, whatever else may want it.
            wired = outcome.winners[0].wired if outcome.winners else ""
            does = wired or (f"starts {name}" if name else "does nothing, on purpose")
            return f"{short} already {does}, before the rest is typed"
        if outcome.winners and length == len(trigger.strokes) - 1:
            return f"no sequence goes on from {short} with {trigger.strokes[-1]}; {short} alone is {name}"
    # The commonest reason: the key counts, in a mode inside this one.
    inner = [
        claim
        for claim in keymap.buckets.get(_press(keymap, trigger), ())
        if mode not in keymap.app.modes.within(claim.mode)
    ]
    if inner:
        modes = list(dict.fromkeys(claim.mode for claim in inner))
        return f"nothing uses it here; it is used in {joined(modes)}: add --mode {modes[0]}"
    return _why_not_free(keymap, trigger, mode)


def _why_not_free(keymap: Keymap, trigger: Run, mode: str) -> str:
    """Why a press that nobody wants is not free in a mode all the same, as ``free`` has it; ``UNUSED``: it is."""
    # Loaded here: most presses do something.
    from olive_compass.core.schemes.free import FREE, TYPED, state

    told = state(keymap, trigger, (mode,), mode in typing_modes(keymap.app, (mode,)))
    if told == FREE:
        return UNUSED
    if told == TYPED:
        return "typing writes text here"
    keyboard = keymap.keyboard
    missing = [
        f"{each} cannot be made on this keyboard: {why}"
        for each in trigger.strokes
        if (why := lacking(keyboard, each))
    ]
    broken = [each.why for each in broken_rules(keymap.app, keyboard, trigger, (mode,))]
    return next(iter([*missing, *broken]), "another key with that label is used")


def _press(keymap: Keymap, trigger: Run) -> Any:

    return keymap.keyboard.press_of(trigger)


def _once(fields: list[tuple[str, str]]) -> list[tuple[str, str]]:
    """The fields with a name only where it changes."""
    last = ""
    result = []
    for name, value in fields:
        if value:
            result.append(("" if name == last else name, value))
            last = name
    return result
