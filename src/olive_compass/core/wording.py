"""Small turns of phrase that sentences share."""


def counted(number: int, thing: str) -> str:
    """A number of things, in the singular where there is one.

    >>> counted(1, "step"), counted(3, "step")
    ('1 step', '3 steps')
    """
    return f"{number} {thing}" if number == 1 else f"{number} {thing}s"


def capital(text: object) -> str:
    """A text, such as that of an error, with a capital at its beginning.

    >>> capital(ValueError("answer yes or no")), capital("")
    ('Answer yes or no', '')
    """
    plain = str(text)
    return plain[:1].upper() + plain[1:]
