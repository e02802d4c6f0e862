"""Reads a macro from ``macros/<app>/<macro>.toml``: what is said of it, and its steps."""

import re
from collections.abc import Mapping
from typing import Any

from olive_compass.core.macros.macro import Macro, Step
from olive_compass.core.plain import lines_of
from olive_compass.desk.texts.toml_text import check_fields, load
from olive_compass.errors import UserError

FORMAT = "olive-compass-macro/1"

_TOP: dict[str, type | tuple[type, ...]] = {
    "format": str,
    "app": str,
    "title": str,
    "does": str,
    "modes": list,
    "version": str,
    "recorded": str,
    "steps": list,
}
_STEP: dict[str, type | tuple[type, ...]] = {
    "command": str,
    "press": str,
    "inputs": dict,
    "ask": dict,
    "keep": list,
    "note": str,
    "ended": str,
}


def read(data: bytes, file: str, app: str, name: str) -> Macro:
    """The macro in a file; raises ``UserError`` with its first mistake, the others after it."""
    content = load(data, file, FORMAT)
    problems = [(1, text) for _, text in check_fields(content, _TOP, "a macro")]
    if content.get("app", app) != app:
        says = f"This macro is for “{content['app']}”, but it lies with those of {app}."
        problems.append((1, says))
    problems += [(1, "“modes” is a list of texts.") for _ in _odd_texts(content.get("modes", []))]
    steps = content.get("steps", [])
    steps = steps if isinstance(steps, list) else []
    lines = step_lines(data.decode("utf-8-sig"))
    for number, step in enumerate(steps, 1):
        line = lines[number - 1] if number <= len(lines) else 1
        problems += [(line, f"Step {number}: {text}") for text in _step_problems(step)]
    if problems:
        # The first mistake has the line that an editor jumps to; a handful more saves as many runs.
        (line, first), *rest = sorted(problems, key=lambda each: each[0])
        more = "".join(f" Line {number}: {text}" for number, text in rest[:6])
        raise UserError(first + more, file=file, line=line)
    return Macro(
        app=app,
        name=name,
        title=content.get("title", name),
        steps=tuple(step_of(step, number) for number, step in enumerate(steps)),
        does=content.get("does", ""),
        modes=tuple(content.get("modes", [])),
        version=content.get("version", ""),
        recorded=content.get("recorded", ""),
    )


def step_of(table: Mapping[str, Any], origin: int = -1) -> Step:
    """A step from its table, whose fields have been checked."""
    return Step(
        command=table.get("command", ""),
        inputs={name: plain(value) for name, value in table.get("inputs", {}).items()},
        ask=dict(table.get("ask", {})),
        keep=tuple(table.get("keep", [])),
        press=table.get("press", ""),
        note=table.get("note", ""),
        ended=table.get("ended", ""),
        origin=origin,
    )


def plain(value: Any) -> str:
    """A value as a person would type it: numbers, points and yes or no may also stand as such.

    >>> plain([120, 80.5]), plain(True), plain("x")
    ('120,80.5', 'yes', 'x')
    """
    # Before numbers: to Python a truth value is one.
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, (int, float)):
        return f"{value:.12g}"
    if isinstance(value, list):
        return ("," if all(isinstance(v, (int, float)) for v in value) else " ").join(
            plain(each) for each in value
        )
    return str(value)


def step_problems(step: Any) -> list[str]:
    """What is wrong with a step, in sentences."""
    return _step_problems(step)


def _step_problems(step: Any) -> list[str]:
    if not isinstance(step, dict):
        return ["it is no table."]
    problems = [text for _, text in check_fields(step, _STEP, "a step")]
    if problems:
        return problems
    if bool(step.get("command")) == bool(step.get("press")):
        problems.append("it needs a command, or a key to press, and not both.")
    for table in ("inputs", "ask"):
        for name, value in step.get(table, {}).items():
            if isinstance(value, dict) or (table == "ask" and not isinstance(value, str)):
                problems.append(f"“{name}” in {table} needs a text.")
    both = step.get("inputs", {}).keys() & step.get("ask", {}).keys()
    if both:
        problems.append(f"“{min(both)}” is fixed and asked for at once.")
    problems += ["“keep” is a list of texts." for _ in _odd_texts(step.get("keep", []))]
    return problems


def step_lines(text: str) -> list[int]:
    """The lines on which the steps begin."""
    return [
        number
        for number, line in enumerate(lines_of(text), 1)
        if re.match(r"\s*\[\[\s*steps\s*\]\]", line)
    ]


def _odd_texts(values: Any) -> list[Any]:
    if not isinstance(values, list):
        return [values]
    return [value for value in values if not isinstance(value, str)][:1]
