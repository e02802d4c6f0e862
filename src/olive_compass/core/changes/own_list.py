"""Takes the keys of a list that a person keeps (a spreadsheet of their own shortcuts) in as decisions."""

from msgspec import Struct

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.keys.triggers import Run
from olive_compass.core.sharing.delivering import ByMode
from olive_compass.core.sharing.recognising import Match, match


class OwnList(Struct, frozen=True, kw_only=True):
    """What a list says of an application: keys by command and mode, the commands whose titles are only like those in
    the list, and what is no command of it."""

    keys: ByMode
    likely: tuple[Match, ...]
    unknown: tuple[Command, ...]


def own_list(app: App, listed: Catalogue) -> OwnList:
    """The keys that a list gives to commands of the application: by their ids, by their titles, or by what is like them.

    A row without a key decides nothing, and where it names no mode the key counts where the command can be used.
    """
    keys: dict[str, dict[str, tuple[Run, ...]]] = {}
    likely, unknown = [], []
    for each in match(Catalogue(app.catalogue.commands), listed, app.ids):
        if each.new is None or not each.new.keys:
            continue
        if each.old is None:
            unknown.append(each.new)
            continue
        known = [mode for mode in each.new.modes if mode in app.modes]
        keys[each.old.id] = dict.fromkeys(known or each.old.usable_in, each.new.keys)
        if each.score < 1:
            likely.append(each)
    return OwnList(keys=keys, likely=tuple(likely), unknown=tuple(unknown))
