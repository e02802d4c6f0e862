"""Our own HTML pages: templates of this folder, every text escaped."""

from typing import Any


def page(template: str, **values: Any) -> str:
    """The page that a template of ``templates/`` makes of ``values``."""
    from jinja2 import Environment, PackageLoader, select_autoescape

    loader = PackageLoader("olive_compass.drawing", "templates")
    environment = Environment(
        loader=loader, autoescape=select_autoescape(["html"]), trim_blocks=True, lstrip_blocks=True
    )
    environment.filters["strokes"] = strokes
    return environment.get_template(template).render(**values) + "\n"


def strokes(key: str) -> list[list[str]]:
    """A trigger as strokes of single keys, for one ``<kbd>`` each.

    >>> strokes("Ctrl+Shift+B"), strokes("G D"), strokes("Ctrl++")
    ([['Ctrl', 'Shift', 'B']], [['G'], ['D']], [['Ctrl', '+']])
    """
    found = []
    for stroke in key.split(" "):
        *held, last = (
            stroke.split("+") if not stroke.endswith("+") else (*stroke[:-2].split("+"), "+")
        )
        if stroke.endswith("Num+"):
            held, last = [part for part in stroke[:-4].split("+") if part], "Num+"
        found.append([part for part in (*held, last) if part])
    return found
