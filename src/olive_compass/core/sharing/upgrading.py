"""Compares two versions of an application: moved keys, and the decisions that still apply."""

from collections.abc import Container, Iterable
from typing import Final, Literal

from msgspec import Struct

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.carrying import carried
from olive_compass.core.apps.changes import of_one_platform
from olive_compass.core.apps.naming import near_commands
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Does, Stack
from olive_compass.core.schemes.deciding import Keymap, Outcome
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.editing import give
from olive_compass.core.sharing.recognising import Match, match
from olive_compass.structs import replace

#: What a decision is to the new version.
Fate = Literal["holds", "redundant", "hides something new", "conflicts", "command gone"]
HOLDS: Final = "holds"
REDUNDANT: Final = "redundant"
HIDES: Final = "hides something new"
CONFLICTS: Final = "conflicts"
GONE: Final = "command gone"


class Verdict(Struct, frozen=True, kw_only=True):
    """What a decision of a scheme is to the new version, and why; candidates for a gone command."""

    scheme: str
    table: str
    subject: str
    what: Fate
    says: str = ""
    trigger: Run | None = None
    candidates: tuple[Command, ...] = ()


class Upgrade(Struct, frozen=True):
    """The catalogue of the new version with the ids of the old, how commands were matched, and
    what becomes of every decision."""

    app: App
    matches: tuple[Match, ...]
    verdicts: tuple[Verdict, ...]


def _with_kept(each: Match, forget: Container[str]) -> Match:
    """A match whose new command has what the listing leaves out of it."""
    if each.old and each.new:
        return replace(each, new=carried(each.old, each.new, forget))
    return each


def upgrade(
    stack: Stack,
    listed: Catalogue,
    version: str,
    keyboard: Keyboard,
    used: Iterable[str] = (),
    forget: Container[str] = (),
    has_ids: bool = False,
) -> Upgrade:
    """Takes the catalogue ``listed`` for the application's new version.

    Commands keep the ids that decisions name; with ``has_ids`` those of the listing are the application's own, and
    what it calls a command by now is kept beside it. A withdrawn command stays in the catalogue, marked
    so, where a decision or one of ``used`` (by id) names it. What the listing leaves out of a
    command stays as it was, but for what ``forget`` names (see ``core/apps/carrying.py``).
    """
    old = stack.app
    # What was made on the desk (macros, trays) is in no listing, and must not look withdrawn.
    own = Catalogue(old.catalogue.listed)
    pairs = match(own, of_one_platform(own, listed), old.ids)
    matches = tuple(_with_kept(each, forget) for each in pairs)
    ids = _ids(old, pairs if has_ids else ())
    named = {id_ for s in stack.schemes for id_ in (*s.assign, *s.keyless)} | set(used)
    made = [c for c in old.catalogue.commands if c.is_own]
    commands = [*_carried(matches, named), *made]
    catalogue = Catalogue(tuple(commands))
    app = replace(old, version=version or old.version, catalogue=catalogue, ids=ids)
    before = Keymap(stack, keyboard)
    after = Keymap(replace(stack, app=app), keyboard)
    verdicts = [
        verdict
        for scheme in stack.schemes
        for verdict in _verdicts(scheme, before, after, own, app)
    ]
    return Upgrade(app, matches, tuple(verdicts))


def _ids(old: App, pairs: Iterable[Match]) -> dict[str, str]:
    """What the application calls each command by now, where that is not what we call it."""
    ids = dict(old.ids)
    for pair in pairs:
        if pair.old and pair.new:
            ids[pair.old.id] = pair.new.id
    return {ours: theirs for ours, theirs in ids.items() if theirs != ours}


def put_back(scheme: Scheme, found: Upgrade, old: App, keymap: Keymap) -> Scheme:
    """The scheme in which commands whose factory keys moved have their old ones as well.

    ``keymap`` is that of the new version; keys that some scheme gives by now stay as they are.
    """
    for each in found.matches:
        if each.old is None or each.new is None:
            continue
        modes = each.old.usable_in
        for run in each.old.keys:
            if run in each.new.keys:
                continue
            press = keymap.keyboard.press_of(run)
            # A scheme has decided about this key since: that is newer than the old version.
            if any(claim.origin for claim in keymap.buckets.get(press, ())):
                continue
            scheme = give(scheme, each.old.id, run, modes, f"as in {old.version}")
    return scheme


def _carried(matches: tuple[Match, ...], named: set[str]) -> list[Command]:
    """The commands of the new version under the ids of the old, with what people wrote to them."""
    taken = {m.old.id for m in matches if m.old}
    found = []
    for each in matches:
        if each.new is None:
            if each.old and each.old.id in named:
                marks = replace(each.old.marks, withdrawn=True)
                found.append(replace(each.old, keys=(), marks=marks))
            continue
        if each.old is None:
            id_ = each.new.id
            # Decisions name commands by id: a newcomer must not inherit those of its namesake.
            while id_ in taken:
                id_ += "-new"
            taken.add(id_)
            found.append(replace(each.new, id=id_))
            continue
        found.append(each.new)
    return found


def _verdicts(
    scheme: Scheme, before: Keymap, after: Keymap, old: Catalogue, app: App
) -> list[Verdict]:
    """What each decision of a scheme is to the new version, table by table."""
    factory_old = Keymap(Stack(before.app), before.keyboard)
    factory_new = Keymap(Stack(app), after.keyboard)
    found = []
    for command, assignments in scheme.assign.items():
        if gone := _gone(scheme, "assign", command, old, app):
            found.append(gone)
            continue
        for each in assignments:
            for run in each.keys:
                what, says = _of_key(
                    run, command, each.modes, before, after, factory_old, factory_new
                )
                found.append(
                    Verdict(
                        scheme=scheme.name,
                        table="assign",
                        subject=command,
                        what=what,
                        says=says,
                        trigger=run,
                    )
                )
    for command in scheme.keyless:
        gone = _gone(scheme, "keyless", command, old, app)
        says = _also_keeps(command, old, app)
        found.append(
            gone
            or Verdict(scheme=scheme.name, table="keyless", subject=command, what=HOLDS, says=says)
        )
    for run, mute in scheme.mute.items():
        what, says = _of_mute(run, mute.modes[0], factory_old, factory_new)
        found.append(
            Verdict(
                scheme=scheme.name,
                table="mute",
                subject=str(run),
                what=what,
                says=says,
                trigger=run,
            )
        )
    for run, guard in scheme.guard.items():
        what, says = _of_guard(run, guard.modes[0], before, after)
        found.append(
            Verdict(
                scheme=scheme.name,
                table="guard",
                subject=str(run),
                what=what,
                says=says,
                trigger=run,
            )
        )
    return found


def _also_keeps(command: str, old: Catalogue, app: App) -> str:
    """Which new factory key a keyless command is kept from, ``""``: none."""
    known = app.catalogue.by_id.get(command)
    if known is None or command not in old.by_id:
        return ""
    new_keys = [key for key in known.keys if key not in old.by_id[command].keys]
    if new_keys:
        return f"it also keeps {new_keys[0]} from it now"
    return ""


def _of_mute(run: Run, mode: str, factory_old: Keymap, factory_new: Keymap) -> tuple[Fate, str]:
    was, now = (_who(keymap.decide(run, mode)) for keymap in (factory_old, factory_new))
    if not now and was:
        return REDUNDANT, "the new version does nothing with it"
    if now != was and now:
        return HIDES, f"the new version starts {_titles(factory_new.app, now)} with it"
    return HOLDS, ""


def _of_guard(run: Run, mode: str, before: Keymap, after: Keymap) -> tuple[Fate, str]:
    was, now = (_who(keymap.decide(run, mode)) for keymap in (before, after))
    if was == now:
        return HOLDS, ""
    then, today = _titles(before.app, was) or "nothing", _titles(after.app, now) or "nothing"
    return CONFLICTS, f"it was {then} and is {today} now"


def _gone(scheme: Scheme, table: str, command: str, old: Catalogue, app: App) -> Verdict | None:
    known = app.catalogue.by_id.get(command)
    if known is not None and not known.marks.withdrawn:
        return None
    title = command
    if command in old.by_id:
        title = old.by_id[command].title
    living = [c for c in app.catalogue.commands if not c.marks.withdrawn]
    near = tuple(near_commands(living, title, 3))
    says = f"{title} is not in the new version"
    return Verdict(
        scheme=scheme.name,
        table=table,
        subject=command,
        what=GONE,
        says=says,
        trigger=None,
        candidates=near,
    )


def _of_key(
    run: Run,
    command: str,
    modes: tuple[str, ...],
    before: Keymap,
    after: Keymap,
    factory_old: Keymap,
    factory_new: Keymap,
) -> tuple[Fate, str]:
    """What a key of a scheme is to the new version, and why."""
    app = after.app
    for mode in modes:
        # A mode may have got another name: that is for a person to say, so the key is not given up for lost.
        if mode not in app.modes:
            return CONFLICTS, f"the new version has no mode {mode}"
        way = _in_the_way(command, before.decide(run, mode), after.decide(run, mode))
        if way is not None:
            return (
                CONFLICTS,
                f"{_titles(app, way) or 'something else'} comes in the way in {mode} now",
            )
        was, now = _who(factory_old.decide(run, mode)), _who(factory_new.decide(run, mode))
        if now == was:
            continue
        if now == (Does(command),):
            return REDUNDANT, "the new version has it from the factory"
        if now and Does(command) not in now:
            return HIDES, f"the new version starts {_titles(app, now)} with it"
    return HOLDS, ""


def _in_the_way(command: str, before: Outcome, after: Outcome) -> tuple[Does, ...] | None:
    """What keeps a command from its key, or makes it wait, that did not before; None: nothing does."""
    if Does(command) not in _who(before):
        return None
    if Does(command) in _who(after) and after.what == before.what:
        return None
    return tuple(claim.does for claim in after.longer[:2]) or _who(after)


def _who(outcome: Outcome) -> tuple[Does, ...]:
    return tuple(claim.does for claim in outcome.winners if not claim.mutes)


def _titles(app: App, what: Iterable[Does]) -> str:
    known = app.catalogue.by_id
    return " or ".join(
        f"“{known[each.command].title}”" if each.command in known else each.wired or each.command
        for each in what
    )
