"""Small letters and capitals, where the other one is a single character as well: ß and its capital SS are not."""


def small(char: str) -> str:
    """The small letter of a capital.

    >>> small("Ä"), small("1"), small("\u0130")
    ('ä', '1', '\u0130')
    """
    if len(char.lower()) == 1:
        return char.lower()
    return char


def capital(char: str) -> str:
    """The capital of a small letter.

    >>> capital("ä"), capital("ß")
    ('Ä', 'ß')
    """
    if len(char.upper()) == 1:
        return char.upper()
    return char
