"""The work list of an application: from the keys that it has to those that a scheme wants."""

from collections.abc import Mapping
from typing import NamedTuple

from olive_compass.core.apps.app import App, Catalogue
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.standing import broken_rules, not_assignable, not_assignable_says
from olive_compass.core.sharing.handwork import Left, Limits, WorkList
from olive_compass.core.sharing.ordering import work_list

#: Keys that are tried as spares, the likeliest to be free first.
_SPARES = [f"Ctrl+Shift+F{n}" for n in range(12, 0, -1)] + [f"Ctrl+F{n}" for n in range(12, 0, -1)]


class Difference(NamedTuple):
    """A command whose keys in the application are not those that are wanted."""

    command: str
    missing: tuple[Run, ...]
    extra: tuple[Run, ...]


def limits_of(app: App) -> Limits:
    """What the rules of an application allow by hand."""
    known = app.catalogue.by_id

    def meet(one: str, other: str) -> bool:
        a, b = (
            set(app.modes.inside(known[c].modes or ("everywhere",))) if c in known else set()
            for c in (one, other)
        )
        return bool(a & b)

    rules = app.rules
    return Limits(rules.duplicates, rules.most_keys, rules.can_mute, meet)


def wanted_of(keymap: Keymap) -> dict[str, frozenset[Run]]:
    """The keys that reach each command as the layers decide it; macros are of our desk alone."""
    return {
        command.id: frozenset(live_triggers(keymap, command.id))
        for command in keymap.app.catalogue.commands
        if command.kind != "macro"
    }


def had_of(catalogue: Catalogue) -> dict[str, frozenset[Run]]:
    """The keys that each command has by a catalogue: the factory's, or those of a listing."""
    return {
        command.id: frozenset(command.keys)
        for command in catalogue.commands
        if command.kind != "macro"
    }


def for_app(keymap: Keymap, had: Mapping[str, frozenset[Run]]) -> WorkList:
    """The work list of the application of ``keymap``, from the keys that it has now."""
    app = keymap.app
    known = app.catalogue.by_id
    wanted = wanted_of(keymap)
    now = {id_: frozenset(had.get(id_, frozenset())) for id_ in wanted}
    left: list[Left] = []
    for id_, runs in wanted.items():
        more = sorted(runs - now[id_], key=str)
        for run in more:
            broken = next((b.why for b in broken_rules(app, keymap.keyboard, run)), "")
            no_key = not_assignable_says(known[id_], not_assignable(app.rules, known[id_]))
            why = no_key or broken
            if why:
                left.append(Left(id_, run, why))
                wanted[id_] = wanted[id_] - {run}
    if not app.rules.can_mute:
        # What an earlier list parked there is as good as gone.
        far = {read_trigger(text) for text in _SPARES}
        wanted = {id_: runs | (now[id_] & far) for id_, runs in wanted.items()}
    spares = [run for text in _SPARES if _is_spare(keymap, run := read_trigger(text), now)]
    found = work_list(now, wanted, limits_of(app), spares)
    return found._replace(left=(*left, *found.left))


def differences(
    wanted: Mapping[str, frozenset[Run]], had: Mapping[str, frozenset[Run]]
) -> list[Difference]:
    """The commands whose keys are not those that are wanted, by command."""
    found = []
    for id_ in wanted:
        have = had.get(id_, frozenset())
        missing = tuple(sorted(wanted[id_] - have, key=str))
        extra = tuple(sorted(have - wanted[id_], key=str))
        if missing or extra:
            found.append(Difference(id_, missing, extra))
    return found


def _is_spare(keymap: Keymap, run: Run, now: Mapping[str, frozenset[Run]]) -> bool:
    press = keymap.keyboard.press_of(run)
    taken = press in keymap.buckets or any(run in runs for runs in now.values())
    return not taken and not any(True for _ in broken_rules(keymap.app, keymap.keyboard, run))
