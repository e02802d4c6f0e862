"""One page to look at: the keyboard of each application, its sheet, runs and roses, in one HTML file.

The page decides nothing: what each press does in each mode is worked out before and put into it.
"""

import base64
import hashlib
import json
from collections.abc import Sequence
from typing import Any

from markupsafe import Markup

from olive_compass.drawing.group_colours import tints
from olive_compass.drawing.key_page_markup import article, scripts, security, tools
from olive_compass.drawing.key_page_values import Seen, Shown
from olive_compass.drawing.web_pages import heading, joined, page, resource


def as_page(title: str, subtitle: str, apps: Sequence[Shown]) -> str:
    """The page as one file without any address outside itself; no title in it can run anything: only the
    script whose hash stands at its head may."""
    script = resource("page.js")
    digest = base64.b64encode(hashlib.sha256(script.encode()).digest()).decode()
    body = heading(title, subtitle) + tools(apps) + joined(map(article, apps))
    # No text of a desk stands in the script, and none in the data ends the element: see _embedded.
    body += scripts(Markup(_embedded({app.name: _data(app) for app in apps})), Markup(script))
    styles = ["sheet.css", "page.css"]
    return page(f"{title}: keys", body, styles=styles, head=security(digest))


def _data(app: Shown) -> dict[str, Any]:
    """What the script looks up, each answer once."""
    known: dict[Seen, int] = {Seen(state="free"): 0}
    grid = {
        held: {
            code: [known.setdefault(seen, len(known)) for seen in found]
            for code, found in keys.items()
        }
        for held, keys in app.grid.items()
    }
    return {
        "modes": app.modes,
        "held": app.held,
        "boards": [{"title": board.title, "keys": board.keys} for board in app.boards],
        "seen": [
            {"state": seen.state, "text": seen.text, "why": seen.reasons, "group": seen.group}
            for seen in known
        ],
        "grid": grid,
        "tints": tints(app.menus),
        "title": app.title,
        "commands": [
            [each.title, each.menu, each.keys, app.modes.index(each.mode), each.presses]
            for each in app.commands
        ],
    }


def _embedded(data: Any) -> str:
    """JSON that may stand in a page: nothing in it ends the element that it stands in."""
    text = json.dumps(data, ensure_ascii=False, separators=(",", ":"))
    for sign in "<>&\u2028\u2029":
        text = text.replace(sign, f"\\u{ord(sign):04x}")
    return text
