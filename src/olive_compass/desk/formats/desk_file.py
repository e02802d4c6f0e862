"""The desk's own file, ``desk.toml``: its name, platform and keyboard, and which schemes count."""

from collections.abc import Iterable, Mapping
from types import MappingProxyType
from typing import Annotated, Literal, get_args

from msgspec import UNSET, Struct, UnsetType, field

from olive_compass.core.effort.weights import FINGER_WEIGHTS, Weights
from olive_compass.core.keys.keyboards import Platform
from olive_compass.core.severities import SEVERITIES, Setting, Severity
from olive_compass.desk.texts.schemas import Format, fitted, saying
from olive_compass.desk.texts.toml_editor import TomlEditor, listed, with_top
from olive_compass.desk.texts.toml_text import load, quoted, refuse
from olive_compass.structs import to_builtins

FORMAT = "olive-compass-desk/1"

#: The hand that is free while the other has the mouse.
Hand = Literal["left", "right", "both"]
HANDS: tuple[Hand, ...] = get_args(Hand)

_STACK = saying("“{key}” needs a list of scheme names.")
_NAMES = saying("“names” gives names by APP/NAME of the house.")
_REFUSED = saying("“refused” is a list of texts: APP:ID APP:ID.")
_SEVERITY = saying(f"A severity is one of {', '.join((*SEVERITIES, 'off'))}.")


class KeyboardTable(Format, frozen=True, kw_only=True):
    """The form of the keyboard, and what its keys type."""

    form: str = "ansi-104"
    layout: str = "us"


class EffortTable(Format, frozen=True, kw_only=True):
    """The figures of effort that the desk changes; a finger's is its weight."""

    span: float = Weights().span
    reach: float = Weights().reach
    same_finger: float = Weights().same_finger
    hard: float = Weights().hard
    left_little: float = FINGER_WEIGHTS["left-little"]
    left_ring: float = FINGER_WEIGHTS["left-ring"]
    left_middle: float = FINGER_WEIGHTS["left-middle"]
    left_index: float = FINGER_WEIGHTS["left-index"]
    left_thumb: float = FINGER_WEIGHTS["left-thumb"]
    right_little: float = FINGER_WEIGHTS["right-little"]
    right_ring: float = FINGER_WEIGHTS["right-ring"]
    right_middle: float = FINGER_WEIGHTS["right-middle"]
    right_index: float = FINGER_WEIGHTS["right-index"]
    right_thumb: float = FINGER_WEIGHTS["right-thumb"]


class ModelTable(Format, frozen=True, kw_only=True, rename=None):
    """The times (seconds) of the keystroke-level model that the desk changes, by their letters."""

    K: float | UnsetType = UNSET
    P: float | UnsetType = UNSET
    B: float | UnsetType = UNSET
    H: float | UnsetType = UNSET
    M: float | UnsetType = UNSET
    L: float | UnsetType = UNSET


class HouseTable(Format, frozen=True, kw_only=True):
    """Where the studio's shared scheme comes from."""

    source: str = field(name="from", default="")
    pulled: str = ""
    names: Annotated[Mapping[str, Annotated[str, _NAMES]], _NAMES] = {}


class PurposesTable(Format, frozen=True, kw_only=True):
    """Commands that a person said are not for the same thing."""

    refused: Annotated[tuple[Annotated[str, _REFUSED], ...], _REFUSED] = ()


class DeskTable(Format, frozen=True, kw_only=True):
    """What all who share a desk have in common."""

    format: Literal["olive-compass-desk/1"]
    name: str = ""
    platform: Platform = "pc"
    keyboard: KeyboardTable = KeyboardTable()
    hand: Hand = "left"
    stacks: Mapping[str, Annotated[tuple[Annotated[str, _STACK], ...], _STACK]] = {}
    effort: EffortTable = EffortTable()
    project: str = ""
    severities: Mapping[str, Annotated[Literal[Severity, "off"], _SEVERITY]] = {}
    house: HouseTable = HouseTable()
    model: ModelTable = ModelTable()
    purposes: PurposesTable = PurposesTable()


class DeskFile(Struct, frozen=True, kw_only=True):
    """What ``desk.toml`` says. ``hand`` is the hand that is free while the other has the mouse."""

    name: str
    platform: Platform = "pc"
    form: str = "ansi-104"
    layout: str = "us"
    hand: Hand = "left"
    stacks: Mapping[str, tuple[str, ...]] = MappingProxyType({})
    weights: Weights = Weights()
    project: str = ""
    severities: Mapping[str, Setting] = MappingProxyType({})
    house: str = ""
    pulled: str = ""
    #: What schemes of the house are called here, by ``app/name`` there, where that name was taken.
    house_names: Mapping[str, str] = MappingProxyType({})
    model: Mapping[str, float] = MappingProxyType({})
    #: Commands that a person said are not for the same thing: ``app:id app:id``.
    refused: tuple[str, ...] = ()


def read(data: bytes, file: str) -> DeskFile:
    """The file's content; raises ``UserError`` with all its mistakes and their lines."""
    said, mistakes = fitted(load(data, file, FORMAT), DeskTable, "a desk")
    refuse(mistakes, data, file)
    return DeskFile(
        name=said.name,
        platform=said.platform,
        form=said.keyboard.form,
        layout=said.keyboard.layout,
        hand=said.hand,
        stacks=said.stacks,
        weights=_weights(said.effort),
        project=said.project,
        severities=said.severities,
        house=said.house.source,
        pulled=said.house.pulled,
        house_names=said.house.names,
        model=to_builtins(said.model),
        refused=said.purposes.refused,
    )


def _weights(said: EffortTable) -> Weights:
    fingers = {name: getattr(said, name.replace("-", "_")) for name in FINGER_WEIGHTS}
    return Weights(
        fingers=MappingProxyType(fingers),
        span=said.span,
        reach=said.reach,
        same_finger=said.same_finger,
        hard=said.hard,
    )


def new_text(desk: DeskFile) -> bytes:
    """The file of a desk that has none yet."""
    lines = [
        f'format = "{FORMAT}"',
        f"name = {quoted(desk.name)}",
        "",
        "# The active schemes for each application, the nearest first.",
        "[stacks]",
        "",
    ]
    return "\n".join(lines).encode()


def with_project(data: bytes, project: str) -> bytes:
    """The file in which this is the project whose schemes count."""
    return with_top(data, "project", project)


def with_house(data: bytes, values: Mapping[str, object]) -> bytes:
    """The file with what it says of the house's source; without any it says nothing of it."""
    editor = TomlEditor(data)
    if not values:
        editor.remove("house")
    for name, value in values.items():
        editor.put(("house", name), value)
    return editor.data


def with_refused(data: bytes, refused: Iterable[str]) -> bytes:
    """The file that remembers also these proposals of purposes as refused."""
    editor = TomlEditor(data)
    had = editor.value("purposes", "refused") or []
    editor.put(("purposes", "refused"), listed(dict.fromkeys([*had, *refused]), always=True))
    return editor.data


def with_stack(data: bytes, app: str, names: tuple[str, ...]) -> bytes:
    """The file in which the schemes ``names`` count for ``app``."""
    editor = TomlEditor(data)
    editor.put(("stacks", app), list(names))
    return editor.data


def without_stack(data: bytes, app: str) -> bytes:
    """The file in which no schemes are said to count for ``app``."""
    editor = TomlEditor(data)
    editor.remove("stacks", app)
    return editor.data
