"""What the findings look at: each application with its macros, and what presses mean elsewhere."""

from olive_compass.core.findings import View
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.schemes.claims import Stack
from olive_compass.desk.desk import Desk


def views_of(at: Desk, stacks: list[Stack], keyboard: Keyboard) -> list[View]:
    """What the findings look at, application by application."""
    weights = at.settings.weights
    hand = at.settings.hand
    views = [View(stack, keyboard, weights, at.macros(stack.app.name), hand) for stack in stacks]
    if any(purpose.links for purpose in at.purposes.all):
        # Loaded here: without purposes there is nothing to compare.
        from olive_compass.core.schemes.deciding import Keymap
        from olive_compass.core.sharing.friends import Across

        here = {view.app.name: view.keymap for view in views}
        # Always in the same order: what is said of an application is not to change with what else is asked.
        names = sorted({*at.app_names(), *here})
        keymaps = (here.get(name) or Keymap(at.stack(name), keyboard) for name in names)
        across = Across(keymaps, at.purposes)
        for view in views:
            view.across = across
    if at.tally_names():
        # Loaded here: most desks have counted nothing yet.
        from olive_compass.cli.tallies import whole_tally
        from olive_compass.core.usage.looking import narrowed

        tally = whole_tally(at)
        for view in views:
            view.tally = narrowed(tally, view.app.name)
    return views
