"""What people note about a command in the catalogue's column ``marks``."""

from collections.abc import Iterable

from msgspec import Struct

#: Marks that are a single word.
WORDS = ("long-running", "irreversible", "often", "withdrawn", "fixed", "never", "icon")


class Marks(Struct, frozen=True, kw_only=True):
    """What a command is marked with.

    ``long_running``: it takes a long time; ``irreversible``: it cannot be undone; ``often``: it is used all day;
    ``withdrawn``: the application has it no longer; ``fixed``: no key can be given to it;
    ``never``: it is in the list but never enabled; ``icon``: it has one, as some trays need. ``needs`` is a licence or add-on, ``alternate``
    the id of the menu item in whose place it appears, ``acts`` what it does on the simulator; ``said`` names
    the fields that a person said and no listing may change (``title+menu``), or is ``command``.
    ``others`` are words that mean nothing to us and are kept.
    """

    long_running: bool = False
    irreversible: bool = False
    often: bool = False
    withdrawn: bool = False
    fixed: bool = False
    never: bool = False
    icon: bool = False
    needs: str = ""
    alternate: str = ""
    acts: str = ""
    said: str = ""
    others: tuple[str, ...] = ()

    @property
    def disruptive(self) -> bool:
        """Whether pressing it by mistake costs more than an undo."""
        return self.long_running or self.irreversible

    @property
    def warning(self) -> str:
        """What a person is to know before it is started, ``""``: nothing.

        >>> read_marks(["long-running", "irreversible"]).warning
        'takes a long time and cannot be undone'
        """
        parts = []
        if self.long_running:
            parts = ["takes a long time"]
        return " and ".join([*parts, *(["cannot be undone"] if self.irreversible else [])])

    @property
    def words(self) -> list[str]:
        """The marks as the catalogue's file has them, sorted.

        >>> read_marks(["often", "needs:sky", "red"]).words
        ['needs:sky', 'often', 'red']
        """
        found = [word for word in WORDS if getattr(self, word.replace("-", "_"))]
        found += [f"{name}:{getattr(self, name)}" for name in VALUED if getattr(self, name)]
        return sorted((*found, *self.others))


#: Marks that are a word, a colon and what is meant.
VALUED = ("needs", "alternate", "acts", "said")

#: What ``said`` has of a command that no listing has: a person says all of it.
WHOLE = "command"

UNMARKED = Marks()


def read_marks(words: Iterable[str]) -> Marks:
    """The marks that words of a catalogue give; what is no mark is among ``others``."""
    plain: dict[str, bool] = {}
    valued: dict[str, str] = {}
    others: dict[str, None] = {}
    for word in words:
        name, colon, value = word.partition(":")
        if word in WORDS:
            plain[word.replace("-", "_")] = True
        elif word == "lasting":
            # One word for both, in catalogues of older versions.
            plain["long_running"] = plain["irreversible"] = True
        elif colon and value and name in VALUED and name not in valued:
            valued[name] = value
        else:
            others[word] = None
    return Marks(**plain, **valued, others=tuple(others))  # type: ignore[arg-type]
