"""Takes a macro from one application to another, by a table of commands."""

from collections.abc import Mapping

from msgspec import Struct

from olive_compass.core.apps.app import App, Command
from olive_compass.core.macros.editing import rebuilt
from olive_compass.core.macros.inputs import declared
from olive_compass.core.macros.macro import Macro, Step
from olive_compass.structs import replace


class Left(Struct, frozen=True, kw_only=True):
    """A step, or an input of one, that has no counterpart in the other application."""

    step: int
    command: str
    input: str
    why: str


def translated(macro: Macro, app: App, table: Mapping[str, str]) -> tuple[Macro, tuple[Left, ...]]:
    """``macro`` for ``app``, and what of it has no counterpart there.

    ``table`` gives the other command for each id; one that it does not name stays as it is.
    Steps without a counterpart are left out; so are inputs that the other command lacks.
    """
    known = app.catalogue.by_id
    left: list[Left] = []
    kept: list[int] = []
    steps = list(macro.steps)
    for number, step in enumerate(macro.steps, 1):
        # A press is of the keyboard and a called macro of the desk: both are as they were.
        if step.press or step.calls:
            kept.append(number)
            continue
        id_ = table.get(step.command, step.command)
        if id_ not in known:
            why = f"the table gives “{id_}”, which {app.title} does not have"
            if step.command not in table:
                why = f"{app.title} has no such command, and the table does not name it"
            left.append(Left(step=number, command=step.command, input="", why=why))
            continue
        steps[number - 1], lost = _as_step_of(known[id_], step)
        why = f"{known[id_].title} asks for no such thing"
        left += [Left(step=number, command=step.command, input=name, why=why) for name in lost]
        kept.append(number)
    whole = replace(macro, steps=tuple(steps))
    # What took a value from a step that is gone gets that value, or is asked for.
    after = rebuilt(whole, kept)
    modes = tuple(mode for mode in macro.modes if mode in app.modes)
    fresh = tuple(replace(step, origin=-1) for step in after.steps)
    return replace(after, app=app.name, steps=fresh, modes=modes, version=app.version), tuple(left)


def _as_step_of(command: Command, step: Step) -> tuple[Step, list[str]]:
    """A step with another command, and the inputs of it that this one does not ask for."""
    names = {each.name for each in declared(command)}
    inputs = {name: value for name, value in step.inputs.items() if name in names}
    ask = {name: text for name, text in step.ask.items() if name in names}
    lost = [name for name in (*step.inputs, *step.ask) if name not in names]
    return replace(step, command=command.id, inputs=inputs, ask=ask), lost
