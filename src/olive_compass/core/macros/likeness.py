"""Macros that are alike: the same commands in the same order, but for some values."""

from collections.abc import Iterable, Mapping

from msgspec import Struct

from olive_compass.core.macros.macro import Macro


class Likeness(Struct, frozen=True):
    """Two macros with the same commands, and the inputs (step, name) in which they differ."""

    first: Macro
    second: Macro
    differ: tuple[tuple[int, str], ...]


def alike(macros: Iterable[Macro]) -> list[Likeness]:
    """Pairs of macros with the same commands: each macro with the first of its kind."""
    firsts: dict[tuple[object, ...], Macro] = {}
    found = []
    for macro in sorted(macros, key=lambda each: each.name):
        shape = (macro.app, *((step.command, step.press) for step in macro.steps))
        if len(shape) == 1:
            continue
        first = firsts.setdefault(shape, macro)
        if first is not macro:
            found.append(Likeness(first, macro, tuple(_differences(first, macro))))
    return found


def _differences(first: Macro, second: Macro) -> Iterable[tuple[int, str]]:
    for number, (one, other) in enumerate(zip(first.steps, second.steps, strict=True), 1):
        for name in dict.fromkeys((*one.inputs, *one.ask, *other.inputs, *other.ask)):
            if _value(one.inputs, one.ask, name) != _value(other.inputs, other.ask, name):
                yield number, name


def _value(inputs: Mapping[str, str], ask: Mapping[str, str], name: str) -> tuple[str, ...]:
    # Two questions for the same input are the same, however they are worded.
    if name in ask:
        return ("ask",)
    return (inputs.get(name, ""),)
