"""``macro play``: on the simulator's document, at once or step by step, or on each of a folder."""

import os

from olive_compass.cli import exit_status, pick
from olive_compass.cli.changing.saving import save
from olive_compass.cli.files import read_file
from olive_compass.cli.macros.common import macro_named, world
from olive_compass.cli.macros.playing_on_each import play_on_each
from olive_compass.cli.macros.showing import step_title
from olive_compass.cli.options import WriteOptions
from olive_compass.cli.pairs import pairs
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, GREEN, OFF, RED, YELLOW
from olive_compass.core.apps.app import App
from olive_compass.core.macros.document import Document, differences
from olive_compass.core.macros.macro import Macro
from olive_compass.core.macros.played import Done, Played, Question, Stop
from olive_compass.core.macros.playing import World, play, playing
from olive_compass.core.macros.simulator import first_mode
from olive_compass.core.wording import clause, counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import document_file
from olive_compass.desk.reported.plays import play_report
from olive_compass.desk.texts.json_text import load as load_json
from olive_compass.desk.texts.toml_text import flat, parsed
from olive_compass.errors import UserError


class MacroPlayOptions(WriteOptions, kw_only=True):
    """The options of ``macro play``."""

    which: str
    document: str | None
    on_each: str | None
    answers: str | None
    answer: list[str]
    mode: str | None
    step: bool
    keep: bool


def play_macro(args: MacroPlayOptions, context: Surroundings) -> int:
    """Runs ``macro play``."""
    desk = pick.desk(args, context)
    app, macro = macro_named(desk, args.which, context)
    at_hand, _ = world(desk, app)
    answers = _answers(args.answers, args.answer, context)
    if args.on_each:
        return play_on_each(args.on_each, args.json, context, at_hand, macro, answers)
    document = fresh_document(app, args.mode or (macro.modes[0] if macro.modes else None))
    if args.document:
        document = document_file.read(read_file(context, args.document), args.document)
    if document.mode not in app.modes:
        raise UserError(f"{app.title} has no mode “{document.mode}”.", file=args.document or "")
    if args.json:
        played = play(at_hand, macro, document, answers)
        context.json(play_report(macro, document, played))
    else:
        played = _live(args.step, context, at_hand, macro, document, answers)
        _say_result(context, app, macro, document, played)
    if not args.document:
        return exit_status.failed(played.stopped)
    return _keep(args.dry_run, args.document, args.keep, context, desk, macro, document, played)


def fresh_document(app: App, mode: str | None = None) -> Document:
    """An empty document in a mode, or in the one that most commands name."""
    return Document(mode=mode or first_mode(app))


def _answers(file: str | None, answer: list[str], context: Surroundings) -> dict[str, str]:
    """The answers of a file, and those of the command line over them."""
    answers: dict[str, str] = {}
    if file:
        data = read_file(context, file)
        read = load_json
        if file.endswith(".toml"):
            read = parsed
        content = read(data, file)
        from olive_compass.desk.formats.macro_file import plain

        if not isinstance(content, dict):
            raise UserError("Answers are a table: “2.at” or “at”, and the value.", file=file)
        answers = {str(name): plain(value) for name, value in flat(content).items()}
    return {**answers, **pairs(answer, "INPUT")}


def _live(
    step: bool,
    context: Surroundings,
    at_hand: World,
    macro: Macro,
    document: Document,
    answers: dict[str, str],
) -> Played:
    """Plays with what happens shown step by step; asks at a terminal."""
    course = playing(at_hand, macro, document)
    answer: str | None = None
    context.report(f"{BOLD}{macro.title}{OFF} on {document.name}, in {document.mode}")
    try:
        while True:
            event = course.send(answer)
            answer = None
            # A step that was done needs no answer; only a question takes what is sent.
            if isinstance(event, Done):
                context.report(_done_text(at_hand.app, event))
                if (
                    step
                    and context.interactive
                    and context.ask("  [Enter: on, q: stop]").startswith("q")
                ):
                    course.close()
                    stop = Stop(
                        path=event.path,
                        command=event.command,
                        what="waits",
                        says="You stopped here.",
                    )
                    return Played(event.document, (), stop)
                continue
            answer = _answer(context, event, answers)
    except StopIteration as end:
        played: Played = end.value
        return played


def _answer(context: Surroundings, question: Question, answers: dict[str, str]) -> str | None:
    known = f"{question.path}.{question.input.name}"
    answer = answers.get(known, answers.get(question.input.name))
    asks = f"  {YELLOW}{question.path}  {question.text}{OFF}"
    if answer is not None:
        context.report(f"{asks} {answer}")
        return answer
    # Nobody can answer in a script: the play stops there and says what it waits for.
    if not context.interactive:
        return None
    return context.ask(asks + clause(" [{}]", question.default))


def _done_text(app: App, done: Done) -> str:
    command = app.catalogue.by_id.get(done.command)
    return f"  {done.path}  {command.title if command else done.command}: {DIM}{done.says}{OFF}"


def _say_result(
    context: Surroundings, app: App, macro: Macro, document: Document, played: Played
) -> None:
    changed = differences(document, played.document)
    if played.stopped:
        context.say(f"{RED}Stopped at step {played.stopped.path}{OFF}: {played.stopped.says}")
        number = int(played.stopped.path.partition(".")[0])
        if number <= len(macro.steps):
            context.say(f"  The step is: {step_title(app, macro.steps[number - 1])}.")
    else:
        context.report(f"{GREEN}Finished{OFF}, {counted(len(macro.steps), 'step')}.")
    if changed:
        context.report("The document:")
        for line in changed:
            context.report(f"  {line}")
    else:
        context.report("The document is as it was.")


def _keep(
    dry_run: bool,
    document_path: str,
    wants_kept: bool,
    context: Surroundings,
    desk: Desk,
    macro: Macro,
    document: Document,
    played: Played,
) -> int:
    """Writes the document back, so that one undo takes the whole play back."""
    status = exit_status.failed(played.stopped)
    if dry_run:
        context.report("Dry run: nothing was written.")
        return status
    whole = os.path.abspath(os.path.join(context.folder, document_path))
    root = os.path.abspath(desk.root)
    # Only what lies on the desk is in its history.
    if os.path.commonpath([whole, root]) != root:
        raise UserError(
            "The document lies outside the desk, where undo could not take the play back; "
            "nothing was changed.",
            file=document_path,
            hint="Copy it onto the desk, or use --dry-run.",
        )
    if played.document.kept == document.kept:
        context.report("Dry run: nothing was written.")
        return status
    if played.stopped:
        keep = wants_kept
        if not keep and context.interactive:
            keep = context.ask("Keep what was done until then? [y/N]").lower() in ("y", "yes")
        if not keep:
            context.report("The document was left as it was. To keep what was done: --keep")
            return status
    path = os.path.relpath(whole, root).replace(os.sep, "/")
    change = desk.change_of(path, document_file.text(played.document))
    save(desk, context, [change], f"{macro.title}: played on {document.name}")
    context.report(f"Written: {path}. To undo: olive-compass undo")
    return status
