"""A session at the simulator: presses in, what fired and why out. It knows no terminal.

Every call returns the lines that a person should see. What was done is kept as events.
"""

from collections.abc import Callable, Mapping
from types import MappingProxyType

from olive_compass.core.apps.trays import PREFIX as TRAY
from olive_compass.core.keys.kinds import kind_of
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.core.macros.document import Document
from olive_compass.core.macros.effects import DONE, FAILED
from olive_compass.core.macros.macro import Macro
from olive_compass.core.macros.playing import world_of
from olive_compass.core.macros.simulator import unavailable
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
from olive_compass.core.wording import capital
from olive_compass.counts import parse_count
from olive_compass.simulator.saying import ASKS, FIRED, TROUBLE, WHY, Line, offered, reason, waiting
from olive_compass.simulator.trays import OpenTray, listed, opened
from olive_compass.simulator.trays import pressed as on_tray
from olive_compass.simulator.work import Work
from olive_compass.structs import replace


class Session(Work):
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
        super().__init__(world_of(keymap, macros), document, clock)
        self.keymap = keymap
        self.where = where
        self.past = past
        self.open: OpenTray | None = None
        self.pending: tuple[Stroke, ...] = ()
        self.choices: tuple[Claim, ...] = ()

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
        """Starts a command or a macro, or opens a tray."""
        if command.startswith(TRAY) and (tray := self._tray(command, key)):
            return self._open(tray, how)
        return super().start(command, how, key)

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


def _number_of(run: Run) -> int:
    """Which of several choices a key takes; Enter takes the first, 0: it is no digit."""
    if str(run) == "Enter":
        return 1
    return parse_count(str(run).removeprefix("Num"))
