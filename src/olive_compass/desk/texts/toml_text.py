"""Reads our TOML files: every mistake at once, each with its line; and finds lines again."""

import re
from collections.abc import Mapping, Sequence
from typing import Any

import tomli

from olive_compass.core.plain import lines_of
from olive_compass.desk.older import current
from olive_compass.desk.storage.plain_file import text_of as unmarked
from olive_compass.desk.storage.plain_file import utf8_of
from olive_compass.desk.texts.schemas import Mistake, Path
from olive_compass.errors import UserError

# Patterns as text: they are compiled when a line is looked for, not at every start.
_KEY = r"""\s*("(?:[^"\\]|\\.)*"|'[^']*'|[A-Za-z0-9_-]+)\s*="""
#: The signs of a key that needs no quotation marks.
_BARE = frozenset("ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_")
_TOKENS = r'''"""|\'{3}|"(?:[^"\\]|\\.)*"|'[^']*'|[#\[\]{}]'''


#: The most parts that a dotted name may have.
MOST_PARTS = 100

#: How many mistakes of a file are said beside the first.
MOST_MORE = 6


def load(data: bytes, file: str, format_name: str) -> dict[str, Any]:
    """The content of a TOML file of ours.

    Raises ``UserError`` where it is no TOML, or not of the format ``format_name``.
    """
    data = current(data)
    content = parsed(data, file)
    if _may_be_odd(data):
        content = {key: _plain(value, key) for key, value in content.items()}
    stated = content.get("format")
    if stated != format_name:
        kind, _, version = format_name.partition("/")
        if isinstance(stated, str) and stated.startswith(kind + "/"):
            says = f"This file is of the format {stated}; this program reads version {version}."
        else:
            says = f'The file does not begin with format = "{format_name}".'
        raise UserError(says, file=file, line=1)
    return content


#: Keys whose texts have lines: drawings of keyboards, what a person typed as an input, and the parts
#: of a file format.
_OF_LINES = frozenset(
    [
        "rows",
        "keys",
        "inputs",
        "pattern",
        "section",
        "entry",
        "between",
        "new-section",
        "section-end",
        "each",
        "join",
        "escapes",
        "none",
        "off",
        "off-pattern",
        "spelling",
    ]
)


def _may_be_odd(data: bytes) -> bool:
    """Whether a text of the file may have what ``_plain`` takes out: mostly a look is enough."""
    text = unmarked(data).replace("\r\n", "").replace("\n", "")
    return not text.isprintable() or "\\" in text or '"""' in text or "'''" in text


def _plain(value: Any, key: str = "") -> Any:
    """What a file says with every text on one line, and free of what a terminal acts on."""
    if isinstance(value, str):
        from olive_compass.core.plain import one_line, plain_text

        if key in _OF_LINES:
            return plain_text(value)
        return one_line(value)
    if isinstance(value, list):
        return [_plain(each, key) for each in value]
    if isinstance(value, dict):
        inner = ""
        if key in _OF_LINES:
            inner = key
        return {name: _plain(each, inner or name) for name, each in value.items()}
    return value


def parsed(data: bytes, file: str) -> dict[str, Any]:
    """The content of a TOML file of whatever format. Raises ``UserError`` where it is no TOML."""
    from olive_compass.desk.texts.csv_text import refuse_markers

    text = utf8_of(data, file).replace("\r\n", "\n")
    try:
        _refuse_long_names(text, file)
        return tomli.loads(text)
    except tomli.TOMLDecodeError as error:
        refuse_markers(text, file)
        line = min(error.lineno, len(lines_of(text)))
        raise UserError(f"This is not TOML: {error.msg}.", file=file, line=line) from error
    except RecursionError as error:
        raise UserError("This TOML is nested too deeply.", file=file) from error
    except ValueError as error:
        raise UserError("This TOML has a number of too many digits.", file=file) from error


def _refuse_long_names(text: str, file: str) -> None:
    """Refuses a name of very many parts: the time that a parser takes for it grows as their square."""
    long = [(n, line) for n, line in enumerate(lines_of(text), 1) if line.count(".") >= MOST_PARTS]
    if not long:
        return

    part = r"""(?:[\w-]{1,80}|"[^"\\]{0,80}"|'[^']{0,80}')[ \t]*"""
    for number, line in long:
        if re.search(rf"(?:{part}\.[ \t]*){{{MOST_PARTS}}}", line):
            says = f"A name has more than {MOST_PARTS} parts."
            raise UserError(f"This is not TOML of ours: {says}", file=file, line=number)


def refuse(mistakes: Sequence[Mistake], data: bytes, file: str) -> None:
    """Raises ``UserError`` with all mistakes of a file, each with its line, if there are any."""
    if not mistakes:
        return
    lines = key_lines(unmarked(data))
    (line, first), *rest = sorted((_line_at(lines, each.path), each.says) for each in mistakes)
    more = "".join(f" Line {number}: {says}" for number, says in rest[:MOST_MORE])
    left = len(rest) - MOST_MORE
    raise UserError(first + more + (f" And {left} more." if left > 0 else ""), file=file, line=line)


def _line_at(lines: Mapping[tuple[str, str], int], path: Path) -> int:
    """The line of what is at a place of the file, or of the nearest table or key around it."""
    names = list(map(str, path))
    for end in range(len(names), 0, -1):
        key, table = (".".join(names[: end - 1]), names[end - 1]), (".".join(names[:end]), "")
        if key in lines or table in lines:
            return lines.get(key) or lines[table]
    return 1


def quoted(text: str) -> str:
    """``text`` as a TOML string."""
    if text.isprintable():
        # Only these two need a backslash then, and nothing has to be loaded for them.
        plain = text.replace("\\", "\\\\").replace('"', '\\"')
        return f'"{plain}"'
    import json

    from olive_compass.core.plain import escaped, is_risky

    signs = []
    for char in text.encode("utf-16", "surrogatepass").decode("utf-16", "replace"):
        # TOML has no halves of characters, which JSON writes for those beyond the first plane.
        beyond = char > "\uffff" and is_risky(char)
        plain = escaped(json.dumps(char, ensure_ascii=False)[1:-1])
        signs.append(f"\\U{ord(char):08x}" if beyond else plain)
    return '"' + "".join(signs) + '"'


def line_end(text: str) -> str:
    """What ends the lines of a file."""
    if "\r\n" in text:
        return "\r\n"
    return "\n"


def key_lines(text: str) -> dict[tuple[str, str], int]:
    """The line of each key, by table and key; the table's own line has the key ``""``.

    >>> key_lines('a = 1\\n[t]\\n"x.y" = 2\\n[[s]]\\n')
    {('', 'a'): 1, ('t', ''): 2, ('t', 'x.y'): 3, ('s.0', ''): 4}
    """

    found: dict[tuple[str, str], int] = {}
    table, depth, quote = "", 0, ""
    counts: dict[str, int] = {}
    for number, line in enumerate(lines_of(text), 1):
        if not quote and depth == 0:
            first = line.lstrip()[:1]
            if first == "[":
                table = _table_name(line, counts)
                found.setdefault((table, ""), number)
                continue
            plain = []
            if first == '"' and "\\" not in line:
                plain = line.split('"', 2)
            if len(plain) == 3 and plain[2].startswith(" = "):
                # The way in which we write a key, told without a pattern.
                found.setdefault((table, plain[1]), number)
                line = plain[2]
            elif (bare := line.partition("="))[1] and _BARE.issuperset(bare[0].strip() or "="):
                found.setdefault((table, bare[0].strip()), number)
                line = bare[2]
            elif first not in "#" and (match := re.match(_KEY, line)):
                found.setdefault((table, _unquoted(match[1])), number)
                line = line[match.end() :]
        depth, quote = _open_after(line, depth, quote)
    return found


def _table_name(line: str, counts: dict[str, int]) -> str:
    """The table of a head; one of several of a name with its number, as is what lies inside it."""
    head = line.strip()
    name = head.lstrip("[").split("]")[0].strip().strip("\"'")
    if head.startswith("[["):
        counts[name] = counts.get(name, -1) + 1
        return f"{name}.{counts[name]}"
    outer, dot, inner = name.partition(".")
    if outer in counts:
        return f"{outer}.{counts[outer]}{dot}{inner}"
    return name


def _open_after(line: str, depth: int, quote: str) -> tuple[int, str]:
    """How many brackets, and which long quote, are open after ``line``."""
    if not quote and '"""' not in line and "'''" not in line:
        opened = line.count("[") + line.count("{")
        # Where all that is opened is closed, it does not matter what stands in quotes.
        if opened == line.count("]") + line.count("}") and (not opened or "#" not in line):
            return depth, ""

    at = 0
    while True:
        if quote:
            end = line.find(quote, at)
            if end < 0:
                return depth, quote
            at, quote = end + 3, ""
        for token in re.compile(_TOKENS).finditer(line, at):
            sign = token[0]
            if sign == "#":
                return max(depth, 0), ""
            if sign in ('"""', "'''"):
                at, quote = token.end(), sign
                break
            depth += (sign in "[{") - (sign in "]}")
        else:
            return max(depth, 0), ""


def _unquoted(key: str) -> str:
    if key[0] == "'":
        return key[1:-1]
    if key[0] == '"' and "\\" not in key:
        return key[1:-1]
    if key[0] == '"':
        return str(tomli.loads(f"k = {key}")["k"])
    return key


def flat(content: dict[str, Any], before: str = "") -> dict[str, Any]:
    """A table of tables as one: TOML reads ``2.at = "1,2"`` as a table of its own."""
    found: dict[str, Any] = {}
    for name, value in content.items():
        if isinstance(value, dict):
            found.update(flat(value, f"{before}{name}."))
        else:
            found[f"{before}{name}"] = value
    return found
