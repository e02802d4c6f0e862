"""What ``check`` finds of the applications of a desk, looked for anew only where something changed."""

import os
from collections.abc import Sequence
from functools import partial
from typing import TYPE_CHECKING

from msgspec import Struct

from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.progress import along
from olive_compass.desk.desk import Desk
from olive_compass.desk.paths import catalogue_path, scheme_path
from olive_compass.desk.reported.finding import FindingReport
from olive_compass.desk.storage.kept import files_of
from olive_compass.errors import UserError
from olive_compass.structs import to_builtins

if TYPE_CHECKING:
    from olive_compass.core.findings import Finding, View


#: From how many bytes of catalogues and schemes on the work is given to several processes.
LARGE = 2_000_000

LABEL = "Looking for findings"


class Checked(Struct, frozen=True, kw_only=True):
    """An application, the names of the schemes that count for it, and what was found, the worst first."""

    app: str
    title: str
    version: str
    schemes: Sequence[str]
    findings: list[FindingReport]


#: Under which name they are kept.
KIND = "found"


def checked(desk: Desk, apps: Sequence[str], context: Surroundings) -> list[Checked]:
    """What is found of the applications, on the desk as it is."""
    # With purposes an application is held against all others.
    others = []
    if desk.lists_purposes:
        others = desk.app_names()
    files = {app: files_of([app, *others]) for app in apps}
    found = {app: desk.kept.find(KIND, app, files[app], Checked) for app in apps}
    for each in looked_for(desk, [app for app in apps if found[app] is None], context):
        found[each.app] = each
        # What could not be read is said each time, until it can be.
        if not desk.left_out:
            desk.kept.note(KIND, each.app, files[each.app], each)
    return [each for each in found.values() if each is not None]


def looked_for(
    desk: Desk,
    apps: Sequence[str],
    context: Surroundings,
    keyboard: str = "",
    since: str | None = None,
) -> list[Checked]:
    """The same, looked for anew: as on another keyboard, or only what is new above a scheme."""
    if not apps:
        return []
    if _is_large(desk, apps) and (found := _by_several(desk, apps, context, keyboard, since)):
        return found
    views = _views(desk, apps, keyboard)
    return [_of(desk, view, since) for view in along(context, LABEL, views)]


def _is_large(desk: Desk, apps: Sequence[str]) -> bool:
    """Whether there is so much to look at that several processes are quicker."""
    paths = (
        path
        for app in apps
        for path in (catalogue_path(app), *(scheme_path(app, s) for s in desk.scheme_names(app)))
    )
    return sum(_size(os.path.join(desk.root, path)) for path in paths) > LARGE


def _size(path: str) -> int:
    """The bytes of a file, 0 where it is not there: who reads it says so."""
    try:
        return os.path.getsize(path)
    except OSError:
        return 0


def _by_several(
    desk: Desk, apps: Sequence[str], context: Surroundings, keyboard: str, since: str | None
) -> list[Checked] | None:
    """What several processes find, None where they cannot do it or are no quicker."""
    from olive_compass.cli.terminal.parallel import parallel

    if desk.lists_purposes:
        # Each would read all applications, but for what these told and is kept.
        if keyboard or not desk.cache:
            return None
        parallel(context, LABEL, partial(_tell, desk.root, desk.cache), desk.app_names())
    look = partial(_look, desk.root, desk.cache, keyboard=keyboard, since=since)
    found = parallel(context, LABEL, look, apps)
    order = {app: n for n, app in enumerate(apps)}
    return found and sorted(found, key=lambda each: order[each.app])


def _tell(root: str, cache: str, apps: list[str]) -> list[str] | None:
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


def _look(
    root: str, cache: str, apps: list[str], *, keyboard: str, since: str | None
) -> list[Checked] | None:
    """What is found of some applications, None where the desk cannot be read: the first process comes
    upon the same, and says it."""
    desk = Desk(root)
    desk.cache = cache
    try:
        return [_of(desk, view, since) for view in _views(desk, apps, keyboard)]
    except UserError:
        return None


def _views(desk: Desk, apps: Sequence[str], keyboard: str) -> "list[View]":
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


def _of(desk: Desk, view: "View", since: str | None) -> Checked:
    return Checked(
        app=view.app.name,
        title=view.app.title,
        version=view.app.version,
        schemes=view.stack.scheme_names,
        findings=[finding_report(desk, view, finding) for finding in _found(desk, view, since)],
    )


def _found(desk: Desk, view: "View", since: str | None) -> "list[Finding]":
    """The findings of an application; with ``since`` those that its other stack has not."""
    # Loaded here: where nothing changed, nothing is looked for.
    from olive_compass.core.answers.check import check, stack_of

    if since is None:
        return check(view, desk.settings.severities)
    app = view.app
    aside = [name for name in desk.scheme_names(app.name) if name == since]
    others = {name: desk.scheme(app, name) for name in aside if name not in view.stack.names}
    return check(view, desk.settings.severities, stack_of(view.stack, since, others))


def finding_report(desk: Desk, view: "View", finding: "Finding") -> FindingReport:
    """A finding with the files and lines of its places, and with its actions as lines to paste."""
    # Loaded here: where nothing changed, nothing is said anew.
    from olive_compass.cli.terminal.action_lines import line_of
    from olive_compass.desk.source_lines import file_and_line

    return FindingReport(
        id=finding.id,
        accepted=finding.accepted,
        severity=finding.severity,
        app=finding.app,
        says=finding.says,
        to_do=line_of(finding.advice),
        instead=tuple(map(line_of, finding.instead)),
        to_look=line_of(finding.look) if finding.look else None,
        actions=to_builtins(
            {"to-do": finding.advice, "or": finding.instead, "to-look": finding.look}
        ),
        places=tuple(file_and_line(desk, view.keymap, each) for each in finding.places),
        commands=finding.commands,
        keys=finding.keys,
        modes=finding.modes,
    )
