"""What the answers and the findings look at: applications with the schemes that count, macros, purposes, counts."""

from collections.abc import Container, Mapping
from typing import TYPE_CHECKING

from olive_compass.core.keys.keyboards import Keyboard
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.deciding import Keymap
from olive_compass.core.schemes.layers import PROJECT
from olive_compass.desk.desk import Desk
from olive_compass.structs import replace

if TYPE_CHECKING:
    from olive_compass.core.changes.view import AppView
    from olive_compass.core.findings import View
    from olive_compass.core.sharing.cross_app import Across


def views_of(desk: Desk, stacks: list[Stack], keyboard: Keyboard) -> "list[View]":
    """What the findings look at, application by application."""
    # Loaded here: most commands look for no findings.
    from olive_compass.core.findings import View

    weights = desk.settings.weights
    hand = desk.settings.hand
    views = [View(stack, keyboard, weights, desk.macros(stack.app.name), hand) for stack in stacks]
    others = across(desk, {view.app.name: view.keymap for view in views}, keyboard)
    for view in views:
        view.across = others
    if desk.tally_names():
        # Loaded here: most desks have counted nothing yet.
        from olive_compass.core.usage.summing import NOTHING
        from olive_compass.desk.tallies import usage_by_app

        counted = usage_by_app(desk)
        for view in views:
            view.usage = counted.get(view.app.name, NOTHING)
    return views


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


def restricted(stack: Stack, layer: str | None) -> Stack:
    """The stack as it is, or with the factory keys alone where ``--only factory`` was said."""
    if layer:
        return replace(stack, schemes=())
    return stack


def app_view(desk: Desk, name: str, layer: str | None = None) -> "AppView":
    """What actions look at: the application of that name with the schemes that count for it, or the
    factory keys alone (``layer``)."""
    from olive_compass.core.changes.view import AppView

    settings = desk.settings
    macros = desk.macros(name)
    return AppView(
        restricted(desk.stack(name), layer), desk.keyboard, settings.weights, macros, settings.hand
    )


def judging_view(desk: Desk, name: str, layer: str | None = None) -> "AppView":
    """The same, with what presses mean in the other applications, where the desk has purposes."""
    found = app_view(desk, name, layer)
    here = {name: found.keymap}
    found.across = across(desk, here, desk.keyboard, altered=(name,) if layer else ())
    return found


def keymaps_of_apps(desk: Desk, named: list[str] | None = None) -> list[Keymap]:
    """The keys of the named applications, or of all."""
    if named:
        apps = [desk.app_name(name) for name in named]
    else:
        apps = desk.app_names()
    if not apps:
        desk.app_name("")
    return [Keymap(desk.stack(name), desk.keyboard) for name in apps]


def schemes_active_in(desk: Desk, project: str) -> list[str]:
    """The schemes of projects that count while this one is worked on."""
    return [
        f"{app}/{scheme.name}"
        for app in desk.app_names()
        for scheme in (desk.scheme(desk.app(app), each) for each in desk.stack_names(app))
        # A project's scheme without a project's name counts in all of them.
        if scheme.layer == PROJECT and scheme.project in ("", project)
    ]


def schemes_with_device(desk: Desk, device: str) -> list[str]:
    """The schemes in which something has a control of the device."""
    return [
        f"{app}/{name}"
        for app in desk.app_names()
        for name in desk.scheme_names(app)
        if any(
            stroke.key.startswith(f"{device}:")
            for lines in desk.scheme(desk.app(app), name).assign.values()
            for each in lines
            for run in each.keys
            for stroke in run.strokes
        )
    ]
