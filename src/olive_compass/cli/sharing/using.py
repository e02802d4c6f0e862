"""What key sets ask of what was counted: how often a command was used, and what was pressed of late."""

from collections.abc import Iterable, Mapping

from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.purposes import Purposes
from olive_compass.core.sharing.sameness import DAYS, Practice, days_before, practice, sameness
from olive_compass.core.usage.tally import Count, Use
from olive_compass.desk.desk import Desk


def tally_of(desk: Desk, context: Surroundings) -> Mapping[Use, Count]:
    """What was counted on the desk; where nothing was taken yet, what its logs have."""
    from olive_compass.cli.looking.tallies import tally_or_logs
    from olive_compass.desk.tallies import whole_tally

    if desk.tally_names():
        return whole_tally(desk)
    return {
        use: count
        for name in desk.app_names()
        for use, count in tally_or_logs(desk, desk.app(name), context).items()
    }


def practice_of(desk: Desk, context: Surroundings) -> Practice:
    """What was pressed in the last days that were counted."""
    from olive_compass.desk.tallies import tally_since

    if desk.tally_names():
        return practice(tally_since(desk, days_before))
    return practice(tally_of(desk, context))


def same_text(
    purposes: Purposes,
    now: Iterable[Keymap],
    done: Practice,
    after: Iterable[Keymap] | None = None,
) -> str:
    """How many presses do the same in all applications, and would with other keys; ``""`` where none tell."""
    before = sameness(purposes, now, done)
    if not before.of:
        return ""
    text = (
        f"Of {before.of} presses in the {DAYS} days to {done.last} whose purpose several applications have, "
        f"{before.same} ({before.same / before.of:.0%}) did the same in all of them"
    )
    if after is not None:
        then = sameness(purposes, after, done)
        if then.of:
            text += f"; with the set {then.same} ({then.same / then.of:.0%}) do"
    return f"{text}."
