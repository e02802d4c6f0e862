"""What findings propose to do: each action takes its finding away."""

from collections.abc import Iterable, Iterator

from olive_compass.core.actions import (
    AcceptFinding,
    Action,
    AssignKey,
    ClearKeys,
    LeaveKeyless,
    MuteKey,
    NewScheme,
)
from olive_compass.core.apps.app import Command
from olive_compass.core.changes.view import AppView
from olive_compass.core.keys.presses import Press, begins_with
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.decisions import Decision, Scheme, to_write
from olive_compass.core.schemes.guards import Guarded, broken_guards
from olive_compass.core.schemes.holdings import holdings, live_triggers
from olive_compass.core.schemes.traits import where_it_can_count


def accepting(view: AppView, id_: str, about: str, why: str = "looked at, and meant") -> Action:
    """To accept a finding; where no scheme can, to begin one."""
    if not view.stack.schemes:
        return NewScheme(app=view.app.name, scheme="mine")
    return AcceptFinding(app=view.app.name, finding=id_, about=about, why=why)


def clearing(view: AppView, claim: Claim) -> Action:
    """To take a scheme's decision on a trigger out."""
    return ClearKeys(
        app=view.app.name, command=claim.command, key=str(claim.trigger), scheme=claim.origin
    )


def _usable(view: AppView, modes: Iterable[str], command: Command) -> tuple[str, ...]:
    """The modes in which the command can be used, or all that it can be used in."""
    usable = view.app.modes.inside(command.usable_in)
    return tuple(mode for mode in modes if mode in usable) or command.usable_in


def better_key(view: AppView, claim: Claim) -> Action:
    """To put a better key in the place of a scheme's own, or only to take it out.

    It is taken out where the command keeps other keys, or where nothing better is free.
    """
    press = view.keyboard.press_of
    known = view.app.catalogue.by_id.get(claim.command)
    scheme = scheme_named(view, claim.origin)
    if known is None or scheme is None:
        return clearing(view, claim)
    held = _holds_others_off(scheme, claim) or _crowds_out(view, known)
    if not held and works_otherwise(view, known, press(claim.trigger)):
        return clearing(view, claim)
    modes = _usable(view, modes_of(scheme, claim), known)
    offer = _offer(view, known, modes, scheme)
    if offer is None or set(modes) != set(modes_of(scheme, claim)):
        # Taken out alone, a command that had a key from the start would be left without any.
        if live_triggers(view.factory, known.id):
            return leaving_keyless(view, claim, f"{claim.trigger} cannot be its key")
        return clearing(view, claim)
    return AssignKey(
        app=view.app.name,
        command=claim.command,
        key=str(offer),
        modes=modes,
        instead=True,
        scheme=claim.origin,
    )


def _holds_others_off(scheme: Scheme, claim: Claim) -> bool:
    """Whether a key stands by itself instead of the keys of lower layers: they would come back with it taken out."""
    return any(
        each.instead and each.keys == (claim.trigger,)
        for each in scheme.assign.get(claim.command, ())
    )


def _crowds_out(view: AppView, command: Command) -> bool:
    """Whether a command has keys that do not count, for it may have so many only: one that is taken out lets
    another in."""
    if not view.app.rules.most_keys:
        return False
    given = {
        run
        for scheme in view.stack.schemes
        for each in scheme.assign.get(command.id, ())
        for run in each.keys
    }
    counting = {claim.trigger for claim in view.keymap.by_command.get(command.id, ())}
    return not counting >= given | {*command.keys}


def guards_broken_by(view: AppView, after: Scheme) -> list[Guarded]:
    """The guards that would not hold any more if a scheme were ``after``."""
    return broken_guards(view.keymap, Keymap(view.stack.with_scheme(after), view.keyboard))


def narrowing(
    view: AppView, scheme: Scheme, command: str, key: Run, modes: Iterable[str]
) -> tuple[str, ...]:
    """The modes among these in which a key of a scheme can count without a finding of its own: the command can
    be used there, nothing that is typed is swallowed, and the scheme has the press for nothing else."""
    board = view.keymap.keyboard
    known = view.app.catalogue.by_id.get(command)
    kept = where_it_can_count(view.app, board, known, key, modes)
    rivals = (
        each
        for each in view.keymap.buckets.get(board.press_of(key), ())
        if each.origin == scheme.name and each.command != command
    )
    if any(each.mode in kept for each in rivals):
        return ()
    return kept


def works_otherwise(view: AppView, command: Command, press: Press) -> bool:
    """Whether a key with another press reaches a command where it can be used, on the keyboard at hand."""
    usable = view.app.modes.inside(command.usable_in)
    made = view.keyboard.made
    return any(
        view.keyboard.press_of(each.trigger) != press
        and not set(usable).isdisjoint(each.live)
        and not any(made(stroke).missing for stroke in each.trigger.strokes)
        for each in holdings(view.keymap, command.id)
    )


def new_key(view: AppView, command: str) -> Action:
    """To give a free key to a command that has none, or to say that it is to have none."""
    known = view.app.catalogue.by_id.get(command)
    scheme = scheme_to_write(view)
    if known is None or scheme is None:
        return NewScheme(app=view.app.name, scheme="mine")
    offer = _offer(view, known, known.usable_in, scheme)
    if offer is None:
        return LeaveKeyless(app=view.app.name, command=command, why="no key is left for it")
    return AssignKey(app=view.app.name, command=command, key=str(offer))


def leaving_keyless(view: AppView, claim: Claim, why: str) -> Action:
    """To leave the command of a claim without a key on purpose."""
    return LeaveKeyless(app=view.app.name, command=claim.command, why=why, scheme=claim.origin)


def modes_alike(view: AppView, claim: Claim) -> tuple[str, ...]:
    """The modes in which the scheme, or the layer, of a claim gives its press to its command.

    What is done about the press in one of them leaves it in the others: a nearer mode comes first.
    """
    press = view.keymap.keyboard.press_of(claim.trigger)
    here = view.keymap.buckets.get(press, ())
    whose = (claim.command, claim.origin)
    return tuple(dict.fromkeys(c.mode for c in here if (c.command, c.origin) == whose))


def silencing(view: AppView, claim: Claim, why: str, modes: Iterable[str] = ()) -> Action:
    """To mute the trigger of a claim, or, where that cannot be, to leave its command keyless."""
    return muting(view, claim, why, modes) or leaving_keyless(view, claim, why)


def muting(view: AppView, claim: Claim, why: str, modes: Iterable[str] = ()) -> Action | None:
    """To mute the trigger of a claim; in the modes that are named, or else in all in which it
    starts the command. None: nothing can be muted, or a command would lose its last key by it."""
    modes = tuple(modes) or modes_alike(view, claim)
    if not view.app.rules.can_mute or _takes_last_key(view, claim, modes):
        return None
    return MuteKey(
        app=view.app.name, key=str(claim.trigger), modes=modes, why=why, scheme=claim.origin
    )


def _takes_last_key(view: AppView, claim: Claim, modes: Iterable[str]) -> bool:
    """Whether a command would be left without a key if the press of a claim did nothing in these modes."""
    press = view.keymap.keyboard.press_of(claim.trigger)
    winners = {
        each.command
        for mode in view.app.modes.inside(modes)
        for each in view.keymap.winners(press, mode)
    }
    known = (view.app.catalogue.by_id.get(name) for name in winners)
    return any(each and each.keys and not works_otherwise(view, each, press) for each in known)


def kept_by_guard(
    view: AppView, keys: Iterable[str], commands: Iterable[str], but: str = "", wide: bool = False
) -> str:
    """The guard that a change of these keys, or of the keys that schemes give these commands, may break: whose
    it is, and why, ``""``: none. ``but`` is a scheme whose guards are left aside; ``wide``: all keys of the
    commands change, whichever are named."""
    if not any(scheme.guard for scheme in view.stack.schemes if scheme.name != but):
        return ""
    triggers = [read_trigger(key) for key in keys]
    if wide or not triggers:
        # Who names no key, or leaves a command without any, changes all that it has.
        for command in commands:
            triggers += _keys_of(view, command, with_factory=wide)
    for press in map(view.keyboard.press_of, triggers):
        for scheme in view.stack.schemes:
            if scheme.name != but and (decision := _guard_of(view, scheme, press)):
                return f"{scheme.name} guards it: {decision.why or 'no reason given'}"
    return ""


def _guard_of(view: AppView, scheme: Scheme, press: Press) -> Decision | None:
    """The decision by which a scheme guards a press, or one that goes on from it or that it goes on from."""
    for run, decision in scheme.guard.items():
        guarded = view.keyboard.press_of(run)
        if begins_with(press, guarded) or begins_with(guarded, press):
            return decision
    return None


def _keys_of(view: AppView, command: str, *, with_factory: bool) -> Iterator[Run]:
    """The keys that schemes give a command, and those of the factory where they are asked for."""
    known = view.app.catalogue.by_id.get(command)
    if known and with_factory:
        yield from known.keys
    for scheme in view.stack.schemes:
        for decision in scheme.assign.get(command, ()):
            yield from decision.keys


def _offer(view: AppView, command: Command, modes: tuple[str, ...], scheme: Scheme) -> Run | None:
    # Loaded here: where there is nothing to advise, no key is looked for.
    from olive_compass.core.schemes.offers import quick_offer

    return quick_offer(view, command, modes, scheme)


def modes_of(scheme: Scheme, claim: Claim) -> tuple[str, ...]:
    """The modes in which a scheme gives the trigger of a claim to its command.

    A command may have one trigger in two lines, with a reason for each: a finding about the
    trigger is about both.
    """
    lines = [each for each in scheme.assign.get(claim.command, ()) if claim.trigger in each.keys]
    return tuple(dict.fromkeys(mode for each in lines for mode in each.modes)) or (claim.mode,)


def scheme_named(view: AppView, name: str) -> Scheme | None:
    """The scheme of that name, where it counts."""
    return next((each for each in view.stack.schemes if each.name == name), None)


def scheme_to_write(view: AppView) -> Scheme | None:
    """The scheme that a decision goes into where none is named: the nearest personal one."""
    return to_write(view.stack.schemes)


def runs_text(runs: Iterable[Run]) -> str:
    """Triggers, separated by commas."""
    return ", ".join(map(str, runs))
