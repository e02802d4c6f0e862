"""The settings of a desk and of this seat: keyboard, devices, keys of the system."""

from functools import cached_property
from typing import TYPE_CHECKING

from olive_compass.core.keys.keyboards import NO_DEVICES, Keyboard, Platform
from olive_compass.core.keys.triggers import Run
from olive_compass.desk import keyboards
from olive_compass.desk.formats import desk_file, seat_file, system_file
from olive_compass.desk.paths import DESK_FILE, SYSTEM_FILE
from olive_compass.desk.storage.desk_files import NO_FILES, DeskFiles
from olive_compass.structs import replace

if TYPE_CHECKING:
    from collections.abc import Mapping

    from olive_compass.core.keys.devices import Device


class DeskSettings(DeskFiles):
    """A desk in the folder ``root``, and what is set for all of its applications.

    ``instead`` are contents that count in the place of files; ``platform`` is read instead of that of the seat:
    another desk is looked at as from here.
    """

    def __init__(
        self,
        root: str,
        instead: "Mapping[str, bytes | None]" = NO_FILES,
        platform: Platform | None = None,
    ) -> None:
        super().__init__(root, instead)
        self.platform = platform

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
    def seat(self) -> "seat_file.SeatFile":
        """What holds for this seat alone."""
        file = seat_file.SEAT_FILE
        if self.has(file):
            return seat_file.read(self.bytes(file))
        return seat_file.SeatFile(format=seat_file.FORMAT)

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
