"""What an application allows: the rules that its keys obey, as values."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import TYPE_CHECKING, Literal, get_args

from msgspec import Struct

from olive_compass.core.keys.triggers import Run

if TYPE_CHECKING:
    from olive_compass.core.apps.trays import TrayKind

#: What an application does when a trigger is given to a second command.
Duplicates = Literal["replace", "refuse", "choice", "first-wins", "last-wins"]
DUPLICATES: tuple[Duplicates, ...] = get_args(Duplicates)

#: What the application does with a key that a second command is to have, in words.
DUPLICATES_SAID: Mapping[str, str] = {
    "replace": "a new assignment of a key replaces the old one",
    "refuse": "a key that is in use is refused",
    "choice": "commands with the same key are offered as a choice",
    "first-wins": "of two commands with one key the first starts",
    "last-wins": "of two commands with one key the last starts",
}

#: The kinds of triggers that an application takes only where its rules say so.
Takes = Literal["tap", "hold", "mouse", "wheel", "pen", "device"]
TAKES: tuple[Takes, ...] = get_args(Takes)

#: Which keys may stand alone, without a modifier.
PlainKeys = Literal["all", "named", "none"]

#: The rules with one value each, by their names in files and commands, and the type of that value.
RULE_TYPES: Mapping[str, type] = {
    "duplicates": str,
    "longest-sequence": int,
    "typed-sequences": bool,
    "fold-pad": bool,
    "closing-key": str,
    "wait": float,
    "most-keys": int,
    "modifiers": list,
    "plain-keys": str,
    "can-mute": bool,
    "text-modes": list,
    "letters-open-menus": bool,
    "takes": list,
}


class Rules(Struct, frozen=True, kw_only=True):
    """What the application allows, each rule by the name that it has in the file and in JSON.

    ``duplicates`` is one of ``DUPLICATES``; ``longest_sequence`` counts strokes (1: no runs);
    ``typed_sequences`` says that letters typed without modifiers may make a run, ``closing_key`` is
    the key that ends one (``""``: none is needed) and ``wait`` the seconds after which it ends
    by itself (0: it does not say). ``fold_pad`` takes the digits of the numeric pad for those of
    the row. ``swipes`` gives how many bearings the swipes of a mode have.

    ``most_keys`` is how many triggers a command may have (0: any number); ``modifiers`` which may
    be held (none named: all); ``plain_keys`` which keys may stand alone: ``all``, ``named`` (F6,
    Insert) or ``none``. ``can_mute`` says that a key can be switched off; ``text_modes`` are those
    in which typing writes text. ``reserved`` keys cannot be changed, ``unlisted`` ones mean
    something that no list shows; both with what they do. ``licences`` are those that the
    application knows, and whether this seat has them. ``slots`` name what is in a slot now.
    ``letters_open_menus`` says that Alt and the access letter of a menu open it. ``takes`` are the
    kinds of triggers that it knows beside keys and swipes: tap, hold, mouse, wheel, pen, device.
    ``trays`` are the kinds of trays that it has.
    """

    duplicates: Duplicates = "replace"
    longest_sequence: int = 1
    typed_sequences: bool = False
    fold_pad: bool = False
    closing_key: str = ""
    wait: float = 0.0
    most_keys: int = 0
    #: The modifiers that may be held in a key; None: all of them.
    modifiers: tuple[str, ...] | None = None
    plain_keys: PlainKeys = "all"
    can_mute: bool = True
    letters_open_menus: bool = True
    takes: tuple[Takes, ...] = ()
    text_modes: tuple[str, ...] = ()
    swipes: Mapping[str, int] = MappingProxyType({})
    licences: Mapping[str, bool] = MappingProxyType({})
    slots: Mapping[str, str] = MappingProxyType({})
    reserved: Mapping[Run, str] = MappingProxyType({})
    unlisted: Mapping[Run, str] = MappingProxyType({})
    trays: "Mapping[str, TrayKind]" = MappingProxyType({})
    #: The rules, as their file names them, that nobody has said: they are told by the keys, or taken for granted.
    guessed: frozenset[str] = frozenset()

    @property
    def typed(self) -> int:
        """How many letters written without spaces may be a run; 0: none."""
        if self.typed_sequences:
            return self.longest_sequence
        return 0
