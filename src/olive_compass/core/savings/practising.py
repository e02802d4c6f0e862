"""What to practise, and when again: Leitner's boxes.

Source: S. Leitner, *So lernt man lernen* (Herder, 1972): a card that is known goes one box on, one that
is not goes back to the first, and each box is looked at more rarely than the one before. The days of the
boxes are our own choice.
"""

from collections.abc import Mapping
from datetime import date, timedelta

from msgspec import Struct

from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.usage.looking import Used, by_menu_though_keyed, used
from olive_compass.core.usage.tally import Tally

#: After how many days the cards of each box come again, the first box first.
DAYS = (0, 1, 3, 7, 14)


class Box(Struct, frozen=True):
    """The box of a card, counted from 1, and the day on which it was looked at last."""

    number: int = 1
    day: str = ""

    def __str__(self) -> str:
        return f"{self.number} {self.day}".strip()

    @property
    def due(self) -> str:
        """The day on which it comes again, ``""``: at once."""
        if not self.day:
            return ""
        after = timedelta(days=DAYS[self.number - 1])
        return (date.fromisoformat(self.day) + after).isoformat()


class Card(Struct, frozen=True, kw_only=True):
    """A command to practise: its keys, how it was used, and its box."""

    command: str
    keys: tuple[Run, ...]
    used: Used | None
    box: Box


def read_box(text: str) -> Box:
    """A box as the seat's file has it; the first one where it cannot be read.

    >>> read_box("3 2026-11-26"), read_box("odd")
    (Box(number=3, day='2026-11-26'), Box(number=1, day=''))
    """
    number, _, day = text.partition(" ")
    try:
        date.fromisoformat(day)
        if 1 <= int(number) <= len(DAYS):
            return Box(int(number), day)
    except ValueError:
        pass
    return Box()


def cards(keymap: Keymap, tally: Tally, boxes: Mapping[str, Box], today: str) -> list[Card]:
    """The cards that are due, those first that the hand goes to the menu for most; those in no box come
    after the ones that were begun."""
    found = {each.command: each for each in by_menu_though_keyed(keymap, used(tally))}
    every = dict.fromkeys((*found, *boxes))
    due = []
    for command in every:
        keys = live_triggers(keymap, command)
        box = boxes.get(command, Box())
        if keys and command in keymap.app.catalogue.by_id and box.due <= today:
            due.append(Card(command=command, keys=keys, used=found.get(command), box=box))
    return sorted(due, key=_urgent)


def _urgent(card: Card) -> tuple[float, str]:
    by_menu = 0
    if card.used:
        by_menu = card.used.by_menu
    return (-by_menu / card.box.number, card.command)


def after(box: Box, right: bool, today: str) -> Box:
    """The box of a card once it was looked at."""
    return Box(min(box.number + 1, len(DAYS)) if right else 1, today)


def is_right(keymap: Keymap, card: Card, pressed: Run) -> bool:
    """Whether a press is one of the card's keys, by whatever keys of the board make it."""
    presses = {press for run in card.keys for press in keymap.keyboard.presses_of(run)}
    return any(press in presses for press in keymap.keyboard.presses_of(pressed))
