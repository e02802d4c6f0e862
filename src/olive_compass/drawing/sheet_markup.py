"""The groups and lines of a sheet as mark-up: they stand on the page of a sheet and on the page of keys."""

from collections.abc import Callable, Iterable, Mapping
from types import MappingProxyType

from markupsafe import Markup

from olive_compass.core.schemes.sheet import SheetGroup, SheetKey, SheetLine
from olive_compass.core.wording import clause
from olive_compass.drawing.web_pages import NOTHING, caps, filled, joined, strokes

#: What a line says of itself beside its text: the attributes of its element.
Attributes = Callable[[SheetLine], Markup]


def plain_line(_line: SheetLine) -> Markup:
    """A line that says nothing but its text."""
    return NOTHING


def sections(
    groups: Iterable[SheetGroup],
    level: str,
    attributes: Attributes = plain_line,
    tints: Mapping[str, str] = MappingProxyType({}),
) -> Markup:
    """A section for each group, its name a heading of ``level`` (``h2``) with the colour that it has on keyboards."""
    return joined(_section(group, level, attributes, tints.get(group.name, "")) for group in groups)


def _section(group: SheetGroup, level: str, attributes: Attributes, tint: str) -> Markup:
    first, *others = (_row(line, attributes(line)) for line in group.lines)
    return filled(
        _SECTION,
        level=Markup(level),
        tint=filled(_TINT, tint) if tint else NOTHING,
        name=group.name,
        first=first,
        others=filled(_LIST, joined(others)) if others else NOTHING,
    )


def _row(line: SheetLine, attributes: Markup) -> Markup:
    return filled(
        _ROW,
        attributes=attributes,
        keys=joined((_key(key, line) for key in line.keys), _OR) or _none(line.note),
        title=line.title,
        where=filled(_MODES, line.where) if line.where else NOTHING,
        asks=filled(_MODES, f"asks {', '.join(line.asks)}") if line.asks else NOTHING,
    )


def _key(key: SheetKey, line: SheetLine) -> Markup:
    return filled(
        _KEY,
        strokes=joined((filled(_STROKE, caps(each, _BREAK)) for each in strokes(key.text)), " "),
        # The modes of a line are said once, after its title.
        where=filled(_MODES, key.where) if key.where and key.where != line.where else NOTHING,
    )


def _none(reason: str) -> Markup:
    return filled(_NONE, clause(": {}", reason))


_SECTION = """\
<section>
  <div class="first"><{level}>{tint}{name}</{level}><dl>{first}</dl></div>
{others}</section>
"""

_TINT = '<i class="tint" style="background:{}"></i>'

_LIST = "<dl>{}</dl>"

_ROW = """\
  <div class="row"{attributes}>
    <dt>{keys}</dt>
    <dd>{title}{where}{asks}</dd>
  </div>
"""

_KEY = '<span class="trigger">{strokes}{where}</span> '
#: Said where several keys start one command; what is copied from the page says it, too.
_OR = '<span class="modes">or</span> '
_STROKE = '<span class="stroke">{}</span>'
_MODES = '<span class="modes"> {}</span>'
_BREAK = Markup("+<wbr>")
_NONE = '<span class="none">none{}</span>'
