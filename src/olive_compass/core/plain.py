"""Texts of others made plain: nothing that a terminal acts on, that turns text round, or breaks lines."""

#: Terminal sequences: they go as a whole, not only the escape that begins them.
_SEQUENCES = r"\x1b(?:\[[0-?]*[ -/]*[@-~]|\][^\x07\x1b]*(?:\x07|\x1b\\)?|.)?"


def is_risky(char: str) -> bool:
    """Whether a terminal may act on the character, or show text in another order for it."""
    import unicodedata

    return char != " " and unicodedata.category(char) in ("Cc", "Cf", "Cs", "Zl", "Zp")


def plain_text(text: str) -> str:
    """``text`` without terminal sequences, control and invisible formatting characters.

    Its lines stay: see ``one_line``.
    """
    if text.isprintable():
        return text
    import re

    if "\x1b" in text:
        text = re.sub(_SEQUENCES, "", text)
    text = re.sub("\r\n?|[\x85\u2028\u2029]", "\n", text)
    # Of a long text only the different characters are looked at.
    risky = [char for char in set(text) if not char.isspace() and is_risky(char)]
    return text.translate({ord(char): _in_place_of(char) for char in risky})


def _in_place_of(char: str) -> str:
    """What is put for a risky character: nothing, or the sign for a broken one."""
    if "\ud800" <= char <= "\udfff":
        return "\ufffd"
    return ""


def one_line(text: str) -> str:
    """``text`` as a title may be: plain, and on one line.

    >>> one_line("Join\\nlines\\x1b[2J"), one_line("Zoom  in")
    ('Join lines', 'Zoom  in')
    """
    if text.isprintable() or not any(map(is_risky, text)):
        return text
    return " ".join(plain_text(text).split())


def lines_of(text: str) -> list[str]:
    r"""The lines of a text as editors count them: split at line feeds, and at nothing else.

    >>> lines_of("a\u2028b\r\nc\n"), lines_of("")
    (['a\u2028b', 'c'], [])
    """
    lines = text.replace("\r\n", "\n").split("\n")
    if lines[-1]:
        return lines
    return lines[:-1]


def escaped(text: str) -> str:
    """JSON or TOML with escapes for what is risky; such a text has none but within its strings."""
    if text.isprintable():
        return text
    risky = {char for char in set(text) if char != "\n" and is_risky(char)}
    if risky:
        return text.translate({ord(char): _escape(char) for char in risky})
    return text


def _escape(char: str) -> str:
    """``\\u009b``; beyond the first plane, two of them (as JSON has it)."""
    number = ord(char)
    if number > 0xFFFF:
        number -= 0x10000
        return f"\\u{0xD800 + (number >> 10):04x}\\u{0xDC00 + (number & 0x3FF):04x}"
    return f"\\u{number:04x}"


def is_text(name: str) -> bool:
    """Whether a name that the system gave is text: one in another encoding comes with halves of characters."""
    return name.isascii() or not any("\ud800" <= char <= "\udfff" for char in name)
