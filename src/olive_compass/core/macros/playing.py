"""Plays a macro on a document: pure, step by step, asking where it must.

``playing`` is a generator that yields what was done and what is asked, and returns the whole;
``play`` drives it with answers that are known beforehand.
"""

from collections.abc import Callable, Generator, Mapping
from itertools import chain
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.apps.app import App
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.macros.document import Document
from olive_compass.core.macros.effects import DONE, FAILED
from olive_compass.core.macros.given import all_given
from olive_compass.core.macros.inputs import declared
from olive_compass.core.macros.macro import Macro, Step
from olive_compass.core.macros.played import Done, Played, Question, Stop
from olive_compass.core.macros.simulator import perform, unavailable
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


def world_of(keymap: Keymap, macros: Mapping[str, Macro]) -> World:
    """What a play may use where the keys of ``keymap`` count."""

    def resolve(press: str, mode: str) -> str:
        outcome = keymap.decide(read_trigger(press, keymap.app.rules.typed), mode)
        if outcome.winners:
            return outcome.winners[0].command
        return ""

    return World(keymap.app, macros, resolve)


#: What is done and asked one after another, with answers in return: a whole play, and one step of it (why it stops).
Playing = Generator[Question | Done, str | None, Played]
Course = Generator[Question | Done, str | None, Stop | None]


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
    return _Course(world, document, (macro.name,)).steps(macro)


class _Course:
    """A macro that is being played: the document so far, the steps done, and the values of each step by its number.

    ``calls`` are the names of the macros that play it, its own at the end; ``before`` is what stands before the
    numbers of its steps.
    """

    def __init__(
        self, world: World, document: Document, calls: tuple[str, ...], before: str = ""
    ) -> None:
        self.world = world
        self.document = document
        self.calls = calls
        self.before = before
        self.done: list[Done] = []
        self.values: dict[int, Mapping[str, str]] = {}
        self.made: dict[int, tuple[str, ...]] = {}

    def steps(self, macro: Macro) -> Playing:
        """All steps in their order, until one of them stops."""
        stopped = None
        for number, step in enumerate(macro.steps, 1):
            stopped = yield from self._step(number, step)
            if stopped:
                break
        return Played(self.document, tuple(self.done), stopped)

    def _step(self, number: int, step: Step) -> Course:
        path = f"{self.before}{number}"
        id_ = step.command
        # A press is looked up at every play: what it starts may have changed since it was recorded.
        if step.press:
            id_ = self.world.resolve(step.press, self.document.mode)
        stop = _cannot(self.world, step, id_, path, self.document, self.calls)
        if stop:
            return stop
        called = self.world.macros.get(replace(step, command=id_).calls)
        if called:
            return (yield from self._call(number, path, id_, called))
        return (yield from self._do(number, path, id_, step))

    def _call(self, number: int, path: str, id_: str, called: Macro) -> Course:
        """Plays another macro as a step of this one."""
        begins = Done(
            path=path,
            command=id_,
            inputs={},
            outcome=DONE,
            says=f"Plays {called.title}.",
            mode=self.document.mode,
            document=self.document,
        )
        self.done.append(begins)
        yield begins
        # The macro that is played asks for itself: its questions are numbered below this step.
        course = _Course(self.world, self.document, (*self.calls, called.name), f"{path}.")
        inner = yield from course.steps(called)
        self.done += [replace(each, depth=each.depth + 1) for each in inner.done]
        self.made[number] = tuple(chain.from_iterable(each.made for each in inner.done))
        self.document = inner.document
        return inner.stopped

    def _do(self, number: int, path: str, id_: str, step: Step) -> Course:
        """Does the command of a step, once all its inputs are given."""
        command = self.world.app.catalogue.by_id[id_]
        given = yield from all_given(
            step, declared(command), path, self.document, self.values, self.made
        )
        if isinstance(given, Stop):
            return given
        effect = perform(self.world.app, command, given, self.document)
        if effect.outcome == FAILED:
            return Stop(path=path, command=id_, what=FAILED, says=effect.says)
        done = Done(
            path=path,
            command=id_,
            inputs=given,
            outcome=effect.outcome,
            says=effect.says,
            made=effect.made,
            mode=self.document.mode,
            document=effect.document,
        )
        self.document = effect.document
        self.values[number], self.made[number] = given, effect.made
        self.done.append(done)
        yield done
        return None


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
