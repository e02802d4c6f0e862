"""Keeps what was done in a session as events, and makes macros of stretches of them."""

from collections.abc import Callable, Mapping
from types import MappingProxyType

from olive_compass.core.apps.app import App
from olive_compass.core.apps.command_ids import slug
from olive_compass.core.macros.macro import Macro
from olive_compass.core.macros.recording import Event, recorded
from olive_compass.core.wording import counted
from olive_compass.simulator.saying import REMARK, TROUBLE, Line


class Recorder:
    """The events of a session; ``clock`` gives the time of each. ``recording`` is the title of the macro that is being
    recorded, ``""``: there is none; ``recorded`` are the macros so far."""

    def __init__(self, app: App, clock: Callable[[], str]) -> None:
        self.app = app
        self.clock = clock
        self.events: list[Event] = []
        self.recording = ""
        self.recorded: list[Macro] = []
        self._from = 0

    def note(
        self,
        mode: str,
        command: str,
        how: str,
        key: str,
        outcome: str,
        inputs: Mapping[str, str] = MappingProxyType({}),
        made: tuple[str, ...] = (),
    ) -> None:
        """Adds an event that happens now."""
        event = Event(
            time=self.clock(),
            app=self.app.name,
            version=self.app.version,
            mode=mode,
            command=command,
            how=how,
            key=key,
            inputs=inputs,
            outcome=outcome,
            made=made,
        )
        self.events.append(event)

    def start(self, title: str) -> list[Line]:
        """Begins to record a macro."""
        if self.recording:
            return [
                Line(TROUBLE, f"“{self.recording}” is being recorded already; “finish” ends it.")
            ]
        self.recording, self._from = title, len(self.events)
        return [Line(REMARK, f"Recording “{title}”. “finish” ends it.")]

    def stop(self, origin: str) -> list[Line]:
        """Ends recording; the macro is then in ``recorded``."""
        if not self.recording:
            return [Line(TROUBLE, "Nothing is being recorded.")]
        events, title = self.events[self._from :], self.recording
        self.recording = ""
        if not events:
            return [Line(TROUBLE, "Nothing was done meanwhile; no macro was made.")]
        macro = recorded(self.app.name, slug(title) or "recorded", title, events, origin)
        self.recorded.append(macro)
        return [Line(REMARK, f"Recorded “{title}”: {counted(len(macro.steps), 'step')}.")]
