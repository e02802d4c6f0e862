"""The sources of handbooks in XML: their elements as those of a page, so that they are read like one.

Sources: DocBook 4 and 5 (tables of the CALS model, ``variablelist``, ``keycombo``), and the topics of help that
desktops show (``page``, ``terms``, ``keyseq``).
"""

import re

from olive_compass.core.keys.spellings import KEY_SPELLINGS, MODIFIER_SPELLINGS

#: The element of a page that an element of a handbook is; "" leaves it out with all in it.
_SAME = {
    "row": "tr",
    "entry": "td",
    "informaltable": "table",
    "variablelist": "dl",
    "terms": "dl",
    "term": "dt",
    "para": "p",
    "simpara": "p",
    "itemizedlist": "ul",
    "orderedlist": "ol",
    "list": "ul",
    "steps": "ol",
    "key": "kbd",
    "keycap": "kbd",
    "keysym": "kbd",
    "keycode": "kbd",
    "info": "template",
    "bookinfo": "template",
    "articleinfo": "template",
    "indexterm": "template",
    "titleabbrev": "template",
}

_TAG = re.compile(r"<(/?)([A-Za-z][\w:.-]*)((?:\s[^<>]*)?)>")
_ENTITY = re.compile(r"&(\w+);")
_OF_XML = frozenset(["amp", "lt", "gt", "quot", "apos"])


def is_handbook(text: str) -> bool:
    """Whether a text is the source of a handbook."""
    head = text[:3000].lower()
    return "<html" not in head and (
        "docbook" in head
        or "projectmallard.org" in head
        or "<keycombo" in text
        or "<keyseq" in text
    )


def as_page(text: str) -> str:
    """The source of a handbook as a page, line by line the same."""
    text = _ENTITY.sub(_key, text)
    return "<!doctype html>" + _Tags().converted(text)


def _key(found: re.Match[str]) -> str:
    """Handbooks name keys by entities of their own: ``&Ctrl;``."""
    name = found[1]
    if name in _OF_XML:
        return found[0]
    known = name.lower() in MODIFIER_SPELLINGS or name.lower() in KEY_SPELLINGS
    return f"<kbd>{name}</kbd>" if known else name


class _Tags:
    """Which elements are open, for those that mean something else in others."""

    def __init__(self) -> None:
        self.open: list[str] = []

    def converted(self, text: str) -> str:
        return _TAG.sub(self._tag, text)

    def _tag(self, found: re.Match[str]) -> str:
        close, name, rest = found[1], found[2].lower(), found[3]
        if close:
            while self.open and self.open.pop() != name:
                pass
            return f"</{self._as(name)}>"
        page = f"<{self._as(name)}>"
        if rest.endswith("/"):
            return page + f"</{self._as(name)}>"
        self.open.append(name)
        return page

    def _as(self, name: str) -> str:
        lists = [each for each in self.open if each in ("terms", "variablelist", "list", "steps")]
        inner = lists[-1] if lists else ""
        if name in ("item", "listitem", "varlistentry"):
            if inner == "variablelist" and name == "listitem":
                return "dd"
            return "div" if inner in ("terms", "variablelist") else "li"
        if name == "title":
            return "dt" if inner == "terms" and "item" in self.open[-2:] else "h2"
        if name == "p" and inner == "terms" and "td" not in self.open:
            return "dd"
        if name == "entry" and "thead" in self.open:
            return "th"
        return _SAME.get(name, name)
