"""Whole numbers in texts of people and files."""


def parse_count(text: str) -> int:
    """The number that ``text`` is, 0 where it is none, or more than a person counts to.

    >>> parse_count("12"), parse_count("²"), parse_count("-3"), parse_count("9" * 5000)
    (12, 0, 0, 0)
    """
    # Other scripts' digits and superscripts are digits to Python, and not all of them are numbers.
    if text.isascii() and text.isdigit() and len(text) < 10:
        return int(text)
    return 0
