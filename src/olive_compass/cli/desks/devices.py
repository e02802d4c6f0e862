"""``desk device``: declares what lies beside the keyboard, and shows it."""

import argparse
import re
from itertools import chain

from msgspec import Struct

from olive_compass.cli import pick
from olive_compass.cli.changing.keeping import Writing, keep, writing_of
from olive_compass.cli.options import WriteOptions, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_fields, print_table
from olive_compass.core.keys.devices import WORKED_BY, Device, WorkedBy
from olive_compass.core.keys.kinds import kinds
from olive_compass.core.keys.kinds.device import control_name
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats.device_file import device_path, new_text, read
from olive_compass.desk.reported.devices import device_report
from olive_compass.desk.storage.file_names import checked_name
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.views import schemes_with_device
from olive_compass.errors import UserError

#: What is declared so that the desk knows which buttons its own mouse, wheel and pen have.
KNOWN = {
    "mouse": "main,middle,second,4,5",
    "wheel": "up,down,left,right",
    "pen": "tip,barrel,eraser",
}


def options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "action",
        nargs="?",
        default="list",
        choices=("list", "show", "new", "remove"),
        help="list devices, show, add or remove one (default: list)",
    )
    parser.add_argument(
        "name", nargs="?", metavar="DEVICE", help="the device's name; its triggers begin with it"
    )
    parser.add_argument(
        "--controls",
        action="append",
        default=[],
        metavar="NAMES",
        help="a row of controls, comma-separated; repeat for the next row",
    )
    parser.add_argument(
        "--grid", default="", metavar="ROWSxCOLUMNS", help="a pad of keys K1, K2 and so on: 3x4"
    )
    parser.add_argument("--dials", default="", metavar="NAMES", help="the controls that are dials")
    parser.add_argument(
        "--faders", default="", metavar="NAMES", help="the controls that are faders"
    )
    parser.add_argument(
        "--hand", choices=WORKED_BY, help="the hand or foot that operates it (default: either)"
    )
    parser.add_argument(
        "--reach",
        type=float,
        default=2.0,
        metavar="N",
        help="the effort of a press, in home strokes (default: 2)",
    )
    parser.add_argument("--title", default="", help="its title (default: its name)")
    write_options(parser)


class DeskDeviceOptions(WriteOptions, kw_only=True):
    """The options of ``desk device``."""

    action: str
    name: str | None
    controls: list[str]
    grid: str
    dials: str
    faders: str
    hand: WorkedBy | None
    reach: float
    title: str


def devices(args: DeskDeviceOptions, context: Surroundings) -> int:
    """Runs ``desk device``."""
    desk = pick.desk(args, context)
    if args.action == "list":
        return _list(args.json, context, desk)
    if not args.name:
        raise UserError(
            "Name a device.", hint=f"For example: olive-compass desk device {args.action} pad"
        )
    if args.action == "new":
        wanted = _Wanted(
            name=args.name,
            title=args.title,
            controls=args.controls,
            grid=args.grid,
            dials=args.dials,
            faders=args.faders,
            hand=args.hand,
            reach=args.reach,
        )
        return _new(wanted, writing_of(args), context, desk)
    known = desk.devices.get(args.name)
    if known is None:
        has = ", ".join(desk.devices) or "none yet"
        raise UserError(f"The desk has no device “{args.name}”.", hint=f"It has {has}.")
    if args.action == "show":
        return _show(args.json, context, desk, known)
    path = device_path(args.name)
    used = schemes_with_device(desk, args.name)
    lines: tuple[str, ...] = ()
    if used:
        lines = (f"It had keys of {', '.join(used)}; what fails now: olive-compass check.",)
    return keep(
        writing_of(args),
        context,
        desk,
        [desk.change_of(path, None)],
        f"Removed device {args.name}",
        lines,
    )


class _Wanted(Struct, frozen=True, kw_only=True):
    """A device as it is declared: its rows of controls, each separated by commas, and what is turned."""

    name: str
    title: str
    controls: list[str]
    grid: str
    dials: str
    faders: str
    hand: WorkedBy | None
    reach: float


def _refuse_name(name: str, desk: Desk) -> None:
    """Raises ``UserError`` for a name that a device cannot have, or has already."""
    taken = [kind.prefix[:-1] for kind in kinds() if kind.prefix.endswith(":")]
    checked_name(name, "a device", desk.devices, [each for each in taken if each not in KNOWN])
    if not re.fullmatch(r"[a-z][a-z0-9-]*", name):
        raise UserError(
            f"“{name}” cannot begin a trigger.",
            hint="A device's name is of small letters, digits and hyphens, such as pedal.",
        )
    if name in desk.devices:
        raise UserError(
            f"The desk has a device “{name}” already; nothing was changed.",
            file=device_path(name),
            hint=f"Remove it first: olive-compass desk device remove {name}",
        )


def _new(wanted: _Wanted, writing: Writing, context: Surroundings, desk: Desk) -> int:
    _refuse_name(wanted.name, desk)
    device = Device(
        name=wanted.name,
        title=wanted.title or wanted.name,
        rows=_rows(wanted),
        dials=frozenset(_names(wanted.dials)),
        faders=frozenset(_names(wanted.faders)),
        hand=wanted.hand
        or ("right" if wanted.name in KNOWN and desk.settings.hand == "left" else "either"),
        reach=wanted.reach,
    )
    path = device_path(wanted.name)
    data = new_text(device)
    # Read back before it is written: what is wrong is refused as it would be in the file.
    made = read(data, path, wanted.name)
    first = f"{wanted.name}:{made.controls[0]}"
    lines = [f"Its triggers: {made.said_controls}, written {first}."]
    if wanted.name not in KNOWN:
        lines.append(
            "What an application takes beside keys: olive-compass app rules APP --set takes=device"
        )
    what = f"Added device {wanted.name}, {len(made.controls)} controls"
    return keep(
        writing,
        context,
        desk,
        [FileChange(path, None, data)],
        what,
        tuple(lines),
        device=device_report(made),
    )


def _rows(wanted: _Wanted) -> tuple[tuple[str, ...], ...]:
    """The rows of controls that the options name; each thing that is turned stands in one of them."""
    rows = [tuple(_names(row)) for row in wanted.controls]
    if wanted.grid:
        rows += _grid(wanted.grid)
    if not rows and wanted.name in KNOWN:
        rows.append(tuple(_names(KNOWN[wanted.name])))
    for text in (wanted.dials, wanted.faders):
        # A dial that stands in a row already is only said to be one.
        there = set(chain.from_iterable(rows))
        new = tuple(name for name in _names(text) if name not in there)
        if new:
            rows.append(new)
    if not rows:
        raise UserError(
            f"What controls {wanted.name} has is not said.",
            hint="Use --controls left,right or --grid 3x4, and --dials or --faders for what is turned.",
        )
    return tuple(rows)


def _names(text: str) -> list[str]:
    return [
        control_name(part.strip()) for part in text.replace(" ", ",").split(",") if part.strip()
    ]


def _list(as_json: bool, context: Surroundings, desk: Desk) -> int:
    if as_json:
        context.json({"devices": [device_report(each) for each in desk.devices.values()]})
    elif not desk.devices:
        context.say(
            "The desk knows of no device beside the keyboard. To declare one: olive-compass desk "
            "device new pedal --controls left,middle,right --hand foot"
        )
    else:
        rows = [
            (each.name, each.title, each.said_controls, each.hand) for each in desk.devices.values()
        ]
        print_table(context, ("device", "title", "controls", "worked by"), rows)
    return 0


def _show(as_json: bool, context: Surroundings, desk: Desk, device: Device) -> int:
    if as_json:
        context.json(device_report(device))
        return 0
    context.say(f"{BOLD}{device.title}{OFF} ({device_path(device.name)})")
    rows = ["  ".join(row) for row in device.rows]
    fields = [(f"row {n}", row) for n, row in enumerate(rows, 1)]
    turned = [("dials", device.dials), ("faders", device.faders)]
    fields += [(name, ", ".join(sorted(which))) for name, which in turned]
    users = schemes_with_device(desk, device.name)
    print_fields(
        context,
        [
            *fields,
            ("worked by", device.hand),
            ("a press costs", f"{device.reach:g} home strokes"),
            ("used by", ", ".join(users) or "no scheme yet"),
        ],
    )
    return 0


def _grid(text: str) -> list[tuple[str, ...]]:
    """The keys of a grid (``3x4``), counted as one reads: along a row, then down."""
    size = re.fullmatch(r"(\d{1,2})\s*[x×*]\s*(\d{1,2})", text.strip().lower())
    if size is None or not int(size[1]) * int(size[2]):
        raise UserError(f"“{text}” is no grid.", hint="Write rows and columns: --grid 3x4")
    down, across = int(size[1]), int(size[2])
    return [tuple(f"K{r * across + c + 1}" for c in range(across)) for r in range(down)]
