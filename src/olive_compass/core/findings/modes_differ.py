"""The same command on different keys in sibling modes."""

from collections.abc import Iterable, Iterator
from itertools import combinations
from typing import Final

from olive_compass.core.actions import Action, AssignKey, ShowModes
from olive_compass.core.findings.advice import accepting
from olive_compass.core.findings.finding import Finding, Place, View
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import Assignment, Scheme
from olive_compass.core.schemes.verdicts import verdict

ID = "modes-differ"
SEVERITY: Final = "note"
SAYS = "A command has different keys in two neighbouring modes, so that you must learn both."
ADVICE = "Assign the same key in both, or let one of them apply in both: {modes}."
ACTIONS = {"modes": ShowModes(also=True)}


def _by_mode(assignments: Iterable[Assignment]) -> dict[str, tuple[Run, ...]]:
    """The keys of a command in each mode."""
    found: dict[str, tuple[Run, ...]] = {}
    for each in assignments:
        for mode in each.modes:
            found[mode] = (*found.get(mode, ()), *each.keys)
    return found


def find(view: View) -> Iterator[Finding]:
    parents = view.app.modes.parents
    for scheme in view.stack.schemes:
        for command, assignments in scheme.assign.items():
            if len(assignments) < 2 or command not in view.app.catalogue.by_id:
                continue
            by_mode = _by_mode(assignments)
            for one, other in combinations([mode for mode in by_mode if mode in parents], 2):
                # In modes that do not lie side by side the hand expects something else anyway.
                if parents[one] != parents[other] or _alike(view, command, by_mode, one, other):
                    continue
                mine, theirs = by_mode[one][0], by_mode[other][0]
                yield Finding(
                    id=ID,
                    severity=SEVERITY,
                    app=view.app.name,
                    says=f"“{view.title(command)}” is on {mine} in {one} and on {theirs} in {other}.",
                    advice=_advice(
                        view, scheme, command, {one: by_mode[one], other: by_mode[other]}
                    ),
                    places=(Place(scheme.name, "assign", command),),
                    commands=(command,),
                    keys=(str(mine), str(theirs)),
                    modes=(one, other),
                )


def _alike(
    view: View, command: str, by_mode: dict[str, tuple[Run, ...]], one: str, other: str
) -> bool:
    """Whether a key of the one mode starts the command in the other as well, by any layer."""
    return any(
        any(claim.command == command for claim in view.keymap.decide(run, mode).winners)
        for mode, runs in ((other, by_mode[one]), (one, by_mode[other]))
        for run in runs
    )


def _advice(
    view: View, scheme: Scheme, command: str, by_mode: dict[str, tuple[Run, ...]]
) -> Action:
    """To give the key of the one mode in the other as well, where nothing stands against it."""
    known = view.app.catalogue.by_id[command]
    one, other = by_mode
    for mode, runs in ((other, by_mode[one]), (one, by_mode[other])):
        for run in runs:
            if verdict(view, known, run, (mode,), scheme).clean:
                return AssignKey(
                    app=view.app.name,
                    command=command,
                    key=str(run),
                    modes=(mode,),
                    scheme=scheme.name,
                )
    return accepting(view, ID, command)
