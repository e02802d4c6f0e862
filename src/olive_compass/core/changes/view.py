"""What actions and findings look at: an application with its macros, among the others of the desk."""

from collections.abc import Mapping
from functools import cached_property
from types import MappingProxyType
from typing import TYPE_CHECKING

from olive_compass.core.effort.weights import Weights
from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.view import View
from olive_compass.core.usage.summing import NOTHING, Usage

if TYPE_CHECKING:
    from olive_compass.core.macros.macro import Macro
    from olive_compass.core.sharing.cross_app import Across
    from olive_compass.core.usage.looking import Used


class AppView(View):
    """A stack on a keyboard; its macros by name; what presses mean in all applications, where the
    desk has purposes."""

    across: "Across | None"
    #: What was counted of the application.
    usage: Usage = NOTHING

    def __init__(
        self,
        stack: Stack,
        keyboard: Keyboard,
        weights: Weights | None = None,
        macros: "Mapping[str, Macro]" = MappingProxyType({}),
        hand: str = "left",
        across: "Across | None" = None,
    ) -> None:
        super().__init__(stack, keyboard, weights, hand, across)
        self.macros = macros

    @cached_property
    def used(self) -> "list[Used]":
        """The commands that were counted, the one used most first."""
        # Loaded here: most that looks at an application asks for no counts.
        from olive_compass.core.usage.looking import used

        return used(self.usage.tally)
