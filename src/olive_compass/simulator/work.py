"""Commands and macros at work on a document: started, asked, ended, taken back. It knows no keys.

Every call returns the lines that a person should see. What was done is kept as events.
"""

from collections.abc import Callable, Mapping

from msgspec import Struct

from olive_compass.core.apps.app import App, Command
from olive_compass.core.apps.modes import joined
from olive_compass.core.macros.document import Document
from olive_compass.core.macros.effects import CANCELLED, FAILED, STARTED
from olive_compass.core.macros.inputs import accepted, declared
from olive_compass.core.macros.macro import PREFIX, Macro, Step
from olive_compass.core.macros.played import Done, Played, Question
from olive_compass.core.macros.playing import Playing, World, playing
from olive_compass.core.macros.simulator import unavailable
from olive_compass.core.wording import capital, clause
from olive_compass.simulator.recorder import Recorder
from olive_compass.simulator.saying import ASKS, REMARK, TROUBLE, Line
from olive_compass.structs import replace


class _Begun(Struct, frozen=True, kw_only=True):
    """Something that is under way: how it was started, and its course."""

    command: str
    how: str
    key: str
    course: Playing
    is_macro: bool
    before: Document
    mode: str
    given: dict[str, str]


class Work:
    """What is done on a document with the commands and macros of ``world``; ``clock`` gives the time of an event."""

    def __init__(self, world: World, document: Document, clock: Callable[[], str]) -> None:
        self.world = world
        self.app: App = world.app
        self.document = document
        self.recorder = Recorder(self.app, clock)
        self.question: Question | None = None
        self._begun: _Begun | None = None
        self._before_play: Document | None = None

    def start(self, command: str, how: str = "menu", key: str = "") -> list[Line]:
        """Starts a command or a macro, and asks for the first thing that it needs."""
        macro = None
        if _is_macro(command):
            macro = self.world.macros.get(command[len(PREFIX) :])
        # Starting another command ends what asks, as applications do.
        ended = []
        if self._begun:
            ended = self.cancel()
        mode = self.document.mode
        if macro is None:
            known = self.app.catalogue.by_id.get(command)
            why = unavailable(self.app, known, mode)
            if why or known is None:
                self.recorder.note(mode, command, how, key, FAILED)
                return [*ended, Line(TROUBLE, f"{capital(why)}.")]
            macro = self._as_macro(known)
        is_macro = bool(macro.name)
        course = playing(self.world, macro, self.document)
        self._begun = _Begun(
            command=command,
            how=how,
            key=key,
            course=course,
            is_macro=is_macro,
            before=self.document,
            mode=mode,
            given={},
        )
        if is_macro:
            self._before_play = self.document
            self.recorder.note(mode, command, how, key, STARTED)
        return [*ended, *self._go_on(None)]

    def _as_macro(self, command: Command) -> Macro:
        """A command as a macro of one step, which asks for all but the selection that there is."""
        picked = bool(self.document.selection)
        asked = {i.name: "" for i in declared(command) if not (picked and i.kind == "selection")}
        step = Step(command=command.id, ask=asked)
        return Macro(app=self.app.name, name="", title=command.title, steps=(step,))

    def answer(self, text: str) -> list[Line]:
        """The answer to what is asked; a wrong one is asked again."""
        if self._begun is None or self.question is None:
            return [Line(TROUBLE, "Nothing is asked.")]
        wanted = self.question.input
        try:
            text = accepted(wanted, text or self.question.default)
        except ValueError as error:
            return [Line(TROUBLE, f"{capital(error)}."), self._asks()]
        self._begun.given[wanted.name] = text
        return self._go_on(text)

    def cancel(self) -> list[Line]:
        """Ends what asks, and throws it away; what a macro did until then stays."""
        begun, self._begun, self.question = self._begun, None, None
        if begun is None:
            return [Line(TROUBLE, "Nothing was begun.")]
        title = self.title(begun.command)
        if not begun.is_macro:
            self._note_end(begun, CANCELLED, begun.given)
            return [Line(REMARK, f"{title} was ended; nothing was changed.")]
        begun.course.close()
        text = f"{title} was stopped. What it did stays; to take it back: back"
        return [Line(REMARK, text)]

    def undo_play(self) -> list[Line]:
        """Takes back all that the last macro did, as one."""
        if self._before_play is None:
            return [Line(TROUBLE, "No macro was played.")]
        self.document, self._before_play = self._before_play, None
        return [Line(REMARK, "All that the macro did is taken back.")]

    def to_mode(self, mode: str) -> list[Line]:
        """Goes to a mode, as clicking into it would."""
        if mode not in self.app.modes:
            names = ", ".join(self.app.modes.names)
            return [Line(TROUBLE, f"{self.app.title} has no mode “{mode}”; it has {names}.")]
        self.document = replace(self.document, mode=mode)
        return [Line(REMARK, f"The mode is now {mode}.")]

    def select(self, ids: list[str]) -> list[Line]:
        """Selects things by id, as clicking them would."""
        if missing := [id_ for id_ in ids if id_ not in self.document.by_id]:
            return [Line(TROUBLE, f"The document has no {joined(missing)}.")]
        self.document = replace(self.document, selection=tuple(ids))
        return [Line(REMARK, f"Selected {joined(ids) or 'nothing'}.")]

    def close(self, origin: str) -> list[Line]:
        """Ends the session and any open question; the recording is in ``recorder.recorded``."""
        lines = []
        if self.question is not None and self._begun is not None:
            title, asks = self.title(self._begun.command), self.question.text
            self.cancel()
            kept = "nothing is lost"
            if self.recorder.recording:
                kept = "what was recorded until then is kept"
            lines.append(Line(TROUBLE, f"It ended while {title} still asked “{asks}”; {kept}."))
        if self.recorder.recording:
            lines += [line for line in self.recorder.stop(origin) if line.what == TROUBLE]
        return lines

    def title(self, command: str) -> str:
        """A command's title, or its id where the catalogue has none."""
        known = self.app.catalogue.by_id.get(command)
        if known:
            return known.title
        return command

    def _go_on(self, answer: str | None) -> list[Line]:
        """Goes on with what was begun until it asks again, or ends."""
        begun = self._begun
        assert begun is not None
        lines: list[Line] = []
        self.question = None
        try:
            event = begun.course.send(answer)
            while isinstance(event, Done):
                lines.append(self._did(begun, event))
                event = begun.course.send(None)
            self.question = event
            return [*lines, self._asks()]
        except StopIteration as end:
            played: Played = end.value
            self._begun = None
            return lines + self._ended(begun, played)

    def _did(self, begun: _Begun, done: Done) -> Line:
        self.document = done.document
        if begun.is_macro:
            if not _is_macro(done.command):
                self.recorder.note(
                    done.mode, done.command, "macro", "", done.outcome, done.inputs, done.made
                )
            return Line(REMARK, f"  {done.path}  {self.title(done.command)}: {done.says}")
        self._note_end(begun, done.outcome, done.inputs, done.made)
        return Line(REMARK, done.says)

    def _ended(self, begun: _Begun, played: Played) -> list[Line]:
        self.document = played.document
        stop = played.stopped
        if stop is None:
            title = self.title(begun.command)
            if begun.is_macro:
                return [Line(REMARK, f"{title} is played.")]
            return []
        if begun.is_macro:
            says = f"It stopped at step {stop.path}: {stop.says} To take all back: back"
            return [Line(TROUBLE, says)]
        self._note_end(begun, FAILED, begun.given)
        return [Line(TROUBLE, stop.says)]

    def _asks(self) -> Line:
        assert self.question is not None
        default = clause(" [{}]", self.question.default)
        return Line(ASKS, f"{self.question.text}{default}")

    def _note_end(
        self, begun: _Begun, outcome: str, inputs: Mapping[str, str], made: tuple[str, ...] = ()
    ) -> None:
        """Notes what became of a command that was begun."""
        self.recorder.note(
            begun.mode, begun.command, begun.how, begun.key, outcome, dict(inputs), made
        )


def _is_macro(command: str) -> bool:
    return command.startswith(PREFIX)
