"""``check``: what is wrong with the schemes that count, the worst first."""

import argparse
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.checked import Checked, checked, looked_for
from olive_compass.cli.parsing import app_argument
from olive_compass.cli.surroundings import BLUE, BOLD, DIM, OFF, RED, YELLOW, Surroundings
from olive_compass.cli.tables import wrapped
from olive_compass.core.apps.modes import joined
from olive_compass.core.severities import SEVERITIES

GROUP = "first steps"
ORDER = 90
SUMMARY = "Find conflicts, lost keys and other problems"
EXAMPLES = """olive-compass check
olive-compass check quillmap --strict
olive-compass check --keyboard iso-laptop/german
olive-compass check --since house --brief
olive-compass check quillmap --fix --yes
olive-compass check --as sarif > check.sarif"""

#: How many places of a finding are shown; --json has them all.
MOST_PLACES = 12

_COLOURS = {"error": RED, "warning": YELLOW, "note": BLUE}


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser, optional=True)
    parser.add_argument("--strict", action="store_true", help="let warnings fail the check as well")
    parser.add_argument(
        "--keyboard",
        metavar="FORM/LAYOUT",
        help="as on another keyboard, such as iso-laptop/german",
    )
    parser.add_argument(
        "--since",
        metavar="SCHEME",
        help="only what is new above this scheme (factory: above the factory keys), or against "
        "another scheme in its layer's place",
    )
    parser.add_argument("--brief", action="store_true", help="leave the notes out")
    parser.add_argument(
        "--as",
        dest="form",
        choices=("text", "json", "sarif", "junit"),
        default="text",
        help="the form of the report (text)",
    )
    parser.add_argument(
        "--json",
        action="store_const",
        const="json",
        dest="form",
        help="the same as --as json (docs/json.md)",
    )
    parser.add_argument(
        "--fix", action="store_true", help="make the safe repairs, after showing them"
    )
    parser.add_argument("-y", "--yes", action="store_true", help="with --fix: make them unasked")
    parser.add_argument(
        "--watch", action="store_true", help="answer anew whenever a file of the desk is saved"
    )


def run(args: Any, around: Surroundings) -> int:
    if args.fix:
        from olive_compass.cli.repairing import repair_all

        return repair_all(args.desk, args.app, bool(args.yes), around)
    if args.watch:
        from olive_compass.cli.watching import watch

        return watch(args, around, lambda: _check(args, around))
    return _check(args, around)


def _check(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    apps = pick.apps(at, args.app)
    if args.keyboard or args.since:
        found = looked_for(at, apps, around, args.keyboard or "", args.since)
    else:
        found = checked(at, apps, around)
    listed = [finding for each in found for finding in each.findings]
    open_ = [finding for finding in listed if finding["accepted"] is None]
    counts = {severity: sum(f["severity"] == severity for f in open_) for severity in SEVERITIES}
    # What a person accepted is counted and said, and does not fail the check.
    accepted = len(listed) - len(open_)
    failed = bool(counts["error"] or (args.strict and counts["warning"]))
    if args.form == "json":
        around.json(
            {"passed": not failed, "counts": counts, "accepted": accepted, "findings": listed}
        )
    elif args.form != "text":
        from olive_compass.drawing import reports

        around.write(getattr(reports, f"as_{args.form}")(listed))
    elif not around.quiet:
        for each in found:
            _print_app(each, args.brief, around)
        around.say(_verdict(counts, failed, len(found), accepted))
    return 1 if failed else 0


def _print_app(checked: Checked, brief: bool, around: Surroundings) -> None:
    schemes = " over ".join(checked.schemes)
    stack = f"{schemes} over factory" if schemes else "factory keys only"
    around.say(f"{BOLD}{checked.title} {checked.version}{OFF} {DIM}({stack}){OFF}")
    findings = checked.findings
    shown = [f for f in findings if f["severity"] != "note" or not brief]
    if not shown:
        around.say("  nothing but notes" if findings else "  nothing found")
    width = max(around.width - 4, 36) if around.width else 10**9
    for finding in shown:
        severity, accepted = finding["severity"], finding["accepted"]
        colour = _COLOURS[severity] if accepted is None else DIM
        # Wrapped before it is coloured: colours have no width.
        says = wrapped(f"{severity} {finding['id']}: {finding['says']}", width)
        says[0] = f"{colour}{severity}{OFF}" + says[0][len(severity) :]
        for n, line in enumerate(says):
            around.say(f"  {'  ' if n else ''}{line}")
        places = finding["places"]
        for place in places[:MOST_PLACES]:
            where = f"{place['file']}:{place['line']}" if place["line"] else place["file"]
            around.say(f"    {DIM}{where}{OFF}")
        if places[MOST_PLACES:]:
            around.say(f"    {DIM}and {len(places) - MOST_PLACES} more{OFF}")
        if accepted is not None:
            around.say(f"    {DIM}accepted:{OFF} {accepted}")
        else:
            around.say(f"    {DIM}to do:{OFF} {finding['to-do']}")
            for other in finding["or"]:
                around.say(f"    {DIM}or:{OFF} {other}")
            if finding["to-look"]:
                around.say(f"    {DIM}to look:{OFF} {finding['to-look']}")
    around.say()


def _verdict(counts: dict[str, int], failed: bool, apps: int, accepted: int) -> str:
    parts = [f"{count} {severity}{'' if count == 1 else 's'}" for severity, count in counts.items()]
    parts += [f"{accepted} accepted"] if accepted else []
    where = "1 application" if apps == 1 else f"{apps} applications"
    verdict = f"{RED}Not in order{OFF}" if failed else "In order"
    more = "" if not sum(counts.values()) else " What one means: olive-compass explain ID"
    return f"{BOLD}{verdict}{BOLD}: {joined(parts)} in {where}.{OFF}{more}"
