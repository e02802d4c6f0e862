"""An assignment worked out before it is written: what it changes, in sentences."""

from typing import Any

from olive_compass.cli import pick, words
from olive_compass.cli.impact import elsewhere
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.modes import joined
from olive_compass.core.schemes.consequences import Holder, holders, losses
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.editing import give, take_from_others
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.layers import BUILT_IN
from olive_compass.core.wording import counted


class Plan:
    """One assignment, worked out: what was asked, and the keymaps before and after."""

    def __init__(self, args: Any, around: Surroundings) -> None:
        self.at = at = pick.desk(args, around)
        self.stack = at.stack(at.app_name(args.app))
        self.app = self.stack.app
        self.scheme = pick.scheme_to_write(at, self.stack, args.scheme)
        self.command = pick.command(self.app, args.command, around)
        # Asked again after a choice of another key, the answer about the command is kept.
        args.command = self.command.id
        self.trigger = pick.allowed_trigger(self.app, args.key)
        self.modes = pick.modes_for(self.app, self.command, args.mode)
        pick.on_rose(self.app, self.trigger, self.modes)
        self.inside = self.app.modes.inside(self.modes)
        self.where = self.app.modes.phrase(self.inside)
        self.before = Keymap(self.stack, at.keyboard)
        self.why = args.why

    def edited(self, share: bool) -> tuple[Scheme, Keymap]:
        """The scheme with the assignment, and what follows from it."""
        scheme = self.scheme
        if not share:
            scheme = take_from_others(
                scheme, self.before, self.command.id, self.trigger, self.modes
            )
        slot = self.app.rules.slots.get(self.command.id, "")
        scheme = give(scheme, self.command.id, self.trigger, self.modes, self.why, slot)
        if share:
            # A nearer layer hides the others: to be offered too, they must stand beside it.
            names = []
            for holder in holders(self.before, self.trigger, self.modes, self.command.id):
                modes = tuple(mode for mode in self.modes if mode in holder.modes)
                if holder.claim.command in self.app.catalogue.by_id and modes:
                    names.append(holder.claim.command)
                    scheme = give(scheme, holder.claim.command, self.trigger, modes)
            order = tuple(dict.fromkeys((*names, self.command.id)))
            scheme = scheme._replace(order={**scheme.order, self.trigger: order})
        return scheme, Keymap(self.stack.with_scheme(scheme), self.at.keyboard)


def report(plan: Plan, after: Keymap, held: list[Holder]) -> list[str]:
    """What the assignment does: the deed first, then who lost, what waits, what is hidden."""
    trigger, command = plan.trigger, plan.command
    lines = [f"{command.title} now has {trigger} {plan.where}."]
    lines += [
        f"Mind that {scheme.name} leaves {command.title} without a key on purpose: "
        f"{scheme.bare[command.id].why or 'no reason given'}."
        for scheme in plan.stack.schemes
        if command.id in scheme.bare
    ]
    had = live_triggers(plan.before, command.id)
    has = live_triggers(after, command.id)
    most = plan.app.rules.most_keys
    lines += [
        f"It gives up {run}: {plan.app.title} lets a command have {counted(most, 'key')}."
        for run in had
        if most and run not in has
    ]
    lines += [
        f"{words.title(after, loss.command)} lost it {plan.app.modes.phrase(loss.modes)}; "
        f"it is left with {words.left_with(after, loss)}."
        for loss in losses(plan.before, after, trigger)
        if loss.command in plan.app.catalogue.by_id
    ]
    lines += [
        f"{trigger} had a hidden meaning that no list shows: {holder.claim.wired} "
        f"({words.where(plan.at, plan.before, holder.claim)})."
        for holder in held
        if holder.claim.layer == BUILT_IN
    ]
    for mode in plan.inside:
        outcome = after.decide(trigger, mode)
        if outcome.longer:
            names = joined(str(claim.trigger) for claim in outcome.longer[:4])
            lines.append(
                f"{words.in_modes([mode]).capitalize()} it starts only after a wait, because "
                f"{names} {'begin' if len(outcome.longer) > 1 else 'begins'} with it."
            )
            break
    lines += [
        f"It makes “{char}” untypable here."
        for each in trigger.strokes
        if (char := after.keyboard.swallows(each))
    ]
    lines += [
        f"{each} cannot be made on this keyboard: {missing}."
        for each in trigger.strokes
        if (missing := after.keyboard.made(each).missing)
    ]
    for mode in plan.inside:
        winners = after.decide(trigger, mode).winners
        if winners and all(claim.command != command.id for claim in winners):
            claim = winners[0]
            name = words.meaning(after, claim.does) or "a mute"
            lines.append(
                f"But {words.in_modes([mode])} {name} still comes first: {words.source(claim)}, "
                f"{words.where(plan.at, after, claim)}."
            )
    return lines


def everything(plan: Plan, after: Keymap) -> list[str]:
    """With ``--explain``: each mode before and after, the rules, and the other applications."""
    lines = ["In every mode that changes:"]
    lines += [f"  {line}" for line in words.shifts(plan.before, after, [plan.trigger])]
    rules = plan.app.rules
    lines.append(
        f"Rules of {plan.app.title}: a key given twice: {rules.duplicates}; "
        f"keys for a command: {rules.most_keys or 'any number'}; longest run: {rules.longest_run}."
    )
    keep = live_triggers(after, plan.command.id)
    lines.append(f"{plan.command.title} is then reached by {joined(map(str, keep))}.")
    lines += _false_friends(plan, after)
    lines.append("In the other applications:")
    others = [name for name in plan.at.app_names() if name != plan.app.name]
    lines += [f"  {line}" for name in others for line in elsewhere(plan.at, plan.trigger, name)]
    return lines


def _false_friends(plan: Plan, after: Keymap) -> list[str]:
    """Reflexes from other applications that would meet something worse, here or there."""
    from olive_compass.core.sharing.friends import Across

    at = plan.at
    others = [Keymap(at.stack(n), at.keyboard) for n in at.app_names() if n != plan.app.name]
    across = Across([after, *others], at.purposes)
    press = after.keyboard.press_of(plan.trigger)
    lines = []
    for name in at.app_names():
        for each in across.false_friends(name):
            if each.press == press and plan.app.name in (each.reflex.app, each.meets.app):
                lines.append(
                    f"A false friend: {plan.trigger} is “{each.reflex.title}” in "
                    f"{each.reflex.app_title}, and “{each.meets.title}” in {each.meets.app_title}"
                    f"{', which lasts' if each.meets.risk == 2 else ''}."
                )
    return lines
