"""What a delivery would write into an application's shortcuts file, and whether it reads back as it was meant."""

from collections.abc import Iterable, Iterator, Mapping

from msgspec import Struct

from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.delivering import (
    NO_MODE,
    ByMode,
    Deltas,
    Moved,
    Switch,
    ToBe,
    alike,
    factory_by_mode,
    moved,
    only_changes,
    only_keys,
)
from olive_compass.desk.shortcuts.delivery_target import (
    Target,
    base_and_wish,
    current_keys,
    form_parts,
    id_there,
    said_by,
)
from olive_compass.desk.shortcuts.file_format import id_in_mode, names_modes
from olive_compass.desk.shortcuts.shortcuts_content import Unwritten, Wanted
from olive_compass.desk.shortcuts.shortcuts_file import read
from olive_compass.desk.shortcuts.shortcuts_writing import written
from olive_compass.desk.texts.line_changes import Line, edited, lines_between
from olive_compass.errors import UserError
from olive_compass.structs import replace


def _renamed(app: App, found: Target) -> str:
    """The text of the file in which commands are called what the application calls them by now."""
    if not app.ids:
        return found.text.text
    names = {(entry.parts.get("id", ""), entry.mode) for entry in found.content.entries}
    edits = []
    for entry in found.content.entries:
        name = entry.parts.get("id", "")
        command = app.catalogue.by_id.get(name) or app.catalogue.by_id.get(
            id_in_mode(name, entry.mode)
        )
        if name and command and command.id in app.ids:
            now = id_there(app, command)
            # Where the application has a record of the new name, it sees to the old one itself.
            if (now, entry.mode) not in names:
                edits.append((*entry.id_span, now))
    return edited(found.text.text, edits)


class Plan(Struct, frozen=True, kw_only=True):
    """What a delivery would write, what it could not, and which keys change by it."""

    data: bytes
    lines: tuple[Line, ...]
    unwritten: list[Unwritten]
    changes: list[Moved]
    keys: ByMode
    deltas: Deltas


def _asked(
    app: App, found: Target, wanted: ByMode, there: ByMode
) -> tuple[list[Wanted], list[tuple[Wanted, bool]]]:
    """The keys to write, and the keys to switch off or on, by what the file holds: all keys, the changed ones, or
    the keys beside the factory's."""
    with_modes = names_modes(found.form)
    asked: dict[str, Mapping[str, tuple[Run, ...]] | None] = dict(wanted)
    switches: list[Switch] = []
    if found.form.holds == "changes":
        asked = dict(only_changes(wanted, factory_by_mode(app, with_modes)))
    elif found.form.holds == "keys":
        more, switches = only_keys(wanted, factory_by_mode(app, with_modes), there)
        asked = dict(more)
    parts = form_parts(app)
    lines = [
        Wanted(parts[id_], mode if with_modes else NO_MODE, keys)
        for id_, by_mode in asked.items()
        if id_ in parts
        for mode, keys in _each_mode(by_mode, there.get(id_, {}))
    ]
    offs = [
        (Wanted(parts[each.command], each.mode, (each.run,)), each.is_off)
        for each in switches
        if each.command in parts
    ]
    return lines, offs


def plan_delivery(app: App, keymap: Keymap, found: Target) -> Plan:
    """The file as it would be; raises ``UserError`` where it would not read back as it was meant."""
    base, wished = base_and_wish(app, keymap, found)
    there, _ = current_keys(app, found)
    # What was delivered before and is not decided any more goes back to what it was.
    earlier = found.last.deltas if found.last else {}
    wanted: dict[str, Mapping[str, tuple[Run, ...]]] = {
        **{id_: base.get(id_, {}) for id_ in earlier},
        **wished.keys,
    }
    lines, offs = _asked(app, found, wanted, there)
    text = _renamed(app, found)
    made = written(found.form, text, lines, app.rules.typed, offs)
    if text != found.text.text:
        made = replace(made, lines=tuple(lines_between(found.text.text, made.text)))
    unwritten = [*_not_to_be(app, wished), *made.unwritten]
    data, after = _as_written(app, found, made.text)
    now = said_by(app, after)
    _hold_against(app, found, wanted, now, unwritten, made.lines)
    # A file of changes that is yet to be made says that all is as the factory has it.
    is_there = found.data is not None or found.form.holds != "all"
    before = said_by(app, found) if is_there else {}
    _hold_still(app, found, set(wanted), before, now)
    return Plan(
        data=data,
        lines=made.lines,
        unwritten=unwritten,
        changes=moved(before, now),
        keys=now,
        deltas=wished.deltas,
    )


def _each_mode(
    by_mode: Mapping[str, tuple[Run, ...]] | None, there: Iterable[str]
) -> Iterator[tuple[str, tuple[Run, ...] | None]]:
    """The keys that a command is to have in each mode; None: its record is to go."""
    for mode in dict.fromkeys((*there, *(by_mode or {}))):
        yield mode, None if by_mode is None else by_mode.get(mode, ())


def _as_written(app: App, found: Target, text: str) -> tuple[bytes, Target]:
    """The bytes to write for ``text``, and the target as it would be read then. Raises ``UserError`` where it could not be."""
    try:
        data = found.text.encode(text)
    except UnicodeEncodeError as error:
        sign = error.object[error.start : error.end]
        raise UserError(
            f"The file is in {found.text.encoding}, which has no “{sign}”; nothing was changed.",
            file=found.path,
        ) from error
    try:
        content = read(found.form, text, app.rules.typed)
    except UserError as error:
        raise UserError(
            f"What would be written could not be read again: {error.what.rstrip('.')}; nothing was changed.",
            file=found.path,
            hint=f"Look at the format: olive-compass fileformat show {found.form.name}",
        ) from error
    return data, replace(found, data=data, content=content)


def _hold_still(app: App, found: Target, touched: set[str], before: ByMode, now: ByMode) -> None:
    """Refuses a delivery that would change what nobody decided."""
    for id_ in before.keys() - touched:
        if not alike(before[id_], now.get(id_, {})):
            raise UserError(
                f"What would be written changes {app.shown(id_)} as well, which nobody decided; nothing was changed.",
                file=found.path,
                hint=f"Look at the format: olive-compass fileformat show {found.form.name}",
            )


def _not_to_be(app: App, wished: ToBe) -> list[Unwritten]:
    """What is wanted and is not written: what the application does not allow, and keys of what is no command
    of its own."""
    found = [
        Unwritten(
            subject=f"{app.shown(each.command)} {each.trigger}".strip(),
            mode="",
            why=each.why.format(by=app.shown(each.by)),
        )
        for each in wished.left
    ]
    for command in app.catalogue.commands:
        keys = [run for runs in wished.keys.get(command.id, {}).values() for run in runs]
        if command.is_own and keys:
            what = "macro" if command.kind == "macro" else "tray"
            why = f"it is a {what} of this desk, and no command of {app.title}"
            found.append(
                Unwritten(
                    subject=f"{command.title} {', '.join(map(str, dict.fromkeys(keys)))}",
                    mode="",
                    why=why,
                )
            )
    return found


def _hold_against(
    app: App,
    found: Target,
    wanted: ByMode,
    now: ByMode,
    unwritten: list[Unwritten],
    lines: tuple[Line, ...],
) -> None:
    """Refuses a delivery that does not read back as what was meant, but for what is named."""
    named = {each.subject for each in unwritten}
    parts = form_parts(app)
    for id_, by_mode in wanted.items():
        if id_ not in parts or {id_, parts[id_]["title"]} & named:
            continue
        if not alike(by_mode, now.get(id_, {})):
            failing = [line for line in lines if line.now and _is_about(line.now, parts[id_])]
            shown = [
                f"line {each.line} would be “{(each.now or '').strip().expandtabs(1)}”"
                for each in (failing or lines)[:3]
            ]
            raise UserError(
                f"{parts[id_]['title']} was to have {_keys_said(by_mode)}, and the file would say "
                f"{_keys_said(now.get(id_, {}))} ({'; '.join(shown)}); nothing was changed.",
                file=found.path,
                hint=f"Look at the format: olive-compass fileformat show {found.form.name}",
            )


def _is_about(line: str, parts: Mapping[str, str]) -> bool:
    """Whether a line names a command."""
    return any(parts.get(name) and parts[name] in line for name in ("id", "title"))


def _keys_said(by_mode: Mapping[str, tuple[Run, ...]]) -> str:
    said = [
        f"{', '.join(map(str, keys))}{f' in {mode}' if mode not in ('', ROOT) else ''}"
        for mode, keys in by_mode.items()
        if keys
    ]
    return "; ".join(said) or "no key"
