"""What is said of a key that was assigned."""

from olive_compass.cli.changing import objections
from olive_compass.cli.changing.running import after, effects
from olive_compass.core.apps.modes import joined
from olive_compass.core.apps.rules import DUPLICATES_SAID
from olive_compass.core.changes.assign import NO_SHARING, SELF_START, Assign
from olive_compass.core.changes.change import REPLACE, Change
from olive_compass.core.changes.view import AppView
from olive_compass.core.schemes.holdings import given_up
from olive_compass.core.schemes.objections import keyless, lacking, typing, unlisted
from olive_compass.core.schemes.verdicts import Verdict
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.paths import app_path, macro_path
from olive_compass.desk.source_lines import file_and_line_text
from olive_compass.errors import UserError


def what_was_assigned(view: AppView, request: Assign) -> str:
    where = view.app.modes.phrase(view.app.modes.inside(request.modes))
    return f"{view.app.title}: {request.command.title} got {request.trigger} {where}"


def report(desk: Desk, view: AppView, change: Change) -> list[str]:
    """Sentences on the other commands that the assignment changes, and on the key itself."""
    (found,) = effects(change, Verdict)
    keymap = after(view, change)
    most = counted(view.app.rules.most_keys, "key")
    lines = [
        f"{each.scheme.name} left it without a key on purpose: {each.why or 'no reason given'}."
        for each in found.evidence(keyless.KIND)
    ]
    gone = given_up(view.keymap, keymap, found.command.id)
    limit = ""
    if view.app.rules.most_keys:
        limit = f", because {view.app.title} allows {most} per command"
    if gone:
        lines.append(f"{found.command.title} loses {joined(map(str, gone))}{limit}.")
    known = view.app.catalogue.by_id
    lines += [
        objections.loss_text(view, keymap, loss) for loss in found.lost if loss.command in known
    ]
    lines += [
        f"{found.trigger} no longer {holder.claim.wired}; the list of {view.app.title} does not show that "
        f"({file_and_line_text(desk, view.keymap, holder.claim)})."
        for holder in found.evidence(unlisted.KIND)
    ]
    for each in found.objections:
        if each.kind in (lacking.KIND, typing.KIND):
            lines.append(f"{objections.objection_text(desk, view, found, each)}.")
    return lines + objections.said_lines(desk, view, found)


def refused(desk: Desk, view: AppView, request: Assign, change: Change) -> UserError | None:
    refusal = change.refusals[0]
    app = view.app
    if refusal.what == NO_SHARING:
        return UserError(
            f"{app.title} does not share keys: {DUPLICATES_SAID[app.rules.duplicates]}.",
            file=app_path(app.name),
            hint=f"The rule is duplicates. Use --if-taken {REPLACE}.",
        )
    if refusal.what == SELF_START:
        way: tuple[str, ...] = ()
        if isinstance(refusal.about, tuple):
            way = refusal.about
        macros = desk.macros(app.name)
        titles = " > ".join(macros[name].title for name in way)
        return UserError(
            f"{request.command.title} would start itself: {titles}; nothing was changed.",
            file=macro_path(app.name, request.command.id.removeprefix("macro.")),
        )
    return None
