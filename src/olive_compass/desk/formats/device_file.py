"""A device beside the keyboard as ``devices/<name>.toml``."""

from collections.abc import Iterable, Iterator
from typing import Annotated, Literal

from olive_compass.core.keys.devices import Device, WorkedBy
from olive_compass.core.keys.kinds.device import control_name
from olive_compass.desk.texts.schemas import Format, Mistake, fitted, saying
from olive_compass.desk.texts.toml_text import load, quoted, refuse

FORMAT = "olive-compass-device/1"

_REACH = saying("“reach” is from 0 to 100 home strokes.", ge=0, le=100)


class DeviceTable(Format, frozen=True, kw_only=True):
    """A device: its controls row by row, which of them turn or slide, and who works it."""

    format: Literal["olive-compass-device/1"]
    title: str = ""
    rows: tuple[str, ...] = ()
    dials: tuple[str, ...] = ()
    faders: tuple[str, ...] = ()
    hand: WorkedBy = "either"
    reach: Annotated[float, _REACH] = 2.0


def device_path(name: str) -> str:
    return f"devices/{name}.toml"


def read(data: bytes, file: str, name: str) -> Device:
    """The device in a file; raises ``UserError`` with all its mistakes and their lines."""
    said, mistakes = fitted(load(data, file, FORMAT), DeviceTable, "a device")
    device = Device(
        name=name,
        title=said.title or name,
        rows=tuple(_controls(row.split()) for row in said.rows if row.strip()),
        dials=frozenset(_controls(said.dials)),
        faders=frozenset(_controls(said.faders)),
        hand=said.hand,
        reach=said.reach,
    )
    mistakes += _wrong(device)
    refuse(mistakes, data, file)
    return device


def _controls(words: Iterable[str]) -> tuple[str, ...]:
    return tuple(map(control_name, words))


def _wrong(device: Device) -> Iterator[Mistake]:
    # The rows are how it lies before the hand; what turns or slides is only told apart within them.
    names = [name for row in device.rows for name in row]
    if not names:
        yield Mistake(("rows",), "“rows” names the controls of the device, a text a row.")
    for name in dict.fromkeys(name for name in names if names.count(name) > 1):
        yield Mistake(("rows",), f"“{name}” appears twice.")
    for field, turned in (("dials", device.dials), ("faders", device.faders)):
        for name in sorted(turned - set(names)):
            yield Mistake((field,), f"“{name}” is no control of “rows”.")


def new_text(device: Device) -> bytes:
    """The file of a device that has none yet."""
    lines = [f'format = "{FORMAT}"', f"title = {quoted(device.title)}"]
    if len(device.rows) == 1:
        lines.append(f"rows = [{quoted(' '.join(device.rows[0]))}]")
    else:
        lines += ["rows = [", *(f"    {quoted(' '.join(row))}," for row in device.rows), "]"]
    for field, names in (("dials", device.dials), ("faders", device.faders)):
        if names:
            # In the order of the rows, for a set has none.
            given = [name for row in device.rows for name in row if name in names]
            lines.append(f"{field} = [{', '.join(map(quoted, given))}]")
    lines += [f"hand = {quoted(device.hand)}", f"reach = {device.reach:g}", ""]
    return "\n".join(lines).encode()
