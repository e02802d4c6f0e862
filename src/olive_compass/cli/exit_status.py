"""Exit statuses that are answers: 0 and 1. What is refused ends with 2, see ``errors``."""


def found(what: object) -> int:
    """0 where there is something: rows of a table, a count above 0; 1 where nothing was found."""
    if what:
        return 0
    return 1


def failed(what: object) -> int:
    """1 where something stands in the way, such as errors or conflicts; 0 where nothing does."""
    if what:
        return 1
    return 0
