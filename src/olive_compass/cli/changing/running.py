"""The one runner of all that writes: asks, holds back for a dry run, saves, tries again, says.

A command prepares its work from what was typed; an action of the core decides; this carries it out.
"""

import argparse
from collections.abc import Callable
from typing import Any

from msgspec import Struct

from olive_compass.cli import pick
from olive_compass.cli.changing import saying
from olive_compass.cli.changing.saving import agree, retry_on_conflict, save, would
from olive_compass.cli.options import ChangeOptions, scheme_option, write_options
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.changes.change import (
    DESPITE,
    REPLACE,
    SURE,
    Answers,
    Change,
    Effect,
    Question,
    after_edits,
)
from olive_compass.core.changes.view import AppView
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.objections.kind import TAKEN
from olive_compass.desk.desk import Desk
from olive_compass.desk.storage.records import FileChange, changing
from olive_compass.desk.writing.changed_files import written_files
from olive_compass.errors import UserError
from olive_compass.structs import replace


class Options(Struct, frozen=True, kw_only=True):
    """The options of every writing command, whatever it writes."""

    desk: str | None
    dry_run: bool
    explain: bool
    json: bool
    answers: Answers


class Work(Struct, frozen=True, kw_only=True):
    """One action on one application, ready to be decided.

    ``decide`` gives the change for the answers so far; ``what`` its sentence for the history, which
    is also the first that is said; ``report`` the sentences on what follows. ``files`` gives the
    file changes where they are more than the edited schemes; ``ask`` answers a question in a way of
    its own, or gives None where the work is to be prepared anew.
    """

    view: AppView
    decide: Callable[[Answers], Change]
    what: Callable[[Change], str]
    report: Callable[[Change], list[str]]
    why: str = ""
    files: Callable[[Change], list[FileChange]] | None = None
    ask: Callable[[Question, Answers], Answers | None] | None = None
    refused: Callable[[Change], UserError | None] | None = None


def change_options(
    parser: argparse.ArgumentParser, *, asks: bool = True, scheme: bool = True
) -> None:
    """The options of every command that changes what keys do."""
    if asks:
        parser.add_argument(
            "--despite",
            action="append",
            default=[],
            choices=DESPITE,
            metavar="OBJECTION",
            help=f"go on in spite of an objection: {', '.join(DESPITE)} (default: ask)",
        )
    if scheme:
        scheme_option(parser)
    parser.add_argument(
        "--explain",
        action="store_true",
        help="also show the rules that apply, and what the keys do in other applications",
    )
    write_options(parser)


def options_of(args: ChangeOptions) -> Options:
    """The options of a command that changes keys, with the answers that were given beforehand."""
    taken = args.if_taken or ""
    answers = Answers("" if taken == "stop" else taken, frozenset(args.despite), args.yes)
    return Options(
        desk=args.desk,
        dry_run=args.dry_run,
        explain=args.explain,
        json=args.json,
        answers=answers,
    )


def execute(
    options: Options, context: Surroundings, prepare: Callable[[Desk], Work], stop: bool = False
) -> int:
    """Runs one action from preparing to saying, again from the start where the desk moved.

    ``stop`` takes every question for answered with no. Returns the exit status.
    """
    # What was answered stays answered when the desk moves and all is worked out anew.
    kept = [options.answers]

    def once() -> int:
        while True:
            # Read again at every turn: an answer may take a person minutes, and others write meanwhile.
            at = pick.open_desk(options.desk, context)
            work = prepare(at)
            change = work.decide(kept[0])
            if change.refusals:
                raise _refused(at, work, change)
            if change.questions and not (options.dry_run and _is_sure(change)):
                # One at a time: the answer to the first may make the others needless.
                question = change.questions[0]
                answers = _answer(context, at, work, question, kept[0], stop)
                if answers is not None:
                    kept[0] = answers
                continue
            return _finish(options, context, at, work, change)

    return retry_on_conflict(once, context, queue=not options.dry_run)


def _is_sure(change: Change) -> bool:
    """Whether all that is still to be asked is whether it is meant: a dry run need not ask."""
    return all(question.what == SURE for question in change.questions)


def _refused(desk: Desk, work: Work, change: Change) -> UserError:
    known = None
    if work.refused:
        known = work.refused(change)
    return known or saying.refused(desk, work.view, change.refusals[0])


def _answer(
    context: Surroundings, desk: Desk, work: Work, question: Question, answers: Answers, stop: bool
) -> Answers | None:
    """The answers with one more; raises ``UserError`` where nobody can be asked, or the answer is no."""
    if work.ask and question.what in (TAKEN, SURE):
        return work.ask(question, answers)
    for line in saying.question_lines(desk, work.view, question):
        context.say(line)
    asks, way_out = saying.question_text(question)
    if stop or not context.interactive:
        raise saying.unanswered(desk, work.view, question, way_out)
    for line in saying.reasons(desk, work.view, question):
        context.say(line)
    if context.ask(f"{asks} [y/N]").lower() not in ("y", "yes"):
        raise UserError("It stays as it is; nothing was changed.")
    if question.what == TAKEN:
        return replace(answers, taken=REPLACE)
    if question.what == SURE:
        return replace(answers, sure=True)
    return replace(answers, despite=answers.despite | {question.what})


def _lines(
    options: Options, context: Surroundings, desk: Desk, work: Work, change: Change
) -> list[str]:
    """What the change does to others, with ``--explain`` the rest as well.

    A pressed key is shown in words before anything is saved, whatever is printed in the end.
    """
    lines: list[str] = []
    if context.pressed or not options.json:
        lines = [*work.report(change)]
    if options.explain and not options.json:
        lines += saying.explained(desk, work.view, change)
    return lines


def _finish(options: Options, context: Surroundings, desk: Desk, work: Work, change: Change) -> int:
    """Saves a change that nothing stands against, and says what it did."""
    what = work.what(change)
    if work.files:
        files = work.files(change)
    else:
        files = written_files(desk, change)
    files = changing(files)
    number = None
    lines = _lines(options, context, desk, work, change)
    if files and not options.dry_run:
        agree(context, what, lines)
        number = save(desk, context, files, what, work.why)
    if options.json:
        context.json(_as_json(options, desk, work, change, files, number))
        return 0
    if not files:
        context.report(f"Already done; nothing was changed: {what}.")
        return 0
    if options.dry_run:
        context.say("\n".join([*would(what, lines), "Dry run: nothing was written."]))
        return 0
    context.report(f"{what} ({_places(desk, change, files)}).")
    for line in () if context.pressed else lines:
        context.report(line)
    context.report(f"To undo: olive-compass undo{_on_desk(options)}")
    return 0


def _on_desk(options: Options) -> str:
    if options.desk:
        return f" --desk {options.desk}"
    return ""


def _places(desk: Desk, change: Change, files: list[FileChange]) -> str:
    """The files that were written; of a single new assignment the line as well."""
    if len(files) == 1 and len(change.edits) == 1:
        before, after = change.edits[0].before, change.edits[0].after
        new = [c for c in after.assign if after.assign[c] != before.assign.get(c)]
        if len(new) == 1:
            line = Desk(desk.root).line(files[0].path, "assign", new[0])
            if line:
                return f"{files[0].path}:{line}"
            return files[0].path
    return ", ".join(each.path for each in files)


def _as_json(
    options: Options,
    desk: Desk,
    work: Work,
    change: Change,
    files: list[FileChange],
    number: int | None,
) -> dict[str, object]:
    from olive_compass.cli.changing import effects_json

    return {
        "app": work.view.app.name,
        "what": work.what(change),
        "changed": bool(files) and not options.dry_run,
        "dry-run": options.dry_run,
        "change": number,
        "files": [each.path for each in files],
        "effects": [effects_json.effect_json(desk, work.view, each) for each in change.effects],
    }


def after(work_view: AppView, change: Change) -> Keymap:
    """The keys once a change is made."""
    return after_edits(work_view, change.edits)


def effects(change: Change, kind: type[Effect]) -> list[Any]:
    """The effects of one kind."""
    return [each for each in change.effects if isinstance(each, kind)]
