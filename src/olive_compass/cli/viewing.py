"""What the findings look at: each application with its macros, and what presses mean elsewhere."""

from olive_compass.cli.looking.neighbours import across
from olive_compass.core.findings import View
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.schemes.claims import Stack
from olive_compass.desk.desk import Desk


def views_of(desk: Desk, stacks: list[Stack], keyboard: Keyboard) -> list[View]:
    """What the findings look at, application by application."""
    weights = desk.settings.weights
    hand = desk.settings.hand
    views = [View(stack, keyboard, weights, desk.macros(stack.app.name), hand) for stack in stacks]
    others = across(desk, {view.app.name: view.keymap for view in views}, keyboard)
    for view in views:
        view.across = others
    if desk.tally_names():
        # Loaded here: most desks have counted nothing yet.
        from olive_compass.core.usage.summing import NOTHING
        from olive_compass.desk.tallies import usage_by_app

        counted = usage_by_app(desk)
        for view in views:
            view.usage = counted.get(view.app.name, NOTHING)
    return views
