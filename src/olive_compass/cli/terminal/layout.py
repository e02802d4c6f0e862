"""How text is laid out at a terminal: marks, what width it takes, and how it is broken into lines."""

from olive_compass import PROGRAM

#: Marks within texts that turn into colours at a terminal and into nothing elsewhere.
BOLD, DIM, RED, YELLOW, GREEN, BLUE, OFF = "\x02", "\x0f", "\x05", "\x06", "\x10", "\x11", "\x04"

#: The yellow of most terminals cannot be read on white; this brown can be read on both.
_BROWN = "38;5;130"

CODES = {BOLD: "1", DIM: "2", RED: "31", YELLOW: _BROWN, GREEN: "32", BLUE: "34", OFF: "0"}


def width_of(text: str) -> int:
    """How many columns ``text`` takes, marks left out."""
    if text.isprintable() and (text.isascii() or max(text) < "\u0300"):
        return len(text)
    import unicodedata

    return sum(
        0
        if char in CODES or unicodedata.combining(char)
        else 2
        if unicodedata.east_asian_width(char) in "WF"
        else 1
        for char in text
    )


def wrapped(text: str, width: int) -> list[str]:
    """The lines of ``text`` within ``width`` columns (0: any number), split at spaces where that is possible."""
    lines: list[str] = []
    for paragraph in text.split("\n"):
        if not width or width_of(paragraph) <= width:
            lines.append(paragraph)
            continue
        line = ""
        for word in paragraph.split(" "):
            while width_of(word) > width:
                if line:
                    lines.append(line)
                    line = ""
                lines.append(word[:width])
                word = word[width:]
            if line and width_of(line) + 1 + width_of(word) > width:
                lines.append(line)
                line = word
            else:
                if line:
                    line = f"{line} {word}"
                else:
                    line = word
        lines.append(line)
    return lines


def within(text: str, width: int) -> str:
    """A text within ``width`` columns, each line that is split going on below its beginning; a command line stays
    whole.

    >>> print(within("  or: nothing of that, olive-compass find --unassigned --app quillmap", 30))
      or: nothing of that,
        olive-compass find --unassigned --app quillmap
    >>> within(" " * 50, 30)
    ''
    """
    lines = []
    for line in text.split("\n"):
        if width_of(line.rstrip(" ")) <= width:
            lines.append(line.rstrip(" "))
            continue
        plain = line.lstrip(" ")
        left = " " * (len(line) - len(plain))
        said, program, rest = plain.partition(f"{PROGRAM} ")
        found = []
        if said.strip():
            found = wrapped(said.rstrip(" "), max(width - len(left) - 2, 20))
        if program and found and width_of(f"{left}  {found[-1]} {program}{rest}") <= width:
            found[-1] += f" {program}{rest}"
        elif program:
            found.append(program + rest)
        lines += [left + found[0], *(f"{left}  {each}" for each in found[1:])]
    return "\n".join(lines)
