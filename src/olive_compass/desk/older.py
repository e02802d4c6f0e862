"""What older versions wrote on a desk, in the words of today: read so everywhere, and rewritten by ``desk update``."""

import re

#: Findings that were called otherwise, as the first word of what is accepted.
_FINDINGS = {
    "lasting-on-reflex": "irreversible-on-habit-key",
    "lasting-inside": "irreversible-in-macro",
    "run-begins-run": "waits-for-sequence",
    "run-too-long": "sequence-too-long",
    "off-rose": "no-such-direction",
    "hides-lower": "overrides-lower",
    "starts-itself": "macro-loop",
    "waits-unasked": "input-never-asked",
    "proxy-moved": "via-moved",
    "twin-titles": "same-title",
    "purpose-elsewhere": "purpose-on-other-key",
    "disguised-press": "same-keys",
    "swallows-typing": "blocks-typing",
    "swallows-character": "blocks-character",
    "menu-though-key": "menu-despite-key",
    "rare-on-good-key": "rare-on-easy-key",
    "two-ways-on-one-key": "press-and-hold",
    "tray-one-press": "tray-item-has-key",
    "tray-twice": "tray-duplicate",
    "tray-unopened": "tray-unreachable",
    "siblings-differ": "modes-differ",
}

#: Tables and keys that were called otherwise: the table (``""``: the top), the old name and the new one.
_KEYS: dict[str, list[tuple[str, str, str]]] = {
    "scheme": [("", "bare", "keyless")],
    "app": [
        ("", "roses", "swipes"),
        ("", "built-in", "unlisted"),
        ("", "proxies", "via"),
        ("rules", "longest-run", "longest-sequence"),
        ("rules", "typed-runs", "typed-sequences"),
        ("guessed", "longest-run", "longest-sequence"),
        ("guessed", "typed-runs", "typed-sequences"),
        ("reading", "textform", "file-format"),
    ],
    "desk": [("severities", old, new) for old, new in _FINDINGS.items()],
    "textform": [],
}

#: A file without any of these is one of today: a plain search is quicker than reading its lines.
_OLD = tuple(
    {old.encode() for keys in _KEYS.values() for _, old, _ in keys} | {b"olive-compass-textform"}
)
# Patterns are texts here, for ``re`` to compile when they are used: nearly every file is one of today.
_KIND = r'^\ufeff?(?:[ \t]*(?:#.*)?\r?\n)*[ \t]*format[ \t]*=[ \t]*"olive-compass-(\w+)/'
_HEADER = r"^([ \t]*\[[ \t]*)([\w-]+)([ \t]*(?:\.[^\]]*)?\][ \t]*(?:#.*)?\r?)$"
_LINE = r"(?s)^([ \t]*)([\w-]+)([ \t]*[.=].*)$"
_ACCEPTED = rf"^([ \t]*[\"'])({'|'.join(_FINDINGS)})(?= )"

#: The cell of a mark that stood for two, between the cells of ``does`` and ``inputs``.
_MARKS = rb"(?m)(?<=,)((?:[\w:.=+-]+ )*)lasting((?: [\w:.=+-]+)*)(?=,[^,\r\n]*\r?$)"

#: The folder of file formats, and what it was called.
FORMATS, TEXTFORMS = "fileformats", "textforms"

#: What is said of a purpose or a command that costs much by mistake, and was said of it.
RISK, OLD_RISK = "irreversible", "lasting"


def current(data: bytes) -> bytes:
    """A TOML file of ours in the words of today: the same lines, some with other names in them.

    >>> current(b'format = "olive-compass-scheme/1"\\n[bare]\\na = "why"\\n')
    b'format = "olive-compass-scheme/1"\\n[keyless]\\na = "why"\\n'
    """
    if not any(word in data for word in _OLD):
        return data
    try:
        text = data.decode()
    except UnicodeDecodeError:
        return data
    kind = re.match(_KIND, text)
    if kind is None or kind[1] not in _KEYS:
        return data
    names = {(table, old): new for table, old, new in _KEYS[kind[1]]}
    table, lines = "", []
    for line in text.split("\n"):
        if header := re.match(_HEADER, line):
            table = header[2]
            new = names.get(("", table), table)
            line = header[1] + new + header[3]
        elif table == "accept":
            line = re.sub(_ACCEPTED, lambda found: found[1] + _FINDINGS[found[2]], line)
        elif found := re.match(_LINE, line):
            line = found[1] + names.get((table, found[2]), found[2]) + found[3]
        lines.append(line)
    text = "\n".join(lines)
    if kind[1] == "textform":
        text = text.replace("olive-compass-textform/", "olive-compass-fileformat/", 1)
    return text.encode()


def current_marks(data: bytes) -> bytes:
    """A catalogue in which a mark that was one word for two things is both."""
    if b"lasting" not in data:
        return data
    return re.sub(
        _MARKS,
        lambda found: b" ".join(
            sorted([*(found[1] + found[2]).split(), b"irreversible", b"long-running"])
        ),
        data,
    )
