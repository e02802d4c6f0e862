"""What the words of a title say: which of them are one word, which add nothing, which are opposites.

The words are those of general English dictionaries and of the trades that draw, set, print, play and cut.
"""

from collections.abc import Iterable
from functools import cache

from snowballstemmer import stemmer


def _set(text: str) -> frozenset[str]:
    return frozenset(text.split())


#: Words that tell no two commands apart.
SMALL = _set("the a an your this that its it to into and or s")

#: Words that are written for one another, by the word that stands for them.
SAME_WORD = {
    "delete": "del remove erase",
    "quit": "exit leave",
    "previous": "prev before preceding",
    "next": "following",
    "start": "begin beginning",
    "larger": "bigger enlarge increase",
    "smaller": "decrease reduce",
    "rotate": "turn rotation",
    "mirror": "flip reflect",
    "color": "colour colours colors",
    "center": "centre centred centered",
    "gray": "grey",
    "preferences": "prefs settings options configuration configure",
    "document": "doc",
    "find": "seek locate",
    "fullscreen": "fullscreeen",
    "spell": "spelling spellcheck spellchecker",
    "duplicate": "dup",
    "properties": "props",
    "new": "create make",
    "make": "produce",
    "picture": "image photo",
    "page": "sheet slide",
    "handbook": "manual",
    "list": "palette panel pane sidebar",
    "superscript": "superscripted",
    "spread": "distribute",
    "crop": "trim",
    "selection": "sel",
    "horizontal": "horiz",
    "vertical": "vert",
    "background": "bg",
    "foreground": "fg",
    "information": "info",
    "number": "num",
    "vertex": "vertices vertexes node",
    "measure": "measuring",
    "magnify": "magnification magnifying",
    "all": "every everything",
    "hyphen": "hyphens",
    "breaking": "break",
}

#: Words for the thing that a command is done to, or for what it opens: they add nothing where the rest says it.
NEUTRAL = _set(
    "select selection object item element window dialog toolbar box tool command "
    "program application app current active clipboard cursor view content text edge"
)

#: Verbs that say no more than that a command is started, at the head of a title.
LEADING = _set("go jump open call activate toggle show display switch use run start enable set")

#: Verbs that are done to the selection anyway: to name it adds nothing, nor does the thing that an application is
#: about, such as the page of one that folds pages.
ON_SELECTION = _set(
    "cut copy paste delete duplicate group ungroup combine join split lock unlock hide rotate mirror scale move "
    "crop edit center smooth simplify"
)

#: Verbs that are done to the document as a whole: its name adds nothing.
ON_DOCUMENT = _set("new open save close print fit whole revert proof")

#: Words that set a command apart from one without it: what they are added to is another command.
TELLING = _set(
    "all none no not without with as other others every next previous first last in out up down left right "
    "front back forward backward copy recent under over special plain"
)

_OPPOSITES = (
    "in out",
    "up down upward downward above below",
    "left right center justify",
    "top bottom middle",
    "next previous",
    "first last",
    "front back forward backward",
    "start end",
    "show hide",
    "lock unlock",
    "group ungroup",
    "larger smaller",
    "warmer cooler",
    "wider tighter narrower",
    "harder softer",
    "raise lower",
    "all none odd even every",
    "row column cell table",
    "horizontal vertical",
    "new delete add insert",
    "cut copy paste",
    "undo redo",
    "word line sentence paragraph page document character block frame section chapter",
    "with without",
    "import export",
    "open close save print new quit",
    "bold italic underline",
    "superscript subscript",
    "play pause stop record",
    "grow shrink expand contract",
    "select deselect invert",
    "north south east west",
    "header footer",
    "text picture layer path color",
    "join split",
    "on off",
    "mark unmark",
    "comment uncomment",
    "link unlink",
    "mute unmute solo",
    "town village hamlet farm",
)


@cache
def word_of(written: str) -> str:
    """The word that ``written`` (folded) counts as.

    >>> word_of("pastes"), word_of("erase") == word_of("removes"), word_of("eraser") == word_of("erase")
    ('paste', True, False)
    """
    return _SAME.get(written) or _SAME.get(_stem(written)) or _stem(written)


def stems(words: Iterable[str]) -> frozenset[str]:
    """``words`` as they are compared."""
    return frozenset(map(word_of, words))


_STEMMER = stemmer("english")


def _stem(word: str) -> str:
    # A tool is not what is done with it: an eraser is picked up, to erase is done at once.
    if word.endswith(("er", "ers", "or", "ors")):
        return word.rstrip("s")
    return str(_STEMMER.stemWord(word))


_SAME = {
    _stem(other): _stem(word) for word, others in SAME_WORD.items() for other in others.split()
} | {other: _stem(word) for word, others in SAME_WORD.items() for other in others.split()}

SMALL_WORDS, NEUTRAL_WORDS = SMALL, stems(NEUTRAL)
LEADING_WORDS, SELECTING, DOCUMENTS = stems(LEADING), stems(ON_SELECTION), stems(ON_DOCUMENT)
TELLING_WORDS = stems(TELLING)
FAMILIES = tuple(stems(family.split()) for family in _OPPOSITES)


def opposed(one: str, other: str) -> bool:
    """Whether two words are of one family whose members exclude each other.

    >>> opposed(word_of("next"), word_of("prev")), opposed("save", "zoom")
    (True, False)
    """
    return one != other and any(one in family and other in family for family in FAMILIES)
