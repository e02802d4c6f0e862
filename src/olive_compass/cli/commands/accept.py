"""``accept``: accepts a finding of ``check``, with the reason."""

import argparse

from olive_compass.cli import pick
from olive_compass.cli.changing.running import Work, change_options, execute, options_of
from olive_compass.cli.options import ChangeOptions, app_argument
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.changes.accept import NOT_ACCEPTED, SEVERAL, Accept, accept
from olive_compass.core.changes.change import Change
from olive_compass.core.findings import Finding, all_findings
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import views_of
from olive_compass.errors import UserError
from olive_compass.structs import replace

GROUP = "look, check"
ORDER = 80
SUMMARY = "Mark a finding as intended, and record why"
EXAMPLES = """olive-compass accept quillmap unassigned --why "looked through"
olive-compass accept quillmap unassigned --remove"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument("id", metavar="FINDING", help="the kind of finding")
    parser.add_argument(
        "subject",
        metavar="SUBJECT",
        nargs="?",
        default="",
        help="the command or key that it is about, if there are several",
    )
    what = parser.add_mutually_exclusive_group(required=True)
    what.add_argument("--why", metavar="TEXT", help="the reason")
    what.add_argument("--remove", action="store_true", help="stop accepting it: report it again")
    change_options(parser, asks=False)


class AcceptOptions(ChangeOptions, kw_only=True):
    """The options of ``accept``."""

    app: str
    id: str
    subject: str
    why: str | None
    remove: bool


def run(args: AcceptOptions, context: Surroundings) -> int:
    return execute(options_of(args), context, lambda desk: _prepare(desk, args))


def _prepare(desk: Desk, args: AcceptOptions) -> Work:
    stack = desk.stack(desk.app_name(args.app))
    scheme = pick.scheme_to_write(desk, stack, args.scheme)
    (view,) = views_of(desk, [stack], desk.keyboard)
    found = [f for f in all_findings(view, desk.settings.severities) if f.id == args.id]
    fits = _fitting(found, args.subject)
    named = f"{args.id} {args.subject}".strip()
    no_longer = args.remove
    why = None if no_longer else args.why
    request = Accept(subjects=tuple(fits), named=named, scheme=scheme, why=why)
    subject = next(iter(fits), named)
    return Work(
        view=view,
        decide=lambda answers: accept(view, replace(request, answers=answers)),
        what=lambda _change: (
            f"{view.app.title}: {subject} is no longer accepted"
            if no_longer
            else f"{view.app.title}: accepted {subject}"
        ),
        report=lambda _change: [] if no_longer else _told(fits[subject]),
        why=why or "",
        refused=lambda change: _refused(view.app.title, args, request, change),
    )


def _told(finding: Finding) -> list[str]:
    """What is accepted: of a finding about several commands, all of them."""
    lines = [finding.says]
    if len(finding.commands) > 1:
        lines.append(f"It is accepted for all {len(finding.commands)} commands of the finding.")
    return lines


def _fitting(found: list[Finding], subject: str) -> dict[str, Finding]:
    """The findings about a subject, or, where there are none, all that name it."""
    first = {f.subject: f for f in found if f.subject == f"{f.id} {subject}"}
    if first or not subject:
        return first or {f.subject: f for f in found}
    return {f.subject: f for f in found if subject in (*f.commands, *f.keys)}


def _refused(title: str, args: AcceptOptions, request: Accept, change: Change) -> UserError:
    refusal = change.refusals[0]
    if refusal.what == NOT_ACCEPTED:
        scheme = f"{request.scheme.app}/{request.scheme.name}"
        return UserError(f"{scheme} does not accept “{request.named}”.")
    if refusal.what == SEVERAL:
        names = ", ".join(subject.partition(" ")[2] for subject in request.subjects)
        count = len(request.subjects)
        return UserError(f"There are {count} findings {args.id}.", hint=f"Name one: {names}.")
    return UserError(
        f"check finds no {args.id} about “{args.subject or title}”.",
        hint=f"See olive-compass check {args.app}.",
    )
