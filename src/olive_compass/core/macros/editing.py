"""Edits the steps of a macro: value to value. Steps are counted from 1.

Every function raises ``ValueError`` with a sentence where it cannot do what is asked. When steps
move, references to them move along.
"""

from collections.abc import Sequence

from olive_compass.core.macros.macro import Macro, Reference, Step, reference
from olive_compass.core.wording import counted
from olive_compass.structs import replace


def step_at(macro: Macro, number: int) -> Step:
    """The step of that number."""
    if not 1 <= number <= len(macro.steps):
        has = counted(len(macro.steps), "step")
        raise ValueError(f"{macro.title} has {has} and no step {number}")
    return macro.steps[number - 1]


def with_step(macro: Macro, number: int, step: Step) -> Macro:
    """The macro with ``step`` in the place of the one of that number."""
    step_at(macro, number)
    return replace(macro, steps=(*macro.steps[: number - 1], step, *macro.steps[number:]))


def ask(macro: Macro, number: int, name: str, question: str = "") -> Macro:
    """Turns a fixed value into a question."""
    step = step_at(macro, number)
    inputs = {key: value for key, value in step.inputs.items() if key != name}
    keep = tuple(each for each in step.keep if each != name)
    step = replace(step, inputs=inputs, ask={**step.ask, name: question}, keep=keep)
    return with_step(macro, number, step)


def fix(macro: Macro, number: int, name: str, value: str) -> Macro:
    """Turns a question into a fixed value, or gives a fixed one: meant, from now on."""
    step = step_at(macro, number)
    asked = {key: text for key, text in step.ask.items() if key != name}
    # What a person has fixed is meant: cleaning must not call it chance again.
    if reference(value):
        keep = step.keep
    else:
        keep = tuple(dict.fromkeys((*step.keep, name)))
    step = replace(step, inputs={**step.inputs, name: value}, ask=asked, keep=keep)
    return with_step(macro, number, step)


def drop(macro: Macro, numbers: Sequence[int]) -> Macro:
    """Takes steps out. What later steps took from them becomes their own value or a question."""
    for number in numbers:
        step_at(macro, number)
    return rebuilt(macro, [n for n in range(1, len(macro.steps) + 1) if n not in set(numbers)])


def move(macro: Macro, number: int, to: int) -> Macro:
    """Moves a step to another place; what it needs must still come before it."""
    step_at(macro, number)
    step_at(macro, to)
    order = [n for n in range(1, len(macro.steps) + 1) if n != number]
    order.insert(to - 1, number)
    # A value can only come from a step that is done by then.
    place = {old: new for new, old in enumerate(order, 1)}
    for old in order:
        for ref in _references(macro.steps[old - 1]):
            if place.get(ref, 0) > place[old]:
                raise ValueError(f"step {old} takes a value from step {ref}, which must come first")
    return rebuilt(macro, order)


def insert(macro: Macro, at: int, step: Step) -> Macro:
    """Puts a step in so that it becomes the one of number ``at``."""
    if not 1 <= at <= len(macro.steps) + 1:
        raise ValueError(f"a step can become number 1 to {len(macro.steps) + 1}")
    order: list[int | Step] = list(range(1, len(macro.steps) + 1))
    order.insert(at - 1, step)
    return rebuilt(macro, order)


def note(macro: Macro, number: int, text: str) -> Macro:
    """Writes a note to a step; ``""`` takes it away."""
    return with_step(macro, number, replace(step_at(macro, number), note=text))


def split(macro: Macro, number: int, name: str, title: str) -> tuple[Macro, Macro]:
    """Two macros: what comes before the step, and the rest from it on, as ``name``."""
    step_at(macro, number)
    if number == 1:
        raise ValueError("before step 1 there is nothing to part from")
    count = len(macro.steps)
    tail = rebuilt(macro, list(range(number, count + 1)))
    # They were not recorded in this macro: their place in its log would be another step.
    fresh = tuple(replace(step, origin=-1) for step in tail.steps)
    head = rebuilt(macro, list(range(1, number)))
    return head, replace(macro, name=name, title=title, steps=fresh)


def join(first: Macro, second: Macro) -> Macro:
    """The first macro with the steps of the second after its own."""
    shift = len(first.steps)
    later = [
        _renumbered(step, {n: n + shift for n in range(1, len(second.steps) + 1)}, second)
        for step in second.steps
    ]
    return replace(first, steps=(*first.steps, *(replace(step, origin=-1) for step in later)))


def rebuilt(macro: Macro, order: Sequence[int | Step]) -> Macro:
    """The macro with its steps in ``order``: their old numbers, or new steps among them."""
    place = {each: n for n, each in enumerate(order, 1) if isinstance(each, int)}
    steps = [
        _renumbered(macro.steps[each - 1], place, macro) if isinstance(each, int) else each
        for each in order
    ]
    return replace(macro, steps=tuple(steps))


def _had(macro: Macro, ref: Reference) -> tuple[str, str]:
    """The value of what a reference names, and the question for it; ``""`` where there is none."""
    if not 1 <= ref.step <= len(macro.steps):
        return "", ""
    step = macro.steps[ref.step - 1]
    return step.inputs.get(ref.input, ""), step.ask.get(ref.input, "")


def _renumbered(step: Step, place: dict[int, int], macro: Macro) -> Step:
    """The step with its references moved; one to a step that is gone gets its value or asks."""
    inputs, asked = dict(step.inputs), dict(step.ask)
    for name, value in step.inputs.items():
        ref = reference(value)
        if ref is None:
            continue
        if ref.step in place:
            inputs[name] = str(replace(ref, step=place[ref.step]))
            continue
        # The value that it would have had is the best guess; where that is not known, a person is asked.
        old, question = _had(macro, ref)
        if old and not reference(old) and not ref.shift:
            inputs[name] = old
        else:
            del inputs[name]
            asked[name] = question
    if inputs == step.inputs and asked == step.ask:
        return step
    return replace(step, inputs=inputs, ask=asked)


def _references(step: Step) -> list[int]:
    return [ref.step for value in step.inputs.values() if (ref := reference(value))]
