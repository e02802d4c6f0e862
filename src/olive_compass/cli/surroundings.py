"""Everything around a command: streams, terminal, folder, clock, user. Tests give their own."""

import errno
import os
import sys
from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Any, TextIO, cast

from olive_compass.cli.terminal.layout import CODES, width_of, within

if TYPE_CHECKING:
    from contextlib import ExitStack
    from datetime import datetime

    from msgspec import Struct

    from olive_compass.desk.desk import Desk
    from olive_compass.desk.storage.history import Recovered


class Surroundings:
    """What a command may use of the world outside."""

    def __init__(
        self,
        out: TextIO | None = None,
        err: TextIO | None = None,
        inp: TextIO | None = None,
        *,
        environ: Mapping[str, str] | None = None,
        folder: str = "",
        interactive: bool | None = None,
        colour: bool | None = None,
        width: int = 0,
        now: "Callable[[], datetime] | None" = None,
    ) -> None:
        self.out = out or _stream(sys.stdout, "w")
        self.err = err or _stream(sys.stderr, "w")
        self.inp = inp or _stream(sys.stdin, "r")
        self.environ = os.environ if environ is None else environ
        self.folder = folder or os.curdir
        self.quiet = False
        #: Whether JSON is printed: then nothing else is.
        self.as_json = False
        #: Whether anybody still reads what is printed.
        self.is_read = True
        #: Whether lists are shown to their end, and all that can be said is said.
        self.verbose = False
        #: What became of a change that had been interrupted, where there was one.
        self.recovered: Recovered | None = None
        #: What holds the desk while a change is worked out, until it is opened: see ``saving.py``.
        self.turn: ExitStack | None = None
        #: The number of the last change that was saved.
        self.saved = 0
        #: The desk that the command works at: what was worked out of it is kept when the command has ended.
        self.desk: Desk | None = None
        #: Which command was chosen where several answered to a name, by application and name.
        self.chosen: dict[tuple[str, str], str] = {}
        #: Whether a key was pressed instead of written: it is shown before anything is saved, and
        #: whether the person agreed.
        self.pressed = self.agreed = False
        #: How a trigger is shown: in our own way unless --keys-as says otherwise.
        self.key: Callable[[Any], str] = str
        #: The command line as it could be typed again, for the history.
        self.command_line = ""
        at_terminal = _is_terminal(self.out)
        if interactive is None:
            self.interactive = at_terminal and _is_terminal(self.inp)
        else:
            self.interactive = interactive
        if colour is None:
            plain = self.environ.get("NO_COLOR") or self.environ.get("TERM") == "dumb"
            colour = at_terminal and not plain and _knows_colours()
        self.colour = colour
        #: Columns of the terminal, or 0 where lines may be as long as they like.
        self.width = width or (_terminal_width(self.out) if at_terminal else 0)
        self._now = now

    def keep(self) -> None:
        """Keeps, for commands to come, what was worked out of the desk."""
        if self.desk and self.desk.cache:
            self.desk.keep()

    def now(self) -> "datetime":
        """The time, with its zone."""
        from datetime import UTC, datetime

        if self._now:
            return self._now()
        return datetime.now(UTC).astimezone()

    @property
    def user(self) -> str:
        for name in ("USER", "LOGNAME", "USERNAME"):
            if self.environ.get(name):
                # A name in another encoding comes with halves of characters.
                return self.environ[name].encode(errors="replace").decode()
        return "somebody at this computer"

    def say(self, text: str = "") -> None:
        """Prints a line, or several, safe for a terminal; nothing where JSON is printed."""
        if self.as_json:
            return
        self._put(self.out, self._safe(self._fitted(text), self.colour) + "\n")

    def report(self, text: str) -> None:
        """Prints a line about what was done, unless ``--quiet`` was given."""
        if not self.quiet:
            self.say(text)

    def warn(self, text: str) -> None:
        """Prints a line to the error stream."""
        self.flush()
        if _is_terminal(self.err):
            text = self._fitted(text)
        self._put(self.err, self._safe(text, False) + "\n")

    def json(self, value: "Struct | Mapping[str, Any]") -> None:
        """Prints ``value`` as JSON; what a terminal might act on is written as escapes."""
        from olive_compass.desk.texts import json_text

        # Where the stream cannot show every character, escapes keep the JSON what it is.
        self._put(self.out, json_text.text(value, within_ascii=not _is_unicode(self.out)))

    def write(self, text: str) -> None:
        """Prints a text in a form of its own (a table, a page), without what a terminal acts on."""
        if not text.isprintable():
            from olive_compass.core.plain import is_risky

            risky = {ord(char) for char in set(text) if char not in "\n\r\t" and is_risky(char)}
            if risky:
                text = text.translate(dict.fromkeys(risky, "\N{REPLACEMENT CHARACTER}"))
        self._put(self.out, text)

    def flush(self) -> None:
        """Lets go of what was printed so far."""
        self._put(self.out, "")
        try:
            self.out.flush()
        except OSError as error:
            self._lose_reader(self.out, error)

    def _put(self, stream: TextIO, text: str) -> None:
        """Writes to a stream. Where its reader has gone, as `head` does, what is asked for is done to its
        end all the same: a change must not hang on who reads what is said of it."""
        try:
            stream.write(text)
        except OSError as error:
            self._lose_reader(stream, error)

    def _lose_reader(self, stream: TextIO, error: OSError) -> None:
        """Lets what is written go nowhere from now on; raises the error where it is another one."""
        # So Windows calls a pipe whose reader has gone.
        on_windows = os.name == "nt" and error.errno == errno.EINVAL and error.filename is None
        if not isinstance(error, BrokenPipeError) and not on_windows:
            raise error
        self.is_read = self.is_read and stream is not self.out
        give_up(stream)

    def ask(self, question: str) -> str:
        """The answer to a question asked at the terminal, ``""`` at the end of input."""
        # Where JSON is printed, what is asked must not stand in it.
        if self.as_json:
            stream = self.err
        else:
            stream = self.out
        self._put(stream, self._safe(question, self.colour) + " ")
        stream.flush()
        return self.inp.readline().strip()

    def _fitted(self, text: str) -> str:
        """The text within the columns of the terminal; a command line in it stays whole, to be pasted."""
        if not self.width or all(width_of(line) <= self.width for line in text.split("\n")):
            return text
        return within(text, self.width)

    def _safe(self, text: str, colour: bool) -> str:
        if text.isprintable():
            return text
        odd = {ord(char): _safe_char(char, colour) for char in set(text) if not char.isprintable()}
        return text.translate(odd)


def give_up(stream: object) -> None:
    """Lets what could not be written go nowhere: the interpreter would try once more at its end."""
    try:
        os.dup2(os.open(os.devnull, os.O_WRONLY), stream.fileno())  # type: ignore[attr-defined]
    except (OSError, ValueError, AttributeError):
        pass


def _safe_char(char: str, colour: bool) -> str:
    from olive_compass.core.plain import is_risky

    if char in CODES:
        if colour:
            return f"\x1b[{CODES[char]}m"
        return ""
    if char == "\n" or not is_risky(char):
        return char
    return "\N{REPLACEMENT CHARACTER}"


#: How signs are written where the stream cannot show them: keys as ``--keys-as pc`` writes them.
_PLAINER = {
    "⌘": "Meta+",
    "⌥": "Alt+",
    "⇧": "Shift+",
    "⌃": "Ctrl+",
    "“": "'",
    "”": "'",
    "‘": "'",
    "’": "'",
    "…": "...",
    "–": "-",
    "—": "-",
    "−": "-",
    "×": "x",
    "→": "->",
    "←": "<-",
    "↑": "^",
    "↓": "v",
    "·": "-",
    "•": "*",
    "\u00a0": " ",
    "\N{REPLACEMENT CHARACTER}": "?",
}


def _stream(stream: TextIO | None, mode: str) -> TextIO:
    """A stream of the process that can be used, whatever it was given."""
    if stream is None:
        return cast("TextIO", open(os.devnull, mode, encoding="utf-8"))
    if mode == "w" and not _is_unicode(stream) and hasattr(stream, "reconfigure"):
        import codecs

        codecs.register_error("olive-compass-plainer", _plainer)
        stream.reconfigure(errors="olive-compass-plainer")
    return stream


def _is_unicode(stream: TextIO) -> bool:
    encoding = getattr(stream, "encoding", None) or "utf-8"
    return encoding.lower().replace("-", "").replace("_", "").startswith("utf")


def _plainer(error: UnicodeError) -> tuple[str, int]:
    """What is written for characters that a stream's encoding does not have."""
    if not isinstance(error, UnicodeEncodeError):
        raise error
    import unicodedata

    parts = []
    for char in error.object[error.start : error.end]:
        plain = _PLAINER.get(char)
        if plain is None:
            # An accented letter without its accent is still read as what it is.
            base = unicodedata.normalize("NFKD", char)[:1]
            plain = "?"
            if base.isascii() and base.isprintable() and base:
                plain = base
        parts.append(plain)
    return "".join(parts), error.end


def _is_terminal(stream: TextIO) -> bool:
    try:
        return stream.isatty()
    except ValueError:
        return False


def _knows_colours() -> bool:
    """Whether the terminal acts on escapes: a console of Windows does once they are switched on."""
    if sys.platform != "win32":
        return True
    try:
        import ctypes

        kernel = ctypes.windll.kernel32
        handle = kernel.GetStdHandle(-11)
        mode = ctypes.c_uint32()
        acts_on_escapes = 0x4
        return bool(
            kernel.GetConsoleMode(handle, ctypes.byref(mode))
            and kernel.SetConsoleMode(handle, mode.value | acts_on_escapes)
        )
    except (ImportError, AttributeError, OSError):
        return False


def _terminal_width(stream: TextIO) -> int:
    try:
        return max(os.get_terminal_size(stream.fileno()).columns or 80, 40)
    except (OSError, ValueError):
        return 80
