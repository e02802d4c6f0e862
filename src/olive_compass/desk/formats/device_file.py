"""A device beside the keyboard as ``devices/<name>.toml``."""

from typing import Any

from olive_compass.core.keys.devices import WORKED_BY, Device
from olive_compass.core.keys.kinds.device import control_name
from olive_compass.desk.texts.toml_text import check_fields, load, quoted, refuse_all

FORMAT = "olive-compass-device/1"

_TOP: dict[str, type | tuple[type, ...]] = {
    "format": str,
    "title": str,
    "rows": list,
    "dials": list,
    "faders": list,
    "hand": str,
    "reach": (int, float),
}


def device_path(name: str) -> str:
    return f"devices/{name}.toml"


def read(data: bytes, file: str, name: str) -> Device:
    """The device in a file; raises ``UserError`` with all its mistakes and their lines."""
    content = load(data, file, FORMAT)
    problems = [("", key, text) for key, text in check_fields(content, _TOP, "a device")]
    rows = tuple(
        tuple(control_name(word) for word in str(row).split())
        for row in _list(content, "rows")
        if str(row).strip()
    )
    # The rows are how it lies before the hand; what turns or slides is only told apart within them.
    names = [name for row in rows for name in row]
    if not names:
        problems.append(("", "rows", "“rows” names the controls of the device, a text a row."))
    for each in dict.fromkeys(name for name in names if names.count(name) > 1):
        problems.append(("", "rows", f"“{each}” stands twice."))
    turned = {}
    for field in ("dials", "faders"):
        turned[field] = frozenset(control_name(str(each)) for each in _list(content, field))
        for each in sorted(turned[field] - set(names)):
            problems.append(("", field, f"“{each}” is no control of “rows”."))
    hand = content.get("hand", "either")
    if hand not in WORKED_BY:
        problems.append(("", "hand", f"“hand” is one of {', '.join(WORKED_BY)}."))
    reach = content.get("reach", 2.0)
    if isinstance(reach, int | float) and not 0 <= reach <= 100:
        problems.append(("", "reach", "“reach” is from 0 to 100 home strokes."))
    refuse_all(problems, data, file)
    title = content.get("title", name)
    return Device(
        name=name,
        title=title,
        rows=rows,
        dials=turned["dials"],
        faders=turned["faders"],
        hand=hand,
        reach=float(reach),
    )


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


def _list(content: dict[str, Any], name: str) -> list[Any]:
    found = content.get(name, [])
    return found if isinstance(found, list) else []
