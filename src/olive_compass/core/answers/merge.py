"""What is wrong with the keys of a merged scheme that is wrong on neither side alone."""

from olive_compass.core.findings import View, all_findings, guarded_key, same_press
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.schemes.claims import Stack, in_layer_order
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.structs import replace

#: The findings that two sides make together: one press for two commands, and a guard that no longer holds.
MADE_TOGETHER = (same_press.ID, guarded_key.ID)


def wrong_together(
    stack: Stack, keyboard: Keyboard, ours: Scheme, theirs: Scheme, merged: Scheme
) -> list[str]:
    """What the merged scheme has wrong, in sentences, sorted; ``stack`` has the schemes that count beside it."""
    sides = [_wrong(stack, keyboard, each) for each in (ours, theirs)]
    return sorted(_wrong(stack, keyboard, merged) - sides[0] - sides[1])


def _wrong(stack: Stack, keyboard: Keyboard, scheme: Scheme) -> set[str]:
    others = [each for each in stack.schemes if each.name != scheme.name]
    view = View(replace(stack, schemes=in_layer_order([scheme, *others])), keyboard)
    return {each.says for each in all_findings(view) if each.id in MADE_TOGETHER}
