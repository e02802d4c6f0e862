"""``assign``: puts a key on a command, and says first what that changes."""

import argparse
from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.assigning import Plan, everything, report
from olive_compass.cli.impact import refuse_broken_guards
from olive_compass.cli.parsing import app_argument, command_argument, dry_run_option, scheme_option
from olive_compass.cli.saving import save, until_saved
from olive_compass.cli.surroundings import BOLD, OFF, Surroundings
from olive_compass.core.apps.modes import joined
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.consequences import Holder, holders, losses
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.guarding import firm_claims, not_assignable
from olive_compass.core.schemes.layers import BUILT_IN, SYSTEM
from olive_compass.desk.desk import Desk, app_path
from olive_compass.errors import Refused

GROUP = "assign"
ORDER = 10
SUMMARY = "Put a key on a command; says first who holds the key now"
EXAMPLES = """olive-compass assign quillmap "Smooth contour" Alt+M --mode draw --why "M: next to N"
olive-compass assign quillmap lines.split "S P" --if-taken replace
olive-compass assign quillmap "Edit > Lines > Split" F6 --dry-run --explain"""


def add_arguments(parser: argparse.ArgumentParser) -> None:
    app_argument(parser)
    command_argument(
        parser,
        "command",
        metavar="COMMAND",
        help="id, title, menu path, or a fragment that fits one only",
    )
    parser.add_argument("key", metavar="KEY", help="a stroke, a run or a swipe, in any spelling")
    parser.add_argument(
        "--mode",
        action="append",
        metavar="MODE",
        help="count in this mode only (where the command can be used)",
    )
    parser.add_argument("--why", default="", metavar="TEXT", help="the reason, kept in the scheme")
    parser.add_argument(
        "--if-taken",
        choices=("replace", "share", "stop"),
        help="the answer where the key is taken (asked at a terminal); share only "
        "where the application offers a choice",
    )
    parser.add_argument(
        "--despite-guard", action="store_true", help="change a guarded key all the same"
    )
    parser.add_argument(
        "--explain",
        action="store_true",
        help="say what changes in every mode, and in the other applications",
    )
    scheme_option(parser)
    dry_run_option(parser)


def run(args: Any, around: Surroundings) -> int:
    return until_saved(lambda: _assign(args, around))


def _assign(args: Any, around: Surroundings) -> int:
    plan = Plan(args, around)
    _refuse_what_cannot_be(plan, args)
    held = holders(plan.before, plan.trigger, plan.modes, plan.command.id)
    real = [holder for holder in held if holder.claim.layer != BUILT_IN]
    if not held and not args.why and _has_already(plan):
        around.report(
            f"{plan.command.title} already has {plan.trigger} {plan.where}; nothing was changed."
        )
        return 0
    share = args.if_taken == "share"
    if real and args.if_taken not in ("replace", "share"):
        _say_who_holds(plan, real, around)
        args.if_taken = _answer(plan, args, around)
        if args.if_taken is None:
            return _assign(args, around)
        share = args.if_taken == "share"
    if share and plan.app.rules.duplicates != "choice":
        raise Refused(
            f"{plan.app.title} does not share keys: a key given twice is {plan.app.rules.duplicates}.",
            file=app_path(plan.app.name),
            hint="The rule is duplicates. Say --if-taken replace.",
        )
    scheme, after = plan.edited(share)
    if plan.command.kind == "macro":
        _refuse_self_start(plan, after)
    lines = report(plan, after, held)
    if args.explain:
        lines += everything(plan, after)
    if args.dry_run:
        around.say(f"{BOLD}Would be done:{OFF} " + "\n".join(lines) + "\nNothing was written.")
        return 0
    change = plan.at.save_scheme(plan.scheme, scheme)
    what = f"{plan.app.title}: {plan.command.title} got {plan.trigger} {plan.where}"
    save(plan.at, around, [change], what, args.why)
    line = Desk(plan.at.root).line(change.path, "assign", plan.command.id)
    around.report(f"{lines[0][:-1]} ({change.path}:{line}).")
    for text in lines[1:]:
        around.report(text)
    around.report("To take it back: olive-compass undo")
    return 0


def _refuse_what_cannot_be(plan: Plan, args: Any) -> None:
    """Raises ``Refused`` where a firm layer, a rule or a guard stands in the way."""
    title = plan.app.title
    for claim in firm_claims(plan.before, plan.trigger):
        who = "The operating system" if claim.layer == SYSTEM else title
        raise Refused(
            f"{who} keeps {plan.trigger} for itself ({claim.wired}); nothing was changed.",
            file=words.where(plan.at, plan.before, claim),
        )
    if why := not_assignable(plan.app.rules, plan.command):
        raise Refused(f"{plan.command.title} can have no key: {why}; nothing was changed.")
    most = plan.app.rules.most_keys
    # Keys of lower layers make room; those of this scheme and nearer ones do not.
    names = [scheme.name for scheme in plan.stack.schemes]
    nearer = (
        plan.stack.schemes[: names.index(plan.scheme.name)] if plan.scheme.name in names else ()
    )
    have = {
        run: scheme.name
        for scheme in (*nearer, plan.scheme)
        for each in scheme.assign.get(plan.command.id, ())
        for run in each.keys
        if run != plan.trigger
    }
    if most and len(have) >= most:
        keys = joined(f"{run} ({scheme})" for run, scheme in have.items())
        raise Refused(
            f"{title} lets a command have {most} key{'s' if most > 1 else ''}, and "
            f"{plan.command.title} has {keys}; nothing was changed.",
            file=app_path(plan.app.name),
            hint=f"Take one first: olive-compass clear {plan.app.name} '{next(iter(have))}'",
        )
    refuse_broken_guards(args, plan.at, plan.scheme, plan.edited(share=False)[0])


def _refuse_self_start(plan: Plan, after: Keymap) -> None:
    """Raises ``Refused`` where the key would let a macro start itself."""
    from olive_compass.cli.macros.common import refuse_self_call

    macros = plan.at.macros(plan.app.name)
    macro = macros.get(plan.command.id.removeprefix("macro."))
    if macro is not None:
        refuse_self_call(plan.at, after, macro)


def _has_already(plan: Plan) -> bool:
    outcomes = [plan.before.decide(plan.trigger, mode) for mode in plan.inside]
    return all(
        any(claim.command == plan.command.id for claim in outcome.winners) for outcome in outcomes
    )


def _say_who_holds(plan: Plan, held: list[Holder], around: Surroundings) -> None:
    _, after = plan.edited(share=False)
    for holder in held:
        claim = holder.claim
        if not claim.mutes:
            title = words.meaning(plan.before, claim.does)
            id_ = f" ({claim.command})" if claim.command else ""
            name = f"{BOLD}{title}{OFF}{id_} has it"
        else:
            name = "it is muted" + (f" ({claim.why})" if claim.why else "")
        around.say(
            f"{plan.trigger} is taken {plan.app.modes.phrase(holder.modes)}: {name}; "
            f"{words.source(claim)}, {words.where(plan.at, plan.before, claim)}."
        )
    for loss in losses(plan.before, after, plan.trigger):
        name = words.title(after, loss.command)
        around.say(f"If it is replaced, {name} is left with {words.left_with(after, loss)}.")


def _answer(plan: Plan, args: Any, around: Surroundings) -> str | None:
    """``replace`` or ``share``; None where another key was chosen. Raises ``Refused`` to stop."""
    shares = plan.app.rules.duplicates == "choice"
    if args.if_taken == "stop" or not around.interactive:
        ways = "--if-taken replace to give it away" + (
            ", share to let both have it" if shares else ""
        )
        raise Refused(
            f"{plan.trigger} is taken; nothing was changed.",
            hint=f"Say {ways}, or choose another key.",
        )
    best = _best_free(plan)
    for n, (key, reason) in enumerate(best, 1):
        around.say(f"  {n}  {key}: {reason}")
    question = "Replace it" + (", share it" if shares else "")
    question += f", take one of these (1-{len(best)})" if best else ""
    letters = "r/" + ("s/" if shares else "") + ("1-3/" if best else "") + "c/Q"
    while True:
        answer = around.ask(f"{question}, choose another key, or quit? [{letters}]").lower()
        if answer in ("r", "replace"):
            return "replace"
        if answer in ("s", "share") and shares:
            return "share"
        if answer.isdigit() and 1 <= int(answer) <= len(best):
            args.key = best[int(answer) - 1][0]
            return None
        if answer in ("c", "choose"):
            args.key = around.ask("Which key?") or args.key
            return None
        if answer in ("", "q", "quit", "stop"):
            raise Refused(f"{plan.trigger} stays as it is; nothing was changed.")
        around.say(f"Type one of {letters}.")


def _best_free(plan: Plan) -> list[tuple[str, str]]:
    """The three best free keys for the command, with the reason for each."""
    from olive_compass.core.schemes.free import free_map
    from olive_compass.core.schemes.ranking import rank

    settings = plan.at.settings
    free = [
        slot.stroke
        for banks in free_map(plan.before, plan.inside).values()
        for bank in banks.values()
        for slot in bank
        if slot.free and pick.is_allowed(plan.app, Run((slot.stroke,)))
    ]
    ranked = rank(plan.before, free, settings.weights, settings.hand, plan.command)[:3]
    return [
        (
            str(each.stroke),
            f"{each.strokes:.1f} home strokes, {', '.join(each.reasons)}".rstrip(", "),
        )
        for each in ranked
    ]
