"""The forms of a title: as written, and without words that add nothing."""

import re
from collections.abc import Collection, Iterable

from msgspec import Struct

from olive_compass.core.apps.naming import plain_title
from olive_compass.core.apps.search import fold
from olive_compass.core.sharing.title_words import (
    DOCUMENTS,
    LEADING_WORDS,
    NEUTRAL_WORDS,
    SELECTING,
    SMALL_WORDS,
    TELLING_WORDS,
    stems,
    word_of,
)

#: The words of a title, sorted: the order of words tells no two commands apart, but see ``turned``.
Form = tuple[str, ...]

#: How far a form is from the title: nothing is left out, a word that adds nothing, the verb that starts it.
EXACT, SHORTER, BARE = 0, 1, 2

#: What people write where a command does one thing and its opposite, and what a verb says by itself.
_BOTH_WAYS = re.compile(r"\b(?:on\s*/\s*off|on and off|show\s*/\s*hide|shows or hides)")
_SAID_ANYWAY = re.compile(
    r"(?<=\w) (?:the )?last (?:action|command|step)\b|(?<=\bcut) out|(?<=\bcuts) out"
)

#: Where the first part of a sentence of a manual ends, and what stands in brackets.
_ENDS = re.compile(r"[.;:]\s|\s[–—-]\s")
_BRACKETS = re.compile(r"\s*[(\[].*?[)\]]")

#: A sentence has so many words at least: with fewer, what ends in a stop is a word cut short, and what ends in a
#: colon a heading.
SENTENCE = 2

#: What is done to an application as a whole.
_TO_ITSELF = stems(("quit", "about", "help", "hide", "preferences", "handbook", "restart"))

_WORDS = re.compile(r"[^\W_]+")

#: Words between which the order counts: a path to a selection is no selection to a path.
_JOINING = frozenset(("to", "from", "into", "as"))


def words_in(title: str, without: Collection[str] = ()) -> list[str]:
    """The words of a title as they are compared, in its order, each once; ``without`` are the words of the
    application's name, left out where that adds nothing.

    >>> words_in("Saves the sheet as…"), words_in("Leave Quillmap", ["quillmap"])
    (['save', 'page', 'as'], ['quit'])
    """
    text = _BOTH_WAYS.sub("toggle", plain_title(fold(title)))
    text = _SAID_ANYWAY.sub("", first_part(text))
    found = dict.fromkeys(word_of(word) for word in _WORDS.findall(text) if word not in SMALL_WORDS)
    rest = [word for word in found if word not in without]
    # Its name adds nothing to what is done to the application itself; elsewhere it is a word like others.
    if rest and set(rest) <= _TO_ITSELF:
        words = rest
    else:
        words = list(found)
    # A title of signs is a word by itself, and so are words that else add nothing.
    return words or _WORDS.findall(text) or [title.strip()]


class Nouns(Struct, frozen=True):
    """The words that an application's titles can do without.

    ``documents`` are what it makes, opens and saves; ``objects`` what most of its verbs are done to; ``name`` the
    words of its own name.
    """

    documents: frozenset[str] = frozenset()
    objects: frozenset[str] = frozenset()
    name: frozenset[str] = frozenset()


NO_NOUNS = Nouns()


def forms(title: str, nouns: Nouns = NO_NOUNS) -> dict[Form, int]:
    """The forms of a title, each with how far it is from it: the nearest is 0.

    >>> forms("Cut selection")
    {('cut', 'select'): 0, ('cut',): 1}
    >>> forms("Go to next page")
    {('go', 'next', 'page'): 0, ('next', 'page'): 2}
    """
    words = words_in(title, nouns.name)
    found: dict[Form, int] = {}
    _note(found, words, EXACT)
    shorter = without_neutral(words)
    _note(found, shorter, SHORTER)
    first = shorter[0]
    if first in DOCUMENTS:
        general = {*nouns.documents, *_DOCUMENTS}
        _note(found, without_dangling([w for w in shorter if w not in general], words), SHORTER)
    elif first in SELECTING and set(shorter[1:]) <= nouns.objects and " to " not in title:
        _note(found, shorter[:1], SHORTER)
    rest = _without_verb(shorter)
    if len(rest) < len(shorter) and _is_a_name(rest):
        _note(found, rest, BARE)
    return found


def _without_verb(words: list[str]) -> list[str]:
    """The words without the verb that starts them, and without “toggle”."""
    rest = [word for word in words if word != "toggl"]
    if rest and rest[0] in LEADING_WORDS:
        return rest[1:]
    return rest


_PREPOSITIONS = frozenset(("as", "from", "with", "in", "on", "for", "of"))

#: Words for documents that all applications have, and words that are a place after “go to” and a verb elsewhere.
_DOCUMENTS = frozenset(("document", "file", "page"))
_VERBS_TOO = frozenset(("end", "start", "stop", "close"))


def _is_a_name(rest: list[str]) -> bool:
    """Whether a title without the verb that starts it is still one.

    What tells commands apart is none by itself (“Show all”, “Go back”), nor is another verb (“Open group”) or an end
    that one goes to: elsewhere that ends something.
    """
    if not set(rest) - TELLING_WORDS or rest[0] in _VERBS_TOO:
        return False
    return len(rest) > 1 or rest[0] not in SELECTING


def without_neutral(words: list[str]) -> list[str]:
    """``words`` without those that add nothing; all of them where nothing else is there."""
    rest = [
        word
        for n, word in enumerate(words)
        if word not in NEUTRAL_WORDS
        # To select is a verb; a selection adds nothing only where the verb is done to it anyway.
        or (word == "select" and (n == 0 or words[0] not in SELECTING))
    ]
    return without_dangling(rest, words) or words


def without_dangling(rest: list[str], words: list[str]) -> list[str]:
    """``rest`` of ``words`` without the preposition at its end whose noun was left out."""
    if rest and rest[-1] != words[-1] and rest[-1] in _PREPOSITIONS:
        return rest[:-1]
    return rest


def essential(found: dict[Form, int]) -> Form:
    """Of the forms of a title that without words that add nothing, but with its verb."""
    return max(found.items(), key=lambda entry: (entry[1] < BARE, entry[1]))[0]


def turned(title: str) -> tuple[str, ...]:
    """The words of a title in their order where the order counts, else nothing.

    >>> turned("Path to selection") == turned("Selection to path")
    False
    """
    written = _WORDS.findall(plain_title(fold(title)))
    at = next((n for n, word in enumerate(written) if word in _JOINING), 0)
    words = words_in(title)
    if at and len(words) > 1 and words[0] not in LEADING_WORDS:
        return tuple(words)
    return ()


def nouns_of(name: str, titles: Iterable[str]) -> Nouns:
    """The words that an application's titles can do without: those for its documents, which it makes, opens, saves
    and closes by one name, and that for the thing it is about, to which it does three things and more.

    >>> nouns = nouns_of("Foldpress", ["New job", "Open job…", "Move page", "Crop page", "Scale page", "New tint"])
    >>> sorted(nouns.documents), sorted(nouns.objects)
    (['job'], ['page'])
    """
    verbs: dict[str, set[str]] = {}
    for title in titles:
        first, *rest = words_in(title)
        for word in rest if first in DOCUMENTS else rest[-1:] if first in SELECTING else ():
            verbs.setdefault(word, set()).add(first)
    return Nouns(
        frozenset(word for word, some in verbs.items() if len(some & DOCUMENTS) > 1),
        frozenset(word for word, some in verbs.items() if len(some & SELECTING) > 2),
        frozenset(words_in(name)),
    )


def first_part(text: str) -> str:
    """What a sentence of a manual says first, without what it adds in brackets.

    >>> first_part("Soft hyphens; hyphenation set by you"), first_part("Hard hyphen (is not used to break)")
    ('Soft hyphens', 'Hard hyphen')
    """
    ends = (end.start() for end in _ENDS.finditer(text))
    end = next((at for at in ends if len(text[:at].split()) >= SENTENCE), len(text))
    short = _BRACKETS.sub("", text[:end])
    if short.strip():
        return short
    return text


def _note(found: dict[Form, int], words: Iterable[str], level: int) -> None:
    form = tuple(sorted(set(words)))
    if form:
        found.setdefault(form, level)
