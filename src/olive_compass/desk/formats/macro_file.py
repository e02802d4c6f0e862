"""Reads a macro from ``macros/<app>/<macro>.toml``: what is said of it, and its steps."""

from collections.abc import Iterator, Mapping, Sequence
from typing import Annotated, Any, Literal

from olive_compass.core.macros.macro import Macro, Step
from olive_compass.core.wording import yes_or_no
from olive_compass.desk.texts.schemas import Format, Mistake, Texts, fitted, saying
from olive_compass.desk.texts.toml_text import load, refuse
from olive_compass.structs import replace

FORMAT = "olive-compass-macro/1"

_TEXT = saying("“{key}” in ask needs a text.")


class StepTable(Format, frozen=True, kw_only=True):
    """A command or a key, and its inputs."""

    command: str = ""
    press: str = ""
    #: Numbers, points and yes or no may also stand as such.
    inputs: Mapping[str, Any] = {}
    ask: Mapping[str, Annotated[str, _TEXT]] = {}
    keep: Texts = ()
    note: str = ""
    ended: str = ""


class MacroTable(Format, frozen=True, kw_only=True):
    """What is said of a macro, and its steps."""

    format: Literal["olive-compass-macro/1"]
    app: str = ""
    title: str = ""
    does: str = ""
    modes: Texts = ()
    version: str = ""
    recorded: str = ""
    steps: tuple[StepTable, ...] = ()


def read(data: bytes, file: str, app: str, name: str) -> Macro:
    """The macro in a file; raises ``UserError`` with all its mistakes and their lines."""
    macro, mistakes = fit(load(data, file, FORMAT), name)
    if macro.app not in ("", app):
        says = f"This macro is for “{macro.app}”, but it lies with those of {app}."
        mistakes.append(Mistake(("app",), says))
    refuse(mistakes, data, file)
    return replace(macro, app=app)


def fit(content: object, name: str) -> tuple[Macro, list[Mistake]]:
    """The macro in what a file says, for the application that it names, and the mistakes in it."""
    said, mistakes = fitted(content, MacroTable, "a macro")
    if not any(each.path[:1] == ("steps",) for each in mistakes):
        # What does not fit is left out above, and would be missed here.
        mistakes += _wrong_steps(said.steps)
    macro = Macro(
        app=said.app,
        name=name,
        title=said.title or name,
        steps=tuple(_step(step, origin) for origin, step in enumerate(said.steps)),
        does=said.does,
        modes=said.modes,
        version=said.version,
        recorded=said.recorded,
    )
    return macro, [Mistake(each.path, _numbered(each)) for each in mistakes]


def _numbered(mistake: Mistake) -> str:
    """The sentence of a mistake, with the number of its step."""
    step = None
    if len(mistake.path) > 1:
        step = mistake.path[1]
    if isinstance(step, int):
        return f"Step {step + 1}: {mistake.says}"
    return mistake.says


def _step(table: StepTable, origin: int) -> Step:
    return Step(
        command=table.command,
        inputs={name: plain(value) for name, value in table.inputs.items()},
        ask=table.ask,
        keep=table.keep,
        press=table.press,
        note=table.note,
        ended=table.ended,
        origin=origin,
    )


def _wrong_steps(steps: Sequence[StepTable]) -> Iterator[Mistake]:
    """What is wrong in steps whose form is in order."""
    for number, step in enumerate(steps):
        at = ("steps", number)
        if bool(step.command) == bool(step.press):
            yield Mistake(at, "it needs a command, or a key to press, and not both.")
        for name, value in step.inputs.items():
            if isinstance(value, dict):
                yield Mistake((*at, "inputs", name), f"“{name}” in inputs needs a text.")
        both = step.inputs.keys() & step.ask.keys()
        if both:
            yield Mistake((*at, "inputs"), f"“{min(both)}” is fixed and asked for at once.")


def plain(value: Any) -> str:
    """A value as a person would type it: numbers, points and yes or no may also stand as such.

    >>> plain([120, 80.5]), plain(True), plain("x")
    ('120,80.5', 'yes', 'x')
    """
    # Before numbers: to Python a truth value is one.
    if isinstance(value, bool):
        return yes_or_no(value)
    if isinstance(value, (int, float)):
        return f"{value:.12g}"
    if isinstance(value, list):
        return ("," if all(isinstance(v, (int, float)) for v in value) else " ").join(
            plain(each) for each in value
        )
    return str(value)
