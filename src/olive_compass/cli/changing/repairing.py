"""``check --fix``: shows the safe repairs and makes them, all as one change."""

from olive_compass.cli import pick
from olive_compass.cli.changing import saying
from olive_compass.cli.changing.running import written_files
from olive_compass.cli.changing.saving import retry_on_conflict, save
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.viewing import views_of
from olive_compass.core.changes.change import Answers
from olive_compass.core.changes.repair import Repair, repair
from olive_compass.core.findings import Finding, all_findings
from olive_compass.core.findings.finding import View
from olive_compass.core.wording import counted
from olive_compass.desk.storage.records import FileChange
from olive_compass.errors import UserError


def repair_all(folder: str | None, app: str | None, sure: bool, context: Surroundings) -> int:
    """Runs ``check --fix``: status 0 where something was repaired or nothing was to be."""
    return retry_on_conflict(lambda: _repair_all(folder, app, sure, context), context)


def _repair_all(folder: str | None, app: str | None, sure: bool, context: Surroundings) -> int:
    desk = pick.open_desk(folder, context)
    files: list[FileChange] = []
    lines: list[str] = []
    for view in views_of(desk, pick.stacks(desk, app), desk.keyboard):
        found = [
            f for f in all_findings(view, desk.settings.severities) if f.fix and f.accepted is None
        ]
        change = repair(view, Repair(tuple(f.fix for f in found if f.fix), Answers(sure=True)))
        for question in change.questions:
            raise saying.unanswered(desk, view, question, "Look at it with: olive-compass check")
        lines += _lines(view, found)
        lines += [f"  {line}" for line in saying.plain_effects(view, change)]
        files += written_files(desk, change)
    if not files:
        context.say("There is nothing that can be repaired safely.")
        return 0
    context.say("\n".join(lines))
    if not sure and not (
        context.interactive and context.ask("Make these repairs? [y/N]").lower() in ("y", "yes")
    ):
        raise UserError("Nothing was changed.", hint="Use --yes to make the repairs.")
    save(desk, context, files, f"repaired {counted(len(files), 'scheme')} after a check")
    context.report("Done. To undo: olive-compass undo")
    return 0


def _lines(view: View, found: list[Finding]) -> list[str]:
    """Each finding that is repaired, and how."""
    lines = []
    for finding in found:
        if finding.fix:
            where = view.app.modes.phrase(view.app.modes.inside(finding.fix.modes))
            lines.append(f"{finding.says}\n  repair: it applies {where} ({finding.fix.scheme}).")
    return lines
