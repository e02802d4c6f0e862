"""Small turns of phrase that sentences share."""


def counted(number: int, thing: str) -> str:
    """A number of things, in the singular where there is one.

    >>> counted(1, "step"), counted(3, "step")
    ('1 step', '3 steps')
    """
    return f"{number} {thing}" if number == 1 else f"{number} {thing}s"
