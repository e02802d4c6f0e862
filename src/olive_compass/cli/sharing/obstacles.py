"""Says what stood in the way of the triggers of a key set."""

from olive_compass.cli.changing import objections
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.core.changes.view import AppView
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.guards import Guarded
from olive_compass.core.schemes.objections import rules, unavailable
from olive_compass.core.schemes.objections.guards import guard_says
from olive_compass.core.schemes.traits import not_assignable_says
from olive_compass.core.sharing import planned
from olive_compass.core.sharing.planned import Obstacle
from olive_compass.desk.desk import Desk


def obstacle_text(desk: Desk, view: AppView, obstacle: Obstacle) -> str:
    """What stood in the way of a trigger of a key set: the trigger, and why."""
    why = _of_the_set(view, obstacle) or _of_the_verdict(desk, view, obstacle)
    # It stands in JSON and within other sentences as well: no marks of a terminal.
    return f"{obstacle.trigger}: {why}".replace(BOLD, "").replace(OFF, "")


def _of_the_set(view: AppView, obstacle: Obstacle) -> str:
    """Why a set as a whole cannot have the trigger there, ``""`` where nothing but its own verdict says so."""
    command = obstacle.verdict.command
    match obstacle.part, obstacle.about:
        case planned.GIVEN, about:
            return f"the set gives it to {about}"
        case planned.LASTS, _:
            return f"{command.title} {command.marks.warning}: give it a key by hand, if any"
        case planned.MUTED, Claim() as claim:
            return f"muted by {claim.origin}, {claim.why or 'no reason given'}"
        case planned.BEATEN, Claim() as claim:
            return f"{view.meaning(claim.does) or 'a mute'} comes first there"
        case planned.BEATEN, _:
            return "it would not reach the command"
        case planned.BREAKS, Guarded() as guard:
            return guard_says(guard)
    return ""


def _of_the_verdict(desk: Desk, view: AppView, obstacle: Obstacle) -> str:
    """The objection to the trigger by itself."""
    found = obstacle.verdict
    if obstacle.part == rules.KIND.id:
        return found.evidence(rules.KIND)[0].why
    if obstacle.part == unavailable.KIND.id:
        return not_assignable_says(found.command, found.evidence(unavailable.KIND)[0])
    (objection,) = (each for each in found.objections if each.id == obstacle.part)
    return objections.objection_text(desk, view, found, objection)
