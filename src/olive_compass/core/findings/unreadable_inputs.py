"""A row of the catalogue whose inputs cannot be read."""

from collections.abc import Iterator
from typing import Final

from olive_compass.core.actions import CorrectColumn
from olive_compass.core.apps.app import INPUT_KINDS, Command
from olive_compass.core.findings.finding import Finding, View, catalogue_place
from olive_compass.core.severities import Severity

ID = "unreadable-inputs"
SEVERITY: Final = "error"
SAYS = "The inputs of a command cannot be read, or have no kind."
ADVICE = "Write each input as name:kind, such as at:point or ink:choice=black/blue."


def find(view: View) -> Iterator[Finding]:
    cells = {command.inputs for command in view.app.catalogue.commands if command.inputs}
    odd = {cell for cell in cells if not _is_plain(cell)}
    if not odd:
        return
    for command in view.app.catalogue.commands:
        if command.inputs not in odd:
            continue
        severity, says = _problem(command)
        if says:
            yield Finding(
                id=ID,
                severity=severity,
                app=view.app.name,
                says=f"{says}.",
                advice=CorrectColumn(app=view.app.name, column="inputs"),
                places=(catalogue_place(command.id),),
                commands=(command.id,),
            )


def _problem(command: Command) -> tuple[Severity, str]:
    """What is wrong with the inputs of a command, and how bad that is; ``""``: nothing."""
    # Loaded here: on most desks there is nothing to report.
    from olive_compass.core.macros.inputs import read_inputs

    try:
        read_inputs(command.inputs)
    except ValueError as error:
        return SEVERITY, f"The inputs of “{command.title}” cannot be read: {error}"
    for word in command.inputs.split():
        name, _, kind = word.partition(":")
        if not kind:
            return "warning", f"“{command.title}” has the input “{name}” without a kind"
    return "warning", ""


def _is_kind(kind: str) -> bool:
    """Whether it is a kind of input; a choice names what there is to choose from."""
    name, _, choices = kind.partition("=")
    if name == "choice":
        return bool(choices.strip("/"))
    return kind in INPUT_KINDS


def _is_plain(cell: str) -> bool:
    """Whether a cell can be read beyond doubt; what is left is for the reader itself."""
    names = set()
    for word in cell.split():
        name, _, kind = word.partition(":")
        if not name.isalnum() or not _is_kind(kind):
            return False
        names.add(name)
    return len(names) == len(cell.split())
