"""The work by hand, as ``worklist`` reports it."""

from olive_compass.core.apps.app import App
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.manual_steps import NotAllowed, WorkList
from olive_compass.core.sharing.working import modes_of_step
from olive_compass.core.trays.manual_steps import tray_steps
from olive_compass.desk.reported.report import Report


class TrayStepReport(Report, frozen=True, kw_only=True):
    """A step at a tray."""

    what: str
    tray: str
    group: str | None
    command: str | None


class HandStepReport(Report, frozen=True, kw_only=True):
    """A command that gets a key, or loses one."""

    command: str
    gets: str | None
    loses: str | None
    spare: bool
    modes: list[str]


class LeftReport(Report, frozen=True, kw_only=True):
    """A key that cannot be given there, and why."""

    command: str | None
    key: str
    why: str


class WorklistReport(Report, frozen=True, kw_only=True):
    """What is to be done by hand in an application."""

    app: str
    trays: list[TrayStepReport]
    steps: list[HandStepReport]
    left: list[LeftReport]


def worklist_report(keymap: Keymap, found: WorkList) -> WorklistReport:
    """What is to be done by hand in an application, at its trays and to its keys."""
    app = keymap.app
    return WorklistReport(
        app=app.name,
        trays=[
            TrayStepReport(
                what=step.what,
                tray=step.tray.name,
                group=step.group or None,
                command=step.item or None,
            )
            for step in tray_steps(app)
        ],
        steps=[
            HandStepReport(
                command=step.command,
                gets=str(step.gets) if step.gets else None,
                loses=str(step.loses) if step.loses else None,
                spare=step.spare,
                modes=list(modes_of_step(keymap, step)),
            )
            for step in found.steps
        ],
        left=[
            LeftReport(command=each.command or None, key=str(each.trigger), why=why_left(app, each))
            for each in found.left
        ],
    )


def why_left(app: App, each: NotAllowed) -> str:
    """Why a key cannot be given there, as a sentence without its full stop."""
    return each.why.format(by=title_there(app, each.by))


def title_there(app: App, command: str) -> str:
    """A command's title, or its id where the catalogue has none."""
    known = app.catalogue.by_id.get(command)
    if known:
        return known.title
    return command
