"""How bad a finding is."""

from typing import Literal, get_args

#: The severities, the worst first.
Severity = Literal["error", "warning", "note"]
SEVERITIES: tuple[Severity, ...] = get_args(Severity)
