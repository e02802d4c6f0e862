"""``assign``: puts a key on a command, and says first what that changes."""

import argparse
from collections.abc import Sequence

from msgspec import Struct

from olive_compass.cli import pick, words
from olive_compass.cli.changing import objections
from olive_compass.cli.changing.assignments import refused, report, what_was_assigned
from olive_compass.cli.changing.running import Work, change_options, execute, options_of
from olive_compass.cli.options import (
    ChangeOptions,
    app_argument,
    command_argument,
    modes_option,
    reason_option,
)
from olive_compass.cli.parsing import RANGE
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.app import KINDS, CommandKind
from olive_compass.core.apps.modes import joined
from olive_compass.core.changes.assign import Assign, assign
from olive_compass.core.changes.change import REPLACE, SHARE, Answers, Question
from olive_compass.core.changes.view import AppView
from olive_compass.core.schemes.verdicts import Verdict
from olive_compass.core.wording import clause
from olive_compass.counts import parse_count
from olive_compass.desk.desk import Desk
from olive_compass.desk.views import judging_view
from olive_compass.errors import UserError
from olive_compass.structs import convert, replace

GROUP = "first steps"
ORDER = 80
SUMMARY = "Assign a key to a command; shows first what has it now"
EXAMPLES = """olive-compass assign quillmap "Smooth contour" Alt+M --mode draw --why "M: next to N"
olive-compass assign quillmap lines.split "S P" --if-taken replace
olive-compass assign quillmap "Lines > Split" F12 --dry-run --explain
olive-compass assign quillmap --row Ctrl+Alt+1 Cairn Ford Beacon --mode draw --why "points, in a row"
olive-compass assign quillmap --one-by-one --used
olive-compass assign quillmap "Saved view*" Ctrl+Alt+1..Ctrl+Alt+3 --dry-run"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    command_argument(
        parser,
        "words",
        nargs="*",
        metavar="COMMAND KEY",
        help="a command (id, title, menu path, or a fragment that fits one only) and a key in any "
        "spelling; or several commands, also by 'Name style*', and a range: Alt+1..Alt+3",
        least=2,
    )
    parser.add_argument(
        "--row",
        metavar="KEY",
        help="give the commands this key and those next to it, in the order of the commands",
    )
    parser.add_argument(
        "--plan",
        metavar="FILE",
        help="assign all rows of a table with the columns command, key, mode and why",
    )
    modes_option(parser, "apply in this mode only (default: where the command can be used)")
    reason_option(parser, "the reason, saved in the scheme")
    parser.add_argument(
        "--if-taken",
        choices=(REPLACE, SHARE, "stop"),
        help="what to do if the key is taken (default: ask); share only works where the application offers a choice",
    )
    parser.add_argument(
        "--instead",
        action="store_true",
        help="remove the command's other keys, also those of lower scheme layers",
    )
    one = parser.add_argument_group("one after another, at a terminal")
    one.add_argument(
        "--one-by-one",
        action="store_true",
        help="go through commands without a key, those used most first, and ask for a key for each; COMMAND are "
        "words of their titles then",
    )
    one.add_argument("--used", action="store_true", help="only commands that were used")
    one.add_argument("--assigned", action="store_true", help="also commands that have a key")
    one.add_argument("--menu", metavar="MENU", help="only commands whose menu has these words")
    one.add_argument("--kind", choices=KINDS, help="only commands of this kind")
    one.add_argument("--mark", metavar="MARK", help="only commands with this mark, such as often")
    one.add_argument("--tray", metavar="TRAY", help="only commands on this tray")
    change_options(parser)


class AssignTyped(Struct, frozen=True, kw_only=True):
    """What was typed: names that are still to be looked up on the desk."""

    app: str
    command: str
    key: str
    modes: list[str] | None
    scheme: str | None
    why: str
    instead: bool


class AssignOptions(ChangeOptions, kw_only=True):
    """The options of ``assign``."""

    app: str
    words: list[str]
    row: str | None
    plan: str | None
    mode: list[str] | None
    why: str
    instead: bool
    one_by_one: bool
    used: bool
    assigned: bool
    menu: str | None
    kind: CommandKind | None
    mark: str | None
    tray: str | None


def run(args: AssignOptions, context: Surroundings) -> int:
    stop = args.if_taken == "stop"
    if args.one_by_one:
        from olive_compass.cli.changing.one_by_one import OneByOneOptions, one_by_one
        from olive_compass.cli.main import main

        asked = convert(args, OneByOneOptions, from_attributes=True)
        return one_by_one(asked, context, lambda words: main(words, context))
    if _several(args.words, args.row, args.plan):
        from olive_compass.cli.changing import families

        family = families.Typed(
            app=args.app,
            words=tuple(args.words),
            row=args.row,
            plan=args.plan,
            modes=args.mode,
            scheme=args.scheme,
            why=args.why,
            instead=args.instead,
        )
        return execute(
            options_of(args), context, lambda desk: families.prepare(desk, context, family), stop
        )
    if len(args.words) < 2:
        lacks = "Command and key"
        if args.words:
            lacks = "Key"
        raise UserError(
            f"{lacks} missing.",
            hint="For example: olive-compass assign quillmap 'Spot height' Q",
        )
    command, key = args.words
    typed = AssignTyped(
        app=args.app,
        command=command,
        key=key,
        modes=args.mode,
        scheme=args.scheme,
        why=args.why,
        instead=args.instead,
    )
    asking = _Asking(context, typed)
    asking.stop = stop
    return execute(options_of(args), context, asking.prepare, stop)


def _several(words: Sequence[str], row: str | None, plan: str | None) -> bool:
    """Whether it asks for more than one key for one command."""
    many = len(words) > 2 or (words and RANGE in words[-1][1:])
    return bool(row or plan or many)


class _Asking:
    """The conversation about one assignment: a person may choose another key on the way."""

    def __init__(self, context: Surroundings, typed: AssignTyped) -> None:
        self.context = context
        self.typed = typed
        self.stop = False

    def prepare(self, desk: Desk) -> Work:
        typed = self.typed
        view = judging_view(desk, desk.app_name(typed.app))
        scheme = pick.scheme_to_write(desk, view.stack, typed.scheme)
        command = pick.command(view.app, typed.command, self.context)
        trigger = pick.trigger(view.app, typed.key)
        modes = pick.modes_for(view.app, command, typed.modes)
        request = Assign(
            command=command,
            trigger=trigger,
            modes=modes,
            scheme=scheme,
            why=typed.why,
            instead=typed.instead,
        )
        return Work(
            view=view,
            decide=lambda answers: assign(view, replace(request, answers=answers)),
            what=lambda _change: what_was_assigned(view, request),
            report=lambda change: report(desk, view, change),
            why=typed.why,
            ask=lambda question, answers: self._ask(desk, view, request, question, answers),
            refused=lambda change: refused(desk, view, request, change),
        )

    def _ask(
        self, desk: Desk, view: AppView, request: Assign, question: Question, answers: Answers
    ) -> Answers | None:
        """The answer to who gets a key that is taken; None where another key was chosen."""
        found = question.about
        assert isinstance(found, Verdict)
        context, key = self.context, request.trigger
        for holder in found.takers:
            context.say(f"{objections.holder_text(desk, view, found, holder)}.")
        for loss in found.lost:
            left = words.left_with(view.keymap, loss)
            context.say(f"If you replace it, {view.title(loss.command)} loses it; {left}.")
        shares = SHARE in question.options
        if self.stop or not context.interactive:
            titles = joined(dict.fromkeys(view.title(loss.command) for loss in found.lost))
            ways = f"To take it{clause(' from {}', titles)}: --if-taken replace."
            if shares:
                ways += " To let both use it: --if-taken share."
            raise UserError(f"{key} is taken; nothing was changed.", hint=ways)
        settled = self._conversation(view, request, shares)
        if settled:
            return replace(answers, taken=settled)
        return None

    def _conversation(self, view: AppView, request: Assign, shares: bool) -> str:
        """``replace`` or ``share``, ``""`` where another key was chosen. Raises to stop."""
        # Loaded here: in most assignments the key is free, and no others are ranked.
        from olive_compass.core.schemes.offers import offers

        context = self.context
        best = offers(view, request.command, request.modes, 3, request.scheme)
        for n, each in enumerate(best, 1):
            reasons = ", ".join(each.reasons)
            text = f"  {n}  {each.trigger}: {each.strokes:.1f} home strokes, {reasons}"
            context.say(text.rstrip(", "))
        question, letters = _question(shares, len(best))
        while True:
            answer = context.ask(f"{question}, choose another key, or quit? [{letters}]").lower()
            if answer in ("r", REPLACE):
                return REPLACE
            if answer in ("s", SHARE) and shares:
                return SHARE
            if 1 <= parse_count(answer) <= len(best):
                self.typed = replace(self.typed, key=str(best[parse_count(answer) - 1].trigger))
                return ""
            if answer in ("c", "choose"):
                self.typed = replace(self.typed, key=self._another(view))
                return ""
            if answer in ("", "q", "quit", "stop"):
                raise UserError(f"{request.trigger} stays as it is; nothing was changed.")
            context.say(f"Type one of {letters}.")

    def _another(self, view: AppView) -> str:
        """The key that is chosen instead; ``?`` lets it be pressed."""
        answer = self.context.ask("Which key, or ? to press it?")
        if answer in ("?", "@?"):
            from olive_compass.cli.terminal import pressing

            answer = str(pressing.ask(view.keyboard, view.app, self.context, answer))
            self.context.pressed = True
        return answer or self.typed.key


def _question(shares: bool, offered: int) -> tuple[str, str]:
    """What can be done about a key that is taken, and the letters to answer with."""
    question, letters = "Replace it", "r/"
    if shares:
        question, letters = f"{question}, share it", f"{letters}s/"
    if offered:
        question += f", take one of these (1-{offered})"
        letters += f"1-{offered}/"
    return question, f"{letters}c/Q"
