"""``check --fix``: shows the safe repairs and makes them, all as one change."""

from olive_compass.cli import pick, saying
from olive_compass.cli.running import written_files
from olive_compass.cli.saving import save, until_saved
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.viewing import views_of
from olive_compass.core.changes.change import Answers
from olive_compass.core.changes.repair import Repair, repair
from olive_compass.core.findings import Finding, all_findings
from olive_compass.core.findings.finding import View
from olive_compass.core.wording import counted
from olive_compass.desk.records import FileChange
from olive_compass.errors import Refused


def repair_all(desk: str | None, app: str | None, sure: bool, around: Surroundings) -> int:
    """Runs ``check --fix``: status 0 where something was repaired or nothing was to be."""
    return until_saved(lambda: _repair_all(desk, app, sure, around), around)


def _repair_all(desk: str | None, app: str | None, sure: bool, around: Surroundings) -> int:
    at = pick.open_desk(desk, around)
    files: list[FileChange] = []
    lines: list[str] = []
    for view in views_of(at, pick.stacks(at, app), at.keyboard):
        found = [
            f for f in all_findings(view, at.settings.severities) if f.fix and f.accepted is None
        ]
        change = repair(view, Repair(tuple(f.fix for f in found if f.fix), Answers(sure=True)))
        for question in change.questions:
            raise saying.unanswered(at, view, question, "Look at it with: olive-compass check")
        lines += _lines(view, found)
        lines += [f"  {line}" for line in saying.plain_effects(view, change)]
        files += written_files(at, change)
    if not files:
        around.say("There is nothing that can be repaired safely.")
        return 0
    around.say("\n".join(lines))
    if not sure and not (
        around.interactive and around.ask("Make these repairs? [y/N]").lower() in ("y", "yes")
    ):
        raise Refused("Nothing was changed.", hint="Use --yes to make the repairs.")
    save(at, around, files, f"repaired {counted(len(files), 'scheme')} after a check")
    around.report("Done. To undo: olive-compass undo")
    return 0


def _lines(view: View, found: list[Finding]) -> list[str]:
    """Each finding that is repaired, and how."""
    lines = []
    for finding in found:
        if finding.fix:
            where = view.app.modes.phrase(view.app.modes.inside(finding.fix.modes))
            lines.append(f"{finding.says}\n  repair: it applies {where} ({finding.fix.scheme}).")
    return lines
