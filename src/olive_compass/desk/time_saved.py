"""The seconds a week that keys save, by what was counted on the desk."""

from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.view import View
from olive_compass.desk.desk import Desk
from olive_compass.desk.tallies import usage_by_app
from olive_compass.structs import replace


def seconds_saved(desk: Desk, view: View, after: Keymap, by_key: bool = False) -> float | None:
    """The seconds a week that other keys save (below 0: cost) by what was counted; None where nothing was;
    ``by_key``: if hands went for the keys always."""
    from olive_compass.core.savings.model import DEFAULT, changed
    from olive_compass.core.savings.savings_of_keys import seconds_by_change

    usage = usage_by_app(desk).get(view.app.name)
    if usage is None:
        return None
    return seconds_by_change(view, after, usage, changed(DEFAULT, desk.settings.model), by_key)


def seconds_saved_by_scheme(
    desk: Desk, keymap: Keymap, scheme: Scheme, by_key: bool = False
) -> float | None:
    """The seconds a week that the scheme saves against the layers without it, None where nothing was
    counted."""
    if not desk.tally_names():
        return None
    from olive_compass.core.changes.view import AppView

    stack, settings = keymap.stack, desk.settings
    others = tuple(each for each in stack.schemes if each.name != scheme.name)
    without = replace(stack, schemes=others)
    # CommandSavings is always against something: here the same stack, but for this scheme.
    view = AppView(without, desk.keyboard, settings.weights, {}, settings.hand)
    found = seconds_saved(desk, view, keymap, by_key)
    if found is None:
        return None
    return round(found, 1)
