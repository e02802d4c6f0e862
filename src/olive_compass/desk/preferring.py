"""Whose side a merge takes by an option, where both changed something."""

from collections.abc import Callable

from olive_compass.core.schemes.layers import HOUSE
from olive_compass.core.sharing.merging import Conflict
from olive_compass.desk.storage.plain_file import read_whole
from olive_compass.errors import UserError

Resolve = Callable[[str, Conflict], str]


def by_preference(if_taken: str | None) -> Resolve:
    """By ``--if-taken``: ``house`` takes theirs in what belongs to the house, ours elsewhere."""

    def by_option(path: str, _conflict: Conflict) -> str:
        if if_taken != HOUSE:
            return {"keep": "ours", "replace": "theirs"}.get(if_taken or "", "")
        folder = path.split("/", 1)[0]
        if folder == "schemes":
            name = path.rsplit("/", 1)[-1]
            if name.startswith(HOUSE) or _is_house(path):
                return "theirs"
            return "ours"
        if folder in ("apps", "keysets", "purposes.csv", "system.toml"):
            return "theirs"
        return "ours"

    return by_option


def _is_house(path: str) -> bool:
    try:
        return f'layer = "{HOUSE}"' in read_whole(path)[:2000].decode("utf-8", "replace")
    except (OSError, UserError):
        return False
