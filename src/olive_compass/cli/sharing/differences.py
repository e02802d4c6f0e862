"""Shows differences: as a table, and as JSON."""

from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, GREEN, OFF, RED, YELLOW
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.sharing.comparing import GONE, NEW, REASON, Difference
from olive_compass.desk.comparing import Section, subject_title
from olive_compass.desk.desk import Desk
from olive_compass.structs import replace

#: How many differences of one file are shown as a table.
MOST_SHOWN = 25

#: Words for the tables of a scheme.
TABLES = {
    "assign": "key",
    "keyless": "keyless",
    "mute": "mute",
    "guard": "guard",
    "accept": "accepted",
    "order": "choice",
    "keys": "key",
    "head": "about",
}


def print_sections(context: Surroundings, desk: Desk | None, sections: list[Section]) -> None:
    """Prints differences section by section, and counts them."""
    for section in sections:
        if section.name:
            context.say(f"{BOLD}{section.name}{OFF}")
        rows = [
            (
                f"{_colour(each)}{each.what}{OFF}",
                plain(each).table,
                subject_title(desk, section, each),
                each.before,
                each.after,
                plain(each).why,
            )
            for each in section.differences[:MOST_SHOWN]
        ]
        print_table(context, ("", "what", "of", "before", "after", "why"), rows)
        if more := section.differences[MOST_SHOWN:]:
            context.say(f"and {len(more)} more; --json has them all")
    context.say(counted_differences(sections))


def counted_differences(sections: list[Section]) -> str:
    """How many differences of which kind there are, in a sentence."""
    counts: dict[str, int] = {}
    for section in sections:
        for each in section.differences:
            counts[each.what] = counts.get(each.what, 0) + 1
    if not counts:
        return "They are alike."
    return ", ".join(f"{count} {what}" for what, count in counts.items()) + "."


def plain(each: Difference) -> Difference:
    """A difference in the words of a table, its reason only where that is not what differs."""
    why = ""
    if each.what != REASON:
        why = each.why
    return replace(each, table=TABLES.get(each.table, each.table), why=why)


def _colour(each: Difference) -> str:
    if each.what == NEW:
        return GREEN
    if each.what == GONE:
        return RED
    return YELLOW
