"""``check --fix``: shows the safe repairs and makes them, all as one change."""

from typing import TYPE_CHECKING, Any

from olive_compass.cli import pick
from olive_compass.cli.changing import saying
from olive_compass.cli.changing.saving import retry_on_conflict, save
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.action_lines import line_of
from olive_compass.core.changes.change import Answers
from olive_compass.core.changes.repair import Repair, repair
from olive_compass.core.findings import Finding, all_findings
from olive_compass.core.findings.finding import View
from olive_compass.core.wording import counted
from olive_compass.desk.checking import finding_report
from olive_compass.desk.reported.finding import FindingReport
from olive_compass.desk.storage.records import FileChange
from olive_compass.desk.views import views_of
from olive_compass.desk.writing.changed_files import written_files
from olive_compass.errors import UserError

if TYPE_CHECKING:
    from typing import Protocol

    class Repairs(Protocol):
        """What of the options of ``check`` is for its repairs."""

        desk: str | None
        app: str | None
        form: str
        yes: bool


def repair_all(args: "Repairs", context: Surroundings) -> int:
    """Runs ``check --fix``: status 0 where something was repaired or nothing was to be."""
    return retry_on_conflict(lambda: _repair_all(args, context), context)


def _repair_all(args: "Repairs", context: Surroundings) -> int:
    desk = pick.desk(args, context)
    files: list[FileChange] = []
    lines: list[str] = []
    repaired: list[FindingReport] = []
    for view in views_of(desk, pick.stacks(desk, args.app), desk.keyboard):
        found = [f for f in all_findings(view, desk.settings.severities) if _is_to_repair(f)]
        change = repair(view, Repair(tuple(f.fix for f in found if f.fix), Answers(sure=True)))
        for question in change.questions:
            raise saying.unanswered(desk, view, question, "Look at it with: olive-compass check")
        lines += _lines(view, found)
        lines += [f"  {line}" for line in saying.plain_effects(view, change)]
        files += written_files(desk, change)
        repaired += [finding_report(desk, view, finding, line_of) for finding in found]
    what = f"repaired {counted(len(files), 'scheme')} after a check"
    number = None
    as_text = args.form != "json"
    if files:
        if as_text:
            context.say("\n".join(lines))
        _agree(args.yes, context)
        number = save(desk, context, files, what)
    if not as_text:
        context.json(_document(what, number, files, repaired))
    elif files:
        context.report("Done. To undo: olive-compass undo")
    else:
        context.say("There is nothing that can be repaired safely.")
    return 0


def _is_to_repair(finding: Finding) -> bool:
    """Whether it can be repaired without asking, and nobody has accepted it as it is."""
    return finding.fix is not None and finding.accepted is None


def _document(
    what: str, number: int | None, files: "list[FileChange]", repaired: list[FindingReport]
) -> dict[str, Any]:
    """The repair as JSON."""
    return {
        "what": what,
        "changed": bool(files),
        "dry-run": False,
        "change": number,
        "files": [each.path for each in files],
        "findings": repaired,
    }


def _agree(sure: bool, context: Surroundings) -> None:
    """Asks whether the repairs are to be made. Raises ``UserError`` where they are not."""
    if sure:
        return
    if context.interactive and context.ask("Make these repairs? [y/N]").lower() in ("y", "yes"):
        return
    raise UserError("Nothing was changed.", hint="Use --yes to make the repairs.")


def _lines(view: View, found: list[Finding]) -> list[str]:
    """Each finding that is repaired, and how."""
    lines = []
    for finding in found:
        if finding.fix:
            where = view.app.modes.phrase(view.app.modes.inside(finding.fix.modes))
            lines.append(f"{finding.says}\n  repair: it applies {where} ({finding.fix.scheme}).")
    return lines
