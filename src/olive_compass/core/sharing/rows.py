"""A scheme as plain rows, for tables and templates, and back again."""

from collections.abc import Iterable, Mapping

from msgspec import Struct

from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run
from olive_compass.core.keys.written_cells import read_written_cell, write_cell
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Assignment, Decision, Scheme
from olive_compass.core.schemes.holdings import holdings
from olive_compass.core.schemes.layers import PERSONAL
from olive_compass.structs import replace

#: What a row can be.
DECISIONS = ("assign", "keyless", "mute", "guard", "accept", "order")


class DecisionRow(Struct, frozen=True, kw_only=True):
    """One decision: ``subject`` is a command, a finding or ``""``, ``keys`` the triggers as a cell.

    ``how`` is ``instead``, or a word (``keeps``, ``never``, ``away``), a blank and what it names.
    """

    decision: str
    subject: str
    keys: str = ""
    modes: tuple[str, ...] = (ROOT,)
    why: str = ""
    slot: str = ""
    how: str = ""


def rows_of(scheme: Scheme) -> list[DecisionRow]:
    """The decisions of a scheme as rows, in its order."""
    rows = [
        DecisionRow(
            decision="assign",
            subject=command,
            keys=write_cell(each.keys),
            modes=each.modes,
            why=each.why,
            slot=each.slot,
            how="instead" if each.instead else "",
        )
        for command, assignments in scheme.assign.items()
        for each in assignments
    ]
    rows += [
        DecisionRow(decision="keyless", subject=id_, keys="", modes=d.modes, why=d.why)
        for id_, d in scheme.keyless.items()
    ]
    for table in ("mute", "guard"):
        decisions: Mapping[Run, Decision] = getattr(scheme, table)
        rows += [
            DecisionRow(
                decision=table,
                subject="",
                keys=write_cell((run,)),
                modes=d.modes,
                why=d.why,
                slot="",
                how=_how(d),
            )
            for run, d in decisions.items()
        ]
    rows += [
        DecisionRow(decision="accept", subject=id_, keys="", modes=d.modes, why=d.why)
        for id_, d in scheme.accept.items()
    ]
    rows += [
        DecisionRow(decision="order", subject=" ".join(commands), keys=write_cell((run,)))
        for run, commands in scheme.order.items()
    ]
    return rows


def scheme_of(empty: Scheme, rows: Iterable[DecisionRow], typed: int) -> Scheme:
    """The scheme of rows; raises ``ValueError`` with the number of the row that cannot be read."""
    assign: dict[str, tuple[Assignment, ...]] = {}
    keyless: dict[str, Decision] = {}
    mute: dict[Run, Decision] = {}
    guard: dict[Run, Decision] = {}
    accept: dict[str, Decision] = {}
    order: dict[Run, tuple[str, ...]] = {}
    for number, row in enumerate(rows, 1):
        try:
            runs = _runs(row.keys, typed)
        except (TriggerError, ValueError) as error:
            raise ValueError(f"row {number}: {error}") from error
        decision = _decision(row, typed)
        if problem := _problem(row, runs):
            raise ValueError(f"row {number}: {problem}")
        if row.decision == "assign":
            # Several rows of one command are several assignments: each has modes and a reason of its own.
            each = Assignment(
                keys=runs, modes=row.modes, why=row.why, slot=row.slot, instead=row.how == "instead"
            )
            assign[row.subject] = (*assign.get(row.subject, ()), each)
        elif row.decision == "keyless":
            keyless[row.subject] = decision
        elif row.decision == "accept":
            accept[row.subject] = decision
        elif row.decision == "order":
            order[runs[0]] = tuple(row.subject.split())
        else:
            (mute if row.decision == "mute" else guard)[runs[0]] = decision
    return replace(
        empty, assign=assign, keyless=keyless, mute=mute, guard=guard, accept=accept, order=order
    )


def as_it_counts(keymap: Keymap) -> Scheme:
    """All layers as one scheme: every key that reaches a command, and every mute."""
    assign: dict[str, tuple[Assignment, ...]] = {}
    for command in keymap.app.catalogue.commands:
        found = []
        for holding in holdings(keymap, command.id):
            modes = keymap.app.modes.outermost(m for m in holding.modes if m in holding.live)
            if modes:
                found.append(
                    Assignment(keys=(holding.trigger,), modes=modes, why=holding.claims[0].why)
                )
        if found:
            assign[command.id] = tuple(found)
    mute: dict[Run, Decision] = {}
    for scheme in keymap.stack.schemes:
        for run, decision in scheme.mute.items():
            mute.setdefault(run, decision)
    based_on = f"factory {keymap.app.version}".strip()
    return Scheme(
        app=keymap.app.name, name="now", layer=PERSONAL, based_on=based_on, assign=assign, mute=mute
    )


def _how(decision: Decision) -> str:
    """What a guard keeps, or the trick by which a key is muted, as a row says it."""
    if decision.keeps:
        return f"keeps {decision.keeps}"
    if decision.never:
        return f"never {decision.never}"
    if decision.away:
        return f"away {decision.away}"
    return ""


def _decision(row: DecisionRow, typed: int) -> Decision:
    word, _, of = row.how.partition(" ")
    return Decision(
        why=row.why,
        modes=row.modes,
        keeps=of if word == "keeps" else "",
        never=of if word == "never" else "",
        away=read_trigger(of, typed) if word == "away" else None,
    )


def _runs(cell: str, typed: int) -> tuple[Run, ...]:
    if not cell:
        return ()
    read = read_written_cell(cell, typed)
    if not read.problem:
        return read.triggers
    return (read_trigger(cell, typed),)


def _problem(row: DecisionRow, runs: tuple[Run, ...]) -> str:
    """What a row lacks for its decision, ``""``: nothing."""
    if row.decision not in DECISIONS:
        return f"“{row.decision}” is none of {', '.join(DECISIONS)}"
    if row.decision in ("assign", "mute", "guard", "order") and not runs:
        return "it names no key"
    if row.decision in ("assign", "keyless", "accept") and not row.subject:
        return "it does not say of what"
    return ""
