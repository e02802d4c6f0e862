"""What an application's shortcuts file is to say, and what somebody changed in it over there."""

from collections.abc import Iterable, Mapping

from msgspec import Struct

from olive_compass.core.apps.app import App
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.sharing.manual_steps import NotAllowed
from olive_compass.core.sharing.working import for_app, live_modes, named_modes, wanted_of
from olive_compass.structs import replace

#: The mode of a file that names none.
NO_MODE = ""

#: Keys by command and mode.
ByMode = Mapping[str, Mapping[str, tuple[Run, ...]]]


class Moved(Struct, frozen=True, kw_only=True):
    """A command whose keys in a mode are not what they were: in the file, and before."""

    command: str
    mode: str
    was: tuple[Run, ...]
    now: tuple[Run, ...]


class Delta(Struct, frozen=True):
    """What decisions add to the keys of a command in a mode, and what they take from them."""

    added: tuple[Run, ...] = ()
    removed: tuple[Run, ...] = ()


#: What decisions change, by command and mode.
Deltas = Mapping[str, Mapping[str, Delta]]


class ToBe(Struct, frozen=True):
    """What a file is to say of the commands that decisions change: their keys by mode, what is added and taken
    away for it, and what the application does not allow."""

    keys: ByMode
    deltas: Deltas
    left: tuple[NotAllowed, ...]


def to_be(keymap: Keymap, had: ByMode, with_modes: bool) -> ToBe:
    """What the file of an application is to say that has the keys ``had``: what its work list leads to, so that
    who changes keys by hand and who writes the file end at the same ones.

    Only what the decisions change is said: what they add to the factory's keys and take from them is added to
    the keys of the file and taken from those, whatever these are.
    """
    wished, left = reached_there(keymap, had, with_modes)
    plain, always = reached_there(_undecided(keymap), had, with_modes)
    deltas: dict[str, dict[str, Delta]] = {}
    keys: dict[str, dict[str, tuple[Run, ...]]] = {}
    for id_, by_mode in wished.items():
        found = _deltas(plain.get(id_, {}), by_mode)
        if not found:
            continue
        deltas[id_] = found
        now = had.get(id_, {})
        if not any(by_mode.values()):
            # That it has no key is said of whatever key it has over there.
            deltas[id_] = _deltas(now, {})
            keys[id_] = dict.fromkeys(now, ())
            continue
        as_usual = alike(plain.get(id_, {}), now)
        if as_usual:
            keys[id_] = dict(by_mode)
        else:
            keys[id_] = applied(now, found)
    return ToBe(keys, deltas, tuple(each for each in left if each not in always))


def reached_there(
    keymap: Keymap, had: ByMode, with_modes: bool
) -> tuple[dict[str, dict[str, tuple[Run, ...]]], tuple[NotAllowed, ...]]:
    """The keys by command and mode to which the work list leads in an application that has the keys ``had``, and
    what it cannot do."""
    now = {id_: frozenset(r for runs in modes.values() for r in runs) for id_, modes in had.items()}
    worked = for_app(keymap, now)
    known = {command.id for command in keymap.app.catalogue.commands}
    found = {id_: runs for id_, runs in worked.reached.items() if id_ in known}
    return _by_mode(keymap, found, had, with_modes), worked.left


def _undecided(keymap: Keymap) -> Keymap:
    """The keys as they would be without any decision."""
    return Keymap(replace(keymap.stack, schemes=()), keymap.keyboard)


def _deltas(
    usual: Mapping[str, tuple[Run, ...]], wished: Mapping[str, tuple[Run, ...]]
) -> dict[str, Delta]:
    found = {}
    for mode in dict.fromkeys((*usual, *wished)):
        was, is_ = usual.get(mode, ()), wished.get(mode, ())
        delta = Delta(
            tuple(run for run in is_ if run not in was), tuple(run for run in was if run not in is_)
        )
        if delta != Delta():
            found[mode] = delta
    return found


def applied(
    now: Mapping[str, tuple[Run, ...]], deltas: Mapping[str, Delta]
) -> dict[str, tuple[Run, ...]]:
    """The keys by mode with what decisions add and without what they take away.

    Where a key takes another's place, it does so in the modes that have the other.
    """
    found = dict(now)
    for mode, delta in deltas.items():
        here = now.get(mode, ())
        gone = set(delta.removed)
        elsewhere = any(gone & set(keys) for keys in now.values())
        if gone and elsewhere and not gone & set(here):
            continue
        kept = tuple(run for run in here if run not in gone)
        found[mode] = (*kept, *(run for run in delta.added if run not in kept))
    return found


def taken_back(had: ByMode, deltas: Deltas) -> dict[str, dict[str, tuple[Run, ...]]]:
    """The keys by command and mode without what an earlier delivery added, and with what it took away."""
    found = {id_: dict(by_mode) for id_, by_mode in had.items()}
    for id_, by_mode in deltas.items():
        back = {mode: Delta(each.removed, each.added) for mode, each in by_mode.items()}
        found[id_] = applied(found.get(id_, {}), back)
    return found


def wanted_by_mode(keymap: Keymap, with_modes: bool) -> dict[str, dict[str, tuple[Run, ...]]]:
    """The keys that each command is to have, so that presses do over there what they do here.

    Without modes, all keys of a command stand in the mode ``NO_MODE``.
    """
    return _by_mode(keymap, wanted_of(keymap), {}, with_modes)


def _by_mode(
    keymap: Keymap, plain: Mapping[str, frozenset[Run]], had: ByMode, with_modes: bool
) -> dict[str, dict[str, tuple[Run, ...]]]:
    """These keys of commands by mode: where they count here, or else where the command had them."""
    press_of = keymap.keyboard.press_of
    if not with_modes:
        return {id_: {NO_MODE: ordered(keymap, id_, runs)} for id_, runs in plain.items()}
    found: dict[str, dict[str, tuple[Run, ...]]] = {}
    for id_, runs in plain.items():
        by_mode: dict[str, dict[Run, None]] = {}
        live = live_modes(keymap, id_)
        for mode, runs_there in had.get(id_, {}).items():
            for run in runs_there:
                live.setdefault(press_of(run), (mode,))
        known = keymap.app.catalogue.by_id.get(id_)
        for run in ordered(keymap, id_, runs):
            # A key by which a mute is carried out is no holding: it counts where its command does.
            press = press_of(run)
            named = named_modes(keymap, press, live.get(press, ()))
            modes = named or (known.usable_in if known else (ROOT,))
            for mode in modes:
                by_mode.setdefault(mode, {})[run] = None
        found[id_] = {mode: tuple(keys) for mode, keys in by_mode.items()}
    return found


def ordered(keymap: Keymap, command: str, runs: Iterable[Run]) -> tuple[Run, ...]:
    """Triggers of a command, those of nearer layers first."""
    first = [claim.trigger for claim in keymap.by_command.get(command, ())]
    runs = set(runs)
    known = [run for run in dict.fromkeys(first) if run in runs]
    return (*known, *sorted(runs - set(known), key=str))


def factory_by_mode(app: App, with_modes: bool) -> dict[str, dict[str, tuple[Run, ...]]]:
    """The keys that each command has where the file says nothing of it."""
    return {
        command.id: {
            mode: command.keys
            for mode in (command.usable_in if with_modes else (NO_MODE,))
            if command.keys
        }
        for command in app.catalogue.commands
    }


def only_changes(wanted: ByMode, factory: ByMode) -> dict[str, dict[str, tuple[Run, ...]] | None]:
    """What a file says that holds the changes only: None where it is to say nothing of a command.

    A mode in which the factory has keys and none are wanted stands there without keys.
    """
    found: dict[str, dict[str, tuple[Run, ...]] | None] = {}
    for id_, by_mode in wanted.items():
        usual = factory.get(id_, {})
        if alike(by_mode, usual):
            found[id_] = None
            continue
        found[id_] = {mode: () for mode in usual} | dict(by_mode)
    return found


class Switch(Struct, frozen=True, kw_only=True):
    """A key that a command has from the factory in a mode, and whether it is to be switched off there."""

    command: str
    mode: str
    run: Run
    is_off: bool


def only_keys(
    wanted: ByMode, factory: ByMode, there: ByMode
) -> tuple[dict[str, dict[str, tuple[Run, ...]]], list[Switch]]:
    """What a file says that holds only the keys that differ: those that commands have beside the factory's (and those
    that stand ``there`` all the same), and what becomes of the factory's.

    A key that another command of ``wanted`` gets in that mode is not switched off: it is given away.
    """
    more: dict[str, dict[str, tuple[Run, ...]]] = {}
    given: set[tuple[str, Run]] = set()
    for id_, by_mode in wanted.items():
        more[id_] = {}
        for mode, runs in by_mode.items():
            left = {*factory.get(id_, {}).get(mode, ())} - {*there.get(id_, {}).get(mode, ())}
            more[id_][mode] = tuple(run for run in runs if run not in left)
            given.update((mode, run) for run in more[id_][mode])
    switches = [
        Switch(
            command=id_,
            mode=mode,
            run=run,
            is_off=run not in by_mode.get(mode, ()) and (mode, run) not in given,
        )
        for id_, by_mode in wanted.items()
        for mode, runs in factory.get(id_, {}).items()
        for run in runs
    ]
    return more, switches


def alike(one: Mapping[str, tuple[Run, ...]], other: Mapping[str, tuple[Run, ...]]) -> bool:
    """Whether two say the same keys in the same modes, in whatever order."""
    a, b = ({mode: frozenset(keys) for mode, keys in each.items() if keys} for each in (one, other))
    return a == b


def moved(before: ByMode, now: ByMode) -> list[Moved]:
    """The commands whose keys are not what they were, mode by mode."""
    return [
        Moved(command=id_, mode=mode, was=was, now=is_)
        for id_ in dict.fromkeys((*before, *now))
        for mode in dict.fromkeys((*before.get(id_, {}), *now.get(id_, {})))
        if frozenset(was := before.get(id_, {}).get(mode, ()))
        != frozenset(is_ := now.get(id_, {}).get(mode, ()))
    ]
