"""``rose --as png``: the swipes of each mode as a compass rose."""

from collections.abc import Mapping

from olive_compass.cli.output.new_file import Into, put_new
from olive_compass.cli.output.pictures import speller
from olive_compass.cli.surroundings import Surroundings
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.meanings import title_of
from olive_compass.core.schemes.roses import RosePlace, differing
from olive_compass.desk.desk import Desk
from olive_compass.structs import replace


def picture(
    into: Into,
    context: Surroundings,
    desk: Desk,
    keymap: Keymap,
    found: Mapping[str, list[RosePlace]],
) -> int:
    """Runs ``swipes`` as a picture."""
    from olive_compass.drawing import rose_picture

    unlike = differing(found)
    roses = [
        rose_picture.Rose(
            mode,
            tuple(
                rose_picture.Way(
                    place.bearing,
                    title_of(keymap, place.command) if place.command else "",
                    place.bearing in unlike and bool(place.command),
                )
                for place in rose
            ),
        )
        for mode, rose in found.items()
    ]
    app = keymap.app
    subtitle = f"swipes; {' over '.join(keymap.stack.names)}; {desk.settings.name}"
    title = app.heading
    texts = [title, subtitle, *found, rose_picture.DIFFERS]
    texts += [way.title for rose in roses for way in rose.ways]
    spell = speller(into.out, context, texts)
    roses = [
        rose_picture.Rose(
            spell(rose.name), tuple(replace(way, title=spell(way.title)) for way in rose.ways)
        )
        for rose in roses
    ]
    page = rose_picture.laid_out(spell(title), spell(subtitle), roses)
    put_new(into, context, rose_picture.drawn(page, into.form))
    return 0
