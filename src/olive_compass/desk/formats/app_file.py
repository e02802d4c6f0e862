"""An application's modes and rules as ``app.toml``."""

from collections.abc import Container, Iterator, Mapping
from types import MappingProxyType
from typing import Annotated, Literal

from msgspec import UNSET, Struct, UnsetType

from olive_compass.core.apps.app import Via
from olive_compass.core.apps.listing_row import Groups, Headings
from olive_compass.core.apps.modes import ModeTree
from olive_compass.core.apps.rules import TAKES, Duplicates, PlainKeys, Rules, Takes
from olive_compass.core.apps.trays import SCAN, Opens, TrayKind
from olive_compass.core.keys.names import MODIFIERS, Modifier
from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.roses import SIZES
from olive_compass.core.keys.spelling import is_kept_so
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.keys.triggers import Run
from olive_compass.core.wording import capital
from olive_compass.desk.formats.spelling_table import words_of
from olive_compass.desk.texts.schemas import Format, Mistake, fitted, saying
from olive_compass.desk.texts.toml_text import load, refuse

FORMAT = "olive-compass-app/1"

_LENGTH = saying("“{key}” is 1 or more strokes.", ge=1)
_MODIFIER = saying(f"“{{value}}” is none of {', '.join(MODIFIERS)}.")
_TAKES = saying(f"“{{value}}” is none of {', '.join(TAKES)}.")
_SIZE = saying(
    f"A mode has swipes in {SIZES[0]} to {SIZES[-1]} directions, not {{value}}.",
    ge=SIZES[0],
    le=SIZES[-1],
)
_PARENT = saying("“{key}” is given as text, the mode that it lies inside.")
_TRAY = saying("“{key}” is no table of a kind of tray.")
_THROUGH = saying(
    "“{key}” says through which command it is shown: through = ID.",
    lacks="“{key}” says through which command it is shown: through = ID.",
)


class RulesTable(Format, frozen=True, kw_only=True):
    """What the application allows."""

    duplicates: Duplicates = "replace"
    longest_sequence: Annotated[int, _LENGTH] = 1
    typed_sequences: bool = False
    fold_pad: bool = False
    closing_key: str = ""
    wait: float = 0.0
    most_keys: int = 0
    modifiers: tuple[Annotated[Modifier, _MODIFIER], ...] | UnsetType = UNSET
    plain_keys: PlainKeys = "all"
    can_mute: bool = True
    text_modes: tuple[str, ...] = ()
    letters_open_menus: bool = True
    takes: tuple[Annotated[Takes, _TAKES], ...] = ()


class Reading(Format, frozen=True, kw_only=True):
    """How a listing of the application was read, where a person had to say it: columns by field, the
    pattern of plain text, what rows with one cell are, the format of its shortcuts file, and whether headings
    are menus or modes."""

    columns: Mapping[str, str] = {}
    pattern: str = ""
    groups: Groups = "guess"
    headings: Headings = "guess"
    file_format: str = ""


class TrayKindTable(Format, frozen=True, kw_only=True):
    """A kind of tray, and what it takes."""

    most: int = 0
    items: int = 0
    groups: bool = True
    icons: bool = False
    opens: Opens = "click"
    refuses: Mapping[str, str] = {}
    scan: int = SCAN


class ViaTable(Format, frozen=True, kw_only=True):
    """The command that shows a thing without a key, and what it held at the time."""

    through: Annotated[str, saying("“{key}” is the id of the command that shows it.", min_length=1)]
    held: str = ""


class AppTable(Format, frozen=True, kw_only=True):
    """An application and its rules."""

    format: Literal["olive-compass-app/1"]
    title: str = ""
    version: str = ""
    modes: Mapping[str, Annotated[str, _PARENT]] = {}
    rules: RulesTable = RulesTable()
    #: Rules that the keys of its listing tell; what stands in ``rules`` comes first.
    guessed: RulesTable = RulesTable()
    swipes: Mapping[str, Annotated[int, _SIZE]] = {}
    reserved: Mapping[str, str] = {}
    unlisted: Mapping[str, str] = {}
    licences: Mapping[str, bool] = {}
    slots: Mapping[str, str] = {}
    #: What is in slots while one project is worked on, by project.
    slots_of: Mapping[str, Mapping[str, str]] = {}
    trays: Mapping[str, Annotated[TrayKindTable, _TRAY]] = {}
    via: Mapping[str, Annotated[ViaTable, _THROUGH]] = {}
    spelling: Mapping[str, str] = {}
    ids: Mapping[str, str] = {}
    reading: Reading = Reading()


class AppFile(Struct, frozen=True, kw_only=True):
    """What ``app.toml`` says."""

    title: str
    version: str
    modes: ModeTree
    rules: Rules
    spelling: Mapping[str, str] = MappingProxyType({})
    reading: Reading = Reading()
    vias: Mapping[str, Via] = MappingProxyType({})
    ids: Mapping[str, str] = MappingProxyType({})


def read(data: bytes, file: str, name: str, project: str = "") -> AppFile:
    """The file's content, as it counts in ``project``; raises ``UserError`` with all its mistakes and
    their lines."""
    content = load(data, file, FORMAT)
    said, mistakes = fitted(content, AppTable, "an application")
    stated, guessed = (frozenset(content.get(table, ())) for table in ("rules", "guessed"))
    rules = _merged(said, stated)
    tree = _modes(said.modes, mistakes)
    mistakes += _strange_modes(said, stated, rules, tree)
    typed = 0
    if rules.typed_sequences:
        typed = rules.longest_sequence
    reserved = _meanings(said.reserved, "reserved", typed, mistakes)
    unlisted = _meanings(said.unlisted, "unlisted", typed, mistakes)
    spelling = words_of(said.spelling, mistakes, is_kept_so)
    refuse(mistakes, data, file)
    return AppFile(
        title=said.title or name,
        version=said.version,
        modes=tree,
        rules=Rules(
            duplicates=rules.duplicates,
            longest_sequence=rules.longest_sequence,
            typed_sequences=rules.typed_sequences,
            fold_pad=rules.fold_pad,
            closing_key=rules.closing_key,
            wait=rules.wait,
            swipes=said.swipes,
            most_keys=rules.most_keys,
            modifiers=None if rules.modifiers is UNSET else rules.modifiers,
            plain_keys=rules.plain_keys,
            can_mute=rules.can_mute,
            text_modes=rules.text_modes,
            reserved=reserved,
            unlisted=unlisted,
            licences=said.licences,
            slots={**said.slots, **said.slots_of.get(project, {})},
            letters_open_menus=rules.letters_open_menus,
            takes=rules.takes,
            trays={kind: _tray_kind(kind, table) for kind, table in said.trays.items()},
            guessed=frozenset({"duplicates", *guessed}) - stated,
        ),
        spelling=spelling,
        reading=said.reading,
        vias={thing: Via(via.through, via.held) for thing, via in said.via.items()},
        ids=said.ids,
    )


def _merged(said: AppTable, stated: Container[str]) -> RulesTable:
    """The rules: the stated ones, and guesses for the others."""
    names = zip(RulesTable.__struct_fields__, RulesTable.__struct_encode_fields__, strict=True)
    return RulesTable(
        **{
            field: getattr(said.rules if name in stated else said.guessed, field)
            for field, name in names
        }
    )


def _strange_modes(
    said: AppTable, stated: Container[str], rules: RulesTable, tree: ModeTree
) -> Iterator[Mistake]:
    """Modes that rules name and the application lacks."""
    table = "guessed"
    if "text-modes" in stated:
        table = "rules"
    named = [(mode, (table, "text-modes")) for mode in rules.text_modes]
    named += [(mode, ("swipes", mode)) for mode in said.swipes]
    for mode, path in named:
        if mode not in tree:
            yield Mistake(path, f"“{mode}” is no mode of this application.")


def _modes(parents: Mapping[str, str], mistakes: list[Mistake]) -> ModeTree:
    """The modes, each inside another; none where something is wrong with them."""
    if any(each.path[0] == "modes" for each in mistakes):
        # What is wrong there would make further faults here that are none.
        return ModeTree({})
    try:
        return ModeTree(parents)
    except ValueError as error:
        mistakes.append(Mistake(("modes",), f"{capital(error)}."))
        return ModeTree({})


def _meanings(
    table: Mapping[str, str], name: str, typed: int, mistakes: list[Mistake]
) -> dict[Run, str]:
    """Keys and what they do: a table of ``[reserved]`` or ``[unlisted]`` keys."""
    found = {}
    for text, does in table.items():
        try:
            found[read_trigger(text, typed)] = does
        except TriggerError as error:
            mistakes.append(Mistake((name, text), f"{capital(error)}."))
    return found


def _tray_kind(name: str, table: TrayKindTable) -> TrayKind:
    return TrayKind(
        name=name,
        most=table.most,
        items=table.items,
        groups=table.groups,
        icons=table.icons,
        opens=table.opens,
        refuses=table.refuses,
        scan=table.scan,
    )
