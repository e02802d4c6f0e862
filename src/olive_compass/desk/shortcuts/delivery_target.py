"""A file that keys are delivered to: its keys now, its keys before, and the wanted ones."""

from msgspec import Struct

from olive_compass.core.apps.app import App, Command
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.delivering import (
    NO_MODE,
    ByMode,
    ToBe,
    factory_by_mode,
    taken_back,
    to_be,
)
from olive_compass.desk.shortcuts.delivery import Delivered, Text
from olive_compass.desk.shortcuts.file_format import FileFormat, id_in_mode, names_modes
from olive_compass.desk.shortcuts.shortcuts_content import Content


class Target(Struct, frozen=True, kw_only=True):
    """An application's own file: where it is (from the desk where it lies on it), its format, its bytes
    (None: it is not there), its text, what the format makes of it, and the last delivery."""

    path: str
    form: FileFormat
    data: bytes | None
    text: Text
    content: Content
    last: Delivered | None


def form_parts(app: App) -> dict[str, dict[str, str]]:
    """What a file may call each command, by id."""
    return {
        c.id: {
            "id": id_there(app, c),
            "title": c.title,
            "menu": " > ".join(c.menu),
            "kind": c.kind,
            "does": c.does,
        }
        for c in app.catalogue.listed
    }


def id_there(app: App, command: Command) -> str:
    """What a file calls a command: without the mode, where it is one of its own for each."""
    (mode, *more) = command.usable_in
    id_ = app.ids.get(command.id, command.id)
    if more:
        return id_
    return id_.removeprefix(id_in_mode("", mode))


def _by_title(app: App) -> dict[tuple[str, str], list[str]]:
    """The ids of the commands by title and menu, and by title alone."""
    found: dict[tuple[str, str], list[str]] = {}
    for command in app.catalogue.commands:
        for menu in {"", " > ".join(command.menu)}:
            found.setdefault((command.title.casefold(), menu), []).append(command.id)
    return found


def current_keys(
    app: App, found: Target
) -> tuple[dict[str, dict[str, tuple[Run, ...]]], list[str]]:
    """The keys in the file, by command and mode, and the names in it that are no command of ours."""
    by_id = {c.id: c.id for c in app.catalogue.commands}
    by_id |= {theirs: ours for ours, theirs in app.ids.items() if ours in by_id}
    titles = _by_title(app)
    keys: dict[str, dict[str, tuple[Run, ...]]] = {}
    strange = []
    with_modes = names_modes(found.form)
    for entry in found.content.entries:
        name = entry.parts.get("id", "")
        if not name:
            fits = titles.get((entry.parts["title"].casefold(), entry.parts.get("menu", "")), [])
            name = ""
            if len(fits) == 1:
                name = fits[0]
        id_ = by_id.get(name) or by_id.get(id_in_mode(name, entry.mode))
        if id_ is None:
            strange.append(entry.subject)
            continue
        mode = NO_MODE
        if with_modes:
            mode = entry.mode
        by_mode = keys.setdefault(id_, {})
        by_mode[mode] = tuple(dict.fromkeys((*by_mode.get(mode, ()), *entry.keys)))
    return keys, strange


def said_by(app: App, found: Target) -> dict[str, dict[str, tuple[Run, ...]]]:
    """The keys that the application has by its file: where it says nothing, the factory's."""
    there, _ = current_keys(app, found)
    if found.form.holds == "all":
        return there
    factory = factory_by_mode(app, names_modes(found.form))
    if found.form.holds == "changes":
        return {**factory, **there}
    # A key that is switched off, or that the file gives to a command, is no factory key there any more.
    gone = {(off.mode, off.run) for off in found.content.offs}
    for by_mode in there.values():
        for mode, runs in by_mode.items():
            gone.update((mode, run) for run in runs)
    said: dict[str, dict[str, tuple[Run, ...]]] = {}
    for id_ in dict.fromkeys((*factory, *there)):
        shipped, given = factory.get(id_, {}), there.get(id_, {})
        said[id_] = {
            mode: (
                *(run for run in shipped.get(mode, ()) if (mode, run) not in gone),
                *given.get(mode, ()),
            )
            for mode in dict.fromkeys((*shipped, *given))
        }
    return said


def base_and_wish(app: App, keymap: Keymap, found: Target) -> tuple[ByMode, ToBe]:
    """The keys in the application's file without those delivered into it, and the wanted keys of the commands
    that decisions change."""
    had: ByMode = factory_by_mode(app, names_modes(found.form))
    if found.data is not None:
        had = {**had, **said_by(app, found)}
    base = had
    if found.last:
        base = taken_back(had, found.last.deltas)
    return base, to_be(keymap, base, names_modes(found.form))


def wanted_there(app: App, keymap: Keymap, found: Target) -> ByMode:
    """All keys that the file is to have: those of its own, and those that decisions change."""
    base, wished = base_and_wish(app, keymap, found)
    return {**base, **wished.keys}
