"""Swipes: a drag in a direction, given as a compass bearing (``swipe:NE``, ``swipe:030``)."""

from collections.abc import Iterator

from olive_compass.core.keys.kinds.kind import Broken, Kind, StrokeQuery, UnreadableError
from olive_compass.core.keys.roses import bearing_name, bearings, nearest, read_bearing
from olive_compass.core.keys.triggers import Run, Stroke

PREFIX = "swipe:"


class Swipe(Kind):
    name = "swipe"
    plural = "swipes"
    prefix = PREFIX

    def read(self, text: str) -> str:
        bearing = read_bearing(text)
        if bearing is None:
            raise UnreadableError(f"“{text}” is no direction (N, NE, 045 and so on)")
        return PREFIX + bearing_name(bearing)

    def broken(self, query: StrokeQuery) -> Iterator[Broken]:
        bearing = bearing_of(query.stroke)
        if bearing is None:
            return
        for mode in query.modes:
            size = query.rose(mode)
            if not size:
                where = ""
                if mode != "everywhere":
                    where = f" in {mode}"
                yield Broken(rule="swipes", why=f"it takes no swipes{where}", mode=mode)
            elif bearing not in bearings(size):
                name = bearing_name(bearing or 0)
                near = tuple(PREFIX + bearing_name(each) for each in nearest(bearing or 0, size))
                yield Broken(
                    rule="swipes",
                    why=f"its swipes in {mode} have {size} directions, and no {name}",
                    mode=mode,
                    nearest=near,
                )


def bearing_of(stroke: Stroke) -> int | None:
    """The bearing of a swipe in degrees, None for what is no swipe."""
    if stroke.key.startswith(PREFIX):
        return read_bearing(stroke.key[len(PREFIX) :])
    return None


def swipe(bearing: int) -> Run:
    """The trigger of a bearing in degrees."""
    return Run((Stroke((), PREFIX + bearing_name(bearing)),))


KIND = Swipe()
