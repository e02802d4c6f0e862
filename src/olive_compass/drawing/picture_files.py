"""What all pictures share: their letters, and the file that they become."""

import io
import logging
import warnings
from collections.abc import Iterable
from typing import Any

from olive_compass.drawing.text_metrics import families

#: The line of edges and of quiet words.
QUIET = "#5d6255"

#: The colour of letters.
INK = "#1d2019"


def prepare(texts: Iterable[str]) -> None:
    """Chooses the fonts that have the letters of ``texts``; call it before the figure is made."""
    import matplotlib

    # The same picture is the same bytes: ids that do not change.
    matplotlib.rcParams["svg.hashsalt"] = "olive-compass"
    # A title is never a formula.
    matplotlib.rcParams["text.parse_math"] = False
    matplotlib.rcParams["font.family"] = families(texts)[0]
    # What no font has is said by the caller, once, in words of its own; a font that has no bold letters
    # is drawn with those that it has.
    logging.getLogger("matplotlib.font_manager").setLevel(logging.ERROR)
    warnings.filterwarnings("ignore", message="Glyph .* missing from")


def saved(figure: Any, form: str) -> bytes:
    """The figure as ``png``, ``svg`` or ``pdf``, without a date."""
    about: dict[str, Any] = {"png": {}, "svg": {"Date": None}, "pdf": {"CreationDate": None}}
    out = io.BytesIO()
    figure.savefig(out, format=form, metadata=about[form], facecolor="white")
    return out.getvalue()
