"""Pages as a PDF: the one place that knows how it is written."""

import io
import math
from collections.abc import Sequence
from typing import Any

from olive_compass.drawing.faces import Faces
from olive_compass.drawing.pages import BASELINE, Arrow, Cap, Page, Words

TONES = {
    "ink": (0.137, 0.153, 0.122),
    "soft": (0.36, 0.385, 0.333),
    "accent": (0.302, 0.365, 0.141),
    "line": (0.80, 0.815, 0.75),
    "key": (0.955, 0.955, 0.92),
    "edge": (0.66, 0.69, 0.60),
}


def as_pdf(leaves: Sequence[Page], faces: Faces, title: str, listing: str = "") -> bytes:
    """The pages as one PDF that holds its fonts, the same bytes each time; ``listing`` is what can be read back
    from it, as a table of text."""
    from reportlab import rl_config
    from reportlab.pdfgen.canvas import Canvas

    # Files of bytes need no letters for them: that takes a third of the time and a quarter of the room.
    rl_config.useA85 = 0
    out = io.BytesIO()
    canvas = Canvas(out, invariant=1, pageCompression=1)
    canvas.setTitle(title)
    canvas.setCreator("Olive Compass")
    if listing:
        canvas.setKeywords(listing)
    for leaf in leaves:
        canvas.setPageSize((leaf.width, leaf.height))
        _draw(canvas, leaf, faces)
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def _draw(canvas: Any, leaf: Page, faces: Faces) -> None:
    top = leaf.height
    canvas.setLineWidth(0.5)
    for rule in leaf.rules:
        canvas.setStrokeColorRGB(*TONES[rule.tone])
        canvas.line(rule.x, top - rule.y, rule.x + rule.width, top - rule.y)
    for cap in leaf.caps:
        _cap(canvas, cap, top)
    for arrow in leaf.arrows:
        _arrow(canvas, arrow, top)
    lettered = [cap.words for cap in leaf.caps if cap.words]
    tone = ""
    for words in (*leaf.words, *lettered):
        if words.tone != tone:
            tone = words.tone
            canvas.setFillColorRGB(*TONES[tone])
        _write(canvas, words, top, faces)


def _cap(canvas: Any, cap: Cap, top: float) -> None:
    """A key. Those of one size are one form of the document: there are thousands of them, and few sizes."""
    width, height = round(cap.width, 2), round(cap.height, 2)
    kind = cap.tint.lstrip("#") or ("mark" if cap.mark else "key")
    name = f"{kind}-{width}-{height}"
    if not canvas.hasForm(name):
        # A line is as wide outside its path as inside.
        canvas.beginForm(name, -1, -1, width + 1, height + 1)
        _draw_cap(canvas, cap, width, height)
        canvas.endForm()
    canvas.saveState()
    canvas.translate(cap.x, top - cap.y - cap.height)
    canvas.doForm(name)
    canvas.restoreState()


def _draw_cap(canvas: Any, cap: Cap, width: float, height: float) -> None:
    canvas.setStrokeColorRGB(*TONES["soft" if cap.mark else "edge"])
    if cap.tint:
        canvas.setFillColor(cap.tint)
    else:
        canvas.setFillColorRGB(*(1, 1, 1) if cap.mark else TONES["key"])
    canvas.setLineWidth(0.4 if cap.mark else 0.6)
    radius = height * (0.5 if cap.mark else 0.2)
    canvas.roundRect(0, 0, width, height, radius, 1, 1)


def _arrow(canvas: Any, arrow: Arrow, top: float) -> None:
    """A shaft and a head, from the middle of its square both ways."""
    angle = math.radians(90 - arrow.bearing)
    x, y = arrow.x + arrow.size / 2, top - arrow.y - arrow.size / 2
    far = arrow.size * 0.46
    dx, dy = math.cos(angle) * far, math.sin(angle) * far
    canvas.setStrokeColorRGB(*TONES["ink"])
    canvas.setLineWidth(max(arrow.size * 0.1, 0.5))
    canvas.line(x - dx, y - dy, x + dx, y + dy)
    path = canvas.beginPath()
    path.moveTo(x + dx, y + dy)
    for turn in (150, -150):
        side = angle + math.radians(turn)
        reach = arrow.size * 0.4
        path.lineTo(x + dx + math.cos(side) * reach, y + dy + math.sin(side) * reach)
    path.close()
    canvas.setFillColorRGB(*TONES["ink"])
    canvas.drawPath(path, stroke=0, fill=1)


def _write(canvas: Any, words: Words, top: float, faces: Faces) -> None:
    text = canvas.beginText(words.x, top - words.y - BASELINE * words.size)
    for font, part in faces.parts(words.line, words.bold):
        text.setFont(font, words.size)
        text.textOut(part)
    canvas.drawText(text)
