"""What a tally says beside the keys that count: used most, by menu though it has a key, never, slips."""

from collections import Counter
from collections.abc import Container, Iterable, Mapping
from types import MappingProxyType
from typing import TYPE_CHECKING

from msgspec import Struct

from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import holdings, live_triggers
from olive_compass.core.usage.tally import SLIP, Count, Tally, Use, monday_of, uses

if TYPE_CHECKING:
    from olive_compass.core.macros.macro import Macro

#: The ways by which a hand goes where it need not: anything but a press.
BY_HAND = ("menu", "toolbar", "tray")


class Used(Struct, frozen=True, kw_only=True):
    """A command and how it was used: how often in all, by way, of that undone at once, first and last."""

    command: str
    times: int
    ways: Mapping[str, int]
    undone: int
    first: str
    last: str

    @property
    def by_menu(self) -> int:
        """How often it was not a press."""
        return sum(self.ways.get(way, 0) for way in BY_HAND)


class Slip(Struct, frozen=True, kw_only=True):
    """A trigger that was pressed in the place of another, how often, and what it started."""

    pressed: str
    meant: str
    command: str
    times: int


class Week(Struct, frozen=True):
    """A week by the day on which it begins, and how often what was used, by way."""

    day: str
    ways: Mapping[str, int]


def narrowed(tally: Tally, app: str = "", since: str = "", seat: str = "") -> dict[Use, Count]:
    """What is of an application, from a day on, and of a seat."""

    def is_of(use: Use) -> bool:
        return use.app == (app or use.app) and use.day >= since and use.seat == (seat or use.seat)

    return {use: count for use, count in tally.items() if is_of(use)}


def used(tally: Tally) -> list[Used]:
    """The commands of a tally of one application, the one used most first."""
    ways: dict[str, dict[str, int]] = {}
    undone: dict[str, int] = {}
    first: dict[str, str] = {}
    last: dict[str, str] = {}
    # Of every row of a tally: nothing is made for a row that is thrown away with the next.
    for use, count in uses(tally):
        command = use.command
        by = ways.get(command)
        if by is None:
            by = ways[command] = {}
            undone[command], first[command], last[command] = 0, count.first, count.last
        by[use.how] = by.get(use.how, 0) + count.times
        undone[command] += count.undone
        if count.first < first[command]:
            first[command] = count.first
        if count.last > last[command]:
            last[command] = count.last
    found = (
        Used(
            command=name,
            times=sum(by.values()),
            ways=_sorted(by),
            undone=undone[name],
            first=first[name],
            last=last[name],
        )
        for name, by in ways.items()
    )
    return sorted(found, key=lambda each: (-each.times, each.command))


def by_menu_though_keyed(keymap: Keymap, among: Iterable[Used]) -> list[Used]:
    """Those that were reached by hand though a key reaches them, the one reached so most first."""
    found = [each for each in among if each.by_menu and live_triggers(keymap, each.command)]
    return sorted(found, key=lambda each: (-each.by_menu, each.command))


def without_key(
    keymap: Keymap, among: Iterable[Used], macros: "Mapping[str, Macro]" = MappingProxyType({})
) -> list[Used]:
    """Those that no key reaches, and that are not keyless on purpose, the one used most first.

    A macro of one step is a way to its command: who gave that macro a key has a key for the command.
    """
    keyless = keymap.stack.keyless
    keyless |= {
        macro.steps[0].command
        for macro in macros.values()
        if len(macro.steps) == 1 and live_triggers(keymap, macro.id)
    }
    known = keymap.app.catalogue.by_id
    return [
        each
        for each in among
        if each.command in known
        and each.command not in keyless
        and not live_triggers(keymap, each.command)
    ]


def never_pressed(keymap: Keymap, tally: Tally) -> list[Claim]:
    """A claim of each key that works and that nobody pressed: what can be reclaimed. A guard keeps its key
    from that, pressed or not."""
    counted = [use for use, _ in uses(tally)]
    pressed = {use.key for use in counted} - {""}
    commands_pressed = {use.command for use in counted if use.how == "key"}
    found = []
    for command in keymap.app.catalogue.commands:
        for holding in holdings(keymap, command.id):
            if not holding.live or keymap.keyboard.press_of(holding.trigger) in keymap.guarded:
                continue
            # A log that names no keys says at least which commands were started by one.
            was_pressed = command.id in commands_pressed
            if pressed:
                was_pressed = str(holding.trigger) in pressed
            if not was_pressed:
                found.append(holding.claims[0])
    return found


def slips(tally: Tally) -> list[Slip]:
    """The triggers that were pressed in the place of others, the commonest first."""
    found: dict[tuple[str, str, str], int] = {}
    for use, count in tally.items():
        if use.how == SLIP:
            which = (use.key, use.after, use.command)
            found[which] = found.get(which, 0) + count.times
    listed = [
        Slip(pressed=pressed, meant=meant, command=command, times=times)
        for (pressed, meant, command), times in found.items()
    ]
    return sorted(listed, key=lambda each: (-each.times, each.pressed, each.meant, each.command))


def trend(tally: Tally) -> list[Week]:
    """Week by week, by way."""
    days: dict[str, dict[str, int]] = {}
    for use, count in uses(tally):
        if use.day:
            _count(days.setdefault(use.day, {}), use.how, count.times)
    weeks: dict[str, dict[str, int]] = {}
    for day, ways in days.items():
        week = weeks.setdefault(monday_of(day), {})
        for way, times in ways.items():
            _count(week, way, times)
    return [Week(day, _sorted(weeks[day])) for day in sorted(weeks)]


def _count(ways: dict[str, int], way: str, times: int) -> None:
    ways[way] = ways.get(way, 0) + times


def _sorted(ways: Mapping[str, int]) -> Mapping[str, int]:
    """Ways in one order, whatever was counted first."""
    return dict(sorted(ways.items()))


def a_week(found: Iterable[Used], weeks: float) -> dict[str, float]:
    """How often a week each command was used, over so many weeks."""
    return {each.command: each.times / weeks for each in found}


def times_in(tally: Tally, modes: Container[str]) -> dict[str, int]:
    """How often each command was used in those modes, as far as the logs say it."""
    found: dict[str, int] = {}
    for use, count in uses(tally):
        # Most logs do not say the mode.
        if not use.mode or use.mode in modes:
            found[use.command] = found.get(use.command, 0) + count.times
    return found


def times_of_all(tally: Mapping[Use, Count]) -> dict[tuple[str, str], int]:
    """How often each command was started, by application and command."""
    found: dict[tuple[str, str], int] = {}
    for use, count in uses(tally):
        place = use.app, use.command
        found[place] = found.get(place, 0) + count.times
    return found


def by_way(found: Iterable[Used]) -> dict[str, int]:
    """How often commands were started in each way."""
    ways: Counter[str] = Counter()
    for each in found:
        ways.update(each.ways)
    return dict(ways)
