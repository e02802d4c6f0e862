"""The colours of groups: the same in every picture, sheet and page of an application."""

from collections.abc import Iterable

#: A colour and its hatch.
Paint = tuple[str, str]

#: Colours of groups, told apart by colour-blind eyes (tints after Okabe and Ito), each with a hatch of
#: its own for print in black and white.
PALETTE: tuple[Paint, ...] = (
    ("#cfe3c3", ""),
    ("#f6d9a8", "...."),
    ("#c4dff2", "////"),
    ("#f0c9dc", "\\\\\\\\"),
    ("#fdf3b0", "----"),
    ("#d9d0ea", "xxxx"),
    ("#f5c6ae", "||||"),
    ("#c7e6df", "++++"),
)


def paints(groups: Iterable[str]) -> dict[str, Paint]:
    """A colour for each of the first groups, as many as there are colours."""
    return dict(zip(groups, PALETTE, strict=False))


def tints(groups: Iterable[str]) -> dict[str, str]:
    """The same without the hatches, for what is seen on a screen."""
    return {group: tint for group, (tint, _) in paints(groups).items()}
