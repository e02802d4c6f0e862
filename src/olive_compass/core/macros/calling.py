"""Which macros a macro plays, and whether it would play itself."""

from collections.abc import Callable, Mapping

from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.macros.macro import Macro
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.structs import replace


def called_macros(
    macro: Macro, macros: Mapping[str, Macro], resolve: Callable[[str], tuple[str, ...]]
) -> tuple[str, ...]:
    """The way on which ``macro`` comes to play itself, by name or by key; empty: it does not.

    ``resolve`` gives the commands that a key can start in any mode.
    """

    def called(name: str) -> list[str]:
        names = []
        if name in macros:
            for step in macros[name].steps:
                if step.press:
                    ids = resolve(step.press)
                else:
                    ids = (step.command,)
                names += [replace(step, command=id_).calls for id_ in ids]
        return [each for each in names if each in macros]

    ways: list[tuple[str, ...]] = [(macro.name, each) for each in called(macro.name)]
    seen: set[str] = set()
    while ways:
        # The shortest way first: it is the one that explains most.
        way = ways.pop(0)
        if way[-1] == macro.name:
            return way
        if way[-1] not in seen:
            seen.add(way[-1])
            ways += [(*way, each) for each in called(way[-1])]
    return ()


def self_start(keymap: Keymap, macros: Mapping[str, Macro], macro: Macro) -> tuple[str, ...]:
    """The way on which ``macro``, as it is given, would come to play itself; empty: it does not."""
    among = {**macros, macro.name: macro}

    def started(press: str) -> tuple[str, ...]:
        try:
            run = read_trigger(press, keymap.app.rules.typed)
        except TriggerError:
            return ()
        outcomes = (keymap.decide(run, mode) for mode in keymap.app.modes.names)
        return tuple({claim.command: None for each in outcomes for claim in each.winners})

    return called_macros(macro, among, started)
