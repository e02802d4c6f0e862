"""What was done in an application, event by event, and the steps that can be made of it."""

from collections.abc import Iterable, Mapping, Sequence
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.apps.modes import ROOT
from olive_compass.core.apps.rules import TAKES
from olive_compass.core.macros.macro import Macro, Reference, Step
from olive_compass.core.macros.played import Played

#: How a command can be started.
WAYS = ("key", "menu", "toolbar", "swipe", "macro", "tray", *TAKES)


class Event(Struct, frozen=True, kw_only=True):
    """One line of a log: a command that was started, how, with which inputs, what came of it.

    ``how`` is one of ``WAYS``; ``key`` the trigger, where there was one; ``made`` the ids of what
    it made; ``line`` its line in the log.
    """

    time: str
    app: str
    version: str
    mode: str
    command: str
    how: str = "menu"
    key: str = ""
    inputs: Mapping[str, str] = MappingProxyType({})
    outcome: str = "done"
    made: tuple[str, ...] = ()
    line: int = 0


def steps_of(events: Iterable[Event], flat: bool = False) -> tuple[Step, ...]:
    """The steps that repeat ``events``.

    What a macro did is one step that plays it; with ``flat`` its own steps instead. Things that
    the recording itself made are referred to by the step that made them.
    """
    steps: list[Step] = []
    makers: dict[str, int] = {}
    called = False
    for event in events:
        by_macro = event.how == "macro"
        is_call = event.command.startswith("macro.")
        if flat and is_call:
            continue
        if by_macro and called and not flat:
            # What the macro did is in the step that plays it; without that step it is kept.
            makers.update(dict.fromkeys(event.made, len(steps)))
            continue
        called = is_call
        inputs = {name: _made_here(value, makers) for name, value in event.inputs.items()}
        ended = ""
        if event.outcome in ("cancelled", "failed"):
            ended = event.outcome
        steps.append(Step(command=event.command, inputs=inputs, ended=ended))
        makers.update(dict.fromkeys(event.made, len(steps)))
    return tuple(steps)


def recorded(
    app: str, name: str, title: str, events: Sequence[Event], origin: str, flat: bool = False
) -> Macro:
    """A macro of ``events``; it starts in the mode in which the first of them was done."""
    first = events[0] if events else None
    modes = (first.mode,) if first and first.mode not in ("", ROOT) else ()
    version = ""
    if first:
        version = first.version
    steps = steps_of(events, flat)
    return Macro(
        app=app,
        name=name,
        title=title,
        steps=steps,
        does="",
        modes=modes,
        version=version,
        recorded=origin,
    )


def events_of(played: Played, app: str, version: str, time: str) -> list[Event]:
    """What a play adds to a log: its steps, started by the macro."""
    return [
        Event(
            time=time,
            app=app,
            version=version,
            mode=done.mode,
            command=done.command,
            how="macro",
            key="",
            inputs=done.inputs,
            outcome=done.outcome,
            made=done.made,
        )
        for done in played.done
        if not done.command.startswith("macro.")
    ]


def _made_here(value: str, makers: Mapping[str, int]) -> str:
    """A selection of things that one recorded step made, as a reference to that step."""
    ids = value.split()
    steps = {makers.get(id_, 0) for id_ in ids}
    if len(steps) == 1 and steps != {0}:
        number = steps.pop()
        if sorted(ids) == sorted(id_ for id_, maker in makers.items() if maker == number):
            return str(Reference(number))
    return value
