"""What a new version changes, as tables and as JSON."""

from collections import Counter
from collections.abc import Sequence

from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.command_lines import line
from olive_compass.cli.terminal.layout import BOLD, DIM, GREEN, OFF, RED, YELLOW
from olive_compass.cli.terminal.tables import most_rows, print_table
from olive_compass.core.apps.app import App
from olive_compass.core.keys.written_cells import write_cell
from olive_compass.core.sharing.recognising import Match
from olive_compass.core.sharing.upgrading import (
    CONFLICTS,
    GONE,
    HIDES,
    HOLDS,
    REDUNDANT,
    Fate,
    Upgrade,
    Verdict,
)
from olive_compass.core.wording import counted

_COLOURS = {HOLDS: GREEN, REDUNDANT: DIM, HIDES: YELLOW, CONFLICTS: RED, GONE: RED}


MOST_SHOWN = 30


def print_upgrade(
    context: Surroundings, old: App, found: Upgrade, whole: bool, limit: int | None
) -> None:
    counts = Counter(what for each in found.matches for what in each.what)
    context.say(
        f"{BOLD}{old.title} {old.version} -> {found.app.version}{OFF}: "
        f"{_summary(counts) or 'nothing moved'}"
    )
    changed = [each for each in found.matches if each.what]
    if changed:
        columns = ("what", "before", "after", "keys before", "keys after", "recognised by")
        most = most_rows(context, limit)
        print_table(context, columns, [_row(each) for each in changed[:most]])
        if changed[most:]:
            total = len(changed)
            context.say(f"{most} of {total} changes shown; --limit {total} shows all.")
    _print_decisions(context, old, found, whole)


def _say_replacements(context: Surroundings, found: Upgrade) -> None:
    """Possible replacements for the commands that are gone."""
    for verdict in found.verdicts:
        if verdict.what == GONE and verdict.candidates:
            names = ", ".join(f"{c.title} ({c.id})" for c in verdict.candidates)
            context.say(f"Possible replacement for {verdict.subject}: {names}")


def _print_decisions(context: Surroundings, old: App, found: Upgrade, whole: bool) -> None:
    """How the new version affects each decision, with the command that settles it."""
    counts = Counter(verdict.what for verdict in found.verdicts)
    context.say(f"{BOLD}Your decisions{OFF}: {_summary(counts) or 'no decisions'}")
    shown = [verdict for verdict in found.verdicts if whole or _is_news(verdict)]
    if shown:
        rows = [_verdict_row(old, found.app, verdict) for verdict in shown]
        print_table(context, ("", "scheme", "decision", "key", "why"), rows)
    _say_replacements(context, found)
    going = [v for v in found.verdicts if v.what == REDUNDANT]
    if going:
        _print_needless(context, old, going)


def _is_news(verdict: Verdict) -> bool:
    """Whether there is more to say of a decision than that it holds."""
    return verdict.what != HOLDS or bool(verdict.says)


def _print_needless(context: Surroundings, old: App, going: Sequence[Verdict]) -> None:
    """The decisions that say what the new version says anyway, with what takes each out."""
    context.say(f"{counted(len(going), 'decision')} will no longer be needed:")
    for each in going[:MOST_SHOWN]:
        if each.table in ("assign", "keyless"):
            subject = each.subject
        else:
            subject = str(each.trigger or each.subject)
        context.say(f"  {line('clear', old.name, subject, '--scheme', each.scheme)}")


def _summary(counts: Counter[Fate] | Counter[str]) -> str:
    return ", ".join(
        f"{count} {(_SINGULAR if count == 1 else _PLURAL).get(what, what)}"
        for what, count in counts.items()
    )


#: What is said of several otherwise than of one.
_PLURAL = {
    HOLDS: "still apply",
    REDUNDANT: "are no longer needed",
    HIDES: "override a new key",
    CONFLICTS: "conflict",
    GONE: "have lost their command",
}


_SINGULAR = {
    HOLDS: "still applies",
    REDUNDANT: "is no longer needed",
    HIDES: "overrides a new key",
    CONFLICTS: "conflicts",
    GONE: "has lost its command",
}


def _row(each: Match) -> tuple[str, ...]:
    moved = "keys moved" in each.what
    old = old_keys = new = new_keys = by = ""
    if each.old:
        old = each.old.title
        if moved:
            old_keys = write_cell(each.old.keys)
    if each.new:
        new = each.new.title
        if moved or not each.old:
            new_keys = write_cell(each.new.keys)
    if new == old:
        new = ""
    if _is_found_by_likeness(each):
        by = f"{each.by} ({each.score:.2f})"
    return (", ".join(each.what), old, new, old_keys, new_keys, by)


def _is_found_by_likeness(each: Match) -> bool:
    return bool(each.old and each.new and each.score < 1)


def _verdict_row(old: App, new: App, verdict: Verdict) -> tuple[str, ...]:
    known = new.catalogue.by_id.get(verdict.subject) or old.catalogue.by_id.get(verdict.subject)
    if known:
        subject = known.title
    else:
        subject = verdict.subject
    return (
        f"{_COLOURS[verdict.what]}{verdict.what}{OFF}",
        verdict.scheme,
        f"{verdict.table} {subject}",
        str(verdict.trigger) if verdict.trigger and verdict.table == "assign" else "",
        verdict.says,
    )
