"""``board --as png``: the keyboard as a picture, with what each key does."""

from typing import Any

from olive_compass.cli import words
from olive_compass.cli.key_pages import menu_of
from olive_compass.cli.pictures import asked_for, put
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.apps.modes import ROOT
from olive_compass.core.keys.devices import device_form
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.schemes.board import BoardKey, beside, board_keys, typed_label
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.free import HELD
from olive_compass.desk.desk import Desk


def picture(
    args: Any, around: Surroundings, at: Desk, keymap: Keymap, modes: tuple[str, ...]
) -> int:
    """Runs ``board`` as a picture."""
    asked_for(args, around)
    from olive_compass.drawing import board_picture
    from olive_compass.drawing.board_picture import Panel, laid_out

    form = keymap.keyboard.form
    assert form is not None
    devices = [device_form(each) for each in beside(keymap)]
    codes = [code for each in devices for code in each.seats]
    panels = []
    for held in _groups(args, keymap):
        keys = board_keys(keymap, held, modes, codes)
        if args.all_held and not any(key.claims or key.bare for key in keys.values()):
            continue
        found = {code: _key(keymap, code, key) for code, key in keys.items()}
        title = f"with {'+'.join(held)}" if held else "without modifiers"
        panels.append(Panel(title, form, {code: found[code] for code in form.seats}))
        for device in devices:
            own = {code: found[code] for code in device.seats}
            if any(key.text for key in own.values()):
                name = f"{device.title} {title}"
                panels.append(Panel(name, device, own))
    app = keymap.app
    where = words.in_modes(modes) if args.mode else "in any mode"
    schemes = " over ".join(keymap.stack.names)
    subtitle = f"{where}; {schemes}; {form.title}, {at.settings.layout}; {at.settings.name}"
    page = laid_out(f"{app.title} {app.version}", subtitle, panels)
    put(args, around, page.lines, lambda: board_picture.drawn(page, args.form))
    return 0


def _groups(args: Any, keymap: Keymap) -> list[tuple[str, ...]]:
    """The groups of modifiers that are drawn."""
    if args.all_held:
        return list(HELD["mac" if keymap.keyboard.platform == "mac" else "pc"])
    if not args.held.strip():
        return [()]
    stroke = read_trigger(f"{args.held}+F1").strokes[0]
    return [keymap.keyboard.made(stroke).presses[0][0]]


def _key(keymap: Keymap, code: str, key: BoardKey) -> Any:
    """What is drawn on a key: what it does in the nearest mode first, and the menu that it is of."""
    from olive_compass.drawing.board_picture import LEGENDS, Key

    titles = []
    for claim in key.claims:
        text = words.meaning(keymap, claim.does) or "muted"
        several = len(key.claims) > 1 and claim.mode != ROOT
        titles.append(f"{text} ({claim.mode})" if several else text)
    titles += [f"bare: {words.title(keymap, command)}" for command, _ in key.bare]
    label = typed_label(keymap, code) or LEGENDS.get(code, code)
    first = next((claim.command for claim in key.claims if claim.command), "")
    return Key(label, key.drawn, "; ".join(dict.fromkeys(titles)), menu_of(keymap, first))
