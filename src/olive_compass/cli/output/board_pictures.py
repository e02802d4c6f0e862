"""``board --as png``: the keyboard as a picture, with what each key does."""

from functools import partial
from typing import TYPE_CHECKING

from olive_compass.cli.output.new_file import Into, put_new
from olive_compass.cli.output.pictures import speller
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.answers.board import BoardQuery, menu_of
from olive_compass.core.keys.forms import Form
from olive_compass.desk.desk import Desk
from olive_compass.drawing.board_panels import panels_of, spelt, texts_of

if TYPE_CHECKING:
    pass


def picture(
    into: Into,
    by_purpose: bool,
    only_used: bool,
    context: Surroundings,
    desk: Desk,
    what: BoardQuery,
) -> int:
    """Runs ``board`` as a picture: in colours by purpose or by menu, of all boards or those in use."""
    from olive_compass.drawing import board_picture
    from olive_compass.drawing.board_picture import Panel, laid_out

    keymap = what.keymap
    form = keymap.keyboard.form
    assert form is not None
    if by_purpose:
        group = partial(desk.purposes.group_of, keymap.app.name)
        groups = desk.purposes.groups
    else:
        group, groups = partial(menu_of, keymap), keymap.app.catalogue.top_menus
    panels = panels_of(what, form, group, only_used)
    title, subtitle = keymap.app.heading, _subtitle(desk, what, form)
    # What no font has is spelt out before widths are measured: it takes more room then.
    spell = speller(into.out, context, texts_of(title, subtitle, panels))
    panels = [
        Panel(
            spell(panel.title),
            panel.form,
            {code: spelt(key, spell) for code, key in panel.keys.items()},
        )
        for panel in panels
    ]
    page = laid_out(spell(title), spell(subtitle), panels, [spell(each) for each in groups])
    put_new(into, context, board_picture.drawn(page, into.form))
    return 0


def _subtitle(desk: Desk, what: BoardQuery, form: Form) -> str:
    parts = [what.where, " over ".join(what.keymap.stack.names)]
    if what.against:
        parts.append(f"held against {what.knows}")
    return "; ".join([*parts, f"{form.title}, {desk.settings.layout}", desk.settings.name])
