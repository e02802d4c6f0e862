"""A key set as ``keysets/<name>.toml``: purposes and their triggers."""

import re
from typing import Any

from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.trigger_error import TriggerError
from olive_compass.core.sharing.keysets import Entry, KeySet
from olive_compass.desk.texts.toml_text import check_fields, editable, load, quoted, refuse_all

FORMAT = "olive-compass-keyset/1"

_TOP: dict[str, type | tuple[type, ...]] = {"format": str, "title": str, "keys": dict}
_ENTRY: dict[str, type | tuple[type, ...]] = {"keys": (list, str), "why": str}


def keyset_path(name: str) -> str:
    return f"keysets/{name}.toml"


def read(data: bytes, file: str, name: str) -> KeySet:
    """The set in a file; raises ``UserError`` with all its mistakes and their lines."""
    content = load(data, file, FORMAT)
    problems = [("", key, text) for key, text in check_fields(content, _TOP, "a key set")]
    keys: dict[str, Entry] = {}
    table = content.get("keys", {})
    for purpose, value in table.items() if isinstance(table, dict) else ():
        fields = value if isinstance(value, dict) else {"keys": value}
        wrong = check_fields(fields, _ENTRY, f"“{purpose}”")
        texts = fields.get("keys", [])
        texts = [texts] if isinstance(texts, str) else texts
        if wrong or not isinstance(texts, list) or not texts:
            says = wrong[0][1] if wrong else f"“{purpose}” needs a key, or a list of keys."
            problems.append(("keys", purpose, says))
            continue
        runs = []
        for text in texts:
            try:
                # A set is for all applications, and most take no typed runs: “GD” would be read otherwise in each.
                runs.append(read_trigger(str(text), typed=0))
            except TriggerError as error:
                says = f"“{purpose}”: {str(error)[0].lower()}{str(error)[1:]}."
                problems.append(("keys", purpose, says))
        keys[purpose] = Entry(tuple(runs), fields.get("why", ""))
    refuse_all(problems, data, file)
    return KeySet(name, content.get("title", name), keys)


def new_text(keyset: KeySet) -> bytes:
    """The file of a set that has none yet."""
    head = f'format = "{FORMAT}"\ntitle = {quoted(keyset.title or keyset.name)}\n\n[keys]\n'
    lines = [f"{_key(id_)} = {_value(entry)}\n" for id_, entry in keyset.keys.items()]
    return (head + "".join(lines)).encode()


def edited(data: bytes, before: KeySet, after: KeySet) -> bytes:
    """The file of ``before`` with what ``after`` has otherwise put in; comments stay."""
    import tomlkit

    text = data.decode("utf-8-sig")
    document: Any = editable(text)
    if before.title != after.title:
        document["title"] = after.title
    if "keys" not in document:
        document["keys"] = tomlkit.table()
    for id_ in before.keys:
        if id_ not in after.keys:
            del document["keys"][id_]
    for id_, entry in after.keys.items():
        # What is the same keeps the line as a person wrote it.
        if before.keys.get(id_) != entry:
            document["keys"][id_] = tomlkit.value(_value(entry))
    return tomlkit.dumps(document).encode()


def _key(id_: str) -> str:
    return id_ if re.fullmatch(r"[A-Za-z0-9_-]+", id_) else quoted(id_)


def _value(entry: Entry) -> str:
    keys = [quoted(str(run)) for run in entry.triggers]
    text = keys[0] if len(keys) == 1 else f"[{', '.join(keys)}]"
    return f"{{ keys = {text}, why = {quoted(entry.why)} }}" if entry.why else text
