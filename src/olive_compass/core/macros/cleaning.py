"""Finds steps of a recording that are probably accidental, and values that belong to one document."""

import re
from collections.abc import Iterator, Mapping

from msgspec import Struct

from olive_compass.core.apps.app import App, Command
from olive_compass.core.apps.modes import joined
from olive_compass.core.macros.acts import LOOKS, act_of
from olive_compass.core.macros.editing import ask, drop, with_step
from olive_compass.core.macros.effects import CANCELLED, FAILED
from olive_compass.core.macros.inputs import declared, plain_number, point_of
from olive_compass.core.macros.macro import Macro, Reference, Step, reference
from olive_compass.structs import replace

#: What a suspicion is about.
VIEWS, UNDONE, TWICE, ENDED, ESCAPE, POINT, PICKED, TEXT, FILE = (
    "view changed and changed back",
    "undone work",
    "same setting twice",
    "did not come to its end",
    "escape",
    "point of one document",
    "choice of things in one document",
    "text of one document",
    "file of one document",
)

#: Kinds of inputs that tie a macro to one document, and what the suspicion is called.
TIES = {"point": POINT, "selection": PICKED, "text": TEXT}


class Suspect(Struct, frozen=True, kw_only=True):
    """A step that looks like chance (``input`` is ``""``), or an input that ties it down."""

    step: int
    input: str
    what: str
    says: str

    @property
    def is_chance(self) -> bool:
        return not self.input


class Tidied(Struct, frozen=True):
    """A macro with proposals carried out, and a sentence on each."""

    macro: Macro
    changes: tuple[str, ...]


def suspects(app: App, macro: Macro) -> tuple[Suspect, ...]:
    """What is pointed out in ``macro``, by step."""
    commands = [app.catalogue.by_id.get(step.command) for step in macro.steps]
    found = [*_chance(commands, macro), *_ties(commands, macro)]
    chance = {each.step for each in found if each.is_chance}
    kept = [each for each in found if each.is_chance or each.step not in chance]
    return tuple(sorted(kept, key=lambda each: (each.step, each.input)))


def ties(command: Command | None, step: Step) -> dict[str, str]:
    """The fixed inputs of a step that tie it to one document: name and what it is."""
    if command is None:
        return {}
    kinds = {each.name: each.kind for each in declared(command)}
    fixed = {name for name, value in step.inputs.items() if value and not reference(value)}
    # In the order of the step.
    tied = (name for name in step.inputs if name in fixed and name not in step.keep)
    return {name: TIES[kinds[name]] for name in tied if kinds.get(name) in TIES}


class _Base(Struct, frozen=True, kw_only=True):
    """The first point of a macro: the step (counted from 1) and the input that ask for it, and where it was."""

    step: int
    input: str
    point: tuple[float, float]

    def shifted_to(self, point: tuple[float, float]) -> str:
        """Another point, as far from this one as it was."""
        (x, y), (to_x, to_y) = self.point, point
        shift = (float(plain_number(to_x - x)), float(plain_number(to_y - y)))
        return str(Reference(self.step, self.input, shift if any(shift) else None))


def tidied(app: App, macro: Macro) -> Tidied:
    """``macro`` without what is chance, and with questions for what ties it to one document.

    The first point is asked for and later ones are taken from it, as far away as they were.
    """
    found = suspects(app, macro)
    chance = [each for each in found if each.is_chance]
    changes = [f"step {each.step} goes: {each.says}" for each in chance]
    gone = {each.step for each in chance}
    place = _numbers_without(macro, gone)
    after = drop(macro, sorted(gone))
    base: _Base | None = None
    for each in found:
        if each.is_chance:
            continue
        number = place[each.step]
        value = after.steps[number - 1].inputs[each.input]
        point = None
        if each.what == POINT:
            point = _point_in(value)
            if point is None:
                continue
        # A drawing is moved as a whole: where its first point goes, the others follow.
        if point and base:
            taken = base.shifted_to(point)
            after = _with_input(after, number, each.input, taken)
            changes.append(f"step {each.step}: {each.input} goes by step {base.step}, {taken}")
            continue
        if point:
            base = _Base(step=number, input=each.input, point=point)
        after = ask(after, number, each.input)
        changes.append(f"step {each.step}: {each.input} is asked for, no longer “{value}”")
    return Tidied(after, tuple(changes))


def _numbers_without(macro: Macro, gone: set[int]) -> dict[int, int]:
    """The numbers of the steps that stay, each with its number once the others are gone."""
    kept = [n for n in range(1, len(macro.steps) + 1) if n not in gone]
    return {n: now for now, n in enumerate(kept, 1)}


def _point_in(value: str) -> tuple[float, float] | None:
    """The point that a value is, None: it is none."""
    try:
        return point_of(value)
    except ValueError:
        return None


def _with_input(macro: Macro, number: int, name: str, value: str) -> Macro:
    """The macro with another value for an input of a step."""
    step = macro.steps[number - 1]
    return with_step(macro, number, replace(step, inputs={**step.inputs, name: value}))


def _chance(commands: list[Command | None], macro: Macro) -> list[Suspect]:
    """The steps that look like chance, each with the first reason that was found."""
    found: dict[int, Suspect] = {}

    def suspect(number: int, what: str, says: str) -> None:
        found.setdefault(number, Suspect(step=number, input="", what=what, says=says))

    verbs = [act_of(command).verb if command else "" for command in commands]
    titles = [command.title if command else "it" for command in commands]
    for n, (step, verb, title) in enumerate(zip(macro.steps, verbs, titles, strict=True), 1):
        if step.ended == CANCELLED:
            suspect(n, ENDED, f"{title} was cancelled")
        elif step.ended == FAILED:
            suspect(n, ENDED, f"{title} {FAILED}")
        elif verb == "cancel":
            suspect(n, ESCAPE, f"{title} ends what was begun, and nothing was")
    _taken_back(verbs, found)
    left = [n for n in range(1, len(verbs) + 1) if n not in found]
    for n, others in _viewed_again(commands, left):
        suspect(n, VIEWS, f"with step {others} the view is what it was before")
    for n, again in _set_again(verbs, macro, left):
        suspect(n, TWICE, f"step {again} sets {titles[again - 1]} again before it was used")
    return list(found.values())


def _viewed_again(commands: list[Command | None], left: list[int]) -> Iterator[tuple[int, str]]:
    """The steps that together leave the view as it was, each with the others in words."""
    for stretch in _same_views(commands, left):
        for n in stretch:
            yield n, joined(str(other) for other in stretch if other != n)


def _set_again(verbs: list[str], macro: Macro, left: list[int]) -> Iterator[tuple[int, int]]:
    """The steps that set something which a later step sets again before it was used, and that step."""
    last_set: dict[str, int] = {}
    for n in left:
        command = macro.steps[n - 1].command
        if verbs[n - 1] == "set":
            if command in last_set:
                yield last_set[command], n
            last_set[command] = n
        elif verbs[n - 1] not in LOOKS:
            # Something was done with what had been set: setting it again has a reason now.
            last_set.clear()


def _taken_back(verbs: list[str], found: dict[int, Suspect]) -> None:
    """Adds the steps that an undo takes back, and the undo; what was done again is no chance."""
    changing: list[int] = []
    undone: list[int] = []
    for n, verb in enumerate(verbs, 1):
        if n in found:
            continue
        if verb == "undo" and changing:
            last = changing.pop()
            undone.append(last)
            found[last] = Suspect(step=last, input="", what=UNDONE, says=f"step {n} undoes it")
            found[n] = Suspect(step=n, input="", what=UNDONE, says=f"it takes step {last} back")
        elif verb == "redo" and undone:
            # Done again: then neither the undoing nor the work was chance, but this pair goes.
            last = undone.pop()
            took = next(k for k, s in found.items() if s.says == f"it takes step {last} back")
            del found[last]
            found[n] = Suspect(
                step=n, input="", what=UNDONE, says=f"it only takes step {took} back"
            )
            changing.append(last)
        elif verb not in (*LOOKS, "undo", "redo", "select", "save", ""):
            changing.append(n)


class _Look(Struct, frozen=True):
    """What is seen after a step: the view, how far it is zoomed, and the views before it."""

    shown: tuple[str, ...] = ("the first",)
    zoom: int = 0

    def after(self, command: Command | None) -> "_Look | None":
        """What is seen after a command, None: it changes no view."""
        if command is None:
            return None
        act = act_of(command)
        if act.verb in ("view", "show"):
            return _Look((*self.shown, command.title), self.zoom)
        if act.verb == "back" and len(self.shown) > 1:
            return _Look(self.shown[:-1], self.zoom)
        if act.verb == "zoom" and act.detail.startswith("-"):
            return _Look(self.shown, self.zoom - 1)
        if act.verb == "zoom":
            return _Look(self.shown, self.zoom + 1)
        return None

    def is_like(self, other: "_Look") -> bool:
        """Whether the same is seen, whatever was seen before it."""
        return (self.shown[-1], self.zoom) == (other.shown[-1], other.zoom)


def _same_views(commands: list[Command | None], left: list[int]) -> Iterator[list[int]]:
    """Stretches of steps at whose end the view is what it was at their beginning: those of them that changed it."""
    looks, steps = [_Look()], [0]
    for n in left:
        look = looks[-1].after(commands[n - 1])
        if look is None:
            continue
        same = [k for k, before in enumerate(looks) if look.is_like(before)]
        if not same:
            looks.append(look)
            steps.append(n)
            continue
        # The steps between are found; what follows is held against the look before them.
        after = same[-1] + 1
        yield [*steps[after:], n]
        # The views that can be gone back to are those of now.
        looks[after - 1 :] = [look]
        del steps[after:]


def _ties(commands: list[Command | None], macro: Macro) -> list[Suspect]:
    found = []
    for n, (command, step) in enumerate(zip(commands, macro.steps, strict=True), 1):
        for name, what in ties(command, step).items():
            file = what == TEXT and re.search(
                r"[/\\]|\w\.[A-Za-z][A-Za-z0-9]{1,4}$", step.inputs[name]
            )
            what = FILE if file else what
            found.append(Suspect(step=n, input=name, what=what, says=f"{name} is a {what}"))
    return found


def by_step(found: tuple[Suspect, ...]) -> Mapping[int, list[Suspect]]:
    """Suspicions by the number of their step."""
    result: dict[int, list[Suspect]] = {}
    for each in found:
        result.setdefault(each.step, []).append(each)
    return result
