"""Claims, keys and commands as they are reported: by ``press``, ``find`` and all that shows a command with its keys."""

from olive_compass.core.apps.app import Command
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.holdings import Holding, holdings, letter_route
from olive_compass.core.schemes.places import place
from olive_compass.desk.desk import Desk
from olive_compass.desk.reported.report import Report
from olive_compass.desk.source_lines import file_and_line


class ClaimReport(Report, frozen=True, kw_only=True):
    """A claim on a press, and where it stands."""

    key: str
    command: str | None
    title: str | None
    mode: str
    layer: str
    scheme: str | None
    why: str
    file: str
    line: int


class HoldingReport(Report, frozen=True, kw_only=True):
    """A key of a command: where it is given, where it works, and what takes its place elsewhere."""

    key: str
    layer: str
    scheme: str | None
    modes: tuple[str, ...]
    works_in: tuple[str, ...]
    overridden_by: str | None
    why: str
    file: str
    line: int


class CommandReport(Report, frozen=True, kw_only=True):
    """A command with all that is known of it, and its keys."""

    app: str
    command: str
    title: str
    menu: tuple[str, ...]
    kind: str
    keyboard_route: str
    marks: list[str]
    modes: tuple[str, ...]
    does: str
    keys: list[HoldingReport]
    trays: list[str]
    shows: tuple[str, ...]
    #: The purpose, or the thing, by whose name it was found.
    purpose: str | None


def claim_report(desk: Desk, keymap: Keymap, claim: Claim) -> ClaimReport:
    """A claim on a press of this keymap, with the file and the line of it."""
    at = file_and_line(desk, keymap, place(claim))
    return ClaimReport(
        key=str(claim.trigger),
        command=claim.command or None,
        title=claim.wired or keymap.app.shown(claim.command) or None,
        mode=claim.mode,
        layer=claim.layer,
        scheme=claim.origin or None,
        why=claim.why,
        file=at.file,
        line=at.line,
    )


def holding_report(desk: Desk, keymap: Keymap, holding: Holding) -> HoldingReport:
    """A key of a command, by the first of the claims that give it."""
    first = claim_report(desk, keymap, holding.claims[0])
    over = None
    if hidden := holding.hidden_by:
        over = hidden.command or hidden.wired or "mute"
    return HoldingReport(
        key=first.key,
        layer=first.layer,
        scheme=first.scheme,
        modes=holding.modes,
        works_in=holding.live,
        overridden_by=over,
        why=first.why,
        file=first.file,
        line=first.line,
    )


def command_report(
    desk: Desk, keymap: Keymap, command: Command, purpose: str | None = None
) -> CommandReport:
    """A command with its keys; ``purpose`` is the name by which it was found."""
    held = holdings(keymap, command.id)
    return CommandReport(
        app=keymap.app.name,
        command=command.id,
        title=command.title,
        menu=command.menu,
        kind=command.kind,
        keyboard_route=letter_route(keymap, command.id),
        marks=command.marks.words,
        modes=command.modes,
        does=command.does,
        keys=[holding_report(desk, keymap, each) for each in held],
        trays=[tray.name for tray in keymap.app.trays_with(command.id)],
        shows=keymap.app.stands_for(command.id),
        purpose=purpose,
    )
