"""Our own HTML pages: the frame around them, and the pieces of mark-up that stand in several.

All of it is put together by ``filled`` and ``joined``, which escape every text that is put in. A template
language would cost a command more at its start than all else that it does.
"""

import os
from collections.abc import Iterable, Sequence
from functools import cache
from string import Template

from markupsafe import Markup, escape

NOTHING = Markup("")

_PLUS, _CAP, _END = Markup("+"), Markup("<kbd>"), Markup("</kbd>")


def page(
    title: str,
    body: Markup,
    *,
    styles: Sequence[str] = (),
    head: Markup = NOTHING,
    foot: str = "",
) -> str:
    """A page in one file: its title, what stands in it, the style sheets of ``templates/`` that it needs
    added to the one of every page, the content of its head, and the text of its foot."""
    return Template(resource("page.html")).substitute(
        title=escape(title),
        style="".join(resource(name).rstrip("\n") for name in styles),
        head=head,
        body=body,
        foot=escape(foot),
    )


@cache
def resource(name: str) -> str:
    """The text of a file of ``templates/``."""
    # A plain path: importlib.resources brings more modules than all of a sheet.
    with open(os.path.join(os.path.dirname(__file__), "templates", name), encoding="utf-8") as file:
        return file.read()


def joined(parts: Iterable[str], between: str = "") -> Markup:
    """The parts one after another; plain text is escaped.

    >>> str(joined(["<", Markup("<hr>")]))
    '&lt;<hr>'
    """
    return Markup(between).join(parts)


def filled(pattern: str, *texts: object, **named: object) -> Markup:
    """A pattern of ours, as of ``str.format``, in which each text stands escaped; what is mark-up already
    stands as it is.

    >>> str(filled("<b>{}</b>{more}", "<", more=Markup("<hr>")))
    '<b>&lt;</b><hr>'
    """
    safe = {name: escape(text) for name, text in named.items()}
    return Markup(pattern.format(*map(escape, texts), **safe))


def for_each(pattern: str, texts: Iterable[object]) -> Markup:
    """The pattern filled with each text in turn."""
    return joined(filled(pattern, text) for text in texts)


def heading(title: str, subtitle: str) -> Markup:
    """What stands at the top of a page, or of a part of it."""
    return filled(_HEADING, title=title, subtitle=subtitle)


def table(headings: Sequence[str], rows: Iterable[Markup]) -> Markup:
    """A table that scrolls by itself where a window is too narrow; the rows are whole ``tr``."""
    return filled(_TABLE, headings=for_each(_TH, headings), rows=joined(rows))


def strokes(key: str) -> list[list[str]]:
    """A trigger as strokes of single keys, for one ``<kbd>`` each.

    >>> strokes("Ctrl+Shift+B"), strokes("G D"), strokes("Ctrl++")
    ([['Ctrl', 'Shift', 'B']], [['G'], ['D']], [['Ctrl', '+']])
    """
    found = []
    for stroke in key.split(" "):
        if not stroke.endswith("+"):
            *held, last = stroke.split("+")
        else:
            *held, last = (*stroke[:-2].split("+"), "+")
        if stroke.endswith("Num+"):
            held, last = [part for part in stroke[:-4].split("+") if part], "Num+"
        found.append([part for part in (*held, last) if part])
    return found


def caps(parts: Iterable[str], between: Markup = _PLUS) -> Markup:
    """Single keys, each on a cap of its own.

    >>> str(caps(["Ctrl", "<"]))
    '<kbd>Ctrl</kbd>+<kbd>&lt;</kbd>'
    """
    # One join and no pattern for each: a sheet has a thousand caps.
    return _CAP + (_END + between + _CAP).join(parts) + _END


_HEADING = """\
<header>
  <h1>{title}</h1>
  <p>{subtitle}</p>
</header>
"""

_TABLE = """\
<div class="wide"><table>
  <tr>{headings}</tr>
{rows}</table></div>
"""

_TH = "<th>{}</th>"
