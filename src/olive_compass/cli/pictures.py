"""What all commands that draw a picture do alike: ask for a file, name what no font has, write it."""

from collections.abc import Callable, Iterable
from typing import Any

from olive_compass.cli.new_file import claimed, put_new
from olive_compass.cli.surroundings import Surroundings
from olive_compass.errors import Refused

FORMS = ("png", "svg", "pdf")


def asked_for(args: Any, around: Surroundings) -> None:
    """Raises ``Refused`` where ``--as`` and ``--out`` do not say a picture that can be written."""
    if args.json:
        raise Refused("A picture is not JSON.", hint="Say --json or --as, not both.")
    if args.form not in FORMS or not args.out:
        raise Refused(
            "A picture goes into a file.", hint="Name one: --out picture.png, or .svg, or .pdf."
        )
    claimed(around, args.out)


def put(args: Any, around: Surroundings, texts: Iterable[str], draw: Callable[[], bytes]) -> None:
    """Draws it and writes it into the file of ``--out``, and says so; ``texts`` is all that is on it."""
    from olive_compass.drawing.lettering import families, named_letters

    if lacking := families(texts)[1]:
        around.warn(
            f"olive-compass: {args.out}: No font on this machine has {named_letters(lacking)}; they "
            "are drawn as boxes. Install a font that has them, and draw it again."
        )
    put_new(args, around, draw())
