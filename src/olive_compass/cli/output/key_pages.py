"""``page``: what stands on the page of keys, looked up for each press and mode before it is written."""

from collections.abc import Iterable, Iterator, Mapping
from typing import TYPE_CHECKING

from olive_compass.core.answers.board import menu_of
from olive_compass.core.apps.modes import in_modes
from olive_compass.core.keys.devices import device_form
from olive_compass.core.keys.forms import Form
from olive_compass.core.keys.names import MODIFIERS
from olive_compass.core.keys.notations import show_or_plain
from olive_compass.core.keys.presses import Press
from olive_compass.core.keys.roses import bearing_name
from olive_compass.core.keys.triggers import Run, Stroke
from olive_compass.core.schemes.board import FREE, BoardKey, beside, board_keys, shown_label
from olive_compass.core.schemes.claims import Claim
from olive_compass.core.schemes.deciding import Keymap, Outcome
from olive_compass.core.schemes.free import modifier_groups
from olive_compass.core.schemes.meanings import meaning_of, meaning_or_muted, source_of, title_of
from olive_compass.core.schemes.roses import RosePlace, differing, places
from olive_compass.core.schemes.sheet import SheetGroup, sheet_groups
from olive_compass.core.wording import clause
from olive_compass.desk.desk import Desk
from olive_compass.desk.source_lines import file_and_line_text

if TYPE_CHECKING:
    from olive_compass.cli.surroundings import Surroundings
    from olive_compass.drawing.key_page_values import Board, Branch, Listed, Ray, Seen, Shown

#: How many hidden claims and longer runs are named beside a key.
MOST = 6


def shown(desk: Desk, context: "Surroundings", name: str) -> "Shown":
    """An application as it stands on the page."""
    from olive_compass.drawing.key_page_values import Shown

    stack = desk.stack(name)
    keymap = Keymap(stack, desk.keyboard)
    app = keymap.app
    form = keymap.keyboard.form
    assert form is not None
    forms = [form, *(device_form(each) for each in beside(keymap))]
    asks = {macro.id: macro.asked for macro in desk.macros(name).values()}
    groups = sheet_groups(keymap, None, False, context.key, asks)
    modes = app.modes.names
    roses = {mode: places(keymap, mode) for mode in modes if app.rose(mode)}
    every = sheet_groups(keymap, None, True, context.key, asks)
    return Shown(
        name=name,
        title=app.title,
        subtitle=f"{app.version} · {' over '.join(stack.names)}".strip(" ·"),
        modes=modes,
        held=_modifiers(keymap),
        boards=tuple(_board(keymap, each) for each in forms),
        grid=_grid(desk, keymap, [code for each in forms for code in each.seats]),
        groups=tuple(groups),
        presses={line: tuple(presses) for line, presses in _presses(keymap, groups)},
        aria={line: aria for line, aria in _aria(keymap, groups)},
        runs=_branches(groups, context),
        roses={mode: _rays(keymap, rose, differing(roses)) for mode, rose in roses.items()},
        opens=_busiest(keymap),
        menus=app.catalogue.top_menus,
        commands=tuple(_listed(keymap, every)),
    )


def _listed(keymap: Keymap, groups: list[SheetGroup]) -> "Iterator[Listed]":
    """All commands, with or without a key, as they are looked for."""
    from olive_compass.drawing.key_page_values import Listed

    app = keymap.app
    presses = dict(_presses(keymap, groups))
    lines = {line.id: line for group in groups for line in group.lines}
    busiest = _busiest(keymap)
    for command, line in lines.items():
        known = app.catalogue.by_id[command]
        usable = app.modes.inside(known.usable_in)
        reached = [mode for key in line.keys for mode in key.modes]
        if busiest in (reached or usable):
            first = busiest
        else:
            first = next(iter(reached or usable))
        keys = " or ".join(line.texts)
        yield Listed(
            title=line.title,
            menu=" > ".join(known.menu),
            keys=keys,
            mode=first,
            presses=tuple(presses[command]),
        )


def _busiest(keymap: Keymap) -> str:
    """The first mode in which most keys work."""
    modes = keymap.app.modes.names
    working = [sum(bool(keymap.winners(p, mode)) for p in keymap.buckets) for mode in modes]
    return modes[working.index(max(working))]


def _held_groups(keymap: Keymap) -> list[tuple[str, ...]]:
    """The modifiers that are looked at together: the usual ones, and those with which anything begins."""
    usual = modifier_groups(keymap.keyboard)
    return list(dict.fromkeys([*usual, *(press[0][0] for press in keymap.buckets)]))


def _modifiers(keymap: Keymap) -> tuple[str, ...]:
    met = {name for held in _held_groups(keymap) for name in held}
    return tuple(name for name in MODIFIERS if name in met)


def _board(keymap: Keymap, form: Form) -> "Board":
    from olive_compass.drawing.board_picture import LEGENDS
    from olive_compass.drawing.key_page_values import Board

    keys = tuple(
        (
            code,
            shown_label(keymap, code, LEGENDS),
            seat.x,
            seat.y,
            seat.width,
            seat.height,
        )
        for code, seat in form.seats.items()
    )
    return Board(form.title, keys)


def _grid(desk: Desk, keymap: Keymap, codes: list[str]) -> "dict[str, dict[str, tuple[Seen, ...]]]":
    """What each key does under each group of modifiers, mode by mode; keys that do nothing are left out."""
    found = {}
    for held in _held_groups(keymap):
        keys = _keys_with(desk, keymap, codes, held)
        if keys:
            found["+".join(held)] = keys
    return found


def _keys_with(
    desk: Desk, keymap: Keymap, codes: list[str], held: tuple[str, ...]
) -> "dict[str, tuple[Seen, ...]]":
    """What the keys do under some modifiers, mode by mode."""
    form = keymap.keyboard.form
    beside_it = [code for code in codes if form and code not in form.seats]
    modes = keymap.app.modes.names
    by_mode = [board_keys(keymap, held, (mode,), beside_it) for mode in modes]
    keys = {}
    for code in codes:
        press = ((held, keymap.keyboard.folded_code(code)),)
        here = dict(zip(modes, (board[code] for board in by_mode), strict=True))
        seen = tuple(_seen(desk, keymap, press, mode, here) for mode in here)
        if any(each.state != FREE for each in seen):
            keys[code] = seen
    return keys


def _decided_by(desk: Desk, keymap: Keymap, claim: Claim) -> str:
    """Who gives a key its command, in which modes, file and line, and why."""
    why = clause(": {}", claim.why)
    where = file_and_line_text(desk, keymap, claim)
    return f"by {source_of(claim)}, {in_modes([claim.mode])} ({where}){why}"


def _seen(desk: Desk, keymap: Keymap, press: Press, mode: str, here: dict[str, BoardKey]) -> "Seen":
    """What a key does in a mode, with the reasons: who decides it and where, who is hidden, what goes on;
    ``here`` is what it does in each. As ``free`` has it, a key is free where all modes inside leave it free."""
    from olive_compass.drawing.key_page_values import Seen

    key = here[mode]
    if key.drawn == FREE:
        return _seen_inside(keymap, mode, here)
    outcome = keymap.decide_press(press, mode)
    titles = [meaning_of(keymap, claim.does) or "nothing" for claim in outcome.winners]
    reasons = list(_reasons(desk, keymap, outcome))
    reasons += [
        f"{title_of(keymap, command)} is left without a key: {why}" for command, why in key.keyless
    ]
    first = next((claim.command for claim in outcome.winners if claim.command), "")
    return Seen(
        state=key.drawn,
        text=" or ".join(dict.fromkeys(titles)),
        reasons=tuple(reasons),
        group=menu_of(keymap, first),
    )


def _reasons(desk: Desk, keymap: Keymap, outcome: Outcome) -> Iterator[str]:
    """Who decides a press, whom that hides, and what goes on from it."""
    for claim in outcome.winners:
        yield _decided_by(desk, keymap, claim)
    for claim in outcome.overridden[:MOST]:
        yield f"overrides: {_named(keymap, claim)}"
    for claim in outcome.longer[:MOST]:
        yield f"goes on: {_named(keymap, claim)}"
    if len(outcome.longer) > MOST:
        yield f"goes on: {len(outcome.longer) - MOST} more"


def _seen_inside(keymap: Keymap, mode: str, here: Mapping[str, BoardKey]) -> "Seen":
    """What a key that is free in a mode does in the modes inside that one."""
    from olive_compass.drawing.key_page_values import Seen

    inner = [each for each in keymap.app.modes.within(mode) if here[each].state != FREE]
    if not inner:
        return Seen(state=FREE)
    where = keymap.app.modes.phrase(inner)
    claims = dict.fromkeys(claim for each in inner for claim in here[each].claims)
    does = [f"{where}: {_named(keymap, claim)}" for claim in list(claims)[:MOST]]
    return Seen(state="inside", text=f"used {where}", reasons=tuple(does))


def _named(keymap: Keymap, claim: Claim) -> str:
    name = meaning_or_muted(keymap, claim.does)
    return f"{claim.trigger} {name} ({source_of(claim)})"


def _presses(keymap: Keymap, groups: list[SheetGroup]) -> Iterator[tuple[str, list[str]]]:
    """The first strokes of each command, as the page names a press: ``Ctrl+KeyS``."""
    for group in groups:
        for line in group.lines:
            found: dict[str, None] = {}
            for key in line.keys:
                for press in keymap.keyboard.presses_of(key.trigger):
                    held, code = press[0]
                    if " " not in code:
                        found["+".join((*held, code))] = None
            yield line.id, list(found)


def _aria(keymap: Keymap, groups: list[SheetGroup]) -> Iterator[tuple[str, str]]:
    """The keys of each command for ``aria-keyshortcuts``, which knows single strokes of keys only."""
    for group in groups:
        for line in group.lines:
            runs = [key.trigger for key in line.keys if len(key.trigger.strokes) == 1]
            found = [
                show_or_plain(run, "aria", keymap.keyboard)
                for run in runs
                if ":" not in run.strokes[0].key[1:]
            ]
            yield line.id, " ".join(found)


def _branches(groups: list[SheetGroup], context: "Surroundings") -> "tuple[Branch, ...]":
    """The typed runs as a tree; what the beginnings do alone stands with them."""
    titles: dict[tuple[Stroke, ...], dict[str, None]] = {}
    for group in groups:
        for line in group.lines:
            for key in line.keys:
                if key.where:
                    said = f"{line.title} ({key.where})"
                else:
                    said = line.title
                titles.setdefault(key.trigger.strokes, {})[said] = None
    runs = sorted((run for run in titles if len(run) > 1), key=lambda run: str(Run(run)))
    nexts: dict[tuple[Stroke, ...], dict[Stroke, None]] = {}
    for run in runs:
        for n, stroke in enumerate(run):
            nexts.setdefault(run[:n], {})[stroke] = None

    def grown(begun: tuple[Stroke, ...]) -> "tuple[Branch, ...]":
        from olive_compass.drawing.key_page_values import Branch

        return tuple(
            Branch(
                context.key(Run((each,))),
                " or ".join(titles.get((*begun, each), ())),
                grown((*begun, each)),
            )
            for each in nexts.get(begun, ())
        )

    return grown(())


def _rays(keymap: Keymap, rose: Iterable[RosePlace], unlike: set[int]) -> "tuple[Ray, ...]":
    from olive_compass.drawing.key_page_values import Ray

    return tuple(
        Ray(
            bearing=place.bearing,
            name=bearing_name(place.bearing),
            does=title_of(keymap, place.command) if place.command else "",
            differs=bool(place.command) and place.bearing in unlike,
        )
        for place in rose
    )
