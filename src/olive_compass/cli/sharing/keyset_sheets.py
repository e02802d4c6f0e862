"""``sheet --keyset``: purposes down, applications across, for the wall of a studio."""

from typing import TYPE_CHECKING

from olive_compass.cli.output.forms import Matter, give_table
from olive_compass.cli.output.papers import Wanted
from olive_compass.cli.sharing.keyset_tables import LEGEND, SIGNS, tell_set
from olive_compass.cli.sharing.keysets import keyset_named
from olive_compass.cli.surroundings import Surroundings
from olive_compass.cli.terminal.tables import most_rows
from olive_compass.core.sharing.keysets import ABSENT, SAME, Cell, by_purposes, cells
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import purposes_file
from olive_compass.desk.views import keymaps_of_apps
from olive_compass.errors import UserError

if TYPE_CHECKING:
    from olive_compass.drawing.documents import Cell as Printed


def sheet_of_set(
    name: str, apps: list[str], asked: Wanted, context: Surroundings, desk: Desk
) -> int:
    """Runs ``sheet --keyset``."""
    if asked.form in ("text", "json"):
        if asked.into.out:
            raise UserError("JSON of a key set is for stdout.", hint="Use --json > FILE.")
        as_json = asked.form == "json"
        return tell_set(desk, context, name, apps, as_json, limit=most_rows(context))
    from olive_compass.drawing.documents import Cell as Printed
    from olive_compass.drawing.documents import Table
    from olive_compass.drawing.key_caps import printed

    keyset = keyset_named(desk, name)
    maps = keymaps_of_apps(desk, apps)
    purposes = purposes_file.load(desk.root)
    by_purpose = by_purposes(cells(keyset, purposes, maps))
    # On paper every purpose has its line; what is missing in an application shows as a gap to fill.
    rows = []
    for id_, entry in keyset.keys.items():
        known = purposes.by_id.get(id_)
        wished = tuple(printed(run, context.key) for run in entry.triggers)
        found = (_cell(context, each) for each in by_purpose.get(id_, []))
        rows.append((Printed(known.title if known else id_), Printed("", wished), *found))
    headings = ("purpose", "set", *(keymap.app.title for keymap in maps))
    subtitle = f"{desk.settings.name} · {context.now().date().isoformat()}"
    legend = tuple(part.strip() for part in LEGEND.split("   "))
    matter = Matter(keyset.title, subtitle, ("no sign: as in the set", *legend[1:]))
    give_table(asked, context, matter, Table(headings, tuple(rows)), "a4", lying=len(maps) > 2)
    return 0


def _cell(context: Surroundings, each: Cell) -> "Printed":
    """A cell: the keys, with a sign and who holds the key where it is not as in the set."""
    from olive_compass.drawing.documents import Cell as Printed
    from olive_compass.drawing.key_caps import printed

    if each.state == ABSENT:
        return Printed()
    keys = tuple(printed(run, context.key) for run in each.triggers)
    if each.state == SAME:
        return Printed("", keys)
    sign = SIGNS[each.state][0]
    return Printed(" ".join(filter(None, (sign, each.holder))), keys)
