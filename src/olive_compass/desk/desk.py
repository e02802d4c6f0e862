"""The desk as its files mean it: applications, schemes, macros and the rest, each read when it is asked for."""

from functools import cached_property
from typing import TYPE_CHECKING

from olive_compass.core.apps.app import App, Catalogue
from olive_compass.core.apps.modes import ROOT, ModeTree
from olive_compass.core.keys.keyboards import Platform
from olive_compass.core.schemes.claims import Stack, in_layer_order
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.layers import FACTORY, PROJECT
from olive_compass.desk import older
from olive_compass.desk.desk_settings import DeskSettings
from olive_compass.desk.formats import app_file, catalogue_file, scheme_file
from olive_compass.desk.paths import DESK_FILE, app_path, catalogue_path, macro_path, scheme_path
from olive_compass.desk.storage.desk_files import NO_FILES
from olive_compass.errors import UserError
from olive_compass.structs import replace

if TYPE_CHECKING:
    from collections.abc import Iterable, Mapping

    from olive_compass.core.apps.trays import Tray
    from olive_compass.core.macros.macro import Macro
    from olive_compass.core.sharing.purposes import Purposes
    from olive_compass.desk.shortcuts.file_format import FileFormat
    from olive_compass.desk.storage.history import History
    from olive_compass.desk.storage.kept import Kept
    from olive_compass.desk.storage.records import FileChange


class Desk(DeskSettings):
    """A desk, with what its files mean; ``instead`` makes it the desk as it was, or as it would be."""

    def __init__(
        self,
        root: str,
        instead: "Mapping[str, bytes | None]" = NO_FILES,
        platform: Platform | None = None,
    ) -> None:
        super().__init__(root, instead, platform)
        #: Where the user keeps what was worked out of this desk before, ``""``: nowhere.
        self.cache = ""
        self._apps: dict[str, App] = {}
        self._app_files: dict[str, app_file.AppFile] = {}
        self._macros: dict[str, dict[str, Macro]] = {}

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
        """The application with its catalogue, in which its macros and its trays are commands too."""
        if name not in self._apps:
            self._apps[name] = self._read_app(name)
        return self._apps[name]

    def _read_app(self, name: str) -> App:
        about = self._app_file(name)
        catalogue = self.catalogue(name)
        if macros := self.macros(name):
            own = (macro.command for macro in macros.values())
            catalogue = Catalogue((*catalogue.commands, *own), catalogue.unreadable)
        modes = _with_modes_of(catalogue, about.modes)
        trays = self._counting_trays(name)
        if trays:
            from olive_compass.core.apps.tray_commands import command_of

            own = (command_of(each, about.rules.trays.get(each.kind)) for each in trays)
            catalogue = Catalogue((*catalogue.commands, *own), catalogue.unreadable)
        return App(
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


def _with_modes_of(catalogue: Catalogue, modes: ModeTree) -> ModeTree:
    """The modes of an application, and those that only its commands name: these stand side by side."""
    extra = {mode for c in catalogue.commands for mode in c.modes if mode not in modes}
    if not extra:
        return modes
    return ModeTree({**modes.parents, **dict.fromkeys(sorted(extra), ROOT)})


def _choose(given: str, names: list[str]) -> str:
    from olive_compass.near import did_you_mean

    return did_you_mean(given, names) or f"There is {', '.join(names)}."
