"""Devices as ``desk device`` reports them."""

from collections.abc import Sequence

from olive_compass.core.keys.devices import Device
from olive_compass.desk.formats.device_file import device_path
from olive_compass.desk.reported.report import Report


class DeviceReport(Report, frozen=True, kw_only=True):
    """A device: its rows of controls, and what is a dial or a fader."""

    name: str
    title: str
    file: str
    rows: list[list[str]]
    controls: Sequence[str]
    dials: list[str]
    faders: list[str]
    hand: str
    reach: float


def device_report(device: Device) -> DeviceReport:
    """A device of the desk."""
    return DeviceReport(
        name=device.name,
        title=device.title,
        file=device_path(device.name),
        rows=[list(row) for row in device.rows],
        controls=device.controls,
        dials=sorted(device.dials),
        faders=sorted(device.faders),
        hand=device.hand,
        reach=device.reach,
    )
