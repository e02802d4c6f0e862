"""The work list of an application: from the keys that it has to those that a scheme wants."""

from collections.abc import Callable, Iterator, Mapping

from msgspec import Struct

from olive_compass.core.apps.app import App, Catalogue, Command
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.presses import Press
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import holdings, live_triggers
from olive_compass.core.schemes.traits import (
    broken_rules,
    far_triggers,
    lacking,
    not_assignable,
    not_assignable_says,
)
from olive_compass.core.sharing.manual_steps import Limits, NotAllowed, Step, WorkList
from olive_compass.core.sharing.ordering import work_list
from olive_compass.structs import replace

#: The function keys that most keyboards have.
_PRESSABLE = tuple(f"F{n}" for n in range(1, 13))


class Mismatch(Struct, frozen=True):
    """A command whose keys in the application differ from the wanted ones."""

    command: str
    missing: tuple[Run, ...]
    extra: tuple[Run, ...]


def limits_of(app: App) -> Limits:
    """What the rules of an application allow by hand."""
    known = app.catalogue.by_id

    def meet(one: str, other: str) -> bool:
        a, b = (
            set(app.modes.inside(known[c].usable_in)) if c in known else set() for c in (one, other)
        )
        return bool(a & b)

    rules = app.rules
    return Limits(
        duplicates=rules.duplicates, most=rules.most_keys, can_take=rules.can_mute, meet=meet
    )


def wanted_of(keymap: Keymap) -> dict[str, frozenset[Run]]:
    """The keys that each command is to have in the application, so that presses do what they do here.

    Those that reach it as the layers decide; and where the application can switch no key off, the
    triggers by which a mute is carried out.
    """
    wanted = {
        command.id: set(live_triggers(keymap, command.id))
        for command in keymap.app.catalogue.commands
    }
    for scheme in keymap.stack.schemes:
        for run, decision in scheme.mute.items():
            if decision.never in wanted:
                wanted[decision.never].add(run)
            if decision.away is not None:
                for command in _moved_away(keymap, run):
                    wanted[command].add(decision.away)
    return {id_: frozenset(runs) for id_, runs in wanted.items()}


def _moved_away(keymap: Keymap, run: Run) -> list[str]:
    """The commands that would have a press but for a mute that moves them away: the first of them."""
    press = keymap.keyboard.press_of(run)
    for mode in keymap.app.modes.names:
        outcome = keymap.decide_press(press, mode)
        hidden = [claim.command for claim in outcome.overridden if claim.command]
        if hidden and any(c.does.away for c in (*outcome.winners, *outcome.overridden)):
            return hidden[:1]
    return []


def had_of(catalogue: Catalogue) -> dict[str, frozenset[Run]]:
    """The keys that each command has by a catalogue: the factory's, or those of a listing."""
    return {command.id: frozenset(command.keys) for command in catalogue.commands}


def _not_allowed(keymap: Keymap, command: Command, run: Run) -> str:
    """Why a command cannot have a key, or not this one, ``""``: it can."""
    no_key = not_assignable_says(command, not_assignable(keymap.app, command))
    if no_key:
        return no_key
    return next((b.why for b in broken_rules(keymap.app, keymap.keyboard, run)), "")


def for_app(keymap: Keymap, had: Mapping[str, frozenset[Run]]) -> WorkList:
    """The work list of the application of ``keymap``, from the keys that it has now."""
    app = keymap.app
    known = app.catalogue.by_id
    spelt = _one_spelling(keymap, had)
    wanted = {id_: frozenset(map(spelt, runs)) for id_, runs in wanted_of(keymap).items()}
    now = {id_: frozenset(map(spelt, had.get(id_, frozenset()))) for id_ in wanted}
    left = [*_not_switched_off(keymap)]
    for id_, runs in wanted.items():
        for run in sorted(runs - now[id_], key=str):
            if why := _not_allowed(keymap, known[id_], run):
                left.append(NotAllowed(command=id_, trigger=run, why=why))
                wanted[id_] = wanted[id_] - {run}
    far = far_triggers(keymap.app, keymap.keyboard)
    if not app.rules.can_mute:
        # What an earlier list parked there is as good as gone.
        parked = frozenset(far)
        wanted = {id_: runs | (now[id_] & parked) for id_, runs in wanted.items()}
    parks = [run for run in far if _is_spare(keymap, run, now)]
    found = work_list(now, wanted, limits_of(app), _to_pass(keymap, parks), parks)
    return replace(found, left=(*left, *found.left, *_in_more_modes(keymap, found)))


def _one_spelling(keymap: Keymap, had: Mapping[str, frozenset[Run]]) -> Callable[[Run], Run]:
    """Gives triggers that are the same press one spelling, that of the application if it has one.

    Otherwise two spellings of a press would make a step that the application takes for a duplicate.
    """
    spellings: dict[Press, set[Run]] = {}
    for runs in had.values():
        for run in runs:
            spellings.setdefault(keymap.keyboard.press_of(run), set()).add(run)
    # Where the application itself has two spellings of a press, it tells them apart.
    first = {press: next(iter(runs)) for press, runs in spellings.items() if len(runs) == 1}
    twice = {press for press, runs in spellings.items() if len(runs) > 1}

    def spelt(run: Run) -> Run:
        press = keymap.keyboard.press_of(run)
        if press in twice:
            return run
        return first.setdefault(press, run)

    return spelt


def _not_switched_off(keymap: Keymap) -> Iterator[NotAllowed]:
    """The mutes that no change by hand carries out: what is wired in goes on as it does."""
    for scheme in keymap.stack.schemes:
        for run, decision in scheme.mute.items():
            press = keymap.keyboard.press_of(run)
            claims = keymap.buckets.get(press, ())
            wired = next((c.wired for c in claims if c.wired and not c.layer.locked), "")
            if wired and not decision.never:
                yield NotAllowed(
                    command="", trigger=run, why=f"the application itself still {wired}"
                )


def _in_more_modes(keymap: Keymap, found: WorkList) -> Iterator[NotAllowed]:
    """The keys that also work where nothing is to happen: no application can be told that a key of a mode is off
    in one that lies inside it."""
    tree = keymap.app.modes
    for id_, runs in found.reached.items():
        live = live_modes(keymap, id_)
        for run in sorted(runs, key=str):
            press = keymap.keyboard.press_of(run)
            where = live.get(press, ())
            more = [
                mode
                for mode in tree.inside(tree.outermost(where))
                if mode not in where and not keymap.commands_at(press, mode)
            ]
            if more:
                why = f"it goes on working {tree.phrase(more)}, where it is to do nothing"
                yield NotAllowed(command=id_, trigger=run, why=why)


def live_modes(keymap: Keymap, command: str) -> dict[Press, tuple[str, ...]]:
    """The modes in which each press reaches a command."""
    found: dict[Press, dict[str, None]] = {}
    for holding in holdings(keymap, command):
        press = keymap.keyboard.press_of(holding.trigger)
        found.setdefault(press, {}).update(dict.fromkeys(holding.live))
    return {press: tuple(modes) for press, modes in found.items()}


def named_modes(keymap: Keymap, press: Press, live: tuple[str, ...]) -> tuple[str, ...]:
    """As few modes as say where a command has a press: a mode that lies inside another is named only where
    other commands have the press as well, and would have it alone there."""
    tree = keymap.app.modes
    named = list(tree.outermost(live))
    for mode in sorted(live, key=lambda name: len(tree.path(name))):
        if mode in named:
            continue
        path = tree.path(mode)
        outwards = path[1 : 1 + next(n for n, name in enumerate(path) if name in named)]
        here = keymap.commands_at(press, mode)
        # Whoever has it in a mode between comes first there, and in all that lies inside.
        if any(keymap.commands_at(press, name) != here for name in outwards):
            named.append(mode)
    return tuple(named)


def modes_of_step(keymap: Keymap, step: Step) -> tuple[str, ...]:
    """The modes in which the trigger of a step counts: of the one it gives, or else takes."""
    run = step.gets or step.loses
    press = keymap.keyboard.press_of(run) if run else ()
    known = keymap.app.catalogue.by_id.get(step.command)
    modes = live_modes(keymap, step.command).get(press, ()) or (known.modes if known else ())
    return keymap.app.modes.outermost(modes) or (ROOT,)


def differences(
    wanted: Mapping[str, frozenset[Run]], had: Mapping[str, frozenset[Run]]
) -> list[Mismatch]:
    """The commands whose keys differ from the wanted ones, by id."""
    found = []
    for id_ in wanted:
        have = had.get(id_, frozenset())
        missing = tuple(sorted(wanted[id_] - have, key=str))
        extra = tuple(sorted(have - wanted[id_], key=str))
        if missing or extra:
            found.append(Mismatch(id_, missing, extra))
    return found


def _to_pass(keymap: Keymap, spares: list[Run]) -> list[Run]:
    """Those of the spare triggers by which a key can go for a while: a person must be able to press them. The
    likeliest to be free come first."""
    can = [
        run
        for run in spares
        if run.strokes[0].key in _PRESSABLE and not lacking(keymap.keyboard, run.strokes[0])
    ]
    order = (("Ctrl", "Shift"), ("Ctrl",))
    return sorted(can, key=lambda run: _place(order, run.strokes[0].modifiers))


def _place(order: tuple[tuple[str, ...], ...], held: tuple[str, ...]) -> int:
    if held in order:
        return order.index(held)
    return len(order)


def _is_spare(keymap: Keymap, run: Run, now: Mapping[str, frozenset[Run]]) -> bool:
    press = keymap.keyboard.press_of(run)
    return press not in keymap.buckets and not any(run in runs for runs in now.values())
