"""Puts a part of a scheme back to the layers below it, or to another scheme. Value to value."""

from collections.abc import Mapping

from msgspec import Struct

from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.schemes.editing import clear_trigger, without
from olive_compass.structs import replace

_EMPTY = Scheme(app="", name="")


class Part(Struct, frozen=True):
    """What is to be reset: one command, one key, one mode, or (all empty) the whole scheme."""

    command: str = ""
    trigger: Run | None = None
    mode: str = ""


def reset(scheme: Scheme, part: Part, to: Scheme | None, keyboard: Keyboard) -> Scheme:
    """``scheme`` with the decisions of ``part`` as ``to`` has them; None: as if never made.

    Nothing outside the part changes. Raises nothing.
    """
    goal = to or _EMPTY
    if part.command:
        return _with_command(scheme, part.command, goal)
    if part.trigger is not None:
        return _with_trigger(scheme, part.trigger, goal, keyboard)
    if part.mode:
        return _with_mode(scheme, part.mode, goal)
    return replace(
        scheme,
        assign=goal.assign,
        keyless=goal.keyless,
        mute=goal.mute,
        guard=goal.guard,
        accept=goal.accept,
        order=goal.order,
    )


def _with_command(scheme: Scheme, command: str, goal: Scheme) -> Scheme:
    assign = without(scheme.assign, command)
    keyless = without(scheme.keyless, command)
    if command in goal.assign:
        assign[command] = goal.assign[command]
    if command in goal.keyless:
        keyless[command] = goal.keyless[command]
    return replace(scheme, assign=assign, keyless=keyless)


def _with_trigger(scheme: Scheme, trigger: Run, goal: Scheme, keyboard: Keyboard) -> Scheme:
    press = keyboard.press_of(trigger)
    after = clear_trigger(scheme, trigger, keyboard)
    assign = dict(after.assign)
    for command, assignments in goal.assign.items():
        same = tuple(
            replace(each, keys=keys)
            for each in assignments
            if (keys := tuple(key for key in each.keys if keyboard.press_of(key) == press))
        )
        if same:
            assign[command] = (*assign.get(command, ()), *same)

    def both(mine: object, theirs: object) -> dict[Run, Decision]:
        assert isinstance(mine, dict)
        return mine | {k: v for k, v in dict(theirs).items() if keyboard.press_of(k) == press}  # type: ignore[call-overload]

    return replace(
        after,
        assign=assign,
        mute=both(dict(after.mute), goal.mute),
        guard=both(dict(after.guard), goal.guard),
    )


def _with_mode(scheme: Scheme, mode: str, goal: Scheme) -> Scheme:
    assign: dict[str, tuple[Assignment, ...]] = {}
    for command in dict.fromkeys((*scheme.assign, *goal.assign)):
        mine, theirs = scheme.assign.get(command, ()), goal.assign.get(command, ())
        kept = [replace(each, modes=rest) for each in mine if (rest := _without(each.modes, mode))]
        kept += [replace(each, modes=(mode,)) for each in theirs if mode in each.modes]
        if kept:
            assign[command] = tuple(kept)
    return replace(
        scheme,
        assign=assign,
        mute=_table_with_mode(scheme.mute, mode, goal.mute),
        guard=_table_with_mode(scheme.guard, mode, goal.guard),
    )


def _table_with_mode(
    mine: Mapping[Run, Decision], mode: str, theirs: Mapping[Run, Decision]
) -> dict[Run, Decision]:
    """Decisions about keys with those of the other scheme in one mode."""
    found = {
        run: replace(decision, modes=rest)
        for run, decision in mine.items()
        if (rest := _without(decision.modes, mode))
    }
    for run, decision in theirs.items():
        if mode in decision.modes:
            # A decision of several modes goes back in this one only; in the others it stays one
            # decision.
            if run in found:
                modes = (*found[run].modes, mode)
            else:
                modes = (mode,)
            found[run] = replace(decision, modes=modes)
    return found


def _without(modes: tuple[str, ...], mode: str) -> tuple[str, ...]:
    return tuple(name for name in modes if name != mode)
