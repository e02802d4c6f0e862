"""A control of a device that the desk declares: ``pedal:left``, ``deck:K3``, ``console:D1-up``."""

import re
from typing import TYPE_CHECKING

from olive_compass.core.keys.kinds.kind import Kind, Sits, UnreadableError
from olive_compass.core.keys.presses import Made
from olive_compass.core.keys.triggers import Stroke

if TYPE_CHECKING:
    from olive_compass.core.keys.kinds.kind import Board

#: As text, for it is compiled only where a device is named.
_WRITTEN = r"(?P<device>[A-Za-z][\w-]*):(?P<control>\w[\w-]*)"


class Control(Kind):
    name = "device"
    plural = "controls of devices"
    must_be_taken = True

    def read(self, text: str) -> str:
        found = re.fullmatch(_WRITTEN, text.strip())
        if found is None or not text.isascii():
            raise UnreadableError(f"“{text}” is no control of a device, such as pedal:left")
        return f"{found['device'].lower()}:{control_name(found['control'])}"

    def made(self, stroke: Stroke, held: list[str], keyboard: "Board") -> Made:
        device, _, control = stroke.key.partition(":")
        return Made(
            presses=((keyboard.real(held), stroke.key),),
            missing=_missing(keyboard, device, control),
        )

    def sits(self, code: str, keyboard: "Board") -> Sits | None:
        name, _, _ = code.partition(":")
        device = keyboard.devices.get(name)
        if device is None:
            return None
        return Sits("", device.title, device.reach)

    def there(self, keyboard: "Board") -> dict[str, tuple[str, ...]]:
        return {
            name: tuple(f"{name}:{control}" for control in device.controls)
            for name, device in keyboard.devices.items()
            if name not in ("mouse", "wheel", "pen")
        }


def control_name(text: str) -> str:
    """A control as it is written: ``K3`` for a letter and a number, small letters for words.

    >>> control_name("k3"), control_name("Left"), control_name("d1-UP")
    ('K3', 'left', 'D1-up')
    """
    first, dash, rest = text.partition("-")
    short = re.fullmatch(r"[A-Za-z]\d+", first)
    return (first.upper() if short else first.lower()) + dash + rest.lower()


def _missing(keyboard: "Board", device: str, control: str) -> str:
    known = keyboard.devices.get(device)
    if known is None:
        from olive_compass.core.keys.kinds import kinds
        from olive_compass.near import did_you_mean

        prefixes = [kind.prefix[:-1] for kind in kinds() if kind.prefix.endswith(":")]
        near = did_you_mean(device, [*keyboard.devices, *prefixes])
        hint = ""
        if near:
            hint = f"; {near[0].lower()}{near[1:].rstrip('.')}"
        return f"the desk has no device “{device}”{hint}"
    if control in known.controls:
        return ""
    return f"{known.title} has no control {control} ({known.said_controls})"


KIND = Control()
