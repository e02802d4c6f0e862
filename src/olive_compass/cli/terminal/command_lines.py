"""Command lines of ours, as a person can paste them into a shell."""

from olive_compass import PROGRAM

_PLAIN = frozenset("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-_./+:@=,")


def line(*words: str) -> str:
    """A command line that a shell reads back as these words.

    >>> line("mute", "quillmap", "Ctrl+#", "--why", "one key off")
    "olive-compass mute quillmap 'Ctrl+#' --why 'one key off'"
    """
    return " ".join((PROGRAM, *map(quoted, words)))


def quoted(word: str) -> str:
    """A word as a shell reads it back."""
    if word == "?":
        # On the command line the sign itself reads a press.
        return "question"
    if word and _PLAIN.issuperset(word):
        return word
    return "'" + word.replace("'", "'\\''") + "'"
