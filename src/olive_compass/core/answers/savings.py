"""What the keys of an application save a week, and which key would save most."""

from msgspec import Struct

from olive_compass.core.changes.view import AppView
from olive_compass.core.savings.model import Times
from olive_compass.core.savings.savings_of_keys import (
    CommandSavings,
    Saving,
    Whole,
    savings,
    savings_of_keys,
    whole,
)
from olive_compass.core.usage.summing import Usage
from olive_compass.core.usage.tally import says_no_way, uses


class SavingsAnswer(Struct, frozen=True, kw_only=True):
    """What an application takes a week: over how many days it was counted, all together, each command, and the commands
    whose key would save most, the best first. ``from_lists`` are those of which nobody saw how they were started.
    """

    view: AppView
    days: int
    whole: Whole
    commands: tuple[CommandSavings, ...]
    best: tuple[Saving, ...]
    from_lists: tuple[str, ...]


def savings_of(view: AppView, usage: Usage, times: Times) -> SavingsAnswer:
    """What was counted of an application, as seconds by the keystroke-level model."""
    found = savings_of_keys(view, usage, times)
    listed = {use.command for use, count in uses(usage.tally) if says_no_way(use, count)}
    return SavingsAnswer(
        view=view,
        days=usage.days,
        whole=whole(view, found, times),
        commands=tuple(found),
        best=tuple(savings(view, found, times)),
        from_lists=tuple(sorted(listed)),
    )
