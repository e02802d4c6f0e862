"""What a press does, in sentences and as JSON."""

from collections.abc import Iterator, Sequence

from olive_compass.cli import words
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.command_lines import line
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_fields
from olive_compass.core.answers.press import (
    AgainstRule,
    CannotBeMade,
    GoesNowhere,
    Guess,
    Here,
    Idle,
    LabelUsed,
    NotStarted,
    PressAnswer,
    Reason,
    StartsEarlier,
    Trick,
    TypesText,
    Unused,
    UsedInside,
    beginnings,
)
from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import in_modes, joined
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import CHOICE, MUTED, NOTHING, STARTS, Keymap, Outcome
from olive_compass.core.schemes.holdings import letter_route
from olive_compass.core.schemes.meanings import meaning_of, meaning_or_muted, source_of, title_of
from olive_compass.core.schemes.traits import not_assignable_says
from olive_compass.core.wording import clause
from olive_compass.desk.desk import Desk
from olive_compass.desk.source_lines import file_and_line_text


def print_answer(
    desk: Desk, keymap: Keymap, answer: PressAnswer, context: Surroundings, mode: str | None
) -> None:
    if mode:
        _print_beginnings(keymap, answer.trigger, mode, context)
    brief = len(answer.here) > 1
    for here in answer.here:
        for idle in here.idle:
            _print_idle(keymap, answer.trigger, idle, context, brief)
        if not here.idle:
            _print_here(desk, keymap, answer, here, context, brief)


def _print_beginnings(keymap: Keymap, trigger: Run, mode: str, context: Surroundings) -> None:
    """What each beginning of a sequence does, until something starts."""
    for short, outcome in beginnings(keymap, trigger, mode):
        text = words.outcome_text(keymap, outcome)
        if outcome.longer:
            if outcome.winners:
                text = f"waits; alone it is {text}"
            else:
                text = "waits"
        context.say(f"  {context.key(short)}: {text}")


def _print_here(
    desk: Desk, keymap: Keymap, answer: PressAnswer, here: Here, context: Surroundings, brief: bool
) -> None:
    where = _where(keymap, here.modes, brief)
    outcome = here.outcome
    titles = [meaning_of(keymap, each.does) for each in outcome.winners if not each.mutes]
    if outcome.what == NOTHING:
        names = [f"{keymap.app.shown(each)} ({_menu(keymap, each)})" for each in answer.letters]
        says = f"goes through the menus, letter by letter, to {BOLD}{joined(names)}{OFF}"
    else:
        says = _says(outcome, titles)
    context.say(f"{BOLD}{context.key(answer.trigger)}{OFF} {says} ({keymap.app.title}, {where}).")
    fields = _what_decided(desk, keymap, here, titles)
    print_fields(context, _once([*fields, *_not_started(keymap, here.not_started)]))


def _print_idle(
    keymap: Keymap, trigger: Run, idle: Idle, context: Surroundings, brief: bool
) -> None:
    """That a press does nothing in these modes, and why, or that it is free."""
    where = _where(keymap, idle.modes, brief)
    key = f"{BOLD}{context.key(trigger)}{OFF}"
    why = _reason_text(keymap, idle.reason)
    others = _not_started(keymap, idle.not_started)
    if isinstance(idle.reason, Unused) and not others:
        context.say(f"{key} is free in {keymap.app.title}, {where}: {why}.")
        return
    context.say(f"{key} does nothing ({keymap.app.title}, {where}).")
    print_fields(context, _once([*([] if brief else [("why", why)]), *others]))


def _does(keymap: Keymap, outcome: Outcome) -> str:
    """What a press does, as the end of a sentence."""
    if outcome.winners and outcome.winners[0].wired:
        return outcome.winners[0].wired
    if name := _titles(keymap, outcome):
        return f"starts {name}"
    return "does nothing, on purpose"


def _reason_text(keymap: Keymap, reason: Reason) -> str:
    """Why a press does nothing, in words."""
    match reason:
        case StartsEarlier(strokes, outcome):
            return f"{strokes} already {_does(keymap, outcome)}, before the rest is typed"
        case GoesNowhere(strokes, last, outcome):
            name = _titles(keymap, outcome)
            return f"no sequence goes on from {strokes} with {last}; {strokes} alone is {name}"
        case UsedInside(modes):
            return f"nothing uses it here; it is used in {joined(modes)}: add --mode {modes[0]}"
        case CannotBeMade(stroke, why):
            return f"{stroke} cannot be made on this keyboard: {why}"
        case AgainstRule(why):
            return why
        case TypesText():
            return "typing writes text here"
        case LabelUsed():
            return "another key with that label is used"
    return "neither a scheme nor the application uses it"


def _titles(keymap: Keymap, outcome: Outcome) -> str:
    return " or ".join(meaning_of(keymap, claim.does) for claim in outcome.winners)


def _where(keymap: Keymap, modes: Sequence[str], brief: bool) -> str:
    several = brief or len(modes) > 1
    if several:
        return keymap.app.modes.phrase(modes)
    return in_modes(modes)


def _alone(outcome: Outcome, titles: list[str]) -> str:
    """What the press does where nothing follows it."""
    if titles:
        return " or ".join(titles)
    if outcome.winners:
        return "nothing, it is muted"
    return "nothing"


def _what_decided(
    desk: Desk, keymap: Keymap, here: Here, titles: list[str]
) -> list[tuple[str, str]]:
    """Names the layer that decided a press, and what it overrides."""
    outcome = here.outcome
    fields = []
    if outcome.longer:
        fields.append(("alone", f"{_alone(outcome, titles)}, {_once_ended(keymap)}"))
        fields += [("goes on", _claim(desk, keymap, claim)) for claim in outcome.longer[:12]]
    for claim in outcome.winners:
        label = f"{source_of(claim)}, {in_modes([claim.mode])}"
        name = ""
        if claim.command and len(outcome.winners) > 1:
            name = f"{claim.command}: "
        fields.append(("decided by", f"{name}{label}; {file_and_line_text(desk, keymap, claim)}"))
        fields.append(("why", claim.why))
    fields += _about(keymap, outcome, titles)
    fields += [("by a trick", text) for each in here.tricks for text in _trick(keymap, each)]
    if here.guess:
        fields.append(("guessed", _guess(keymap, here.guess, outcome)))
    fields += [("overrides", _claim(desk, keymap, claim)) for claim in outcome.overridden]
    return fields


def _not_started(keymap: Keymap, found: NotStarted) -> list[tuple[str, str]]:
    """The commands that would have the press, were they not keyless on purpose or not there."""
    fields = []
    for command, why in found.keyless:
        title = title_of(keymap, command)
        fields.append(("keyless", f"{title} would have it, and is left without a key: {why}"))
    for claim in found.absent:
        known = keymap.app.catalogue.by_id[claim.command]
        why = not_assignable_says(known, keymap.app.why_absent(known))
        fields.append(("not there", f"{title_of(keymap, known.id)} has it, but {why}"))
    return fields


def _guess(keymap: Keymap, guess: Guess, outcome: Outcome) -> str:
    """That it is a guess which of several commands a key starts, and how to confirm it."""
    starts, *others = (meaning_of(keymap, claim.does) for claim in guess.contenders)
    say = line(
        "app", "rules", keymap.app.name, "--set", f"duplicates={keymap.app.rules.duplicates}"
    )
    does = f"starts {starts}, not {' or '.join(others)}"
    if outcome.what == CHOICE:
        does = f"offers {joined([starts, *others])}"
    return f"that it {does}; to confirm: {say}"


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
        return [("", outcome.winners[0].layer.means)]
    if len(titles) != 1:
        return []
    id_ = outcome.winners[0].command
    known = keymap.app.catalogue.by_id.get(id_)
    if known is None:
        return [("command", id_), ("", "the catalogue does not have this command")]
    letters = letter_route(keymap, id_)
    if letters:
        route = f"{known.route} ({letters})"
    else:
        route = known.route
    fields = [("command", id_), ("menu", route), ("does", known.does)]
    fields += [("shows", thing) for thing in keymap.app.stands_for(id_)]
    fields += [
        ("on", f"the {tray.kind} {tray.title}" + clause(", in {}", group))
        for tray in keymap.app.trays_with(id_)
        for group in [tray.group_of(id_)]
    ]
    return [*fields, *_of_tray(keymap.app, id_)]


def _of_tray(app: App, command: str) -> list[tuple[str, str]]:
    """What is on the tray that a command opens; nothing where it opens none."""
    opened = next((tray for tray in app.trays if tray.id == command), None)
    if opened is None:
        return []
    fields = [("holds", joined(map(app.shown, opened.items), 12))]
    if opened.fill:
        fields.append(("fills", f"itself: olive-compass tray show {app.name}/{opened.name}"))
    return fields


def _trick(keymap: Keymap, trick: Trick) -> Iterator[str]:
    """How a mute comes about where the application cannot turn a key off."""
    if trick.never:
        title = title_of(keymap, trick.never)
        yield f"{title} has it, which is never enabled: nothing starts"
    if trick.away:
        yield f"its command is moved to {trick.away} in the application"


def _once_ended(keymap: Keymap) -> str:
    """When the application takes a run for ended, by its rules."""
    rules = keymap.app.rules
    parts = []
    if rules.wait:
        parts = [f"after {rules.wait:g} s"]
    if rules.closing_key:
        parts.append(f"at once with {rules.closing_key}")
    return ", or ".join(parts) or "once no more is typed"


def _claim(desk: Desk, keymap: Keymap, claim: Claim) -> str:
    name = meaning_or_muted(keymap, claim.does)
    return (
        f"{claim.trigger} {name} ({source_of(claim)}, {in_modes([claim.mode])}; "
        f"{file_and_line_text(desk, keymap, claim)})"
    )


def _waits_for(outcome: Outcome) -> str:
    count = len(outcome.longer)
    if count == 1:
        return "a longer sequence begins with it"
    return f"{count} longer sequences begin with it"


def _once(fields: list[tuple[str, str]]) -> list[tuple[str, str]]:
    """The fields with a name only where it changes."""
    last = ""
    result = []
    for name, value in fields:
        if value:
            result.append(("" if name == last else name, value))
            last = name
    return result
