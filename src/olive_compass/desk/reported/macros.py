"""Macros as they are reported: by ``macro list`` and ``macro show``."""

from collections.abc import Iterable

from msgspec import field

from olive_compass.core.macros.cleaning import Suspect, suspects
from olive_compass.core.macros.macro import Macro, Step
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.desk.paths import macro_path
from olive_compass.desk.reported.report import Report


class MacroRow(Report, frozen=True, kw_only=True):
    """A macro in a list."""

    app: str
    name: str
    title: str
    steps: int
    questions: int
    suspicious: int
    keys: list[str]
    file: str


class StepReport(Report, frozen=True, kw_only=True, omit_defaults=True):
    """A step; fields that are empty are left out, but for its command and inputs."""

    command: str
    press: str = ""
    inputs: dict[str, str]
    ask: dict[str, str] = field(default_factory=dict)
    keep: list[str] = field(default_factory=list)
    note: str = ""
    ended: str = ""


class SuspectReport(Report, frozen=True, kw_only=True):
    """What is suspicious in a step, None: not in one of its inputs."""

    step: int
    input: str | None
    what: str
    says: str


class MacroReport(Report, frozen=True, kw_only=True):
    """A macro with its steps, and what is suspicious in them."""

    app: str
    name: str
    title: str
    does: str
    modes: tuple[str, ...]
    version: str
    recorded: str
    keys: list[str]
    steps: list[StepReport]
    suspects: list[SuspectReport]


def macro_row(keymap: Keymap, macro: Macro) -> MacroRow:
    """A macro in a list, with how many of its steps are suspicious."""
    return MacroRow(
        app=macro.app,
        name=macro.name,
        title=macro.title,
        steps=len(macro.steps),
        questions=sum(len(step.ask) for step in macro.steps),
        suspicious=len(suspects(keymap.app, macro)),
        keys=list(map(str, live_triggers(keymap, macro.id))),
        file=macro_path(macro.app, macro.name),
    )


def macro_report(keymap: Keymap, macro: Macro, found: Iterable[Suspect]) -> MacroReport:
    """A macro with its steps; ``found`` is what is suspicious in them."""
    return MacroReport(
        app=macro.app,
        name=macro.name,
        title=macro.title,
        does=macro.does,
        modes=macro.modes,
        version=macro.version,
        recorded=macro.recorded,
        keys=list(map(str, live_triggers(keymap, macro.id))),
        steps=list(map(step_report, macro.steps)),
        suspects=[
            SuspectReport(step=each.step, input=each.input or None, what=each.what, says=each.says)
            for each in found
        ],
    )


def step_report(step: Step) -> StepReport:
    """A step of a macro."""
    return StepReport(
        command=step.command,
        press=step.press,
        inputs=dict(step.inputs),
        ask=dict(step.ask),
        keep=list(step.keep),
        note=step.note,
        ended=step.ended,
    )
