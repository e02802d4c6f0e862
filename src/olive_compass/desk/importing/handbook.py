"""The sources of handbooks in XML, read like pages: their elements as those of a page.

Sources: DocBook 4 and 5 (tables of the CALS model, ``variablelist``, ``keycombo``), and the topics of help that
desktops show (``page``, ``terms``, ``keyseq``).
"""

from html import unescape

from olive_compass.core.keys.spellings import KEY_SPELLINGS, MODIFIER_SPELLINGS
from olive_compass.desk.importing.page_parser import PageParser

#: The element of a page that an element of a handbook is read as; a template is not seen.
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

_LISTS = frozenset(["terms", "variablelist", "list", "steps"])


def is_handbook(text: str) -> bool:
    """Whether a text is the source of a handbook."""
    head = text[:3000].lower()
    if "<html" in head:
        return False
    named = "docbook" in head or "projectmallard.org" in head
    return named or "<keycombo" in text or "<keyseq" in text


class HandbookParser(PageParser):
    """Reads the source of a handbook as the page that it becomes."""

    # A title of a page is text alone; here it has elements of its own.
    CDATA_CONTENT_ELEMENTS = ()  # type: ignore[misc]
    RCDATA_CONTENT_ELEMENTS = ()  # type: ignore[misc]

    def __init__(self, file: str) -> None:
        super().__init__(file, convert_charrefs=False)
        #: The elements that are open, the outermost first.
        self.within: list[str] = []

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        super().handle_starttag(self._as_page(tag), attrs)
        self.within.append(tag)

    def handle_endtag(self, tag: str) -> None:
        if tag in self.within:
            while self.within.pop() != tag:
                pass
        super().handle_endtag(self._as_page(tag))

    def handle_entityref(self, name: str) -> None:
        """Handbooks have entities of their own, some of them for keys: ``&Ctrl;``."""
        if name.lower() in MODIFIER_SPELLINGS or name.lower() in KEY_SPELLINGS:
            self.handle_starttag("key", [])
            self.handle_data(name)
            self.handle_endtag("key")
        else:
            text = unescape(f"&{name};")
            self.handle_data(name if text.startswith("&") and name != "amp" else text)

    def handle_charref(self, name: str) -> None:
        self.handle_data(unescape(f"&#{name};"))

    def _as_page(self, tag: str) -> str:
        """The element of a page that an element is read as where it stands."""
        inner = next((each for each in reversed(self.within) if each in _LISTS), "")
        if tag in ("item", "listitem", "varlistentry"):
            return self._item(tag, inner)
        if tag == "title":
            if inner == "terms" and "item" in self.within[-2:]:
                return "dt"
            return "h2"
        if tag == "p" and inner == "terms" and "td" not in self.within:
            return "dd"
        if tag == "entry" and "thead" in self.within:
            return "th"
        return _SAME.get(tag, tag)

    @staticmethod
    def _item(tag: str, inner: str) -> str:
        if inner == "variablelist" and tag == "listitem":
            return "dd"
        if inner in ("terms", "variablelist"):
            return "div"
        return "li"
