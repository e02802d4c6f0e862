"""Which files are meant by the logs that a person named: files, folders with all that is in them, patterns."""

import glob
import os
import stat
from collections.abc import Iterator

from msgspec import Struct

from olive_compass.errors import UserError

#: The endings of logs.
ENDINGS = (".jsonl", ".csv")


#: How every file of ours begins that is a table: in a folder of logs it is none of them.
_OURS = b"# olive-compass-"


class Named(Struct, frozen=True):
    """The files that are meant, each once, and what lies among them and cannot be a log."""

    files: list[str]
    left_out: list[str]


def logs_named(at: str, given: list[str]) -> Named:
    """What ``given`` stands for, seen from the folder ``at``. Raises ``UserError`` where it stands for nothing."""
    files: dict[str, None] = {}
    left_out: list[str] = []
    for each in given:
        whole = os.path.join(at, os.path.expanduser(each))
        if os.path.isdir(whole):
            inside = list(_inside(whole, each))
            logs = [name for name in inside if _may_be_log(os.path.join(at, name))]
            if not logs:
                raise UserError("There is no log in this folder.", file=each)
            files.update(dict.fromkeys(logs))
            left_out += [name for name in inside if name not in files]
        elif "*" in each and not os.path.exists(whole):
            # A pattern that the shell left as it was.
            found = sorted(glob.glob(each, root_dir=at, recursive=True))
            files.update(dict.fromkeys(found or [each]))
        else:
            files[each] = None
    return Named(list(files), left_out)


def _inside(folder: str, shown: str) -> Iterator[str]:
    """All files of a folder, and of those in it, that end as logs do; hidden folders are passed over."""
    for path, folders, names in os.walk(folder):
        folders[:] = sorted(name for name in folders if not name.startswith("."))
        below = os.path.relpath(path, folder)
        for name in sorted(names):
            if name.endswith(ENDINGS):
                yield os.path.normpath(os.path.join(shown, below, name))


def _may_be_log(path: str) -> bool:
    """Whether it is a plain file, and none of the tables of a desk."""
    try:
        if not stat.S_ISREG(os.stat(path).st_mode):
            return False
        with open(path, "rb") as file:
            return not file.read(len(_OURS)).startswith(_OURS)
    except OSError:
        # Who reads it says what is wrong.
        return True
