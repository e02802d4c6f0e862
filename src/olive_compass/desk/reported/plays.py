"""Plays and recorded events, as ``macro play``, ``try`` and ``macro from-log`` report them."""

from collections.abc import Sequence
from typing import Any

from msgspec.structs import asdict

from olive_compass.core.macros.document import Document, differences
from olive_compass.core.macros.macro import Macro
from olive_compass.core.macros.played import Played
from olive_compass.core.macros.recording import Event
from olive_compass.desk.formats import document_file
from olive_compass.desk.reported.report import Report


class DoneReport(Report, frozen=True, kw_only=True):
    """A step that was played."""

    step: str
    command: str
    inputs: dict[str, str]
    outcome: str
    says: str
    made: Sequence[str]


class StopReport(Report, frozen=True, kw_only=True):
    """The step at which a play stopped, and why."""

    step: str
    what: str
    says: str


class PlayReport(Report, frozen=True, kw_only=True):
    """A play: what each step did, where it stopped, and the document after it."""

    macro: str
    done: list[DoneReport]
    stopped: StopReport | None
    changed: list[str]
    document: dict[str, Any]


def play_report(macro: Macro, document: Document, played: Played) -> PlayReport:
    """A play on ``document``, which is as it was before."""
    stop = played.stopped
    return PlayReport(
        macro=f"{macro.app}/{macro.name}",
        done=[
            DoneReport(
                step=done.path,
                command=done.command,
                inputs=dict(done.inputs),
                outcome=done.outcome,
                says=done.says,
                made=done.made,
            )
            for done in played.done
        ],
        stopped=StopReport(step=stop.path, what=stop.what, says=stop.says) if stop else None,
        changed=differences(document, played.document),
        document=document_file.as_json(played.document),
    )


class PlayOnReport(PlayReport, frozen=True, kw_only=True):
    """A play on one of several documents, and whether it did something else there than on most."""

    file: str
    differs: bool


class PlaysReport(Report, frozen=True, kw_only=True):
    """A macro that was played on several documents."""

    macro: str
    documents: list[PlayOnReport]


class EventReport(Report, frozen=True, kw_only=True):
    """An event of a log."""

    line: int
    time: str
    app: str
    version: str
    mode: str
    command: str
    how: str
    key: str | None
    inputs: dict[str, str]
    outcome: str
    made: Sequence[str]


def play_on_report(
    macro: Macro, document: Document, played: Played, file: str, differs: bool
) -> PlayOnReport:
    """The same on the document of a file; ``differs``: it did something else there than on most."""
    fields = asdict(play_report(macro, document, played))
    return PlayOnReport(file=file, differs=differs, **fields)


def event_report(event: Event) -> EventReport:
    """An event of a log."""
    return EventReport(
        line=event.line,
        time=event.time,
        app=event.app,
        version=event.version,
        mode=event.mode,
        command=event.command,
        how=event.how,
        key=event.key or None,
        inputs=dict(event.inputs),
        outcome=event.outcome,
        made=event.made,
    )
