"""All that is known of one trigger, as it is reported by ``key``."""

from typing import Any

from msgspec import field

from olive_compass.core.effort.reach import BESIDE, Effort, run_effort
from olive_compass.core.keys.forms import Form
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.notations import NOTATIONS, InexpressibleError, show
from olive_compass.core.keys.presses import physical_text
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.board import keyless_presses
from olive_compass.core.schemes.deciding import NOTHING, Keymap, Outcome
from olive_compass.core.schemes.meanings import meaning_or_muted, source_of, title_of
from olive_compass.desk import keyboards
from olive_compass.desk.desk import Desk
from olive_compass.desk.reported.report import Report


class LayoutReport(Report, frozen=True, kw_only=True):
    """How a trigger is pressed on another layout."""

    layout: str
    presses: list[str]
    remarks: list[str]


class MeaningReport(Report, frozen=True, kw_only=True):
    """What a trigger does in some modes of an application, which layer says so, and who is left without it on purpose."""

    app: str
    where: str
    outcome: str
    fixed: bool
    commands: list[str]
    source: str = field(name="from")
    keyless: str


class TriggerReport(Report, frozen=True, kw_only=True):
    """A trigger: its spellings, its presses, what it takes to press it, and what it does."""

    key: str
    notations: dict[str, str]
    keyboard: str
    presses: list[str]
    types: str
    remarks: list[str]
    #: In home strokes; None: this keyboard cannot make it.
    effort: float | None
    finger: str | None
    device: str | None
    one_hand: list[str]
    hard: bool
    on_a_laptop: bool
    layouts: list[LayoutReport]
    means: list[MeaningReport]


def trigger_report(desk: Desk, run: Run, layouts: str) -> TriggerReport:
    """``layouts`` are the names of those to show as well, comma-separated, or ``all``."""
    board = desk.keyboard
    return TriggerReport(
        key=str(run),
        notations={notation: _written(run, notation, board) for notation in NOTATIONS},
        keyboard=f"{desk.settings.form}/{desk.settings.layout}",
        presses=_presses(board, run),
        types="".join(map(board.typed_by, board.press_of(run))),
        remarks=_remarks(board, run),
        **_effort(run_effort(board, run, desk.settings.weights), desk.settings.weights.hard),
        on_a_laptop=_is_on_a_laptop(desk, run),
        layouts=[_on_layout(desk, name.strip(), run) for name in _names(desk, layouts)],
        means=[each for name in desk.app_names() for each in _meanings(desk, name, run)],
    )


def _written(run: Run, notation: str, board: Keyboard) -> str:
    try:
        return show(run, notation, board)
    except InexpressibleError as error:
        return f"({error})"


def _presses(board: Keyboard, run: Run) -> list[str]:
    return [" ".join(map(physical_text, press)) for press in board.presses_of(run)]


def _effort(effort: Effort | None, hard: float) -> dict[str, Any]:
    """What a press takes; of one that the keyboard cannot make nothing can be said."""
    found: dict[str, Any] = dict.fromkeys(("effort", "finger", "device"))
    if effort is None:
        return {**found, "one_hand": [], "hard": False}
    part = "finger"
    if effort.row == BESIDE:
        part = "device"
    found[part] = effort.finger
    found["effort"] = effort.strokes
    return {**found, "one_hand": sorted(effort.alone), "hard": effort.strokes >= hard}


def _names(desk: Desk, layouts: str) -> list[str]:
    if layouts == "all":
        return keyboards.names(desk.root, "layouts")
    return list(filter(None, layouts.split(",")))


def _on_layout(desk: Desk, name: str, run: Run) -> LayoutReport:
    layout = keyboards.load_layout(desk.root, name)
    board = Keyboard(desk.settings.platform, layout, desk.keyboard.form, devices=desk.devices)
    return LayoutReport(layout=name, presses=_presses(board, run), remarks=_remarks(board, run))


def _meanings(desk: Desk, app: str, run: Run) -> list[MeaningReport]:
    stack = desk.stack(app)
    keymap = Keymap(stack, desk.keyboard)
    together: dict[Outcome, list[str]] = {}
    for mode in stack.app.modes.names:
        together.setdefault(keymap.decide(run, mode), []).append(mode)
    return [
        MeaningReport(
            app=stack.app.title,
            where=stack.app.modes.phrase(modes),
            outcome=outcome.what,
            fixed=any(claim.wired for claim in outcome.winners),
            commands=[meaning_or_muted(keymap, claim.does) for claim in outcome.winners],
            source=source_of(outcome.winners[0]) if outcome.winners else "",
            keyless=keyless_note(keymap, run),
        )
        for outcome, modes in together.items()
        # That it does nothing in some modes is not worth a line, but in all of them it is.
        if outcome.what != NOTHING or len(together) == 1
    ]


def _is_on_a_laptop(desk: Desk, run: Run) -> bool:
    """Whether a laptop of the same build has the keys, so that only what laptops lack is missed."""
    board = desk.keyboard
    is_iso = board.form is not None and "IntlBackslash" in board.form.seats
    laptop = keyboards.load_form(desk.root, "iso-laptop" if is_iso else "ansi-laptop")
    return all(_is_there(code, laptop) for _, code in board.press_of(run))


def _is_there(code: str, laptop: Form) -> bool:
    return code in laptop.seats or ":" in code or code.startswith("?")


def _remarks(board: Keyboard, run: Run) -> list[str]:
    """What is to be said of a trigger on a keyboard: missing, AltGr, dead, borrowed, swallowed."""
    said = []
    for pressed in run.strokes:
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


def keyless_note(keymap: Keymap, run: Run) -> str:
    """The commands that would have a trigger, were they not left without a key, and why."""
    found = keyless_presses(keymap).get(keymap.keyboard.press_of(run), ())
    return "; ".join(f"{title_of(keymap, command)}: {why}" for command, why in found)
