"""What all commands that draw a picture do alike: ask for a file, and name what no font has."""

from collections.abc import Callable, Iterable

from olive_compass.cli.output.new_file import Into, claimed
from olive_compass.cli.surroundings import Surroundings
from olive_compass.errors import UserError

FORMS = ("png", "svg", "pdf")


def asked_for(into: Into, as_json: bool, context: Surroundings) -> None:
    """Raises ``UserError`` where ``--as`` and ``--out`` do not say a picture that can be written."""
    if as_json:
        raise UserError("A picture is not JSON.", hint="Use --json or --as, not both.")
    if into.form not in FORMS or not into.out:
        raise UserError(
            "A picture goes into a file.", hint="Name one: --out picture.png, or .svg, or .pdf."
        )
    claimed(context, into.out)


def speller(out: str, context: Surroundings, texts: Iterable[str]) -> Callable[[str], str]:
    """How each of ``texts`` is drawn; says which letters no font has."""
    from olive_compass.drawing.text_metrics import families, named_letters, spelt_out

    lacking = families(texts)[1]
    if lacking:
        context.warn(
            f"olive-compass: {out}: No font on this machine has {named_letters(lacking)}; their "
            "code points are shown instead. Install a font that has them, and draw it again."
        )
    return lambda text: spelt_out(text, lacking) if lacking else text
