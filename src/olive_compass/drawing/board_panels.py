"""A keyboard with what its keys do, as the panels of a picture."""

from collections.abc import Callable, Iterator, Mapping
from typing import TYPE_CHECKING

from olive_compass.core.answers.board import BoardQuery, KeyAnswer, keys_with
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.devices import device_form
from olive_compass.core.keys.forms import Form
from olive_compass.core.schemes.board import BoardKey, beside, shown_label
from olive_compass.core.schemes.meanings import meaning_or_muted, title_of
from olive_compass.structs import replace

if TYPE_CHECKING:
    from olive_compass.drawing.board_picture import Key, Panel


def panels_of(
    what: BoardQuery, form: Form, group: Callable[[str], str], only_used: bool
) -> "list[Panel]":
    """A keyboard for each group of modifiers, and the devices beside it on which something lies."""
    devices = [device_form(each) for each in beside(what.keymap)]
    codes = [code for each in devices for code in each.seats]
    panels: list[Panel] = []
    for held in what.groups:
        keys = keys_with(what, held, codes)
        used = {code for code, each in keys.items() if _is_seen(*each)}
        # Eight boards of which six are empty would hide the two that say something.
        if used or not only_used:
            found = {code: key_of(what, code, *each, group) for code, each in keys.items()}
            # A device on which nothing lies takes no room in the picture.
            shown = [device for device in devices if not used.isdisjoint(device.seats)]
            panels += _panels_with(held, form, shown, found)
    return panels


def _panels_with(
    held: tuple[str, ...], form: Form, devices: list[Form], found: "dict[str, Key]"
) -> "Iterator[Panel]":
    """The keyboard under some modifiers, and these devices beside it."""
    from olive_compass.drawing.board_picture import Panel

    title = "without modifiers"
    if held:
        title = f"with {'+'.join(held)}"
    yield Panel(title, form, _on(form, found))
    for device in devices:
        yield Panel(f"{device.title} {title}", device, _on(device, found))


def _on(form: Form, keys: "Mapping[str, Key]") -> "dict[str, Key]":
    """The keys that a form or a device has."""
    return {code: keys[code] for code in form.seats}


def texts_of(title: str, subtitle: str, panels: "list[Panel]") -> list[str]:
    """All that may be written on the page."""
    found = [title, subtitle, *(panel.title for panel in panels)]
    for panel in panels:
        for key in panel.keys.values():
            found += [key.label, key.text, key.was, key.group, key.note, key.sign]
    return found


def spelt(key: "Key", spell: Callable[[str], str]) -> "Key":
    """A key with texts that its fonts can show."""
    return replace(
        key,
        label=spell(key.label),
        text=spell(key.text),
        was=spell(key.was),
        group=spell(key.group),
    )


def _is_seen(key: BoardKey, told: KeyAnswer) -> bool:
    """Whether there is anything to see on a key."""
    return bool(key.claims or key.keyless) or told.was is not None


def _note(told: KeyAnswer) -> str:
    """How often a key was used, and how hard it is to reach, as far as that is known."""
    if told.uses is None:
        return ""
    if told.reach is None:
        return str(told.uses)
    return f"{told.uses} · {told.reach:.1f}"


def key_of(
    what: BoardQuery, code: str, key: BoardKey, told: KeyAnswer, group: Callable[[str], str]
) -> "Key":
    """What is drawn on a key: what it does in the nearest mode first, and the group that it is of."""
    from olive_compass.drawing.board_picture import LEGENDS, Key

    keymap = what.keymap
    titles = []
    several = len(what.modes) > 1 and len(key.claims) > 1
    for claim in key.claims:
        text = meaning_or_muted(keymap, claim.does)
        if several and claim.mode != ROOT:
            text += f" ({claim.mode})"
        titles.append(text)
    titles += [f"keyless: {title_of(keymap, command)}" for command, _ in key.keyless]
    label = shown_label(keymap, code, LEGENDS)
    first = next((claim.command for claim in key.claims if claim.command), "")
    text = "; ".join(dict.fromkeys(titles))
    return Key(
        label=label,
        state=key.drawn,
        text=text,
        group=group(first),
        was=told.was or "",
        uses=told.uses,
        note=_note(told) if text else "",
    )
