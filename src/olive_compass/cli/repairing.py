"""``check --fix``: shows the safe repairs and makes them, all as one change."""

from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.saving import save, until_saved
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.findings import View, all_findings
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.editing import set_modes
from olive_compass.desk.history import FileChange
from olive_compass.errors import Refused


def repair(args: Any, around: Surroundings) -> int:
    """Runs ``check --fix``: status 0 where something was repaired or nothing was to be."""
    return until_saved(lambda: _repair(args, around))


def _repair(args: Any, around: Surroundings) -> int:
    at = pick.desk(args, around)
    changes: list[FileChange] = []
    lines: list[str] = []
    for stack in pick.stacks(at, args.app):
        view = View(stack, at.keyboard, at.settings.weights, at.macros(stack.app.name))
        edited: dict[str, Scheme] = {}
        for finding in all_findings(view, at.settings.severities):
            fix = finding.fix
            if fix is None or finding.accepted is not None:
                continue
            scheme = edited.get(fix.scheme) or at.scheme(stack.app, fix.scheme)
            trigger = read_trigger(fix.key, stack.app.rules.typed)
            edited[fix.scheme] = set_modes(scheme, fix.command, fix.modes, trigger)
            where = stack.app.modes.phrase(stack.app.modes.inside(fix.modes))
            lines.append(f"{finding.says}\n  repair: it counts {where} ({fix.scheme}).")
        new = stack
        for name, scheme in edited.items():
            changes.append(at.save_scheme(at.scheme(stack.app, name), scheme))
            new = new.with_scheme(scheme)
        if edited:
            old_map, new_map = Keymap(stack, at.keyboard), Keymap(new, at.keyboard)
            triggers = dict.fromkeys(claim.trigger for claim in old_map.claims if claim.origin)
            lines += [f"  {line}" for line in words.shifts(old_map, new_map, triggers)]
    if not changes:
        around.say("There is nothing that can be repaired safely.")
        return 0
    around.say("\n".join(lines))
    if not args.yes and not (
        around.interactive and around.ask("Make these repairs? [y/N]").lower() in ("y", "yes")
    ):
        raise Refused("Nothing was changed.", hint="Say --yes to make the repairs.")
    save(at, around, changes, f"repaired {len(changes)} schemes after a check")
    around.report("Done. To take it back: olive-compass undo")
    return 0
