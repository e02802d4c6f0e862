"""``macro play``: on the stand-in's document, at once or step by step, or on each of a folder."""

import os
from collections import Counter
from typing import Any

from msgspec import Struct

from olive_compass.cli import pick
from olive_compass.cli.changing.saving import save
from olive_compass.cli.files import read_file
from olive_compass.cli.macros.common import macro_named, world
from olive_compass.cli.macros.showing import step_title
from olive_compass.cli.options import WriteOptions
from olive_compass.cli.pairs import pairs
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, GREEN, OFF, RED, YELLOW
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.apps.app import App
from olive_compass.core.macros.document import Document, differences
from olive_compass.core.macros.macro import Macro
from olive_compass.core.macros.playing import Done, Played, Question, Stop, World, play, playing
from olive_compass.core.macros.simulator import first_mode
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import document_file
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.texts.json_text import load as load_json
from olive_compass.desk.texts.toml_text import parsed
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
        return _on_each(args.on_each, args.json, context, at_hand, macro, answers)
    document = fresh_document(app, args.mode or (macro.modes[0] if macro.modes else None))
    if args.document:
        document = document_file.read(read_file(context, args.document), args.document)
    if document.mode not in app.modes:
        raise UserError(f"{app.title} has no mode “{document.mode}”.", file=args.document or "")
    if args.json:
        played = play(at_hand, macro, document, answers)
        context.json(_as_json(macro, document, played))
    else:
        played = _live(args.step, context, at_hand, macro, document, answers)
        _say_result(context, app, macro, document, played)
    if not args.document:
        return 1 if played.stopped else 0
    return _keep(args.dry_run, args.document, args.keep, context, desk, macro, document, played)


def fresh_document(app: App, mode: str | None = None) -> Document:
    """An empty document in a mode, or in the one that most commands name."""
    return Document(mode=mode or first_mode(app))


def _answers(file: str | None, answer: list[str], context: Surroundings) -> dict[str, str]:
    """The answers of a file, and those of the command line over them."""
    answers: dict[str, str] = {}
    if file:
        data = read_file(context, file)
        read = parsed if file.endswith(".toml") else load_json
        content = read(data, file)
        from olive_compass.desk.formats.macro_file import plain

        if not isinstance(content, dict):
            raise UserError("Answers are a table: “2.at” or “at”, and the value.", file=file)
        answers = {str(name): plain(value) for name, value in _flat(content).items()}
    return {**answers, **pairs(answer, "INPUT")}


def _flat(content: dict[str, Any], before: str = "") -> dict[str, Any]:
    """A table of tables as one: TOML reads ``2.at = "1,2"`` as a table of its own."""
    found: dict[str, Any] = {}
    for name, value in content.items():
        if isinstance(value, dict):
            found.update(_flat(value, f"{before}{name}."))
        else:
            found[f"{before}{name}"] = value
    return found


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
    return context.ask(asks + (f" [{question.default}]" if question.default else ""))


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
    status = 1 if played.stopped else 0
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
    change = FileChange(path, desk.bytes(path), document_file.text(played.document))
    save(desk, context, [change], f"{macro.title}: played on {document.name}")
    context.report(f"Written: {path}. To undo: olive-compass undo")
    return status


class _OnOne(Struct, frozen=True, kw_only=True):
    """A play on one document of several."""

    name: str
    document: Document
    played: Played
    differs: bool


def _on_each(
    folder: str,
    as_json: bool,
    context: Surroundings,
    at_hand: World,
    macro: Macro,
    answers: dict[str, str],
) -> int:
    """Plays on every document of a folder, dry, and says which came out differently."""
    results = []
    for path in _documents(folder, context):
        document = document_file.read(read_file(context, path), path)
        results.append((os.path.basename(path), document, play(at_hand, macro, document, answers)))
    # What most documents have in common is taken for right: the odd one out is what a person looks for.
    usual = Counter(_signature(d, p) for _, d, p in results).most_common(1)[0][0]
    plays = [
        _OnOne(name=n, document=d, played=p, differs=_signature(d, p) != usual)
        for n, d, p in results
    ]
    if as_json:
        context.json(
            {
                "macro": f"{at_hand.app.name}/{macro.name}",
                "documents": [
                    {
                        "document": each.name,
                        "differs": each.differs,
                        **_as_json(macro, each.document, each.played),
                    }
                    for each in plays
                ],
            }
        )
    else:
        columns = ("document", "name", "mode", "result", "what changed")
        print_table(context, columns, [_row(each) for each in plays])
        context.say(_verdict(plays))
    return 1 if any(each.differs or each.played.stopped for each in plays) else 0


def _documents(folder: str, context: Surroundings) -> list[str]:
    """The documents in a folder, by name; raises ``UserError`` where there is none."""
    whole = os.path.join(context.folder, folder)
    if not os.path.isdir(whole):
        raise UserError(f"There is no folder “{folder}”.")
    names = sorted(name for name in os.listdir(whole) if name.endswith(".json"))
    if not names:
        raise UserError("There is no document in this folder.", file=folder)
    return [os.path.join(folder, name) for name in names]


def _row(each: _OnOne) -> tuple[str, ...]:
    stopped = each.played.stopped
    if stopped:
        result = f"{RED}stopped{OFF} at step {stopped.path}: {stopped.says}"
    else:
        result = f"{YELLOW}different{OFF}" if each.differs else f"{GREEN}same as the others{OFF}"
    changed = "; ".join(differences(each.document, each.played.document)) or "nothing changed"
    return each.name, each.document.name, each.document.mode, result, changed


def _verdict(plays: list[_OnOne]) -> str:
    stopped = sum(each.played.stopped is not None for each in plays)
    other = [each.name for each in plays if each.differs and not each.played.stopped]
    parts = [f"stopped on {stopped}"] if stopped else []
    if other:
        parts.append(f"the result differs on {', '.join(other)}")
    return (
        f"Played on {len(plays)} documents, nothing was written: "
        f"{' and '.join(parts) or 'the result is the same on each'}."
    )


def _signature(before: Document, played: Played) -> tuple[object, ...]:
    """What a play did, in a form that is the same wherever it did the same."""
    old, new = before.by_id, played.document.by_id
    # Without ids and places: those differ from document to document though the same was done.
    made = tuple(
        (thing.what, tuple(sorted(thing.values.items())))
        for id_, thing in new.items()
        if id_ not in old
    )
    gone = len([id_ for id_ in old if id_ not in new])
    settings = tuple(sorted(played.document.settings.items()))
    steps = tuple((done.path, done.command, done.outcome) for done in played.done)
    stop = played.stopped.path if played.stopped else ""
    return made, gone, settings, steps, played.document.mode, stop


def _as_json(macro: Macro, document: Document, played: Played) -> dict[str, Any]:
    """A play as JSON (docs/json.md)."""
    stop = played.stopped
    return {
        "macro": f"{macro.app}/{macro.name}",
        "done": [
            {
                "step": done.path,
                "command": done.command,
                "inputs": dict(done.inputs),
                "outcome": done.outcome,
                "says": done.says,
                "made": list(done.made),
            }
            for done in played.done
        ],
        "stopped": {"step": stop.path, "what": stop.what, "says": stop.says} if stop else None,
        "changed": differences(document, played.document),
        "document": document_file.as_json(played.document),
    }
