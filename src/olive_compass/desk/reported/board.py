"""A keyboard with what its keys do, as ``board`` reports it."""

from collections.abc import Callable, Mapping, Sequence

from olive_compass.core.answers.board import BoardQuery, KeyAnswer
from olive_compass.core.schemes.board import BoardKey
from olive_compass.desk.reported.report import Report


class KeylessReport(Report, frozen=True, kw_only=True):
    """A command that is without this key on purpose, and why."""

    command: str
    why: str


class BoardKeyReport(Report, frozen=True, kw_only=True):
    """A key of the keyboard."""

    code: str
    label: str
    state: str
    commands: list[str | None]
    keyless: list[KeylessReport]
    several: bool
    before: str | None
    times: int | None
    effort: float | None


class BoardReport(Report, frozen=True, kw_only=True):
    """A keyboard under some modifiers: what each key does."""

    app: str
    mode: str | None
    modes: Sequence[str]
    held: list[str]
    keys: list[BoardKeyReport]


def board_report(
    mode: str | None,
    what: BoardQuery,
    held: tuple[str, ...],
    found: Mapping[str, tuple[BoardKey, KeyAnswer]],
    label: Callable[[str], str],
) -> BoardReport:
    """``label`` gives what is written on a key of a code."""
    return BoardReport(
        app=what.keymap.app.name,
        mode=mode,
        modes=what.modes,
        held=list(held),
        keys=[
            BoardKeyReport(
                code=code,
                label=label(code),
                state=key.state,
                commands=[claim.command or None for claim in key.claims],
                keyless=[KeylessReport(command=c, why=why) for c, why in key.keyless],
                several=key.shared,
                before=told.was,
                times=told.uses,
                effort=told.reach,
            )
            for code, (key, told) in found.items()
        ],
    )
