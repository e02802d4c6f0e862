"""What check finds of an application: its findings as they are reported."""

import os
from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING

from msgspec import Struct

from olive_compass.desk.desk import Desk
from olive_compass.desk.paths import catalogue_path, scheme_path
from olive_compass.desk.reported.finding import FindingReport
from olive_compass.desk.storage.plain_file import size_of
from olive_compass.errors import UserError
from olive_compass.structs import to_builtins

if TYPE_CHECKING:
    from olive_compass.core.actions import Action
    from olive_compass.core.findings import Finding, View


#: Writes an action as a line to paste.
Writing = Callable[["Action"], str]

#: From how many bytes of catalogues and schemes on the work is given to several processes.
LARGE = 2_000_000


class Checked(Struct, frozen=True, kw_only=True):
    """An application, the names of the schemes that count for it, and what was found, the worst first."""

    app: str
    title: str
    version: str
    schemes: Sequence[str]
    findings: list[FindingReport]


#: Under which name they are kept.
KIND = "found"


def is_large(desk: Desk, apps: Sequence[str]) -> bool:
    """Whether there is so much to look at that several processes are quicker."""
    paths = (
        path
        for app in apps
        for path in (catalogue_path(app), *(scheme_path(app, s) for s in desk.scheme_names(app)))
    )
    return sum(size_of(os.path.join(desk.root, path)) for path in paths) > LARGE


def tell_neighbours(root: str, cache: str, apps: list[str]) -> list[str] | None:
    """Keeps what applications tell each other of their presses; gives their names."""
    from olive_compass.desk.views import across

    desk = Desk(root)
    desk.cache = cache
    try:
        if others := across(desk, {}, desk.keyboard):
            for app in apps:
                others.told(app)
            desk.keep()
    except UserError:
        return None
    return apps


def look(
    root: str,
    cache: str,
    apps: list[str],
    *,
    keyboard: str,
    since: str | None,
    written: Writing,
) -> list[Checked] | None:
    """What is found of some applications, None where the desk cannot be read: the first process comes
    upon the same, and says it."""
    desk = Desk(root)
    desk.cache = cache
    try:
        views = views_for(desk, apps, keyboard)
        return [checked_app(desk, view, since, written) for view in views]
    except UserError:
        return None


def views_for(desk: Desk, apps: Sequence[str], keyboard: str) -> "list[View]":
    """What is looked at of these applications: on the keyboard ``FORM/LAYOUT``, ``""``: on that of the desk."""
    # Loaded here: where nothing changed, nothing is looked for.
    from olive_compass.desk import keyboards
    from olive_compass.desk.views import views_of

    board = desk.keyboard
    if keyboard:
        # Either half of FORM/LAYOUT may be left out.
        form, _, layout = keyboard.partition("/")
        of = desk.settings
        board = keyboards.load(
            desk.root, of.platform, form or of.form, layout or of.layout, desk.devices
        )
    return views_of(desk, [desk.stack(app) for app in apps], board)


def checked_app(desk: Desk, view: "View", since: str | None, written: Writing) -> Checked:
    """What is found of an application; ``since``: only what that scheme has not. ``written`` makes a line of an
    action."""
    found = findings_of(desk, view, since)
    return Checked(
        app=view.app.name,
        title=view.app.title,
        version=view.app.version,
        schemes=view.stack.scheme_names,
        findings=[finding_report(desk, view, finding, written) for finding in found],
    )


def findings_of(desk: Desk, view: "View", since: str | None) -> "list[Finding]":
    """The findings of an application; with ``since`` those that its other stack has not."""
    # Loaded here: where nothing changed, nothing is looked for.
    from olive_compass.core.answers.check import check, stack_of

    if since is None:
        return check(view, desk.settings.severities)
    app = view.app
    aside = [name for name in desk.scheme_names(app.name) if name == since]
    others = {name: desk.scheme(app, name) for name in aside if name not in view.stack.names}
    return check(view, desk.settings.severities, stack_of(view.stack, since, others))


def finding_report(desk: Desk, view: "View", finding: "Finding", written: Writing) -> FindingReport:
    """A finding with the files and lines of its places; ``written`` gives the line to paste of an action."""
    from olive_compass.desk.source_lines import file_and_line

    return FindingReport(
        id=finding.id,
        accepted=finding.accepted,
        severity=finding.severity,
        app=finding.app,
        says=finding.says,
        to_do=written(finding.advice),
        instead=tuple(map(written, finding.instead)),
        to_look=written(finding.look) if finding.look else None,
        actions=to_builtins(
            {"to-do": finding.advice, "or": finding.instead, "to-look": finding.look}
        ),
        places=tuple(file_and_line(desk, view.keymap, each) for each in finding.places),
        commands=finding.commands,
        keys=finding.keys,
        modes=finding.modes,
    )
