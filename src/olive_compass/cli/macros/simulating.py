"""The simulator from the command line: a session on a desk, its log, and what it recorded."""

import os
from typing import Any

from olive_compass.cli import pick
from olive_compass.cli.changing.saving import save
from olive_compass.cli.files import read_file
from olive_compass.cli.looking.tallies import tally_or_logs
from olive_compass.cli.macros.common import new_name, refuse_self_call
from olive_compass.cli.macros.playing import fresh_document
from olive_compass.cli.options import Common
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF, RED, YELLOW
from olive_compass.core.apps.app import App
from olive_compass.core.macros.macro import Macro
from olive_compass.core.plain import lines_of
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import document_file, log_file
from olive_compass.desk.source_lines import file_and_line_text
from olive_compass.desk.storage.plain_file import read_whole
from olive_compass.desk.storage.saving import write_atomically, write_on_desk
from olive_compass.desk.writing.changed_files import changed_macro
from olive_compass.errors import UserError
from olive_compass.simulator.saying import ASKS, FIRED, REMARK, TROUBLE, WHY, Line
from olive_compass.simulator.script import Leave, do_line, holds
from olive_compass.simulator.session import Session
from olive_compass.structs import replace

_MARKS = {FIRED: BOLD, WHY: DIM, ASKS: YELLOW, TROUBLE: RED, REMARK: ""}


class SessionOptions(Common, kw_only=True):
    """The options of a session at the simulator: its application, or the macro that is recorded in it."""

    app: str = ""
    which: str = ""
    script: str | None
    mode: str | None
    document: str | None
    log: str | None
    no_log: bool
    dry_run: bool


def simulate(args: SessionOptions, context: Surroundings) -> int:
    """Runs ``try`` and ``macro record``: live at a terminal, or from a script."""
    record = args.which
    desk = pick.desk(args, context)
    given, _, title = (record or args.app).partition("/")
    app = desk.app(desk.app_name(given))
    if record:
        new_name(desk, record, context)
    session = _session(args.mode, args.document, context, desk, app.name)
    if record:
        session.recorder.start(title)
    interrupted: KeyboardInterrupt | None = None
    try:
        _run(args, context, desk, app, session)
    except KeyboardInterrupt as stop:
        # What was recorded until then is kept.
        interrupted = stop
    origin = "the simulator"
    if args.script not in (None, "-"):
        origin = args.script
    asked = session.question is not None
    for line in session.close(origin):
        context.warn(f"olive-compass: {line.text}")
    status = _afterwards(args.dry_run, args.no_log, args.log, context, desk, session)
    if interrupted is not None:
        raise interrupted
    if asked and not _is_live(args, context):
        return 2
    return status


def _is_live(args: SessionOptions, context: Surroundings) -> bool:
    """Whether a person presses the keys."""
    return args.script is None and context.interactive


def _run(
    args: SessionOptions, context: Surroundings, desk: Desk, app: App, session: Session
) -> None:
    """The session itself, until it is left or the script ends."""
    if not _is_live(args, context):
        _from_script(args.script, context, session)
        return
    from olive_compass.simulator.live import run_live

    schemes = " over ".join(desk.stack(app.name).names)
    run_live(session, f"{app.heading} ({schemes})", context.colour)


def _session(
    asked_mode: str | None, path: str | None, context: Surroundings, desk: Desk, name: str
) -> Session:
    keymap = Keymap(desk.stack(name), desk.keyboard)
    app = keymap.app
    mode = None
    if asked_mode:
        mode = pick.mode(app, asked_mode)
    document = fresh_document(app, mode)
    if path:
        document = document_file.read(read_file(context, path), path)
        if mode:
            document = replace(document, mode=mode)
        if document.mode not in app.modes:
            raise UserError(f"{app.title} has no mode “{document.mode}”.", file=path)

    def clock() -> str:
        return context.now().isoformat(timespec="seconds")

    def where(claim: Any) -> str:
        return file_and_line_text(desk, keymap, claim)

    past = tally_or_logs(desk, app, context) if any(t.fill for t in app.trays) else {}
    return Session(keymap, desk.macros(name), document, clock, where, past)


def _from_script(script: str | None, context: Surroundings, session: Session) -> None:
    """Does every line of the script, or of standard input; shows each and what it led to."""
    if script is None or script == "-":
        text, origin = context.inp.read(), "standard input"
    else:
        text = read_file(context, script).decode("utf-8-sig", "replace")
        origin = script
    context.report(f"{session.app.title}, in {session.document.mode}")
    for line in lines_of(text):
        try:
            shown = do_line(session, line, origin)
        except Leave:
            break
        if line.strip():
            context.report(f"{DIM}>{OFF} {line.strip()}")
        _print(context, shown)
    _print(context, holds(session))


def _print(context: Surroundings, lines: list[Line]) -> None:
    for line in lines:
        mark = _MARKS[line.what]
        indent = "  "
        if line.what == WHY:
            indent = "    "
        context.report(f"{indent}{mark}{line.text}{OFF if mark else ''}")


def _afterwards(
    dry_run: bool,
    no_log: bool,
    log: str | None,
    context: Surroundings,
    desk: Desk,
    session: Session,
) -> int:
    """Saves what was recorded, and the log."""
    trouble = 0
    for macro in session.recorder.recorded:
        trouble |= _save_recorded(dry_run, context, desk, session, macro)
    if dry_run or no_log or not session.recorder.events:
        if dry_run:
            context.report("Dry run: nothing was written.")
        return trouble
    path = _write_log(log, context, desk, session)
    context.report(f"The log is in {path}, {counted(len(session.recorder.events), 'event')}.")
    return trouble


def _save_recorded(
    dry_run: bool, context: Surroundings, desk: Desk, session: Session, macro: Macro
) -> int:
    macro = _under_a_free_name(desk, context, macro)
    trouble = 0
    try:
        refuse_self_call(desk, session.keymap, macro)
    except UserError as refused:
        # What was recorded is kept: it is for a person to say what is to be taken out of it.
        context.warn(f"olive-compass: {refused.what.split(';')[0]}. It is kept as it was recorded.")
        trouble = 2
    change = changed_macro(desk, None, macro)
    if dry_run:
        context.report(f"Would create {change.path}, {counted(len(macro.steps), 'step')}.")
        return trouble
    save(desk, context, [change], f"{session.app.title}: recorded {macro.title}")
    context.report(
        f"Recorded {macro.app}/{macro.name}, {counted(len(macro.steps), 'step')} ({change.path})."
    )
    context.report(f"Look at it: olive-compass macro show {macro.app}/{macro.name}")
    return trouble


def _under_a_free_name(desk: Desk, context: Surroundings, macro: Macro) -> Macro:
    """The macro under its name, or under another where that was taken meanwhile."""
    taken = Desk(desk.root).macros(macro.app)
    name, n = macro.name, 2
    while name in taken:
        name, n = f"{macro.name}-{n}", n + 1
    if name != macro.name:
        context.warn(f"olive-compass: There is a macro “{macro.name}” already; this is “{name}”.")
    return replace(macro, name=name)


def _write_log(log: str | None, context: Surroundings, desk: Desk, session: Session) -> str:
    """Writes the events; a log that is there already is added to. Returns its path."""
    first = session.recorder.events[0].time
    stamp = first[:19].replace(":", "").replace("T", "-")
    if log:
        shown = str(log)
    else:
        shown = f"logs/{session.app.name}-{stamp}.jsonl"
    path = os.path.join(context.folder if log else desk.root, os.path.expanduser(shown))
    lines = "".join(map(log_file.event_line, session.recorder.events))
    head = log_file.head_line(session.app.name, session.app.version, first)
    try:
        if log and not os.path.isdir(os.path.dirname(path)):
            raise UserError("The log cannot be written: there is no such folder.", file=shown)
        before = b""
        if os.path.lexists(path):
            before = read_whole(path, shown)
        data = before + ((lines if before else head + lines).encode())
        if log:
            write_atomically(path, data)
        else:
            write_on_desk(desk.root, shown, data)
    except OSError as error:
        raise UserError(f"The log cannot be written: {error.strerror}.", file=shown) from error
    return shown
