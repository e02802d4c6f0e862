"""Plays a macro on a document: pure, step by step, asking where it must.

``playing`` is a generator that yields what was done and what is asked, and returns the whole;
``play`` drives it with answers that are known beforehand.
"""

from collections.abc import Callable, Generator, Iterable, Mapping
from itertools import chain
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.apps.app import App
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.macros.document import Document
from olive_compass.core.macros.inputs import (
    Input,
    accepted,
    declared,
    plain_number,
    point_of,
)
from olive_compass.core.macros.macro import Macro, Step, reference
from olive_compass.core.macros.simulator import FAILED, perform, unavailable
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.wording import capital
from olive_compass.structs import replace

#: How deep macros may call each other.
DEEPEST = 20


class World(Struct, frozen=True):
    """What a play may use: the application, its macros, and what a key does in a mode."""

    app: App
    macros: Mapping[str, Macro] = MappingProxyType({})
    resolve: Callable[[str, str], str] = lambda _press, _mode: ""


class Question(Struct, frozen=True, kw_only=True):
    """Something that a play asks. ``path`` is the step, ``2.1`` in a macro that step 2 plays."""

    path: str
    command: str
    input: Input
    text: str
    default: str = ""


class Done(Struct, frozen=True, kw_only=True):
    """A step that was carried out: its inputs, what came of it, the document after it."""

    path: str
    command: str
    inputs: Mapping[str, str]
    outcome: str
    says: str
    made: tuple[str, ...] = ()
    mode: str = ""
    depth: int = 0
    document: Document = Document()


class Stop(Struct, frozen=True, kw_only=True):
    """Where a play stopped and why: ``what`` is ``failed`` or ``waits``."""

    path: str
    command: str
    what: str
    says: str


class Played(Struct, frozen=True):
    """A play: what was done, the document after it, and where it stopped (None: at its end)."""

    document: Document
    done: tuple[Done, ...]
    stopped: Stop | None = None


def world_of(keymap: Keymap, macros: Mapping[str, Macro]) -> World:
    """What a play may use where the keys of ``keymap`` count."""

    def resolve(press: str, mode: str) -> str:
        outcome = keymap.decide(read_trigger(press, keymap.app.rules.typed), mode)
        if outcome.winners:
            return outcome.winners[0].command
        return ""

    return World(keymap.app, macros, resolve)


Playing = Generator[Question | Done, str | None, Played]


def play(
    world: World,
    macro: Macro,
    document: Document,
    answers: Mapping[str, str] = MappingProxyType({}),
) -> Played:
    """Plays ``macro`` with known answers, by ``2.at`` (step and input) or by input alone.

    It stops where an answer is missing or is none, with the document as it was by then.
    """
    course = playing(world, macro, document)
    answer: str | None = None
    try:
        while True:
            event = course.send(answer)
            answer = None
            if isinstance(event, Question):
                known = f"{event.path}.{event.input.name}"
                answer = answers.get(known, answers.get(event.input.name))
    except StopIteration as end:
        played: Played = end.value
        return played


def playing(world: World, macro: Macro, document: Document) -> Playing:
    """The course of a play; an answer of None to a question stops it."""
    return _steps(world, macro, document, "", (macro.name,))


def _steps(
    world: World, macro: Macro, document: Document, before: str, calls: tuple[str, ...]
) -> Playing:
    done: list[Done] = []
    values: dict[int, Mapping[str, str]] = {}
    made: dict[int, tuple[str, ...]] = {}
    for number, step in enumerate(macro.steps, 1):
        path = f"{before}{number}"
        # A press is looked up at every play: what it starts may have changed since it was recorded.
        if step.press:
            id_ = world.resolve(step.press, document.mode)
        else:
            id_ = step.command
        stop = _cannot(world, step, id_, path, document, calls)
        if stop:
            return Played(document, tuple(done), stop)
        if called := world.macros.get(replace(step, command=id_).calls):
            says = f"Plays {called.title}."
            done.append(
                Done(
                    path=path,
                    command=id_,
                    inputs={},
                    outcome="done",
                    says=says,
                    made=(),
                    mode=document.mode,
                    depth=0,
                    document=document,
                )
            )
            yield done[-1]
            # The macro that is played asks for itself: its questions are numbered below this step.
            inner = yield from _steps(world, called, document, f"{path}.", (*calls, called.name))
            done += [replace(each, depth=each.depth + 1) for each in inner.done]
            made[number] = tuple(chain.from_iterable(each.made for each in inner.done))
            document = inner.document
            if inner.stopped:
                return Played(document, tuple(done), inner.stopped)
            continue
        inputs = declared(world.app.catalogue.by_id[id_])
        given = yield from _all_given(step, inputs, path, document, values, made)
        if isinstance(given, Stop):
            return Played(document, tuple(done), given)
        mode = document.mode
        effect = perform(world.app, world.app.catalogue.by_id[id_], given, document)
        if effect.outcome == FAILED:
            return Played(
                document, tuple(done), Stop(path=path, command=id_, what=FAILED, says=effect.says)
            )
        document = effect.document
        values[number], made[number] = given, effect.made
        done.append(
            Done(
                path=path,
                command=id_,
                inputs=given,
                outcome=effect.outcome,
                says=effect.says,
                made=effect.made,
                mode=mode,
                depth=0,
                document=document,
            )
        )
        yield done[-1]
    return Played(document, tuple(done))


def _cannot(
    world: World, step: Step, id_: str, path: str, document: Document, calls: tuple[str, ...]
) -> Stop | None:
    """Why a step cannot be played here, where the command is ``id_``; None: it can be tried."""
    if step.press and not id_:
        return Stop(
            path=path,
            command=step.press,
            what=FAILED,
            says=f"{step.press} does nothing in {document.mode}.",
        )
    called = world.macros.get(replace(step, command=id_).calls)
    if called is not None:
        says = _turns_round(called, calls)
    else:
        says = _unplayable(world, step, id_, document)
    if says:
        return Stop(path=path, command=id_, what=FAILED, says=says)
    return None


def _turns_round(called: Macro, calls: tuple[str, ...]) -> str:
    """Why a macro cannot be played within those of ``calls``, ``""``: it can.

    A ring of macros would play for ever; a long way down is one by mistake.
    """
    if called.name not in calls and len(calls) < DEEPEST:
        return ""
    return f"{called.title} would play itself: {' > '.join((*calls, called.name))}."


def _unplayable(world: World, step: Step, id_: str, document: Document) -> str:
    """Why the command of a step cannot be started with its inputs, ``""``: it can."""
    command = world.app.catalogue.by_id.get(id_)
    why = unavailable(world.app, command, document.mode)
    if why or command is None:
        return f"{capital(why)}."
    known = {each.name for each in declared(command)}
    odd = next((name for name in (*step.inputs, *step.ask) if name not in known), "")
    if odd:
        return f"{command.title} has no input “{odd}”."
    return ""


def _all_given(
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
