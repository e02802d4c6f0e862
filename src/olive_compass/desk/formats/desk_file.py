"""The desk's own file, ``desk.toml``: its name, platform and keyboard, and which schemes count."""

from collections.abc import Iterable, Iterator, Mapping
from types import MappingProxyType
from typing import Any

from msgspec import Struct

from olive_compass.core.effort.weights import FINGER_WEIGHTS, Weights
from olive_compass.core.keys.keyboards import PLATFORMS
from olive_compass.core.severities import SEVERITIES
from olive_compass.desk.texts.toml_text import check_fields, editable, load, quoted, refuse_all

FORMAT = "olive-compass-desk/1"
#: What a desk may say of a finding: how bad it is, or that it is not looked for.
_SEVERITIES = (*SEVERITIES, "off")
HANDS = ("left", "right", "both")
#: The letters of the keystroke-level model, as ``core/worth/model.py`` has them.
MODEL = ("K", "P", "B", "H", "M", "L")

_TOP: dict[str, type | tuple[type, ...]] = {
    "format": str,
    "name": str,
    "platform": str,
    "keyboard": dict,
    "hand": str,
    "stacks": dict,
    "effort": dict,
    "project": str,
    "severities": dict,
    "house": dict,
    "model": dict,
    "purposes": dict,
}
_FIGURES = ("span", "reach", "same-finger", "hard")
_HOUSE: dict[str, type | tuple[type, ...]] = {"from": str, "pulled": str, "names": dict}
_PURPOSES: dict[str, type | tuple[type, ...]] = {"refused": list}
_KEYBOARD: dict[str, type | tuple[type, ...]] = {"form": str, "layout": str}


class DeskFile(Struct, frozen=True, kw_only=True):
    """What ``desk.toml`` says. ``hand`` is the hand that is free while the other has the mouse."""

    name: str
    platform: str = "pc"
    form: str = "ansi-104"
    layout: str = "us"
    hand: str = "left"
    stacks: Mapping[str, tuple[str, ...]] = MappingProxyType({})
    weights: Weights = Weights()
    project: str = ""
    severities: Mapping[str, str] = MappingProxyType({})
    house: str = ""
    pulled: str = ""
    #: What schemes of the house are called here, by ``app/name`` there, where that name was taken.
    house_names: Mapping[str, str] = MappingProxyType({})
    model: Mapping[str, float] = MappingProxyType({})
    #: Commands that a person said are not for the same thing: ``app:id app:id``.
    refused: tuple[str, ...] = ()


def read(data: bytes, file: str) -> DeskFile:
    """The file's content; raises ``UserError`` with all its mistakes and their lines."""
    content = load(data, file, FORMAT)
    refuse_all([*_wrong(content), *_wrong_figures(content)], data, file)
    keyboard, house = content.get("keyboard", {}), content.get("house", {})
    return DeskFile(
        name=content.get("name", ""),
        platform=content.get("platform", "pc"),
        form=keyboard.get("form", "ansi-104"),
        layout=keyboard.get("layout", "us"),
        hand=content.get("hand", "left"),
        stacks={app: tuple(names) for app, names in content.get("stacks", {}).items()},
        weights=_weights(content.get("effort", {})),
        project=content.get("project", ""),
        severities=content.get("severities", {}),
        house=house.get("from", ""),
        pulled=house.get("pulled", ""),
        house_names=house.get("names", {}),
        model=content.get("model", {}),
        refused=tuple(content.get("purposes", {}).get("refused", ())),
    )


def _wrong(content: Mapping[str, Any]) -> list[tuple[str, str, str]]:
    """What is wrong in the words of the file: the table, the key in it, and the sentence."""
    problems = [("", key, text) for key, text in check_fields(content, _TOP, "a desk")]
    if content.get("platform", "pc") not in PLATFORMS:
        problems.append(("", "platform", f"“platform” is one of {', '.join(PLATFORMS)}."))
    if content.get("hand", "left") not in HANDS:
        problems.append(("", "hand", f"“hand” is one of {', '.join(HANDS)}."))
    keyboard = content.get("keyboard", {})
    if isinstance(keyboard, dict):
        problems += [
            ("", "keyboard", text) for _, text in check_fields(keyboard, _KEYBOARD, "keyboard")
        ]
    for id_, severity in content.get("severities", {}).items():
        if severity not in _SEVERITIES:
            says = f"A severity is one of {', '.join(_SEVERITIES)}."
            problems.append(("severities", id_, says))
    problems += _wrong_stacks(content.get("stacks", {}))
    problems += _wrong_house(content.get("house", {}))
    problems += _wrong_purposes(content.get("purposes", {}))
    return problems


#: What is wrong in a table: the table, the key in it, and the sentence.
_Problems = Iterator[tuple[str, str, str]]


def _wrong_stacks(stacks: Any) -> _Problems:
    for app, names in stacks.items() if isinstance(stacks, dict) else ():
        if not isinstance(names, list) or not _are_texts(names):
            yield "stacks", app, f"“{app}” needs a list of scheme names."


def _wrong_house(house: Any) -> _Problems:
    if not isinstance(house, dict):
        return
    for key, text in check_fields(house, _HOUSE, "[house]"):
        yield "house", key, text
    names = house.get("names", {})
    if not isinstance(names, dict) or not _are_texts(names.values()):
        yield "house", "names", "“names” gives names by APP/NAME of the house."


def _wrong_purposes(purposes: Any) -> _Problems:
    if not isinstance(purposes, dict):
        return
    for key, text in check_fields(purposes, _PURPOSES, "[purposes]"):
        yield "purposes", key, text
    if not _are_texts(purposes.get("refused", ())):
        yield "purposes", "refused", "“refused” is a list of texts: APP:ID APP:ID."


def _are_texts(values: Iterable[Any]) -> bool:
    return all(isinstance(each, str) for each in values)


def _wrong_figures(content: Mapping[str, Any]) -> list[tuple[str, str, str]]:
    """What is wrong in the figures of effort and of the model."""
    problems = []
    effort = content.get("effort", {})
    if isinstance(effort, dict):
        allowed = dict.fromkeys((*_FIGURES, *FINGER_WEIGHTS), (int, float))
        problems += [
            ("effort", key, text) for key, text in check_fields(effort, allowed, "[effort]")
        ]
    model = content.get("model", {})
    if isinstance(model, dict):
        allowed = dict.fromkeys(MODEL, (int, float))
        problems += [("model", *each) for each in check_fields(model, allowed, "[model]")]
    return problems


def _weights(effort: Mapping[str, float]) -> Weights:
    """The figures of effort with those that the desk changes put in."""
    fingers = {name: float(effort.get(name, own)) for name, own in FINGER_WEIGHTS.items()}
    figures = {key.replace("-", "_"): float(effort[key]) for key in _FIGURES if key in effort}
    return Weights(fingers=MappingProxyType(fingers), **figures)


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
    import tomlkit

    document = editable(data)
    document["project"] = project
    return tomlkit.dumps(document).encode()


def with_house(data: bytes, values: Mapping[str, object]) -> bytes:
    """The file with what it says of the house's source; without any it says nothing of it."""
    import tomlkit

    document = editable(data)
    if not values:
        document.pop("house", None)
        return tomlkit.dumps(document).encode()
    if "house" not in document:
        document["house"] = tomlkit.table()
    for name, value in values.items():
        document["house"][name] = value
    return tomlkit.dumps(document).encode()


def with_refused(data: bytes, refused: Iterable[str]) -> bytes:
    """The file that remembers also these proposals of purposes as refused."""
    import tomlkit

    document = editable(data)
    if "purposes" not in document:
        document["purposes"] = tomlkit.table()
    had = document["purposes"].get("refused", [])
    lines = tomlkit.array().multiline(True)
    lines.extend(dict.fromkeys([*had, *refused]))
    document["purposes"]["refused"] = lines
    return tomlkit.dumps(document).encode()


def with_stack(data: bytes, app: str, names: tuple[str, ...]) -> bytes:
    """The file in which the schemes ``names`` count for ``app``."""
    import tomlkit

    document = editable(data)
    if "stacks" not in document:
        document["stacks"] = tomlkit.table()
    document["stacks"][app] = list(names)
    return tomlkit.dumps(document).encode()


def without_stack(data: bytes, app: str) -> bytes:
    """The file in which no schemes are said to count for ``app``."""
    import tomlkit

    document = editable(data)
    document.get("stacks", {}).pop(app, None)
    return tomlkit.dumps(document).encode()
