"""What is found of an application, or only what is new above another stack of schemes."""

from collections.abc import Mapping

from olive_compass.core.findings import Finding, View, all_findings
from olive_compass.core.schemes.claims import Stack
from olive_compass.core.schemes.decisions import Scheme
from olive_compass.core.schemes.layers import FACTORY
from olive_compass.core.severities import Setting
from olive_compass.structs import replace


def check(
    view: View, severities: Mapping[str, Setting], above: Stack | None = None
) -> list[Finding]:
    """The findings, the worst first; with ``above`` only those that this other stack does not have.

    Two findings are the same if their kind and their sentence are the same: the sentence names keys and commands.
    """
    found = list(all_findings(view, severities))
    if above is None:
        return found
    old = View(above, view.keyboard, view.weights, view.macros, view.hand, view.across)
    known = {(each.id, each.says) for each in all_findings(old, severities)}
    return [each for each in found if (each.id, each.says) not in known]


def stack_of(stack: Stack, name: str, others: Mapping[str, Scheme]) -> Stack | None:
    """The stack that a name means: the factory keys alone, a scheme of the stack with what lies below it, or one of the
    ``others`` in the place of those of its layer; None: there is none of that name."""
    if name == FACTORY:
        return replace(stack, schemes=())
    if name in stack.scheme_names:
        return stack.down_from(name)
    if name in others:
        return stack.going_by(others[name])
    return None
