"""The commands that findings propose: each can be pasted, and takes its finding away."""

from collections.abc import Iterable

from olive_compass.core.apps.app import Command
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.changes.view import AppView
from olive_compass.core.command_line import line
from olive_compass.core.keys.triggers import Run
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.holdings import live_triggers
from olive_compass.core.schemes.layers import PERSONAL


def accepting(view: AppView, id_: str, about: str, why: str = "looked at, and meant") -> str:
    """The command that accepts a finding; where no scheme can, that which makes one."""
    if not view.stack.schemes:
        return line("scheme", "new", f"{view.app.name}/mine")
    return line("accept", view.app.name, id_, *((about,) if about else ()), "--why", why)


def clearing(view: AppView, claim: Claim) -> str:
    """The command that takes a scheme's decision on a trigger out."""
    which = (claim.command, str(claim.trigger)) if claim.command else (str(claim.trigger),)
    return line("clear", view.app.name, *which, "--scheme", claim.origin)


def better_key(view: AppView, claim: Claim) -> str:
    """The command that puts a better key in the place of a scheme's own, or only takes it out.

    It is taken out where the command keeps other keys, or where nothing better is free.
    """
    press = view.keyboard.press_of
    known = view.app.catalogue.by_id.get(claim.command)
    others = [
        run
        for run in live_triggers(view.keymap, claim.command)
        if press(run) != press(claim.trigger)
    ]
    scheme = scheme_named(view, claim.origin)
    if known is None or others or scheme is None:
        return clearing(view, claim)
    modes = modes_of(scheme, claim)
    usable = view.app.modes.inside(known.modes) if known.modes else view.app.modes.names
    modes = tuple(mode for mode in modes if mode in usable) or known.modes or (ROOT,)
    offer = _offer(view, known, modes, scheme)
    if offer is None or set(modes) != set(modes_of(scheme, claim)):
        return clearing(view, claim)
    return line(
        "assign",
        view.app.name,
        claim.command,
        str(offer),
        *with_modes(modes),
        "--instead",
        "--scheme",
        claim.origin,
    )


def new_key(view: AppView, command: str) -> str:
    """The command that gives a free key to one that has none, or says that it is to have none."""
    known = view.app.catalogue.by_id.get(command)
    scheme = scheme_to_write(view)
    if known is None or scheme is None:
        return line("scheme", "new", f"{view.app.name}/mine")
    offer = _offer(view, known, known.modes or (ROOT,), scheme)
    if offer is None:
        return line("bare", view.app.name, command, "--why", "no key is left for it")
    return line("assign", view.app.name, command, str(offer))


def leaving_bare(view: AppView, claim: Claim, why: str) -> str:
    """The command that leaves the command of a claim without a key on purpose."""
    scheme = ("--scheme", claim.origin) if claim.origin else ()
    return line("bare", view.app.name, claim.command, "--why", why, *scheme)


def modes_alike(view: AppView, claim: Claim) -> tuple[str, ...]:
    """The modes in which the scheme, or the layer, of a claim gives its press to its command.

    What is done about the press in one of them leaves it in the others: a nearer mode comes first.
    """
    press = view.keymap.keyboard.press_of(claim.trigger)
    here = view.keymap.buckets.get(press, ())
    whose = (claim.command, claim.origin)
    return tuple(dict.fromkeys(c.mode for c in here if (c.command, c.origin) == whose))


def silencing(view: AppView, claim: Claim, why: str, modes: Iterable[str] = ()) -> str:
    """The command that mutes the trigger of a claim, or leaves its command bare where none can; in the
    modes that are named, or else in all in which it starts the command."""
    if not view.app.rules.can_mute:
        return leaving_bare(view, claim, why)
    modes = tuple(modes) or modes_alike(view, claim)
    scheme = ("--scheme", claim.origin) if claim.origin else ()
    return line(
        "mute", view.app.name, str(claim.trigger), *with_modes(modes), "--why", why, *scheme
    )


def _offer(view: AppView, command: Command, modes: tuple[str, ...], scheme: Scheme) -> Run | None:
    # Loaded here: where there is nothing to advise, no key is looked for.
    from olive_compass.core.schemes.offers import quick_offer

    return quick_offer(view, command, modes, scheme)


def with_modes(modes: Iterable[str]) -> tuple[str, ...]:
    """The options that name modes; none where it is everywhere and nothing besides."""
    modes = tuple(modes)
    return () if modes == (ROOT,) else tuple(word for mode in modes for word in ("--mode", mode))


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
    personal = [each for each in view.stack.schemes if each.layer == PERSONAL]
    return next(iter([*personal, *view.stack.schemes]), None)


def runs_text(runs: Iterable[Run]) -> str:
    """Triggers, parted by commas."""
    return ", ".join(map(str, runs))
