"""``check``: what is wrong with the schemes that count, the worst first."""

import argparse
from collections import Counter

from olive_compass.cli import exit_status, pick
from olive_compass.cli.looking.checked import checked, looked_for
from olive_compass.cli.options import PaperOptions, app_argument, json_form_option
from olive_compass.cli.output.forms import Matter, give, give_json, give_table
from olive_compass.cli.output.papers import Wanted, paper_options, table_options, wanted
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BLUE, BOLD, DIM, OFF, RED, YELLOW, wrapped
from olive_compass.core.apps.modes import joined
from olive_compass.core.severities import SEVERITIES
from olive_compass.core.wording import counted
from olive_compass.desk.checking import Checked
from olive_compass.desk.desk import Desk
from olive_compass.desk.reported.finding import FindingReport
from olive_compass.errors import UserError

GROUP = "first steps"
ORDER = 90
SUMMARY = "Find conflicts, lost keys and other problems"
EXAMPLES = """olive-compass check
olive-compass check quillmap --strict
olive-compass check --keyboard iso-laptop/german
olive-compass check --since house --notes
olive-compass check quillmap --fix --yes
olive-compass check --out findings.xlsx
olive-compass check --as sarif > check.sarif"""

#: How many places of a finding are shown; --json has them all.
MOST_PLACES = 12

#: How many findings of a kind an application may have that are all shown, and how many are where there are more.
MOST_OF_A_KIND, FIRST_OF_A_KIND = 3, 2

#: The forms in which other programs take findings.
REPORTS = ("sarif", "junit")

NOTE, UNASSIGNED = "note", "unassigned"

_COLOURS = {"error": RED, "warning": YELLOW, NOTE: BLUE}


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser, optional=True)
    parser.add_argument("--strict", action="store_true", help="let warnings fail the check as well")
    parser.add_argument(
        "--keyboard",
        metavar="FORM/LAYOUT",
        help="check for another keyboard, such as iso-laptop/german",
    )
    parser.add_argument(
        "--since",
        metavar="SCHEME",
        help="only findings that this scheme does not have (factory: that the factory keys do not have)",
    )
    parser.add_argument("--notes", action="store_true", help="list the notes as well")
    table_options(parser, "json", *REPORTS)
    json_form_option(parser)
    parser.add_argument("--fix", action="store_true", help="show the safe repairs and make them")
    parser.add_argument(
        "-y", "--yes", action="store_true", help="with --fix: do not ask for confirmation"
    )
    parser.add_argument(
        "--watch", action="store_true", help="check again whenever a file of the desk is saved"
    )
    paper_options(parser, "a4, landscape")


class CheckOptions(PaperOptions, kw_only=True):
    """The options of ``check``."""

    app: str | None
    strict: bool
    keyboard: str | None
    since: str | None
    notes: bool
    fix: bool
    yes: bool
    watch: bool


def run(args: CheckOptions, context: Surroundings) -> int:
    asked = wanted(args, context)
    if args.fix:
        from olive_compass.cli.changing.repairing import repair_all

        if asked.form not in ("text", "json") or asked.into.out:
            if asked.into.out:
                what = "--out"
            else:
                what = f"--as {asked.form}"
            raise UserError(
                f"--fix cannot be used with {what}.",
                hint="For machine-readable repairs: --fix --json.",
            )
        return repair_all(args, context)
    if args.watch:
        from olive_compass.cli.terminal.watching import watch

        if asked.into.out:
            raise UserError("--watch is for the terminal.", hint="Leave --out out.")
        return watch(args, context, lambda: _check(args, asked, context))
    return _check(args, asked, context)


def _check(args: CheckOptions, asked: Wanted, context: Surroundings) -> int:
    desk = pick.desk(args, context)
    apps = pick.apps(desk, args.app)
    if args.keyboard or args.since:
        found = looked_for(desk, apps, context, args.keyboard or "", args.since)
    else:
        found = checked(desk, apps, context)
    counts = _counts(found)
    failed = bool(counts["error"] or (args.strict and counts["warning"]))
    notes = args.notes or context.verbose
    listed = [finding for each in found for finding in each.findings]
    # What a person accepted is counted and said, and does not fail the check.
    accepted = len(listed) - sum(counts.values())
    match asked.form:
        case "json":
            counted_ = {"passed": not failed, "counts": counts, "accepted": accepted}
            give_json(asked.into, context, {**counted_, "findings": listed})
        case form if form in REPORTS:
            _give_report(asked, context, listed)
        case "text":
            _say_all(found, notes, context, _verdict(counts, failed, len(found), accepted))
        case _:
            _give_table(asked, context, desk, found, notes)
    return exit_status.failed(failed)


def _say_all(found: list[Checked], notes: bool, context: Surroundings, verdict: str) -> None:
    """The findings and what they come to, unless only the status is wanted (``--quiet``)."""
    if not context.quiet:
        _print_all(found, notes, context)
        context.say(verdict)


def _give_report(asked: Wanted, context: Surroundings, listed: list[FindingReport]) -> None:
    from olive_compass.drawing.documents import Written

    give(asked.into, context, Written(data=_report(asked.form, listed).encode()))


def _counts(found: list[Checked]) -> dict[str, int]:
    """How many findings there are of each severity, those that a person accepted left out."""
    counts = dict.fromkeys(map(str, SEVERITIES), 0)
    for each in found:
        for finding in each.findings:
            if not finding.is_accepted:
                counts[finding.severity] += 1
    return counts


def _report(form: str, listed: list[FindingReport]) -> str:
    """The findings as other programs read them."""
    from olive_compass.drawing.reports import as_junit, as_sarif

    if form == "junit":
        return as_junit(listed)
    from olive_compass.cli.terminal.action_lines import general_advice
    from olive_compass.core.findings import kinds

    return as_sarif(listed, {id_: general_advice(kind) for id_, kind in kinds().items()})


def _give_table(
    asked: Wanted, context: Surroundings, desk: Desk, found: list[Checked], notes: bool
) -> None:
    """The findings as a table to pass on: the problem, its place and the remedy."""
    from olive_compass.drawing.documents import Cell, Table

    rows = tuple(
        tuple(map(Cell, _row(each, finding)))
        for each in found
        for finding in each.findings
        if not finding.is_note or notes
    )
    headings = ("severity", "application", "finding", "what", "where", "to do")
    counts = _counts(found)
    parts = [counted(counts[severity], severity) for severity in counts if counts[severity]]
    subtitle = f"{desk.settings.name} · {', '.join(parts) or 'nothing found'}"
    rest = "" if notes else _notes(found)
    matter = Matter("Findings", subtitle, (rest,) if rest else ())
    give_table(asked, context, matter, Table(headings, rows), "a4", lying=not asked.paper)


def _row(each: Checked, finding: FindingReport) -> tuple[str, ...]:
    to_do = finding.to_do
    if finding.is_accepted:
        to_do = f"accepted: {finding.accepted}"
    where = "; ".join(_where(finding))
    return (finding.severity, each.title, finding.id, finding.says, where, to_do)


def _where(finding: FindingReport) -> list[str]:
    """The places of a finding, the first of them: the file, and the line where one is known."""
    places = list(map(str, finding.places))
    if len(places) > MOST_PLACES:
        return [*places[:MOST_PLACES], f"and {len(places) - MOST_PLACES} more"]
    return places


def _print_all(found: list[Checked], notes: bool, context: Surroundings) -> None:
    for each in found:
        _print_app(each, notes, context)
    if not notes and (text := _notes(found)):
        context.say("\n".join(wrapped(text, context.width)))


def _print_app(each: Checked, notes: bool, context: Surroundings) -> None:
    """What is to be done in an application: errors and warnings, with ``notes`` the notes as well."""
    shown = [f for f in each.findings if not f.is_note or notes]
    if not shown:
        return
    schemes = " over ".join(each.schemes)
    stack = "factory keys only"
    if schemes:
        stack = f"{schemes} over factory"
    title = f"{each.title} {each.version}".strip()
    context.say(f"{BOLD}{title}{OFF} {DIM}({stack}){OFF}")
    width = 0
    if context.width:
        width = max(context.width - 4, 36)
    kinds: dict[tuple[str, str], list[FindingReport]] = {}
    for finding in shown:
        kinds.setdefault((finding.severity, finding.id), []).append(finding)
    for alike in kinds.values():
        _print_kind(alike, width, context)
    context.say()


def _print_kind(alike: list[FindingReport], width: int, context: Surroundings) -> None:
    """The findings of a kind: all of a few, or the first and how many more."""
    whole = alike
    if len(alike) > MOST_OF_A_KIND and not context.verbose:
        whole = alike[:FIRST_OF_A_KIND]
    for finding in whole:
        _print_finding(finding, width, context)
    if rest := alike[len(whole) :]:
        _print_rest(rest, width, context)


def _print_rest(alike: list[FindingReport], width: int, context: Surroundings) -> None:
    """What is left of one kind of finding in an application, as one line: which commands or keys it is about."""
    about = {", ".join(finding.commands or finding.keys): None for finding in alike}
    named = ""
    if any(about):
        named = f": {'; '.join(filter(None, about))}"
    text = f"and {len(alike)} more {alike[0].id}{named}. To list them: --verbose"
    for n, line in enumerate(wrapped(text, width)):
        context.say(f"  {'  ' if n else ''}{line}")


def _print_finding(finding: FindingReport, width: int, context: Surroundings) -> None:
    severity, accepted = finding.severity, finding.accepted
    colour = DIM
    if accepted is None:
        colour = _COLOURS[severity]
    # Wrapped before it is coloured: colours have no width.
    says = wrapped(f"{severity} {finding.id}: {finding.says}", width)
    says[0] = f"{colour}{severity}{OFF}" + says[0][len(severity) :]
    for n, line in enumerate(says):
        context.say(f"  {'  ' if n else ''}{line}")
    for place in _where(finding):
        context.say(f"    {DIM}{place}{OFF}")
    if accepted is not None:
        context.say(f"    {DIM}accepted:{OFF} {accepted}")
        return
    context.say(f"    {DIM}to fix:{OFF} {finding.to_do}")
    for other in finding.instead:
        context.say(f"    {DIM}or:{OFF} {other}")
    if finding.to_look:
        context.say(f"    {DIM}to look:{OFF} {finding.to_look}")


def _notes(found: list[Checked]) -> str:
    """The notes of all applications as one line, by kind; ``""``: there is none."""
    open_ = [f for each in found for f in each.findings if _is_open_note(f)]
    kinds = Counter(finding.id for finding in open_)
    if not kinds:
        return ""
    parts = [f"{count} {kind}" for kind, count in kinds.items() if kind != UNASSIGNED]
    # Commands without a key are counted as such, over all applications.
    if UNASSIGNED in kinds:
        unassigned = sum(len(f.commands) for f in open_ if f.id == UNASSIGNED)
        parts.append(f"{counted(unassigned, 'command')} without a key")
    return f"{counted(len(open_), 'note')}: {', '.join(parts)}. To list them: --notes"


def _is_open_note(finding: FindingReport) -> bool:
    return finding.is_note and not finding.is_accepted


def _verdict(counts: dict[str, int], failed: bool, apps: int, accepted: int) -> str:
    parts = [
        counted(counts[severity], severity) for severity in ("error", "warning") if counts[severity]
    ]
    if failed:
        verdict = f"{RED}Failed{OFF}{BOLD}: {', '.join(parts)}"
    else:
        verdict = "Passed"
        if parts:
            verdict = f"Passed with {joined(parts)}"
    more = ""
    if accepted:
        more = f"; {counted(accepted, 'finding')} accepted"
    where = counted(apps, "application")
    help_ = ""
    if parts:
        help_ = " What one means: olive-compass explain FINDING"
    return f"{BOLD}{verdict}{OFF} ({where}{more}).{help_}"
