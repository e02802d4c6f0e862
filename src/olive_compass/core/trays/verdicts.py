"""What is to be said of an item on a tray: the one judge for ``tray add``, ``copy`` and ``check``."""

from collections.abc import Iterator

from msgspec import Struct

from olive_compass.core.apps.app import App
from olive_compass.core.apps.trays import Tray, TrayKind
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers

#: What can be said of an item. The first ones stand against it: the application would not have it so.
UNKNOWN, REFUSED, ICON, FULL, ITSELF = "unknown", "refused", "icon", "full", "itself"
AGAINST = (UNKNOWN, REFUSED, ICON, FULL, ITSELF)
#: These are only said: it is there already, is one key press away, or cannot be started now.
THERE, ONE_PRESS, WITHDRAWN, UNAVAILABLE = "there", "one-press", "withdrawn", "unavailable"


class Remark(Struct, frozen=True):
    """A remark on ``item`` of a tray: its kind (one of the words above), and its subject:
    the reason, the group, the key, the licence or the figure."""

    item: str
    what: str
    about: str = ""

    @property
    def against(self) -> bool:
        return self.what in AGAINST


def kind_of_tray(app: App, tray: Tray) -> TrayKind:
    """What the application allows a tray of this kind; anything, where it does not have the kind."""
    return app.rules.trays.get(tray.kind, TrayKind(name=tray.kind))


def of_new_item(keymap: Keymap, tray: Tray, item: str) -> Iterator[Remark]:
    """What is to be said of ``item`` before it is put on ``tray``."""
    yield from of_item(keymap, tray, item)
    kind = kind_of_tray(keymap.app, tray)
    group = tray.group_of(item)
    if group is not None:
        yield Remark(item, THERE, group)
    elif kind.items and len(tray.items) >= kind.items:
        yield Remark(item, FULL, str(kind.items))


def of_item(keymap: Keymap, tray: Tray, item: str) -> Iterator[Remark]:
    """What is to be said of ``item`` as one that stands on ``tray``."""
    app = keymap.app
    kind = kind_of_tray(app, tray)
    known = app.catalogue.by_id.get(item)
    if known is None:
        # Of what is not there nothing more can be said.
        yield Remark(item, UNKNOWN)
        return
    if item == tray.id or _opens(app, item, tray.id):
        yield Remark(item, ITSELF)
    if item in kind.refuses:
        yield Remark(item, REFUSED, kind.refuses[item])
    if kind.icons and not known.marks.icon and known.kind not in ("macro", "tray"):
        yield Remark(item, ICON)
    if known.marks.withdrawn:
        yield Remark(item, WITHDRAWN)
    elif known.marks.never:
        yield Remark(item, UNAVAILABLE, "it is never enabled")
    elif app.why_absent(known):
        yield Remark(item, UNAVAILABLE, f"it needs “{known.marks.needs}”")
    if press := one_press(keymap, item):
        yield Remark(item, ONE_PRESS, press)


def one_press(keymap: Keymap, item: str) -> str:
    """The key that reaches a command with one stroke wherever it can be used, ``""``: none does."""
    known = keymap.app.catalogue.by_id.get(item)
    if known and known.modes:
        modes = keymap.app.modes.inside(known.modes)
    else:
        modes = keymap.app.modes.names
    for run in live_triggers(keymap, item):
        if len(run.strokes) == 1 and all(run in live_triggers(keymap, item, m) for m in modes):
            return str(run)
    return ""


def _opens(app: App, item: str, wanted: str, seen: tuple[str, ...] = ()) -> bool:
    """Whether a tray leads, through the trays on it, to the tray that is wanted."""
    tray = next((each for each in app.trays if each.id == item), None)
    if tray is None or item in seen:
        return False
    return any(e == wanted or _opens(app, e, wanted, (*seen, item)) for e in tray.items)
