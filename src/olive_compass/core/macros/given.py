"""The values of a step's inputs: fixed, taken from an earlier step, or asked for."""

from collections.abc import Generator, Iterable, Mapping

from olive_compass.core.macros.document import Document
from olive_compass.core.macros.effects import FAILED
from olive_compass.core.macros.inputs import Input, accepted, plain_number, point_of
from olive_compass.core.macros.macro import Step, reference
from olive_compass.core.macros.played import Done, Question, Stop


def all_given(
    step: Step,
    inputs: Iterable[Input],
    path: str,
    document: Document,
    values: Mapping[int, Mapping[str, str]],
    made: Mapping[int, tuple[str, ...]],
) -> Generator[Question | Done, str | None, dict[str, str] | Stop]:
    """The values of a step's inputs by name, or why it cannot go on."""
    found: dict[str, str] = {}
    for each in inputs:
        given = yield from _given(step, each, path, document, values, made)
        if isinstance(given, Stop):
            return given
        if given is not None:
            found[each.name] = given
    return found


def _given(
    step: Step,
    each: Input,
    path: str,
    document: Document,
    values: Mapping[int, Mapping[str, str]],
    made: Mapping[int, tuple[str, ...]],
) -> Generator[Question | Done, str | None, str | Stop | None]:
    """The value of one input: fixed, taken from an earlier step, or asked for."""
    default = ""
    if each.kind == "selection":
        default = " ".join(document.selection)
    if each.name in step.inputs:
        text = step.inputs[each.name]
        taken = _taken(text, values, made)
        if taken is None:
            says = f"{text} names nothing that an earlier step has."
            return Stop(path=path, command=step.command, what=FAILED, says=says)
        return _accepted(step, each, path, taken, taken)
    if each.name not in step.ask:
        # What is selected is what the command would take by hand as well.
        if default:
            return default
        says = f"It waits for {each.name} ({each.kind}), and no question asks for it."
        return Stop(path=path, command=step.command, what="waits", says=says)
    text = step.ask[each.name] or each.question
    answer = yield Question(path=path, command=step.command, input=each, text=text, default=default)
    if answer is None:
        return Stop(
            path=path,
            command=step.command,
            what="waits",
            says=f"It asks: {text} ({each.name}, {each.kind})",
        )
    return _accepted(step, each, path, answer or default, answer)


def _accepted(step: Step, each: Input, path: str, value: str, given: str) -> str | Stop:
    """The value as the input takes it, or why it does not; ``given`` is what a person sees of it."""
    try:
        return accepted(each, value)
    except ValueError as error:
        says = f"{each.name} “{given}”: {error}."
        return Stop(path=path, command=step.command, what=FAILED, says=says)


def _taken(
    text: str, values: Mapping[int, Mapping[str, str]], made: Mapping[int, tuple[str, ...]]
) -> str | None:
    """A value with its reference looked up; None where there is nothing of that name."""
    ref = reference(text)
    if ref is None:
        return text
    if not ref.input:
        # Without an input it is what that step made, such as the name that it placed.
        return " ".join(made.get(ref.step, ())) or None
    value = values.get(ref.step, {}).get(ref.input)
    if value is None or ref.shift is None:
        return value
    try:
        x, y = point_of(value)
    except ValueError:
        return None
    return f"{plain_number(x + ref.shift[0])},{plain_number(y + ref.shift[1])}"
