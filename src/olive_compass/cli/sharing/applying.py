"""``keyset apply``: a set taken on by every application."""

from collections import Counter
from collections.abc import Iterator, Mapping
from functools import partial

from olive_compass.cli import pick
from olive_compass.cli.changing import saying
from olive_compass.cli.changing.saving import confirm, save
from olive_compass.cli.options import WriteOptions
from olive_compass.cli.sharing.keysets import keyset_named
from olive_compass.cli.sharing.obstacles import obstacle_text
from olive_compass.cli.sharing.using import practice_of, same_text
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.layout import BOLD, DIM, OFF
from olive_compass.cli.terminal.tables import print_table
from olive_compass.core.apps.app import Command
from olive_compass.core.apps.modes import joined
from olive_compass.core.changes.apply_set import ApplySet
from olive_compass.core.changes.apply_set import apply_set as action
from olive_compass.core.changes.change import Answers, Change, after_edits
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.layers import PERSONAL
from olive_compass.core.sharing.keysets import KeySet
from olive_compass.core.sharing.planned import ABSENT, ADOPTED, ALREADY, BLOCKED, Planned, PlanState
from olive_compass.core.sharing.sameness import DAYS, Practice, habits
from olive_compass.core.wording import counted
from olive_compass.desk.desk import Desk
from olive_compass.desk.reported.plans import plan_report
from olive_compass.desk.reported.sameness import sameness_report
from olive_compass.desk.views import app_view
from olive_compass.desk.writing.plans import Recipient, files_of_plans, keymaps_of_plans, planned_of
from olive_compass.errors import UserError


class KeysetApplyOptions(WriteOptions, kw_only=True):
    """The options of ``keyset apply``."""

    name: str | None
    apps: list[str] | None
    scheme: str | None
    all: bool
    yes: bool


def apply_set(args: KeysetApplyOptions, context: Surroundings) -> int:
    """Runs ``keyset apply``."""
    desk = pick.desk(args, context)
    keyset = keyset_named(desk, args.name)
    plans = _plans(desk, keyset, args.apps, args.scheme)
    _show_plans(args, context, desk, keyset, plans)
    # The plan is shown before it is asked about: the answer is given to what was read.
    files = files_of_plans(desk, plans)
    if not files:
        _report(args.json, context, "All of them have these keys already; nothing was changed.")
        return 0
    if args.dry_run:
        if not args.json:
            context.say("Dry run: nothing was written.")
        return 0
    kept = "The set was not applied; nothing was changed."
    confirm(args.yes, context, "Applying a set", "Do it?", kept)
    what = _what_was_done(keyset, plans)
    save(desk, context, files, what)
    _report(args.json, context, f"{what} ({', '.join(change.path for change in files)}).")
    if desk.tally_names():
        for sentence in _savings(desk, plans):
            _report(args.json, context, sentence)
    _report(args.json, context, "To undo: olive-compass undo")
    return 0


def _show_plans(
    args: KeysetApplyOptions,
    context: Surroundings,
    desk: Desk,
    keyset: KeySet,
    plans: list[tuple[Recipient, Change]],
) -> None:
    """Shows what the set would change in each application, or gives it as JSON."""
    done = practice_of(desk, context)
    if args.json:
        now, then = keymaps_of_plans(desk, plans)
        context.json(
            {
                "name": keyset.name,
                "apps": [
                    plan_report(target, change, done, partial(obstacle_text, desk, target.view))
                    for target, change in plans
                ],
                "sameness": sameness_report(desk.purposes, now, done, then),
            }
        )
    elif not context.quiet:
        for each in plans:
            _print_plan(context, desk, *each, args.all, done)
        _say_sameness(context, desk, plans, done)


def _what_was_done(keyset: KeySet, plans: list[tuple[Recipient, Change]]) -> str:
    adopted = sum(p.what == ADOPTED for _, c in plans for p in planned_of(c))
    apps = joined(t.view.app.title for t, c in plans if not c.already)
    return f"Key set {keyset.name}: assigned {counted(adopted, 'key')} in {apps}"


def _say_sameness(
    context: Surroundings, desk: Desk, plans: list[tuple[Recipient, Change]], done: Practice
) -> None:
    """How many presses do the same in all applications before and after, by what was counted."""
    before, after = keymaps_of_plans(desk, plans)
    if text := same_text(desk.purposes, before, done, after):
        context.say(text)


def _savings(desk: Desk, plans: list[tuple[Recipient, Change]]) -> Iterator[str]:
    """What the new keys are worth a week, by what was counted."""
    from olive_compass.cli.looking.tallies import savings_text

    for target, change in plans:
        if text := savings_text(desk, target.view, after_edits(target.view, change.edits)):
            yield text


def _plans(
    desk: Desk, keyset: KeySet, apps: list[str] | None, scheme: str | None
) -> list[tuple[Recipient, Change]]:
    """What applying the set would change, application by application; all of them if none is named.

    Raises ``UserError`` where a person must decide first.
    """
    if apps:
        names = [desk.app_name(name) for name in apps]
    else:
        names = desk.app_names()
    if not names:
        desk.app_name("")
    plans = []
    for name in names:
        target = _target(desk, name, scheme)
        # That all of it is meant is asked once for all applications, below; only what a person must decide
        # stops it here.
        answers = Answers(sure=True)
        change = action(
            target.view,
            ApplySet(keyset=keyset, purposes=desk.purposes, scheme=target.scheme, answers=answers),
        )
        for question in change.questions:
            raise saying.unanswered(
                desk, target.view, question, "Look at it with: olive-compass check"
            )
        plans.append((target, change))
    return plans


def _report(as_json: bool, context: Surroundings, text: str) -> None:
    """Says what was done; with ``--json`` the document has said it."""
    if not as_json:
        context.report(text)


def _target(desk: Desk, name: str, named: str | None) -> Recipient:
    """The scheme of an application that a set goes into: the named one, new where there is none."""
    view = app_view(desk, name)
    stack = view.stack
    if named is None:
        personal = [scheme for scheme in stack.schemes if scheme.layer == PERSONAL]
        if personal:
            return Recipient(view, personal[0], False)
        named = "mine"
    if named in desk.scheme_names(name):
        scheme = desk.scheme(stack.app, named)
        if scheme.name not in stack.scheme_names:
            raise UserError(
                f"The scheme {name}/{named} is not active.",
                hint=f"Make it active first: olive-compass scheme use {name}/{named}",
            )
        return Recipient(view, scheme, False)
    based_on = f"factory {stack.app.version}".strip()
    scheme = Scheme(app=name, name=named, layer=PERSONAL, based_on=based_on)
    view.stack = stack.going_by(scheme)
    return Recipient(view, scheme, True)


def _print_plan(
    context: Surroundings,
    desk: Desk,
    target: Recipient,
    change: Change,
    whole: bool,
    done: Practice,
) -> None:
    planned = planned_of(change)
    _print_summary(context, target, Counter(each.what for each in planned))
    shown = [p for p in planned if whole or p.what in (ADOPTED, BLOCKED)]
    costs = [habits(target.view.keymap, p, done) for p in shown]
    rows = [_row(desk, target, p, cost) for p, cost in zip(shown, costs, strict=True)]
    if rows:
        print_table(context, ("", "purpose", "command", "key", "what else"), rows)
    if sum(costs):
        context.say(
            f"  What it takes from others was pressed {counted(sum(costs), 'time')} in the {DAYS} days to "
            f"{done.last}: habits to change."
        )


def _print_summary(
    context: Surroundings, target: Recipient, counts: Mapping[PlanState, int]
) -> None:
    """The application, the scheme that would change, and how many purposes are adopted, blocked and so on."""
    app = target.view.app
    each = [(counts.get(what, 0), what) for what in (ADOPTED, ALREADY, BLOCKED, ABSENT)]
    summary = ", ".join(f"{count} {what}" for count, what in each if count)
    scheme = f"{app.name}/{target.scheme.name}{' (new)' if target.is_new else ''}"
    context.say(f"{BOLD}{app.title}{OFF} {DIM}into {scheme}{OFF}: {summary}")


def _loss_text(loser: Command, left: tuple[Run, ...]) -> str:
    """That a command loses a key, and how it can still be reached."""
    keeps = joined(map(str, left)) or "nothing"
    if loser.route and not left:
        keeps = f"the menu {loser.route}"
    return f"{loser.title} loses it and keeps {keeps}"


def _row(desk: Desk, target: Recipient, p: Planned, cost: int) -> tuple[str, ...]:
    known = target.view.app.catalogue.by_id
    purpose = desk.purposes.by_id.get(p.purpose)
    notes = [obstacle_text(desk, target.view, each) for each in p.why]
    notes += [f"{p.trigger} had a meaning that no list shows: {wired}" for wired in p.unlisted]
    notes += [_loss_text(known[loss.command], loss.left) for loss in p.lost]
    if p.dropped:
        notes.append(f"gives up {joined(map(str, p.dropped))}")
    if cost:
        notes.append(f"a habit: pressed {counted(cost, 'time')} in {DAYS} days")
    title = ""
    if p.command in known:
        title = known[p.command].title
    return (
        f"  {p.what}",
        purpose.title if purpose else p.purpose,
        title,
        str(p.trigger) if p.trigger else "",
        "; ".join(notes),
    )
