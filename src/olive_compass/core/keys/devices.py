"""Devices beside the keyboard: a pad, a pedal, a console, or a mouse and pen of known buttons."""

from typing import Literal, get_args

from msgspec import Struct

from olive_compass.core.keys.forms import Form, Seat

#: What works a device. The hand decides whether the other one can stay on the mouse.
WorkedBy = Literal["left", "right", "either", "foot"]
WORKED_BY: tuple[WorkedBy, ...] = get_args(WorkedBy)


class Device(Struct, frozen=True, kw_only=True):
    """A device: its name in triggers, what it is called, its controls row by row, and who works it.

    ``turned`` are the dials and faders among the controls of ``rows``: each of them gives two
    triggers (``D1-up``, ``D1-down``), a dial also a third, when it is pressed. ``reach`` is what one
    press costs, in home strokes.
    """

    name: str
    title: str
    rows: tuple[tuple[str, ...], ...] = ()
    dials: frozenset[str] = frozenset()
    faders: frozenset[str] = frozenset()
    hand: WorkedBy = "either"
    reach: float = 2.0

    @property
    def controls(self) -> tuple[str, ...]:
        """What can stand after the colon, in the order of the rows."""
        return tuple(each for row in self.rows for name in row for each in self.of(name))

    def of(self, name: str) -> tuple[str, ...]:
        """The controls that one thing of a row is: itself, or the ways in which it is turned."""
        if name in self.faders:
            return (f"{name}-up", f"{name}-down")
        if name in self.dials:
            return (name, f"{name}-up", f"{name}-down")
        return (name,)

    @property
    def said_controls(self) -> str:
        """The controls in short, as a message names them."""
        known = self.controls
        if len(known) <= 8:
            return ", ".join(known)
        return f"{known[0]} to {known[-1]}"


def device_form(device: Device) -> Form:
    """The device as a form that can be drawn: its controls by code (``pad:K1``), a row a row.

    What is turned takes a place for each of its triggers. Widths follow the names.
    """
    seats = {}
    for y, row in enumerate(device.rows):
        x = 0.0
        for name in row:
            for control in device.of(name):
                # A key unit is drawn eight columns wide: room for the name, a mark and the edge.
                width = max(1.0, -(-(len(control) + 3) // 2) / 4)
                code = f"{device.name}:{control}"
                seats[code] = Seat(code=code, x=x, y=float(y), width=width, height=1.0, row=y)
                x += width
    return Form(device.name, device.title, seats)
