"""Seconds a week that commands take now, that keys save, and that new keys would save."""

from msgspec import Struct

from olive_compass.core.keys.triggers import Run
from olive_compass.core.savings.model import Cost, Times, menu_cost, press_cost, way_cost
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.view import View
from olive_compass.core.usage.looking import BY_HAND, Used, used
from olive_compass.core.usage.summing import Usage

#: What an average key of one modifier takes where none is chosen yet, in home strokes: our own choice.
AVERAGE = 4.0


class CommandSavings(Struct, frozen=True, kw_only=True):
    """What a command costs a week, in seconds.

    ``now`` is what its uses take; ``by_key`` what they would take by its best key, or by an average one
    where it has none; ``by_menu`` by its menu alone. ``key`` is that key as text, ``""``: it has none.
    ``pressed`` is how often it is started by a key. ``press`` and ``menu`` are the costs of one use, with how
    they came about.
    """

    command: str
    a_week: float
    by_hand: float
    pressed: float
    now: float
    by_key: float
    by_menu: float
    key: str
    press: Cost
    menu: Cost

    @property
    def saves(self) -> float:
        """What its key saves now against the menu: only what was pressed saves anything."""
        return self.pressed * (self.menu.seconds - self.press.seconds)

    @property
    def would_save(self) -> float:
        """What it would save more if every use were a press."""
        return self.now - self.by_key


class Whole(Struct, frozen=True, kw_only=True):
    """All commands of an application together, in seconds a week: as it is used now, with the factory
    keys alone, by menus alone, and if every key that is there were pressed; and what the keys save that
    are pressed now."""

    now: float
    factory: float
    menus: float
    pressed: float
    saved: float


def savings_of_keys(view: View, usage: Usage, times: Times) -> list[CommandSavings]:
    """What each used command is worth, the one that takes most first."""
    weeks = usage.weeks
    known = view.app.catalogue.by_id
    found = [_savings_of(view, e, weeks, times) for e in used(usage.tally) if e.command in known]
    return sorted(found, key=lambda each: (-each.now, each.command))


def _savings_of(view: View, each: Used, weeks: float, times: Times) -> CommandSavings:
    app = view.app
    keys = pressable(view, view.keymap, each.command)
    costs = {run: press_cost(view.keyboard, run, times, view.weights, view.hand) for run in keys}
    best = min(keys, key=lambda run: costs[run].seconds, default=None)
    if best:
        press = costs[best]
    else:
        press = average(times)
    menu = menu_cost(app, each.command, times)
    by_hand = sum(number for way, number in each.ways.items() if way in BY_HAND)
    now = 0.0
    for way, number in each.ways.items():
        cost = press
        if way in BY_HAND:
            cost = way_cost(app, each.command, way, times)
        now += number * cost.seconds
    a_week = each.times / weeks
    return CommandSavings(
        command=each.command,
        a_week=a_week,
        by_hand=by_hand / weeks,
        pressed=(each.times - by_hand) / weeks,
        now=now / weeks,
        by_key=a_week * min(press.seconds, menu.seconds),
        by_menu=a_week * menu.seconds,
        key=str(best) if best else "",
        press=press,
        menu=menu,
    )


def pressable(view: View, keymap: Keymap, command: str) -> list[Run]:
    """The triggers that reach a command, and that the keyboard at hand has the keys for."""
    made = view.keyboard.made
    return [
        run
        for run in live_triggers(keymap, command)
        if not any(made(stroke).missing for stroke in run.strokes)
    ]


def average(times: Times) -> Cost:
    """What a press takes where no key is chosen yet."""
    from olive_compass.core.savings.model import Part

    keys = AVERAGE / times.strokes
    parts = (Part("M", 1, times.mind), Part("K", keys, keys * times.key))
    return Cost(sum(part.seconds for part in parts), parts)


def whole(view: View, found: list[CommandSavings], times: Times) -> Whole:
    """What all commands take a week."""
    factory = sum(_with_factory(view, view.factory, each, times) for each in found)
    return Whole(
        now=sum(each.now for each in found),
        factory=factory,
        menus=sum(each.by_menu for each in found),
        # What has no key goes on as it is.
        pressed=sum(each.by_key if each.key else each.now for each in found),
        saved=sum(each.saves for each in found if each.key),
    )


def _with_factory(view: View, factory: Keymap, each: CommandSavings, times: Times) -> float:
    """What the same uses would take with the factory keys: presses without one go by the menu."""
    pressed = each.a_week - each.by_hand
    keys = pressable(view, factory, each.command)
    costs = [press_cost(view.keyboard, run, times, view.weights, view.hand).seconds for run in keys]
    by_press = min(costs, default=each.menu.seconds)
    by_hand_now = each.now - pressed * each.press.seconds
    return by_hand_now + pressed * by_press


class Saving(Struct, frozen=True):
    """A command without a key: what one would save a week, and after how many days it has paid."""

    savings: CommandSavings
    seconds: float
    pays_after: float


def savings(view: View, found: list[CommandSavings], times: Times) -> list[Saving]:
    """The commands whose key would save most, those without one and not keyless, the best first."""
    keyless = view.stack.keyless
    listed = []
    for each in found:
        saves = each.would_save
        if each.key or each.command in keyless or saves <= 0:
            continue
        listed.append(Saving(each, saves, times.learn / (saves / 7)))
    return sorted(listed, key=lambda each: (-each.seconds, each.savings.command))


def seconds_by_change(
    view: View, after: Keymap, usage: Usage, times: Times, by_key: bool = False
) -> float:
    """What other keys save a week in seconds (below 0: cost), if each command went on to be reached by hand
    as often as now, and by its best key, or else the menu, the rest of the time; ``by_key``: if hands went for the keys always."""
    saved = 0.0
    for each in savings_of_keys(view, usage, times):
        pressed = each.a_week - (0 if by_key else each.by_hand)
        before, now = (_best(view, keymap, each, times) for keymap in (view.keymap, after))
        saved += pressed * (before - now)
    return saved


def _best(view: View, keymap: Keymap, each: CommandSavings, times: Times) -> float:
    """What one use takes by the best key of a keymap, or by the menu."""
    keys = pressable(view, keymap, each.command)
    costs = [press_cost(view.keyboard, run, times, view.weights, view.hand).seconds for run in keys]
    return min([*costs, each.menu.seconds])
