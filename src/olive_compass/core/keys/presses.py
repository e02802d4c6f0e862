"""When two triggers are the same press."""

from olive_compass.core.keys.triggers import Run, Stroke, stroke

#: A run as the machine meets it: comparable, and cut short it gives the beginning of a run.
Press = tuple[Stroke, ...]

#: The main modifier of each platform.
MAIN = {"pc": "Ctrl", "mac": "Meta"}


def press_of(run: Run, platform: str) -> Press:
    """What the machine meets when ``run`` is typed: ``Main`` stands for the platform's own."""
    for each in run.strokes:
        # ``Main`` is written first, so one look at the first modifier is enough.
        if each.modifiers and each.modifiers[0] == "Main":
            return tuple(_resolved(each, platform) for each in run.strokes)
    return run.strokes


def _resolved(given: Stroke, platform: str) -> Stroke:
    held = [MAIN[platform] if name == "Main" else name for name in given.modifiers]
    return stroke(given.key, *held, by_place=given.by_place)
