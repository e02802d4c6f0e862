"""What ``check`` finds of the applications of a desk, looked for anew only where something changed."""

from collections.abc import Sequence

from olive_compass.annotations import TYPE_CHECKING, Any
from olive_compass.cli.progress import along
from olive_compass.cli.surroundings import Surroundings
from olive_compass.desk.desk import Desk
from olive_compass.errors import Refused
from olive_compass.values import Value

if TYPE_CHECKING:
    from olive_compass.core.findings import Finding, View
    from olive_compass.core.keys.keyboards import Keyboard
    from olive_compass.desk.kept_findings import State


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
    keyboard: "Keyboard | None" = None,
    since: str | None = None,
) -> list[Checked]:
    """The same, looked for anew: as on another keyboard, or only what is new above a scheme."""
    # Loaded here: where nothing changed, nothing is looked for.
    from olive_compass.cli.viewing import views_of

    views = views_of(at, [at.stack(app) for app in apps], keyboard or at.keyboard)
    return [
        Checked(
            view.app.name,
            view.app.title,
            view.app.version,
            tuple(scheme.name for scheme in view.stack.schemes),
            [as_json(at, view, finding) for finding in _found(at, view, since)],
        )
        for view in along(around, "Looking for findings", views)
    ]


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
