"""A session at the simulator: presses in, what fired and why out. It knows no terminal.

Every call returns the lines that a person should see. What was done is kept as events.
"""

from collections.abc import Callable, Mapping
from types import MappingProxyType

from msgspec import Struct

from olive_compass.core.apps.app import App, Command
from olive_compass.core.apps.modes import joined
from olive_compass.core.apps.trays import PREFIX as TRAY
from olive_compass.core.keys.kinds import kind_of
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.core.macros.document import Document
from olive_compass.core.macros.inputs import accepted, declared
from olive_compass.core.macros.macro import PREFIX, Macro, Step
from olive_compass.core.macros.playing import Done, Played, Playing, Question, playing, world_of
from olive_compass.core.macros.simulator import CANCELLED, DONE, FAILED, STARTED, unavailable
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import (
    CHOICE,
    MUTED,
    NOTHING,
    STARTS,
    Happens,
    Keymap,
    Outcome,
)
from olive_compass.core.usage.counting import tally_of
from olive_compass.core.usage.tally import Tally, join
from olive_compass.core.wording import capital, clause
from olive_compass.counts import parse_count
from olive_compass.simulator.recorder import Recorder
from olive_compass.simulator.saying import (
    ASKS,
    FIRED,
    REMARK,
    TROUBLE,
    WHY,
    Line,
    offered,
    reason,
    waiting,
)
from olive_compass.simulator.trays import OpenTray, listed, opened
from olive_compass.simulator.trays import pressed as on_tray
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


class Session:
    """The pretend application at work: a document, the keys of ``keymap``, and its macros.

    ``where`` says in words where a claim stands; ``clock`` gives the time of an event; ``past`` is
    what was counted of earlier sessions, for trays that fill themselves.
    """

    def __init__(
        self,
        keymap: Keymap,
        macros: Mapping[str, Macro],
        document: Document,
        clock: Callable[[], str],
        where: Callable[[Claim], str],
        past: Tally = MappingProxyType({}),
    ) -> None:
        self.keymap = keymap
        self.app: App = keymap.app
        self.world = world_of(keymap, macros)
        self.document = document
        self.where = where
        self.recorder = Recorder(self.app, clock)
        self.past = past
        self.open: OpenTray | None = None
        self.pending: tuple[Stroke, ...] = ()
        self.question: Question | None = None
        self.choices: tuple[Claim, ...] = ()
        self._begun: _Begun | None = None
        self._before_play: Document | None = None

    def press(self, run: Run) -> list[Line]:
        """Strokes one after another, and then nothing more: a run that waits is ended."""
        lines = []
        for stroke in run.strokes:
            lines += self.stroke(stroke)
        return lines + self.end_run()

    def stroke(self, stroke: Stroke) -> list[Line]:
        """One stroke: it fires something, or the session waits for more."""
        run = Run((stroke,))
        if self._begun:
            if str(run) == "Escape":
                return self.cancel()
            assert self.question
            return [Line(ASKS, f"It still asks: {self.question.text} (Escape ends it)")]
        if self.choices:
            number = _number_of(run)
            if 1 <= number <= len(self.choices):
                return self.choose(number)
            # Anything else is pressed as if nothing had been offered.
            self.choices = ()
        if self.open is not None:
            return self._on_tray(self.open, run)
        if self.pending and str(run) == self.app.rules.closing_key:
            return self.end_run()
        strokes = (*self.pending, stroke)
        outcome = self.keymap.decide(Run(strokes), self.document.mode)
        if outcome.longer:
            self.pending = strokes
            return [waiting(Run(strokes), outcome)]
        if outcome.what == NOTHING and self.pending:
            # The run goes no further: what was typed before fires alone, then the new stroke.
            return [*self.end_run(), *self.stroke(stroke)]
        self.pending = ()
        return self._come(Run(strokes), outcome)

    def end_run(self) -> list[Line]:
        """Nothing more is typed: what a run in progress has by now fires."""
        if not self.pending:
            return []
        run, self.pending = Run(self.pending), ()
        outcome = self.keymap.decide(run, self.document.mode)
        if not outcome.winners:
            return [Line(TROUBLE, f"{run} alone does nothing in {self.document.mode}.")]
        what: Happens = STARTS
        if len(outcome.winners) > 1:
            what = CHOICE
        if outcome.winners[0].mutes:
            what = MUTED
        return self._come(run, replace(outcome, what=what, longer=()))

    def choose(self, number: int) -> list[Line]:
        """Takes one of a choice, or an item of an open tray, counted from 1."""
        if self.open is not None and 1 <= number <= len(self.open.items):
            return self._take(self.open, self.open.items[number - 1])
        if not 1 <= number <= len(self.choices):
            return [Line(TROUBLE, "There is no such choice.")]
        claim, self.choices = self.choices[number - 1], ()
        return self.start(claim.command, "key", str(claim.trigger))

    def start(self, command: str, how: str = "menu", key: str = "") -> list[Line]:
        """Starts a command or a macro, and asks for the first thing that it needs."""
        if command.startswith(TRAY) and (tray := self._tray(command, key)):
            return self._open(tray, how)
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

    def _tray(self, command: str, key: str) -> OpenTray | None:
        done = join(self.past, tally_of(self.recorder.events, "this session", ""))
        return opened(self.app, command, self.keymap, done, key)

    def _open(self, tray: OpenTray, how: str) -> list[Line]:
        """Opens a tray, unless it is switched off."""
        mode = self.document.mode
        why = unavailable(self.app, self.app.catalogue.by_id.get(tray.tray.id), mode)
        outcome = FAILED if why else DONE
        self.recorder.note(mode, tray.tray.id, how, tray.key, outcome)
        if why:
            return [Line(TROUBLE, f"{capital(why)}.")]
        if tray.items:
            self.open = tray
        else:
            self.open = None
        return listed(self.app, tray)

    def _on_tray(self, tray: OpenTray, run: Run) -> list[Line]:
        """A press while a tray is open."""
        found = on_tray(self.app, tray, run)
        if found.starts:
            return self._take(tray, found.starts)
        self.open = found.left
        if found.passed_on:
            return self.stroke(run.strokes[0])
        return list(found.lines)

    def _take(self, tray: OpenTray, item: str) -> list[Line]:
        """Starts an item of an open tray."""
        self.open = None
        fired = Line(FIRED, f"{self.app.shown(item)}, from {tray.tray.title}")
        return [fired, *self.start(item, "tray", tray.key)]

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

    def _come(self, run: Run, outcome: Outcome) -> list[Line]:
        """What a whole run leads to."""
        mode = self.document.mode
        if outcome.what == NOTHING:
            return [Line(TROUBLE, f"{run} does nothing in {mode}: no layer has it here.")]
        claim = outcome.winners[0]
        why = reason(outcome, self.title, self.where)
        if outcome.what == MUTED:
            return [Line(FIRED, f"{run} does nothing, on purpose"), Line(WHY, why)]
        if claim.wired:
            text = f"{run} {claim.wired}: the simulator has nothing to show for it"
            return [Line(FIRED, text), Line(WHY, why)]
        if outcome.what == CHOICE:
            self.choices = outcome.winners
            return offered(self.choices, self.title)
        how = kind_of(run.strokes[-1]).name
        fired = Line(FIRED, f"{run} starts {self.title(claim.command)}")
        return [fired, Line(WHY, why), *self.start(claim.command, how, str(run))]

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


def _number_of(run: Run) -> int:
    """Which of several choices a key takes; Enter takes the first, 0: it is no digit."""
    if str(run) == "Enter":
        return 1
    return parse_count(str(run).removeprefix("Num"))


def _is_macro(command: str) -> bool:
    return command.startswith(PREFIX)
