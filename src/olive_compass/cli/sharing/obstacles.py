"""Says what stood in the way of the triggers of a key set."""

from olive_compass.cli.changing import objections
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.core.changes.view import AppView
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.guards import Guarded
from olive_compass.core.schemes.objections import rules, unavailable
from olive_compass.core.schemes.objections.guards import guard_says
from olive_compass.core.schemes.traits import not_assignable_says
from olive_compass.core.sharing.applying import BEATEN, BREAKS, GIVEN, LASTS, MUTED, Obstacle
from olive_compass.desk.desk import Desk


def obstacle_text(desk: Desk, view: AppView, obstacle: Obstacle) -> str:
    """What stood in the way of a trigger of a key set: the trigger, and why."""
    found, about = obstacle.verdict, obstacle.about
    if obstacle.part == GIVEN:
        why = f"the set gives it to {about}"
    elif obstacle.part == LASTS:
        why = f"{found.command.title} {found.command.marks.warning}: give it a key by hand, if any"
    elif obstacle.part == MUTED and isinstance(about, Claim):
        why = f"muted by {about.origin}, {about.why or 'no reason given'}"
    elif obstacle.part == BEATEN and isinstance(about, Claim):
        why = f"{view.meaning(about.does) or 'a mute'} comes first there"
    elif obstacle.part == BEATEN:
        why = "it would not reach the command"
    elif obstacle.part == BREAKS and isinstance(about, Guarded):
        why = guard_says(about)
    elif obstacle.part == rules.KIND.id:
        why = found.evidence(rules.KIND)[0].why
    elif obstacle.part == unavailable.KIND.id:
        why = not_assignable_says(found.command, found.evidence(unavailable.KIND)[0])
    else:
        (objection,) = (each for each in found.objections if each.id == obstacle.part)
        why = objections.objection_text(desk, view, found, objection)
    # It stands in JSON and within other sentences as well: no marks of a terminal.
    return f"{obstacle.trigger}: {why}".replace(BOLD, "").replace(OFF, "")
