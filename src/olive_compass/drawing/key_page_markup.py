"""The mark-up of the page of keys: an article for each application, with what its script fills."""

import math
from collections.abc import Iterable, Mapping, Sequence

from markupsafe import Markup
from msgspec import Struct
from msgspec.structs import asdict

from olive_compass.core.schemes.sheet import SheetLine
from olive_compass.drawing.group_colours import tints
from olive_compass.drawing.key_page_values import Branch, Ray, Shown
from olive_compass.drawing.rose_labels import beside_upright, gap
from olive_compass.drawing.sheet_markup import sections
from olive_compass.drawing.web_pages import NOTHING, caps, filled, for_each, joined


def security(digest: str) -> Markup:
    """What lets only the script of this SHA-256, in base 64, run on the page."""
    return filled(_SECURITY, digest)


def tools(apps: Sequence[Shown]) -> Markup:
    """The fields that look for words and presses, and a tab for each application."""
    tabs = (
        filled(
            _TAB,
            name=app.name,
            title=app.title,
            chosen="false" if n else "true",
            index=-1 if n else 0,
        )
        for n, app in enumerate(apps)
    )
    return filled(_TOOLS, joined(tabs))


def article(app: Shown) -> Markup:
    """An application: choices and boards for the script, and the sheet, runs and roses for all."""
    return filled(
        _ARTICLE,
        name=app.name,
        title=app.title,
        subtitle=app.subtitle,
        held=for_each(_HELD, app.held),
        modes=_modes(app) if len(app.modes) > 1 else NOTHING,
        sections=sections(app.groups, "h3", lambda line: _attributes(app, line), tints(app.menus)),
        runs=filled(_RUNS, _tree(app.runs)) if app.runs else NOTHING,
        roses=_roses(app.roses) if app.roses else NOTHING,
    )


def scripts(data: Markup, script: Markup) -> Markup:
    """The page's data, as JSON, and its script: both must be safe where they stand."""
    return filled(_SCRIPTS, data=data, script=script)


def _modes(app: Shown) -> Markup:
    first = app.opens or app.modes[0]
    choices = (
        filled(
            _MODE,
            app=app.name,
            number=n,
            mode=mode,
            checked=" checked" if mode == first else NOTHING,
        )
        for n, mode in enumerate(app.modes)
    )
    note = ""
    if app.opens:
        note = f"most keys work in {first}"
    return filled(_MODES, joined(choices), note=note)


def _attributes(app: Shown, line: SheetLine) -> Markup:
    presses, aria = " ".join(app.presses.get(line.id, ())), app.aria.get(line.id, "")
    return joined(
        (
            filled(_PRESSES, presses) if presses else NOTHING,
            filled(_ARIA, aria) if aria else NOTHING,
        )
    )


def _tree(branches: Iterable[Branch]) -> Markup:
    return filled(
        _UL,
        joined(
            filled(
                _BRANCH,
                stroke=caps((each.stroke,)),
                does=each.does,
                more=_tree(each.branches) if each.branches else NOTHING,
            )
            for each in branches
        ),
    )


def _roses(roses: Mapping[str, Sequence[Ray]]) -> Markup:
    figures = (
        filled(
            _ROSE,
            mode=mode,
            size=_size(len(rays)),
            needles=joined(map(_needle, rays)),
            rays=joined(map(_ray, rays)),
        )
        for mode, rays in roses.items()
    )
    differs = any(ray.differs for rays in roses.values() for ray in rays)
    return filled(_ROSES, figures=joined(figures), note=_DIFFERS if differs else NOTHING)


def _size(ways: int) -> str:
    """How much larger than others a rose is whose labels need more room, and how wide what stands above it can be."""
    # Two lines of a label, of the height of the box.
    large = max(1.0, 12 / 37 / gap(ways))
    upright = 2 * (25 * beside_upright(ways) + 1.5) if ways > 8 else 90
    return f"--large: {large:.2f}; --upright: {upright:.0f}%"


def _needle(ray: Ray) -> Markup:
    if not ray.does:
        kind = "empty"
    elif ray.differs:
        kind = "differs"
    else:
        kind = ""
    return filled(_NEEDLE, kind=kind, bearing=ray.bearing)


def _ray(ray: Ray) -> Markup:
    return filled(
        _RAY,
        **asdict(place(ray.bearing)),
        name=ray.name,
        sign=_OTHER if ray.differs else NOTHING,
        does=ray.does or _EMPTY,
    )


class Beside(Struct, frozen=True):
    """Where what is said of a bearing stands beside a rose: on which side, and from where in parts of a
    hundred."""

    side: str
    x: float
    y: float


def place(bearing: int) -> Beside:
    """The place of a label around a rose that takes the middle half of its box.

    >>> place(0), place(90).side, place(240).side
    (Beside(side='n', x=50.0, y=13.0), 'e', 'w')
    """
    angle = math.radians(bearing)
    east, south = math.sin(angle), -math.cos(angle)
    side = ("n" if south < 0 else "s") if abs(east) < 0.1 else "e" if east > 0 else "w"
    if side == "e":
        beside = 1.5
    elif side == "w":
        beside = -1.5
    else:
        beside = 0.0
    return Beside(side, round(50 + east * 25 + beside, 2), round(50 + south * 37, 2))


_SECURITY = (
    '<meta http-equiv="Content-Security-Policy" content="default-src \'none\'; '
    "style-src 'unsafe-inline'; script-src 'sha256-{}'\">"
)

_TOOLS = """\
<div class="bar scripted" hidden>
  <label>Find <input id="words" type="search" placeholder="words of a command" autocomplete="off"></label>
  <label>Press <input id="press" readonly value="" placeholder="click, then press a key"></label>
  <button id="clear" type="button">Show all</button>
  <output id="count" aria-live="polite"></output>
</div>
<ul id="found" aria-label="Commands found" hidden></ul>
<div class="tabs scripted" role="tablist" aria-label="Applications" hidden>
{}</div>
"""

_TAB = (
    '  <button type="button" role="tab" id="tab-{name}" aria-controls="app-{name}" '
    'aria-selected="{chosen}" tabindex="{index}">{title}</button>\n'
)

_ARTICLE = """\
<article class="app" id="app-{name}" data-app="{name}">
  <h2 class="name">{title} <span class="soft">{subtitle}</span> <span class="state"></span></h2>
  <div class="scripted" hidden>
    <div class="bar">
      <fieldset class="held"><legend>Held</legend>
{held}      </fieldset>
{modes}    </div>
    <div class="boards" aria-label="Keyboard of {title}" role="group"></div>
    <div class="reason" aria-live="polite"><p class="soft">Point at a key, or walk there with Tab and \
the arrows: what it does here, and why.</p></div>
    <p class="room"></p>
    <p class="legend"></p>
    <div class="devices" aria-label="Beside the keyboard" role="group"></div>
  </div>
  <main>
{sections}  </main>
{runs}{roses}</article>
"""

_HELD = '<label><input type="checkbox" value="{0}">{0}</label>'

_MODES = """\
<fieldset class="mode"><legend>Mode</legend>
{}      <small>{note}</small></fieldset>"""

_MODE = '<label><input type="radio" name="mode-{app}" value="{number}"{checked}>{mode}</label>'

_PRESSES = ' data-presses="{}"'
_ARIA = ' aria-keyshortcuts="{}"'

_RUNS = """\
  <section class="runs"><h3>Typed one after another</h3>{}</section>
"""
_UL = "<ul>{}</ul>\n"
_BRANCH = "<li>{stroke} {does}{more}</li>"

_ROSES = """\
  <section class="roses"><h3>Swipes</h3>
  <div class="all">
{figures}  </div>
{note}  </section>
"""

_ROSE = """\
    <figure><figcaption>{mode}</figcaption>
      <div class="rose" style="{size}">
        <svg viewBox="-100 -100 200 200" aria-hidden="true"><circle r="92"/><circle r="62"/>
{needles}        </svg>
        <ul>
{rays}        </ul>
      </div>
    </figure>
"""

_NEEDLE = '<path class="{kind}" transform="rotate({bearing})" d="M0 0 L6 -22 L0 -60 L-6 -22 Z"/>'

_RAY = '          <li class="{side}" style="left:{x}%;top:{y}%"><b>{name}</b> {sign}{does}</li>\n'
_OTHER = Markup('<span title="another command in another mode">≠</span> ')
_EMPTY = Markup('<span class="soft">empty</span>')
_DIFFERS = Markup('<p class="soft">≠ another command in another mode</p>')

_SCRIPTS = """\
<script type="application/json" id="keys">{data}</script>
<script>{script}</script>
"""
