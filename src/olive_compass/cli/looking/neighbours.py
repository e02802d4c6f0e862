"""What presses mean in the other applications of a desk, where it has purposes."""

from collections.abc import Container, Mapping
from typing import TYPE_CHECKING

from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.desk.desk import Desk

if TYPE_CHECKING:
    from olive_compass.core.sharing.cross_app import Across


def across(
    desk: Desk, here: Mapping[str, Keymap], keyboard: Keyboard, altered: Container[str] = ()
) -> "Across | None":
    """The meanings of presses in all applications, None where no command serves a purpose.

    ``here`` are the keymaps that there are already; those of ``altered`` applications are not as the
    desk has them.
    """
    if not any(purpose.links for purpose in desk.purposes.all):
        return None
    # Loaded here: without purposes there is nothing to compare.
    from olive_compass.core.sharing.cross_app import Across, Keymaps

    def keymap(name: str) -> Keymap:
        if name in here:
            return here[name]
        return Keymap(desk.stack(name), keyboard)

    memory = None
    if desk.cache and keyboard is desk.keyboard:
        from olive_compass.desk.storage.neighbour_cache import Memory

        memory = Memory(desk.kept, altered)
    # Always in the same order: what is said of one is not to change with what else is asked.
    return Across(Keymaps(sorted({*desk.app_names(), *here}), keymap), desk.purposes, memory)
