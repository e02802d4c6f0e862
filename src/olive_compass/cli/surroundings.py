"""Everything around a command: streams, terminal, folder, clock, user. Tests give their own."""

import os
import sys
from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Any, TextIO

if TYPE_CHECKING:
    from datetime import datetime

    from olive_compass.desk.history import Settled
    from olive_compass.desk.parsed import Parsed

#: Marks within texts that turn into colours at a terminal and into nothing elsewhere.
BOLD, DIM, RED, YELLOW, GREEN, BLUE, OFF = "\x02", "\x0f", "\x05", "\x06", "\x10", "\x11", "\x04"

_CODES = {BOLD: "1", DIM: "2", RED: "31", YELLOW: "33", GREEN: "32", BLUE: "34", OFF: "0"}


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
        self.out = out or sys.stdout
        self.err = err or sys.stderr
        self.inp = inp or sys.stdin
        self.environ = os.environ if environ is None else environ
        self.folder = folder or os.curdir
        self.quiet = False
        #: What became of a change that had been interrupted, where there was one.
        self.settled: Settled | None = None
        #: What was read of the desk before, to be kept when the command has ended.
        self.parsed: Parsed | None = None
        #: Which command was chosen where several answered to a name, by application and name.
        self.chosen: dict[tuple[str, str], str] = {}
        #: How a trigger is shown: in our own way unless --keys-as says otherwise.
        self.key: Callable[[Any], str] = str
        #: The command line as it could be typed again, for the history.
        self.command_line = ""
        at_terminal = _is_terminal(self.out)
        self.interactive = (
            at_terminal and _is_terminal(self.inp) if interactive is None else interactive
        )
        if colour is None:
            plain = self.environ.get("NO_COLOR") or self.environ.get("TERM") == "dumb"
            colour = at_terminal and not plain
        self.colour = colour
        #: Columns of the terminal, or 0 where lines may be as long as they like.
        self.width = width or (_terminal_width(self.out) if at_terminal else 0)
        self._now = now

    def now(self) -> "datetime":
        """The time, with its zone."""
        from datetime import UTC, datetime

        return self._now() if self._now else datetime.now(UTC).astimezone()

    @property
    def user(self) -> str:
        for name in ("USER", "LOGNAME", "USERNAME"):
            if self.environ.get(name):
                return self.environ[name]
        return "unknown"

    def say(self, text: str = "") -> None:
        """Prints a line, or several, safe for a terminal."""
        self.out.write(self._safe(text, self.colour) + "\n")

    def report(self, text: str) -> None:
        """Prints a line about what was done, unless ``--quiet`` was given."""
        if not self.quiet:
            self.say(text)

    def warn(self, text: str) -> None:
        """Prints a line to the error stream."""
        self.out.flush()
        self.err.write(self._safe(text, False) + "\n")

    def json(self, value: Any) -> None:
        """Prints ``value`` as JSON; what a terminal might act on is written as escapes."""
        import json

        text = json.dumps(value, ensure_ascii=False, indent=2)
        self.out.write(_escaped(text) + "\n")

    def ask(self, question: str) -> str:
        """The answer to a question asked at the terminal, ``""`` at the end of input."""
        self.out.write(self._safe(question, self.colour) + " ")
        self.out.flush()
        return self.inp.readline().strip()

    def _safe(self, text: str, colour: bool) -> str:
        if text.isprintable():
            return text
        odd = {ord(char): _safe_char(char, colour) for char in set(text) if not char.isprintable()}
        return text.translate(odd)


def width_of(text: str) -> int:
    """How many columns ``text`` takes, marks left out."""
    if text.isprintable() and (text.isascii() or max(text) < "\u0300"):
        return len(text)
    import unicodedata

    return sum(
        0
        if char in _CODES or unicodedata.combining(char)
        else 2
        if unicodedata.east_asian_width(char) in "WF"
        else 1
        for char in text
    )


def _safe_char(char: str, colour: bool) -> str:
    if char in _CODES:
        return f"\x1b[{_CODES[char]}m" if colour else ""
    if char == "\n" or not _is_risky(char):
        return char
    return "\N{REPLACEMENT CHARACTER}"


def _is_risky(char: str) -> bool:
    """Whether a terminal may act on the character, or show text in another order for it."""
    import unicodedata

    return char != " " and unicodedata.category(char) in ("Cc", "Cf", "Cs", "Zl", "Zp")


def _escaped(text: str) -> str:
    """JSON in which risky characters are escapes; it has none but within its strings."""
    risky = {char for char in set(text) if char != "\n" and _is_risky(char)}
    return text.translate({ord(char): _ascii_escape(char) for char in risky}) if risky else text


def _ascii_escape(char: str) -> str:
    """The JSON escape of a character: ``\\u009b``, or two of them beyond the first plane."""
    import json

    return f"\\u{ord(char):04x}" if char == "\x7f" else json.dumps(char)[1:-1]


def _is_terminal(stream: TextIO) -> bool:
    try:
        return stream.isatty()
    except ValueError:
        return False


def _terminal_width(stream: TextIO) -> int:
    try:
        return max(os.get_terminal_size(stream.fileno()).columns or 80, 40)
    except (OSError, ValueError):
        return 80
