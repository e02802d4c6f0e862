"""What ``check`` finds of the applications of a desk, looked for anew only where something changed."""

import os
from _signal import SIG_IGN, SIGINT, signal  # type: ignore[import-not-found]
from collections.abc import Sequence
from functools import partial

from olive_compass.annotations import TYPE_CHECKING, Any
from olive_compass.cli.progress import along
from olive_compass.cli.surroundings import Surroundings
from olive_compass.desk.desk import Desk, catalogue_path, scheme_path
from olive_compass.errors import Refused
from olive_compass.values import Value

if TYPE_CHECKING:
    from olive_compass.core.findings import Finding, View
    from olive_compass.desk.kept_findings import State


#: From how many bytes of catalogues and schemes on the work is given to several processes.
LARGE = 2_000_000


class Checked(Value):
    """An application, the names of the schemes that count for it, and what was found, as JSON has it
    (docs/json.md), the worst first."""

    app: str
    title: str
    version: str
    schemes: tuple[str, ...]
    findings: list[dict[str, Any]]


def checked(at: Desk, apps: Sequence[str], around: Surroundings) -> list[Checked]:
    """What is found of the applications, on the desk as it is."""
    from olive_compass.desk.kept_findings import KeptFindings, State

    kept = KeptFindings(at.root, around.environ)
    state = State(at.root, at.app_names())
    states = {app: _state_of(state, app) for app in apps}
    found = {app: _restored(kept.find(app, states[app])) for app in apps}
    missing = [app for app in apps if found[app] is None]
    if missing:
        state = State(at.root, at.app_names())
        for each in looked_for(at, missing, around):
            found[each.app] = each
            # What somebody wrote while it was looked for may be in it, or may not.
            if states[each.app] and states[each.app] == _state_of(state, each.app):
                kept.keep(each.app, states[each.app], each._asdict())
    return [each for each in found.values() if each is not None]


def looked_for(
    at: Desk,
    apps: Sequence[str],
    around: Surroundings,
    keyboard: str = "",
    since: str | None = None,
) -> list[Checked]:
    """The same, looked for anew: as on another keyboard, or only what is new above a scheme."""
    parts = [[app] for app in apps] if _is_large(at, apps) else []
    if len(parts) > 1 and (found := _side_by_side(at, parts, around, keyboard, since)):
        return found
    views = _views(at, apps, keyboard)
    return [_of(at, view, since) for view in along(around, "Looking for findings", views)]


def _is_large(at: Desk, apps: Sequence[str]) -> bool:
    """Whether there is so much to look at that several processes are quicker.

    With purposes each would have to read all applications.
    """
    if at.has("purposes.csv"):
        return False
    paths = (
        path
        for app in apps
        for path in (catalogue_path(app), *(scheme_path(app, s) for s in at.scheme_names(app)))
    )
    return sum(os.path.getsize(os.path.join(at.root, path)) for path in paths) > LARGE


def _side_by_side(
    at: Desk, parts: list[list[str]], around: Surroundings, keyboard: str, since: str | None
) -> list[Checked] | None:
    """What several processes find, None where one of them could not do its part."""
    from concurrent.futures import ProcessPoolExecutor
    from concurrent.futures.process import BrokenProcessPool
    from multiprocessing import active_children

    usable = getattr(os, "sched_getaffinity", None)
    cores = len(usable(0)) if usable else os.cpu_count() or 1
    if cores < 2:
        return None
    try:
        pool = ProcessPoolExecutor(min(cores, len(parts)), initializer=_leave_stopping_to_the_first)
        try:
            results = pool.map(partial(_look, at.root, keyboard=keyboard, since=since), parts)
            progress = along(around, "Looking for findings", parts)
            found = [result for _, result in zip(progress, results, strict=True)]
        except KeyboardInterrupt:
            # Nobody waits for the rest.
            for process in active_children():
                process.terminate()
            raise
        finally:
            pool.shutdown(wait=False, cancel_futures=True)
    except (BrokenProcessPool, OSError):
        # A system that allows no further processes, or has no room for them.
        return None
    whole = [each for result in found for each in result or ()]
    return whole if None not in found else None


def _leave_stopping_to_the_first() -> None:
    """Ctrl-C reaches all processes of a terminal: only the one that gave out the work is to tell of it."""
    signal(SIGINT, SIG_IGN)


def _look(root: str, apps: list[str], *, keyboard: str, since: str | None) -> list[Checked] | None:
    """What a process of its own does: it knows nothing but its arguments."""
    at = Desk(root)
    try:
        return [_of(at, view, since) for view in _views(at, apps, keyboard)]
    except Refused:
        # The first process comes upon the same, and says it.
        return None


def _views(at: Desk, apps: Sequence[str], keyboard: str) -> "list[View]":
    # Loaded here: where nothing changed, nothing is looked for.
    from olive_compass.cli.viewing import views_of
    from olive_compass.desk import keyboards

    board = at.keyboard
    if keyboard:
        # Either half of FORM/LAYOUT may be left out.
        form, _, layout = keyboard.partition("/")
        of = at.settings
        board = keyboards.load(
            at.root, of.platform, form or of.form, layout or of.layout, at.devices
        )
    return views_of(at, [at.stack(app) for app in apps], board)


def _of(at: Desk, view: "View", since: str | None) -> Checked:
    return Checked(
        view.app.name,
        view.app.title,
        view.app.version,
        tuple(scheme.name for scheme in view.stack.schemes),
        [as_json(at, view, finding) for finding in _found(at, view, since)],
    )


def _state_of(state: "State", app: str) -> str:
    """What a check of the application would be made from, ``""`` where that cannot be told."""
    try:
        return state.of(app)
    except (OSError, Refused):
        return ""


def _restored(kept: dict[str, Any] | None) -> Checked | None:
    """What was kept, None where it is not what we keep."""
    try:
        found = Checked(**kept) if kept else None
    except TypeError:
        return None
    return found and found._replace(schemes=tuple(found.schemes))


def _found(at: Desk, view: "View", since: str | None) -> "list[Finding]":
    """The findings of an application; with ``since`` those that its other stack has not."""
    from olive_compass.core.findings import View, all_findings
    from olive_compass.core.schemes.layers import FACTORY

    found = list(all_findings(view, at.settings.severities))
    if since is None:
        return found
    stack = view.stack
    if since == FACTORY:
        before = stack._replace(schemes=())
    elif since in [scheme.name for scheme in stack.schemes]:
        names = [scheme.name for scheme in stack.schemes]
        before = stack._replace(schemes=stack.schemes[names.index(since) :])
    # A scheme that does not count now stands in the place of those of its layer.
    elif since in at.scheme_names(stack.app.name):
        before = stack.going_by(at.scheme(stack.app, since))
    else:
        return found
    old = View(before, view.keyboard, view.weights, view.macros, view.hand, view.across)
    # By what it says, which names keys and commands: a finding about the same thing is the same one.
    known = {(f.id, f.says) for f in all_findings(old, at.settings.severities)}
    return [finding for finding in found if (finding.id, finding.says) not in known]


def as_json(at: Desk, view: "View", finding: "Finding") -> dict[str, Any]:
    """A finding as JSON (docs/json.md)."""
    from olive_compass.cli.words import file_and_line

    places = []
    for each in finding.places:
        path, line = file_and_line(at, view.keymap, each)
        places.append({"file": path, "line": line})
    return {
        "id": finding.id,
        "accepted": finding.accepted,
        "severity": finding.severity,
        "app": finding.app,
        "says": finding.says,
        "to-do": finding.advice,
        "or": list(finding.instead),
        "to-look": finding.look or None,
        "places": places,
        "commands": list(finding.commands),
        "keys": list(finding.keys),
        "modes": list(finding.modes),
    }
