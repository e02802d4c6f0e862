"""The desk: finds it, reads what is asked for and no more, and saves changes as one."""

from functools import cached_property
from typing import TYPE_CHECKING

from olive_compass.core.apps.app import App, Catalogue
from olive_compass.core.apps.modes import ROOT, ModeTree
from olive_compass.core.keys.keyboards import NO_DEVICES, Keyboard, Platform
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Stack, in_layer_order
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.layers import FACTORY, PROJECT
from olive_compass.desk import keyboards, older
from olive_compass.desk.formats import (
    app_file,
    catalogue_file,
    desk_file,
    scheme_file,
    seat_file,
    system_file,
)
from olive_compass.desk.paths import (
    DESK_FILE,
    SYSTEM_FILE,
    app_path,
    catalogue_path,
    macro_path,
    scheme_path,
)
from olive_compass.desk.storage.desk_files import DeskFiles
from olive_compass.errors import UserError
from olive_compass.structs import replace

if TYPE_CHECKING:
    from collections.abc import Iterable, Mapping

    from olive_compass.core.apps.trays import Tray
    from olive_compass.core.changes.change import TrayEdit
    from olive_compass.core.keys.devices import Device
    from olive_compass.core.macros.macro import Macro
    from olive_compass.core.sharing.purposes import Purposes
    from olive_compass.desk.shortcuts.file_format import FileFormat
    from olive_compass.desk.storage.history import History
    from olive_compass.desk.storage.kept import Kept
    from olive_compass.desk.storage.records import FileChange

_NO_FILES: "Mapping[str, bytes | None]" = {}


class Desk(DeskFiles):
    """A desk in the folder ``root``, with what its files mean.

    ``instead`` are contents that count in the place of files: the
    desk as it was, or as it would be. ``platform`` is read instead of that of the seat: another desk is looked
    at as from here.
    """

    def __init__(
        self,
        root: str,
        instead: "Mapping[str, bytes | None]" = _NO_FILES,
        platform: Platform | None = None,
    ) -> None:
        super().__init__(root, instead)
        self.platform = platform
        #: Where the user keeps what was worked out of this desk before, ``""``: nowhere.
        self.cache = ""
        self._apps: dict[str, App] = {}
        self._app_files: dict[str, app_file.AppFile] = {}
        self._macros: dict[str, dict[str, Macro]] = {}

    @cached_property
    def settings(self) -> desk_file.DeskFile:
        """What ``desk.toml`` says, with what this seat has otherwise."""
        found = desk_file.read(self.bytes(DESK_FILE), DESK_FILE)
        seat = self.seat
        form = layout = ""
        if seat.keyboards:
            form, _, layout = seat.keyboards[0].partition("/")
        return replace(
            found,
            platform=self.platform or seat.platform or found.platform,
            hand=seat.hand or found.hand,
            form=form or found.form,
            layout=layout or found.layout,
        )

    @cached_property
    def history(self) -> "History":
        # Loaded when asked for: a command that only reads has no use for it.
        from olive_compass.desk.storage.history import History

        return History(self.root)

    @cached_property
    def kept(self) -> "Kept":
        """What was worked out of the desk before."""
        # Loaded here: few commands work out anything that is worth keeping.
        from olive_compass.desk.storage.kept import Kept

        return Kept(self, self.cache)

    @cached_property
    def keyboard(self) -> Keyboard:
        """The keyboard that the desk says it has, with the devices beside it."""
        of = self.settings
        board = keyboards.load(self.root, of.platform, of.form, of.layout, self.devices)
        others = []
        for name in self.seat.keyboards[1:]:
            form, _, layout = name.partition("/")
            other = keyboards.load(self.root, of.platform, form, layout, self.devices)
            others.append(other.beside(name, ()))
        return board.beside(f"{of.form}/{of.layout}", tuple(others))

    @cached_property
    def devices(self) -> "Mapping[str, Device]":
        """The devices that the desk declares, by name."""
        listed = sorted(name for name in self.listed("devices") if name.endswith(".toml"))
        if not listed:
            return NO_DEVICES
        # Loaded here: most desks have none.
        from olive_compass.desk.formats.device_file import device_path, read

        names = [name[:-5] for name in listed if not name.startswith(".")]
        files = {name: device_path(name) for name in names}
        return {name: read(self.bytes(file), file, name) for name, file in files.items()}

    def app_names(self) -> list[str]:
        """The names of all applications, sorted."""
        return sorted(name for name in self.listed("apps") if self.has(app_path(name)))

    def app_name(self, given: str) -> str:
        """The name of the application that ``given`` means: by name, title or beginning."""
        names = self.app_names()
        if given in names:
            return given
        fits = self._apps_like(given.casefold(), names)
        if len(fits) == 1:
            return fits[0]
        if fits:
            raise UserError(f"“{given}” could be {' or '.join(fits)}.", hint="Write it out.")
        if not names:
            raise UserError(
                "There is no application on this desk yet.",
                hint="Add one: olive-compass app import NAME --from FILE",
            )
        raise UserError(f"There is no application “{given}” here.", hint=_choose(given, names))

    def _apps_like(self, wanted: str, names: list[str]) -> list[str]:
        """The applications whose name begins so, or else whose title is that."""
        fits = [name for name in names if wanted and name.casefold().startswith(wanted)]
        return fits or [name for name in names if self._title(name).casefold() == wanted]

    def app(self, name: str) -> App:
        """The application with its catalogue."""
        if name not in self._apps:
            about = self._app_file(name)
            catalogue = self.catalogue(name)
            if macros := self.macros(name):
                own = (macro.command for macro in macros.values())
                catalogue = Catalogue((*catalogue.commands, *own), catalogue.unreadable)
            modes = about.modes
            extra = {mode for c in catalogue.commands for mode in c.modes if mode not in modes}
            if extra:
                modes = ModeTree({**modes.parents, **dict.fromkeys(sorted(extra), ROOT)})
            trays = self._counting_trays(name)
            if trays:
                from olive_compass.core.apps.tray_commands import command_of

                own = (command_of(each, about.rules.trays.get(each.kind)) for each in trays)
                catalogue = Catalogue((*catalogue.commands, *own), catalogue.unreadable)
            self._apps[name] = App(
                name=name,
                title=about.title,
                version=about.version,
                modes=modes,
                rules=about.rules,
                catalogue=catalogue,
                spelling=about.spelling,
                trays=trays,
                vias=about.vias,
                ids=about.ids,
            )
        return self._apps[name]

    def reading(self, name: str) -> app_file.Reading:
        """How the application's listings are read, where a person said it."""
        return self._app_file(name).reading

    def catalogue(self, name: str) -> Catalogue:
        """The application's own catalogue, as its file has it: without macros."""
        file = catalogue_path(name)
        typed = self._app_file(name).rules.typed
        return catalogue_file.read(self.bytes(file), file, typed, self.settings.platform)

    def macros(self, app: str) -> "dict[str, Macro]":
        """The macros of the application, by name."""
        if app not in self._macros:
            self._macros[app] = self._read_macros(app)
        return self._macros[app]

    def _read_macros(self, app: str) -> "dict[str, Macro]":
        names = self.toml_names(f"macros/{app}")
        if not names:
            return {}
        # Loaded here: most applications have no macro.
        from olive_compass.desk.formats import macro_file

        paths = {name: macro_path(app, name) for name in names}
        return {
            name: macro_file.read(self.bytes(path), path, app, name) for name, path in paths.items()
        }

    def tally_names(self) -> list[str]:
        """The files of tallies, by their paths."""
        return sorted(f"tallies/{n}" for n in self.listed("tallies") if n.endswith(".csv"))

    def trays(self, app: str) -> "list[Tray]":
        """The trays of the application as the file has them, of all layers and projects."""
        if not self.has(f"trays/{app}.toml"):
            return []
        # Loaded here: most applications have none.
        from olive_compass.desk.formats.tray_file import read, tray_path

        path = tray_path(app)
        return read(self.bytes(path), path, app)

    def _counting_trays(self, app: str) -> "tuple[Tray, ...]":
        """The trays that count on this desk, in their order."""
        found = self.trays(app)
        if not found:
            return ()
        from olive_compass.core.trays.counting import counting

        return counting(found, self.settings.project)

    def save_tray(self, app: str, edits: "Iterable[TrayEdit]") -> "FileChange":
        """The file change that makes these trays (None before) other ones (None after: they go)."""
        from olive_compass.desk.formats.tray_file import edited, tray_path
        from olive_compass.desk.storage.records import FileChange

        path = tray_path(app)
        old = data = self.bytes_or_none(path)
        for each in edits:
            data = edited(data, app, each.before, each.after)
        return FileChange(path, old, data)

    def scheme_names(self, app: str) -> list[str]:
        """The names of the application's schemes, sorted."""
        return self.toml_names(f"schemes/{app}")

    def scheme(self, app: App, name: str) -> Scheme:
        """A scheme of the application. Raises ``UserError`` where there is none of that name."""
        names = self.scheme_names(app.name)
        if name not in names:
            if name == FACTORY:
                raise UserError(
                    "The factory keys are read-only.",
                    hint=f"Make a scheme on top of them: olive-compass scheme new {app.name}/mine",
                )
            if names:
                hint = _choose(name, names)
            else:
                hint = f"Make one: olive-compass scheme new {app.name}/{name}"
            raise UserError(f"{app.title} has no scheme “{name}”.", hint=hint)
        file = scheme_path(app.name, name)
        modes = frozenset(app.modes.names)
        scheme = scheme_file.read(self.bytes(file), file, name, modes, app.rules.typed)
        if scheme.app not in ("", app.name):
            raise UserError(
                f"This scheme is for “{scheme.app}”, but it lies with those of {app.name}.",
                file=file,
                line=self.line(file, "", "app"),
            )
        return scheme

    @cached_property
    def seat(self) -> "seat_file.SeatFile":
        """What holds for this seat alone."""
        file = seat_file.SEAT_FILE
        if self.has(file):
            return seat_file.read(self.bytes(file))
        return seat_file.SeatFile(format=seat_file.FORMAT)

    def own_file_formats(self) -> list[str]:
        """The names of the file formats that the desk has itself, sorted."""
        return sorted({*self.toml_names(older.FORMATS), *self.toml_names(older.TEXTFORMS)})

    def file_format_names(self) -> list[str]:
        """The names of the file formats, those that ship among them, sorted."""
        from olive_compass.desk.formats.file_format_file import shipped_names

        return sorted({*self.own_file_formats(), *shipped_names()})

    def file_format(self, name: str) -> "FileFormat":
        """A file format, the desk's own before one that ships. Raises ``UserError`` where there is none of that name."""
        from olive_compass.desk.formats import file_format_file

        path = file_format_file.file_format_path(name)
        if name in self.own_file_formats():
            if not self.has(path):
                path = path.replace(older.FORMATS, older.TEXTFORMS, 1)
            return file_format_file.read(self.bytes(path), path, name)
        if name in file_format_file.shipped_names():
            return file_format_file.read(file_format_file.shipped(name), path, name)
        hint = _choose(name, self.file_format_names())
        raise UserError(f"There is no file format “{name}”.", hint=hint)

    def keyset_names(self) -> list[str]:
        """The names of the key sets, sorted."""
        return self.toml_names("keysets")

    def stack_names(self, app: str) -> tuple[str, ...]:
        """The names of the schemes that count: those of ``desk.toml``, or else all."""
        stacks = self.settings.stacks
        if app in stacks:
            return stacks[app]
        return tuple(self.scheme_names(app))

    def stack(self, name: str) -> Stack:
        """The application with the schemes that count for it."""
        app = self.app(name)
        schemes = []
        for scheme in self.stack_names(name):
            try:
                schemes.append(self.scheme(app, scheme))
            except UserError as refused:
                if name in self.settings.stacks and scheme not in self.scheme_names(name):
                    refused.file, refused.line = DESK_FILE, self.line(DESK_FILE, "stacks", name)
                raise
        here = self.settings.project
        counting = [s for s in schemes if s.layer != PROJECT or s.project in ("", here)]
        return Stack(app, in_layer_order(counting), self.system_keys)

    @property
    def lists_purposes(self) -> bool:
        """Whether it has purposes of its own: then its applications are held against each other."""
        return self.has("purposes.csv")

    @cached_property
    def purposes(self) -> "Purposes":
        """The purposes of the desk; none where it has no list of its own."""
        from olive_compass.core.sharing.purposes import Purposes

        if not self.lists_purposes:
            return Purposes()
        from olive_compass.desk.formats.purposes_file import PURPOSES_FILE, read

        return read(self.bytes(PURPOSES_FILE), PURPOSES_FILE)

    @cached_property
    def system_keys(self) -> dict[Run, str]:
        """The keys of the operating system that are switched on."""
        if not self.has(SYSTEM_FILE):
            return {}
        return system_file.read(self.bytes(SYSTEM_FILE), SYSTEM_FILE, self.system_tables)

    @cached_property
    def system_tables(self) -> tuple[str, ...]:
        """The tables of ``system.toml`` that count on this computer."""
        stated = desk_file.read(self.bytes(DESK_FILE), DESK_FILE).platform
        return system_file.tables_of(self.settings.platform, stated)

    def save_scheme(self, before: Scheme, after: Scheme) -> "FileChange":
        """The file change that turns ``before`` into ``after``."""
        from olive_compass.desk.formats import scheme_writing
        from olive_compass.desk.storage.records import FileChange

        path = scheme_path(after.app, after.name)
        old = self.bytes(path)
        return FileChange(path, old, scheme_writing.edited(old, before, after, path))

    def save_macro(self, before: "Macro | None", after: "Macro | None") -> "FileChange":
        """The file change that makes, edits or takes away a macro."""
        from olive_compass.desk.formats import macro_writing
        from olive_compass.desk.storage.records import FileChange

        macro = after or before
        assert macro is not None
        path = macro_path(macro.app, macro.name)
        old = None
        if before:
            old = self.bytes(path)
        if after is None:
            return FileChange(path, old, None)
        new = None
        if before and old is not None:
            new = macro_writing.edited(old, before, after)
        return FileChange(path, old, new or macro_writing.new_text(after))

    def keep(self) -> None:
        """Keeps what was worked out of the desk, where anything was."""
        if "kept" in vars(self):
            self.kept.keep()

    def anew(self) -> "Desk":
        """The desk as its files are now, whatever was read of it before."""
        return Desk(self.root, self.instead, self.platform)

    def with_files(self, files: "Iterable[FileChange]") -> "Desk":
        """The desk as it would be with these changes, none of them written."""
        instead = {**self.instead, **{each.path: each.after for each in files}}
        return Desk(self.root, instead, self.platform)

    def _app_file(self, name: str) -> app_file.AppFile:
        if name not in self._app_files:
            path = app_path(name)
            found = app_file.read(self.bytes(path), path, name, self.settings.project)
            if own := self.seat.licences.get(name):
                licences = {**found.rules.licences, **own}
                found = replace(found, rules=replace(found.rules, licences=licences))
            self._app_files[name] = found
        return self._app_files[name]

    def _title(self, name: str) -> str:
        return self._app_file(name).title


def _choose(given: str, names: list[str]) -> str:
    from olive_compass.near import did_you_mean

    return did_you_mean(given, names) or f"There is {', '.join(names)}."
