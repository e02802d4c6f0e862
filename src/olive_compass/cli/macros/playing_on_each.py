"""A macro that is played on one document after another."""

import os
from collections import Counter

from msgspec import Struct

from olive_compass.cli import exit_status
from olive_compass.cli.files import read_file
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import GREEN, OFF, RED, YELLOW
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.macros.document import Document, differences
from olive_compass.core.macros.macro import Macro
from olive_compass.core.macros.played import Played
from olive_compass.core.macros.playing import World, play
from olive_compass.desk.formats import document_file
from olive_compass.desk.reported.plays import PlaysReport, play_on_report
from olive_compass.errors import UserError
from olive_compass.simulator.sameness import signature


class _OnOne(Struct, frozen=True, kw_only=True):
    """A play on one document of several."""

    name: str
    document: Document
    played: Played
    differs: bool


def play_on_each(
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
    usual = Counter(signature(d, p) for _, d, p in results).most_common(1)[0][0]
    plays = [
        _OnOne(name=n, document=d, played=p, differs=signature(d, p) != usual)
        for n, d, p in results
    ]
    if as_json:
        documents = [
            play_on_report(macro, each.document, each.played, each.name, each.differs)
            for each in plays
        ]
        context.json(PlaysReport(macro=f"{at_hand.app.name}/{macro.name}", documents=documents))
    else:
        columns = ("document", "name", "mode", "result", "what changed")
        print_table(context, columns, [_row(each) for each in plays])
        context.say(_verdict(plays))
    return exit_status.failed(any(each.differs or each.played.stopped for each in plays))


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
        if each.differs:
            result = f"{YELLOW}different{OFF}"
        else:
            result = f"{GREEN}same as the others{OFF}"
    changed = "; ".join(differences(each.document, each.played.document)) or "nothing changed"
    return each.name, each.document.name, each.document.mode, result, changed


def _verdict(plays: list[_OnOne]) -> str:
    stopped = sum(each.played.stopped is not None for each in plays)
    other = [each.name for each in plays if each.differs and not each.played.stopped]
    parts = []
    if stopped:
        parts = [f"stopped on {stopped}"]
    if other:
        parts.append(f"the result differs on {', '.join(other)}")
    return (
        f"Played on {len(plays)} documents, nothing was written: "
        f"{' and '.join(parts) or 'the result is the same on each'}."
    )
