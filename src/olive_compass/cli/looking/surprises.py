"""What somebody who knows other keys meets: the same view for a visitor here and for oneself there."""

from typing import TYPE_CHECKING

from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.familiarity import familiarity
from olive_compass.core.wording import clause, counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.reported.surprises import familiarity_report

if TYPE_CHECKING:
    from olive_compass.cli.output.papers import Wanted


def show_surprises(
    context: Surroundings, desk: Desk, stack: Stack, known: Stack, knows: str, as_json: bool
) -> int:
    """Shows what somebody who knows the stack ``known`` (called ``knows``) presses wrongly in ``stack``."""
    keymap = Keymap(stack, desk.keyboard)
    found = familiarity(stack, known, keymap)
    report = familiarity_report(keymap, knows, found)
    rows = report.surprises
    if as_json:
        context.json(report)
        return 0
    here = " over ".join(stack.names)
    context.say(
        f"{BOLD}{stack.app.title}{OFF} ({here}) for somebody who knows {knows}: "
        f"{found.figure:.1%} as expected, {counted(len(rows), 'surprise')}."
    )
    if rows:
        print_table(
            context,
            ("key", "where", "is expected to be", "and is"),
            [(each.key, each.where, each.expects, _is(each.gets, each.warning)) for each in rows],
        )
    return 0


def _is(meaning: str | None, warning: str | None) -> str:
    return (meaning or "nothing") + clause(" ({})", warning)


def guest_card(
    asked: "Wanted", context: Surroundings, desk: Desk, stack: Stack, known: Stack, knows: str
) -> int:
    """The same as a card for the guest: different keys, worst first, then protected keys."""
    from olive_compass.cli.output.forms import Matter, give_table
    from olive_compass.drawing.documents import Cell, Table
    from olive_compass.drawing.key_caps import printed

    keymap = Keymap(stack, desk.keyboard)
    found = familiarity(stack, known, keymap)
    report = familiarity_report(keymap, knows, found)
    rows = tuple(
        (
            Cell("", (printed(each.trigger, context.key),)),
            Cell(told.where.removeprefix("in ")),
            Cell(told.expects),
            Cell(_is(told.gets, told.warning)),
        )
        for each, told in zip(found.surprises, report.surprises, strict=True)
    )
    guarded = sorted({context.key(run) for scheme in stack.schemes for run in scheme.guard})
    else_ = "All else" if rows else "All"
    said = f"{else_} is as {knows} have it: {found.figure:.1%} of the presses that you know."
    notes = (said, f"Leave these as they are: {', '.join(guarded)}.") if guarded else (said,)
    subtitle = (
        f"{desk.settings.name} · {' over '.join(stack.names)} · for somebody who knows {knows}"
    )
    matter = Matter(f"At this desk: {stack.app.heading}", subtitle, notes)
    headings: tuple[str, ...] = ("nothing is different",)
    if rows:
        headings = ("key", "where", "is expected to be", "and is")
    table = Table(headings, rows)
    give_table(asked, context, matter, table, "a6", lying=not asked.paper)
    return 0
