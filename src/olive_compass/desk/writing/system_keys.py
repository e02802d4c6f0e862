"""The file of the system's keys, with what a platform takes by default."""

from olive_compass.core.keys.reading import read_trigger
from olive_compass.core.keys.system import SYSTEM_KEYS
from olive_compass.desk.desk import Desk
from olive_compass.desk.formats import desk_file, system_file
from olive_compass.desk.formats.system_file import SystemKey
from olive_compass.desk.paths import DESK_FILE, SYSTEM_FILE
from olive_compass.desk.storage.records import FileChange


def keys_of_platform(desk: Desk, platform: str) -> list[FileChange]:
    """What a platform takes by default, for a desk that knows nothing of it yet; those of others stay."""
    before = desk.bytes_or_none(SYSTEM_FILE)
    stated = desk_file.read(desk.bytes(DESK_FILE), DESK_FILE).platform
    tables = system_file.tables_of(platform, stated)
    known = system_file.read_all(before, SYSTEM_FILE)
    if any(key.table in tables for key in known):
        return []
    keys = [
        SystemKey(text=text, trigger=read_trigger(text), does=does, on=True, table=platform)
        for text, does in SYSTEM_KEYS[platform].items()
    ]
    data = before or system_file.new_text({}, platform)
    return [FileChange(SYSTEM_FILE, before, system_file.with_platform(data, platform, keys))]
