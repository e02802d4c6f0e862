"""``check``: what is wrong with the schemes that count, the worst first."""

import argparse

from olive_compass.annotations import Any
from olive_compass.cli import pick, words
from olive_compass.cli.parsing import app_argument
from olive_compass.cli.progress import along
from olive_compass.cli.surroundings import BLUE, BOLD, DIM, OFF, RED, YELLOW, Surroundings
from olive_compass.cli.tables import wrapped
from olive_compass.cli.viewing import views_of
from olive_compass.core.apps.modes import joined
from olive_compass.core.findings import SEVERITIES, Finding, View, all_findings
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.desk import keyboards
from olive_compass.desk.desk import Desk

GROUP = "check"
ORDER = 10
SUMMARY = "Find conflicts, lost keys and mistakes in the schemes that count"
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
    keyboard = _keyboard(at, args.keyboard) if args.keyboard else at.keyboard
    views = views_of(at, pick.stacks(at, args.app), keyboard)
    found = [
        (view, _found(at, view, args.since))
        for view in along(around, "Looking for findings", views)
    ]
    open_ = [f for _, findings in found for f in findings if f.accepted is None]
    counts = {severity: sum(f.severity == severity for f in open_) for severity in SEVERITIES}
    # What a person accepted is counted and said, and does not fail the check.
    accepted = sum(len(findings) for _, findings in found) - len(open_)
    failed = bool(counts["error"] or (args.strict and counts["warning"]))
    if args.form == "json":
        listed = [as_json(at, view, f) for view, each in found for f in each]
        around.json(
            {"passed": not failed, "counts": counts, "accepted": accepted, "findings": listed}
        )
    elif args.form != "text":
        from olive_compass.drawing import reports

        listed = [as_json(at, view, f) for view, each in found for f in each]
        around.write(getattr(reports, f"as_{args.form}")(listed))
    elif not around.quiet:
        for view, findings in found:
            _print_app(at, view, findings, args.brief, around)
        around.say(_verdict(counts, failed, len(views), accepted))
    return 1 if failed else 0


def _found(at: Desk, view: View, since: str | None) -> list[Finding]:
    """The findings of an application; with ``since`` those that its other stack has not."""
    found = list(all_findings(view, at.settings.severities))
    if since is None:
        return found
    stack = view.stack
    if since == FACTORY:
        before = stack._replace(schemes=())
    elif since in [scheme.name for scheme in stack.schemes]:
        names = [scheme.name for scheme in stack.schemes]
        before = stack._replace(schemes=stack.schemes[names.index(since) :])
    # A scheme that does not count now stands in the place of those of its layer.
    elif since in at.scheme_names(stack.app.name):
        before = stack.going_by(at.scheme(stack.app, since))
    else:
        return found
    old = View(before, view.keyboard, view.weights, view.macros, view.hand, view.across)
    # By what it says, which names keys and commands: a finding about the same thing is the same one.
    known = {(f.id, f.says) for f in all_findings(old, at.settings.severities)}
    return [finding for finding in found if (finding.id, finding.says) not in known]


def _keyboard(at: Desk, named: str) -> Keyboard:
    """The keyboard that ``form/layout`` names; either may be left out."""
    form, _, layout = named.partition("/")
    settings = at.settings
    return keyboards.load(
        at.root, settings.platform, form or settings.form, layout or settings.layout, at.devices
    )


def _print_app(
    at: Desk, view: View, findings: list[Finding], brief: bool, around: Surroundings
) -> None:
    app = view.app
    schemes = " over ".join(scheme.name for scheme in view.stack.schemes)
    stack = f"{schemes} over factory" if schemes else "factory keys only"
    around.say(f"{BOLD}{app.title} {app.version}{OFF} {DIM}({stack}){OFF}")
    shown = [f for f in findings if f.severity != "note" or not brief]
    if not shown:
        around.say("  nothing but notes" if findings else "  nothing found")
    width = max(around.width - 4, 36) if around.width else 10**9
    for finding in shown:
        colour = _COLOURS[finding.severity] if finding.accepted is None else DIM
        # Wrapped before it is coloured: colours have no width.
        says = wrapped(f"{finding.severity} {finding.id}: {finding.says}", width)
        says[0] = f"{colour}{finding.severity}{OFF}" + says[0][len(finding.severity) :]
        for n, line in enumerate(says):
            around.say(f"  {'  ' if n else ''}{line}")
        for place in finding.places[:MOST_PLACES]:
            path, line_number = words.file_and_line(at, view.keymap, place)
            around.say(
                f"    {DIM}{path}:{line_number}{OFF}" if line_number else f"    {DIM}{path}{OFF}"
            )
        if finding.places[MOST_PLACES:]:
            around.say(f"    {DIM}and {len(finding.places) - MOST_PLACES} more{OFF}")
        if finding.accepted is not None:
            around.say(f"    {DIM}accepted:{OFF} {finding.accepted}")
        else:
            around.say(f"    {DIM}to do:{OFF} {finding.advice}")
            for other in finding.instead:
                around.say(f"    {DIM}or:{OFF} {other}")
            if finding.look:
                around.say(f"    {DIM}to look:{OFF} {finding.look}")
    around.say()


def _verdict(counts: dict[str, int], failed: bool, apps: int, accepted: int) -> str:
    parts = [f"{count} {severity}{'' if count == 1 else 's'}" for severity, count in counts.items()]
    parts += [f"{accepted} accepted"] if accepted else []
    where = "1 application" if apps == 1 else f"{apps} applications"
    verdict = f"{RED}Not in order{OFF}" if failed else "In order"
    more = "" if not sum(counts.values()) else " What one means: olive-compass explain ID"
    return f"{BOLD}{verdict}{BOLD}: {joined(parts)} in {where}.{OFF}{more}"


def as_json(at: Desk, view: View, finding: Finding) -> dict[str, Any]:
    """A finding as JSON (docs/json.md)."""
    places = []
    for each in finding.places:
        path, line = words.file_and_line(at, view.keymap, each)
        places.append({"file": path, "line": line})
    return {
        "id": finding.id,
        "accepted": finding.accepted,
        "severity": finding.severity,
        "app": finding.app,
        "says": finding.says,
        "to-do": finding.advice,
        "or": list(finding.instead),
        "to-look": finding.look or None,
        "places": places,
        "commands": list(finding.commands),
        "keys": list(finding.keys),
        "modes": list(finding.modes),
    }
