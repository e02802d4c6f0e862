"""What a pull of the house would change here: its schemes, its trays and its key sets."""

from collections.abc import Mapping

from msgspec import Struct

from olive_compass.core.changes.change import TrayEdit
from olive_compass.core.schemes.claims import in_layer_order
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.layers import FACTORY, HOUSE
from olive_compass.core.sharing.comparing import compare_keysets, compare_trays
from olive_compass.core.sharing.comparing_schemes import compare_schemes
from olive_compass.core.sharing.keysets import KeySet
from olive_compass.desk.bundles import files_of
from olive_compass.desk.comparing import Section
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import keyset_file, scheme_file, tray_file
from olive_compass.desk.formats.desk_file import with_stack
from olive_compass.desk.paths import DESK_FILE, scheme_path
from olive_compass.desk.storage.file_names import as_stored
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.writing.changed_files import changed_trays
from olive_compass.structs import replace


class Pulled(Struct, frozen=True, kw_only=True):
    """What a pull brings: the files, the differences, and the schemes with what ours of that name is now."""

    changes: list[FileChange]
    sections: list[Section]
    schemes: list["PulledScheme"]
    #: What of it is not taken, and why.
    passed_over: list[str]
    in_the_way: list["InTheWay"]


class PulledScheme(Struct, frozen=True):
    """A scheme of an application as it is here, and as the house has it."""

    app: str
    before: Scheme
    after: Scheme


class InTheWay(Struct, frozen=True):
    """A scheme of the house that would take the place of one of ours."""

    app: str
    name: str
    ours: str


def _ours_in_the_way(desk: Desk, app: str, name: str) -> str:
    """Our scheme whose place one of the house would take, ``""``: none. Of two names that some system
    takes for one, both are the same file there."""
    for ours in desk.scheme_names(app):
        if as_stored(ours) == as_stored(name):
            layer = desk.scheme(desk.app(app), ours).layer
            if ours != name or layer != HOUSE:
                return ours
    return ""


def what_changes(desk: Desk, folder: str, names: Mapping[str, str]) -> Pulled:
    """The house's schemes for applications of this desk, and its key sets, against ours. ``names`` says
    what its schemes are called here, where that is another name."""
    there = files_of(folder, ("schemes/", "keysets/", "trays/"))
    result = Pulled(
        changes=[],
        sections=[],
        schemes=[],
        passed_over=[f"{p} of the house is {why}" for p, why in there.left_out.items()],
        in_the_way=[],
    )
    for path, data in there.files.items():
        parts = path.split("/")
        if _is_tray_file(parts, path):
            _pull_trays(desk, parts[1].removesuffix(".toml"), data, result)
            continue
        if not path.endswith(".toml") or len(parts) != (2 if parts[0] == "keysets" else 3):
            result.passed_over.append(f"{path} of the house is no file that a desk has")
            continue
        if parts[0] == "keysets":
            _pull_keyset(desk, path, data, result)
        else:
            _pull_scheme(desk, path, data, names, result)
    return result


def _is_tray_file(parts: list[str], path: str) -> bool:
    return parts[0] == "trays" and len(parts) == 2 and path.endswith(".toml")


def _pull_scheme(
    desk: Desk, path: str, data: bytes, names: Mapping[str, str], result: Pulled
) -> None:
    """A scheme of the house in place of ours of that name, or of the name that ``names`` has for it."""
    _, app, file = path.split("/")
    theirs = file.removesuffix(".toml")
    # The house has keys for applications that nobody uses here.
    if app not in desk.app_names():
        return
    after = scheme_in(desk, app, theirs, data)
    # Personal schemes of whoever keeps the house’s folder are theirs.
    if after.layer != HOUSE:
        return
    name = names.get(f"{app}/{theirs}", theirs)
    if name == FACTORY:
        result.passed_over.append(f"{path} of the house has the name of the factory's own keys")
        return
    if ours := _ours_in_the_way(desk, app, name):
        result.in_the_way.append(InTheWay(app, theirs, ours))
        return
    here = scheme_path(app, name)
    now = desk.bytes_or_none(here)
    if now == data:
        return
    after = replace(after, name=name)
    old = scheme_in(desk, app, name, now)
    result.changes.append(FileChange(here, now, data))
    result.sections.append(Section(here, app, compare_schemes(old, after)))
    result.schemes.append(PulledScheme(app, old, after))


def _pull_keyset(desk: Desk, path: str, data: bytes, result: Pulled) -> None:
    """A key set of the house in place of ours of that name."""
    now = desk.bytes_or_none(path)
    if now == data:
        return
    name = path.split("/")[1].removesuffix(".toml")
    if now:
        before = keyset_file.read(now, path, name)
    else:
        before = KeySet(name)
    found = compare_keysets(before, keyset_file.read(data, path, name))
    result.changes.append(FileChange(path, now, data))
    result.sections.append(Section(path, "", found))


def _pull_trays(desk: Desk, app: str, data: bytes, result: Pulled) -> None:
    """The house's trays of an application in place of those of the house here; one's own stay."""
    if app not in desk.app_names():
        return
    path = tray_file.tray_path(app)
    ours, theirs = (
        {tray.name: tray for tray in found if tray.layer == HOUSE}
        for found in (desk.trays(app), tray_file.read(data, path, app))
    )
    edits = [
        TrayEdit(ours.get(name), theirs.get(name))
        for name in dict.fromkeys((*theirs, *ours))
        if ours.get(name) != theirs.get(name)
    ]
    if edits:
        result.changes.append(changed_trays(desk, app, edits))
        differences = compare_trays(ours.values(), theirs.values())
        result.sections.append(Section(path, app, differences))


def scheme_in(desk: Desk, app: str, name: str, data: bytes | None) -> Scheme:
    """The scheme in a file of the house, an empty one of the house where there is none (None). Raises ``UserError``."""
    about = desk.app(app)
    if data is None:
        return Scheme(app=app, name=name, layer=HOUSE)
    path = scheme_path(app, name)
    return scheme_file.read(data, path, name, frozenset(about.modes.names), about.rules.typed)


def with_new_schemes(desk: Desk, changes: list[FileChange]) -> bytes:
    """The desk's own file, in which first schemes of the house count for their applications."""
    settings = desk.bytes(DESK_FILE)
    for change in changes:
        parts = change.path.split("/")
        if change.before is not None or parts[0] != "schemes":
            continue
        scheme = scheme_in(desk, parts[1], parts[2].removesuffix(".toml"), change.after)
        stack = desk.stack(parts[1])
        # A second one beside the first is for a person to choose.
        if all(each.layer != HOUSE for each in stack.schemes):
            names = tuple(each.name for each in in_layer_order([*stack.schemes, scheme]))
            settings = with_stack(settings, parts[1], names)
    return settings
