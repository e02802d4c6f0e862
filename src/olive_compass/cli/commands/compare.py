"""``compare``: what presses do in two stacks; or two key sets, versions, desks, decision by decision."""

import argparse
from collections.abc import Iterator
from typing import TYPE_CHECKING, Any

from olive_compass.cli import pick, words
from olive_compass.cli.intake.reading import ListingOptions, said_of
from olive_compass.cli.options import json_option, reading_options
from olive_compass.cli.output.forms import give
from olive_compass.cli.output.papers import (
    Wanted,
    paper_options,
    printing_of,
    table_options,
    wanted,
)
from olive_compass.cli.sharing.differences import counted_differences, plain, print_sections
from olive_compass.cli.sharing.sides import compared, side, with_listing
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, OFF
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.schemes.deciding import Keymap, Outcome
from olive_compass.core.schemes.pressing import PressChange, phrase_of, press_changes
from olive_compass.core.wording import by_number
from olive_compass.desk.comparing import Section, Side, keymaps_of, subject_title
from olive_compass.desk.desk import Desk
from olive_compass.drawing.forms import form_called
from olive_compass.errors import UserError

if TYPE_CHECKING:
    from olive_compass.drawing.documents import Contrast

GROUP = "look, check"
ORDER = 30
SUMMARY = "Compare two schemes, key sets, command lists or desks"
EXAMPLES = """olive-compass compare quillmap/factory quillmap/house
olive-compass compare quillmap/house quillmap
olive-compass compare quillmap/factory quillmap/house --decisions
olive-compass compare quillmap listings/quillmap-5.csv
olive-compass compare . .
olive-compass compare quillmap/factory quillmap/house --as html > changes.html
olive-compass compare quillmap/factory quillmap/house --out changes.xlsx"""

#: How many presses of one application are shown.
MOST_SHOWN = 40


def add_arguments(parser: argparse.ArgumentParser) -> None:
    for name, does, nargs in (
        ("before", "the earlier side", None),
        ("after", "the later side", "?"),
    ):
        parser.add_argument(
            name,
            metavar=name.upper(),
            nargs=nargs,
            help=f"{does}: APP, APP/SCHEME, APP/factory, keyset:NAME, a list, a desk's folder or a bundle",
        )
    parser.add_argument(
        "--decisions",
        action="store_true",
        help="compare decisions with their reasons, not presses",
    )
    table_options(parser)
    reading_options(parser, keeps=False)
    json_option(parser)
    paper_options(parser, "a4, landscape")


Pair = tuple[Keymap, Keymap, list[PressChange]]


class CompareOptions(ListingOptions, kw_only=True):
    """The options of ``compare``."""

    before: str
    after: str | None
    decisions: bool
    form: str
    out: str | None
    json: bool
    paper: str | None
    landscape: bool
    size: float | None


def run(args: CompareOptions, context: Surroundings) -> int:
    asked = wanted(args, context, json=args.json)
    desk = pick.desk(args, context)
    if args.after is None:
        raise UserError(
            "Name both sides.", hint="For example: olive-compass compare APP/factory APP"
        )
    before, after = _sides(args, context, desk, args.before, args.after)
    keymaps = keymaps_of(desk, before, after)
    # Two sides of different applications share no commands: only what was decided can be held together.
    by_decision = args.decisions or keymaps is None
    sections = _sections(before, after, by_decision)
    pairs: list[Pair] = []
    if keymaps and not by_decision:
        pairs = [(*pair, press_changes(*pair)) for pair in keymaps]
    # Lines and files are named on the desk that is looked at, which may be another one.
    whose: Desk = desk
    if isinstance(after.what, Desk):
        whose = after.what
    labels = (before.label, after.label)
    if args.json:
        context.json(_document(labels, sections, pairs))
    elif asked.form == "text":
        _say(context, whose, sections, pairs, by_decision)
    else:
        summary = _counted(pairs)
        if by_decision:
            summary = counted_differences(sections)
        _give(asked, context, labels, tuple(_contrasts(whose, sections, pairs)), summary)
    return 0


def _say(
    context: Surroundings,
    desk: Desk,
    sections: list[Section],
    pairs: list[Pair],
    by_decision: bool,
) -> None:
    """The differences as text: of decisions, or of presses with what they save."""
    if by_decision or sections:
        print_sections(context, desk, sections)
    if not by_decision:
        _print(context, pairs)
        _print_savings(context, desk, pairs)


def _document(
    labels: tuple[str, str], sections: list[Section], pairs: list[Pair]
) -> dict[str, Any]:
    """The comparison as JSON."""
    presses = [_as_json(new, each) for old, new, found in pairs for each in found]
    from olive_compass.desk.reported.differences import difference_reports

    return {
        "before": labels[0],
        "after": labels[1],
        "presses": presses,
        "differences": difference_reports(sections),
    }


def _sides(
    args: CompareOptions, context: Surroundings, desk: Desk, before: str, after: str
) -> tuple[Side, Side]:
    """What the two names mean; a listing's file is a version of the application on the other side."""
    one, other = side(desk, context, before), side(desk, context, after)
    said = said_of(args)
    return (
        with_listing(said, desk, context, one, other),
        with_listing(said, desk, context, other, one),
    )


def _give(
    asked: Wanted,
    context: Surroundings,
    labels: tuple[str, str],
    contrasts: "tuple[Contrast, ...]",
    summary: str,
) -> None:
    """Gives out a comparison that is no text: as a table, a page or a sheet."""
    # Loaded here: most comparisons are for the terminal.
    from olive_compass.drawing.documents import Comparison

    before, after = labels
    comparison = Comparison(
        before=before,
        after=after,
        contrasts=contrasts,
        summary=summary,
        printing=printing_of(asked, "a4", lying=True),
    )
    give(asked.into, context, form_called(asked.form).comparison(comparison))


def _contrasts(whose: Desk, sections: list[Section], pairs: list[Pair]) -> "Iterator[Contrast]":
    """All that the two sides have otherwise."""
    from olive_compass.drawing.documents import Contrast

    for section in sections:
        for each in map(plain, section.differences):
            yield Contrast(
                part=section.name or _title(whose, section.app),
                what=each.what,
                table=each.table,
                subject=subject_title(whose, section, each),
                before=each.before,
                after=each.after,
                why=each.why,
            )
    for old, new, found in pairs:
        for change in found:
            yield Contrast(
                part=new.app.title,
                what=change.what,
                table=phrase_of(new.app.modes, old.app.modes, change.modes),
                subject=str(change.trigger),
                before=_outcome(old, change.before),
                after=_outcome(new, change.after),
                why="",
            )


def _title(desk: Desk, app: str) -> str:
    """An application's title; its name where the desk has none of that name."""
    if app in desk.app_names():
        return desk.app(app).title
    return app


def _sections(before: Side, after: Side, by_decision: bool) -> list[Section]:
    """What is compared by decision: everything, or what on two desks is no scheme."""
    if by_decision:
        return compared(before, after)
    if not isinstance(before.what, Desk) or not isinstance(after.what, Desk):
        return []
    return [each for each in compared(before, after) if not each.name.startswith("schemes/")]


def _print(context: Surroundings, pairs: list[Pair]) -> None:
    for before, after, found in pairs:
        if len(pairs) > 1 and found:
            context.say(f"{BOLD}{after.app.title}{OFF}")
        rows = [
            (
                each.what,
                str(each.trigger),
                phrase_of(after.app.modes, before.app.modes, each.modes),
                _outcome(before, each.before),
                _outcome(after, each.after),
            )
            for each in found[:MOST_SHOWN]
        ]
        if rows:
            print_table(context, ("", "key", "where", "did", "does"), rows)
        if found[MOST_SHOWN:]:
            context.say(f"and {len(found) - MOST_SHOWN} more; --json has them all")
    context.say(_counted(pairs))


def _print_savings(context: Surroundings, desk: Desk, pairs: list[Pair]) -> None:
    """What the later keys are worth a week against the earlier ones, by what was counted."""
    if not desk.tally_names():
        return
    from olive_compass.cli.looking.tallies import savings_text
    from olive_compass.core.changes.view import AppView

    settings = desk.settings
    for before, after, found in pairs:
        view = AppView(before.stack, desk.keyboard, settings.weights, {}, settings.hand)
        text = ""
        if found:
            text = savings_text(desk, view, after)
        if text:
            context.say(text)


def _counted(pairs: list[Any]) -> str:
    """How many presses do something else, in a sentence."""
    found = [each for _, _, changes in pairs for each in changes]
    if not found:
        return "Every press does the same in both."
    counts = {what: sum(each.what == what for each in found) for what in ("new", "gone", "other")}
    one = {"new": "did nothing before", "gone": "does nothing now", "other": "does something else"}
    more = {**one, "gone": "do nothing now", "other": "do something else"}
    parts = [
        f"{count} {(one if count == 1 else more)[what]}" for what, count in counts.items() if count
    ]
    verb = by_number(len(found), "press differs", "presses differ")
    return f"{len(found)} {verb}: {', '.join(parts)}. Decision by decision: --decisions"


def _outcome(keymap: Keymap, outcome: Outcome) -> str:
    text = words.outcome_text(keymap, outcome)
    if outcome.longer and outcome.winners:
        return f"{text}, after a wait"
    return text


def _as_json(after: Keymap, each: PressChange) -> dict[str, Any]:
    return {
        "app": after.app.name,
        "what": each.what,
        "key": str(each.trigger),
        "modes": list(each.modes),
        "before": [c.command or c.wired or None for c in each.before.winners],
        "after": [c.command or c.wired or None for c in each.after.winners],
    }
