"""``accept``: accepts a finding of ``check``, with the reason."""

import argparse
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.parsing import app_argument, change_options, scheme_option
from olive_compass.cli.saving import save_edit, until_saved
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.viewing import views_of
from olive_compass.core.findings import all_findings
from olive_compass.core.schemes.decisions import Decision
from olive_compass.errors import Refused

GROUP = "check"
ORDER = 30
SUMMARY = "Accept a finding of check, with the reason; it is shown as accepted from then on"
EXAMPLES = """olive-compass accept quillmap lost-last-key sheet.close-all --why "muted on purpose"
olive-compass accept quillmap lost-last-key sheet.close-all --take-back"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    parser.add_argument("id", metavar="ID", help="the finding's id")
    parser.add_argument(
        "subject",
        metavar="SUBJECT",
        nargs="?",
        default="",
        help="the command or key that it is about (if there are several)",
    )
    what = parser.add_mutually_exclusive_group(required=True)
    what.add_argument("--why", metavar="TEXT", help="the reason")
    what.add_argument("--take-back", action="store_true", help="accept it no longer")
    scheme_option(parser)
    change_options(parser)


def run(args: Any, around: Surroundings) -> int:
    return until_saved(lambda: _accept(args, around))


def _accept(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    stack = at.stack(at.app_name(args.app))
    scheme = pick.scheme_to_write(at, stack, args.scheme)
    (view,) = views_of(at, [stack], at.keyboard)
    found = [f for f in all_findings(view, at.settings.severities) if f.id == args.id]
    fits = {
        f.subject: f for f in found if not args.subject or args.subject in (*f.commands, *f.keys)
    }
    if args.take_back:
        subject = f"{args.id} {args.subject}".strip()
        names = [name for name in scheme.accept if name == subject or name == next(iter(fits), "")]
        if not names:
            raise Refused(f"{stack.app.name}/{scheme.name} does not accept “{subject}”.")
        after = scheme._replace(accept={k: v for k, v in scheme.accept.items() if k not in names})
        what = f"{stack.app.title}: {names[0]} is accepted no longer"
        return save_edit(args, around, at, scheme, after, what, [])
    if not fits:
        raise Refused(
            f"check finds no {args.id} about “{args.subject or stack.app.title}”.",
            hint=f"See olive-compass check {stack.app.name}.",
        )
    if len(fits) > 1:
        names_text = ", ".join(subject.partition(" ")[2] for subject in fits)
        raise Refused(f"There are {len(fits)} findings {args.id}.", hint=f"Name one: {names_text}.")
    subject, finding = next(iter(fits.items()))
    after = scheme._replace(accept={**scheme.accept, subject: Decision(args.why)})
    what = f"{stack.app.title}: accepted {subject}"
    return save_edit(args, around, at, scheme, after, what, [finding.says], args.why)
