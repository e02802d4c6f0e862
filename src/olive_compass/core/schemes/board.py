"""What each key of a keyboard does under the same modifiers: the matter of a board."""

from collections.abc import Collection, Iterable, Mapping
from typing import Final, Literal

from msgspec import Struct

from olive_compass.core.keys.devices import Device
from olive_compass.core.keys.kinds import kinds
from olive_compass.core.keys.letters import capital
from olive_compass.core.keys.presses import Press
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap, Outcome

KeyState = Literal["free", "used", "begins", "muted", "guarded", "reserved"]
FREE: Final = "free"
USED: Final = "used"
BEGINS: Final = "begins"
SILENT: Final = "muted"
GUARDED: Final = "guarded"

#: The operating system or the application keeps the key for itself.
KEPT: Final = "reserved"


#: Told apart where a key is drawn: one that several commands share in a mode, and one that is free
#: because its command is left without a key on purpose.
SHARED, KEYLESS = "shared", "keyless"


class BoardKey(Struct, frozen=True, kw_only=True):
    """What a key does: one of the words above, the claims that decide it, the commands that are keyless,
    and would have it otherwise, with the reasons; and whether several commands share it in a mode."""

    state: KeyState
    claims: tuple[Claim, ...] = ()
    keyless: tuple[tuple[str, str], ...] = ()
    shared: bool = False

    @property
    def drawn(self) -> str:
        """Its state as a board shows it."""
        if self.state == USED and self.shared:
            return SHARED
        if self.state == FREE and self.keyless:
            return KEYLESS
        return self.state


def beside(keymap: Keymap) -> tuple[Device, ...]:
    """What a board shows beside the keyboard: the devices that the application takes keys of, and
    the buttons and turns of the mouse, the wheel and the pen where it takes those."""
    takes = keymap.app.rules.takes
    found = []
    if takes:
        for kind in kinds():
            if not kind.must_be_taken or kind.name not in takes:
                continue
            for name, keys in kind.there(keymap.keyboard).items():
                declared = keymap.keyboard.devices.get(name)
                controls = tuple(key.partition(":")[2] for key in keys)
                if kind.name not in ("tap", "hold"):
                    found.append(declared or Device(name=name, title=name, rows=(controls,)))
    return tuple(found)


def board_keys(
    keymap: Keymap, held: tuple[str, ...], modes: tuple[str, ...], codes: Iterable[str] = ()
) -> dict[str, BoardKey]:
    """What every key of the keyboard's form does with ``held`` pressed, by code; and so for
    other ``codes``, beside the keyboard.

    A key is free where it does nothing in any of ``modes``.
    """
    form = keymap.keyboard.form
    left_keyless = keyless_presses(keymap)
    found = {}
    for code in (*(form.seats if form else ()), *codes):
        press: Press = ((held, keymap.keyboard.folded_code(code)),)
        outcomes = [keymap.decide_press(press, mode) for mode in modes]
        claims = tuple(dict.fromkeys(c for each in outcomes for c in each.winners))
        found[code] = BoardKey(
            state=_state(keymap, press, claims, outcomes),
            claims=claims,
            keyless=left_keyless.get(press, ()),
            shared=any(len(each.winners) > 1 for each in outcomes),
        )
    return found


def _state(
    keymap: Keymap, press: Press, claims: Collection[Claim], outcomes: Iterable[Outcome]
) -> KeyState:
    """From what nobody can change to what anybody may take: the first that is true is the one to know."""
    if any(claim.layer.locked for claim in claims):
        return KEPT
    if press in keymap.guarded:
        return GUARDED
    if not all(claim.mutes for claim in claims):
        return USED
    # It does nothing by itself, but whoever takes it makes the runs that begin with it wait.
    if any(each.longer for each in outcomes):
        return BEGINS
    if claims:
        return SILENT
    return FREE


def otherwise(
    keymap: Keymap,
    other: Keymap,
    held: tuple[str, ...],
    modes: tuple[str, ...],
    codes: Iterable[str],
) -> dict[str, tuple[Outcome, ...]]:
    """The keys that do something else with ``held`` pressed, in any of ``modes``, than in ``other``: by
    code what each does there, in the modes where it differs."""
    found: dict[str, tuple[Outcome, ...]] = {}
    for code in codes:
        press: Press = ((held, keymap.keyboard.folded_code(code)),)
        pairs = [(keymap.decide_press(press, m), other.decide_press(press, m)) for m in modes]
        unlike = tuple(there for here, there in pairs if here.told != there.told)
        if unlike:
            found[code] = tuple(dict.fromkeys(unlike))
    return found


def typed_label(keymap: Keymap, code: str) -> str:
    """What is printed on a key that types, or on a button beside the keyboard; ``""`` on a key that
    only has a name."""
    if ":" in code and not code.startswith("?"):
        return code.partition(":")[2]
    layout = keymap.keyboard.layout
    char = ""
    if layout and not code.startswith("Numpad"):
        char = layout.typed(code, 0).strip()
    return capital(char)


def shown_label(keymap: Keymap, code: str, names: Mapping[str, str]) -> str:
    """What is shown on a key: what it types, or its name (``names`` by code), or the code itself."""
    return typed_label(keymap, code) or names.get(code, code)


def keyless_presses(keymap: Keymap) -> dict[Press, tuple[tuple[str, str], ...]]:
    """The presses that commands would have, were they not left without a key on purpose: each with
    those commands and the reasons."""
    found: dict[Press, dict[str, str]] = {}
    known = keymap.app.catalogue.by_id
    for scheme in keymap.stack.schemes:
        for command, decision in scheme.keyless.items():
            if command not in known:
                continue
            for run in known[command].keys:
                for press in keymap.keyboard.presses_of(run):
                    found.setdefault(press, {}).setdefault(command, decision.why)
    return {press: tuple(commands.items()) for press, commands in found.items()}
